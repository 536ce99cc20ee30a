import type { BinRow, LibraryDetail, LibraryView, RouteInput, Undoable } from "@alvek/contract";
import { cleanName, nameKey } from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import { fail, ok, type Result } from "@alvek/core/result";
import { type LibraryRole, may, type NamedGrant, rightsSentence } from "@alvek/core/rights";
import type { Sql } from "../db/connection";
import { authoriseLibrary, type LibraryRecord, readableLibraries, readableProjects } from "../db/rights";
import { type Context, inWrite, recordEvent } from "../db/write";
import { allGroups } from "../materials/store";
import { groupPath } from "../materials/upkeep";
import { allowed } from "../people/service";
import { editionsOf } from "./editions";
import { namedGrants } from "./grants";
import { lockView } from "./lock";
import { proposalsIn } from "./proposals";

/** What each library counts, asked for all of them at once. */
type Counts = {
	id: string;
	materials: number;
	waiting: number;
	edition: number;
	hidden: number;
	everyone: number;
	people: number;
};

function countsOf(ctx: Context, sql: Sql, ids: readonly string[]): Promise<Counts[]> {
	return sql.all<Counts>(
		`SELECT l.id,
			(SELECT COUNT(*) FROM material m WHERE m.library_id = l.id AND m.removed_at IS NULL
				AND EXISTS (SELECT 1 FROM revision r WHERE r.material_id = m.id)) AS materials,
			(SELECT COUNT(*) FROM publish b WHERE b.place = l.id AND b.state = 'proposed') AS waiting,
			(SELECT COALESCE(MAX(e.no), 0) FROM edition e WHERE e.library_id = l.id) AS edition,
			EXISTS (SELECT 1 FROM library_hidden h WHERE h.library_id = l.id AND h.person_id = $person) AS hidden,
			EXISTS (SELECT 1 FROM access_grant g WHERE g.subject_kind = 'everyone' AND ((g.kind = 'library' AND g.target = l.id)
				OR (g.kind = 'set' AND g.target IN (SELECT set_id FROM set_member WHERE library_id = l.id)))) AS everyone,
			(SELECT COUNT(DISTINCT h.person_id) FROM reach h WHERE h.kind = 'library' AND h.target = l.id) AS people
		 FROM library l WHERE l.id IN (SELECT value FROM json_each($ids))`,
		{ person: ctx.actor.person, ids: JSON.stringify(ids) },
	);
}

export async function listLibraries(ctx: Context): Promise<Result<readonly LibraryView[]>> {
	return ok(await libraryViews(ctx, ctx.db, await readableLibraries(ctx, ctx.db, true)));
}

async function libraryViews(ctx: Context, sql: Sql, libraries: readonly LibraryRecord[]): Promise<LibraryView[]> {
	const groups = await allGroups(sql);
	const byId = new Map(groups.map((g) => [g.id, g]));
	const own = await sql.all<{ library_id: string; content: string }>("SELECT library_id, content FROM own_property ORDER BY uid");
	const names = new Map((await sql.all<{ id: string; name: string }>("SELECT id, name FROM person")).map((p) => [p.id, p.name]));
	const counts = new Map(
		(
			await countsOf(
				ctx,
				sql,
				libraries.map((l) => l.id),
			)
		).map((c) => [c.id, c]),
	);
	const views: LibraryView[] = [];
	for (const l of libraries) {
		const count = counts.get(l.id) as Counts;
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
			lockMinutes: l.lock_minutes,
			lock: await lockView(ctx, sql, l),
			waiting: count.waiting,
			edition: count.edition,
			ownProperties: own.filter((p) => p.library_id === l.id).map((p) => JSON.parse(p.content) as OwnProperty),
			groups: groups.filter((g) => g.library_id === l.id).map((g) => groupPath(g.id, byId)),
		});
	}
	return views;
}

