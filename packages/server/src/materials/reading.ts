import type { MaterialPage, RevisionDocument, RouteInput, Sheet, WhereUsed } from "@alvek/contract";
import { canonicalJson } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseLibrary, readableLibraries } from "../db/rights";
import type { Context } from "../db/write";
import { authorised } from "./access";
import type { Finding } from "./finding";
import { draftOf, type MaterialRecord, parseDocument, revisionsOf, usesOf } from "./store";

export async function findMaterials(
	ctx: Context,
	finding: Finding,
	input: RouteInput<"findMaterials">,
): Promise<Result<MaterialPage>> {
	const libraries = await readableLibraries(ctx, ctx.db);
	const list = (text: string | undefined): string[] => (text ?? "").split(",").filter((s) => s !== "");
	const query = {
		text: input.text ?? "",
		library: list(input.library),
		group: list(input.group),
		ready: list(input.ready),
		sort: input.sort ?? "group",
		descending: input.dir === "desc",
		offset: Number(input.offset ?? 0),
		limit: Math.min(Number(input.limit ?? 500), 5000),
	};
	return ok(await finding.find(query, new Set(libraries.map((l) => l.id)), ctx.actor.person));
}

export async function getSheet(ctx: Context, finding: Finding, id: string): Promise<Result<Sheet>> {
	const material = await authorised(ctx, ctx.db, id, "library.read");
	if (!material.ok) return material;
	const row = await finding.row(id, ctx.actor.person);
	// a material never published is seen by its author only
	if (row === null || material.value.removed_at !== null) return fail({ code: "not-found", path: "The material" });
	const editable = await authoriseLibrary(ctx, ctx.db, material.value.library_id, "library.edit");
	const draft = await draftOf(ctx.db, id, ctx.actor.person);
	const revisions = await revisionsOf(ctx.db, id);
	return ok({
		row,
		mayEdit: editable.ok,
		published: material.value.bytes === null ? null : parseDocument(material.value.bytes),
		revisions,
		whereUsed: await whereUsed(ctx, id, row.revision),
		base: await baseOf(ctx, material.value),
		draftAt: draft?.saved_at ?? null,
	});
}

async function baseOf(ctx: Context, material: MaterialRecord): Promise<Sheet["base"]> {
	if (material.origin_revision_id === null) return null;
	return ctx.db.one<{ id: string; name: string; revision: number }>(
		"SELECT m.id, m.name, r.no AS revision FROM revision r JOIN material m ON m.id = r.material_id WHERE r.id = $id",
		{ id: material.origin_revision_id },
	);
}

async function whereUsed(ctx: Context, material: string, head: number): Promise<readonly WhereUsed[]> {
	const uses = new Map<string, { projectId: string; project: string; parts: string[]; revision: number; behind: boolean }>();
	for (const use of await usesOf(ctx.db, material)) {
		const revision = use.revision_no ?? 0;
		const key = `${use.project_id} ${revision}`;
		const known = uses.get(key) ?? {
			projectId: use.project_id,
			project: use.project,
			parts: [],
			revision,
			behind: revision > 0 && revision < head,
		};
		known.parts.push(use.quantity > 1 ? `${use.part} ×${use.quantity}` : use.part);
		uses.set(key, known);
	}
	return [...uses.values()];
}

export async function getRevision(ctx: Context, id: string, no: number): Promise<Result<RevisionDocument>> {
	const material = await authorised(ctx, ctx.db, id, "library.read");
	if (!material.ok) return material;
	const row = await ctx.db.one<{ bytes: Buffer; hash: string }>(
		"SELECT d.bytes, d.hash FROM revision r JOIN document d ON d.hash = r.document_hash WHERE r.material_id = $id AND r.no = $no",
		{ id, no },
	);
	if (row === null) return fail({ code: "not-found", path: `Revision ${no}` });
	return ok({ no, name: material.value.name, document: parseDocument(row.bytes), hash: row.hash });
}

/** The sheet as a file: the document with what identifies it. Canonical, so two exports are equal byte for byte. */
export async function exportMaterial(
	ctx: Context,
	finding: Finding,
	id: string,
): Promise<Result<{ file: string; json: string }>> {
	const sheet = await getSheet(ctx, finding, id);
	if (!sheet.ok) return sheet;
	const { row } = sheet.value;
	const json = canonicalJson({
		format: "alvek-material",
		version: 1,
		name: row.name,
		library: row.library,
		group: row.group,
		itemCode: row.itemCode,
		shopName: row.shopName,
		revision: row.revision,
		draft: row.draftId !== null,
		document: row.document,
	});
	return ok({ file: `${row.name.replace(/[^\p{L}\p{N} ._-]+/gu, "_")}.json`, json });
}
