import type { RouteInput, Undoable } from "@alvek/contract";
import { asVariant, BLANK, difference, fromSimilar, type Material, nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { authoriseLibrary } from "../db/rights";
import { type Context, inWrite, recordEvent } from "../db/write";
import { isSingleUser, requireOpenLock } from "../libraries/lock";
import { authorised, authorisePlace, ensureNameAvailable, insertDraft, placeOf, refreshed } from "./access";
import type { Finding } from "./finding";
import { freeLinks } from "./namelinks";
import { proposeNew, recordProposal } from "./publish";
import {
	type DraftRecord,
	draftDocument,
	draftOf,
	ensureGroup,
	insertRevision,
	materialById,
	openPublish,
	parseDocument,
} from "./store";

type NewRow = {
	id: string;
	/** A library's id, or `project:` and a project's id. */
	place: string;
	group: string | null;
	name: string;
	originKind: string | null;
	originRevision: string | null;
};

export async function insertMaterial(ctx: Context, sql: Sql, row: NewRow): Promise<void> {
	await sql.run(
		`INSERT INTO material (id, uid, library_id, project_id, group_id, name, name_key, owner, origin_kind, origin_revision_id, changed_at)
		 VALUES ($id, $uid, $library, $project, $group, $name, $key, $owner, $originKind, $originRevision, $at)`,
		{
			id: row.id,
			uid: ctx.newId(),
			...placeOf(row.place),
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

export function createMaterial(
	ctx: Context,
	finding: Finding,
	input: RouteInput<"createMaterial">,
): Promise<Result<Undoable<{ id: string }>>> {
	return inWrite(ctx, async (sql, after) => {
		const library = await authoriseLibrary(ctx, sql, input.libraryId, "library.edit");
		if (!library.ok) return library;
		const existing = await materialById(sql, input.id);
		if (existing !== null)
			return existing.library_id === input.libraryId ? ok({ event: 0, value: { id: input.id } }) : fail({ code: "id-taken" });
		const base = await baseFor(ctx, sql, input.from ?? null, input.as ?? "similar");
		if (!base.ok) return base;
		const name = await ensureNameAvailable(sql, input.libraryId, input.name, "");
		if (!name.ok) return name;
		// a layer stands for the supplied one, so it may bear the same name
		if (base.value !== null && input.as !== "layer" && nameKey(base.value.name) === nameKey(name.value)) {
			return fail({ code: "same-name-as-base", path: "name", actual: base.value.name });
		}
		const group = await ensureGroup(ctx, sql, input.libraryId, input.group ?? "");
		const origin = base.value?.revision ?? null;
		await insertMaterial(ctx, sql, {
			id: input.id,
			place: input.libraryId,
			group,
			name: name.value,
			originKind: origin === null ? null : (input.as ?? "similar"),
			originRevision: origin,
		});
		await insertDraft(ctx, sql, input.id, null, base.value === null ? [] : difference(BLANK, base.value.document));
		const event = await recordEvent(ctx, sql, {
			action: "material.create",
			kind: "material",
			subject: input.id,
			changeset: { name: name.value, from: input.from ?? null, as: input.as ?? "similar" },
			inverse: { kind: "material-row", id: input.id, expect: { removed_at: null }, set: { removed_at: ctx.now() } },
		});
		refreshed(finding, after, input.id);
		return ok({ event, value: { id: input.id } });
	});
}

type SimilarBase = { name: string; revision: string | null; document: Material };

/**
 * What a new material starts from: the base's newest revision, every value carried over; or, for a variant, following
 * it. Only what was published can be followed.
 */
async function baseFor(
	ctx: Context,
	sql: Sql,
	from: string | null,
	as: "similar" | "variant" | "layer",
): Promise<Result<SimilarBase | null>> {
	if (from === null) return ok(null);
	const base = await authorised(ctx, sql, from, "library.read");
	if (!base.ok) return base;
	const draft = await draftOf(sql, from, ctx.actor.person);
	const { bytes, name, uid, revision_no, revision_id } = base.value;
	if (bytes === null && draft === null) return fail({ code: "not-found", path: "The base" });
	if (bytes === null && as !== "similar")
		return fail({ code: "not-published", actual: name, expected: "a published revision to follow" });
	const document = bytes === null ? draftDocument(draft as DraftRecord) : parseDocument(bytes);
	const origin = { name, uid, revision: revision_no ?? 0 };
	return ok({
		name,
		revision: revision_id,
		document: as !== "similar" ? asVariant(document, origin) : fromSimilar(document, origin),
	});
}

export function changeMaterial(
	ctx: Context,
	finding: Finding,
	input: RouteInput<"changeMaterial">,
): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql, after) => {
		const material = await authorised(ctx, sql, input.id, "library.edit");
		if (!material.ok) return material;
		const set: Record<string, string | null> = {};
		if (input.name !== undefined) {
			const name = await ensureNameAvailable(sql, material.value.library_id, input.name, input.id);
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
		if (input.knownAs !== undefined) {
			const links = await freeLinks(sql, material.value.library_id, input.knownAs, input.id);
			if (!links.ok) return links;
			set.known_as = links.value;
		}
		if (input.shopName !== undefined) set.shop_name = input.shopName.trim();
		if (input.review !== undefined) set.review_at = input.review;
		if (input.offeredFor !== undefined)
			set.offered_for = JSON.stringify([...new Set(input.offeredFor.map((p) => p.trim()))].sort());
		if (input.group !== undefined && material.value.project_id !== null) return fail({ code: "not-found", path: "The group" });
		if (input.group !== undefined) {
			const open = await requireOpenLock(ctx, sql, material.value.library_id);
			if (!open.ok) return open;
		}
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

/** A copy in another library: a document of its own, published at once or proposed, origin kept. */
export function copyMaterial(
	ctx: Context,
	finding: Finding,
	input: RouteInput<"copyMaterial">,
): Promise<Result<Undoable<{ id: string; proposed: boolean }>>> {
	return inWrite(ctx, async (sql, after) => {
		const source = await authorised(ctx, sql, input.id, "library.read");
		if (!source.ok) return source;
		const target = await requireOpenLock(ctx, sql, input.libraryId);
		if (!target.ok) return target;
		const { bytes, revision_id, revision_no, group_id } = source.value;
		if (bytes === null || revision_id === null)
			return fail({ code: "not-published", actual: source.value.name, expected: "a published revision to copy" });
		if ((await materialById(sql, input.newId)) !== null) return fail({ code: "id-taken" });
		const name = await ensureNameAvailable(sql, input.libraryId, source.value.name, "");
		if (!name.ok) return name;
		const path = await groupNames(sql, group_id);
		await insertMaterial(ctx, sql, {
			id: input.newId,
			place: input.libraryId,
			group: await ensureGroup(ctx, sql, input.libraryId, path),
			name: name.value,
			originKind: "copy",
			originRevision: revision_id,
		});
		const note = `Copy of ${source.value.name}, revision ${revision_no}, from ${source.value.library}`;
		// where a second person approves, a copy is proposed like anything else
		const proposed = target.value.approval === 1 && !(await isSingleUser(sql));
		const publish = await openPublish(ctx, sql, input.libraryId, note, proposed ? "proposed" : "done");
		const document = parseDocument(bytes);
		if (proposed) {
			const draft = await proposeNew(ctx, sql, publish, input.newId, document);
			if (!draft.ok) return draft;
		} else await insertRevision(ctx, sql, { material: input.newId, publish, document });
		const event = await recordEvent(ctx, sql, {
			action: "material.copy",
			kind: "material",
			subject: input.newId,
			changeset: { from: input.id, revision: revision_no },
			inverse: { kind: "material-row", id: input.newId, expect: { removed_at: null }, set: { removed_at: ctx.now() } },
		});
		if (proposed) await recordProposal(ctx, sql, input.libraryId, publish, note);
		refreshed(finding, after, input.newId);
		return ok({ event, value: { id: input.newId, proposed } });
	});
}

/** The base has moved on: from now on this material stands on that newer revision of it. Its values are edits of a draft. */
export function standOnNewest(
	ctx: Context,
	finding: Finding,
	input: { id: string; revision: number },
): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql, after) => {
		const material = await authorised(ctx, sql, input.id, "library.edit");
		if (!material.ok) return material;
		const before = material.value.origin_revision_id;
		const target = await sql.one<{ id: string; library: string }>(
			`SELECT n.id, COALESCE(m.library_id, 'project:' || m.project_id) AS library FROM revision o JOIN revision n ON n.material_id = o.material_id
			 JOIN material m ON m.id = o.material_id WHERE o.id = $before AND n.no = $no`,
			{ before, no: input.revision },
		);
		if (target === null) return fail({ code: "not-found", path: "That revision of the base" });
		const readable = await authorisePlace(ctx, sql, target.library, "library.read");
		if (!readable.ok) return fail({ code: "not-found", path: "That revision of the base" });
		await sql.run("UPDATE material SET origin_revision_id = $to WHERE id = $id", { to: target.id, id: input.id });
		const event = await recordEvent(ctx, sql, {
			action: "material.base",
			kind: "material",
			subject: input.id,
			changeset: { revision: input.revision },
			inverse: {
				kind: "material-row",
				id: input.id,
				expect: { origin_revision_id: target.id },
				set: { origin_revision_id: before },
			},
		});
		refreshed(finding, after, input.id);
		return ok({ event, value: null });
	});
}

async function groupNames(sql: Sql, group: string | null): Promise<string> {
	const rows = await sql.all<{ name: string }>(
		`WITH RECURSIVE up(id, parent_id, name, depth) AS (
			SELECT id, parent_id, name, 0 FROM library_group WHERE id = $group
			UNION ALL SELECT g.id, g.parent_id, g.name, up.depth + 1 FROM library_group g JOIN up ON g.id = up.parent_id WHERE up.depth < 100)
		 SELECT name FROM up ORDER BY depth DESC`,
		{ group },
	);
	return rows.map((r) => r.name).join(" / ");
}
