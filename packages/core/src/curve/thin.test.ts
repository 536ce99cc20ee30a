import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { thin } from "./index";

/** The farthest that a point lies from the polyline through the kept ones, by plain interpolation between its neighbours. */
function farthest(x: readonly number[], y: readonly number[], keep: readonly number[]): number {
	let most = 0;
	for (let k = 1; k < keep.length; k++) {
		const [a, b] = [keep[k - 1] as number, keep[k] as number];
		for (let i = a + 1; i < b; i++) {
			const [xa, xb, ya, yb] = [x[a] as number, x[b] as number, y[a] as number, y[b] as number];
			const line = ya + ((yb - ya) * ((x[i] as number) - xa)) / (xb - xa);
			most = Math.max(most, Math.abs((y[i] as number) - line));
		}
	}
	return most;
}

const spanOf = (y: readonly number[]): number => Math.max(...y) - Math.min(...y);

describe("few points for many", () => {
	it("a straight line needs its two ends, a bend one point more", () => {
		const x = Array.from({ length: 1000 }, (_, i) => i);
		expect(
			thin(
				x,
				x.map((v) => 3 * v + 1),
				100,
			),
		).toEqual({ keep: [0, 999], off: 1e-4 });
		const bent = thin(
			x,
			x.map((v) => Math.min(v, 400)),
			100,
		);
		expect(bent?.keep).toEqual([0, 400, 999]);
	});

	it("leaves a few alone", () => {
		expect(thin([0, 1, 2], [5, 1, 9], 3)).toEqual({ keep: [0, 1, 2], off: 0 });
	});

	it("a parabola of height 1: the tolerance is what the chords of its pieces say, s²/4 for a piece of width s", () => {
		const n = 20_001;
		const x = Array.from({ length: n }, (_, i) => i / (n - 1));
		const y = x.map((v) => v * v);
		// the sagitta of v² over a width s is s²/4; the cone from a kept point reaches twice the tolerance at its end
		const few = thin(x, y, 11);
		expect(few?.keep.length).toBeLessThanOrEqual(11);
		expect(few?.off).toBeGreaterThan(0.1 ** 2 / 4 / 1.5);
		expect(few?.off).toBeLessThan((0.1 ** 2 / 4) * 2);
		expect(farthest(x, y, few?.keep ?? [])).toBeLessThanOrEqual((few?.off ?? 0) * (1 + 1e-9));
	});

	it("keeps where x turns, so that a loop of unloading stays one", () => {
		const up = Array.from({ length: 500 }, (_, i) => i / 500);
		const x = [...up, ...up.slice(250).reverse(), ...up.slice(250)];
		const y = [
			...up.map((v) => v),
			...up
				.slice(250)
				.map((v) => 2 * v - 1)
				.reverse(),
			...up.slice(250).map((v) => 2 * v - 1),
		];
		const kept = thin(x, y, 40);
		expect(kept?.keep).toContain(499);
		expect(farthest(x, y, kept?.keep ?? [])).toBeLessThanOrEqual((kept?.off ?? 0) * spanOf(y) * (1 + 1e-9));
	});

	it("says that it cannot where x turns more often than points may stay", () => {
		const x = Array.from({ length: 400 }, (_, i) => i % 2);
		expect(thin(x, x, 50)).toBeNull();
	});

	it("whatever the points: as few as asked, both ends, none farther than it says", () => {
		const point = fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: -1e6, max: 1e6, noNaN: true }));
		fc.assert(
			fc.property(fc.array(point, { minLength: 2, maxLength: 300 }), fc.integer({ min: 5, max: 40 }), (points, most) => {
				const sorted = [...points].sort((a, b) => a[0] - b[0]);
				const [x, y] = [sorted.map((p) => p[0]), sorted.map((p) => p[1])];
				const kept = thin(x, y, most);
				// points of one x are never left out, so that there may be too many of them
				if (kept === null) return new Set(x).size < x.length || x.length > most;
				const { keep, off } = kept;
				expect([keep[0], keep.at(-1)]).toEqual([0, x.length - 1]);
				expect(keep.length).toBeLessThanOrEqual(Math.max(most, 2));
				expect(farthest(x, y, keep)).toBeLessThanOrEqual(off * spanOf(y) * (1 + 1e-6) + 1e-9);
				return true;
			}),
			{ seed: 11, numRuns: 500 },
		);
	});
});
