import { massTable, type ProjectRow, type ProjectView, type RouteInput, type Undoable } from "@alvek/contract";
import { readMoney } from "@alvek/core/cost";
import { cleanName } from "@alvek/core/material";
import type { UnitSetId } from "@alvek/core/property";
import { fail, ok, type Result } from "@alvek/core/result";
import { may } from "@alvek/core/rights";
import { authoriseProject, readableProjects } from "../access";
import { type Context, inWrite } from "../db";
import { changeProjectRow, fileOf, hasProject, insertProject, meshOf, piecesOf, recordEvent } from "../repo";
import type { Blobs } from "../runtime";
import { defaultRevision } from "./assign";
import { changeProject, projectView } from "./changes";

/** Projects that the actor may read, the latest changed first. */
export async function listProjects(ctx: Context): Promise<Result<readonly ProjectRow[]>> {
	const projects = await readableProjects(ctx, ctx.db);
	const pieces = await piecesOf(
		ctx.db,
		projects.map((p) => p.id),
	);
	const rows = projects.map(
		(p): ProjectRow => ({
			id: p.id,
			name: p.name,
			parts: pieces.get(p.id) ?? 0,
			changedAt: p.changed_at,
			mayEdit: may(ctx.actor, "project.edit", { kind: "project", role: p.role }) === null,
			frozen: p.frozen === 1,
		}),
	);
	return ok(rows.sort((a, b) => (a.changedAt < b.changedAt ? 1 : -1)));
}

export function createProject(ctx: Context, input: RouteInput<"createProject">): Promise<Result<Undoable<{ id: string }>>> {
	return inWrite(ctx, async (sql) => {
		const name = cleanName(input.name);
		if (!name.ok) return name;
		if (await hasProject(sql, input.id)) return fail({ code: "id-taken", expected: "a new id" });
		const { id, materialId } = input;
		const standard = materialId === undefined ? ok(null) : await defaultRevision(ctx, sql, { id, materialId });
		if (!standard.ok) return standard;
		await insertProject(ctx, sql, { id, name: name.value });
		if (standard.value !== null) await changeProjectRow(ctx, sql, id, { default_revision_id: standard.value });
		const event = await recordEvent(ctx, sql, {
			action: "project.create",
			kind: "project",
			subject: input.id,
			changeset: { name: name.value },
			inverse: { kind: "project-row", id: input.id, expect: { removed_at: null }, set: { removed_at: ctx.now() } },
		});
		return ok({ event, value: { id: input.id } });
	});
}

export function renameProject(ctx: Context, input: RouteInput<"renameProject">): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		const name = cleanName(input.name);
		if (!name.ok) return name;
		const [before, after] = [{ name: project.value.name }, { name: name.value }];
		return changeProject(ctx, sql, { id: input.id, action: "project.rename", before, after });
	});
}

export function setMoney(ctx: Context, input: RouteInput<"setMoney">): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		const money = readMoney({ currency: input.currency, rates: input.rates });
		if (!money.ok) return money;
		const [before, after] = [{ money: project.value.money }, { money: JSON.stringify(money.value) }];
		return changeProject(ctx, sql, { id: input.id, action: "project.money", before, after });
	});
}

export function removeProject(ctx: Context, input: { id: string }): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.remove");
		if (!project.ok) return project;
		const [before, after] = [{ removed_at: null }, { removed_at: ctx.now() }];
		return changeProject(ctx, sql, { id: input.id, action: "project.remove", before, after });
	});
}

export const getProject = (ctx: Context, input: { id: string }): Promise<Result<ProjectView>> =>
	projectView(ctx, ctx.db, input.id);

/** Triangles of a file of the project, packed. */
export async function getMesh(ctx: Context, blobs: Blobs, input: { id: string; hash: string }): Promise<Result<Buffer>> {
	const project = await authoriseProject(ctx, ctx.db, input.id, "project.read");
	if (!project.ok) return project;
	const here = (await fileOf(ctx.db, input.id, input.hash)) !== null;
	const mesh = here ? await meshOf(ctx.db, input.hash) : null;
	return mesh === null ? fail({ code: "not-found", path: "The geometry" }) : ok(await blobs.read(mesh));
}

/** The mass table of a project for a spreadsheet. */
export async function massTableOf(ctx: Context, input: RouteInput<"massTable">): Promise<Result<{ file: string; csv: string }>> {
	const view = await projectView(ctx, ctx.db, input.id);
	if (!view.ok) return view;
	const csv = massTable(view.value, (input.units ?? "engineering") as UnitSetId, ",");
	return ok({ file: `${view.value.name.replace(/[^\p{L}\p{N} ._-]+/gu, "_")} mass.csv`, csv });
}
