import type { Changes, EventRow, Names, Needs } from "./types";

const n = (list: unknown): number => (Array.isArray(list) ? list.length : 0);
const keys = (of: unknown): string[] => Object.keys((of as Changes | undefined) ?? {});

type Given = { readonly part?: string; readonly revision?: string | null };
const given = (changes: Changes): readonly Given[] => (Array.isArray(changes.after) ? (changes.after as Given[]) : []);

/** `Drum shaft`, or how many parts. */
function parts(changes: Changes, names: Names): string {
	const [first, ...more] = given(changes);
	return more.length > 0 ? `${more.length + 1} parts` : (names.get(first?.part ?? "") ?? "1 part");
}

/** What the parts got, where it is one thing. */
function material(changes: Changes, names: Names): string {
	const revisions = new Set(given(changes).map((s) => s.revision ?? ""));
	const [only = ""] = revisions;
	return revisions.size === 1 ? (names.get(only) ?? "a draft") : "materials";
}

/** A record as it was saved; the log holds its JSON. */
function record(changes: Changes): { readonly title?: string; readonly name?: string } {
	return typeof changes.after === "string" ? (JSON.parse(changes.after) as { title?: string; name?: string }) : {};
}

const EDIT: Needs = { right: "library.edit", lock: "no", approval: false };
const CHANGE: Needs = { right: "library.edit", lock: "placed", approval: false };
const PLACE: Needs = { right: "library.publish", lock: "always", approval: false };
/** The same, but for what was never published, which its author alone sees. */
const PUT: Needs = { right: "library.publish", lock: "placed", approval: false };
const PUBLISH: Needs = { right: "library.publish", lock: "always", approval: true };
const STEWARD: Needs = { right: "library.steward", lock: "no", approval: false };
const READ: Needs = { right: "library.read", lock: "no", approval: false };
const PROJECT: Needs = { right: "project.edit", lock: "no", approval: false };
const SHARE: Needs = { right: "project.share", lock: "no", approval: false };
const REMOVE: Needs = { right: "project.remove", lock: "no", approval: false };
const ACCOUNT: Needs = { right: "account.own", lock: "no", approval: false };
const PEOPLE: Needs = { right: "people.manage", lock: "no", approval: false };

const row = <R extends EventRow>(of: R): EventRow => of;

/** A step of a material that pages which show it are told of. */
const ofMaterial = (more: Omit<EventRow, "subject" | "class" | "heard">): EventRow =>
	row({ subject: "material", class: "materials", heard: "readers", ...more });
const ofLibrary = (more: Omit<EventRow, "subject" | "heard">): EventRow => row({ subject: "library", heard: "readers", ...more });
/** Parts and projects. */
const ofProject = (more: Omit<EventRow, "subject" | "heard">): EventRow => row({ subject: "project", heard: "readers", ...more });
const ofPerson = (more: Omit<EventRow, "subject" | "class" | "heard">): EventRow =>
	row({ subject: "person", class: "people", heard: "readers", ...more });

/** News of a step that made parts or materials go or change. */
const changed = (what: string, who: string): string => `${what} was changed (${who}).`;
const deleted = (what: string, who: string): string => `${what} was deleted (${who}).`;
const drafting = (what: string, who: string): string =>
	`${who.slice(0, 1).toUpperCase()}${who.slice(1)} is drafting ${what} too.`;
const otherMaterials = (what: string, who: string): string => `Parts of ${what} got other materials (${who}).`;

