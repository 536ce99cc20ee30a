import type { MaterialPage, RevisionDocument, RouteInput, Sheet, Undoable, WhereUsed } from "@alvek/contract";
import {
	applyEdits,
	BLANK,
	canonicalJson,
	cleanName,
	difference,
	type Edit,
	fromSimilar,
	type Material,
	mergeEdits,
	nameKey,
} from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { authoriseLibrary, readableLibraries } from "../db/rights";
import { type AfterCommit, type AssignmentState, type Context, inWrite, recordEvent } from "../db/write";
import { assignmentsOnDraft, setAssignments } from "../parts/assignments";
import type { Finding } from "./finding";
import {
	type DraftRecord,
	draftBase,
	draftDocument,
	draftOf,
	ensureGroup,
	insertRevision,
	type MaterialRecord,
	materialById,
	parseDocument,
	revisionsOf,
	usesOf,
} from "./store";

/** Everything about materials that a route or a script may ask for. */
export function materialServices(finding: Finding) {
	return {
		findMaterials: (ctx: Context, input: RouteInput<"findMaterials">) => findMaterials(ctx, finding, input),
		getSheet: (ctx: Context, input: { id: string }) => getSheet(ctx, finding, input.id),
		getRevision: (ctx: Context, input: { id: string; no: string }) => getRevision(ctx, input.id, Number(input.no)),
		exportMaterial: (ctx: Context, input: { id: string }) => exportMaterial(ctx, finding, input.id),
		createMaterial: (ctx: Context, input: RouteInput<"createMaterial">) => createMaterial(ctx, input),
		changeMaterial: (ctx: Context, input: RouteInput<"changeMaterial">) => changeMaterial(ctx, finding, input),
		saveDraft: (ctx: Context, input: { id: string; edits: readonly Edit[] }) => saveDraft(ctx, input),
		discardDraft: (ctx: Context, input: { id: string }) => discardDraft(ctx, input.id),
		publishDraft: (ctx: Context, input: RouteInput<"publishDraft">) => publishDraft(ctx, finding, input),
		copyMaterial: (ctx: Context, input: RouteInput<"copyMaterial">) => copyMaterial(ctx, finding, input),
		removeMaterial: (ctx: Context, input: { id: string }) => removeMaterial(ctx, finding, input.id),
	};
}

