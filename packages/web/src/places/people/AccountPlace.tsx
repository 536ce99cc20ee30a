import { NOTICE_KINDS, type PersonView, type TokenSecret } from "@alvek/contract";
import type { Issue } from "@alvek/core/result";
import { Plus } from "lucide-react";
import { type FormEvent, useState } from "react";
import { newId } from "../../api/client";
import { sentences, useMe, useRoute } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { HistoryLine } from "../../shared/History";
import { showToast } from "../../stores/toasts";
import { signOut } from "../../ui/AccountMenu";
import { copyText } from "../../ui/copy";
import { Dialog } from "../../ui/Dialog";
import { Field, FormDialog } from "../../ui/Form";
import { dayOf, momentOf, Page, Part } from "../../ui/Page";
import { OwnKeys } from "./OwnKeys";

/** What is one's own: name, password, where one is signed in, tokens for scripts. */
export function AccountPlace() {
	const me = useMe();
	if (me === null) return null;
	return (
		<Page title="Your account" says={me.login === "" ? "This account has no password." : `You sign in as ${me.login}.`}>
			<Names key={me.name} me={me} />
			{me.login !== "" && <Password />}
			<Told />
			<OwnKeys />
			<Steps />
			<Sessions />
			<Tokens />
		</Page>
	);
}

function Names({ me }: { me: PersonView }) {
	const [name, setName] = useState(me.name);
	const [initials, setInitials] = useState(me.initials);
	const changed = name.trim() !== me.name || initials.trim() !== me.initials;
	return (
		<form
			className="flex items-end gap-2.5"
			noValidate
			onSubmit={(e: FormEvent) => {
				e.preventDefault();
				void runMutation("changeMe", { name, initials }, "Saved.");
			}}
		>
			<div className="w-70">
				<Field label="Name" value={name} change={setName} autoComplete="name" />
			</div>
			<div className="w-20">
				<Field label="Initials" value={initials} change={setInitials} />
			</div>
			<button type="submit" className="btn" disabled={!changed || name.trim() === ""}>
				Save
			</button>
		</form>
	);
}

/** Kinds of notices; each can be left out. They wait behind the bell and never pop up. */
function Told() {
	const notices = useRoute("listNotices", {});
	const off = notices.data?.off ?? [];
	return (
		<Part title="What you are told of">
			<p className="caption py-1.5">Notices wait behind the bell; nothing pops up, nothing is sent.</p>
			<ul>
				{NOTICE_KINDS.map((k) => (
					<li key={k.id}>
						<label className="flex items-center gap-2 h-7">
							<input
								type="checkbox"
								className="checkbox"
								disabled={notices.data === undefined}
								checked={!off.includes(k.id)}
								onChange={(e) =>
									runMutation("changeNotices", { off: e.target.checked ? off.filter((o) => o !== k.id) : [...off, k.id] })
								}
							/>
							{k.name}
						</label>
					</li>
				))}
			</ul>
		</Part>
	);
}

/** What one did lately and can still take back, wherever it was. */
function Steps() {
	const steps = useRoute("listSteps", {});
	return (
		<Part title="Your latest steps">
			{steps.data?.length === 0 && <p className="py-2 text-ink2">Nothing that could be taken back.</p>}
			<ul aria-label="Your latest steps">
				{steps.data?.slice(0, STEPS_SHOWN).map((row) => (
					<HistoryLine key={row.seq} row={row} kind="library" />
				))}
			</ul>
		</Part>
	);
}

const STEPS_SHOWN = 8;

function Password() {
	const [oldPassword, setOld] = useState("");
	const [password, setNew] = useState("");
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const submit = async (e: FormEvent): Promise<void> => {
		e.preventDefault();
		if (
			(await runMutation(
				"changeMe",
				{ oldPassword, password },
				"The new password holds; your other sessions are ended.",
				setError,
			)) === null
		)
			return;
		setOld("");
		setNew("");
		setError(null);
	};
	return (
		<Part title="Password">
			<form onSubmit={submit} className="flex items-end gap-2.5 pt-2.5" noValidate>
				<div className="w-55">
					<Field label="Present password" value={oldPassword} change={setOld} type="password" autoComplete="current-password" />
				</div>
				<div className="w-55">
					<Field label="New password" value={password} change={setNew} type="password" autoComplete="new-password" />
				</div>
				<button type="submit" className="btn" disabled={oldPassword === "" || password === ""}>
					Change it
				</button>
			</form>
			{error !== null && (
				<p role="alert" className="text-wrong mt-1.5">
					{sentences(error)}
				</p>
			)}
		</Part>
	);
}

