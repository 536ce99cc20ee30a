import type { EditionChange, EditionComparison, EditionView } from "@alvek/contract";
import { difference, type Material } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseLibrary, readableProjects, requireOpenLock } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import {
	documentsOf,
	type EditionRecord,
	type Entry,
	editionByNo,
	editionRows,
	followersOf,
	insertEditionRow,
	insertEntries,
	newestEdition,
	recordEvent,
	stateIn,
	stateNow,
} from "../repo";

/** Editions of a library, the newest first, with the projects that follow each. */
export async function editionsOf(ctx: Context, sql: Sql, library: string): Promise<readonly EditionView[]> {
	const readable = new Set((await readableProjects(ctx, sql)).map((p) => p.id));
	const rows = await editionRows(sql, library);
	const followers = await followersOf(sql, library);
	return rows.map((row) => {
		const all = followers.filter((f) => f.edition === row.id);
		const visible = all.filter((f) => readable.has(f.id)).map(({ id, name }) => ({ id, name }));
		return { ...row, followers: visible, hiddenFollowers: all.length - visible.length };
	});
}

export async function editionNo(sql: Sql, library: string, no: number): Promise<Result<EditionRecord>> {
	const row = await editionByNo(sql, library, no);
	return row === null ? fail({ code: "not-found", path: `Edition ${no}` }) : ok(row);
}

/** Freezes a state as the next edition, inside a transaction. */
export async function insertEdition(
	ctx: Context,
	sql: Sql,
	edition: { library: string; note: string; no?: number; entries: ReadonlyMap<string, Entry> },
): Promise<{ id: string; no: number }> {
	const { library, note, entries, no: wanted } = edition;
	const { id, no } = await insertEditionRow(ctx, sql, { library, note, ...(wanted === undefined ? {} : { no: wanted }) });
	await insertEntries(sql, id, entries);
	await recordEvent(ctx, sql, {
		action: "edition.freeze",
		kind: "library",
		subject: library,
		changeset: { no, note, materials: entries.size },
		inverse: null,
	});
	return { id, no };
}

/** The newest edition when the library is still as it was then. */
async function unchangedSince(
	sql: Sql,
	library: string,
	now: ReadonlyMap<string, Entry>,
): Promise<{ id: string; no: number } | null> {
	const last = await newestEdition(sql, library);
	if (last === null) return null;
	const then = await stateIn(sql, last.id);
	const same = then.size === now.size && [...now.values()].every((e) => JSON.stringify(then.get(e.id)) === JSON.stringify(e));
	return same ? last : null;
}

/** A supplied library is not published into, so it has no lock; its stewards freeze it as it came. */
async function mayFreeze(ctx: Context, sql: Sql, library: string): Promise<Result<{ name: string }>> {
	const steward = await authoriseLibrary(ctx, sql, library, "library.steward");
	return steward.ok && steward.value.kind === "supplied" ? steward : requireOpenLock(ctx, sql, library);
}

type Frozen = { readonly id: string; readonly no: number };

/** Freezes a library, when the actor may and the lock lets them; `same` says what comes of one that has not changed. */
async function freeze(
	ctx: Context,
	sql: Sql,
	edition: { readonly library: string; readonly note: string },
	same: (edition: Frozen) => Result<Frozen>,
): Promise<Result<Frozen>> {
	const { library, note } = edition;
	const open = await mayFreeze(ctx, sql, library);
	if (!open.ok) return open;
	const entries = await stateNow(sql, library);
	if (entries.size === 0) return fail({ code: "nothing-to-freeze", path: open.value.name });
	ctx.work?.tell(0.3, "comparing");
	const last = await unchangedSince(sql, library, entries);
	ctx.work?.tell(0.6, "freezing");
	return last === null ? ok(await insertEdition(ctx, sql, { library, note: note.trim(), entries })) : same(last);
}

export function freezeEdition(ctx: Context, input: { id: string; note: string }): Promise<Result<Frozen>> {
	return inWrite(ctx, (sql) =>
		freeze(ctx, sql, { library: input.id, note: input.note }, ({ no }) => fail({ code: "same-as-edition", actual: no })),
	);
}

/** The same as one library of a set, inside a transaction: one that has not changed keeps the edition that it has. */
export const freezeOrKeep = (ctx: Context, sql: Sql, edition: { library: string; note: string }): Promise<Result<Frozen>> =>
	freeze(ctx, sql, edition, (last) => ok(last));

/** What differs between two states, material by material; documents are read for changed revisions only. */
export async function changesBetween(
	sql: Sql,
	from: ReadonlyMap<string, Entry>,
	to: ReadonlyMap<string, Entry>,
	/** Documents of revisions that are not stored yet. */
	arriving: ReadonlyMap<string, Material> = new Map(),
): Promise<{ changes: readonly EditionChange[]; same: number }> {
	const ids = [...new Set([...from.keys(), ...to.keys()])];
	const moved = ids.filter((id) => from.has(id) && to.has(id) && from.get(id)?.revision !== to.get(id)?.revision);
	const documents = await documentsOf(
		sql,
		moved.flatMap((id) => [from.get(id)?.revision ?? "", to.get(id)?.revision ?? ""]),
	);
	const changes: EditionChange[] = [];
	for (const id of ids) {
		const [a, b] = [from.get(id), to.get(id)];
		const base = { id, name: (b ?? a)?.name ?? "", from: a?.no ?? null, to: b?.no ?? null };
		if (a === undefined || b === undefined) {
			changes.push({ ...base, kind: a === undefined ? "added" : "gone", edits: [], rows: [] });
			continue;
		}
		const [before, after] = [documents.get(a.revision), arriving.get(b.revision) ?? documents.get(b.revision)];
		const edits = before === undefined || after === undefined ? [] : difference(before, after);
		const rows = rowChanges(a, b);
		if (a.revision !== b.revision) changes.push({ ...base, kind: "changed", edits, rows });
		else if (rows.length > 0) changes.push({ ...base, kind: "row", edits: [], rows });
	}
	return { changes, same: ids.length - changes.length };
}

function rowChanges(a: Entry, b: Entry): readonly string[] {
	const words = [
		["name", a.name, b.name],
		["group", a.group, b.group],
		["item code", a.code, b.code],
		["retired", a.retired === 1 ? "yes" : "no", b.retired === 1 ? "yes" : "no"],
	] as const;
	return words.filter(([, x, y]) => x !== y).map(([what, x, y]) => `${what}: ${x || "none"} → ${y || "none"}`);
}

export async function compareEditions(
	ctx: Context,
	input: { id: string; from: string; to: string },
): Promise<Result<EditionComparison>> {
	const library = await authoriseLibrary(ctx, ctx.db, input.id, "library.read");
	if (!library.ok) return library;
	const states: ReadonlyMap<string, Entry>[] = [];
	for (const no of [Number(input.from), Number(input.to)]) {
		if (no === 0) {
			states.push(await stateNow(ctx.db, input.id));
			continue;
		}
		const edition = await editionNo(ctx.db, input.id, no);
		if (!edition.ok) return edition;
		states.push(await stateIn(ctx.db, edition.value.id));
	}
	const [from, to] = states as [ReadonlyMap<string, Entry>, ReadonlyMap<string, Entry>];
	return ok({ from: Number(input.from), to: Number(input.to), ...(await changesBetween(ctx.db, from, to)) });
}
