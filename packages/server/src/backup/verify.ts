import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { pipeline } from "node:stream/promises";
import { canonicalJson, decodeMaterial } from "@alvek/core/material";
import { type Db, databaseDamage, faultOf, foreignParts, NEWEST, openDatabase, refuseNewer } from "../db";
import { MaterialIndex } from "../material-index";
import {
	blobSizes,
	countFacts,
	countRevisions,
	documentPage,
	hasMigration,
	loopedGroups,
	looseRows,
	putGroupsAtTop,
	removeDerived,
} from "../repo";
import { blobPath } from "../runtime";
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
/** Rows of one fault that are named. */
const MOST_NAMED = 20;

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
		for (const { name, problem } of await looseRows(db, MOST_NAMED)) wrong.push(`“${name}” ${problem}.`);
		const revisions = await countRevisions(db);
		return { wrong, mended, revisions, documents, files, rebuilt: await rebuild(db) };
	} finally {
		await db.close();
	}
}

/** The engine's own, as far as it can be read at all. */
async function ownChecks(db: Db): Promise<string[]> {
	try {
		return [...(await databaseDamage(db, MOST_NAMED))];
	} catch (cause) {
		if (faultOf(cause)?.code !== "database-damaged") throw cause;
		return [`The database is damaged: ${String((cause as Error).message)}`];
	}
}

/** Each document is what its hash says, readable, and written the one canonical way. */
async function checkDocuments(db: Db, wrong: string[]): Promise<number> {
	let count = 0;
	for (let after = ""; ; ) {
		const page = await documentPage(db, after, PAGE);
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
	const files = await blobSizes(db);
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
	const looped = await loopedGroups(db);
	if (looped.length === 0) return [];
	await db.transaction(async (sql) => {
		await putGroupsAtTop(
			sql,
			looped.map((g) => g.id),
		);
		return { commit: true, value: null };
	});
	return looped.map((g) => `The group “${g.name}” of “${g.library}” stood under itself; it stands at the top now.`);
}

/**
 * Facts are derived from documents; all are made anew, as the server would make those that are missing. Data of an older
 * version are left to the server, which brings them up to date first.
 */
async function rebuild(db: Db): Promise<number> {
	if (!(await hasMigration(db, NEWEST))) return 0;
	await db.transaction(async (sql) => {
		await removeDerived(sql);
		return { commit: true, value: null };
	});
	const index = new MaterialIndex(db, null);
	await index.load();
	await index.close();
	return countFacts(db);
}
