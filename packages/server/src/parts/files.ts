import type { ProjectView, RouteInput, Undoable } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseProject } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import { changeProjectRow, ensureAside, fileOf, type Inverse, type InverseOf, moveGeometry, recordEvent } from "../repo";
import { projectView } from "./changes";

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
		const view = await projectView(ctx, sql, input.id);
		return view.ok ? ok({ event: event.value, value: view.value }) : view;
	});
}

/** Inside a transaction; the number of the step. */
export async function takeOut(ctx: Context, sql: Sql, project: string, hash: string): Promise<Result<number>> {
	const file = await fileOf(sql, project, hash);
	if (file === null) return fail({ code: "not-found", path: "The file" });
	const aside = ctx.newId();
	await ensureAside(ctx, sql, { id: aside, name: file });
	await move(ctx, sql, hash, { from: project, to: aside });
	return ok(
		await recordEvent(ctx, sql, {
			action: "project.take-out",
			kind: "project",
			subject: project,
			changeset: { file, hash },
			inverse: { kind: "geometry", project, hash, aside, back: true },
		}),
	);
}

async function move(ctx: Context, sql: Sql, hash: string, { from, to }: { from: string; to: string }): Promise<void> {
	await moveGeometry(sql, hash, from, to);
	for (const id of [from, to]) await changeProjectRow(ctx, sql, id, {});
}

/** Undo of taking out, and of that again. */
export async function undoGeometry(ctx: Context, sql: Sql, inverse: InverseOf<"geometry">): Promise<Result<Inverse>> {
	const { project, aside, hash, back } = inverse;
	const [from, to] = back ? [aside, project] : [project, aside];
	if ((await fileOf(sql, from, hash)) === null) return fail({ code: "not-found", path: "The file" });
	if ((await fileOf(sql, to, hash)) !== null) return fail({ code: "newer-change", actual: "the file was brought in again" });
	// what an import brought in has had no place aside yet
	if (!back) await ensureAside(ctx, sql, { id: aside, name: hash.slice(0, 12) });
	await move(ctx, sql, hash, { from, to });
	return ok({ ...inverse, back: !back });
}
