import { massTable, type ProjectRow, type ProjectView, type RouteInput, type Undoable } from "@alvek/contract";
import { readMoney } from "@alvek/core/cost";
import type { EventAction } from "@alvek/core/event";
import { cleanName } from "@alvek/core/material";
import type { UnitSetId } from "@alvek/core/property";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Blobs } from "../db/blobs";
import type { Sql } from "../db/connection";
import { authoriseProject, readableLibraries } from "../db/rights";
import { type AssignmentState, type Context, inWrite, recordEvent } from "../db/write";
import { shareProject } from "../libraries/grants";
import { authorisePlace } from "../materials/access";
import type { Finding } from "../materials/finding";
import { draftOf, materialById } from "../materials/store";
import { assignmentStates, setAssignments } from "./assignments";
import { removeGeometry } from "./files";
import { confirmDefault, setDefault, setFollowing } from "./following";
import { createLocal, getProjectRevision, promoteLocal, replaceLocalMaterial } from "./local";

import { assignmentsOf, importsOf } from "./store";
import { mayReadHead, weighProject } from "./weigh";

export function partServices(blobs: Blobs, finding: Finding) {
	return {
		listProjects,
		createProject,
		renameProject,
		setMoney,
		removeProject,
		getProject,
		setFollowing,
		setDefault,
		confirmDefault,
		shareProject,
		getProjectRevision,
		createLocal: (ctx: Context, input: RouteInput<"createLocal">) => createLocal(ctx, finding, input),
		promoteLocal: (ctx: Context, input: RouteInput<"promoteLocal">) => promoteLocal(ctx, finding, input),
		replaceLocalMaterial: (ctx: Context, input: RouteInput<"replaceLocalMaterial">) => replaceLocalMaterial(ctx, finding, input),
		removeGeometry,
		assign,
		bringForward,
		getMesh: (ctx: Context, input: { id: string; hash: string }) => getMesh(ctx, blobs, input),
		massTable: (ctx: Context, input: RouteInput<"massTable">) => massTableOf(ctx, input),
	};
}

async function listProjects(ctx: Context): Promise<Result<readonly ProjectRow[]>> {
	const rows = await ctx.db.all<{ id: string; name: string; changed_at: string; parts: number; frozen: number }>(
		`SELECT p.id, p.name, p.changed_at, p.frozen, (SELECT COUNT(*) FROM occurrence o WHERE o.project_id = p.id AND o.part_id IS NOT NULL) AS parts
		 FROM project p WHERE p.removed_at IS NULL ORDER BY p.changed_at DESC`,
	);
	const visible: ProjectRow[] = [];
	for (const row of rows) {
		const read = await authoriseProject(ctx, ctx.db, row.id, "project.read");
		if (!read.ok) continue;
		const edit = await authoriseProject(ctx, ctx.db, row.id, "project.edit");
		visible.push({
			id: row.id,
			name: row.name,
			parts: row.parts,
			changedAt: row.changed_at,
			mayEdit: edit.ok,
			frozen: row.frozen === 1,
		});
	}
	return ok(visible);
}

function createProject(ctx: Context, input: RouteInput<"createProject">): Promise<Result<Undoable<{ id: string }>>> {
	return inWrite(ctx, async (sql) => {
		const name = cleanName(input.name);
		if (!name.ok) return name;
		const existing = await sql.one("SELECT 1 AS x FROM project WHERE id = $id", { id: input.id });
		if (existing !== null) return fail({ code: "id-taken", expected: "a new id" });
		await sql.run("INSERT INTO project (id, name, changed_at) VALUES ($id, $name, $at)", {
			id: input.id,
			name: name.value,
			at: ctx.now(),
		});
		await sql.run(
			"INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ('person', $person, 'project', $id, 'owner')",
			{
				person: ctx.actor.person,
				id: input.id,
			},
		);
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

function renameProject(ctx: Context, input: RouteInput<"renameProject">): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		const name = cleanName(input.name);
		if (!name.ok) return name;
		return changeProject(ctx, sql, "project.rename", input.id, { name: project.value.name }, { name: name.value });
	});
}

function setMoney(ctx: Context, input: RouteInput<"setMoney">): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		const money = readMoney({ currency: input.currency, rates: input.rates });
		if (!money.ok) return money;
		const set = { money: JSON.stringify(money.value) };
		return changeProject(ctx, sql, "project.money", input.id, { money: project.value.money }, set);
	});
}

function removeProject(ctx: Context, input: { id: string }): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.remove");
		if (!project.ok) return project;
		return changeProject(ctx, sql, "project.remove", input.id, { removed_at: null }, { removed_at: ctx.now() });
	});
}

export async function changeProject(
	ctx: Context,
	sql: Sql,
	action: EventAction,
	id: string,
	before: Record<string, string | number | null>,
	set: Record<string, string | number | null>,
): Promise<Result<Undoable<null>>> {
	const columns = Object.keys(set).map((k) => `${k} = $${k}`);
	await sql.run(`UPDATE project SET ${columns.join(", ")}, changed_at = $at WHERE id = $id`, { ...set, at: ctx.now(), id });
	const inverse = { kind: "project-row", id, expect: set, set: before } as const;
	const event = await recordEvent(ctx, sql, { action, kind: "project", subject: id, changeset: { before, after: set }, inverse });
	return ok({ event, value: null });
}

async function getProject(ctx: Context, input: { id: string }): Promise<Result<ProjectView>> {
	return projectView(ctx, ctx.db, input.id);
}

