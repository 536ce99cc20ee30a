import type { HistoryRow } from "@alvek/contract";
import { type Changes, eventRow, stepOf } from "@alvek/core/event";
import type { Context } from "../db";
import { type HistoryEvent, namesOfPartsAndRevisions } from "../repo";

type Given = { readonly part?: string; readonly revision?: string | null };

const statesOf = (changes: Changes): readonly Given[] => (Array.isArray(changes.after) ? (changes.after as Given[]) : []);

/** Names of the parts, and of the materials with their revisions, that steps of a project are about. */
export async function namesIn(ctx: Context, rows: readonly HistoryEvent[]): Promise<ReadonlyMap<string, string>> {
	const states = rows
		.filter((r) => r.action.includes("parts."))
		.flatMap((r) => statesOf(JSON.parse(r.changeset) as Changes).slice(0, 4));
	return namesOfPartsAndRevisions(ctx.db, [...new Set(states.flatMap((s) => [s.part ?? "", s.revision ?? ""]))]);
}

export function historyRow(row: HistoryEvent, names: ReadonlyMap<string, string>): HistoryRow {
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
