import type { EvidenceWord } from "../material";
import { fail, ok, type Result } from "../result";
import type { Spans } from "./spans";
import type { MaterialTable } from "./table";

/** Columns of the rows that matter to some strips, as they travel to the browser. */
export type PackedColumns = {
	/** Rows that pass every other filter; more than `rows`, because rows without any of the properties are left out. */
	readonly total: number;
	readonly rows: number;
	readonly columns: ReadonlyMap<string, Spans>;
};

/**
 * Layout, little endian: magic `AVC2`, then five counts as Uint32 (total, rows, columns, bytes of names, 0); names as
 * JSON padded to 8 bytes; for each column the number of further values as Float64, then low, high, working (rows each),
 * then row, low, high, working of the further values, all Float64.
 */
const MAGIC = 0x32435641;
const HEAD_BYTES = 24;

/**
 * Takes the columns of the given rows together and packs them.
 * @param evidence of which properties only values of some evidence count
 */
export function packColumns(
	table: MaterialTable,
	hits: Int32Array,
	properties: readonly string[],
	evidence: ReadonlyMap<string, readonly EvidenceWord[]> = new Map(),
): Uint8Array {
	const spans = properties.map((p) => table.spansOf(p, evidence.get(p)));
	const rows = hits.filter((row) => spans.some((s) => s !== undefined && s.low[row] <= s.high[row]));
	const placeOf = new Map<number, number>();
	for (const [i, row] of rows.entries()) placeOf.set(row, i);
	const blocks = spans.map((s): Float64Array => {
		if (s === undefined) {
			const blank = new Float64Array(1 + 3 * rows.length).fill(Number.NaN);
			blank[0] = 0;
			blank.fill(Number.POSITIVE_INFINITY, 1, 1 + rows.length);
			blank.fill(Number.NEGATIVE_INFINITY, 1 + rows.length, 1 + 2 * rows.length);
			return blank;
		}
		const extras = [...s.extraRow.keys()].filter((k) => placeOf.has(s.extraRow[k]));
		extras.sort((a, b) => (placeOf.get(s.extraRow[a]) as number) - (placeOf.get(s.extraRow[b]) as number));
		const block = new Float64Array(1 + 3 * rows.length + 4 * extras.length);
		block[0] = extras.length;
		let at = 1;
		for (const column of [s.low, s.high, s.working]) for (let i = 0; i < rows.length; i++) block[at++] = column[rows[i]];
		for (const k of extras) block[at++] = placeOf.get(s.extraRow[k]) as number;
		for (const k of extras) block[at++] = s.extraLow[k];
		for (const k of extras) block[at++] = s.extraHigh[k];
		for (const k of extras) block[at++] = s.extraWorking[k];
		return block;
	});
	const names = utf8(JSON.stringify(properties));
	const padded = Math.ceil(names.length / 8) * 8;
	const bytes = new Uint8Array(HEAD_BYTES + padded + blocks.reduce((n, b) => n + b.byteLength, 0));
	const head = new Uint32Array(bytes.buffer, 0, 6);
	head.set([MAGIC, hits.length, rows.length, properties.length, names.length, 0]);
	bytes.set(names, HEAD_BYTES);
	let at = HEAD_BYTES + padded;
	for (const block of blocks) {
		bytes.set(new Uint8Array(block.buffer), at);
		at += block.byteLength;
	}
	return bytes;
}

const UNREADABLE = { code: "bad-file", path: "columns", expected: "columns of this version" } as const;

/** @returns issue `bad-file` when the bytes are not what `packColumns` writes, or are cut off */
export function unpackColumns(buffer: ArrayBuffer): Result<PackedColumns> {
	if (buffer.byteLength < HEAD_BYTES || new Uint32Array(buffer, 0, 1)[0] !== MAGIC) return fail(UNREADABLE);
	try {
		return ok(columnsIn(buffer));
	} catch {
		// a length that reaches beyond the bytes, names that are none
		return fail(UNREADABLE);
	}
}

/** @throws where a length reaches beyond the bytes; each is looked at before anything is made of it */
function columnsIn(buffer: ArrayBuffer): PackedColumns {
	const [, total, rows, count, nameBytes] = new Uint32Array(buffer, 0, 6);
	const properties = JSON.parse(fromUtf8(new Uint8Array(buffer, HEAD_BYTES, nameBytes))) as string[];
	let at = HEAD_BYTES + Math.ceil(nameBytes / 8) * 8;
	const take = (length: number): Float64Array => {
		const view = new Float64Array(buffer, at, length);
		at += length * 8;
		return view;
	};
	const columns = new Map<string, Spans>();
	for (let c = 0; c < count; c++) {
		const extras = take(1)[0];
		const [low, high, working] = [take(rows), take(rows), take(rows)];
		const extraRow = Int32Array.from(take(extras));
		const [extraLow, extraHigh, extraWorking] = [take(extras), take(extras), take(extras)];
		columns.set(properties[c], { low, high, working, extraRow, extraLow, extraHigh, extraWorking });
	}
	return { total, rows, columns };
}

// property ids are ASCII but for nothing that we make; escaping keeps this free of TextEncoder, which core has not
function utf8(text: string): Uint8Array {
	const ascii = text.replace(/[^\x20-\x7e]/g, (c) => `\\u${c.charCodeAt(0).toString(16).padStart(4, "0")}`);
	return Uint8Array.from(ascii, (c) => c.charCodeAt(0));
}

function fromUtf8(bytes: Uint8Array): string {
	return String.fromCharCode(...bytes);
}
