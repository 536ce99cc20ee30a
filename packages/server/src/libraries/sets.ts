import type { RouteInput, SetView } from "@alvek/contract";
import type { EventAction } from "@alvek/core/event";
import { cleanName } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { authoriseLibrary, readableLibraries } from "../db/rights";
import { type Context, inWrite, recordEvent } from "../db/write";
import { freeze } from "./editions";
import { type GrantInput, namedGrants, putGrant } from "./grants";

/** Libraries of a set, when the actor is a steward of each; one that may not be seen makes the set a stranger's. */
async function setOfMine(ctx: Context, sql: Sql, id: string): Promise<Result<readonly string[]>> {
	const rows = await sql.all<{ library_id: string }>("SELECT library_id FROM set_member WHERE set_id = $id", { id });
	if (rows.length === 0) return fail({ code: "not-found", path: "The set" });
	const libraries = rows.map((r) => r.library_id);
	const may = await stewardOfAll(ctx, sql, libraries);
	if (!may.ok) return may.issues[0]?.code === "not-found" ? fail({ code: "not-found", path: "The set" }) : may;
	return ok(libraries);
}

async function stewardOfAll(ctx: Context, sql: Sql, libraries: readonly string[]): Promise<Result<null>> {
	for (const id of libraries) {
		const library = await authoriseLibrary(ctx, sql, id, "library.steward");
		if (!library.ok) return library;
	}
	return ok(null);
}

export async function listSets(ctx: Context): Promise<Result<readonly SetView[]>> {
	const readable = new Map((await readableLibraries(ctx, ctx.db, true)).map((l) => [l.id, l]));
	const sets = await ctx.db.all<{ id: string; name: string; edition: number }>(
		`SELECT s.id, s.name, (SELECT COALESCE(MAX(no), 0) FROM edition e WHERE e.set_id = s.id) AS edition FROM library_set s ORDER BY s.name`,
	);
	const views: SetView[] = [];
	for (const set of sets) {
		const members = await ctx.db.all<{ id: string }>("SELECT library_id AS id FROM set_member WHERE set_id = $id", {
			id: set.id,
		});
		const libraries = members.flatMap(({ id }) => {
			const library = readable.get(id);
			return library === undefined ? [] : [{ id, name: library.name }];
		});
		if (libraries.length === 0) continue;
		const mine = libraries.length === members.length && (await setOfMine(ctx, ctx.db, set.id)).ok;
		views.push({ ...set, libraries, grants: mine ? await namedGrants(ctx.db, "set", set.id) : [], maySteward: mine });
	}
	return ok(views);
}

export function saveSet(ctx: Context, input: RouteInput<"saveSet">): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		const known = await sql.one("SELECT 1 AS x FROM library_set WHERE id = $id", { id: input.id });
		if (known !== null) {
			const mine = await setOfMine(ctx, sql, input.id);
			if (!mine.ok) return mine;
		}
		const libraries = [...new Set(input.libraries)];
		const may = await stewardOfAll(ctx, sql, libraries);
		if (!may.ok) return may;
		const name = cleanName(input.name);
		if (!name.ok) return name;
		await sql.run("INSERT INTO library_set (id, name) VALUES ($id, $name) ON CONFLICT (id) DO UPDATE SET name = $name", {
			id: input.id,
			name: name.value,
		});
		await sql.run("DELETE FROM set_member WHERE set_id = $id", { id: input.id });
		for (const library of libraries)
			await sql.run("INSERT INTO set_member (set_id, library_id) VALUES ($id, $library)", { id: input.id, library });
		return told(ctx, sql, "set.save", libraries, { name: name.value });
	});
}

/** Every library of a set has the step in its history. */
async function told(
	ctx: Context,
	sql: Sql,
	action: EventAction,
	libraries: readonly string[],
	changeset: unknown,
): Promise<Result<null>> {
	for (const subject of libraries) await recordEvent(ctx, sql, { action, kind: "library", subject, changeset, inverse: null });
	return ok(null);
}

export function removeSet(ctx: Context, input: { id: string }): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		const libraries = await setOfMine(ctx, sql, input.id);
		if (!libraries.ok) return libraries;
		const { name } = (await sql.one<{ name: string }>("SELECT name FROM library_set WHERE id = $id", input)) as { name: string };
		await sql.run("DELETE FROM access_grant WHERE kind = 'set' AND target = $id", input);
		await sql.run("DELETE FROM set_member WHERE set_id = $id", input);
		// its editions keep the name that they were frozen under, so a set that was frozen stays as an empty one
		await sql.run("DELETE FROM library_set WHERE id = $id AND NOT EXISTS (SELECT 1 FROM edition WHERE set_id = $id)", input);
		return told(ctx, sql, "set.remove", libraries.value, { name });
	});
}

export function shareSet(ctx: Context, input: GrantInput & { id: string }): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		const libraries = await setOfMine(ctx, sql, input.id);
		if (!libraries.ok) return libraries;
		const done = await putGrant(ctx, sql, "set", input.id, input);
		return done.ok ? told(ctx, sql, "set.share", libraries.value, input) : done;
	});
}

/** All libraries of a set together, or none; one that has not changed stands in it with the edition that it has. */
export function freezeSet(ctx: Context, input: { id: string; note: string }): Promise<Result<{ editions: number }>> {
	return inWrite(ctx, async (sql) => {
		const libraries = await setOfMine(ctx, sql, input.id);
		if (!libraries.ok) return libraries;
		const last = await sql.one<{ no: number }>("SELECT COALESCE(MAX(no), 0) AS no FROM edition WHERE set_id = $id", {
			id: input.id,
		});
		const set = ctx.newId();
		await sql.run("INSERT INTO edition (id, set_id, no, note, actor, at) VALUES ($set, $id, $no, $note, $actor, $at)", {
			set,
			id: input.id,
			no: (last?.no ?? 0) + 1,
			note: input.note.trim(),
			actor: ctx.actor.person,
			at: ctx.now(),
		});
		for (const library of libraries.value) {
			const edition = await freeze(ctx, sql, library, input.note, true);
			if (!edition.ok) return edition;
			await sql.run("INSERT INTO set_edition (set_edition_id, edition_id) VALUES ($set, $edition)", {
				set,
				edition: edition.value.id,
			});
		}
		return ok({ editions: libraries.value.length });
	});
}
