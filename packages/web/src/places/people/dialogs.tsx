import type { HandedOver, PersonView, TeamView, TicketLink } from "@alvek/contract";
import type { Issue } from "@alvek/core/result";
import { useState } from "react";
import { newId } from "../../api/client";
import { runMutation } from "../../api/runMutation";
import { showToast } from "../../stores/toasts";
import { copyText } from "../../ui/copy";
import { Dialog } from "../../ui/Dialog";
import { Choose, Field, FormDialog, Ticks } from "../../ui/Form";
import { dayOf } from "../../ui/Page";
import { counted } from "../../ui/words";

export function Invite({
	teams,
	close,
	made,
}: {
	teams: readonly TeamView[];
	close: () => void;
	made: (link: TicketLink, name: string) => void;
}) {
	const [name, setName] = useState("");
	const [admin, setAdmin] = useState(false);
	const [chosen, setChosen] = useState<readonly string[]>([]);
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const submit = async (): Promise<void> => {
		const link = await runMutation("invite", { name, admin, teams: [...chosen] }, null, setError);
		if (link === null) return;
		close();
		made(link, name.trim());
	};
	return (
		<FormDialog title="Invite somebody" act="Make the link" ready submit={submit} close={close} error={error}>
			<Field label="Name" value={name} change={setName} hint="Whoever opens the link can correct it." />
			{teams.length > 0 && <Ticks legend="Joins these teams" options={teams} chosen={chosen} change={setChosen} />}
			<label className="flex items-center gap-2">
				<input type="checkbox" className="checkbox" checked={admin} onChange={(e) => setAdmin(e.target.checked)} />
				an administrator: sees and changes everything
			</label>
		</FormDialog>
	);
}

/** The link is shown this once; there is no mail, so a person passes it on. */
export function LinkDialog({ title, link, close }: { title: string; link: TicketLink; close: () => void }) {
	const address = location.origin + link.path;
	return (
		<Dialog title={title} close={close}>
			<p className="mb-2">Send this link to the person. It works once, until {dayOf(link.expiresAt)}, and is not shown again.</p>
			<input className="field" readOnly aria-label="One-time link" value={address} onFocus={(e) => e.currentTarget.select()} />
			<button
				type="button"
				className="btn btn-primary mt-3"
				onClick={() => {
					copyText(address);
					showToast({ tone: "plain", text: "The link is copied." });
				}}
			>
				Copy the link
			</button>
		</Dialog>
	);
}

export function LeaveDialog({ person, people, close }: { person: PersonView; people: readonly PersonView[]; close: () => void }) {
	const [to, setTo] = useState("");
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const [done, setDone] = useState<HandedOver | null>(null);
	const submit = async (): Promise<void> => {
		const result = await runMutation("handOver", { id: person.id, to }, null, setError);
		if (result !== null) setDone(result);
	};
	if (done !== null) {
		const parts = [
			counted(done.drafts, "draft", "drafts"),
			counted(done.libraries, "library", "libraries"),
			counted(done.projects, "project", "projects"),
		];
		return (
			<Dialog title={`${person.name} has left`} close={close}>
				<p>Handed over: {parts.join(", ")}. Their sessions and tokens are ended.</p>
				{done.kept.length > 0 && (
					<>
						<p className="mt-2.5 text-doubt font-semibold">Both had changed these values; the receiver's stayed:</p>
						<ul className="list-disc ml-4.5">
							{done.kept.map((k) => (
								<li key={`${k.material} ${k.at}`}>
									{k.material}: {k.at}
								</li>
							))}
						</ul>
					</>
				)}
			</Dialog>
		);
	}
	return (
		<FormDialog
			title={`${person.name} leaves`}
			act={`Hand over and end the account`}
			ready={to !== ""}
			submit={submit}
			close={close}
			error={error}
		>
			<p className="text-ink2">
				Drafts, libraries, projects and shared views go to one person in one step. History keeps the name. This cannot be undone.
			</p>
			<Choose label="Hand over to" value={to} change={setTo} none="choose a person" options={people} />
		</FormDialog>
	);
}

export function TeamDialog({ team, people, close }: { team: TeamView | null; people: readonly PersonView[]; close: () => void }) {
	const [id] = useState(() => team?.id ?? newId());
	const [name, setName] = useState(team?.name ?? "");
	const [members, setMembers] = useState<readonly string[]>(team?.members ?? []);
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const submit = async (): Promise<void> => {
		const said = team === null ? `The team ${name.trim()} is there.` : `The team ${name.trim()} is changed.`;
		if ((await runMutation("saveTeam", { id, name, members: [...members] }, said, setError)) !== null) close();
	};
	const remove = async (): Promise<void> => {
		if (
			(await runMutation("removeTeam", { id }, `The team ${team?.name} is gone, and with it what it could see.`, setError)) !==
			null
		)
			close();
	};
	return (
		<FormDialog
			title={team === null ? "New team" : team.name}
			act="Save the team"
			ready={name.trim() !== ""}
			submit={submit}
			close={close}
			error={error}
		>
			<Field label="Name of the team" value={name} change={setName} />
			<Ticks legend="Members" options={people} chosen={members} change={setMembers} />
			{team !== null && (
				<button type="button" className="btn btn-ghost btn-small self-start" onClick={remove}>
					Remove the team
				</button>
			)}
		</FormDialog>
	);
}
