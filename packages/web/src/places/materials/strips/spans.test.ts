import { blankSpans, type PackedColumns, type StripAxis } from "@alvek/core/table";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { endAt, failing, passing, placesOf, withSpan } from "./spans";

const column = (numbers: readonly (readonly [number, number] | null)[]) => {
	const spans = blankSpans(numbers.length);
	for (const [i, n] of numbers.entries()) if (n !== null) [spans.low[i], spans.high[i]] = n;
	return spans;
};
const LINEAR: StripAxis = { low: 0, high: 10, log: false };

describe("spans of strips", () => {
	it("count what overlaps all of them, as the plain rule does", () => {
		const end = fc.integer({ min: 0, max: 10 });
		const span = fc.tuple(end, end).map(([a, b]) => [Math.min(a, b), Math.max(a, b)] as const);
		const cells = fc.array(fc.tuple(fc.option(span), fc.option(span)), { minLength: 1, maxLength: 30 });
		fc.assert(
			fc.property(cells, span, span, (rows, x, y) => {
				const packed: PackedColumns = {
					total: rows.length,
					rows: rows.length,
					columns: new Map([
						["x", column(rows.map((r) => r[0]))],
						["y", column(rows.map((r) => r[1]))],
					]),
				};
				const where = [
					{ property: "x", low: x[0], high: x[1] },
					{ property: "y", low: null, high: y[1] },
				];
				const meets = (cell: readonly [number, number] | null, low: number, high: number): boolean =>
					cell !== null && cell[0] <= high && cell[1] >= low;
				const expected = rows.filter((r) => meets(r[0], x[0], x[1]) && meets(r[1], Number.NEGATIVE_INFINITY, y[1]));
				// bytes of an earlier step are no matter
				const bytes = new Uint8Array(rows.length).fill(7);
				expect(passing(failing(packed, where, bytes))).toBe(expected.length);
			}),
		);
	});

	it("opens an end that is dragged to the end of its axis, and drops a span that is open", () => {
		expect([
			endAt(LINEAR, 0, "low", (x) => x),
			endAt(LINEAR, 1.2, "high", (x) => x),
			endAt(LINEAR, 0.5, "low", (x) => x),
		]).toEqual([null, null, 5]);
		const before = [{ property: "a", low: 1, high: 2 }];
		expect(withSpan(before, "a", { low: null, high: null })).toEqual([]);
		expect(withSpan(before, "b", { low: 3, high: null })).toEqual([...before, { property: "b", low: 3, high: null }]);
		expect(withSpan([...before, { property: "b", low: 1, high: 1 }], "a", { low: 0, high: 2 })[0]).toEqual({
			property: "a",
			low: 0,
			high: 2,
		});
	});

	it("stands handles at the ends where a span is open or reaches beyond", () => {
		expect(placesOf(LINEAR, { low: null, high: 4 })).toEqual([0, 0.4]);
		expect(placesOf(LINEAR, { low: -5, high: 40 })).toEqual([0, 1]);
		expect(placesOf({ low: 1, high: 100, log: true }, { low: 10, high: null })[0]).toBeCloseTo(0.5, 12);
	});
});
