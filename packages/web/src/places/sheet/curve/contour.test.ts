import { makeSeries, type SeriesValue } from "@alvek/core/material";
import { describe, expect, it } from "vitest";
import { contourData, hasContour } from "./contour";

function table(rows: readonly (readonly [number, number, number])[]): SeriesValue {
	const cells = (n: number): string[] => rows.map((r) => String(r[n]));
	const made = makeSeries(
		{ id: "thermal_conductivity", property: "thermal_conductivity" },
		{
			kind: "table",
			columns: [
				{ of: "moisture", unit: "%", cells: cells(0) },
				{ of: "temperature", unit: "°C", cells: cells(1) },
				{ of: "value", unit: "W/(m·K)", cells: cells(2) },
			],
			interpolation: "linear",
			header: {},
		},
	);
	if (!made.ok) throw new Error(JSON.stringify(made.issues));
	return made.value;
}

describe("lines of equal height over two conditions", () => {
	it("of what rises evenly with both are straight, in the units on screen", () => {
		const value = table([0, 50, 100].flatMap((m) => [0, 20, 40, 80].map((t) => [m, t, 1 + m / 100 + t / 80] as const)));
		const { levels, x, y, points } = contourData(value, "engineering");
		expect([x, y]).toEqual([
			{ name: "temperature", unit: "°C" },
			{ name: "moisture", unit: "%" },
		]);
		expect(points).toHaveLength(12);
		expect(levels.map((l) => l.level)).toEqual([1.5, 2, 2.5]);
		for (const { level, pieces } of levels) {
			expect(pieces.length).toBeGreaterThan(0);
			for (const [t, m] of pieces.flat()) expect(1 + m / 100 + t / 80).toBeCloseTo(level, 9);
		}
	});

	it("end where a curve ends: nothing is guessed beyond it", () => {
		const value = table([
			[0, 0, 1],
			[0, 80, 2],
			[100, 0, 1],
			[100, 40, 1.5],
		]);
		const { levels } = contourData(value, "engineering");
		for (const [t, m] of levels.flatMap((l) => l.pieces).flat()) if (m > 0) expect(t).toBeLessThanOrEqual(40 + 80 / 60);
	});

	it("are there for two conditions and more than one curve alone", () => {
		expect(
			hasContour(
				table([
					[0, 0, 1],
					[0, 20, 2],
					[50, 0, 1],
					[50, 20, 2],
				] as const),
			),
		).toBe(true);
		expect(
			hasContour(
				table([
					[0, 0, 1],
					[0, 20, 2],
				] as const),
			),
		).toBe(false);
	});
});
