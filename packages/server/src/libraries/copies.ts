import type { Copied, RouteInput, Undoable } from "@alvek/contract";
import type { EventAction } from "@alvek/core/event";
import { type Material, nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { authoriseLibrary } from "../db/rights";
import { type Context, type GroupState, inWrite, recordEvent } from "../db/write";
import { authorised } from "../materials/access";
import type { Finding } from "../materials/finding";
import { proposeNew, recordProposal } from "../materials/publish";
import { documentsOf, ensureGroup, openPublish } from "../materials/store";
import { groupPath } from "../materials/upkeep";
import { allowed } from "../people/service";
import { type Entry, stateNow } from "./editions";
import { groupsOf } from "./groups";
import { isSingleUser, requireOpenLock } from "./lock";
import { freeLibraryName, insertLibrary } from "./service";

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
	const taken = new Set(
		(
			await sql.all<{ name_key: string }>("SELECT name_key FROM material WHERE library_id = $library AND removed_at IS NULL", {
				library,
			})
		).map((r) => r.name_key),
	);
	const fresh = entries.filter((e) => !taken.has(nameKey(e.name)));
	if (fresh.length === 0) return ok({ ids: [], left: entries.map((e) => e.name), proposed });
	const groups = new Map<string, string | null>();
	for (const path of new Set(fresh.map((e) => e.group))) groups.set(path, await ensureGroup(ctx, sql, library, path));
	const publish = await openPublish(ctx, sql, library, input.note, proposed ? "proposed" : "done");
	const rows = fresh.map((e) => ({
		id: ctx.newId(),
		uid: ctx.newId(),
		revision: ctx.newId(),
		name: e.name,
		key: nameKey(e.name),
		group: groups.get(e.group) ?? null,
		code: e.code,
		origin: e.revision,
	}));
	const bind = { rows: JSON.stringify(rows), library, publish, owner: ctx.actor.person, at: ctx.now() };
	// a code that is taken there is left blank: codes are unique within a library
	await sql.run(
		`INSERT INTO material (id, uid, library_id, group_id, name, name_key, item_code, owner, origin_kind, origin_revision_id, changed_at)
		 SELECT j.value ->> 'id', j.value ->> 'uid', $library, j.value ->> 'group', j.value ->> 'name', j.value ->> 'key',
			CASE WHEN EXISTS (SELECT 1 FROM material x WHERE x.library_id = $library AND x.removed_at IS NULL AND x.item_code = j.value ->> 'code')
				THEN '' ELSE j.value ->> 'code' END, $owner, 'copy', j.value ->> 'origin', $at FROM json_each($rows) j`,
		{ rows: bind.rows, library, owner: bind.owner, at: bind.at },
	);
	const names = new Set(fresh.map((e) => e.name));
	const copies: Copies = {
		ids: rows.map((r) => r.id),
		left: entries.map((e) => e.name).filter((n) => !names.has(n)),
		proposed,
	};
	if (proposed) {
		const documents = await documentsOf(
			sql,
			rows.map((r) => r.origin),
		);
		for (const { id, origin } of rows) {
			const one = await proposeNew(ctx, sql, publish, id, documents.get(origin) as Material);
			if (!one.ok) return one;
		}
		await recordProposal(ctx, sql, library, publish, input.note);
		return ok(copies);
	}
	await sql.run(
		`INSERT INTO revision (id, material_id, no, publish_id, document_hash)
		 SELECT j.value ->> 'revision', j.value ->> 'id', 1, $publish, r.document_hash FROM json_each($rows) j JOIN revision r ON r.id = j.value ->> 'origin'`,
		{ rows: bind.rows, publish },
	);
	await sql.run(
		`INSERT INTO publish_item (publish_id, material_id, revision_id) SELECT $publish, value ->> 'id', value ->> 'revision' FROM json_each($rows)`,
		{ rows: bind.rows, publish },
	);
	// what is known of a document holds for its copy too
	await sql.run(
		`INSERT INTO facts (revision_id, version, bytes, readiness)
		 SELECT j.value ->> 'revision', f.version, f.bytes, f.readiness FROM json_each($rows) j JOIN facts f ON f.revision_id = j.value ->> 'origin'`,
		{ rows: bind.rows },
	);
	return ok(copies);
}

/** Does the library ask for a second person, who is there? */
const asksForSecond = async (sql: Sql, library: { readonly approval: number }): Promise<boolean> =>
	library.approval === 1 && !(await isSingleUser(sql));

const countsOf = ({ ids, proposed }: Copies): Pick<Copied, "copied" | "proposed"> =>
	proposed ? { copied: 0, proposed: ids.length } : { copied: ids.length, proposed: 0 };