export async function getLibrary(ctx: Context, input: { id: string }): Promise<Result<LibraryDetail>> {
	const sql = ctx.db;
	const library = (await readableLibraries(ctx, sql, true)).find((l) => l.id === input.id);
	if (library === undefined) return fail({ code: "not-found", path: "The library" });
	const [view] = (await libraryViews(ctx, sql, [library])) as [LibraryView];
	const grants = await namedGrants(sql, "library", input.id);
	const groupTree = await sql.all<LibraryDetail["groupTree"][number]>(
		`SELECT g.id, g.parent_id AS parent, g.name, (SELECT COUNT(*) FROM material m WHERE m.group_id = g.id AND m.removed_at IS NULL) AS materials
		 FROM library_group g WHERE g.library_id = $id ORDER BY g.ord, g.name`,
		input,
	);
	const drafting = await sql.all<{ name: string; drafts: number }>(
		// drafts are few beside the materials of a library
		`SELECT p.name, COUNT(*) AS drafts FROM draft f CROSS JOIN material m ON m.id = f.material_id JOIN person p ON p.id = f.person_id
		 WHERE m.library_id = $id AND m.removed_at IS NULL GROUP BY p.id ORDER BY p.name`,
		input,
	);
	const working = await sql.one<{ n: number }>("SELECT COUNT(*) AS n FROM working_list WHERE library_id = $id", input);
	const sets = await sql.all<{ id: string; name: string }>(
		"SELECT s.id, s.name FROM library_set s JOIN set_member m ON m.set_id = s.id WHERE m.library_id = $id ORDER BY s.name",
		input,
	);
	return ok({
		...view,
		sentence: rightsSentence(grants as readonly NamedGrant[], view.owner?.name ?? "", view.supplied),
		grants,
		groupTree,
		editions: await editionsOf(ctx, sql, input.id),
		// what is proposed is a draft: readers see it when it is published
		proposals: view.mayEdit ? await proposalsIn(ctx, sql, input.id) : [],
		drafting,
		working: working?.n ?? 0,
		sets,
		...(await usersOf(ctx, input.id)),
	});
}

/** Projects that stand on a library, with how many of their parts do. */
async function usersOf(ctx: Context, library: string): Promise<Pick<LibraryDetail, "usedBy" | "hiddenUsers">> {
	const rows = await ctx.db.all<{ id: string; name: string; parts: number }>(
		// revisions and drafts apart, each by its own keys
		`SELECT p.id, p.name, SUM(n) AS parts FROM (
			SELECT s.project_id, COUNT(*) AS n FROM assignment s JOIN revision r ON r.id = s.revision_id JOIN material m ON m.id = r.material_id
			WHERE m.library_id = $library GROUP BY s.project_id
			UNION ALL SELECT s.project_id, COUNT(*) FROM draft f CROSS JOIN assignment s ON s.draft_id = f.id JOIN material m ON m.id = f.material_id
			WHERE m.library_id = $library GROUP BY s.project_id) u
		 JOIN project p ON p.id = u.project_id WHERE p.removed_at IS NULL GROUP BY p.id ORDER BY p.name COLLATE NOCASE`,
		{ library },
	);
	const readable = new Set((await readableProjects(ctx, ctx.db)).map((p) => p.id));
	const usedBy = rows.filter((r) => readable.has(r.id));
	return { usedBy, hiddenUsers: rows.length - usedBy.length };
}

/** A name as a library may bear it. */
export async function freeLibraryName(ctx: Context, sql: Sql, input: string, except: string): Promise<Result<string>> {
	const name = cleanName(input);
	if (!name.ok) return name;
	// among those that one may see: whether others bear the name is not told
	const key = nameKey(name.value);
	const taken = (await readableLibraries(ctx, sql, true)).some((l) => l.id !== except && nameKey(l.name) === key);
	return !taken ? name : fail({ code: "library-taken", path: "name", actual: name.value });
}

