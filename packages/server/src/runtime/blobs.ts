import { createHash } from "node:crypto";
import { mkdir, open, readdir, readFile, rename, rm, stat, utimes } from "node:fs/promises";
import { join } from "node:path";
import type { Readable } from "node:stream";
import { fail, ok, type Result } from "@alvek/core/result";
import { Fault, faultOf } from "../db";

/** Content-addressed files: written beside, synced, then renamed, so that a half-written blob is never seen. */
export type Blobs = {
	put(bytes: Uint8Array): Promise<string>;
	/** Takes a stream of at most `limit` bytes; nothing stays when it is larger or breaks off. */
	receive(stream: Readable, limit: number, expected: number | null): Promise<Result<{ hash: string; size: number }>>;
	/** @throws Fault `file-missing`, or `file-damaged` when the content is not what its name says */
	read(hash: string): Promise<Buffer>;
	/** Its first bytes, to see what it is; what they say is not checked against the sum. Fewer where it is shorter. */
	begin(hash: string, length: number): Promise<Uint8Array>;
	/**
	 * Deletes a file that was received and refused, unless it came in again since; whoever asks has made sure that
	 * nothing names it.
	 * @param at when it was received, ms
	 */
	discard(hash: string, at: number): Promise<void>;
	/**
	 * Deletes files that nothing names and nobody touched for an hour: what is being received, taken in, copied into a
	 * backup or downloaded right now stays. Tells how many went.
	 */
	sweep(known: ReadonlySet<string>, now?: number): Promise<number>;
	/** Begins the hour anew in which a file without a name is kept. */
	touch(hash: string, now?: number): Promise<void>;
};

/** How long a file stays that nothing names. */
const SWEPT_AFTER_MS = 3_600_000;

/** Where a file with this hash lies. */
export const blobPath = (dir: string, hash: string): string => join(dir, hash.slice(0, 2), hash);

/** What is there under a hash: right, gone, or something else than was stored. */
async function readBlob(dir: string, hash: string): Promise<Buffer> {
	const bytes = await readFile(blobPath(dir, hash)).catch((cause: { code?: string }) => {
		if (cause.code === "ENOENT") throw new Fault({ code: "file-missing", actual: hash.slice(0, 12) });
		throw cause;
	});
	if (createHash("sha256").update(bytes).digest("hex") !== hash)
		throw new Fault({ code: "file-damaged", actual: hash.slice(0, 12) });
	return bytes;
}

export async function openBlobs(dir: string): Promise<Blobs> {
	const incoming = join(dir, "incoming");
	// what an earlier run left half received was never confirmed to anybody
	await rm(incoming, { recursive: true, force: true });
	await mkdir(incoming, { recursive: true });
	let count = 0;
	const pathOf = (hash: string): string => blobPath(dir, hash);

	const keep = async (temporary: string, hash: string): Promise<void> => {
		const target = pathOf(hash);
		// nothing may name it yet, so the hour before it is swept begins anew
		if (await touched(target)) return rm(temporary, { force: true });
		await mkdir(join(dir, hash.slice(0, 2)), { recursive: true });
		const file = await open(temporary, "r");
		await file.sync();
		await file.close();
		await rename(temporary, target);
		const folder = await open(join(dir, hash.slice(0, 2)), "r");
		await folder.sync();
		await folder.close();
	};

	return {
		async put(bytes) {
			const hash = createHash("sha256").update(bytes).digest("hex");
			const temporary = join(incoming, `put-${++count}`);
			const file = await open(temporary, "w");
			await file.writeFile(bytes);
			await file.close();
			await keep(temporary, hash);
			return hash;
		},
		async receive(stream, limit, expected) {
			const temporary = join(incoming, `receive-${++count}`);
			const hash = createHash("sha256");
			// a file handle, awaited write by write: a destroyed stream would report its late errors to nobody
			const out = await open(temporary, "w");
			let size = 0;
			try {
				for await (const chunk of stream) {
					size += (chunk as Buffer).length;
					if (size > limit) {
						return fail({ code: "upload-too-large", actual: size, expected: `${Math.round(limit / 1024 / 1024)} MB` });
					}
					hash.update(chunk as Buffer);
					await out.writeFile(chunk as Buffer);
				}
				if (expected !== null && size !== expected) {
					return fail({ code: "upload-broken", actual: size, expected: `${expected} bytes` });
				}
				const digest = hash.digest("hex");
				await keep(temporary, digest);
				return ok({ hash: digest, size });
			} catch (cause) {
				const fault = faultOf(cause);
				if (fault !== null) return fail(fault);
				return fail({ code: "upload-broken", actual: String(cause).slice(0, 100), expected: "the whole file" });
			} finally {
				await out.close();
				await rm(temporary, { force: true });
			}
		},
		begin: (hash, length) => beginning(pathOf(hash), length),
		async discard(hash, at) {
			const mtime = await stat(pathOf(hash)).then(
				(s) => s.mtimeMs,
				() => null,
			);
			if (mtime !== null && mtime <= at) await rm(pathOf(hash), { force: true });
		},
		read: (hash) => readBlob(dir, hash),
		async touch(hash, now) {
			await touched(pathOf(hash), now);
		},
		async sweep(known, now = Date.now()) {
			let gone = 0;
			for (const folder of await readdir(dir)) {
				if (!/^[0-9a-f]{2}$/.test(folder)) continue;
				for (const name of await readdir(join(dir, folder))) {
					const path = join(dir, folder, name);
					const isOld = async (file: string): Promise<boolean> => now - (await stat(file)).mtimeMs >= SWEPT_AFTER_MS;
					if (known.has(name) || !(await isOld(path))) continue;
					// aside first: who receives the same content meanwhile then stores it anew instead of relying on this one
					const aside = join(incoming, `sweep-${++count}`);
					await rename(path, aside);
					if (await isOld(aside)) await rm(aside, { force: true });
					else await rename(aside, path);
					gone++;
				}
			}
			return gone;
		},
	};
}

async function beginning(path: string, length: number): Promise<Uint8Array> {
	const file = await open(path, "r");
	try {
		const { bytesRead, buffer } = await file.read(Buffer.alloc(length), 0, length, 0);
		return buffer.subarray(0, bytesRead);
	} finally {
		await file.close();
	}
}

/** Marks a file as used just now; false: it is not there. */
async function touched(path: string, now = Date.now()): Promise<boolean> {
	return utimes(path, now / 1000, now / 1000).then(
		() => true,
		(cause: { code?: string }) => {
			if (cause.code === "ENOENT") return false;
			throw cause;
		},
	);
}
