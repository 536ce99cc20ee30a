import type { HistoryRow } from "@alvek/contract";
import type { Context } from "../db/write";

export type EventRow = {
	seq: number;
	at: string;
	by: string;
	action: string;
	subject_kind: string;
	subject_id: string;
	subject: string;
	changeset: string;
	undone_by: number | null;
	/** 1: mine, with a way back that nobody has gone. */
	may_undo: number;
};

export type Changes = Readonly<Record<string, unknown>>;
type Given = { readonly part?: string; readonly revision?: string | null };

const statesOf = (changes: Changes): readonly Given[] => (Array.isArray(changes.after) ? (changes.after as Given[]) : []);

/** Names of the parts, and of the materials with their revisions, that steps of a project are about. */
export async function namesIn(ctx: Context, rows: readonly EventRow[]): Promise<ReadonlyMap<string, string>> {
	const states = rows
		.filter((r) => r.action.includes("parts."))
		.flatMap((r) => statesOf(JSON.parse(r.changeset) as Changes).slice(0, 4));
	const ids = JSON.stringify([...new Set(states.flatMap((s) => [s.part ?? "", s.revision ?? ""]))]);
	const found = await ctx.db.all<{ id: string; name: string }>(
		`SELECT id, name FROM part WHERE id IN (SELECT value FROM json_each($ids))
		 UNION ALL SELECT r.id, m.name || ' rev ' || r.no FROM revision r JOIN material m ON m.id = r.material_id WHERE r.id IN (SELECT value FROM json_each($ids))`,
		{ ids },
	);
	return new Map(found.map((f) => [f.id, f.name]));
}

export function historyRow(row: EventRow, names: ReadonlyMap<string, string>): HistoryRow {
	const changes = JSON.parse(row.changeset) as Changes;
	const undoes = row.action.startsWith("undo ");
	const action = undoes ? row.action.slice(5) : row.action;
	const did = (DID[action] ?? (() => action.replace(".", ", ")))(changes, names);
	return {
		seq: row.seq,
		at: row.at,
		by: row.by,
		did: undoes ? `took back: ${DID_UNDONE[action] ?? did}` : did,
		subject: row.subject,
		material: row.subject_kind === "material" ? row.subject_id : null,
		note: typeof changes.note === "string" ? changes.note : "",
		undone: row.undone_by !== null,
		mayUndo: row.may_undo === 1,
	};
}

const n = (list: unknown): number => (Array.isArray(list) ? list.length : 0);
type Names = ReadonlyMap<string, string>;

/** `Drum shaft`, or how many parts. */
function parts(changes: Changes, names: Names): string {
	const [first, ...more] = statesOf(changes);
	return more.length > 0 ? `${more.length + 1} parts` : (names.get(first?.part ?? "") ?? "1 part");
}

/** What the parts got, where it is one thing. */
function material(changes: Changes, names: Names): string {
	const given = new Set(statesOf(changes).map((s) => s.revision ?? ""));
	const [only = ""] = given;
	return given.size === 1 ? (names.get(only) ?? "a draft") : "materials";
}

/** A record as it was saved; the log holds its JSON. */
function recordOf(changes: Changes): { readonly title?: string; readonly name?: string } {
	return typeof changes.after === "string" ? (JSON.parse(changes.after) as { title?: string; name?: string }) : {};
}

