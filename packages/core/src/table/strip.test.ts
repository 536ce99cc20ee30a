import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { binStrip, blankSpans, numberAt, placeOn, stripAxis } from "./index";

describe("strips", () => {
	const columns = (ends: readonly (readonly [number, number])[]) => ({
		...blankSpans(0),
		low: Float64Array.from(ends, (e) => e[0]),
		high: Float64Array.from(ends, (e) => e[1]),
	});

	it("bins ticks and bands as drawing each one would", () => {
		const end = fc.double({ min: 0.01, max: 1000, noNaN: true });
		fc.assert(
			fc.property(fc.array(fc.tuple(end, end, fc.boolean()), { minLength: 1, maxLength: 40 }), fc.boolean(), (list, log) => {
				const spans = columns(list.map(([a, b]) => [Math.min(a, b), Math.max(a, b)] as const));
				const fails = Uint8Array.from(list, ([, , keep]) => (keep ? 0 : 1));
				const axis = stripAxis(spans, list.length, log);
				if (axis === null) throw new Error("no axis");
				const { passing, others } = binStrip({ spans, rows: list.length, fails }, axis, 50);
				const drawn = [new Array<number>(50).fill(0), new Array<number>(50).fill(0)];
				list.forEach(([a, b, keep]) => {
					const at = (x: number): number => Math.floor(placeOn(axis, x) * 50);
					for (let x = at(Math.min(a, b)); x <= at(Math.max(a, b)); x++)
						if (x >= 0 && x < 50) (drawn[keep ? 0 : 1] as number[])[x] = ((drawn[keep ? 0 : 1] as number[])[x] as number) + 1;
				});
				// the logarithm is taken in another way there, so an end on the edge of a pixel may fall on either side
				const onEdge = list
					.flatMap((ends) => ends.slice(0, 2) as number[])
					.filter((x) => {
						const place = placeOn(axis, x) * 50;
						return Math.abs(place - Math.round(place)) < 1e-9;
					});
				const difference = (a: Uint32Array, b: readonly number[]): number =>
					a.reduce((n, x, i) => n + Math.abs(x - (b[i] as number)), 0);
				expect(difference(passing, drawn[0] as number[]) + difference(others, drawn[1] as number[])).toBeLessThanOrEqual(
					onEdge.length,
				);
			}),
		);
	});

	it("turns places and numbers into each other", () => {
		for (const axis of [
			{ low: 2, high: 2000, log: true },
			{ low: -5, high: 5, log: false },
		]) {
			for (const place of [0, 0.25, 1]) expect(placeOn(axis, numberAt(axis, place))).toBeCloseTo(place, 12);
		}
		// the middle of an axis over three decades is the geometric mean of its ends
		expect(numberAt({ low: 2, high: 2000, log: true }, 0.5)).toBeCloseTo(Math.sqrt(2 * 2000), 9);
	});

	it("is logarithmic where the numbers spread wide and are positive", () => {
		expect(
			stripAxis(
				columns([
					[1, 1],
					[1000, 1000],
				]),
				2,
				null,
			)?.log,
		).toBe(true);
		expect(
			stripAxis(
				columns([
					[1, 1],
					[10, 10],
				]),
				2,
				null,
			)?.log,
		).toBe(false);
		expect(
			stripAxis(
				columns([
					[-1, -1],
					[1000, 1000],
				]),
				2,
				true,
			)?.log,
		).toBe(false);
		// thirty times as much is still linear, more is not; nothing and less than nothing never is logarithmic
		const spread = (low: number, high: number) =>
			stripAxis(
				columns([
					[low, low],
					[high, high],
				]),
				2,
				null,
			)?.log;
		expect([spread(1, 30), spread(1, 30.1), spread(100, 2900), spread(0, 1000), spread(-2, -1)]).toEqual([
			false,
			true,
			false,
			false,
			false,
		]);
		// an open end counts as the end that is known
		expect(
			stripAxis(
				columns([
					[1, Number.POSITIVE_INFINITY],
					[3, 3],
				]),
				2,
				false,
			)?.high,
		).toBeCloseTo(3.04, 9);
	});
});
