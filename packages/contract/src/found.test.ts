import type { PackedColumns } from "@alvek/core/table";
import { MaterialTable, packColumns } from "@alvek/core/table";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { packFound, unpackFound } from "./found";

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);
const read = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);
const NO_COLUMNS = packColumns(new MaterialTable(), new Int32Array(), ["density"]);

describe("rows and columns in one reply", () => {
	it("come apart as they went in, whatever letters the rows have", () => {
		fc.assert(
			fc.property(fc.string({ unit: "grapheme" }), (name) => {
				const page = { total: 1, rows: [{ name }] };
				const packed = packFound(utf8(JSON.stringify(page)), NO_COLUMNS);
				const found = unpackFound(packed.buffer as ArrayBuffer, read);
				expect(found.ok && found.value.page).toEqual(page);
				expect(found.ok && [...(found.value.columns as PackedColumns).columns.keys()]).toEqual(["density"]);
			}),
		);
	});

	it("bytes of another kind, or cut off, are refused", () => {
		const packed = packFound(utf8("{}"), NO_COLUMNS);
		const other = packed.slice();
		other.set([1]);
		for (const bytes of [new Uint8Array(), new Uint8Array(4), other, packed.slice(0, 12), packed.slice(0, 16)])
			expect(unpackFound(bytes.buffer as ArrayBuffer, read)).toMatchObject({ ok: false, issues: [{ code: "bad-file" }] });
	});

	it("bytes changed or cut anywhere are read or refused, never thrown at the page", () => {
		const packed = packFound(utf8(JSON.stringify({ total: 2, rows: [{ name: "Bronze" }] })), NO_COLUMNS);
		fc.assert(
			fc.property(fc.nat(packed.length - 1), fc.nat(255), fc.nat(packed.length), (at, byte, length) => {
				const bytes = packed.slice(0, length);
				if (at < length) bytes[at] = byte;
				const found = unpackFound(bytes.buffer as ArrayBuffer, read);
				if (!found.ok) expect(found.issues[0]?.code).toBe("bad-file");
			}),
			{ numRuns: 2000 },
		);
	});
});
