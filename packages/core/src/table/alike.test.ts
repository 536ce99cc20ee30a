import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DISCRIMINATING, isNear, nameLikeness, wordsOfName } from "../material";
import { type AlikeRows, alikePairs, alikeTo } from "./alike";

type Row = { readonly name: string; readonly family: number; readonly numbers: Readonly<Record<string, number>> };

const PROPERTIES = ["density", "youngs_modulus", "tensile_strength", "yield_strength", "hardness"] as const;

function rowsOf(list: readonly Row[]): AlikeRows {
	const columns = new Map(PROPERTIES.map((p) => [p as string, Float64Array.from(list, (r) => r.numbers[p] ?? Number.NaN)]));
	const words = list.map((r) => wordsOfName(r.name));
	return {
		rows: Int32Array.from(list.keys()),
		words: (row) => words[row] as readonly string[],
		family: (row) => (list[row] as Row).family,
		columns,
	};
}

/** All of it in one go. */
function pairsOf(all: AlikeRows, mine: (row: number) => boolean) {
	const work = alikePairs(all, mine);
	for (let step = work.next(); ; step = work.next()) if (step.done === true) return step.value;
}

/** The same question by comparing every row with every other. */
function slowPairs(list: readonly Row[]): readonly string[] {
	const found: string[] = [];
	for (const [b, y] of list.entries())
		for (const [a, x] of list.slice(0, b).entries()) {
			const name = nameLikeness(x.name, y.name);
			const byName = name !== null && name.kind !== "variant";
			const shared = PROPERTIES.filter((p) => {
				const [m, n] = [x.numbers[p], y.numbers[p]];
				return m !== undefined && n !== undefined && isNear(m, n);
			});
			const telling = shared.filter((p) => DISCRIMINATING.has(p)).length;
			if (byName || (x.family === y.family && x.family !== 0 && shared.length >= 3 && telling >= 1)) found.push(`${a} ${b}`);
		}
	return found.sort();
}

const word = fc.constantFrom("steel", "steal", "steele", "plate", "palte", "bronze", "s355", "jr", "5", "6");
const row: fc.Arbitrary<Row> = fc.record({
	name: fc.array(word, { minLength: 1, maxLength: 3 }).map((w) => w.join(" ")),
	family: fc.integer({ min: 0, max: 2 }),
	numbers: fc
		.tuple(...PROPERTIES.map(() => fc.option(fc.constantFrom(100, 100.9, 101.2, 102.5, 250), { nil: undefined })))
		.map((numbers) => Object.fromEntries(PROPERTIES.flatMap((p, i) => (numbers[i] === undefined ? [] : [[p, numbers[i]]])))),
});

describe("look-alikes among many", () => {
	it("finds the pairs that comparing everything with everything finds", () => {
		fc.assert(
			fc.property(fc.array(row, { maxLength: 24 }), (list) => {
				const { pairs, complete } = pairsOf(rowsOf(list), () => true);
				expect(complete).toBe(true);
				expect(pairs.map((p) => `${p.a} ${p.b}`).sort()).toEqual(slowPairs(list));
			}),
			{ numRuns: 300 },
		);
	});

	it("one against all finds what the pairs with it are", () => {
		fc.assert(
			fc.property(fc.array(row, { minLength: 1, maxLength: 16 }), (list) => {
				const [seed] = list as [Row, ...Row[]];
				const all = rowsOf(list);
				const one = { words: wordsOfName(seed.name), family: seed.family, numbers: new Map(Object.entries(seed.numbers)) };
				const found = new Set(alikeTo(all, one).map((f) => f.row));
				for (const { a, b } of pairsOf(all, (row) => row === 0).pairs) {
					expect(a).toBe(0);
					expect(found.has(b)).toBe(true);
				}
			}),
		);
	});

	it("the most alike first, and only pairs that were asked for", () => {
		const list: Row[] = [
			{ name: "Bronze", family: 1, numbers: { density: 100, hardness: 100, yield_strength: 100 } },
			{ name: "Other", family: 1, numbers: { density: 100, hardness: 100, yield_strength: 100.5 } },
			{ name: "bronze", family: 2, numbers: {} },
		];
		expect(pairsOf(rowsOf(list), () => true).pairs.map((p) => [p.a, p.b, p.byName, p.shared])).toEqual([
			[0, 2, true, 0],
			[0, 1, false, 3],
		]);
		expect(pairsOf(rowsOf(list), (row) => row === 1).pairs.length).toBe(1);
		expect(pairsOf(rowsOf(list), (row) => row === 0).pairs.length).toBe(2);
	});
});
