import type { ProjectView, Undoable } from "@alvek/contract";
import type { EventAction } from "@alvek/core/event";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseProject } from "../access";
import type { Context, Sql } from "../db";
import { type AssignmentState, changeProjectRow, partsAmong, recordEvent, setAssignments, type Values } from "../repo";
import { weighProject } from "./weigh";

/** The project, weighed, for whoever may read it. */
export async function projectView(ctx: Context, sql: Sql, id: string): Promise<Result<ProjectView>> {
	const project = await authoriseProject(ctx, sql, id, "project.read");
	return project.ok ? ok(await weighProject(ctx, sql, project.value)) : project;
}

/** Columns of a project as they were and are: written, told to history, with a way back. */
export async function changeProject(
	ctx: Context,
	sql: Sql,
	change: { readonly id: string; readonly action: EventAction; readonly before: Values; readonly after: Values },
): Promise<Result<Undoable<null>>> {
	const { id, action, before, after } = change;
	await changeProjectRow(ctx, sql, id, after);
	const event = await recordEvent(ctx, sql, {
		action,
		kind: "project",
		subject: id,
		changeset: { before, after },
		inverse: { kind: "project-row", id, expect: after, set: before },
	});
	return ok({ event, value: null });
}

/** These parts, each once, when all of them are in the project. */
export async function checkParts(sql: Sql, project: string, parts: readonly string[]): Promise<Result<readonly string[]>> {
	const unique = [...new Set(parts)];
	const found = await partsAmong(sql, project, unique);
	return found.length === unique.length ? ok(unique) : fail({ code: "not-found", path: "A part" });
}

/** What parts stand on, as it was and is: written, told to history, with a way back; the project as it weighs now. */
export async function changeAssignments(
	ctx: Context,
	sql: Sql,
	change: {
		readonly project: string;
		readonly action: EventAction;
		readonly before: readonly AssignmentState[];
		readonly after: readonly AssignmentState[];
		/** The project's default, where it changes with them. */
		readonly standard?: { readonly expect: string | null; readonly set: string | null };
	},
): Promise<Result<Undoable<ProjectView>>> {
	const { project, action, before, after, standard } = change;
	await setAssignments(sql, after);
	await changeProjectRow(ctx, sql, project, standard === undefined ? {} : { default_revision_id: standard.expect });
	const event = await recordEvent(ctx, sql, {
		action,
		kind: "project",
		subject: project,
		changeset: { before, after },
		inverse: { kind: "assignments", project, expect: after, set: before, ...(standard === undefined ? {} : { standard }) },
	});
	const view = await projectView(ctx, sql, project);
	return view.ok ? ok({ event, value: view.value }) : view;
}
