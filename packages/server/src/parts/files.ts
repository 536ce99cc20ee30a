import type { ProjectView, RouteInput, Undoable } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { authoriseProject } from "../db/rights";
import { type Context, type Inverse, inWrite, recordEvent } from "../db/write";
import { weighProject } from "./weigh";

/**
 * A file leaves the project with its parts and what they are made of. Nothing of it is deleted: its rows move into a
 * project that is deleted and nobody's, so that every question about projects passes them by, and undo moves them back.
 */
export function removeGeometry(ctx: Context, input: RouteInput<"removeGeometry">): Promise<Result<Undoable<ProjectView>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		const event = await takeOut(ctx, sql, input.id, input.hash);
		if (!event.ok) return event;
		return ok({ event: event.value, value: await weighProject(ctx, sql, project.value, true) });
	});
}

/** Inside a transaction; the number of the step. */
export async function takeOut(ctx: Context, sql: Sql, project: string, hash: string): Promise<Result<number>> {
	const file = await sql.one<{ file: string }>("SELECT file FROM import WHERE project_id = $project AND geometry_hash = $hash", {
		project,
		hash,
	});
	if (file === null) return fail({ code: "not-found", path: "The file" });
	const aside = ctx.newId();
	const at = ctx.now();
	await sql.run("INSERT INTO project (id, name, changed_at, removed_at) VALUES ($aside, $name, $at, $at)", {
		aside,
		name: file.file,
		at,
	});
	await moveGeometry(ctx, sql, hash, project, aside);
	const inverse: Inverse = { kind: "geometry", project, hash, aside, back: true };
	return ok(
		await recordEvent(ctx, sql, {
			action: "project.take-out",
			kind: "project",
			subject: project,
			changeset: { file: file.file, hash },
			inverse,
		}),
	);
}

/** Moves the rows of one file from a project to another: parts with their occurrences and materials. */
export async function moveGeometry(ctx: Context, sql: Sql, hash: string, from: string, to: string): Promise<void> {
	const bind = { hash, from, to };
	const ofFile = "SELECT id FROM part WHERE project_id = $from AND geometry_hash = $hash";
	await sql.run(`UPDATE assignment SET project_id = $to WHERE part_id IN (${ofFile})`, bind);
	// assemblies have no part of their own: they go with the file that brought them, which their occurrences below name
	await sql.run(
		`WITH RECURSIVE whole(id) AS (
			SELECT id FROM occurrence WHERE project_id = $from AND part_id IN (${ofFile})
			UNION SELECT o.parent_id FROM occurrence o JOIN whole w ON w.id = o.id WHERE o.parent_id IS NOT NULL)
		 UPDATE occurrence SET project_id = $to WHERE id IN (SELECT id FROM whole)`,
		bind,
	);
	await sql.run("UPDATE part SET project_id = $to WHERE project_id = $from AND geometry_hash = $hash", bind);
	await sql.run("UPDATE import SET project_id = $to WHERE project_id = $from AND geometry_hash = $hash", bind);
	await sql.run("UPDATE project SET changed_at = $at WHERE id IN ($from, $to)", { from, to, at: ctx.now() });
}

/** Undo of taking out, and of that again. */
export async function undoGeometry(
	ctx: Context,
	sql: Sql,
	inverse: Extract<Inverse, { kind: "geometry" }>,
): Promise<Result<Inverse>> {
	const { project, aside, hash, back } = inverse;
	const [from, to] = back ? [aside, project] : [project, aside];
	const here = (where: string) =>
		sql.one("SELECT 1 AS x FROM import WHERE project_id = $where AND geometry_hash = $hash", { where, hash });
	if ((await here(from)) === null) return fail({ code: "not-found", path: "The file" });
	if ((await here(to)) !== null) return fail({ code: "newer-change", actual: "the file was brought in again" });
	// what an import brought in has had no place aside yet
	if (!back)
		await sql.run(
			"INSERT INTO project (id, name, changed_at, removed_at) VALUES ($aside, $hash, $at, $at) ON CONFLICT DO NOTHING",
			{ aside, hash: hash.slice(0, 12), at: ctx.now() },
		);
	await moveGeometry(ctx, sql, hash, from, to);
	return ok({ ...inverse, back: !back });
}
