import { fail, ok, type Result } from "@alvek/core/result";
import { type Action, may } from "@alvek/core/rights";
import type { Context, Sql } from "../db";
import {
	type LibraryRecord,
	librariesFor,
	libraryFor,
	type MaterialRecord,
	materialById,
	materialsById,
	ownerOf,
	type ProjectRecord,
	projectFor,
	projectsFor,
} from "../repo";

/** Installation-wide rights; the one place where a service asks for them. */
export function authoriseInstallation(ctx: Context, action: Action): Result<null> {
	const refused = may(ctx.actor, action, { kind: "installation" });
	return refused === null ? ok(null) : fail(refused);
}

/** The library with the actor's role in it, when `action` is allowed. */
export async function authoriseLibrary(ctx: Context, sql: Sql, id: string, action: Action): Promise<Result<LibraryRecord>> {
	const row = await libraryFor(sql, id, ctx.actor.person);
	if (row === null) return fail({ code: "not-found", path: "The library" });
	const refused = may(ctx.actor, action, { kind: "library", supplied: row.kind === "supplied", role: row.role });
	if (refused !== null) return fail(refused);
	// an archived library is put away: only its stewards still find it, to bring it back
	return row.archived === 1 && action !== "library.steward" ? fail({ code: "not-found", path: "The library" }) : ok(row);
}

/** The project with the actor's role in it, when `action` is allowed and it is not deleted. */
export async function authoriseProject(ctx: Context, sql: Sql, id: string, action: Action): Promise<Result<ProjectRecord>> {
	const row = await projectFor(sql, id, ctx.actor.person);
	return row?.removed_at === null ? allowedIn(ctx, row, action) : fail({ code: "not-found", path: "The project" });
}

/** The same of a project that was deleted. */
export async function authoriseRemovedProject(
	ctx: Context,
	sql: Sql,
	id: string,
	action: Action,
): Promise<Result<ProjectRecord>> {
	const row = await projectFor(sql, id, ctx.actor.person);
	return row === null || row.removed_at === null ? fail({ code: "not-found", path: "The project" }) : allowedIn(ctx, row, action);
}

function allowedIn(ctx: Context, row: ProjectRecord, action: Action): Result<ProjectRecord> {
	const refused = may(ctx.actor, action, { kind: "project", role: row.role });
	return refused === null ? ok(row) : fail(refused);
}

/** Libraries that the actor may read. */
export async function readableLibraries(ctx: Context, sql: Sql): Promise<readonly LibraryRecord[]> {
	return (await libraryList(ctx, sql)).filter((l) => l.archived === 0);
}

/** Libraries that the actor may read, and archived ones that they are a steward of. */
export async function libraryList(ctx: Context, sql: Sql): Promise<readonly LibraryRecord[]> {
	return (await librariesFor(sql, ctx.actor.person)).filter((l) => {
		const action = l.archived === 1 ? "library.steward" : "library.read";
		return may(ctx.actor, action, { kind: "library", supplied: l.kind === "supplied", role: l.role }) === null;
	});
}

/** Projects that the actor may read. */
export async function readableProjects(ctx: Context, sql: Sql): Promise<readonly ProjectRecord[]> {
	const rows = await projectsFor(sql, ctx.actor.person);
	return rows.filter((p) => may(ctx.actor, "project.read", { kind: "project", role: p.role }) === null);
}

export type LibraryAction = "library.read" | "library.edit" | "library.publish";

/** What doing something to a project's own material takes in that project. */
const IN_PROJECT = { "library.read": "project.read", "library.edit": "project.edit", "library.publish": "project.edit" } as const;

/** May the actor do this in the place that a material lives in? */
export async function authorisePlace(ctx: Context, sql: Sql, place: string, action: LibraryAction): Promise<Result<unknown>> {
	const { library, project } = ownerOf(place);
	return project === null
		? authoriseLibrary(ctx, sql, library as string, action)
		: authoriseProject(ctx, sql, project, IN_PROJECT[action]);
}

const noMaterial = () => fail({ code: "not-found", path: "The material" });

/** The material when the actor may do this to it. */
export async function authorised(ctx: Context, sql: Sql, id: string, action: LibraryAction): Promise<Result<MaterialRecord>> {
	const material = await materialById(sql, id);
	return material === null ? noMaterial() : authorisedRecord(ctx, sql, material, action);
}

async function authorisedRecord(
	ctx: Context,
	sql: Sql,
	material: MaterialRecord,
	action: LibraryAction,
): Promise<Result<MaterialRecord>> {
	const place = await authorisePlace(ctx, sql, material.library_id, action);
	if (!place.ok) return place.issues[0]?.code === "not-found" ? noMaterial() : place;
	return ok(material);
}

/** All these materials, each once and in this order, when the actor may do this to every one of them. */
export async function authorisedAll(
	ctx: Context,
	sql: Sql,
	ids: readonly string[],
	action: LibraryAction,
): Promise<Result<readonly MaterialRecord[]>> {
	const found = await materialsById(sql, ids);
	const asked = new Set<string>();
	const materials: MaterialRecord[] = [];
	for (const id of new Set(ids)) {
		const material = found.get(id);
		if (material === undefined) return noMaterial();
		// rights are those of the place: one question for all that live there
		if (!asked.has(material.library_id)) {
			const allowed = await authorisedRecord(ctx, sql, material, action);
			if (!allowed.ok) return allowed;
			asked.add(material.library_id);
		}
		materials.push(material);
	}
	return ok(materials);
}
