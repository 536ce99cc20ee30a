import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { distance, foldName, lettersOf, nearWords, rankName } from "./index";

describe("names typed with slips", () => {
	it("counts edits as the textbook table does", () => {
		// optimal string alignment distance by its recurrence over prefixes, with no bound and no shortcut
		const plain = (a: string, b: string): number => {
			if (a === "" || b === "") return a.length + b.length;
			const [x, y] = [a.at(-1), b.at(-1)];
			let best = Math.min(
				plain(a.slice(0, -1), b) + 1,
				plain(a, b.slice(0, -1)) + 1,
				plain(a.slice(0, -1), b.slice(0, -1)) + (x === y ? 0 : 1),
			);
			if (a.length > 1 && b.length > 1 && x === b.at(-2) && a.at(-2) === y)
				best = Math.min(best, plain(a.slice(0, -2), b.slice(0, -2)) + 1);
			return best;
		};
		const word = fc.string({ unit: fc.constantFrom("a", "b", "c"), maxLength: 5 });
		fc.assert(
			fc.property(word, word, (a, b) => {
				const exact = plain(a, b);
				expect(Math.min(distance(a, b, 2), 3)).toBe(Math.min(exact, 3));
			}),
		);
	});

	it("spares only comparisons that could not succeed", () => {
		const word = fc.string({ unit: fc.constantFrom("a", "b", "c", "1", "é"), minLength: 4, maxLength: 8 });
		fc.assert(
			fc.property(word, word, (piece, other) => {
				const found = nearWords(piece, new Map([[other, lettersOf(other)]]));
				const without = nearWords(piece, new Map([[other, -1]]));
				expect([...found]).toEqual([...without]);
			}),
		);
	});

	it("ranks exact before start before words before inside, and forgives slips in longer pieces only", () => {
		const rank = (name: string, typed: string) => rankName(foldName(name), foldName(typed));
		expect(rank("Gudgeon bronze 5", "gudgeon  BRONZE 5")).toBe(0);
		expect(rank("Gudgeon bronze 5", "gudg")).toBe(1);
		expect(rank("Gudgeon bronze 5", "bronze gud")).toBe(2);
		expect(rank("Gudgeon bronze 5", "onze")).toBe(3);
		expect(rank("Gudgeon bronze 5", "brass")).toBeNull();
		expect(rank("Señor Größe", "senor")).toBe(1);
		const words = (...list: string[]) => new Map(list.map((w) => [w, lettersOf(w)]));
		expect([...nearWords("bornze", words("bronze", "brass", "bonze"))]).toEqual([
			["bronze", 1],
			["bonze", 1],
		]);
		expect([...nearWords("gugdeo", words("gudgeon"))]).toEqual([["gudgeon", 1]]);
		expect([...nearWords("ab", words("ac"))]).toEqual([]);
	});
});
