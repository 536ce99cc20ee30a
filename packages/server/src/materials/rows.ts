import type { RouteInput, Undoable } from "@alvek/contract";
import { asVariant, BLANK, difference, fromSimilar, type Material, nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authorised, authoriseLibrary, authorisePlace, requireOpenLock } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import {
	bearerOfCode,
	changeMaterialRow,
	draftDocument,
	draftOf,
	ensureGroup,
	headDocument,
	insertDraft,
	insertMaterial,
	type MaterialRecord,
	materialById,
	materialRow,
	recordEvent,
	setOrigin,
	siblingOf,
	type Values,
} from "../repo";
import { ensureLinksAvailable, ensureNameAvailable } from "./names";

export function createMaterial(ctx: Context, input: RouteInput<"createMaterial">): Promise<Result<Undoable<{ id: string }>>> {
	return inWrite(ctx, async (sql) => {
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
		const origin = base.value?.revision ?? null;
		await insertMaterial(ctx, sql, {
			id: input.id,
			place: input.libraryId,
			group: await ensureGroup(ctx, sql, input.libraryId, input.group ?? ""),
			name: name.value,
			originKind: origin === null ? null : (input.as ?? "similar"),
			originRevision: origin,
		});
		const edits = base.value === null ? [] : difference(BLANK, base.value.document);
		await insertDraft(ctx, sql, { material: input.id, base: null, edits });
		const event = await recordEvent(ctx, sql, {
			action: "material.create",
			kind: "material",
			subject: input.id,
			changeset: { name: name.value, from: input.from ?? null, as: input.as ?? "similar" },
			inverse: { kind: "material-row", id: input.id, expect: { removed_at: null }, set: { removed_at: ctx.now() } },
		});
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
	const { name, uid, revision_no, revision_id } = base.value;
	const published = headDocument(base.value);
	const draft = await draftOf(sql, from, ctx.actor.person);
	if (published === null && draft === null) return fail({ code: "not-found", path: "The base" });
	if (published === null && as !== "similar")
		return fail({ code: "not-published", actual: name, expected: "a published revision to follow" });
	const document = published ?? (draft === null ? BLANK : draftDocument(draft));
	const origin = { name, uid, revision: revision_no ?? 0 };
	return ok({
		name,
		revision: revision_id,
		document: as !== "similar" ? asVariant(document, origin) : fromSimilar(document, origin),
	});
}

export function changeMaterial(ctx: Context, input: RouteInput<"changeMaterial">): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const material = await authorised(ctx, sql, input.id, "library.edit");
		if (!material.ok) return material;
		const change = await changeOf(ctx, sql, material.value, input);
		if (!change.ok) return change;
		const set = change.value;
		if (Object.keys(set).length === 0) return fail({ code: "empty", expected: "a change" });
		const row: Values = (await materialRow(sql, input.id)) ?? {};
		const before = Object.fromEntries(Object.keys(set).map((key) => [key, row[key] ?? null]));
		await changeMaterialRow(ctx, sql, input.id, set);
		const event = await recordEvent(ctx, sql, {
			action: "material.change",
			kind: "material",
			subject: input.id,
			changeset: { before, after: set },
			inverse: { kind: "material-row", id: input.id, expect: set, set: before },
		});
		return ok({ event, value: null });
	});
}

/** Columns that a change sets, each checked against what else stands in the place. */
async function changeOf(
	ctx: Context,
	sql: Sql,
	material: MaterialRecord,
	input: RouteInput<"changeMaterial">,
): Promise<Result<Values>> {
	const set: Record<string, string | null> = {};
	const { library_id: place } = material;
	if (input.name !== undefined) {
		const name = await ensureNameAvailable(sql, place, input.name, input.id);
		if (!name.ok) return name;
		set.name = name.value;
		set.name_key = nameKey(name.value);
	}
	if (input.itemCode !== undefined) {
		const code = input.itemCode.trim();
		const bearer = await bearerOfCode(sql, place, code, input.id);
		if (bearer !== null)
			return fail({ code: "code-taken", path: "item code", actual: `${code} is ${bearer}`, expected: "a code of its own" });
		set.item_code = code;
	}
	if (input.knownAs !== undefined) {
		const links = await ensureLinksAvailable(sql, place, input.knownAs, input.id);
		if (!links.ok) return links;
		set.known_as = links.value;
	}
	if (input.shopName !== undefined) set.shop_name = input.shopName.trim();
	if (input.review !== undefined) set.review_at = input.review;
	if (input.offeredFor !== undefined)
		set.offered_for = JSON.stringify([...new Set(input.offeredFor.map((p) => p.trim()))].sort());
	if (input.group !== undefined) {
		if (material.project_id !== null) return fail({ code: "not-found", path: "The group" });
		const open = await requireOpenLock(ctx, sql, place);
		if (!open.ok) return open;
		set.group_id = await ensureGroup(ctx, sql, place, input.group);
	}
	return ok(set);
}

/** The base has moved on: from now on this material stands on that newer revision of it. Its values are edits of a draft. */
export function standOnNewest(ctx: Context, input: { id: string; revision: number }): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const material = await authorised(ctx, sql, input.id, "library.edit");
		if (!material.ok) return material;
		const before = material.value.origin_revision_id;
		const target = await siblingOf(sql, before, input.revision);
		if (target === null) return fail({ code: "not-found", path: "That revision of the base" });
		const readable = await authorisePlace(ctx, sql, target.place, "library.read");
		if (!readable.ok) return fail({ code: "not-found", path: "That revision of the base" });
		await setOrigin(sql, input.id, target.id);
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
		return ok({ event, value: null });
	});
}
