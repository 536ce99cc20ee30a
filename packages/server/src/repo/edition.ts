import type { Context, Sql } from "../db";

export type EditionRow = {
	readonly id: string;
	readonly no: number;
	readonly note: string;
	readonly by: string;
	readonly at: string;
	readonly materials: number;
	/** Name of the set that it was frozen with; null: alone. */
	readonly set: string | null;
};

/** Editions of a library, the newest first. */
export function editionRows(sql: Sql, library: string): Promise<EditionRow[]> {
	return sql.all<EditionRow>(
		`SELECT e.id, e.no, e.note, p.name AS "by", e.at, (SELECT COUNT(*) FROM edition_entry n WHERE n.edition_id = e.id) AS materials,
		 (SELECT MIN(s.name) FROM set_edition x JOIN edition se ON se.id = x.set_edition_id JOIN library_set s ON s.id = se.set_id
		  WHERE x.edition_id = e.id) AS "set"
		 FROM edition e JOIN person p ON p.id = e.actor WHERE e.library_id = $library ORDER BY e.no DESC`,
		{ library },
	);
}

/** Projects that follow editions of a library. */
export function followersOf(sql: Sql, library: string): Promise<{ edition: string; id: string; name: string }[]> {
	return sql.all(
		`SELECT f.edition_id AS edition, p.id, p.name FROM follow f JOIN project p ON p.id = f.project_id
		 WHERE f.library_id = $library AND p.removed_at IS NULL ORDER BY p.name`,
		{ library },
	);
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
		 LEFT JOIN path ON path.id = m.group_id WHERE m.library_id = $library AND m.removed_at IS NULL ORDER BY lower(m.name)`,
		{ library },
	);
	return new Map(rows.map((r) => [r.id, r]));
}

export async function stateIn(sql: Sql, edition: string): Promise<ReadonlyMap<string, Entry>> {
	const rows = await sql.all<Entry>(
		`SELECT n.material_id AS id, n.revision_id AS revision, r.no, n.name, n.group_path AS "group", n.item_code AS code, n.retired
		 FROM edition_entry n JOIN revision r ON r.id = n.revision_id WHERE n.edition_id = $edition ORDER BY lower(n.name)`,
		{ edition },
	);
	return new Map(rows.map((r) => [r.id, r]));
}

export type EditionRecord = { readonly id: string; readonly no: number; readonly note: string; readonly at: string };

export function editionByNo(sql: Sql, library: string, no: number): Promise<EditionRecord | null> {
	return sql.find("edition", { library_id: library, no });
}

export function newestEdition(sql: Sql, library: string): Promise<{ id: string; no: number } | null> {
	return sql.one("SELECT id, no FROM edition WHERE library_id = $library ORDER BY no DESC LIMIT 1", { library });
}

/** Numbers of the editions of these libraries, the newest first. */
export async function editionNos(sql: Sql, libraries: readonly string[]): Promise<ReadonlyMap<string, readonly number[]>> {
	const rows = await sql.all<{ library: string; no: number }>(
		`SELECT library_id AS library, no FROM edition WHERE library_id IN ${sql.dialect.list("libraries")} ORDER BY no DESC`,
		{ libraries: JSON.stringify(libraries) },
	);
	const all = new Map<string, number[]>(libraries.map((l) => [l, []]));
	for (const { library, no } of rows) all.get(library)?.push(no);
	return all;
}

type Of = { readonly library: string; readonly set?: never } | { readonly set: string; readonly library?: never };

/** An edition of a library or of a set; the next one, unless a number is given. */
export async function insertEditionRow(
	ctx: Context,
	sql: Sql,
	edition: Of & { readonly note: string; readonly no?: number },
): Promise<{ id: string; no: number }> {
	const { library = null, set = null } = edition;
	const last = await sql.one<{ no: number }>(
		`SELECT COALESCE(MAX(no), 0) AS no FROM edition WHERE ${library === null ? "set_id" : "library_id"} = $of`,
		{ of: library ?? set },
	);
	const id = ctx.newId();
	const no = edition.no ?? (last?.no ?? 0) + 1;
	const row = { id, library_id: library, set_id: set, no, note: edition.note, actor: ctx.actor.person, at: ctx.now() };
	await sql.insert("edition", row);
	return { id, no };
}

export async function insertEntries(sql: Sql, edition: string, entries: ReadonlyMap<string, Entry>): Promise<void> {
	await sql.run(
		`INSERT INTO edition_entry (edition_id, material_id, revision_id, name, group_path, item_code, retired)
		 SELECT ${sql.dialect.typed("edition", "text")}, j.id, j.revision, j.name, j."group", j.code, j.retired
		 FROM ${sql.dialect.rows("entries", "j", { id: "text", revision: "text", name: "text", group: "text", code: "text", retired: "integer" })}`,
		{ edition, entries: JSON.stringify([...entries.values()]) },
	);
}

/** A set's edition holds this edition of one of its libraries. */
export const addToSetEdition = (sql: Sql, set: string, edition: string): Promise<void> =>
	sql.insert("set_edition", { set_edition_id: set, edition_id: edition });

/** How many editions hold some of these materials. */
export async function editionsHolding(sql: Sql, materials: readonly string[]): Promise<number> {
	const row = await sql.one<{ n: number }>(
		`SELECT COUNT(DISTINCT edition_id) AS n FROM edition_entry WHERE material_id IN ${sql.dialect.list("ids")}`,
		{ ids: JSON.stringify(materials) },
	);
	return row?.n ?? 0;
}

/** Editions that hold a material, the newest first, with the revision in each. */
export function editionsOfMaterial(sql: Sql, material: string, most: number): Promise<{ no: number; revision: number }[]> {
	return sql.all(
		`SELECT e.no, r.no AS revision FROM edition_entry n JOIN edition e ON e.id = n.edition_id JOIN revision r ON r.id = n.revision_id
		 WHERE n.material_id = $material ORDER BY e.no DESC LIMIT $most`,
		{ material, most },
	);
}
