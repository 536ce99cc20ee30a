import type { Copied, RouteInput, Undoable } from "@alvek/contract";
import { nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authorised, authorisedAll, authoriseInstallation, authoriseLibrary, requirePublishing } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import { ensureLibraryNameAvailable } from "../libraries";
import { ensureNameAvailable } from "../materials";
import {
	type CopiedRow,
	copySources,
	documentsOf,
	type Entry,
	ensureGroup,
	groupById,
	insertCopiedRevisions,
	insertCopies,
	insertLibrary,
	insertMaterial,
	insertRevision,
	materialById,
	nameKeysIn,
	openPublish,
	parseDocument,
	pathOfGroup,
	recordEvent,
	stateNow,
} from "../repo";
import { proposeNew, recordProposal } from "./publish";

type Copies = { readonly ids: readonly string[]; readonly left: readonly string[]; readonly proposed: boolean };

/**
 * Copies of published materials in another library, with the same documents (shared by hash), origins kept, as one
 * publish, or as one proposal where the library asks for a second person. Names that are taken there are left out and told.
 */
async function copyEntries(
	ctx: Context,
	sql: Sql,
	input: { entries: readonly Entry[]; library: string; note: string; proposed: boolean },
): Promise<Result<Copies>> {
	const { library, entries, proposed } = input;
	const taken = await nameKeysIn(sql, library);
	const fresh = entries.filter((e) => !taken.has(nameKey(e.name)));
	if (fresh.length === 0) return ok({ ids: [], left: entries.map((e) => e.name), proposed });
	const groups = new Map<string, string | null>();
	for (const path of new Set(fresh.map((e) => e.group))) groups.set(path, await ensureGroup(ctx, sql, library, path));
	const publish = await openPublish(ctx, sql, { place: library, note: input.note, state: proposed ? "proposed" : "done" });
	const rows = fresh.map(
		(e): CopiedRow => ({
			id: ctx.newId(),
			uid: ctx.newId(),
			revision: ctx.newId(),
			name: e.name,
			key: nameKey(e.name),
			group: groups.get(e.group) ?? null,
			code: e.code,
			origin: e.revision,
		}),
	);
	await insertCopies(ctx, sql, library, rows);
	const names = new Set(fresh.map((e) => e.name));
	const copies: Copies = {
		ids: rows.map((r) => r.id),
		left: entries.map((e) => e.name).filter((n) => !names.has(n)),
		proposed,
	};
	if (!proposed) {
		await insertCopiedRevisions(sql, publish, rows);
		return ok(copies);
	}
	const documents = await documentsOf(
		sql,
		rows.map((r) => r.origin),
	);
	const drafts = rows.flatMap(({ id, origin }) => {
		const document = documents.get(origin);
		return document === undefined ? [] : [[id, document] as const];
	});
	await proposeNew(ctx, sql, publish, new Map(drafts));
	await recordProposal(ctx, sql, library, { publish, note: input.note });
	return ok(copies);
}

const countsOf = ({ ids, proposed }: Copies): Pick<Copied, "copied" | "proposed"> =>
	proposed ? { copied: 0, proposed: ids.length } : { copied: ids.length, proposed: 0 };

export function copyLibrary(
	ctx: Context,
	input: RouteInput<"copyLibrary">,
): Promise<Result<Undoable<{ id: string; materials: number }>>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.read");
		if (!library.ok) return library;
		const may = authoriseInstallation(ctx, "library.create");
		if (!may.ok) return may;
		if (await sql.has("library", { id: input.newId })) return fail({ code: "id-taken" });
		const name = await ensureLibraryNameAvailable(ctx, sql, input.name, input.newId);
		if (!name.ok) return name;
		const { description } = library.value;
		await insertLibrary(ctx, sql, { id: input.newId, name: name.value, description, kind: "own" }, "steward");
		// properties of its own come along under the same ids, which documents name
		await copySources(sql, input.id, input.newId, ctx.newId);
		const entries = [...(await stateNow(sql, input.id)).values()];
		const note = `Copy of ${library.value.name}`;
		const copies = await copyEntries(ctx, sql, { entries, library: input.newId, note, proposed: false });
		if (!copies.ok) return copies;
		const { ids } = copies.value;
		const event = await recordEvent(ctx, sql, {
			action: "library.copy",
			kind: "library",
			subject: input.newId,
			changeset: { from: library.value.name, materials: ids.length },
			inverse: { kind: "library-row", id: input.newId, expect: { archived: 0 }, set: { archived: 1 } },
		});
		return ok({ event, value: { id: input.newId, materials: ids.length } });
	});
}

