import { createHash } from "node:crypto";
import { createReadStream, createWriteStream } from "node:fs";
import { mkdir, open, rename, rm, stat } from "node:fs/promises";
import { dirname, join } from "node:path";
import type { Readable } from "node:stream";
import { finished, pipeline } from "node:stream/promises";
import { createGzip } from "node:zlib";
import { type Pack, pack } from "tar-stream";
import { copyDatabase, Fault, NEWEST, openDatabase } from "../db";
import { blobSizes, newestMigration } from "../repo";
import { blobPath } from "../runtime";
import { blobsIn, databaseIn, requireData } from "./folder";

/** What a backup holds, said first in it. Everything is named with its SHA-256, the manifest itself in the last entry. */
export type Manifest = {
	readonly format: "alvek-backup";
	readonly version: 1;
	readonly at: string;
	/** The newest migration of the database. */
	readonly schema: string;
	readonly database: { readonly size: number; readonly sha256: string };
	readonly blobs: readonly { readonly hash: string; readonly size: number }[];
};

export const MANIFEST = "manifest.json";
export const MANIFEST_SUM = "manifest.sha256";
export const DATABASE = "alvek.sqlite";
export const BLOBS = "blobs/";

export const sumOf = (bytes: string | Uint8Array): string => createHash("sha256").update(bytes).digest("hex");

async function sumOfFile(path: string): Promise<string> {
	const hash = createHash("sha256");
	await pipeline(createReadStream(path), hash);
	return hash.digest("hex");
}

/**
 * Writes the whole installation into one gzipped tar, while it runs: the database as it is at one moment, then the files
 * that it names. Written beside and renamed at the end, so that a backup is whole or not there.
 * @returns the manifest and the size of the file in bytes
 * @throws Fault `no-data`, `database-damaged`, `file-missing`, `file-damaged`, `disk-full`
 */
export async function backUp(dataDir: string, file: string, at: string): Promise<{ manifest: Manifest; size: number }> {
	await requireData(dataDir);
	await mkdir(dirname(file), { recursive: true });
	const snapshot = `${file}.database`;
	const part = `${file}.part`;
	try {
		await rm(snapshot, { force: true });
		const { schema, blobs } = await snapshotOf(dataDir, snapshot);
		for (const { hash } of blobs) await requireSound(dataDir, hash);
		const manifest: Manifest = {
			format: "alvek-backup",
			version: 1,
			at,
			schema,
			database: { size: (await stat(snapshot)).size, sha256: await sumOfFile(snapshot) },
			blobs,
		};
		await writeTar(part, manifest, snapshot, blobsIn(dataDir));
		await rename(part, file);
		await syncFolder(dirname(file));
		return { manifest, size: (await stat(file)).size };
	} finally {
		await rm(snapshot, { force: true });
		await rm(part, { force: true });
	}
}

/** The database as it is at one moment; readers and writers go on meanwhile. A damaged page shows here. */
async function snapshotOf(dataDir: string, target: string): Promise<{ schema: string; blobs: Manifest["blobs"] }> {
	await copyDatabase(databaseIn(dataDir), target);
	const copy = await openDatabase(target);
	try {
		const schema = (await newestMigration(copy)) ?? NEWEST;
		return { schema, blobs: await blobSizes(copy) };
	} finally {
		await copy.close();
	}
}

async function requireSound(dataDir: string, hash: string): Promise<void> {
	const found = await sumOfFile(blobPath(blobsIn(dataDir), hash)).catch((cause: { code?: string }) => {
		if (cause.code === "ENOENT") throw new Fault({ code: "file-missing", actual: hash.slice(0, 12) });
		throw cause;
	});
	if (found !== hash) throw new Fault({ code: "file-damaged", actual: hash.slice(0, 12) });
}

async function writeTar(file: string, manifest: Manifest, snapshot: string, blobsDir: string): Promise<void> {
	const tar = pack();
	// a stream of another make, with the same methods
	const written = pipeline(tar as unknown as Readable, createGzip({ level: 1 }), createWriteStream(file));
	// the first of the two to fail is the cause; the other follows from it
	written.catch(() => undefined);
	const text = JSON.stringify(manifest, null, "\t");
	try {
		addText(tar, MANIFEST, text);
		await addFile(tar, DATABASE, snapshot, manifest.database.size);
		for (const { hash, size } of manifest.blobs) await addFile(tar, BLOBS + hash, blobPath(blobsDir, hash), size);
		addText(tar, MANIFEST_SUM, sumOf(text));
		tar.finalize();
	} catch (cause) {
		tar.destroy();
		await written;
		throw cause;
	}
	await written;
	const handle = await open(file, "r");
	await handle.sync();
	await handle.close();
}

const ENTRY = { mode: 0o600 } as const;

function addText(tar: Pack, name: string, text: string): void {
	tar.entry({ ...ENTRY, name }, text);
}

async function addFile(tar: Pack, name: string, path: string, size: number): Promise<void> {
	const entry = tar.entry({ ...ENTRY, name, size });
	createReadStream(path)
		.on("error", (cause) => entry.destroy(cause))
		.pipe(entry);
	await finished(entry);
}

export async function syncFolder(dir: string): Promise<void> {
	const folder = await open(dir, "r");
	await folder.sync();
	await folder.close();
}

/** `alvek-2026-11-26T01-02-03Z.tar.gz`, in the order of time when sorted by name. */
export const backupName = (at: string): string => `alvek-${at.slice(0, 19).replaceAll(":", "-")}Z.tar.gz`;

/** Where a backup goes when nothing else is said. */
export const backupsIn = (dataDir: string): string => join(dataDir, "backups");
