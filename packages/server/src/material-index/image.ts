import { open, rename, rm } from "node:fs/promises";
import { crc32 } from "node:zlib";
import type { Numbers, StoredTable, TableImage } from "@alvek/core/table";

/**
 * Layout, little endian: magic `AVT1`, CRC-32 of all that follows, length of the head, 0 (Uint32 each); the head as
 * JSON; then each block of the head at a multiple of eight bytes. Whatever does not read as this is as good as no file:
 * all of it can be made anew.
 */
const MAGIC = 0x31545641;
const START_BYTES = 16;
/** What the sum does not go over. */
const UNSUMMED_BYTES = 8;
/** Read at once; summed while the next one is read. */
const CHUNK_BYTES = 8 << 20;
/** Stands between strings; a table with it inside a string is not kept. */
const BETWEEN = "\u0000";

const KINDS = { f64: Float64Array, i32: Int32Array, u32: Uint32Array };
type Kind = keyof typeof KINDS | "text";

type Block = {
	readonly name: string;
	readonly kind: Kind;
	readonly at: number;
	readonly bytes: number;
	readonly count: number;
};

type Head = { readonly stamp: string; readonly blocks: readonly Block[] };

/** Writes a table beside what was there and puts it in its place when it is whole on disk. */
export async function writeImage(path: string, stamp: string, image: TableImage): Promise<void> {
	const blocks: Block[] = [];
	const contents: Uint8Array[] = [];
	let at = 0;
	const add = (name: string, kind: Kind, content: Uint8Array, count: number): void => {
		blocks.push({ name, kind, at, bytes: content.byteLength, count });
		contents.push(content, new Uint8Array(padding(content.byteLength)));
		at += content.byteLength + padding(content.byteLength);
	};
	for (const [name, numbers] of image.numbers)
		add(name, kindOf(numbers), new Uint8Array(numbers.buffer, numbers.byteOffset, numbers.byteLength), numbers.length);
	for (const [name, strings] of image.strings) {
		if (strings.some((s) => s.includes(BETWEEN))) throw new Error(`a string of ${name} holds what stands between strings`);
		add(name, "text", Buffer.from(strings.join(BETWEEN), "utf8"), strings.length);
		// others are answered between one long list and the next
		await new Promise(setImmediate);
	}
	const head = Buffer.from(JSON.stringify({ stamp, blocks } satisfies Head), "utf8");
	const start = Buffer.from(new Uint32Array([MAGIC, 0, head.byteLength, 0]).buffer);
	// an empty piece would set the sum back to nothing
	const pieces = [start, head, new Uint8Array(padding(head.byteLength)), ...contents].filter((p) => p.byteLength > 0);
	let sum = crc32(start.subarray(UNSUMMED_BYTES));
	for (const piece of pieces.slice(1)) sum = crc32(piece, sum);
	start.writeUInt32LE(sum, 4);
	const part = `${path}.part`;
	const file = await open(part, "w");
	try {
		await file.writev(pieces);
		await file.sync();
	} catch (cause) {
		await file.close();
		await rm(part, { force: true });
		throw cause;
	}
	await file.close();
	await rename(part, path);
}

/** The table kept under this stamp; null when there is none, or another, or one that is not whole. */
export async function readImage(path: string, stamp: string): Promise<StoredTable | null> {
	const bytes = await wholeFile(path);
	if (bytes === null) return null;
	const [, , headBytes] = new Uint32Array(bytes.buffer, 0, 4);
	const body = START_BYTES + (headBytes as number) + padding(headBytes as number);
	const head = JSON.parse(bytes.toString("utf8", START_BYTES, START_BYTES + (headBytes as number))) as Head;
	if (head.stamp !== stamp) return null;
	const numbers = new Map<string, Numbers>();
	const texts = new Map<string, Block>();
	for (const block of head.blocks) {
		if (block.kind === "text") texts.set(block.name, block);
		else numbers.set(block.name, new KINDS[block.kind](bytes.buffer, body + block.at, block.count));
	}
	return {
		numbers,
		strings(name) {
			const block = texts.get(name);
			if (block === undefined || block.count === 0) return [];
			return bytes.toString("utf8", body + block.at, body + block.at + block.bytes).split(BETWEEN);
		},
	};
}

/** A file that is what was written, in memory that begins at a multiple of eight; null when there is none. */
async function wholeFile(path: string): Promise<Buffer<ArrayBuffer> | null> {
	let file: Awaited<ReturnType<typeof open>>;
	try {
		file = await open(path, "r");
	} catch {
		return null;
	}
	try {
		const { size } = await file.stat();
		if (size < START_BYTES) return null;
		const bytes = Buffer.from(new ArrayBuffer(size));
		const read = (at: number): Promise<number> =>
			at >= size ? Promise.resolve(0) : file.read(bytes, at, Math.min(CHUNK_BYTES, size - at), at).then((r) => r.bytesRead);
		let sum = 0;
		let next = read(0);
		for (let at = 0; at < size; at += CHUNK_BYTES) {
			const end = at + (await next);
			if (end !== Math.min(at + CHUNK_BYTES, size)) return null;
			next = read(end);
			sum = crc32(bytes.subarray(Math.max(at, UNSUMMED_BYTES), end), sum);
		}
		return bytes.readUInt32LE(0) === MAGIC && bytes.readUInt32LE(4) === sum ? bytes : null;
	} finally {
		await file.close();
	}
}

function kindOf(numbers: Numbers): Kind {
	return numbers instanceof Float64Array ? "f64" : numbers instanceof Int32Array ? "i32" : "u32";
}

function padding(bytes: number): number {
	return (8 - (bytes % 8)) % 8;
}
