import { cleanName, type Edit, nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { authoriseLibrary } from "../db/rights";
import type { AfterCommit, Context } from "../db/write";
import type { Finding } from "./finding";
import { type MaterialRecord, materialById } from "./store";

/** The material when the actor may do this to its library. */
export async function authorised(
	ctx: Context,
	sql: Sql,
	id: string,
	action: "library.read" | "library.edit",
): Promise<Result<MaterialRecord>> {
	const material = await materialById(sql, id);
	if (material === null) return fail({ code: "not-found", path: "The material" });
	const library = await authoriseLibrary(ctx, sql, material.library_id, action);
	if (!library.ok) {
		return library.issues[0]?.code === "not-found" ? fail({ code: "not-found", path: "The material" }) : library;
	}
	return ok(material);
}

/** A name as it may stand in this library; `except` is the material that is being renamed. */
export async function freeName(sql: Sql, library: string, input: string, except: string): Promise<Result<string>> {
	const name = cleanName(input);
	if (!name.ok) return name;
	const taken = await sql.one(
		"SELECT 1 AS x FROM material WHERE library_id = $library AND name_key = $key AND removed_at IS NULL AND id <> $except",
		{ library, key: nameKey(name.value), except },
	);
	return taken === null ? name : fail({ code: "name-taken", path: "name", actual: name.value });
}

/** Who sees the change: the index is patched after the commit. */
export function refreshed(finding: Finding, after: AfterCommit, id: string): void {
	after(() => finding.refresh(id));
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
		 VALUES ($id, $material, $person, $base, $edits, 1, $at)`,
		{ id, material, person: ctx.actor.person, base, edits: JSON.stringify(edits), at: ctx.now() },
	);
	return id;
}
