import type { LibraryRevision, MaterialPage, MaterialRow, OriginKind, RouteInput, Sheet } from "@alvek/contract";
import { readList } from "@alvek/contract";
import type { JudgeContext } from "@alvek/core/judge";
import { canonicalJson, checkWhere, evidenceOnly } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { FACETS } from "@alvek/core/table";
import { authorised, authorisePlace, readableLibraries, viewerOf } from "../access";
import type { Context } from "../db";
import type { FindQuery, MaterialQueries } from "../material-index";
import {
	derivedFrom,
	draftOf,
	draftsOfOthers,
	editionsOfMaterial,
	headDocument,
	type MaterialRecord,
	materialById,
	originsOf,
	ownPropertiesOf,
	parseDocument,
	revisionById,
	revisionNo,
	revisionsOf,
} from "../repo";
import { hiddenUses, whereUsed } from "./uses";

type Narrowing = Omit<RouteInput<"findMaterials">, "offset" | "limit" | "values">;

function queryOf(ctx: Context, input: Narrowing & { offset?: string; limit?: string; values?: string }): Result<FindQuery> {
	const where = checkWhere(input.where ?? "");
	if (!where.ok) return where;
	return ok({
		text: input.text ?? "",
		forgiving: input.near === "show",
		facets: Object.fromEntries(FACETS.map((f) => [f.id, readList(input[f.id])])),
		where: where.value,
		starred: input.starred === "1",
		today: ctx.now().slice(0, 10),
		reviewPassed: input.review === "passed",
		inUse: input.retired === "hide",
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
	queries: MaterialQueries,
	input: RouteInput<"findMaterials">,
): Promise<Result<MaterialPage>> {
	const query = queryOf(ctx, input);
	return query.ok ? ok(await queries.find(query.value, await viewerOf(ctx, input.project ?? null))) : query;
}

export async function findColumns(
	ctx: Context,
	queries: MaterialQueries,
	input: RouteInput<"findColumns">,
): Promise<Result<{ bytes: () => Uint8Array; tag: string }>> {
	const query = queryOf(ctx, input);
	if (!query.ok) return query;
	return ok(await queries.columns(query.value, stripsOf(input), await viewerOf(ctx)));
}

/** Rows and the columns of their strips: spans of values are tried on the columns by the browser, so these know of none. */
export async function findWithColumns(
	ctx: Context,
	queries: MaterialQueries,
	input: RouteInput<"findWithColumns">,
): Promise<Result<{ page: MaterialPage; columns: Uint8Array }>> {
	const query = queryOf(ctx, input);
	if (!query.ok) return query;
	const viewer = await viewerOf(ctx);
	const page = await queries.find(query.value, viewer);
	const where = evidenceOnly(query.value.where);
	const { bytes } = await queries.columns({ ...query.value, where }, stripsOf(input), viewer);
	return ok({ page, columns: bytes() });
}

const MOST_STRIPS = 12;

function stripsOf({ properties }: { properties: string }): readonly string[] {
	return readList(properties).slice(0, MOST_STRIPS);
}

export async function getMaterials(
	ctx: Context,
	queries: MaterialQueries,
	input: { ids: string },
): Promise<Result<readonly MaterialRow[]>> {
	return ok(await queries.rows(readList(input.ids).slice(0, MOST_ROWS), await viewerOf(ctx, "all")));
}

export async function getSheet(ctx: Context, queries: MaterialQueries, id: string): Promise<Result<Sheet>> {
	const material = await authorised(ctx, ctx.db, id, "library.read");
	if (!material.ok) return material;
	const [row] = await queries.rows([id], await viewerOf(ctx, "all"));
	if (row === undefined) return fail({ code: "not-found", path: "The material" });
	const editable = await authorisePlace(ctx, ctx.db, material.value.library_id, "library.edit");
	const draft = await draftOf(ctx.db, id, ctx.actor.person);
	const revisions = await revisionsOf(ctx.db, id);
	return ok({
		row,
		mayEdit: editable.ok,
		published: headDocument(material.value),
		revisions,
		whereUsed: await whereUsed(ctx, id, row.revision),
		base: await baseOf(ctx, material.value),
		variants: await variantsOf(ctx, id),
		review: material.value.review_at,
		offeredFor: JSON.parse(material.value.offered_for) as string[],
		draftAt: draft?.saved_at ?? null,
		// who may not edit has nothing to do with drafts
		otherDrafts: editable.ok
			? (await draftsOfOthers(ctx.db, [id], ctx.actor.person)).map(({ name, savedAt }) => ({ name, savedAt }))
			: [],
		hiddenUses: await hiddenUses(ctx, [id]),
		editions: await editionsOfMaterial(ctx.db, id, MOST_EDITIONS),
	});
}

/** Editions of a material that its sheet names, and materials that began from it. */
const MOST_EDITIONS = 100;
const MOST_VARIANTS = 200;

/** What a material is judged beside, as far as the actor may read it: its base. */
export type JudgedBase = JudgeContext["base"];

/** The same of many materials; those without a base are left out. */
export async function basesToJudge(ctx: Context, materials: readonly MaterialRecord[]): Promise<ReadonlyMap<string, JudgedBase>> {
	const origins = new Map(materials.flatMap((m) => (m.origin_revision_id === null ? [] : [[m.id, m.origin_revision_id]])));
	if (origins.size === 0) return new Map();
	const bases = await originsOf(ctx.db, [...new Set(origins.values())]);
	const readable = new Map<string, boolean>();
	for (const { place } of bases.values())
		if (!readable.has(place)) readable.set(place, (await authorisePlace(ctx, ctx.db, place, "library.read")).ok);
	return new Map(
		[...origins].flatMap(([id, origin]) => {
			const base = bases.get(origin);
			if (base === undefined || readable.get(base.place) !== true) return [];
			return [[id, { name: base.name, document: parseDocument(base.bytes) }] as const];
		}),
	);
}

async function baseOf(ctx: Context, material: MaterialRecord): Promise<Sheet["base"]> {
	if (material.origin_revision_id === null) return null;
	const origin = await revisionById(ctx.db, material.origin_revision_id);
	const base = origin === null ? null : await materialById(ctx.db, origin.material);
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
	const rows = await derivedFrom(ctx.db, [id], ctx.actor.person, MOST_VARIANTS);
	return rows
		.filter((r) => r.library !== null && libraries.has(r.library) && r.seen === 1)
		.map(({ id: variant, name, kind, revision }) => ({ id: variant, name, kind, revision }));
}

export async function getRevision(ctx: Context, id: string, no: number): Promise<Result<LibraryRevision>> {
	const material = await authorised(ctx, ctx.db, id, "library.read");
	if (!material.ok) return material;
	const row = await revisionNo(ctx.db, id, no);
	if (row === null) return fail({ code: "not-found", path: `Revision ${no}` });
	const own = await ownPropertiesOf(ctx.db, material.value.library_id);
	return ok({ no, name: material.value.name, document: parseDocument(row.bytes), hash: row.hash, own });
}

/** The sheet as a file: the document with what identifies it. Canonical, so two exports are equal byte for byte. */
export async function exportMaterial(
	ctx: Context,
	queries: MaterialQueries,
	id: string,
): Promise<Result<{ file: string; json: string }>> {
	const sheet = await getSheet(ctx, queries, id);
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