/** Steps as sentences; the person stands before them and the subject after. */
const DID: Readonly<Record<string, (changes: Changes, names: Names) => string>> = {
	"material.create": () => "began",
	"material.publish": (c) => `published revision ${c.revision}`,
	"material.change": (c) =>
		`changed ${Object.keys((c.after as Changes) ?? {})
			.filter((k) => k !== "name_key")
			.map((k) => (k === "known_as" ? "names elsewhere" : k.replace("_id", "").replaceAll("_", " ")))
			.join(", ")}`,
	"material.copy": () => "copied in",
	"material.remove": () => "moved to the bin",
	"material.restore": () => "brought back from the bin",
	"material.retire": () => "retired",
	"material.revive": () => "brought back into use",
	"material.merge": (c) => `merged ${c.with} into it`,
	"material.merged": (c) => `merged it into ${c.into}`,
	"material.base": (c) => `stood on revision ${c.revision} of its base`,
	"material.promote": () => "promoted from a project",
	"materials.move": (c) => `moved ${n(c.names)} materials`,
	"materials.remove": (c) => `moved ${n(c.names)} materials to the bin`,
	"materials.retire": (c) => `retired ${n(c.names)} materials`,
	"drafts.save": (c) => `changed cells of ${n(c) === 1 ? "1 material" : `${n(c)} materials`}`,
	"draft.discard": () => "threw a draft away",
	"draft.rebase": () => "brought a draft onto the newest revision",
	"library.create": () => "made the library",
	"library.install": () => "filled the library",
	"library.copy": (c) => `copied the library from ${c.from}`,
	"library.change": (c) =>
		`changed ${Object.keys((c.after as Changes) ?? {})
			.map((k) => k.replaceAll("_", " "))
			.join(", ")}`,
	"library.archive": () => "archived the library",
	"library.bring-back": () => "brought the library back",
	"source.save": (c) => `kept the source ${recordOf(c).title ?? ""}`.trim(),
	"property.save": (c) => `kept the own property ${recordOf(c).name ?? ""}`.trim(),
	"library.share": (c) => `gave the role ${c.role}`,
	"library.unshare": () => "took a role away",
	"library.take": (c) => `took edition ${c.no} in`,
	"lock.open": () => "opened the lock",
	"lock.take-over": (c) => `took the lock over from ${c.from}`,
	"group.create": (c) => `made the group ${c.group}`,
	"group.rename": (c) => `renamed a group to ${c.group}`,
	"group.move": (c) => `moved the group ${c.group}`,
	"group.remove": (c) => `took the group ${c.group} away`,
	"group.copy": (c) => `copied the group ${c.group} in`,
	"edition.freeze": (c) => `froze edition ${c.no}`,
	"edition.draft": (c) => `drafted the library as edition ${c.no}`,
	"set.save": (c) => `put the library into the set ${c.name}`,
	"set.remove": (c) => `took the set ${c.name} apart`,
	"set.share": () => "shared the library through a set",
	"publish.propose": () => "asked for approval",
	"publish.decline": () => "sent a proposal back",
	"publish.withdraw": () => "withdrew a proposal",
	"working.on": (c) => `put ${n(c.materials)} on the working list`,
	"working.off": (c) => `took ${n(c.materials)} off the working list`,
	"bin.empty": (c) => `emptied the bin of ${n(c.gone)}`,
	"project.create": () => "began the project",
	"project.rename": () => "renamed the project",
	"project.import": () => "brought geometry in",
	"project.money": () => "changed currency or rates",
	"project.remove": () => "deleted the project",
	"project.following": () => "changed what the project follows",
	"project.share": (c) => `gave the role ${c.role}`,
	"project.unshare": () => "took a role away",
	"parts.assign": (c, m) => `gave ${material(c, m)} to ${parts(c, m)}`,
	"parts.default": (c, m) => `gave the default to ${parts(c, m)}`,
	"parts.confirm": (c, m) => `confirmed the default on ${parts(c, m)}`,
	"parts.clear": (c, m) => `took the material from ${parts(c, m)}`,
	"parts.bring-forward": (c, m) => `brought ${parts(c, m)} forward to ${material(c, m)}`,
};

/** Where the sentence of taking a step back reads better in words of its own. */
const DID_UNDONE: Readonly<Record<string, string>> = {
	"material.remove": "moving it to the bin",
	"parts.bring-forward": "bringing parts forward",
	"material.merge": "merging two materials",
	"parts.assign": "giving a material",
};
