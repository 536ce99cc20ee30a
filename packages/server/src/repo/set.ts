import type { Sql } from "../db";

/** Sets of libraries with the number of the newest edition of each. */
export function allSets(sql: Sql): Promise<{ id: string; name: string; edition: number }[]> {
	return sql.all(
		`SELECT s.id, s.name, (SELECT COALESCE(MAX(no), 0) FROM edition e WHERE e.set_id = s.id) AS edition FROM library_set s ORDER BY s.name`,
	);
}

/** Libraries of the editions of a set, each with the number and the id of its own edition in it; the newest first. */
export function editionsOfSet(
	sql: Sql,
	set: string,
): Promise<{ no: number; note: string; library: string; edition: number; id: string }[]> {
	return sql.all(
		`SELECT s.no, s.note, e.library_id AS library, e.no AS edition, e.id FROM edition s
		 JOIN set_edition x ON x.set_edition_id = s.id JOIN edition e ON e.id = x.edition_id
		 WHERE s.set_id = $set ORDER BY s.no DESC, e.library_id`,
		{ set },
	);
}

export async function librariesOfSet(sql: Sql, set: string): Promise<readonly string[]> {
	const rows = await sql.all<{ id: string }>("SELECT library_id AS id FROM set_member WHERE set_id = $set", { set });
	return rows.map((r) => r.id);
}

export function setsOfLibrary(sql: Sql, library: string): Promise<{ id: string; name: string }[]> {
	return sql.all(
		"SELECT s.id, s.name FROM library_set s JOIN set_member m ON m.set_id = s.id WHERE m.library_id = $library ORDER BY s.name",
		{ library },
	);
}

export async function putSet(sql: Sql, set: { id: string; name: string }, libraries: readonly string[]): Promise<void> {
	await sql.run(
		"INSERT INTO library_set (id, name) VALUES ($id, $name) ON CONFLICT (id) DO UPDATE SET name = excluded.name",
		set,
	);
	await sql.remove("set_member", { set_id: set.id });
	for (const library of libraries) await sql.insert("set_member", { set_id: set.id, library_id: library });
}

export async function removeSetRow(sql: Sql, set: string): Promise<void> {
	await sql.remove("access_grant", { kind: "set", target: set });
	await sql.remove("set_member", { set_id: set });
	// its editions keep the name that they were frozen under, so a set that was frozen stays as an empty one
	if (!(await sql.has("edition", { set_id: set }))) await sql.remove("library_set", { id: set });
}
