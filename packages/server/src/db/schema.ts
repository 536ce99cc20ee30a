import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { openDatabase, type Sql } from "./connection";
import { migrate } from "./migrations";

type Part = { readonly type: string; readonly name: string; readonly sql: string };

/** Tables, views, indexes and triggers, without what the engine keeps for itself. */
async function partsOf(sql: Sql): Promise<ReadonlyMap<string, Part>> {
	const rows = await sql.all<Part>(
		"SELECT type, name, COALESCE(sql, '') AS sql FROM sqlite_master WHERE name NOT LIKE 'sqlite\\_%' ESCAPE '\\' ORDER BY type, name",
	);
	return new Map(rows.map((r) => [`${r.type} ${r.name}`, { ...r, sql: r.sql.replace(/\s+/g, " ").trim() }]));
}

/**
 * How a database differs from what its own migrations make, in plain words; empty: it does not. A trigger or a view that
 * somebody added would act with the data at the next step, so nothing of them is run before this was asked.
 */
export async function foreignParts(sql: Sql): Promise<readonly string[]> {
	const there = await partsOf(sql);
	if (!there.has("table migration")) return ["It holds no data of Alvek: its list of migrations is missing."];
	const newest = await sql.one<{ name: string }>("SELECT name FROM migration ORDER BY name DESC LIMIT 1");
	const expected = await expectedAt(newest?.name ?? "");
	const wrong: string[] = [];
	for (const [key, part] of there) {
		const own = expected.get(key);
		if (own === undefined) wrong.push(`Its structure is not Alvek's: the ${key} was added.`);
		else if (own.sql !== part.sql) wrong.push(`Its structure is not Alvek's: the ${key} was changed.`);
	}
	for (const key of expected.keys()) if (!there.has(key)) wrong.push(`Its structure is not Alvek's: the ${key} is missing.`);
	return wrong;
}

/** The structure that the migrations up to this one make, from a database made for the purpose. */
async function expectedAt(migration: string): Promise<ReadonlyMap<string, Part>> {
	const folder = await mkdtemp(join(tmpdir(), "alvek-schema-"));
	const db = await openDatabase(join(folder, "schema.sqlite"));
	try {
		await migrate(db, migration);
		return await partsOf(db);
	} finally {
		await db.close();
		await rm(folder, { recursive: true, force: true });
	}
}
