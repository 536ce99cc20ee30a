import { describe, expect, it } from "vitest";
import { type Field, isoline, roundLevels } from "./index";

const steps = (n: number, low: number, high: number): number[] =>
	Array.from({ length: n }, (_, i) => low + ((high - low) * i) / (n - 1));

function field(n: number, of: (x: number, y: number) => number | null): Field {
	const [xs, ys] = [steps(n, -2, 2), steps(n, -2, 2)];
	return { xs, ys, z: ys.map((y) => xs.map((x) => of(x, y))) };
}

const lengthOf = (pieces: ReturnType<typeof isoline>): number =>
	pieces.reduce((sum, [[x0, y0], [x1, y1]]) => sum + Math.hypot(x1 - x0, y1 - y0), 0);

describe("lines of one height", () => {
	it("of a plane are exact: x + y = c, as long as its chord in the square", () => {
		const pieces = isoline(
			field(8, (x, y) => x + y),
			0.3,
		);
		for (const [[x0, y0], [x1, y1]] of pieces) {
			expect(x0 + y0).toBeCloseTo(0.3, 12);
			expect(x1 + y1).toBeCloseTo(0.3, 12);
		}
		// from (−1.7, 2) to (2, −1.7)
		expect(lengthOf(pieces)).toBeCloseTo(3.7 * Math.SQRT2, 9);
	});

	it("of a cone are circles: radius and length within what straight sides of this grid allow", () => {
		const pieces = isoline(
			field(201, (x, y) => Math.hypot(x, y)),
			1.5,
		);
		for (const [[x, y]] of pieces) expect(Math.abs(Math.hypot(x, y) - 1.5)).toBeLessThan(0.02 ** 2);
		expect(lengthOf(pieces)).toBeCloseTo(2 * Math.PI * 1.5, 3);
	});

	it("through a saddle part as the mean of the corners says, and never cross", () => {
		const saddle = (z: [number, number, number, number]): Field => ({
			xs: [0, 1],
			ys: [0, 1],
			z: [
				[z[0], z[1]],
				[z[3], z[2]],
			],
		});
		// above at two opposite corners; a low mean cuts them off one by one
		const apart = isoline(saddle([1, 0, 1, 0]), 0.6);
		expect(apart.map(([[x0, y0], [x1, y1]]) => [x0 + y0, x1 + y1].map((s) => Number(s.toFixed(2))))).toEqual([
			[0.4, 0.4],
			[1.6, 1.6],
		]);
		// a high one joins them, and cuts off the other two
		const joined = isoline(saddle([1, 0, 1, 0]), 0.4);
		expect(joined.map(([[x0, y0], [x1, y1]]) => [x0 - y0, x1 - y1].map((s) => Number(s.toFixed(2))))).toEqual([
			[0.6, 0.6],
			[-0.6, -0.6],
		]);
	});

	it("leave out where there is no height, and are none above or below all", () => {
		const half = isoline(
			field(40, (x, y) => (x < 0 ? null : x + y)),
			0,
		);
		expect(half.length).toBeGreaterThan(0);
		expect(half.every(([[x0], [x1]]) => x0 >= 0 && x1 >= 0)).toBe(true);
		expect(
			isoline(
				field(8, () => 1),
				2,
			),
		).toEqual([]);
		expect(
			isoline(
				field(8, () => 1),
				0,
			),
		).toEqual([]);
	});
});

describe("round heights", () => {
	it.each([
		[0, 100, 8, [20, 40, 60, 80]],
		[0.011, 0.052, 8, [0.02, 0.03, 0.04, 0.05]],
		[-7, 8, 8, [-6, -4, -2, 0, 2, 4, 6]],
		[5, 5, 8, []],
		[0, Number.POSITIVE_INFINITY, 8, []],
	] as const)("%d to %d", (low, high, about, wanted) => expect(roundLevels(low, high, about)).toEqual(wanted));
});
