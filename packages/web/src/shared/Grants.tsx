import type { GrantView, LibraryDetail } from "@alvek/contract";
import { X } from "lucide-react";
import { useState } from "react";
import { useRoute } from "../api/queries";
import { runMutation } from "../api/runMutation";
import { Part } from "../ui/Page";

export type Role = { readonly id: string; readonly label: string };

const ROLES: readonly Role[] = [
	{ id: "reader", label: "reads" },
	{ id: "editor", label: "drafts and publishes" },
	{ id: "steward", label: "steward: also gives roles" },
];

/** Who can see and change a library: a plain sentence, then the roles behind it. */
export function Access({ library }: { library: LibraryDetail }) {
	const roles = library.supplied ? ROLES.filter((r) => r.id !== "editor") : ROLES;
	return (
		<Part
			title="Who can see and change it"
			aside={
				!library.archived && (
					<label className="caption flex items-center gap-2">
						<input
							type="checkbox"
							className="checkbox"
							checked={library.hidden}
							onChange={(e) => runMutation("hideLibrary", { id: library.id, on: e.target.checked })}
						/>
						leave it out of my own choosers
					</label>
				)
			}
		>
			<p className="py-2 leading-5">{library.sentence}</p>
			{library.maySteward && (
				<Grants
					grants={library.grants}
					roles={roles}
					give={(by, subject, role) =>
						runMutation(
							"shareLibrary",
							{ id: library.id, by, subject, role: role as "reader" | null },
							role === null ? "The role is removed." : "The role is given.",
						)
					}
				/>
			)}
		</Part>
	);
}

export type Give = (by: GrantView["by"], subject: string, role: string | null) => Promise<unknown>;

/** Roles of a library, a set or a project, each with its change; and one more line to give a role. */
export function Grants({
	grants,
	roles,
	give,
}: {
	grants: readonly (Omit<GrantView, "role" | "through"> & { role: string; through?: string | null })[];
	roles: readonly Role[];
	give: Give;
}) {
	const people = useRoute("listPeople", {});
	const [who, setWho] = useState("");
	const [role, setRole] = useState(roles[0]?.id ?? "");
	const own = grants.filter((g) => g.through == null);
	const taken = new Set(own.map((g) => `${g.by}:${g.subject}`));
	const free = (by: string, id: string): boolean => !taken.has(`${by}:${id}`);
	const add = async (): Promise<void> => {
		const [by = "", subject = ""] = who.split(":");
		if ((await give(by as GrantView["by"], subject, role)) !== null) setWho("");
	};
	return (
		<>
			<ul className="border-t border-line2">
				{grants.map((g) => (
					<li key={`${g.by} ${g.subject} ${g.through ?? ""}`} className="flex items-center gap-2 min-h-8.5 border-b border-line2">
						<span className="font-semibold w-55 truncate">{g.by === "team" ? `${g.name}, team` : g.name}</span>
						{g.through == null ? (
							<>
								<select
									className="field w-57.5!"
									aria-label={`Role of ${g.name}`}
									value={g.role}
									onChange={(e) => give(g.by, g.subject, e.target.value)}
								>
									{roles.map((r) => (
										<option key={r.id} value={r.id}>
											{r.label}
										</option>
									))}
								</select>
								<button
									type="button"
									className="btn btn-ghost btn-icon"
									aria-label={`Remove the role of ${g.name}`}
									onClick={() => give(g.by, g.subject, null)}
								>
									<X size={14} aria-hidden />
								</button>
							</>
						) : (
							<span className="text-ink2">
								{roles.find((r) => r.id === g.role)?.label ?? g.role} <span className="caption">through the set {g.through}</span>
							</span>
						)}
					</li>
				))}
			</ul>
			<div className="flex gap-2 pt-2">
				<select className="field w-55!" aria-label="Give a role to" value={who} onChange={(e) => setWho(e.target.value)}>
					<option value="">give a role to …</option>
					{free("everyone", "") && <option value="everyone:">everyone here</option>}
					<optgroup label="Teams">
						{people.data?.teams
							.filter((t) => free("team", t.id))
							.map((t) => (
								<option key={t.id} value={`team:${t.id}`}>
									{t.name}
								</option>
							))}
					</optgroup>
					<optgroup label="People">
						{people.data?.people
							.filter((p) => !p.left && free("person", p.id))
							.map((p) => (
								<option key={p.id} value={`person:${p.id}`}>
									{p.name}
								</option>
							))}
					</optgroup>
				</select>
				<select className="field w-57.5!" aria-label="Role" value={role} onChange={(e) => setRole(e.target.value)}>
					{roles.map((r) => (
						<option key={r.id} value={r.id}>
							{r.label}
						</option>
					))}
				</select>
				<button type="button" className="btn" disabled={who === ""} onClick={add}>
					Give
				</button>
			</div>
		</>
	);
}
