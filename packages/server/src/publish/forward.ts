import { classify, difference } from "@alvek/core/material";
import { authorisePlace, authoriseProject } from "../access";
import type { Context, Sql } from "../db";
import {
	type AssignmentState,
	assignmentStates,
	documentsOf,
	type ForwardRow,
	forwardable,
	personHere,
	recordEvent,
	setAssignments,
} from "../repo";

/**
 * Projects may let some classes of change go forward by themselves, by the right of whoever set the rule. Called inside
 * the publish that made the revisions; each project has a step of its own, which can be taken back.
 * @param revisions the new ones, each of another material
 */
export async function forwardByRule(ctx: Context, sql: Sql, revisions: ReadonlyMap<string, string>): Promise<void> {
	const rows = await forwardable(sql, [...revisions.values()]);
	if (rows.length === 0) return;
	const documents = await documentsOf(sql, [...new Set(rows.flatMap((r) => [r.revision, revisions.get(r.material) ?? ""]))]);
	const rights = new Map<string, boolean>();
	const allowed: ForwardRow[] = [];
	for (const row of rows) {
		const [now, next] = [documents.get(row.revision), documents.get(revisions.get(row.material) ?? "")];
		if (now === undefined || next === undefined) continue;
		const kind = classify(difference(now, next));
		if (kind !== "words" && !(kind === "values-added" && row.forward === "values-added")) continue;
		const key = `${row.project} ${row.place}`;
		const may = rights.get(key) ?? (await mayForward(ctx, sql, row));
		rights.set(key, may);
		if (may) allowed.push(row);
	}
	for (const project of new Set(allowed.map((r) => r.project))) {
		const moving = new Map(allowed.filter((r) => r.project === project).map((r) => [r.part, r.material]));
		const before = await assignmentStates(sql, [...moving.keys()]);
		const after = before.map((s): AssignmentState => ({ ...s, revision: revisions.get(moving.get(s.part) ?? "") ?? s.revision }));
		await setAssignments(sql, after);
		await recordEvent(ctx, sql, {
			action: "parts.bring-forward",
			kind: "project",
			subject: project,
			changeset: { before, after, note: "by the project's own rule" },
			inverse: { kind: "assignments", project, expect: after, set: before },
		});
	}
}

/** May whoever set the rule still change the project, and still read where the new revision came out? */
async function mayForward(ctx: Context, sql: Sql, row: ForwardRow): Promise<boolean> {
	const person = row.by === null ? null : await personHere(sql, row.by);
	if (person === null) return false;
	const setter: Context = { ...ctx, actor: { person: person.id, admin: person.admin === 1 } };
	if (!(await authoriseProject(setter, sql, row.project, "project.edit")).ok) return false;
	return (await authorisePlace(setter, sql, row.place, "library.read")).ok;
}