/** Chosen materials of any libraries that I may read, copied under their own groups. */
export function copyMany(ctx: Context, input: { ids: readonly string[]; libraryId: string }): Promise<Result<Undoable<Copied>>> {
	return inWrite(ctx, async (sql) => {
		const target = await requirePublishing(ctx, sql, input.libraryId);
		if (!target.ok) return target;
		const states = new Map<string, ReadonlyMap<string, Entry>>();
		const entries: Entry[] = [];
		const unpublished: string[] = [];
		const materials = await authorisedAll(ctx, sql, input.ids, "library.read");
		if (!materials.ok) return materials;
		for (const { id, library_id, name } of materials.value) {
			const state = states.get(library_id) ?? (await stateNow(sql, library_id));
			states.set(library_id, state);
			const entry = state.get(id);
			if (entry === undefined) unpublished.push(name);
			else entries.push(entry);
		}
		const { proposed } = target.value;
		const copies = await copyEntries(ctx, sql, { entries, library: input.libraryId, note: "Copied in", proposed });
		if (!copies.ok) return copies;
		const { ids, left } = copies.value;
		const event = await recordCopies(ctx, sql, { library: input.libraryId, told: { group: "", copied: ids.length }, ids });
		return ok({ event, value: { ...countsOf(copies.value), left: [...left, ...unpublished] } });
	});
}

/** The step of copying, whose undo puts the copies into the bin. */
function recordCopies(
	ctx: Context,
	sql: Sql,
	{ library, told, ids }: { readonly library: string; readonly told: unknown; readonly ids: readonly string[] },
): Promise<number> {
	const removed = { removed_at: ctx.now() };
	const rows = ids.map((id) => ({ id, expect: { removed_at: null }, set: removed }));
	return recordEvent(ctx, sql, {
		action: "group.copy",
		kind: "library",
		subject: library,
		changeset: told,
		inverse: { kind: "material-rows", rows },
	});
}

/** A group with all that stands under it, copied to another library under its own name. */
export function copyGroup(ctx: Context, input: { id: string; libraryId: string }): Promise<Result<Undoable<Copied>>> {
	return inWrite(ctx, async (sql) => {
		const group = await groupById(sql, input.id);
		const readable = group === null ? null : await authoriseLibrary(ctx, sql, group.library, "library.read");
		if (group === null || !readable?.ok) return fail({ code: "not-found", path: "The group" });
		const target = await requirePublishing(ctx, sql, input.libraryId);
		if (!target.ok) return target;
		const path = await pathOfGroup(sql, group.id);
		const inside = [...(await stateNow(sql, group.library)).values()].filter(
			(e) => e.group === path || e.group.startsWith(`${path} / `),
		);
		// the group itself is what is copied, not those above it
		const above = path.slice(0, path.length - group.name.length);
		const entries = inside.map((e) => ({ ...e, group: e.group.slice(above.length) }));
		if (entries.length === 0) return fail({ code: "nothing-to-freeze", path: group.name });
		const copies = await copyEntries(ctx, sql, {
			entries,
			library: input.libraryId,
			note: `Copy of the group ${path}, from ${readable.value.name}`,
			proposed: target.value.proposed,
		});
		if (!copies.ok) return copies;
		const { ids, left } = copies.value;
		const told = { group: path, from: readable.value.name, copied: ids.length };
		const event = await recordCopies(ctx, sql, { library: input.libraryId, told, ids });
		return ok({ event, value: { ...countsOf(copies.value), left } });
	});
}

/** A copy in another library: a document of its own, published at once or proposed, origin kept. */
export function copyMaterial(
	ctx: Context,
	input: RouteInput<"copyMaterial">,
): Promise<Result<Undoable<{ id: string; proposed: boolean }>>> {
	return inWrite(ctx, async (sql) => {
		const source = await authorised(ctx, sql, input.id, "library.read");
		if (!source.ok) return source;
		const target = await requirePublishing(ctx, sql, input.libraryId);
		if (!target.ok) return target;
		const { bytes, revision_id, revision_no, group_id } = source.value;
		if (bytes === null || revision_id === null)
			return fail({ code: "not-published", actual: source.value.name, expected: "a published revision to copy" });
		if ((await materialById(sql, input.newId)) !== null) return fail({ code: "id-taken" });
		const name = await ensureNameAvailable(sql, input.libraryId, source.value.name, "");
		if (!name.ok) return name;
		await insertMaterial(ctx, sql, {
			id: input.newId,
			place: input.libraryId,
			group: await ensureGroup(ctx, sql, input.libraryId, await pathOfGroup(sql, group_id)),
			name: name.value,
			originKind: "copy",
			originRevision: revision_id,
		});
		const note = `Copy of ${source.value.name}, revision ${revision_no}, from ${source.value.library}`;
		// where a second person approves, a copy is proposed like anything else
		const { proposed } = target.value;
		const publish = await openPublish(ctx, sql, { place: input.libraryId, note, state: proposed ? "proposed" : "done" });
		const document = parseDocument(bytes);
		if (proposed) await proposeNew(ctx, sql, publish, new Map([[input.newId, document]]));
		else await insertRevision(ctx, sql, { material: input.newId, publish, document });
		const event = await recordEvent(ctx, sql, {
			action: "material.copy",
			kind: "material",
			subject: input.newId,
			changeset: { from: input.id, revision: revision_no },
			inverse: { kind: "material-row", id: input.newId, expect: { removed_at: null }, set: { removed_at: ctx.now() } },
		});
		if (proposed) await recordProposal(ctx, sql, input.libraryId, { publish, note });
		return ok({ event, value: { id: input.newId, proposed } });
	});
}