async function projectView(ctx: Context, sql: Sql, id: string): Promise<Result<ProjectView>> {
	const project = await authoriseProject(ctx, sql, id, "project.read");
	if (!project.ok) return project;
	const edit = await authoriseProject(ctx, sql, id, "project.edit");
	return ok(await weighProject(ctx, sql, project.value, edit.ok));
}

/** Parts of this project among `parts`, or the issue that one is not here. */
export async function checkParts(sql: Sql, project: string, parts: readonly string[]): Promise<Result<readonly string[]>> {
	const unique = [...new Set(parts)];
	const rows = await sql.all<{ id: string }>(
		"SELECT id FROM part WHERE project_id = $project AND id IN (SELECT value FROM json_each($parts))",
		{
			project,
			parts: JSON.stringify(unique),
		},
	);
	return rows.length === unique.length ? ok(unique) : fail({ code: "not-found", path: "A part" });
}

function assign(ctx: Context, input: RouteInput<"assign">): Promise<Result<Undoable<ProjectView>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		const parts = await checkParts(sql, input.id, input.parts);
		if (!parts.ok) return parts;
		const target = await assignmentTarget(ctx, sql, input.id, input.materialId, input.draft === true);
		if (!target.ok) return target;
		const before = await assignmentStates(sql, parts.value);
		const states = before.map(
			(s): AssignmentState => ({
				part: s.part,
				revision: target.value.revision,
				draft: target.value.draft,
				// a draft that is thrown away gives the part back what it stood on
				before: target.value.draft === null ? null : (s.revision ?? s.before),
			}),
		);
		return changeAssignments(ctx, sql, input.id, input.materialId === null ? "parts.clear" : "parts.assign", before, states);
	});
}

/** The newest revision of a material, or the actor's draft of it when asked for (or when nothing is published). */
async function assignmentTarget(
	ctx: Context,
	sql: Sql,
	project: string,
	materialId: string | null,
	wantsDraft: boolean,
): Promise<Result<{ revision: string | null; draft: string | null }>> {
	if (materialId === null) return ok({ revision: null, draft: null });
	const material = await materialById(sql, materialId);
	// another project's own material is not here
	if (material !== null && material.project_id !== null && material.project_id !== project)
		return fail({ code: "not-found", path: "The material" });
	if (material === null || material.removed_at !== null) return fail({ code: "not-found", path: "The material" });
	const place = await authorisePlace(ctx, sql, material.library_id, "library.read");
	if (!place.ok) return fail({ code: "not-found", path: "The material" });
	if (!wantsDraft && material.revision_id !== null) return ok({ revision: material.revision_id, draft: null });
	const draft = await draftOf(sql, materialId, ctx.actor.person);
	if (draft === null) return fail({ code: "not-found", path: "Your draft" });
	return ok({ revision: null, draft: draft.id });
}

export async function changeAssignments(
	ctx: Context,
	sql: Sql,
	project: string,
	action: EventAction,
	before: readonly AssignmentState[],
	after: readonly AssignmentState[],
	/** The project's default, where it changes with them. */
	standard?: { readonly expect: string | null; readonly set: string | null },
): Promise<Result<Undoable<ProjectView>>> {
	await setAssignments(sql, after);
	await sql.run("UPDATE project SET changed_at = $at WHERE id = $project", { at: ctx.now(), project });
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

function bringForward(ctx: Context, input: RouteInput<"bringForward">): Promise<Result<Undoable<ProjectView>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		const parts = await checkParts(sql, input.id, input.parts);
		if (!parts.ok) return parts;
		const heads = new Map((await assignmentsOf(sql, input.id)).map((a) => [a.part_id, a]));
		const readable = new Set((await readableLibraries(ctx, sql)).map((l) => l.id));
		const before = (await assignmentStates(sql, parts.value)).filter((s) => {
			const record = heads.get(s.part);
			if (record === undefined || !mayReadHead(record, readable)) return false;
			return record.revision_id !== null && record.head_id !== null && record.head_id !== record.revision_id;
		});
		if (before.length === 0) return fail({ code: "nothing-behind", expected: "parts that stand on an older revision" });
		const after = before.map((s): AssignmentState => ({ ...s, revision: heads.get(s.part)?.head_id ?? s.revision }));
		return changeAssignments(ctx, sql, input.id, "parts.bring-forward", before, after);
	});
}

async function getMesh(ctx: Context, blobs: Blobs, input: { id: string; hash: string }): Promise<Result<Buffer>> {
	const project = await authoriseProject(ctx, ctx.db, input.id, "project.read");
	if (!project.ok) return project;
	if (!(await importsOf(ctx.db, input.id)).some((i) => i.geometry_hash === input.hash))
		return fail({ code: "not-found", path: "The geometry" });
	const geometry = await ctx.db.one<{ mesh_hash: string }>("SELECT mesh_hash FROM geometry WHERE hash = $hash", {
		hash: input.hash,
	});
	return geometry === null ? fail({ code: "not-found", path: "The geometry" }) : ok(await blobs.read(geometry.mesh_hash));
}

async function massTableOf(ctx: Context, input: RouteInput<"massTable">): Promise<Result<{ file: string; csv: string }>> {
	const view = await projectView(ctx, ctx.db, input.id);
	if (!view.ok) return view;
	const csv = massTable(view.value, (input.units ?? "engineering") as UnitSetId, ",");
	return ok({ file: `${view.value.name.replace(/[^\p{L}\p{N} ._-]+/gu, "_")} mass.csv`, csv });
}
