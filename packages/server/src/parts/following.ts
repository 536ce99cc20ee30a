import type { ProjectView, RouteInput, Undoable } from "@alvek/contract";
import { classify, difference } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { authoriseLibrary, authoriseProject } from "../db/rights";
import { type AssignmentState, type Context, inWrite, recordEvent } from "../db/write";
import { authorised, authorisePlace } from "../materials/access";
import { documentsOf } from "../materials/store";
import { assignmentStates, setAssignments } from "./assignments";
import { changeAssignments, changeProject, checkParts } from "./service";

/** What `behind` is measured against in a project. Nothing of it moves a part. */
export function setFollowing(ctx: Context, input: RouteInput<"setFollowing">): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		if (input.library != null && input.edition !== undefined)
			return followEdition(ctx, sql, input.id, input.library, input.edition);
		const set: Record<string, string | number> = {};
		if (input.frozen !== undefined) set.frozen = input.frozen ? 1 : 0;
		if (input.forward !== undefined) {
			set.forward = input.forward;
			await sql.run("UPDATE project SET forward_by = $person WHERE id = $id", { person: ctx.actor.person, id: input.id });
		}
		if (Object.keys(set).length === 0) return fail({ code: "empty", expected: "a change" });
		const before = Object.fromEntries(Object.keys(set).map((k) => [k, project.value[k as "frozen" | "forward"]]));
		return changeProject(ctx, sql, "project.following", input.id, before, set);
	});
}

/** The edition of a library that a project follows; 0 is the latest. */
async function followEdition(
	ctx: Context,
	sql: Sql,
	project: string,
	library: string,
	no: number,
): Promise<Result<Undoable<null>>> {
	const readable = await authoriseLibrary(ctx, sql, library, "library.read");
	if (!readable.ok) return readable;
	const of = (n: number) =>
		sql.one<{ id: string }>("SELECT id FROM edition WHERE library_id = $library AND no = $no", { library, no: n });
	const edition = no === 0 ? null : await of(no);
	if (no !== 0 && edition === null) return fail({ code: "not-found", path: `Edition ${no}` });
	const before = await sql.one<{ edition: string }>(
		"SELECT edition_id AS edition FROM follow WHERE project_id = $project AND library_id = $library",
		{ project, library },
	);
	await putFollow(sql, project, library, edition?.id ?? null);
	const event = await recordEvent(ctx, sql, {
		action: "project.following",
		kind: "project",
		subject: project,
		changeset: { library: readable.value.name, edition: no },
		inverse: { kind: "follow", project, library, expect: edition?.id ?? null, set: before?.edition ?? null },
	});
	return ok({ event, value: null });
}

export async function putFollow(sql: Sql, project: string, library: string, edition: string | null): Promise<void> {
	if (edition === null) {
		await sql.run("DELETE FROM follow WHERE project_id = $project AND library_id = $library", { project, library });
		return;
	}
	await sql.run(
		`INSERT INTO follow (project_id, library_id, edition_id) VALUES ($project, $library, $edition)
		 ON CONFLICT (project_id, library_id) DO UPDATE SET edition_id = $edition`,
		{ project, library, edition },
	);
}

/**
 * Projects may let some classes of change go forward by themselves, by the right of whoever set the rule. Called inside
 * the publish that made the revision; each project has a step of its own, which can be taken back.
 */
