import type { OwnProperty } from "@alvek/core/property";
import type { Sql } from "../db";

export type KeptRecord = { readonly id: string; readonly version: number; readonly content: string };

/** What a library keeps beside its materials, each with a version: sources, and properties of its own. */
const TABLES = { source: { table: "source", key: "id" }, property: { table: "own_property", key: "uid" } } as const;
export type RecordKind = keyof typeof TABLES;

/** Records of a library, the latest changed first. */
export function recordsOf(sql: Sql, kind: RecordKind, library: string, most: number): Promise<KeptRecord[]> {
	const { table, key } = TABLES[kind];
	return sql.all<KeptRecord>(
		`SELECT ${key} AS id, version, content FROM ${table} WHERE library_id = $library ORDER BY changed_at DESC LIMIT $most`,
		{ library, most },
	);
}

export function recordById(sql: Sql, kind: RecordKind, id: string): Promise<(KeptRecord & { library_id: string }) | null> {
	const { table, key } = TABLES[kind];
	return sql.one(`SELECT ${key} AS id, version, content, library_id FROM ${table} WHERE ${key} = $id`, { id });
}

export async function putRecord(
	sql: Sql,
	kind: RecordKind,
	record: KeptRecord & { readonly library: string; readonly at: string },
): Promise<void> {
	const { table, key } = TABLES[kind];
	await sql.run(
		`INSERT INTO ${table} (${key}, library_id, version, content, changed_at) VALUES ($id, $library, $version, $content, $at)
		 ON CONFLICT (${key}) DO UPDATE SET version = excluded.version, content = excluded.content, changed_at = excluded.changed_at`,
		record,
	);
}

/** Sources of one library in another one too, under ids of their own. */
export async function copySources(sql: Sql, from: string, to: string, newId: () => string): Promise<void> {
	const rows = await sql.all<{ version: number; content: string; changed_at: string }>(
		"SELECT version, content, changed_at FROM source WHERE library_id = $from",
		{ from },
	);
	const copies = rows.map((r) => ({ ...r, id: newId() }));
	await sql.run(
		`INSERT INTO source (id, library_id, version, content, changed_at) SELECT j.id, ${sql.dialect.typed("to", "text")}, j.version, j.content, j.changed_at
		 FROM ${sql.dialect.rows("rows", "j", { id: "text", version: "integer", content: "text", changed_at: "text" })}`,
		{ to, rows: JSON.stringify(copies) },
	);
}

/** Own properties that a library adds to the catalogue; a project adds none. */
export async function ownPropertiesOf(sql: Sql, library: string): Promise<readonly OwnProperty[]> {
	const rows = await sql.all<{ content: string }>("SELECT content FROM own_property WHERE library_id = $library ORDER BY uid", {
		library,
	});
	return rows.map((r) => JSON.parse(r.content) as OwnProperty);
}

/** The same of all libraries. */
export async function ownByLibrary(sql: Sql): Promise<ReadonlyMap<string, readonly OwnProperty[]>> {
	const rows = await sql.all<{ library_id: string; content: string }>(
		"SELECT library_id, content FROM own_property ORDER BY uid",
	);
	const all = new Map<string, OwnProperty[]>();
	for (const row of rows) all.set(row.library_id, [...(all.get(row.library_id) ?? []), JSON.parse(row.content) as OwnProperty]);
	return all;
}

/** Tells whether any own property was added or changed: versions only grow. */
export async function ownStamp(sql: Sql): Promise<string> {
	const row = await sql.one<{ n: number; sum: number }>(
		"SELECT COUNT(*) AS n, CAST(COALESCE(SUM(version), 0) AS INTEGER) AS sum FROM own_property",
	);
	return `${row?.n} ${row?.sum}`;
}