async function findMaterials(ctx: Context, finding: Finding, input: RouteInput<"findMaterials">): Promise<Result<MaterialPage>> {
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

/** The material when the actor may do this to its library. */
async function authorised(
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

async function getSheet(ctx: Context, finding: Finding, id: string): Promise<Result<Sheet>> {
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

async function getRevision(ctx: Context, id: string, no: number): Promise<Result<RevisionDocument>> {
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
async function exportMaterial(ctx: Context, finding: Finding, id: string): Promise<Result<{ file: string; json: string }>> {
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

/** A name as it may stand in this library; `except` is the material that is being renamed. */
async function freeName(sql: Sql, library: string, input: string, except: string): Promise<Result<string>> {
	const name = cleanName(input);
	if (!name.ok) return name;
	const taken = await sql.one(
		"SELECT 1 AS x FROM material WHERE library_id = $library AND name_key = $key AND removed_at IS NULL AND id <> $except",
		{ library, key: nameKey(name.value), except },
	);
	return taken === null ? name : fail({ code: "name-taken", path: "name", actual: name.value });
}

type NewRow = {
	id: string;
	library: string;
	group: string | null;
	name: string;
	originKind: string | null;
	originRevision: string | null;
};

async function insertMaterial(ctx: Context, sql: Sql, row: NewRow): Promise<void> {
	await sql.run(
		`INSERT INTO material (id, uid, library_id, group_id, name, name_key, owner, origin_kind, origin_revision_id, changed_at)
		 VALUES ($id, $uid, $library, $group, $name, $key, $owner, $originKind, $originRevision, $at)`,
		{
			id: row.id,
			uid: ctx.newId(),
			library: row.library,
			group: row.group,
			name: row.name,
			key: nameKey(row.name),
			owner: ctx.actor.person,
			originKind: row.originKind,
			originRevision: row.originRevision,
			at: ctx.now(),
		},
	);
}

async function insertDraft(
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

function createMaterial(ctx: Context, input: RouteInput<"createMaterial">): Promise<Result<Undoable<{ id: string }>>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseLibrary(ctx, sql, input.libraryId, "library.edit");
		if (!library.ok) return library;
		const existing = await materialById(sql, input.id);
		if (existing !== null)
			return existing.library_id === input.libraryId ? ok({ event: 0, value: { id: input.id } }) : fail({ code: "id-taken" });
		const base = await similarBase(ctx, sql, input.from ?? null);
		if (!base.ok) return base;
		const name = await freeName(sql, input.libraryId, input.name, "");
		if (!name.ok) return name;
		if (base.value !== null && nameKey(base.value.name) === nameKey(name.value)) {
			return fail({ code: "same-name-as-base", path: "name", actual: base.value.name });
		}
		const group = await ensureGroup(ctx, sql, input.libraryId, input.group ?? "");
		const origin = base.value?.revision ?? null;
		await insertMaterial(ctx, sql, {
			id: input.id,
			library: input.libraryId,
			group,
			name: name.value,
			originKind: origin === null ? null : "similar",
			originRevision: origin,
		});
		await insertDraft(ctx, sql, input.id, null, base.value === null ? [] : difference(BLANK, base.value.document));
		const event = await recordEvent(ctx, sql, {
			action: "material.create",
			kind: "material",
			subject: input.id,
			changeset: { name: name.value, from: input.from ?? null },
			inverse: { kind: "material-row", id: input.id, expect: { removed_at: null }, set: { removed_at: ctx.now() } },
		});
		return ok({ event, value: { id: input.id } });
	});
}

type SimilarBase = { name: string; revision: string | null; document: Material };

/** What a new material starts from: the base's newest revision, every value carried over. */
async function similarBase(ctx: Context, sql: Sql, from: string | null): Promise<Result<SimilarBase | null>> {
	if (from === null) return ok(null);
	const base = await authorised(ctx, sql, from, "library.read");
	if (!base.ok) return base;
	const draft = await draftOf(sql, from, ctx.actor.person);
	const { bytes, name, uid, revision_no, revision_id } = base.value;
	if (bytes === null && draft === null) return fail({ code: "not-found", path: "The base" });
	const document = bytes === null ? draftDocument(draft as DraftRecord) : parseDocument(bytes);
	return ok({ name, revision: revision_id, document: fromSimilar(document, { name, uid, revision: revision_no ?? 0 }) });
}

function changeMaterial(ctx: Context, finding: Finding, input: RouteInput<"changeMaterial">): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql, after) => {
		const material = await authorised(ctx, sql, input.id, "library.edit");
		if (!material.ok) return material;
		const set: Record<string, string | null> = {};
		if (input.name !== undefined) {
			const name = await freeName(sql, material.value.library_id, input.name, input.id);
			if (!name.ok) return name;
			set.name = name.value;
			set.name_key = nameKey(name.value);
		}
		if (input.itemCode !== undefined) {
			const code = input.itemCode.trim();
			const taken = await sql.one<{ name: string }>(
				"SELECT name FROM material WHERE library_id = $library AND item_code = $code AND item_code <> '' AND removed_at IS NULL AND id <> $id",
				{ library: material.value.library_id, code, id: input.id },
			);
			if (taken !== null)
				return fail({ code: "code-taken", path: "item code", actual: `${code} is ${taken.name}`, expected: "a code of its own" });
			set.item_code = code;
		}
		if (input.shopName !== undefined) set.shop_name = input.shopName.trim();
		if (input.group !== undefined) set.group_id = await ensureGroup(ctx, sql, material.value.library_id, input.group);
		if (Object.keys(set).length === 0) return fail({ code: "empty", expected: "a change" });
		const before: Record<string, string | null> = {};
		const row = await sql.one<Record<string, string | null>>("SELECT * FROM material WHERE id = $id", { id: input.id });
		for (const key of Object.keys(set)) before[key] = row?.[key] ?? null;
		const columns = Object.keys(set).map((k) => `${k} = $${k}`);
		await sql.run(`UPDATE material SET ${columns.join(", ")}, changed_at = $at WHERE id = $id`, {
			...set,
			at: ctx.now(),
			id: input.id,
		});
		const event = await recordEvent(ctx, sql, {
			action: "material.change",
			kind: "material",
			subject: input.id,
			changeset: { before, after: set },
			inverse: { kind: "material-row", id: input.id, expect: set, set: before },
		});
		refreshed(finding, after, input.id);
		return ok({ event, value: null });
	});
}