export function copyLibrary(
	ctx: Context,
	finding: Finding,
	input: RouteInput<"copyLibrary">,
): Promise<Result<Undoable<{ id: string; materials: number }>>> {
	return inWrite(ctx, async (sql, after) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.read");
		if (!library.ok) return library;
		const may = allowed(ctx, "library.create");
		if (!may.ok) return may;
		if ((await sql.one("SELECT 1 AS x FROM library WHERE id = $id", { id: input.newId })) !== null)
			return fail({ code: "id-taken" });
		const name = await freeLibraryName(ctx, sql, input.name, input.newId);
		if (!name.ok) return name;
		await insertLibrary(ctx, sql, { id: input.newId, name: name.value, description: library.value.description, kind: "own" });
		// properties of its own come along under the same ids, which documents name
		await sql.run(
			`INSERT INTO source (id, library_id, version, content, changed_at)
			 SELECT lower(hex(randomblob(16))), $newId, version, content, changed_at FROM source WHERE library_id = $id`,
			{ id: input.id, newId: input.newId },
		);
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
		after(() => finding.refresh(ids));
		return ok({ event, value: { id: input.newId, materials: ids.length } });
	});
}

/** Chosen materials of any libraries that I may read, copied under their own groups. */
export function copyMany(
	ctx: Context,
	finding: Finding,
	input: { ids: readonly string[]; libraryId: string },
): Promise<Result<Undoable<Copied>>> {
	return inWrite(ctx, async (sql, after) => {
		const target = await requireOpenLock(ctx, sql, input.libraryId);
		if (!target.ok) return target;
		const states = new Map<string, ReadonlyMap<string, Entry>>();
		const entries: Entry[] = [];
		const unpublished: string[] = [];
		for (const id of new Set(input.ids)) {
			const material = await authorised(ctx, sql, id, "library.read");
			if (!material.ok) return material;
			const { library_id, name } = material.value;
			const state = states.get(library_id) ?? (await stateNow(sql, library_id));
			states.set(library_id, state);
			const entry = state.get(id);
			if (entry === undefined) unpublished.push(name);
			else entries.push(entry);
		}
		const proposed = await asksForSecond(sql, target.value);
		const copies = await copyEntries(ctx, sql, { entries, library: input.libraryId, note: "Copied in", proposed });
		if (!copies.ok) return copies;
		const { ids, left } = copies.value;
		const event = await toldCopies(ctx, sql, input.libraryId, "group.copy", { group: "", copied: ids.length }, ids);
		after(() => finding.refresh(ids));
		return ok({ event, value: { ...countsOf(copies.value), left: [...left, ...unpublished] } });
	});
}

/** The step of copying, whose undo puts the copies into the bin. */
function toldCopies(
	ctx: Context,
	sql: Sql,
	library: string,
	action: EventAction,
	changeset: unknown,
	ids: readonly string[],
): Promise<number> {
	const removed = { removed_at: ctx.now() };
	const rows = ids.map((id) => ({ id, expect: { removed_at: null }, set: removed }));
	return recordEvent(ctx, sql, {
		action,
		kind: "library",
		subject: library,
		changeset,
		inverse: { kind: "material-rows", rows },
	});
}

/** A group with all that stands under it, copied to another library under its own name. */
export function copyGroup(
	ctx: Context,
	finding: Finding,
	input: { id: string; libraryId: string },
): Promise<Result<Undoable<Copied>>> {
	return inWrite(ctx, async (sql, after) => {
		const group = await sql.one<{ id: string; library_id: string; name: string }>(
			"SELECT id, library_id, name FROM library_group WHERE id = $id",
			{ id: input.id },
		);
		const readable = group === null ? null : await authoriseLibrary(ctx, sql, group.library_id, "library.read");
		if (group === null || !readable?.ok) return fail({ code: "not-found", path: "The group" });
		const target = await requireOpenLock(ctx, sql, input.libraryId);
		if (!target.ok) return target;
		const path = pathOf(await groupsOf(sql, group.library_id), group.id);
		const inside = [...(await stateNow(sql, group.library_id)).values()].filter(
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
			proposed: await asksForSecond(sql, target.value),
		});
		if (!copies.ok) return copies;
		const { ids, left } = copies.value;
		const told = { group: path, from: readable.value.name, copied: ids.length };
		const event = await toldCopies(ctx, sql, input.libraryId, "group.copy", told, ids);
		after(() => finding.refresh(ids));
		return ok({ event, value: { ...countsOf(copies.value), left } });
	});
}

function pathOf(groups: readonly GroupState[], id: string): string {
	const byId = groups.map((g) => [g.id, { ...g, library_id: g.library, parent_id: g.parent }] as const);
	return groupPath(id, new Map(byId));
}