export async function insertLibrary(
	ctx: Context,
	sql: Sql,
	library: { id: string; name: string; description: string; kind: "own" | "supplied"; uid?: string },
): Promise<void> {
	const { person } = ctx.actor;
	await sql.run(
		"INSERT INTO library (id, uid, name, kind, description, owner) VALUES ($id, $uid, $name, $kind, $description, $person)",
		{
			...library,
			uid: library.uid ?? ctx.newId(),
			person,
		},
	);
	await sql.run(
		"INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ('person', $person, 'library', $id, 'steward')",
		{
			person,
			id: library.id,
		},
	);
}

export function createLibrary(ctx: Context, input: RouteInput<"createLibrary">): Promise<Result<Undoable<{ id: string }>>> {
	return inWrite(ctx, async (sql) => {
		const may = allowed(ctx, "library.create");
		if (!may.ok) return may;
		if ((await sql.one("SELECT 1 AS x FROM library WHERE id = $id", { id: input.id })) !== null)
			return fail({ code: "id-taken" });
		const name = await freeLibraryName(ctx, sql, input.name, input.id);
		if (!name.ok) return name;
		await insertLibrary(ctx, sql, { id: input.id, name: name.value, description: input.description.trim(), kind: "own" });
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
			const name = await freeLibraryName(ctx, sql, input.name, input.id);
			if (!name.ok) return name;
			set.name = name.value;
		}
		if (input.description !== undefined) set.description = input.description.trim();
		if (input.approval !== undefined) set.approval = input.approval ? 1 : 0;
		if (input.lockMinutes !== undefined) set.lock_minutes = input.lockMinutes;
		if (input.archived !== undefined) set.archived = input.archived ? 1 : 0;
		if (input.owner != null) {
			const person = await sql.one("SELECT 1 AS x FROM person WHERE id = $id AND left_at IS NULL", { id: input.owner });
			if (person === null) return fail({ code: "not-found", path: "The person" });
			set.owner = input.owner;
		}
		if (Object.keys(set).length === 0) return fail({ code: "empty", expected: "a change" });
		const row = library.value as unknown as Record<string, string | number | null>;
		const before = Object.fromEntries(Object.keys(set).map((k) => [k, row[k] ?? null]));
		const columns = Object.keys(set).map((k) => `${k} = $${k}`);
		await sql.run(`UPDATE library SET ${columns.join(", ")} WHERE id = $id`, { ...set, id: input.id });
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
		const who = { id: input.id, person: ctx.actor.person };
		if (input.on)
			await sql.run("INSERT INTO library_hidden (library_id, person_id) VALUES ($id, $person) ON CONFLICT DO NOTHING", who);
		else await sql.run("DELETE FROM library_hidden WHERE library_id = $id AND person_id = $person", who);
		return ok(null);
	});
}

/** Materials in the bin, the last one first, with who put each there. */
export async function listBin(ctx: Context): Promise<Result<readonly BinRow[]>> {
	const libraries = JSON.stringify((await readableLibraries(ctx, ctx.db)).map((l) => l.id));
	return ok(
		await ctx.db.all<BinRow>(
			`SELECT m.id, m.name, m.library_id AS libraryId, l.name AS library, m.removed_at AS removedAt,
				COALESCE((SELECT p.name FROM event e JOIN person p ON p.id = e.actor
					WHERE e.at = m.removed_at AND (e.subject_id = m.id OR e.subject_id = m.library_id) LIMIT 1), '') AS "by"
			 FROM material m JOIN library l ON l.id = m.library_id
			 WHERE m.removed_at IS NOT NULL AND m.library_id IN (SELECT value FROM json_each($libraries))
				-- what was never published is its author's alone
				AND (EXISTS (SELECT 1 FROM revision r WHERE r.material_id = m.id)
					OR EXISTS (SELECT 1 FROM draft f WHERE f.material_id = m.id AND f.person_id = $person)) ORDER BY m.removed_at DESC LIMIT 500`,
			{ libraries, person: ctx.actor.person },
		),
	);
}