function refreshed(finding: Finding, after: AfterCommit, id: string): void {
	after(() => finding.refresh(id));
}

/** Appends edits to the actor's draft, opening one when there is none. Concurrent edits of other values go together. */
function saveDraft(
	ctx: Context,
	input: { id: string; edits: readonly Edit[] },
): Promise<Result<{ draftId: string; version: number; savedAt: string }>> {
	return inWrite(ctx, async (sql) => {
		const material = await authorised(ctx, sql, input.id, "library.edit");
		if (!material.ok) return material;
		if (material.value.removed_at !== null) return fail({ code: "not-found", path: "The material" });
		const draft = await draftOf(sql, input.id, ctx.actor.person);
		const base = draft === null ? baseDocument(material.value) : draftBase(draft);
		const current = draft === null ? base : draftDocument(draft);
		const applied = applyEdits(current, input.edits);
		if (!applied.ok) return applied;
		const edits = difference(base, applied.value.material);
		const savedAt = ctx.now();
		const version = (draft?.version ?? 0) + 1;
		let draftId = draft?.id;
		if (draftId === undefined) draftId = await insertDraft(ctx, sql, input.id, material.value.revision_id, edits);
		else {
			await sql.run("UPDATE draft SET edits = $edits, version = $version, saved_at = $savedAt WHERE id = $draftId", {
				edits: JSON.stringify(edits),
				version,
				savedAt,
				draftId,
			});
		}
		await recordEvent(ctx, sql, {
			action: "draft.save",
			kind: "material",
			subject: input.id,
			changeset: input.edits,
			inverse: null,
		});
		return ok({ draftId, version, savedAt });
	});
}

function baseDocument(material: MaterialRecord): Material {
	return material.bytes === null ? BLANK : parseDocument(material.bytes);
}

function discardDraft(ctx: Context, id: string): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const material = await authorised(ctx, sql, id, "library.edit");
		if (!material.ok) return material;
		const draft = await draftOf(sql, id, ctx.actor.person);
		if (draft === null) return fail({ code: "not-found", path: "Your draft" });
		if (material.value.revision_id === null) {
			return fail({
				code: "first-draft",
				actual: material.value.name,
				expected: "deleting the material instead: it was never published",
			});
		}
		const trying = await assignmentsOnDraft(sql, draft.id);
		await setAssignments(sql, trying.map(backToRevision));
		await sql.run("DELETE FROM draft WHERE id = $id", { id: draft.id });
		const event = await recordEvent(ctx, sql, {
			action: "draft.discard",
			kind: "material",
			subject: id,
			changeset: { edits: JSON.parse(draft.edits) as unknown },
			inverse: {
				kind: "draft",
				draft: {
					id: draft.id,
					material: id,
					person: ctx.actor.person,
					base: draft.base_revision_id,
					edits: draft.edits,
					version: draft.version,
				},
				parts: trying,
			},
		});
		return ok({ event, value: null });
	});
}

function backToRevision(state: AssignmentState): AssignmentState {
	return { part: state.part, revision: state.before, draft: null, before: null };
}

/**
 * The draft becomes the next revision; parts that try the draft move on to it. A draft that started from an older
 * revision is merged value by value; values that both changed come back as conflicts.
 */
