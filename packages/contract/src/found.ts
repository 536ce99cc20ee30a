import { fail, ok, type Result } from "@alvek/core/result";
import { type PackedColumns, unpackColumns } from "@alvek/core/table";
import type { MaterialPage } from "./wire";

/** Rows of a question, and the numbers of its strips, in one reply. */
export type FoundWithColumns = { readonly page: MaterialPage; readonly columns: PackedColumns };

/** Layout, little endian: magic `AVFC`, bytes of the page's JSON (UTF-8), both as Uint32; the JSON padded to 8 bytes; the columns. */
const MAGIC = 0x43465641;
const HEAD_BYTES = 8;

/** @param json the page as UTF-8 */
export function packFound(json: Uint8Array, columns: Uint8Array): Uint8Array {
	const start = HEAD_BYTES + padded(json.length);
	const bytes = new Uint8Array(start + columns.length);
	new Uint32Array(bytes.buffer, 0, 2).set([MAGIC, json.length]);
	bytes.set(json, HEAD_BYTES);
	bytes.set(columns, start);
	return bytes;
}

/**
 * @param read makes text of UTF-8
 * @returns issue `bad-file` when the bytes are not what `packFound` writes
 */
export function unpackFound(buffer: ArrayBuffer, read: (utf8: Uint8Array) => string): Result<FoundWithColumns> {
	const [magic, length = 0] = buffer.byteLength < HEAD_BYTES ? [] : new Uint32Array(buffer, 0, 2);
	const start = HEAD_BYTES + padded(length);
	if (magic !== MAGIC || start > buffer.byteLength)
		return fail({ code: "bad-file", path: "rows", expected: "rows and columns of this version" });
	const columns = unpackColumns(buffer.slice(start));
	if (!columns.ok) return columns;
	try {
		const page = JSON.parse(read(new Uint8Array(buffer, HEAD_BYTES, length))) as MaterialPage;
		return ok({ page, columns: columns.value });
	} catch {
		return fail({ code: "bad-file", path: "rows", expected: "rows and columns of this version" });
	}
}

function padded(length: number): number {
	return Math.ceil(length / 8) * 8;
}
