import type { RouteInput, SetEdition, SetView } from "@alvek/contract";
import type { EventAction } from "@alvek/core/event";
import { cleanName } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseLibrary, libraryList } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import {
	addToSetEdition,
	allSets,
	editionsOfSet,
	insertEditionRow,
	librariesOfSet,
	namedGrants,
	putSet,
	recordEvent,
	removeSetRow,
} from "../repo";
import { freezeOrKeep } from "./editions";
import { type GrantInput, putGrant } from "./grants";

/** Libraries of a set, when the actor is a steward of each; one that may not be seen makes the set a stranger's. */
async function setOfMine(ctx: Context, sql: Sql, id: string): Promise<Result<readonly string[]>> {
	const libraries = await librariesOfSet(sql, id);
	if (libraries.length === 0) return fail({ code: "not-found", path: "The set" });
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
	const readable = new Map((await libraryList(ctx, ctx.db)).map((l) => [l.id, l]));
	const views: SetView[] = [];
	for (const set of await allSets(ctx.db)) {
		const members = await librariesOfSet(ctx.db, set.id);
		const libraries = members.flatMap((id) => {
			const library = readable.get(id);
			return library === undefined ? [] : [{ id, name: library.name }];
		});
		if (libraries.length === 0) continue;
		const mine = libraries.length === members.length && (await setOfMine(ctx, ctx.db, set.id)).ok;
		const editions = setEditions(await editionsOfSet(ctx.db, set.id), readable);
		views.push({ ...set, libraries, editions, grants: mine ? await namedGrants(ctx.db, "set", set.id) : [], maySteward: mine });
	}
	return ok(views);
}

/** Editions of a set that are shown. */
const MOST_EDITIONS = 30;

/** Editions of a set, whole ones alone: one with a library that may not be seen cannot be followed either. */
function setEditions(
	rows: Awaited<ReturnType<typeof editionsOfSet>>,
	readable: ReadonlyMap<string, unknown>,
): readonly SetEdition[] {
	const editions = new Map<number, SetEdition>();
	for (const { no, note, library, edition } of rows) {
		const before = editions.get(no)?.libraries ?? [];
		editions.set(no, { no, note, libraries: [...before, { library, edition }] });
	}
	return [...editions.values()].filter((e) => e.libraries.every((l) => readable.has(l.library))).slice(0, MOST_EDITIONS);
}

export function saveSet(ctx: Context, input: RouteInput<"saveSet">): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		if (await sql.has("library_set", { id: input.id })) {
			const mine = await setOfMine(ctx, sql, input.id);
			if (!mine.ok) return mine;
		}
		const libraries = [...new Set(input.libraries)];
		const may = await stewardOfAll(ctx, sql, libraries);
		if (!may.ok) return may;
		const name = cleanName(input.name);
		if (!name.ok) return name;
		await putSet(sql, { id: input.id, name: name.value }, libraries);
		return recordInAll(ctx, sql, libraries, { action: "set.save", changeset: { name: name.value } });
	});
}

/** Every library of a set has the step in its history. */
async function recordInAll(
	ctx: Context,
	sql: Sql,
	libraries: readonly string[],
	step: { readonly action: EventAction; readonly changeset: unknown },
): Promise<Result<null>> {
	for (const subject of libraries) await recordEvent(ctx, sql, { ...step, kind: "library", subject, inverse: null });
	return ok(null);
}

export function removeSet(ctx: Context, input: { id: string }): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		const libraries = await setOfMine(ctx, sql, input.id);
		if (!libraries.ok) return libraries;
		const name = (await sql.find("library_set", { id: input.id }))?.name ?? "";
		await removeSetRow(sql, input.id);
		return recordInAll(ctx, sql, libraries.value, { action: "set.remove", changeset: { name } });
	});
}

export function shareSet(ctx: Context, input: GrantInput & { id: string }): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		const libraries = await setOfMine(ctx, sql, input.id);
		if (!libraries.ok) return libraries;
		const done = await putGrant(ctx, sql, { on: "set", target: input.id }, input);
		return done.ok ? recordInAll(ctx, sql, libraries.value, { action: "set.share", changeset: input }) : done;
	});
}

/** All libraries of a set together, or none; one that has not changed stands in it with the edition that it has. */
export function freezeSet(ctx: Context, input: { id: string; note: string }): Promise<Result<{ editions: number }>> {
	return inWrite(ctx, async (sql) => {
		const libraries = await setOfMine(ctx, sql, input.id);
		if (!libraries.ok) return libraries;
		const set = await insertEditionRow(ctx, sql, { set: input.id, note: input.note.trim() });
		for (const library of libraries.value) {
			const edition = await freezeOrKeep(ctx, sql, { library, note: input.note });
			if (!edition.ok) return edition;
			await addToSetEdition(sql, set.id, edition.value.id);
		}
		return ok({ editions: libraries.value.length });
	});
}
