import type { HistoryRow } from "@alvek/contract";
import { type Changes, eventRow, stepOf } from "@alvek/core/event";
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
	const { step, times } = stepOf(row.action);
	const known = eventRow(row.action);
	const did = known?.say(changes, names) ?? step.replace(".", ", ");
	return {
		seq: row.seq,
		at: row.at,
		by: row.by,
		did: times > 0 ? `${"took back: ".repeat(times)}${known?.undone ?? did}` : did,
		subject: row.subject,
		material: row.subject_kind === "material" ? row.subject_id : null,
		note: typeof changes.note === "string" ? changes.note : "",
		undone: row.undone_by !== null,
		mayUndo: row.may_undo === 1,
	};
}
