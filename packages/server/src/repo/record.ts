import type { OwnUse } from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import type { Sql } from "../db";

export type KeptRecord = { readonly id: string; readonly version: number; readonly content: string };

/** What a library keeps beside its materials, each with a version: sources, properties and uses of its own. */
const TABLES = {
	source: { table: "source", key: "id" },
	property: { table: "own_property", key: "uid" },
	use: { table: "own_use", key: "uid" },
} as const;
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

/** Uses that a library adds to the built-in ones; a project adds none. */
export async function ownUsesOf(sql: Sql, library: string): Promise<readonly OwnUse[]> {
	const rows = await sql.all<{ content: string }>("SELECT content FROM own_use WHERE library_id = $library ORDER BY uid", {
		library,
	});
	return rows.map((r) => JSON.parse(r.content) as OwnUse);
}

/** What a library adds to what its materials are judged by. */
export type Own = { readonly properties: readonly OwnProperty[]; readonly uses: readonly OwnUse[] };

/** Of a library that adds nothing, and of a project. */
export const NOTHING_OWN: Own = { properties: [], uses: [] };

/** What each library adds; those that add nothing are left out. */
export async function ownByLibrary(sql: Sql): Promise<ReadonlyMap<string, Own>> {
	const select = (table: string) =>
		sql.all<{ library_id: string; content: string }>(`SELECT library_id, content FROM ${table} ORDER BY uid`);
	const all = new Map<string, Own>();
	const of = (library: string): Own => all.get(library) ?? NOTHING_OWN;
	for (const { library_id: id, content } of await select("own_property"))
		all.set(id, { ...of(id), properties: [...of(id).properties, JSON.parse(content) as OwnProperty] });
	for (const { library_id: id, content } of await select("own_use"))
		all.set(id, { ...of(id), uses: [...of(id).uses, JSON.parse(content) as OwnUse] });
	return all;
}

/** Tells whether anything that libraries add was added or changed: versions only grow. */
export async function ownStamp(sql: Sql): Promise<string> {
	const select = (table: string) =>
		sql.one<{ n: number; sum: number }>(`SELECT COUNT(*) AS n, CAST(COALESCE(SUM(version), 0) AS INTEGER) AS sum FROM ${table}`);
	const [properties, uses] = [await select("own_property"), await select("own_use")];
	return `${properties?.n} ${properties?.sum} ${uses?.n} ${uses?.sum}`;
}