export async function forwardByRule(ctx: Context, sql: Sql, material: string, revision: string): Promise<void> {
	const rows = await sql.all<ForwardRow>(
		`SELECT s.part_id AS part, s.project_id AS project, s.revision_id AS revision, p.forward, p.forward_by AS "by",
			COALESCE(m.library_id, 'project:' || m.project_id) AS place FROM assignment s
		 JOIN revision r ON r.id = s.revision_id JOIN project p ON p.id = s.project_id JOIN material m ON m.id = r.material_id
		 WHERE r.material_id = $material AND s.revision_id <> $revision AND p.removed_at IS NULL AND p.frozen = 0 AND p.forward <> 'none'
			AND NOT EXISTS (SELECT 1 FROM follow f WHERE f.project_id = p.id AND f.library_id = m.library_id)`,
		{ material, revision },
	);
	if (rows.length === 0) return;
	const documents = await documentsOf(sql, [revision, ...rows.map((r) => r.revision)]);
	const next = documents.get(revision);
	const may = new Set<string>();
	for (const row of rows) if (await mayForward(ctx, sql, row)) may.add(row.project);
	const allowed = rows.filter((row) => {
		if (!may.has(row.project)) return false;
		const now = documents.get(row.revision);
		if (now === undefined || next === undefined) return false;
		const kind = classify(difference(now, next));
		return kind === "words" || (kind === "values-added" && row.forward === "values-added");
	});
	for (const project of new Set(allowed.map((r) => r.project))) {
		const before = await assignmentStates(
			sql,
			allowed.filter((r) => r.project === project).map((r) => r.part),
		);
		const after = before.map((s): AssignmentState => ({ ...s, revision }));
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

type ForwardRow = {
	part: string;
	project: string;
	revision: string;
	forward: string;
	by: string | null;
	place: string;
};

/** May whoever set the rule still change the project, and still read where the new revision came out? */
async function mayForward(ctx: Context, sql: Sql, row: ForwardRow): Promise<boolean> {
	const person = await sql.one<{ id: string; admin: number }>("SELECT id, admin FROM person WHERE id = $by AND left_at IS NULL", {
		by: row.by,
	});
	if (person === null) return false;
	const setter: Context = { ...ctx, actor: { person: person.id, admin: person.admin === 1 } };
	if (!(await authoriseProject(setter, sql, row.project, "project.edit")).ok) return false;
	return (await authorisePlace(setter, sql, row.place, "library.read")).ok;
}

/** The default of a project on all parts that have nothing; parts that had the older default and were not confirmed follow. */
export function setDefault(ctx: Context, input: RouteInput<"setDefault">): Promise<Result<Undoable<ProjectView>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		let revision: string | null = null;
		if (input.materialId !== null) {
			const material = await authorised(ctx, sql, input.materialId, "library.read");
			if (!material.ok) return material;
			revision = material.value.revision_id;
			if (revision === null) return fail({ code: "not-published", actual: material.value.name });
		}
		const parts = await sql.all<{ id: string }>(
			`SELECT p.id FROM part p LEFT JOIN assignment s ON s.part_id = p.id
			 WHERE p.project_id = $id AND (s.part_id IS NULL OR s.state = 'default')`,
			{ id: input.id },
		);
		const before = await assignmentStates(
			sql,
			parts.map((p) => p.id),
		);
		const after = before.map((s): AssignmentState => ({ part: s.part, revision, draft: null, before: null, state: "default" }));
		await sql.run("UPDATE project SET default_revision_id = $revision WHERE id = $id", { id: input.id, revision });
		return changeAssignments(ctx, sql, input.id, "parts.default", before, after, {
			expect: revision,
			set: project.value.default_revision_id,
		});
	});
}

/** Parts that have just come in get the project's default, when it has one. */
export async function giveDefault(sql: Sql, project: string): Promise<void> {
	await sql.run(
		`INSERT INTO assignment (part_id, project_id, revision_id, state)
		 SELECT p.id, p.project_id, j.default_revision_id, 'default' FROM part p JOIN project j ON j.id = p.project_id
		 WHERE p.project_id = $project AND j.default_revision_id IS NOT NULL AND NOT EXISTS (SELECT 1 FROM assignment s WHERE s.part_id = p.id)`,
		{ project },
	);
}

export function confirmDefault(ctx: Context, input: RouteInput<"confirmDefault">): Promise<Result<Undoable<ProjectView>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		const parts = await checkParts(sql, input.id, input.parts);
		if (!parts.ok) return parts;
		const before = (await assignmentStates(sql, parts.value)).filter((s) => s.state === "default");
		if (before.length === 0) return fail({ code: "nothing-default" });
		const after = before.map((s): AssignmentState => ({ ...s, state: "chosen" }));
		return changeAssignments(ctx, sql, input.id, "parts.confirm", before, after);
	});
}
