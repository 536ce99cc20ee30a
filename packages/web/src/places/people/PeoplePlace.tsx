import type { PeopleView, PersonView, TeamView, TicketLink } from "@alvek/contract";
import { Plus } from "lucide-react";
import { useState } from "react";
import { useMe, useRoute } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { Initials } from "../../ui/AccountMenu";
import { dayOf, Page, Part } from "../../ui/Page";
import { Failure, Loading } from "../../ui/states";
import { counted } from "../../ui/words";
import { Invite, LeaveDialog, LinkDialog, TeamDialog } from "./dialogs";

/** Who is here: people, teams, open invitations. Everybody sees it; an administrator changes it. */
export function PeoplePlace() {
	const people = useRoute("listPeople", {});
	if (people.isPending) return <Loading what="People" />;
	if (people.isError) return <Failure error={people.error} retry={() => people.refetch()} />;
	return <People view={people.data} />;
}

function People({ view }: { view: PeopleView }) {
	const me = useMe();
	const admin = me?.admin === true;
	const [inviting, setInviting] = useState(false);
	const [link, setLink] = useState<{ readonly link: TicketLink; readonly title: string } | null>(null);
	const [leaving, setLeaving] = useState<PersonView | null>(null);
	const [team, setTeam] = useState<TeamView | "new" | null>(null);
	const here = view.people.filter((p) => !p.left);
	const gone = view.people.filter((p) => p.left);
	const names = new Map(view.people.map((p) => [p.id, p.name]));
	return (
		<Page
			title="People and teams"
			says={
				admin
					? "Libraries and projects are shared with people, with teams, or with everyone here."
					: "An administrator changes these."
			}
			aside={
				admin && (
					<button type="button" className="btn btn-primary" onClick={() => setInviting(true)}>
						<Plus size={15} aria-hidden /> Invite somebody
					</button>
				)
			}
		>
			<Part title={counted(here.length, "person", "people")}>
				<ul>
					{here.map((p) => (
						<PersonLine
							key={p.id}
							person={p}
							teams={view.teams.filter((t) => t.members.includes(p.id))}
							mayChange={admin && p.id !== me?.id}
							showLink={(made) => setLink({ link: made, title: `A new password for ${p.name}` })}
							leave={() => setLeaving(p)}
						/>
					))}
				</ul>
			</Part>
			<Part
				title="Teams"
				aside={
					admin && (
						<button type="button" className="btn btn-small" onClick={() => setTeam("new")}>
							<Plus size={14} aria-hidden /> New team
						</button>
					)
				}
			>
				{view.teams.length === 0 && (
					<p className="py-2.5 text-ink2">No team yet. A team gets a right once, and whoever joins it has it too.</p>
				)}
				<ul>
					{view.teams.map((t) => (
						<li key={t.id} className="flex items-center gap-2.5 min-h-10 border-b border-line2">
							<span className="font-semibold">{t.name}</span>
							<span className="text-ink2 truncate">{t.members.map((m) => names.get(m) ?? "").join(", ") || "nobody yet"}</span>
							{admin && (
								<button
									type="button"
									className="btn btn-ghost btn-small ml-auto"
									aria-label={`Change the team ${t.name}`}
									onClick={() => setTeam(t)}
								>
									Change
								</button>
							)}
						</li>
					))}
				</ul>
			</Part>
			{view.invitations.length > 0 && (
				<Part title="Open invitations">
					<ul>
						{view.invitations.map((i) => (
							<li key={i.id} className="flex items-center gap-2.5 min-h-10 border-b border-line2">
								<span className="font-semibold">{i.name || "somebody"}</span>
								{i.admin && <span className="tag tag-accent">administrator</span>}
								<span className="caption">
									by {i.by}, until {dayOf(i.expiresAt)}
								</span>
								<button
									type="button"
									className="btn btn-ghost btn-small ml-auto"
									aria-label={`Withdraw the invitation of ${i.name || "somebody"}`}
									onClick={() => runMutation("withdrawInvitation", { id: i.id }, "The invitation no longer holds.")}
								>
									Withdraw
								</button>
							</li>
						))}
					</ul>
				</Part>
			)}
			{gone.length > 0 && (
				<p className="caption mt-4.5">No longer here: {gone.map((p) => p.name).join(", ")}. What they did keeps their names.</p>
			)}
			{inviting && (
				<Invite
					teams={view.teams}
					close={() => setInviting(false)}
					made={(made, name) => setLink({ link: made, title: name === "" ? "An invitation" : `An invitation for ${name}` })}
				/>
			)}
			{link && <LinkDialog title={link.title} link={link.link} close={() => setLink(null)} />}
			{leaving && (
				<LeaveDialog person={leaving} people={here.filter((p) => p.id !== leaving.id)} close={() => setLeaving(null)} />
			)}
			{team && <TeamDialog team={team === "new" ? null : team} people={here} close={() => setTeam(null)} />}
		</Page>
	);
}

function PersonLine({
	person,
	teams,
	mayChange,
	showLink,
	leave,
}: {
	person: PersonView;
	teams: readonly TeamView[];
	mayChange: boolean;
	showLink: (link: TicketLink) => void;
	leave: () => void;
}) {
	return (
		<li className="flex items-center gap-2.5 min-h-11.5 border-b border-line2">
			<Initials name={person.name} initials={person.initials} />
			<span className="min-w-0">
				<span className="font-semibold">{person.name}</span>
				{person.admin && <span className="tag tag-accent ml-2">administrator</span>}
				<span className="block caption truncate">
					{[person.login, ...teams.map((t) => t.name)].filter((w) => w !== "").join(" · ")}
				</span>
			</span>
			{mayChange && (
				<span className="ml-auto flex gap-0.5">
					<button
						type="button"
						className="btn btn-ghost btn-small"
						aria-label={person.admin ? `Make ${person.name} an ordinary person` : `Make ${person.name} an administrator`}
						onClick={() =>
							runMutation(
								"changePerson",
								{ id: person.id, admin: !person.admin },
								`${person.name} is ${person.admin ? "no longer" : "now"} an administrator.`,
							)
						}
					>
						{person.admin ? "No longer administrator" : "Make administrator"}
					</button>
					<button
						type="button"
						className="btn btn-ghost btn-small"
						aria-label={`New password for ${person.name}`}
						onClick={async () => {
							const link = await runMutation("resetPassword", { id: person.id });
							if (link !== null) showLink(link);
						}}
					>
						New password
					</button>
					<button type="button" className="btn btn-ghost btn-small" aria-label={`${person.name} leaves`} onClick={leave}>
						Leaves…
					</button>
				</span>
			)}
		</li>
	);
}
