import type { PublishEffect } from "@alvek/contract";
import { massOf } from "@alvek/core/mass";
import { densityOf } from "@alvek/core/material";
import type { Sql } from "../db/connection";
import { readableProjects } from "../db/rights";
import { STANDING } from "../db/standing";
import type { AssignmentState, Context } from "../db/write";
import { draftById, draftDocument, parseDocument } from "../materials/store";

const STATE = "part_id AS part, revision_id AS revision, draft_id AS draft, before_draft_revision_id AS before, state";

/** What these parts stand on now; a part without a material comes back with nulls. */
export async function assignmentStates(sql: Sql, parts: readonly string[]): Promise<AssignmentState[]> {
	const rows = await sql.all<AssignmentState>(
		`SELECT ${STATE} FROM assignment WHERE part_id IN (SELECT value FROM json_each($parts))`,
		{ parts: JSON.stringify(parts) },
	);
	const known = new Map(rows.map((r) => [r.part, r]));
	return parts.map((part) => known.get(part) ?? { part, revision: null, draft: null, before: null, state: "chosen" });
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
		 SELECT p.id, p.project_id, j.value ->> 'revision', j.value ->> 'draft', j.value ->> 'before', COALESCE(j.value ->> 'state', 'chosen')
		 FROM json_each($states) j JOIN part p ON p.id = j.value ->> 'part' WHERE true
		 ON CONFLICT (part_id) DO UPDATE SET revision_id = excluded.revision_id, draft_id = excluded.draft_id,
			before_draft_revision_id = excluded.before_draft_revision_id, state = excluded.state`,
		{ states: JSON.stringify(standing) },
	);
}

/** How many projects that the actor may not read stand on these materials, with how many pieces; nothing else of them is told. */
export async function hiddenStanding(ctx: Context, materials: readonly string[]): Promise<{ projects: number; parts: number }> {
	const rows = await ctx.db.all<{ id: string; parts: number }>(
		`SELECT p.id, SUM((SELECT COUNT(*) FROM occurrence o WHERE o.part_id = s.part_id)) AS parts FROM (${STANDING}) s
		 JOIN project p ON p.id = s.project_id WHERE p.removed_at IS NULL GROUP BY p.id`,
		{ ids: JSON.stringify(materials) },
	);
	const readable = new Set((await readableProjects(ctx, ctx.db)).map((p) => p.id));
	const hidden = rows.filter((r) => !readable.has(r.id));
	return { projects: hidden.length, parts: hidden.reduce((n, r) => n + r.parts, 0) };
}

/** Parts that stand on a material in projects that the actor may read, with what all their pieces weigh now. */
export async function standingParts(
	ctx: Context,
	material: string,
): Promise<readonly Omit<PublishEffect["uses"][number], "massAfter_kg">[]> {
	const rows = await ctx.db.all<{
		projectId: string;
		project: string;
		part: string;
		quantity: number;
		volume: number;
		draft_id: string | null;
		bytes: Buffer | null;
	}>(
		`SELECT p.id AS projectId, p.name AS project, a.name AS part, s.draft_id, d.bytes,
			(SELECT COUNT(*) FROM occurrence o WHERE o.part_id = a.id) AS quantity,
			(SELECT SUM(b.volume_m3) FROM body b WHERE b.part_id = a.id) AS volume
		 FROM (${STANDING}) s JOIN part a ON a.id = s.part_id JOIN project p ON p.id = s.project_id
		 LEFT JOIN revision r ON r.id = s.revision_id LEFT JOIN document d ON d.hash = r.document_hash
		 WHERE p.removed_at IS NULL ORDER BY p.name, a.ord`,
		{ ids: JSON.stringify([material]) },
	);
	const readable = new Set((await readableProjects(ctx, ctx.db)).map((p) => p.id));
	const uses: Omit<PublishEffect["uses"][number], "massAfter_kg">[] = [];
	for (const row of rows.filter((r) => readable.has(r.projectId))) {
		const draft = row.draft_id === null ? null : await draftById(ctx.db, row.draft_id);
		const density =
			row.bytes !== null ? densityOf(parseDocument(row.bytes)) : draft === null ? null : densityOf(draftDocument(draft));
		uses.push({
			projectId: row.projectId,
			project: row.project,
			part: row.part,
			quantity: row.quantity,
			volume_m3: row.volume ?? 0,
			tries: row.draft_id !== null,
			massBefore_kg: density === null ? null : massOf(row.volume ?? 0, density).mass * row.quantity,
		});
	}
	return uses;
}
