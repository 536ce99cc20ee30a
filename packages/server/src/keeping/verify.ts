import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { pipeline } from "node:stream/promises";
import { canonicalJson, decodeMaterial } from "@alvek/core/material";
import { blobPath } from "../db/blobs";
import { type Db, openDatabase, type Sql } from "../db/connection";
import { faultOf } from "../db/faults";
import { NEWEST, refuseNewer } from "../db/migrations";
import { foreignParts } from "../db/schema";
import { tableFinding } from "../materials/finding";
import { blobsIn, databaseIn, requireData } from "./folder";

export type Verified = {
	/** What is wrong, in plain words; empty: everything holds. */
	readonly wrong: readonly string[];
	/** What was wrong and is right now, in plain words. */
	readonly mended: readonly string[];
	readonly revisions: number;
	readonly documents: number;
	readonly files: number;
	/** Derived rows that were made anew. */
	readonly rebuilt: number;
};

const PAGE = 2000;

/**
 * Reads everything once: the database's own checks, every document against its hash, every file against its name, what
 * points where. Derived rows are made anew from the documents. May run beside the server.
 * @throws Fault `no-data`, `data-newer`, `database-damaged` where the file cannot be opened at all
 */
export async function verify(dataDir: string): Promise<Verified> {
	await requireData(dataDir);
	const db = await openDatabase(databaseIn(dataDir));
	try {
		await refuseNewer(db);
		const wrong: string[] = [];
		const damaged = await ownChecks(db);
		if (damaged.length === 0) damaged.push(...(await foreignParts(db)));
		// a damaged or foreign database is only looked at: rebuilding would write into it, and run what was put there
		if (damaged.length > 0) return { wrong: damaged, mended: [], revisions: 0, documents: 0, files: 0, rebuilt: 0 };
		const mended = await mendGroups(db);
		const documents = await checkDocuments(db, wrong);
		const files = await checkFiles(db, blobsIn(dataDir), wrong);
		await checkReferences(db, wrong);
		const revisions = (await db.one<{ n: number }>("SELECT COUNT(*) AS n FROM revision"))?.n ?? 0;
		return { wrong, mended, revisions, documents, files, rebuilt: await rebuild(db) };
	} finally {
		await db.close();
	}
}

/** SQLite's own: pages, indexes, and references between tables. */
async function ownChecks(db: Db): Promise<string[]> {
	try {
		const pages = await db.all<{ integrity_check: string }>("PRAGMA integrity_check(20)");
		const wrong = pages.map((p) => p.integrity_check).filter((line) => line !== "ok");
		if (wrong.length > 0) return wrong.map((line) => `The database is damaged: ${line}`);
		const loose = await db.all<{ table: string; parent: string }>("PRAGMA foreign_key_check");
		return loose.slice(0, 20).map((row) => `A row of ${row.table} points to one of ${row.parent} that is not there.`);
	} catch (cause) {
		if (faultOf(cause)?.code !== "database-damaged") throw cause;
		return [`The database is damaged: ${String((cause as Error).message)}`];
	}
}

/** Each document is what its hash says, readable, and written the one canonical way. */
async function checkDocuments(db: Db, wrong: string[]): Promise<number> {
	let count = 0;
	for (let after = ""; ; ) {
		const page = await db.all<{ hash: string; bytes: Buffer }>(
			`SELECT hash, bytes FROM document WHERE hash > $after ORDER BY hash LIMIT ${PAGE}`,
			{ after },
		);
		for (const { hash, bytes } of page) {
			const found = createHash("sha256").update(bytes).digest("hex");
			if (found !== hash) wrong.push(`The document ${hash.slice(0, 12)} is not what was published: its content has changed.`);
			else if (!isReadable(bytes)) wrong.push(`The document ${hash.slice(0, 12)} cannot be read.`);
		}
		count += page.length;
		if (page.length < PAGE) return count;
		after = page.at(-1)?.hash ?? after;
	}
}

function isReadable(bytes: Buffer): boolean {
	try {
		const text = bytes.toString("utf8");
		const json: unknown = JSON.parse(text);
		return canonicalJson(json) === text && decodeMaterial(json).ok;
	} catch {
		return false;
	}
}

