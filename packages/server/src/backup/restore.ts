import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { mkdir, open, rename, rm, writeFile } from "node:fs/promises";
import { dirname, join } from "node:path";
import { pipeline } from "node:stream/promises";
import { createGunzip } from "node:zlib";
import { extract } from "tar-stream";
import { Fault, faultOf, holdFolder } from "../db";
import { blobPath } from "../runtime";
import { BLOBS, DATABASE, MANIFEST, MANIFEST_SUM, type Manifest, sumOf, syncFolder } from "./back-up";
import { blobsIn, databaseIn, exists, READY, restoringIn } from "./folder";
import { verify } from "./verify";

export type Restored = {
	readonly manifest: Manifest;
	/** Where what was there before lies now; null where there was nothing. */
	readonly replaced: string | null;
};

/**
 * Puts a backup in the place of a data folder's content. All of it is unpacked and checked first; only then what was
 * there is moved aside, never deleted. Broken off half way it is run again; the server does not start in between.
 * @param at names the folder in which the replaced data are kept
 * @throws Fault `not-a-backup`, `folder-in-use`, `data-newer`, `disk-full`
 */
export async function restore(dataDir: string, file: string, at: string): Promise<Restored> {
	if (!(await exists(file))) throw new Fault({ code: "not-a-backup", path: file, actual: "there is no such file" });
	const made = await mkdir(dataDir, { recursive: true });
	const hold = await holdFolder(dataDir);
	let done = false;
	try {
		const staging = restoringIn(dataDir);
		await rm(staging, { recursive: true, force: true });
		const manifest = await unpack(file, staging);
		const { wrong } = await verify(staging).catch((cause: unknown) => {
			const fault = faultOf(cause);
			if (fault !== null && fault.code !== "database-damaged") throw cause;
			throw new Fault({ code: "not-a-backup", path: file, actual: "its database is none, or is damaged" });
		});
		if (wrong.length > 0) throw new Fault({ code: "not-a-backup", path: file, actual: wrong[0] as string });
		await writeFile(join(staging, READY), "");
		await syncFolder(staging);
		const replaced = await moveAside(dataDir, join(dataDir, `replaced-${at.slice(0, 19).replaceAll(":", "-")}Z`));
		await rename(blobsIn(staging), blobsIn(dataDir));
		// the database last: as long as it is not here, nothing opens the folder
		await rename(databaseIn(staging), databaseIn(dataDir));
		await syncFolder(dataDir);
		await rm(staging, { recursive: true, force: true });
		done = true;
		return { manifest, replaced };
	} catch (cause) {
		// before the mark stands in it, what was unpacked is of no use to anybody
		if (!(await exists(join(restoringIn(dataDir), READY)))) await rm(restoringIn(dataDir), { recursive: true, force: true });
		throw cause;
	} finally {
		await hold.release();
		// a folder that was made for this alone goes with the failure
		if (!done && made !== undefined) await rm(made, { recursive: true, force: true });
	}
}

/** What is there goes into a folder of its own; its name, or null when nothing is there. */
async function moveAside(dataDir: string, target: string): Promise<string | null> {
	let moved: string | null = null;
	const database = databaseIn(dataDir);
	for (const path of [database, `${database}-wal`, `${database}-shm`, blobsIn(dataDir)]) {
		if (!(await exists(path))) continue;
		await mkdir(target, { recursive: true });
		await rename(path, join(target, path.slice(dataDir.length + 1)));
		moved = target;
	}
	await syncFolder(dataDir);
	return moved;
}

/** Unpacks into a folder, each entry only if it is what the manifest says of it; names in the file are never paths. */
async function unpack(file: string, staging: string): Promise<Manifest> {
	const bad = (actual: string): Fault => new Fault({ code: "not-a-backup", path: file, actual });
	await mkdir(blobsIn(staging), { recursive: true });
	const tar = extract();
	// a stream of another make, with the same methods
	const reading = pipeline(createReadStream(file), createGunzip(), tar as unknown as NodeJS.WritableStream);
	reading.catch(() => undefined);
	let manifest: Manifest | null = null;
	let manifestSum = "";
	let sealed = false;
	const missing = new Map<string, { sum: string; size: number }>();
	try {
		for await (const entry of tar) {
			const { name, type } = entry.header;
			if (type !== "file") throw bad(`it holds ${name}, which is no file`);
			if (manifest === null) {
				if (name !== MANIFEST) throw bad("it does not begin with a manifest");
				const text = await textOf(entry, 256 * 1024 * 1024);
				manifest = readManifest(text, bad);
				manifestSum = sumOf(text);
				missing.set(DATABASE, { sum: manifest.database.sha256, size: manifest.database.size });
				for (const { hash, size } of manifest.blobs) missing.set(BLOBS + hash, { sum: hash, size });
			} else if (name === MANIFEST_SUM) {
				if ((await textOf(entry, 100)) !== manifestSum) throw bad("its manifest was changed");
				sealed = true;
			} else {
				const wanted = missing.get(name);
				if (wanted === undefined) throw bad(`it holds ${name}, which its manifest does not name`);
				const target = name === DATABASE ? databaseIn(staging) : blobPath(blobsIn(staging), wanted.sum);
				if ((await write(entry, target, wanted.size)) !== wanted.sum) throw bad(`${name} in it is damaged`);
				missing.delete(name);
			}
		}
		await reading;
	} catch (cause) {
		if (cause instanceof Fault) throw cause;
		const fault = faultOf(cause);
		if (fault !== null) throw new Fault(fault);
		// zlib and tar say in their own words where the file is broken
		throw bad(`it cannot be read (${String((cause as Error).message)})`);
	}
	if (manifest === null) throw bad("it is empty");
	if (!sealed || missing.size > 0) throw bad(`it ends early, ${missing.size} of its files are missing`);
	return manifest;
}

const HASH = /^[0-9a-f]{64}$/;
const isSize = (x: unknown): x is number => Number.isSafeInteger(x) && (x as number) >= 0;

function readManifest(text: string, bad: (actual: string) => Fault): Manifest {
	let read: Manifest;
	try {
		read = JSON.parse(text) as Manifest;
	} catch {
		throw bad("its manifest cannot be read");
	}
	if (read?.format !== "alvek-backup") throw bad("it is something else");
	if (read.version !== 1) throw bad(`it is of version ${read.version}, which this Alvek does not know`);
	const sound =
		HASH.test(read.database?.sha256) &&
		isSize(read.database.size) &&
		Array.isArray(read.blobs) &&
		read.blobs.every((b) => HASH.test(b?.hash) && isSize(b.size));
	if (!sound) throw bad("its manifest is incomplete");
	return read;
}

async function textOf(entry: AsyncIterable<unknown>, most: number): Promise<string> {
	const chunks: Buffer[] = [];
	let size = 0;
	for await (const chunk of entry) {
		size += (chunk as Buffer).length;
		if (size > most) throw new Error("an entry is too large");
		chunks.push(chunk as Buffer);
	}
	return Buffer.concat(chunks).toString("utf8");
}

/** Writes an entry of a known size; the SHA-256 of what came. */
async function write(entry: AsyncIterable<unknown>, target: string, size: number): Promise<string> {
	await mkdir(dirname(target), { recursive: true });
	const sum = createHash("sha256");
	const out = await open(target, "wx", 0o600);
	let come = 0;
	try {
		for await (const chunk of entry) {
			come += (chunk as Buffer).length;
			if (come > size) return "";
			sum.update(chunk as Buffer);
			await out.writeFile(chunk as Buffer);
		}
		await out.sync();
	} finally {
		await out.close();
	}
	return sum.digest("hex");
}
