import type { LibraryRevision, MaterialPage, MaterialRow, OriginKind, RouteInput, Sheet, WhereUsed } from "@alvek/contract";
import { readList } from "@alvek/contract";
import type { JudgeContext } from "@alvek/core/judge";
import { canonicalJson, checkWhere } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { FACETS, type Viewer } from "@alvek/core/table";
import { readableLibraries, readableProjects } from "../db/rights";
import type { Context } from "../db/write";
import { hiddenStanding } from "../parts/assignments";
import { authorised, authorisePlace } from "./access";
import type { Finding, FindQuery } from "./finding";
import { draftOf, type MaterialRecord, materialById, ownPropertiesOf, parseDocument, revisionsOf, usesOf } from "./store";

type Narrowing = Omit<RouteInput<"findMaterials">, "offset" | "limit" | "values">;

/**
 * Who asks: the places that may be read, and the person. A project's own materials are found only when that project is
 * asked about; `all` adds those of every project, for what is asked for by id.
 */
export async function seerOf(ctx: Context, project: string | "all" | null = null): Promise<Viewer> {
	const libraries = (await readableLibraries(ctx, ctx.db)).map((l) => l.id);
	const projects = project === null ? [] : (await readableProjects(ctx, ctx.db)).map((p) => p.id);
	const own = projects.filter((p) => project === "all" || p === project).map((p) => `project:${p}`);
	return { person: ctx.actor.person, libraries: new Set([...libraries, ...own]) };
}

function queryOf(ctx: Context, input: Narrowing & { offset?: string; limit?: string; values?: string }): Result<FindQuery> {
	const where = checkWhere(input.where ?? "");
	if (!where.ok) return where;
	return ok({
		text: input.text ?? "",
		facets: Object.fromEntries(FACETS.map((f) => [f.id, readList(input[f.id])])),
		where: where.value,
		starred: input.starred === "1",
		today: ctx.now().slice(0, 10),
		reviewPassed: input.review === "passed",
		sort: input.sort ?? "group",
		descending: input.dir === "desc",
		offset: Number(input.offset ?? 0),
		limit: Math.min(Number(input.limit ?? 100), MOST_ROWS),
		values: input.values === undefined ? null : readList(input.values),
	});
}

/** Rows of one reply; a grid asks for the next ones as it is scrolled. */
const MOST_ROWS = 1000;

export async function findMaterials(
	ctx: Context,
	finding: Finding,
	input: RouteInput<"findMaterials">,
): Promise<Result<MaterialPage>> {
	const query = queryOf(ctx, input);
	return query.ok ? ok(await finding.find(query.value, await seerOf(ctx, input.project ?? null))) : query;
}

export async function findColumns(
	ctx: Context,
	finding: Finding,
	input: RouteInput<"findColumns">,
): Promise<Result<{ bytes: () => Uint8Array; tag: string }>> {
	const query = queryOf(ctx, input);
	if (!query.ok) return query;
	return ok(await finding.columns(query.value, readList(input.properties).slice(0, 12), await seerOf(ctx)));
}

export async function getMaterials(
	ctx: Context,
	finding: Finding,
	input: { ids: string },
): Promise<Result<readonly MaterialRow[]>> {
	return ok(await finding.rows(readList(input.ids).slice(0, MOST_ROWS), await seerOf(ctx, "all")));
}

export async function getSheet(ctx: Context, finding: Finding, id: string): Promise<Result<Sheet>> {
	const material = await authorised(ctx, ctx.db, id, "library.read");
	if (!material.ok) return material;
	const [row] = await finding.rows([id], await seerOf(ctx, "all"));
	if (row === undefined) return fail({ code: "not-found", path: "The material" });
	const editable = await authorisePlace(ctx, ctx.db, material.value.library_id, "library.edit");
	const draft = await draftOf(ctx.db, id, ctx.actor.person);
	const revisions = await revisionsOf(ctx.db, id);
	return ok({
		row,
		mayEdit: editable.ok,
		published: material.value.bytes === null ? null : parseDocument(material.value.bytes),
		revisions,
		whereUsed: await whereUsed(ctx, id, row.revision),
		base: await baseOf(ctx, material.value),
		variants: await variantsOf(ctx, id),
		review: material.value.review_at,
		offeredFor: JSON.parse(material.value.offered_for) as string[],
		draftAt: draft?.saved_at ?? null,
		// who may not edit has nothing to do with drafts
		otherDrafts: editable.ok ? await otherDraftsOf(ctx, id) : [],
		hiddenUses: await hiddenStanding(ctx, [id]),
		editions: await ctx.db.all<Sheet["editions"][number]>(
			`SELECT e.no, r.no AS revision FROM edition_entry n JOIN edition e ON e.id = n.edition_id JOIN revision r ON r.id = n.revision_id
			 WHERE n.material_id = $id ORDER BY e.no DESC LIMIT 100`,
			{ id },
		),
	});
}

