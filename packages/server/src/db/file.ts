import { type Db, openDatabase } from "./connection";

/** A copy of a database file as it is at one moment; readers and writers go on meanwhile. A damaged page shows here. */
export async function copyDatabase(file: string, target: string): Promise<void> {
	const db = await openDatabase(file);
	try {
		await db.run("VACUUM INTO $target", { target });
	} finally {
		await db.close();
	}
	const copy = await openDatabase(target);
	try {
		// one file again, so that it is packed whole
		await copy.run("PRAGMA journal_mode=DELETE");
	} finally {
		await copy.close();
	}
}

/** What SQLite's own checks find: pages, indexes, and references between tables, in plain words. */
export async function databaseDamage(db: Db, most: number): Promise<readonly string[]> {
	const pages = await db.all<{ integrity_check: string }>(`PRAGMA integrity_check(${most})`);
	const wrong = pages.map((p) => p.integrity_check).filter((line) => line !== "ok");
	if (wrong.length > 0) return wrong.map((line) => `The database is damaged: ${line}`);
	const loose = await db.all<{ table: string; parent: string }>("PRAGMA foreign_key_check");
	return loose.slice(0, most).map((row) => `A row of ${row.table} points to one of ${row.parent} that is not there.`);
}
