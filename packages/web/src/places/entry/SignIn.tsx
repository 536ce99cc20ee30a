import type { SessionView } from "@alvek/contract";
import type { Result } from "@alvek/core/result";
import { type FormEvent, type ReactNode, useState } from "react";
import { call } from "../../api/client";
import { queryClient, refreshAll, sentences, useRoute } from "../../api/queries";
import { useSignedOut } from "../../stores/session";
import { Initials } from "../../ui/AccountMenu";
import { Dialog } from "../../ui/Dialog";
import { Field } from "../../ui/Form";
import { Toasts } from "../../ui/Toasts";
import { Mark } from "../../ui/TopBar";

/** The way in, in the place of everything else; afterwards the address is what it was. */
export function SignInPage({ session }: { session: SessionView }) {
	return (
		<EntryFrame>
			<h1 className="text-2xl mb-3.5">Sign in</h1>
			{session.unset ? (
				<p className="text-ink2 leading-5">
					Nobody can sign in yet. The window in which the server was started shows a link that makes the administrator; open it
					here.
				</p>
			) : (
				<SignInForm session={session} />
			)}
		</EntryFrame>
	);
}

/** The page stays as it is behind: what was typed is not lost when a session ends. */
export function SignInAgain() {
	const session = useRoute("getSession", {});
	return (
		<Dialog title="You are signed out" close={() => undefined}>
			<p className="mb-3 text-ink2">Your session has ended. Sign in again; the page is as you left it.</p>
			{session.data && <SignInForm session={session.data} />}
		</Dialog>
	);
}

export function EntryFrame({ children }: { children: ReactNode }) {
	return (
		<main className="h-full overflow-y-auto flex justify-center bg-paper">
			<div className="w-105 max-w-[94vw] mt-[11vh] mb-10 h-fit bg-card border border-line rounded-md px-7 pt-6 pb-7">
				<p className="flex items-center gap-2 mb-5.5">
					<Mark />
					<span className="text-2xl font-extrabold tracking-[-0.03em]">alvek</span>
				</p>
				{children}
			</div>
			<Toasts />
		</main>
	);
}

/**
 * Somebody has signed in: everything is asked for anew, as the person who is here now. What somebody else could see on this
 * page before is taken away first, also where its question is refused now.
 */
export async function entered(result: Result<SessionView>): Promise<string | null> {
	if (!result.ok) return sentences(result.issues);
	const before = queryClient.getQueryData<SessionView>(["getSession", {}])?.person?.id;
	queryClient.setQueryData<SessionView>(["getSession", {}], result.value);
	useSignedOut.setState({ out: false });
	if (before !== undefined && before !== result.value.person?.id)
		await queryClient.resetQueries({ predicate: (query) => query.queryKey[0] !== "getSession" });
	await refreshAll();
	return null;
}

function SignInForm({ session }: { session: SessionView }) {
	const [login, setLogin] = useState("");
	const [password, setPassword] = useState("");
	const [error, setError] = useState<string | null>(null);
	const submit = async (e: FormEvent): Promise<void> => {
		e.preventDefault();
		setError(await entered(await call("signIn", { login, password })));
	};
	return (
		<>
			<form onSubmit={submit} className="flex flex-col gap-3" noValidate>
				<Field label="Name" value={login} change={setLogin} autoComplete="username" />
				<Field label="Password" value={password} change={setPassword} type="password" autoComplete="current-password" />
				{error !== null && (
					<p role="alert" className="text-wrong">
						{error}
					</p>
				)}
				<button type="submit" className="btn btn-primary self-start" disabled={login.trim() === "" || password === ""}>
					Sign in
				</button>
			</form>
			{session.demo.length > 0 && <DemoPeople people={session.demo} refused={setError} />}
		</>
	);
}

/** The demo's made-up people, one click each. */
function DemoPeople({ people, refused }: { people: SessionView["demo"]; refused: (text: string | null) => void }) {
	return (
		<section aria-label="People of the demo" className="mt-6">
			<h2 className="rule-head">Or look around as</h2>
			<ul>
				{people.map((p) => (
					<li key={p.id} className="border-b border-line2">
						<button
							type="button"
							className="w-full flex items-center gap-2.5 py-2 px-1 text-left hover:bg-sunk"
							onClick={async () => refused(await entered(await call("signInAs", { person: p.id })))}
						>
							<Initials name={p.name} initials={p.initials} />
							<span>
								<span className="font-semibold">{p.name}</span>
								<span className="block caption">{p.does}</span>
							</span>
						</button>
					</li>
				))}
			</ul>
		</section>
	);
}
