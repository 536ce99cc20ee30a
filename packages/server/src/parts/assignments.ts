import type { Sql } from "../db/connection";
import type { AssignmentState } from "../db/write";

const STATE = "part_id AS part, revision_id AS revision, draft_id AS draft, before_draft_revision_id AS before";

/** What these parts stand on now; a part without a material comes back with nulls. */
export async function assignmentStates(sql: Sql, parts: readonly string[]): Promise<AssignmentState[]> {
	const rows = await sql.all<AssignmentState>(
		`SELECT ${STATE} FROM assignment WHERE part_id IN (SELECT value FROM json_each($parts))`,
		{ parts: JSON.stringify(parts) },
	);
	const known = new Map(rows.map((r) => [r.part, r]));
	return parts.map((part) => known.get(part) ?? { part, revision: null, draft: null, before: null });
}

/** Parts on which this draft is tried. */
export function assignmentsOnDraft(sql: Sql, draft: string): Promise<AssignmentState[]> {
	return sql.all<AssignmentState>(`SELECT ${STATE} FROM assignment WHERE draft_id = $draft`, { draft });
}

/** Puts parts into these states; all nulls takes the material away. */
export async function setAssignments(sql: Sql, states: readonly AssignmentState[]): Promise<void> {
	const standing = states.filter((s) => s.revision !== null || s.draft !== null);
	const bare = states.filter((s) => s.revision === null && s.draft === null);
	await sql.run("DELETE FROM assignment WHERE part_id IN (SELECT value FROM json_each($parts))", {
		parts: JSON.stringify(bare.map((s) => s.part)),
	});
	await sql.run(
		`INSERT INTO assignment (part_id, project_id, revision_id, draft_id, before_draft_revision_id, state)
		 SELECT p.id, p.project_id, j.value ->> 'revision', j.value ->> 'draft', j.value ->> 'before', 'chosen'
		 FROM json_each($states) j JOIN part p ON p.id = j.value ->> 'part' WHERE true
		 ON CONFLICT (part_id) DO UPDATE SET revision_id = excluded.revision_id, draft_id = excluded.draft_id,
			before_draft_revision_id = excluded.before_draft_revision_id, state = excluded.state`,
		{ states: JSON.stringify(standing) },
	);
}