/** `Mozilla/5.0 (X11; Linux x86_64) ... Chrome/131` -> `Chrome on Linux`; anything else as it calls itself. */
function deviceName(agent: string): string {
	const browser = /(Firefox|Edg|Chrome|Safari)\//.exec(agent)?.[1]?.replace("Edg", "Edge");
	const system = /(Windows|Mac OS X|Android|iPhone|Linux)/.exec(agent)?.[1]?.replace("Mac OS X", "macOS");
	return browser === undefined ? agent.slice(0, 60) || "unknown" : `${browser}${system === undefined ? "" : ` on ${system}`}`;
}

function Sessions() {
	const sessions = useRoute("listSessions", {});
	return (
		<Part
			title="Signed in"
			aside={
				<button type="button" className="btn btn-small" onClick={() => signOut(true)}>
					Sign out everywhere
				</button>
			}
		>
			<ul>
				{sessions.data?.map((s) => (
					<li key={s.id} className="flex items-center min-h-9 border-b border-line2 gap-2.5">
						{deviceName(s.agent)}
						{s.here && <span className="tag tag-accent">this one</span>}
						<span className="caption ml-auto">
							since {momentOf(s.since)}, last seen {momentOf(s.seen)}
						</span>
					</li>
				))}
			</ul>
		</Part>
	);
}

function Tokens() {
	const tokens = useRoute("listTokens", {});
	const [making, setMaking] = useState(false);
	const [made, setMade] = useState<TokenSecret | null>(null);
	return (
		<Part
			title="Tokens for scripts"
			aside={
				<button type="button" className="btn btn-small" onClick={() => setMaking(true)}>
					<Plus size={14} aria-hidden /> New token
				</button>
			}
		>
			{tokens.data?.length === 0 && (
				<p className="py-2.5 text-ink2">
					A script sends one as <code>Authorization: Bearer …</code> and may then do what you may, within its scope.
				</p>
			)}
			<ul>
				{tokens.data?.map((t) => (
					<li key={t.id} className="flex items-center min-h-9 border-b border-line2 gap-2.5">
						<span className="font-semibold">{t.name}</span>
						<span className="text-ink2">{t.scope === "read" ? "reads" : "reads and writes"}</span>
						<span className="caption ml-auto">
							until {dayOf(t.expiresAt)}, {t.usedAt === null ? "never used" : `used ${dayOf(t.usedAt)}`}
						</span>
						<button
							type="button"
							className="btn btn-ghost btn-small"
							aria-label={`Remove the token ${t.name}`}
							onClick={() => runMutation("removeToken", { id: t.id }, `The token ${t.name} opens nothing any more.`)}
						>
							Remove
						</button>
					</li>
				))}
			</ul>
			{making && <NewToken close={() => setMaking(false)} made={setMade} />}
			{made && (
				<Dialog title={`The token ${made.name}`} close={() => setMade(null)}>
					<p className="mb-2">Copy it now; only its fingerprint is kept here. It works until {dayOf(made.expiresAt)}.</p>
					<input
						className="field"
						readOnly
						aria-label="Secret of the token"
						value={made.secret}
						onFocus={(e) => e.currentTarget.select()}
					/>
					<button
						type="button"
						className="btn btn-primary mt-3"
						onClick={() => {
							copyText(made.secret);
							showToast({ tone: "plain", text: "The token is copied." });
						}}
					>
						Copy the token
					</button>
				</Dialog>
			)}
		</Part>
	);
}

function NewToken({ close, made }: { close: () => void; made: (token: TokenSecret) => void }) {
	const [name, setName] = useState("");
	const [scope, setScope] = useState<"read" | "write">("read");
	const [days, setDays] = useState("90");
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const submit = async (): Promise<void> => {
		const token = await runMutation("makeToken", { id: newId(), name, scope, days: Number(days) }, null, setError);
		if (token === null) return;
		close();
		made(token);
	};
	return (
		<FormDialog title="New token" act="Make the token" ready={name.trim() !== ""} submit={submit} close={close} error={error}>
			<Field label="What it is for" value={name} change={setName} />
			<fieldset className="flex gap-4.5">
				<legend className="font-semibold mb-1">Scope</legend>
				{(["read", "write"] as const).map((s) => (
					<label key={s} className="flex items-center gap-2">
						<input type="radio" name="scope" checked={scope === s} onChange={() => setScope(s)} />
						{s === "read" ? "reads" : "reads and writes"}
					</label>
				))}
			</fieldset>
			<div className="w-30">
				<Field label="Days it holds" value={days} change={setDays} type="number" hint="at most 365" />
			</div>
		</FormDialog>
	);
}
