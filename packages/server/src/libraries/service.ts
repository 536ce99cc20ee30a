import type { BinRow, LibraryDetail, LibraryView, RouteInput, Undoable } from "@alvek/contract";
import { cleanName, nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { type LibraryRole, may, rightsSentence } from "@alvek/core/rights";
import {
	authoriseInstallation,
	authoriseLibrary,
	isSingleUser,
	libraryList,
	readableLibraries,
	readableProjects,
} from "../access";
import { type Context, inWrite, type Some, type Sql } from "../db";
import { proposalsIn } from "../materials";
import {
	allGroups,
	binOf,
	changeLibraryRow,
	draftsPerPerson,
	groupPath,
	groupTree,
	hasPerson,
	insertLibrary,
	type LibraryCounts,
	type LibraryRecord,
	libraryCounts,
	NOTHING_OWN,
	namedGrants,
	namesOfPeople,
	ownByLibrary,
	putHidden,
	recordEvent,
	setsOfLibrary,
	usersOfLibrary,
	type Values,
} from "../repo";
import { editionsOf } from "./editions";
import { lockView } from "./lock";

export async function listLibraries(ctx: Context): Promise<Result<readonly LibraryView[]>> {
	return ok(await libraryViews(ctx, ctx.db, await libraryList(ctx, ctx.db)));
}

async function libraryViews(ctx: Context, sql: Sql, libraries: readonly LibraryRecord[]): Promise<LibraryView[]> {
	const groups = await allGroups(sql);
	const byId = new Map(groups.map((g) => [g.id, g]));
	const own = await ownByLibrary(sql);
	const names = await namesOfPeople(sql);
	const ids = libraries.map((l) => l.id);
	const counts = new Map((await libraryCounts(sql, ids, ctx.actor.person)).map((c) => [c.id, c]));
	const single = await isSingleUser(sql);
	const views: LibraryView[] = [];
	for (const l of libraries) {
		const count = counts.get(l.id) as LibraryCounts;
		const resource = { kind: "library", supplied: l.kind === "supplied", role: l.role } as const;
		const may_ = (action: "library.edit" | "library.steward"): boolean => may(ctx.actor, action, resource) === null;
		views.push({
			id: l.id,
			name: l.name,
			description: l.description,
			supplied: l.kind === "supplied",
			materials: count.materials,
			role: ctx.actor.admin ? "steward" : (l.role as LibraryRole),
			mayEdit: l.archived === 0 && may_("library.edit"),
			maySteward: may_("library.steward"),
			owner: l.owner === null ? null : { id: l.owner, name: names.get(l.owner) ?? "" },
			openTo: count.everyone === 1 ? "everyone here" : count.people === 1 ? "1 person" : `${count.people} people`,
			archived: l.archived === 1,
			hidden: count.hidden === 1,
			approval: l.approval === 1,
			alone: single || (count.people === 1 && l.role !== null),
			lockMinutes: l.lock_minutes,
			lock: await lockView(ctx, sql, l),
			waiting: count.waiting,
			edition: count.edition,
			ownProperties: (own.get(l.id) ?? NOTHING_OWN).properties,
			ownUses: (own.get(l.id) ?? NOTHING_OWN).uses.filter((u) => !u.off),
			groups: groups.filter((g) => g.library_id === l.id).map((g) => groupPath(g.id, byId)),
		});
	}
	return views;
}

export async function getLibrary(ctx: Context, input: { id: string }): Promise<Result<LibraryDetail>> {
	const sql = ctx.db;
	const library = (await libraryList(ctx, sql)).find((l) => l.id === input.id);
	if (library === undefined) return fail({ code: "not-found", path: "The library" });
	const [view] = (await libraryViews(ctx, sql, [library])) as [LibraryView];
	const grants = await namedGrants(sql, "library", input.id);
	return ok({
		...view,
		sentence: rightsSentence(grants, view.owner?.name ?? "", view.supplied),
		grants,
		groupTree: await groupTree(sql, input.id),
		editions: await editionsOf(ctx, sql, input.id),
		// what is proposed is a draft: readers see it when it is published
		proposals: view.mayEdit ? await proposalsIn(ctx, sql, input.id) : [],
		drafting: await draftsPerPerson(sql, input.id),
		working: await sql.count("working_list", { library_id: input.id }),
		sets: await setsOfLibrary(sql, input.id),
		...(await usersOf(ctx, input.id)),
	});
}

/** Projects that stand on a library, with how many of their parts do. */
async function usersOf(ctx: Context, library: string): Promise<Pick<LibraryDetail, "usedBy" | "hiddenUsers">> {
	const rows = await usersOfLibrary(ctx.db, library);
	const readable = new Set((await readableProjects(ctx, ctx.db)).map((p) => p.id));
	const usedBy = rows.filter((r) => readable.has(r.id));
	return { usedBy, hiddenUsers: rows.length - usedBy.length };
}

/** A name as a library may bear it. */
export async function ensureLibraryNameAvailable(ctx: Context, sql: Sql, input: string, except: string): Promise<Result<string>> {
	const name = cleanName(input);
	if (!name.ok) return name;
	// among those that one may see: whether others bear the name is not told
	const key = nameKey(name.value);
	const taken = (await libraryList(ctx, sql)).some((l) => l.id !== except && nameKey(l.name) === key);
	return !taken ? name : fail({ code: "library-taken", path: "name", actual: name.value });
}

export function createLibrary(ctx: Context, input: RouteInput<"createLibrary">): Promise<Result<Undoable<{ id: string }>>> {
	return inWrite(ctx, async (sql) => {
		const may = authoriseInstallation(ctx, "library.create");
		if (!may.ok) return may;
		if (await sql.has("library", { id: input.id })) return fail({ code: "id-taken" });
		const name = await ensureLibraryNameAvailable(ctx, sql, input.name, input.id);
		if (!name.ok) return name;
		const library = { id: input.id, name: name.value, description: input.description.trim(), kind: "own" } as const;
		await insertLibrary(ctx, sql, library, "steward");
		const event = await recordEvent(ctx, sql, {
			action: "library.create",
			kind: "library",
			subject: input.id,
			changeset: { name: name.value },
			inverse: { kind: "library-row", id: input.id, expect: { archived: 0 }, set: { archived: 1 } },
		});
		return ok({ event, value: { id: input.id } });
	});
}

export function changeLibrary(ctx: Context, input: RouteInput<"changeLibrary">): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.steward");
		if (!library.ok) return library;
		const set: Record<string, string | number | null> = {};
		if (input.name !== undefined) {
			const name = await ensureLibraryNameAvailable(ctx, sql, input.name, input.id);
			if (!name.ok) return name;
			set.name = name.value;
		}
		if (input.description !== undefined) set.description = input.description.trim();
		if (input.approval !== undefined) set.approval = input.approval ? 1 : 0;
		if (input.lockMinutes !== undefined) set.lock_minutes = input.lockMinutes;
		if (input.archived !== undefined) set.archived = input.archived ? 1 : 0;
		if (input.owner != null) {
			if (!(await hasPerson(sql, input.owner))) return fail({ code: "not-found", path: "The person" });
			set.owner = input.owner;
		}
		if (Object.keys(set).length === 0) return fail({ code: "empty", expected: "a change" });
		const row: Values = { ...library.value };
		const before = Object.fromEntries(Object.keys(set).map((k) => [k, row[k] ?? null]));
		await changeLibraryRow(sql, input.id, set as Some<"library">);
		const event = await recordEvent(ctx, sql, {
			action: input.archived === undefined ? "library.change" : input.archived ? "library.archive" : "library.bring-back",
			kind: "library",
			subject: input.id,
			changeset: { before, after: set },
			inverse: { kind: "library-row", id: input.id, expect: set, set: before },
		});
		return ok({ event, value: null });
	});
}

export function hideLibrary(ctx: Context, input: { id: string; on: boolean }): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.read");
		if (!library.ok) return library;
		await putHidden(sql, input.id, ctx.actor.person, input.on);
		return ok(null);
	});
}

const MOST_BINNED = 500;

/** Materials in the bin, the last one first, with who put each there. */
export async function listBin(ctx: Context): Promise<Result<readonly BinRow[]>> {
	const libraries = (await readableLibraries(ctx, ctx.db)).map((l) => l.id);
	return ok(await binOf(ctx.db, libraries, ctx.actor.person, MOST_BINNED));
}