function otherDraftsOf(ctx: Context, id: string): Promise<Sheet["otherDrafts"][number][]> {
	return ctx.db.all(
		`SELECT p.name, f.saved_at AS savedAt FROM draft f JOIN person p ON p.id = f.person_id
		 WHERE f.material_id = $id AND f.person_id <> $person ORDER BY f.saved_at DESC`,
		{ id, person: ctx.actor.person },
	);
}

/** What a material is judged beside: its base, where the actor may read it. */
export async function baseToJudge(ctx: Context, material: MaterialRecord): Promise<JudgeContext["base"]> {
	const base = await baseOf(ctx, material);
	return base?.document == null ? null : { name: base.name, document: base.document };
}

async function baseOf(ctx: Context, material: MaterialRecord): Promise<Sheet["base"]> {
	if (material.origin_revision_id === null) return null;
	const origin = await ctx.db.one<{ id: string; no: number; bytes: Buffer }>(
		`SELECT r.material_id AS id, r.no, d.bytes FROM revision r JOIN document d ON d.hash = r.document_hash WHERE r.id = $id`,
		{ id: material.origin_revision_id },
	);
	const base = origin === null ? null : await materialById(ctx.db, origin.id);
	if (origin === null || base === null) return null;
	const readable = await authorisePlace(ctx, ctx.db, base.library_id, "library.read");
	const common = {
		id: base.id,
		uid: base.uid,
		name: base.name,
		kind: (material.origin_kind ?? "similar") as OriginKind,
		revision: origin.no,
		headRevision: base.revision_no ?? origin.no,
	};
	// a base that one may no longer read keeps its name, which the values carry anyway, and nothing else
	if (!readable.ok || base.bytes === null) return { ...common, document: null, head: null };
	return { ...common, document: parseDocument(origin.bytes), head: parseDocument(base.bytes) };
}

/** Materials that began from a revision of this one, in libraries that the actor may read. */
async function variantsOf(ctx: Context, id: string): Promise<Sheet["variants"]> {
	const libraries = new Set((await readableLibraries(ctx, ctx.db)).map((l) => l.id));
	const rows = await ctx.db.all<{
		id: string;
		name: string;
		kind: OriginKind;
		revision: number;
		library_id: string;
		own: number;
	}>(
		`SELECT m.id, m.name, m.origin_kind AS kind, r.no AS revision, m.library_id,
			EXISTS (SELECT 1 FROM revision x WHERE x.material_id = m.id)
			OR EXISTS (SELECT 1 FROM draft f WHERE f.material_id = m.id AND f.person_id = $person) AS own
		 FROM material m JOIN revision r ON r.id = m.origin_revision_id
		 WHERE r.material_id = $id AND m.removed_at IS NULL ORDER BY m.name LIMIT 200`,
		{ id, person: ctx.actor.person },
	);
	return rows
		.filter((r) => libraries.has(r.library_id) && r.own === 1)
		.map(({ id: variant, name, kind, revision }) => ({ id: variant, name, kind, revision }));
}

async function whereUsed(ctx: Context, material: string, head: number): Promise<readonly WhereUsed[]> {
	const readable = new Set((await readableProjects(ctx, ctx.db)).map((p) => p.id));
	const uses = new Map<string, { projectId: string; project: string; parts: string[]; revision: number; behind: boolean }>();
	for (const use of await usesOf(ctx.db, material)) {
		if (!readable.has(use.project_id)) continue;
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

export async function getRevision(ctx: Context, id: string, no: number): Promise<Result<LibraryRevision>> {
	const material = await authorised(ctx, ctx.db, id, "library.read");
	if (!material.ok) return material;
	const row = await ctx.db.one<{ bytes: Buffer; hash: string }>(
		"SELECT d.bytes, d.hash FROM revision r JOIN document d ON d.hash = r.document_hash WHERE r.material_id = $id AND r.no = $no",
		{ id, no },
	);
	if (row === null) return fail({ code: "not-found", path: `Revision ${no}` });
	const own = await ownPropertiesOf(ctx.db, material.value.library_id);
	return ok({ no, name: material.value.name, document: parseDocument(row.bytes), hash: row.hash, own });
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
		knownAs: row.knownAs,
		revision: row.revision,
		draft: row.draftId !== null,
		document: row.document,
	});
	return ok({ file: `${row.name.replace(/[^\p{L}\p{N} ._-]+/gu, "_")}.json`, json });
}