/** Every step that can happen, by its name in the log. A step without a row does not compile. */
export const EVENTS = {
	"material.create": ofMaterial({ needs: EDIT, undoNeeds: CHANGE, say: () => "began", news: changed }),
	"material.publish": row({
		subject: "material",
		class: "published",
		heard: "readers",
		notice: "revision",
		needs: PUBLISH,
		say: (c) => `published revision ${c.revision}`,
		news: (what, who, revision) => `Revision ${revision ?? ""} of ${what} is out (${who}).`.replace("  ", " "),
	}),
	"material.change": ofMaterial({
		needs: CHANGE,
		say: (c) =>
			`changed ${keys(c.after)
				.filter((k) => k !== "name_key")
				.map((k) => (k === "known_as" ? "names elsewhere" : k.replace("_id", "").replaceAll("_", " ")))
				.join(", ")}`,
		news: changed,
	}),
	"material.copy": ofMaterial({ needs: PUBLISH, undoNeeds: PUT, say: () => "copied in", news: changed }),
	"material.remove": ofMaterial({ needs: PUT, say: () => "moved to the bin", undone: "moving it to the bin", news: deleted }),
	"material.restore": ofMaterial({ needs: PUT, say: () => "brought back from the bin", news: changed }),
	"material.retire": ofMaterial({
		notice: "retired",
		needs: PLACE,
		say: () => "retired",
		news: (what, who) => `${what} was retired (${who}).`,
	}),
	"material.revive": ofMaterial({ needs: PLACE, say: () => "brought back into use", news: changed }),
	"material.move": ofMaterial({ needs: PLACE, say: () => "moved", news: changed }),
	"material.merge": row({
		subject: "material",
		class: "published",
		heard: "readers",
		needs: PLACE,
		say: (c) => `merged ${c.with} into it`,
		undone: "merging two materials",
		news: changed,
	}),
	"material.merged": row({
		subject: "material",
		class: "published",
		heard: "readers",
		notice: "retired",
		needs: PLACE,
		say: (c) => `merged it into ${c.into}`,
		news: changed,
	}),
	"material.base": ofMaterial({ needs: EDIT, say: (c) => `stood on revision ${c.revision} of its base`, news: changed }),
	"material.promote": ofMaterial({ needs: EDIT, undoNeeds: CHANGE, say: () => "promoted from a project", news: changed }),
	"material.apart": ofMaterial({ needs: EDIT, say: (c) => `said that it is not ${c.name || "another one"}`, news: changed }),
	"material.alike": ofMaterial({ needs: EDIT, say: (c) => `took back that it is not ${c.name || "another one"}`, news: changed }),
	"material.return": draft({ needs: EDIT, say: () => "took a project's local change up as a draft" }),
	"materials.move": ofMany({ needs: PLACE, say: (c) => `moved ${n(c.names)} materials` }),
	"materials.remove": ofMany({ needs: PUT, say: (c) => `moved ${n(c.names)} materials to the bin` }),
	"materials.restore": ofMany({ needs: PUT, say: (c) => `brought ${n(c.names)} materials back from the bin` }),
	"materials.retire": ofMany({ needs: PLACE, say: (c) => `retired ${n(c.names)} materials` }),
	"materials.revive": ofMany({ needs: PLACE, say: (c) => `brought ${n(c.names)} materials back into use` }),
	"draft.save": draft({ quiet: true, needs: EDIT, say: () => "drafted" }),
	"drafts.save": draft({
		quiet: true,
		needs: EDIT,
		say: (c) => `changed cells of ${n(c) === 1 ? "1 material" : `${n(c)} materials`}`,
	}),
	"draft.discard": draft({ needs: EDIT, say: () => "threw a draft away" }),
	"draft.rebase": draft({ needs: EDIT, say: () => "brought a draft onto the newest revision" }),
	"library.create": ofLibrary({ class: "rights", rights: true, needs: STEWARD, say: () => "made the library" }),
	"library.install": ofLibrary({ class: "rights", rights: true, needs: STEWARD, say: () => "filled the library" }),
	"library.copy": ofLibrary({
		class: "rights",
		rights: true,
		needs: STEWARD,
		say: (c) => `copied the library from ${c.from}`,
	}),
	"library.change": ofLibrary({
		class: "rights",
		needs: STEWARD,
		say: (c) =>
			`changed ${keys(c.after)
				.map((k) => k.replaceAll("_", " "))
				.join(", ")}`,
	}),
	"library.archive": ofLibrary({ class: "rights", rights: true, needs: STEWARD, say: () => "archived the library" }),
	"library.bring-back": ofLibrary({ class: "rights", rights: true, needs: STEWARD, say: () => "brought the library back" }),
	"library.share": ofLibrary({ class: "rights", rights: true, needs: STEWARD, say: (c) => `gave the role ${c.role}` }),
	"library.unshare": ofLibrary({ class: "rights", rights: true, needs: STEWARD, say: () => "removed a role" }),
	"library.take": row({
		subject: "library",
		class: "published",
		heard: "readers",
		rights: true,
		needs: STEWARD,
		say: (c) => `took edition ${c.no} in`,
		news: changed,
	}),
	"source.save": ofLibrary({ class: "materials", needs: EDIT, say: (c) => `kept the source ${record(c).title ?? ""}`.trim() }),
	"property.save": row({
		subject: "library",
		class: "materials",
		heard: "readers",
		needs: EDIT,
		say: (c) => `kept the own property ${record(c).name ?? ""}`.trim(),
		news: changed,
	}),
	"use.save": row({
		subject: "library",
		class: "materials",
		heard: "readers",
		needs: EDIT,
		say: (c) => `kept the own use ${record(c).name ?? ""}`.trim(),
		news: changed,
	}),
	"lock.open": ofLibrary({ class: "rights", needs: PLACE, say: () => "opened the lock" }),
	"lock.take-over": ofLibrary({ class: "rights", needs: PLACE, say: (c) => `took the lock over from ${c.from}` }),
	"lock.close": ofLibrary({ class: "rights", quiet: true, needs: PLACE, say: () => "closed the lock" }),
	"group.create": ofLibrary({ class: "materials", needs: PLACE, say: (c) => `made the group ${c.group}` }),
	"group.rename": ofLibrary({ class: "materials", needs: PLACE, say: (c) => `renamed a group to ${c.group}` }),
	"group.move": ofLibrary({ class: "materials", needs: PLACE, say: (c) => `moved the group ${c.group}` }),
	"group.remove": ofLibrary({ class: "materials", needs: PLACE, say: (c) => `removed the group ${c.group}` }),
	"group.copy": ofLibrary({
		class: "materials",
		needs: PUBLISH,
		undoNeeds: PUT,
		say: (c) => (c.group === "" ? `copied ${c.copied} materials in` : `copied the group ${c.group} in`),
	}),
	"edition.freeze": row({
		subject: "library",
		class: "published",
		heard: "readers",
		needs: PLACE,
		say: (c) => `froze edition ${c.no}`,
		news: (what, who) => `An edition of ${what} was frozen (${who}).`,
	}),
	"edition.draft": row({
		subject: "library",
		class: "published",
		heard: "editors",
		needs: EDIT,
		say: (c) => `restored edition ${c.no} as drafts`,
		news: changed,
	}),
	"set.save": ofLibrary({ class: "rights", rights: true, needs: STEWARD, say: (c) => `put the library into the set ${c.name}` }),
	"set.remove": ofLibrary({ class: "rights", rights: true, needs: STEWARD, say: (c) => `took the set ${c.name} apart` }),
	"set.share": ofLibrary({
		class: "rights",
		rights: true,
		needs: STEWARD,
		say: () => "shared the library through a set",
	}),
	"set.unshare": ofLibrary({ class: "rights", rights: true, needs: STEWARD, say: () => "removed a role in a set" }),
	"publish.propose": ofLibrary({
		class: "published",
		notice: "approval",
		needs: PUBLISH,
		say: () => "asked for approval",
	}),
	"publish.decline": ofLibrary({
		class: "published",
		notice: "approval",
		needs: PUBLISH,
		say: () => "sent a proposal back",
	}),
	"publish.withdraw": ofLibrary({
		class: "published",
		notice: "approval",
		needs: PUBLISH,
		say: () => "withdrew a proposal",
	}),
	"working.on": ofLibrary({ class: "materials", needs: READ, say: (c) => `put ${n(c.materials)} on the working list` }),
	"working.off": ofLibrary({ class: "materials", needs: READ, say: (c) => `took ${n(c.materials)} off the working list` }),
	"bin.empty": row({
		subject: "library",
		class: "materials",
		heard: "readers",
		needs: STEWARD,
		say: (c) => `emptied the bin of ${n(c.gone)}`,
		news: changed,
	}),
	"project.create": ofProject({
		class: "rights",
		rights: true,
		needs: { ...PROJECT, right: "project.create" },
		undoNeeds: REMOVE,
		say: () => "began the project",
	}),
	"project.rename": ofProject({ class: "rights", needs: PROJECT, say: () => "renamed the project" }),
	"project.import": ofProject({
		class: "parts",
		needs: PROJECT,
		say: (c) => `brought geometry in${typeof c.file === "string" ? `: ${c.file}` : ""}`,
		undone: "bringing geometry in",
		news: (what, who) => `Geometry came into ${what} (${who}).`,
	}),
	"project.take-out": ofProject({
		class: "parts",
		needs: PROJECT,
		say: (c) => `took ${c.file} out`,
		undone: "taking geometry out",
		news: (what, who) => `Geometry was taken out of ${what} (${who}).`,
	}),
	"project.money": ofProject({ class: "parts", needs: PROJECT, say: () => "changed currency or rates", news: changed }),
	"project.remove": ofProject({ class: "rights", rights: true, needs: REMOVE, say: () => "deleted the project", news: deleted }),
	"project.following": ofProject({
		class: "parts",
		needs: PROJECT,
		say: () => "changed what the project follows",
		news: changed,
	}),
	"project.share": ofProject({
		class: "rights",
		rights: true,
		needs: SHARE,
		say: (c) => `gave the role ${c.role}`,
	}),
	"project.unshare": ofProject({
		class: "rights",
		rights: true,
		needs: SHARE,
		say: () => "removed a role",
	}),
	"parts.assign": ofProject({
		class: "parts",
		needs: PROJECT,
		say: (c, m) => `gave ${material(c, m)} to ${parts(c, m)}`,
		undone: "giving a material",
		news: otherMaterials,
	}),
	"parts.default": ofProject({
		class: "parts",
		needs: PROJECT,
		say: (c, m) => `gave the default to ${parts(c, m)}`,
		news: otherMaterials,
	}),
	"parts.confirm": ofProject({
		class: "parts",
		needs: PROJECT,
		say: (c, m) => `confirmed the default on ${parts(c, m)}`,
		news: otherMaterials,
	}),
	"parts.clear": ofProject({
		class: "parts",
		needs: PROJECT,
		say: (c, m) => `took the material from ${parts(c, m)}`,
		news: otherMaterials,
	}),
	"parts.bring-forward": ofProject({
		class: "parts",
		needs: PROJECT,
		say: (c, m) => `brought ${parts(c, m)} forward to ${material(c, m)}`,
		undone: "bringing parts forward",
		news: otherMaterials,
	}),
	"person.setup": ofPerson({ rights: true, needs: PEOPLE, say: () => "set the installation up" }),
	"person.invitation": ofPerson({ rights: true, needs: PEOPLE, say: () => "joined" }),
	"person.reset": ofPerson({ needs: PEOPLE, say: () => "chose a new password by a link" }),
	"person.change": ofPerson({ rights: true, needs: PEOPLE, say: () => "changed a person" }),
	"person.invite": ofPerson({ needs: PEOPLE, say: () => "invited somebody" }),
	"person.withdraw": ofPerson({ needs: PEOPLE, say: () => "withdrew an invitation" }),
	"person.leave": ofPerson({ rights: true, needs: PEOPLE, say: () => "handed somebody's work over" }),
	"person.reset-link": ofPerson({ needs: PEOPLE, say: () => "made a link for a new password" }),
	"person.self": ofPerson({ needs: ACCOUNT, say: () => "changed their account" }),
	"token.make": { ...ofPerson({ needs: ACCOUNT, say: () => "made a token" }), heard: "self" },
	"token.remove": { ...ofPerson({ needs: ACCOUNT, say: () => "removed a token" }), heard: "self" },
	"team.save": row({
		subject: "team",
		class: "people",
		heard: "readers",
		rights: true,
		needs: PEOPLE,
		say: () => "changed a team",
	}),
	"team.remove": row({
		subject: "team",
		class: "people",
		heard: "readers",
		rights: true,
		needs: PEOPLE,
		say: () => "removed a team",
	}),
} as const satisfies Readonly<Record<string, EventRow>>;

/** A step about many materials is one of their library, or of the project that they live in. */
function ofMany(more: Omit<EventRow, "subject" | "class" | "heard">): EventRow {
	return row({ subject: ["library", "project"], class: "materials", heard: "readers", news: changed, ...more });
}

/** A draft is its author's, and so are the steps that made it; colleagues who edit too want to know that there is one. */
function draft(more: Omit<EventRow, "subject" | "class" | "heard">): EventRow {
	return row({ subject: "material", class: "materials", heard: "editors", own: true, affects: [], news: drafting, ...more });
}