function publishDraft(
	ctx: Context,
	finding: Finding,
	input: RouteInput<"publishDraft">,
): Promise<Result<{ revision: number; movedParts: number }>> {
	return inWrite(ctx, async (sql, after) => {
		const material = await authorised(ctx, sql, input.id, "library.edit");
		if (!material.ok) return material;
		const draft = await draftOf(sql, input.id, ctx.actor.person);
		if (draft === null) return fail({ code: "not-found", path: "Your draft" });
		if (draft.version !== input.version) {
			return fail({ code: "conflict", path: "draft", actual: input.version, expected: `version ${draft.version}` });
		}
		const head = material.value;
		let document = draftDocument(draft);
		if (head.revision_id !== draft.base_revision_id && head.bytes !== null) {
			const merged = mergeEdits(draftBase(draft), JSON.parse(draft.edits) as Edit[], parseDocument(head.bytes));
			if (!merged.ok) return merged;
			document = merged.value;
		}
		if (head.bytes !== null && difference(parseDocument(head.bytes), document).length === 0) {
			return fail({ code: "nothing-changed", actual: `revision ${head.revision_no}`, expected: "a change to publish" });
		}
		const revision = await insertRevision(ctx, sql, {
			material: input.id,
			library: head.library_id,
			note: input.note.trim(),
			document,
		});
		const trying = await assignmentsOnDraft(sql, draft.id);
		await setAssignments(
			sql,
			trying.map((s) => ({ part: s.part, revision: revision.id, draft: null, before: null })),
		);
		await sql.run("DELETE FROM draft WHERE id = $id", { id: draft.id });
		await recordEvent(ctx, sql, {
			action: "material.publish",
			kind: "material",
			subject: input.id,
			changeset: { revision: revision.no, note: input.note, movedParts: trying.map((s) => s.part) },
			inverse: null,
		});
		refreshed(finding, after, input.id);
		return ok({ revision: revision.no, movedParts: trying.length });
	});
}

/** A copy in another library: a document of its own, published at once, origin kept. */
function copyMaterial(
	ctx: Context,
	finding: Finding,
	input: RouteInput<"copyMaterial">,
): Promise<Result<Undoable<{ id: string }>>> {
	return inWrite(ctx, async (sql, after) => {
		const source = await authorised(ctx, sql, input.id, "library.read");
		if (!source.ok) return source;
		const target = await authoriseLibrary(ctx, sql, input.libraryId, "library.edit");
		if (!target.ok) return target;
		const { bytes, revision_id, revision_no, group_id } = source.value;
		if (bytes === null || revision_id === null)
			return fail({ code: "not-published", actual: source.value.name, expected: "a published revision to copy" });
		const name = await freeName(sql, input.libraryId, source.value.name, "");
		if (!name.ok) return name;
		const path = await groupNames(sql, group_id);
		await insertMaterial(ctx, sql, {
			id: input.newId,
			library: input.libraryId,
			group: await ensureGroup(ctx, sql, input.libraryId, path),
			name: name.value,
			originKind: "copy",
			originRevision: revision_id,
		});
		const note = `Copy of ${source.value.name}, revision ${revision_no}, from ${source.value.library}`;
		await insertRevision(ctx, sql, { material: input.newId, library: input.libraryId, note, document: parseDocument(bytes) });
		const event = await recordEvent(ctx, sql, {
			action: "material.copy",
			kind: "material",
			subject: input.newId,
			changeset: { from: input.id, revision: revision_no },
			inverse: { kind: "material-row", id: input.newId, expect: { removed_at: null }, set: { removed_at: ctx.now() } },
		});
		refreshed(finding, after, input.newId);
		return ok({ event, value: { id: input.newId } });
	});
}

async function groupNames(sql: Sql, group: string | null): Promise<string> {
	const rows = await sql.all<{ name: string }>(
		`WITH RECURSIVE up(id, parent_id, name, depth) AS (
			SELECT id, parent_id, name, 0 FROM library_group WHERE id = $group
			UNION ALL SELECT g.id, g.parent_id, g.name, up.depth + 1 FROM library_group g JOIN up ON g.id = up.parent_id)
		 SELECT name FROM up ORDER BY depth DESC`,
		{ group },
	);
	return rows.map((r) => r.name).join(" / ");
}

function removeMaterial(ctx: Context, finding: Finding, id: string): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql, after) => {
		const material = await authorised(ctx, sql, id, "library.edit");
		if (!material.ok) return material;
		if (material.value.removed_at !== null) return fail({ code: "not-found", path: "The material" });
		const removedAt = ctx.now();
		await sql.run("UPDATE material SET removed_at = $removedAt WHERE id = $id", { removedAt, id });
		const event = await recordEvent(ctx, sql, {
			action: "material.remove",
			kind: "material",
			subject: id,
			changeset: { name: material.value.name },
			inverse: { kind: "material-row", id, expect: { removed_at: removedAt }, set: { removed_at: null } },
		});
		refreshed(finding, after, id);
		return ok({ event, value: null });
	});
}
