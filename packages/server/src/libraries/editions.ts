import type { EditionChange, EditionComparison, EditionView } from "@alvek/contract";
import { difference, type Material } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { authoriseLibrary, readableProjects } from "../db/rights";
import { type Context, inWrite, recordEvent } from "../db/write";
import { writeDraft } from "../materials/drafts";
import type { Finding } from "../materials/finding";
import { documentsOf, draftDocument, draftOf, materialById, parseDocument } from "../materials/store";
import { requireOpenLock } from "./lock";

/** Editions of a library, the newest first, with the projects that follow each. */
export async function editionsOf(ctx: Context, sql: Sql, library: string): Promise<readonly EditionView[]> {
	const readable = new Set((await readableProjects(ctx, sql)).map((p) => p.id));
	const rows = await sql.all<Omit<EditionView, "followers" | "hiddenFollowers">>(
		`SELECT e.id, e.no, e.note, p.name AS "by", e.at, (SELECT COUNT(*) FROM edition_entry n WHERE n.edition_id = e.id) AS materials, s.name AS "set"
		 FROM edition e JOIN person p ON p.id = e.actor LEFT JOIN set_edition x ON x.edition_id = e.id
		 LEFT JOIN edition se ON se.id = x.set_edition_id LEFT JOIN library_set s ON s.id = se.set_id
		 WHERE e.library_id = $library GROUP BY e.id ORDER BY e.no DESC`,
		{ library },
	);
	const followers = await sql.all<{ edition: string; id: string; name: string }>(
		`SELECT f.edition_id AS edition, p.id, p.name FROM follow f JOIN project p ON p.id = f.project_id
		 WHERE f.library_id = $library AND p.removed_at IS NULL ORDER BY p.name`,
		{ library },
	);
	return rows.map((row) => {
		const all = followers.filter((f) => f.edition === row.id);
		const visible = all.filter((f) => readable.has(f.id)).map(({ id, name }) => ({ id, name }));
		return { ...row, followers: visible, hiddenFollowers: all.length - visible.length };
	});
}

/** What one material is in a state of a library. */
export type Entry = {
	readonly id: string;
	readonly revision: string;
	readonly no: number;
	readonly name: string;
	readonly group: string;
	readonly code: string;
	readonly retired: number;
};

/** The published materials of a library as they are now, by id. */
export async function stateNow(sql: Sql, library: string): Promise<ReadonlyMap<string, Entry>> {
	const rows = await sql.all<Entry>(
		`WITH RECURSIVE path(id, text, depth) AS (
			SELECT id, name, 1 FROM library_group WHERE library_id = $library AND parent_id IS NULL
			UNION ALL SELECT g.id, path.text || ' / ' || g.name, path.depth + 1 FROM library_group g JOIN path ON g.parent_id = path.id WHERE path.depth < 100)
		 SELECT m.id, r.id AS revision, r.no, m.name, COALESCE(path.text, '') AS "group", m.item_code AS code, m.retired FROM material m
		 JOIN revision r ON r.material_id = m.id AND r.no = (SELECT MAX(no) FROM revision WHERE material_id = m.id)
		 LEFT JOIN path ON path.id = m.group_id WHERE m.library_id = $library AND m.removed_at IS NULL ORDER BY m.name COLLATE NOCASE`,
		{ library },
	);
	return new Map(rows.map((r) => [r.id, r]));
}

export async function stateIn(sql: Sql, edition: string): Promise<ReadonlyMap<string, Entry>> {
	const rows = await sql.all<Entry>(
		`SELECT n.material_id AS id, n.revision_id AS revision, r.no, n.name, n.group_path AS "group", n.item_code AS code, n.retired
		 FROM edition_entry n JOIN revision r ON r.id = n.revision_id WHERE n.edition_id = $edition ORDER BY n.name COLLATE NOCASE`,
		{ edition },
	);
	return new Map(rows.map((r) => [r.id, r]));
}

export type EditionRecord = { readonly id: string; readonly no: number; readonly note: string; readonly at: string };

export async function editionNo(sql: Sql, library: string, no: number): Promise<Result<EditionRecord>> {
	const row = await sql.one<EditionRecord>("SELECT id, no, note, at FROM edition WHERE library_id = $library AND no = $no", {
		library,
		no,
	});
	return row === null ? fail({ code: "not-found", path: `Edition ${no}` }) : ok(row);
}