async function checkFiles(db: Db, dir: string, wrong: string[]): Promise<number> {
	const files = await db.all<{ hash: string; size: number }>("SELECT hash, size FROM blob");
	for (const { hash } of files) {
		const sum = createHash("sha256");
		try {
			await pipeline(createReadStream(blobPath(dir, hash)), sum);
			if (sum.digest("hex") !== hash) wrong.push(`The file ${hash.slice(0, 12)} is damaged: its content has changed.`);
		} catch (cause) {
			const gone = (cause as { code?: string }).code === "ENOENT";
			wrong.push(`The file ${hash.slice(0, 12)} ${gone ? "is missing" : `cannot be read (${String(cause)})`}.`);
		}
	}
	return files.length;
}

/** Groups that stand under themselves, by whatever way they came to: each loop is opened, and its groups stand at the top. */
async function mendGroups(db: Db): Promise<readonly string[]> {
	const looped = await db.all<{ id: string; name: string; library: string }>(
		`WITH RECURSIVE up(start, id, depth) AS (
			SELECT id, parent_id, 1 FROM library_group WHERE parent_id IS NOT NULL
			UNION ALL SELECT up.start, g.parent_id, up.depth + 1 FROM up JOIN library_group g ON g.id = up.id WHERE g.parent_id IS NOT NULL AND up.depth < 100)
		 SELECT DISTINCT g.id, g.name, l.name AS library FROM up JOIN library_group g ON g.id = up.start JOIN library l ON l.id = g.library_id
		 WHERE up.id = up.start`,
	);
	if (looped.length === 0) return [];
	await db.transaction(async (sql) => {
		await sql.run("UPDATE library_group SET parent_id = NULL WHERE id IN (SELECT value FROM json_each($ids))", {
			ids: JSON.stringify(looped.map((g) => g.id)),
		});
		return { commit: true, value: null };
	});
	return looped.map((g) => `The group “${g.name}” of “${g.library}” stood under itself; it stands at the top now.`);
}

/** What no foreign key says. Each question finds rows that may not be there. */
const LOOSE: readonly { readonly says: string; readonly sql: string }[] = [
	{
		says: "has a gap in its revisions",
		sql: `SELECT m.name FROM material m JOIN revision r ON r.material_id = m.id GROUP BY m.id HAVING MAX(r.no) <> COUNT(*) OR MIN(r.no) <> 1`,
	},
	{
		says: "has neither a revision nor a draft",
		sql: `SELECT m.name FROM material m WHERE NOT EXISTS (SELECT 1 FROM revision WHERE material_id = m.id) AND NOT EXISTS (SELECT 1 FROM draft WHERE material_id = m.id)`,
	},
	{
		says: "has a draft that cannot be read",
		sql: `SELECT m.name FROM draft d JOIN material m ON m.id = d.material_id WHERE NOT json_valid(d.edits)`,
	},
	{
		says: "is a part of another project than its material",
		sql: `SELECT p.name FROM assignment a JOIN part p ON p.id = a.part_id WHERE a.project_id <> p.project_id`,
	},
	{
		says: "was published without a publish that is done",
		sql: `SELECT m.name FROM revision r JOIN material m ON m.id = r.material_id JOIN publish p ON p.id = r.publish_id WHERE p.state <> 'done'`,
	},
];

async function checkReferences(sql: Sql, wrong: string[]): Promise<void> {
	for (const { says, sql: question } of LOOSE)
		for (const { name } of await sql.all<{ name: string }>(`${question} LIMIT 20`)) wrong.push(`“${name}” ${says}.`);
}

/**
 * Facts are derived from documents; all are made anew, as the server would make those that are missing. Data of an older
 * version are left to the server, which brings them up to date first.
 */
async function rebuild(db: Db): Promise<number> {
	if ((await db.one("SELECT 1 AS x FROM migration WHERE name = $name", { name: NEWEST })) === null) return 0;
	await db.transaction(async (sql) => {
		await sql.run("DELETE FROM facts");
		// the index that a start stands on is derived too
		await sql.run("DELETE FROM index_image");
		return { commit: true, value: null };
	});
	await tableFinding(db, null).load();
	return (await db.one<{ n: number }>("SELECT COUNT(*) AS n FROM facts"))?.n ?? 0;
}
