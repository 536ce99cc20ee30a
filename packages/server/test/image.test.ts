import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Numbers, TableImage } from "@alvek/core/table";
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { readImage, writeImage } from "../src/material-index";

let dir = "";
let path = "";
beforeAll(() => {
	dir = mkdtempSync(join(tmpdir(), "alvek-image-"));
	path = join(dir, "index.table");
});
afterAll(() => rmSync(dir, { recursive: true, force: true }));

const numbers: fc.Arbitrary<Numbers> = fc.oneof(
	fc.array(fc.double(), { maxLength: 9 }).map((list) => Float64Array.from(list)),
	fc.array(fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 }), { maxLength: 9 }).map((list) => Int32Array.from(list)),
	fc.array(fc.nat(2 ** 32 - 1), { maxLength: 9 }).map((list) => Uint32Array.from(list)),
);
// anything that UTF-8 carries but what stands between two strings
const text = fc.string({ unit: "grapheme", maxLength: 12 }).map((s) => s.replaceAll("\u0000", ""));
const image: fc.Arbitrary<TableImage> = fc.record({
	numbers: fc.dictionary(fc.constantFrom("a", "b", "low.density", "Größe"), numbers).map((d) => new Map(Object.entries(d))),
	strings: fc
		.dictionary(fc.constantFrom("ids", "names", "texts"), fc.array(text, { maxLength: 6 }))
		.map((d) => new Map(Object.entries(d))),
});

describe("a kept table", () => {
	it("comes back as it was, number by number and string by string", async () => {
		await fc.assert(
			fc.asyncProperty(image, async (kept) => {
				await writeImage(path, "stamp", kept);
				const back = await readImage(path, "stamp");
				if (back === null) throw new Error("not read");
				expect([...back.numbers.keys()].sort()).toEqual([...kept.numbers.keys()].sort());
				for (const [name, list] of kept.numbers) {
					expect(back.numbers.get(name)?.constructor).toBe(list.constructor);
					// -0 and NaN are what they were
					expect([...(back.numbers.get(name) ?? [])].map((x) => [x, Object.is(x, -0)])).toEqual(
						[...list].map((x) => [x, Object.is(x, -0)]),
					);
				}
				for (const [name, list] of kept.strings) expect(back.strings(name)).toEqual(list);
				expect(back.strings("never there")).toEqual([]);
			}),
			{ numRuns: 60 },
		);
	});

	it("is not taken when a bit of it is another, when it is cut off, or belongs to something else", async () => {
		await writeImage(path, "stamp", {
			numbers: new Map([["a", Float64Array.of(1, 2, 3)]]),
			strings: new Map([["names", ["one", "zwei", "três"]]]),
		});
		const whole = readFileSync(path);
		expect(await readImage(path, "another")).toBeNull();
		await fc.assert(
			fc.asyncProperty(fc.nat(whole.length * 8 - 1), async (bit) => {
				const harmed = Buffer.from(whole);
				harmed[bit >> 3] = (harmed[bit >> 3] as number) ^ (1 << (bit & 7));
				writeFileSync(path, harmed);
				expect(await readImage(path, "stamp")).toBeNull();
			}),
			{ numRuns: 80 },
		);
		for (let length = 0; length < whole.length; length += 7) {
			writeFileSync(path, whole.subarray(0, length));
			expect(await readImage(path, "stamp")).toBeNull();
		}
		expect(await readImage(join(dir, "not there"), "stamp")).toBeNull();
	});

	it("longer than what is read at once, and written in the place of the one before only when it is whole", async () => {
		const many = Float64Array.from({ length: 3_000_000 }, (_, i) => i / 7);
		await writeImage(path, "long", { numbers: new Map([["a", many]]), strings: new Map([["ids", ["x"]]]) });
		const back = await readImage(path, "long");
		expect(back?.numbers.get("a")?.at(-1)).toBe(2_999_999 / 7);
		expect(back?.strings("ids")).toEqual(["x"]);
		await expect(writeImage(path, "refused", { numbers: new Map(), strings: new Map([["ids", ["a\u0000b"]]]) })).rejects.toThrow(
			"stands between",
		);
		expect((await readImage(path, "long"))?.numbers.get("a")?.length).toBe(3_000_000);
		expect(readdirSync(dir)).toEqual(["index.table"]);
	});
});
