import { cleanName, type Edit, nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { authoriseLibrary, authoriseProject } from "../db/rights";
import type { AfterCommit, Context } from "../db/write";
import type { Finding } from "./finding";
import { type MaterialRecord, materialById, nextVersion } from "./store";

export type LibraryAction = "library.read" | "library.edit" | "library.publish";

/** What doing something to a project's own material takes in that project. */
const IN_PROJECT = { "library.read": "project.read", "library.edit": "project.edit", "library.publish": "project.edit" } as const;

/** The place that a material lives in: a library, or a project by `project:` and its id. */
export function placeOf(place: string): { readonly library: string | null; readonly project: string | null } {
	return place.startsWith("project:") ? { library: null, project: place.slice(8) } : { library: place, project: null };
}

/** May the actor do this in the place that a material lives in? */
export async function authorisePlace(ctx: Context, sql: Sql, place: string, action: LibraryAction): Promise<Result<unknown>> {
	const { library, project } = placeOf(place);
	return project === null
		? authoriseLibrary(ctx, sql, library as string, action)
		: authoriseProject(ctx, sql, project, IN_PROJECT[action]);
}

/** The material when the actor may do this to it. */
export async function authorised(ctx: Context, sql: Sql, id: string, action: LibraryAction): Promise<Result<MaterialRecord>> {
	const material = await materialById(sql, id);
	if (material === null) return fail({ code: "not-found", path: "The material" });
	const place = await authorisePlace(ctx, sql, material.library_id, action);
	if (!place.ok) return place.issues[0]?.code === "not-found" ? fail({ code: "not-found", path: "The material" }) : place;
	return ok(material);
}

/** A name as it may stand in this place; `except` is the material that is being renamed. */
export async function ensureNameAvailable(sql: Sql, place: string, input: string, except: string): Promise<Result<string>> {
	const name = cleanName(input);
	if (!name.ok) return name;
	const taken = await sql.one(
		`SELECT 1 AS x FROM material WHERE library_id IS $library AND project_id IS $project AND name_key = $key AND removed_at IS NULL AND id <> $except`,
		{ ...placeOf(place), key: nameKey(name.value), except },
	);
	return taken === null ? name : fail({ code: "name-taken", path: "name", actual: name.value });
}

/** Who sees the change: the index is patched after the commit. */
export function refreshed(finding: Finding, after: AfterCommit, id: string): void {
	after(() => finding.refresh([id]));
}

export async function insertDraft(
	ctx: Context,
	sql: Sql,
	material: string,
	base: string | null,
	edits: readonly Edit[],
): Promise<string> {
	const id = ctx.newId();
	await sql.run(
		`INSERT INTO draft (id, material_id, person_id, base_revision_id, edits, version, saved_at)
		 VALUES ($id, $material, $person, $base, $edits, $version, $at)`,
		{
			id,
			version: await nextVersion(sql),
			material,
			person: ctx.actor.person,
			base,
			edits: JSON.stringify(edits),
			at: ctx.now(),
		},
	);
	return id;
}