/** Freezes a state as the next edition, inside a transaction. */
export async function insertEdition(
	ctx: Context,
	sql: Sql,
	edition: { library: string; note: string; no?: number; entries: ReadonlyMap<string, Entry> },
): Promise<{ id: string; no: number }> {
	const last = await sql.one<{ no: number }>("SELECT COALESCE(MAX(no), 0) AS no FROM edition WHERE library_id = $library", {
		library: edition.library,
	});
	const id = ctx.newId();
	const no = edition.no ?? (last?.no ?? 0) + 1;
	await sql.run("INSERT INTO edition (id, library_id, no, note, actor, at) VALUES ($id, $library, $no, $note, $actor, $at)", {
		id,
		library: edition.library,
		no,
		note: edition.note,
		actor: ctx.actor.person,
		at: ctx.now(),
	});
	await sql.run(
		`INSERT INTO edition_entry (edition_id, material_id, revision_id, name, group_path, item_code, retired)
		 SELECT $id, value ->> 'id', value ->> 'revision', value ->> 'name', value ->> 'group', value ->> 'code', value ->> 'retired' FROM json_each($entries)`,
		{ id, entries: JSON.stringify([...edition.entries.values()]) },
	);
	await recordEvent(ctx, sql, {
		action: "edition.freeze",
		kind: "library",
		subject: edition.library,
		changeset: { no, note: edition.note, materials: edition.entries.size },
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
	const last = await sql.one<{ id: string; no: number }>(
		"SELECT id, no FROM edition WHERE library_id = $library ORDER BY no DESC LIMIT 1",
		{ library },
	);
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

/** Freezes a library, when the actor may and the lock lets them; one that has not changed keeps its edition where allowed. */
export async function freeze(
	ctx: Context,
	sql: Sql,
	library: string,
	note: string,
	mayBeSame: boolean,
): Promise<Result<{ id: string; no: number }>> {
	const open = await mayFreeze(ctx, sql, library);
	if (!open.ok) return open;
	const entries = await stateNow(sql, library);
	if (entries.size === 0) return fail({ code: "nothing-to-freeze", path: open.value.name });
	const same = await unchangedSince(sql, library, entries);
	if (same !== null) return mayBeSame ? ok(same) : fail({ code: "same-as-edition", actual: same.no });
	return ok(await insertEdition(ctx, sql, { library, note: note.trim(), entries }));
}

export function freezeEdition(ctx: Context, input: { id: string; note: string }): Promise<Result<{ id: string; no: number }>> {
	return inWrite(ctx, (sql) => freeze(ctx, sql, input.id, input.note, false));
}

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

/**
 * Drafts of mine that would make the library as an edition was: publishing them is one act with one list of effects. What
 * came later is not in the edition; it is named, so that it can be retired.
 */
export function draftEdition(
	ctx: Context,
	finding: Finding,
	input: { id: string; no: string },
): Promise<Result<{ drafts: readonly string[]; later: readonly { id: string; name: string }[] }>> {
	return inWrite(ctx, async (sql, after) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.edit");
		if (!library.ok) return library;
		const edition = await editionNo(sql, input.id, Number(input.no));
		if (!edition.ok) return edition;
		const [then, now] = [await stateIn(sql, edition.value.id), await stateNow(sql, input.id)];
		const moved = [...then.values()].filter((e) => now.has(e.id) && now.get(e.id)?.revision !== e.revision);
		const documents = await documentsOf(
			sql,
			moved.map((e) => e.revision),
		);
		const drafts: string[] = [];
		for (const entry of moved) {
			const target = documents.get(entry.revision);
			const head = await materialById(sql, entry.id);
			const draft = await draftOf(sql, entry.id, ctx.actor.person);
			const current = draft !== null ? draftDocument(draft) : head?.bytes == null ? null : parseDocument(head.bytes);
			if (target === undefined || current === null) continue;
			const edits = difference(current, target);
			if (edits.length === 0) continue;
			const written = await writeDraft(ctx, sql, entry.id, edits);
			if (!written.ok) return written;
			drafts.push(entry.id);
		}
		await recordEvent(ctx, sql, {
			action: "edition.draft",
			kind: "library",
			subject: input.id,
			changeset: { no: edition.value.no, drafts },
			inverse: null,
		});
		after(() => finding.refresh(drafts));
		const later = [...now.values()].filter((e) => !then.has(e.id)).map(({ id, name }) => ({ id, name }));
		return ok({ drafts, later });
	});
}
