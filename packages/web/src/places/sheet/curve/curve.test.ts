import { BLANK, type Material, makeSeries, makeValue, type SeriesValue } from "@alvek/core/material";
import { describe, expect, it } from "vitest";
import { blankLocal, headOf, localOf, scaled, sorted, toValue } from "../../../shared/chart/columns";
import { chartData, chartText } from "../../../shared/chart/data";

function curve(columns: readonly [string, string, string][], header = {}): SeriesValue {
	const made = makeSeries(
		{ id: "stress_strain", property: "stress_strain" },
		{
			kind: "curve",
			columns: columns.map(([of, unit, cells]) => ({ of, unit, cells: cells.split(" ") })),
			interpolation: "pchip",
			header,
		},
	);
	if (!made.ok) throw new Error(JSON.stringify(made.issues));
	return made.value;
}
const FAMILY = curve([
	["temperature", "°C", "100 100 20 20"],
	["strain", "%", "1 0 0 1"],
	["stress", "MPa", "270 0 0 300"],
]);

describe("a curve while it is typed", () => {
	it("is the stored one cell by cell, and comes back the same", () => {
		const back = toValue(localOf(FAMILY), headOf(FAMILY, "x", "x"));
		expect(back.ok && back.value).toEqual(FAMILY);
	});

	it("leaves blank rows out and counts issues by the row on screen", () => {
		const local = {
			...blankLocal("curve", "stress_strain", "engineering"),
			rows: [
				["0", "0"],
				["", ""],
				["1", "abc"],
			],
		};
		const read = toValue(local, { id: "stress_strain", property: "stress_strain" });
		expect(read.ok ? null : read.issues[0]).toMatchObject({ path: "stress", line: 3 });
	});

	it("sorts by its conditions, then by x, and scales one column", () => {
		const head = headOf(FAMILY, "x", "x");
		expect(sorted(localOf(FAMILY), head).rows.map((r) => r.join(" "))).toEqual(["20 0 0", "20 1 300", "100 0 0", "100 1 270"]);
		expect(scaled(localOf(FAMILY), 2, 1.1, head).rows.map((r) => r[2])).toEqual(["297", "0", "0", "330"]);
		const comma = curve([
			["strain", "%", "0 0,5"],
			["stress", "MPa", "0 12,5"],
		]);
		expect(scaled(localOf(comma), 1, 2, headOf(comma, "x", "x")).rows[1]).toEqual(["0,5", "25"]);
	});

	it("scales every cell, however it was typed: thousands, powers, ranges, temperatures in their own unit", () => {
		const typed = (of: string, unit: string, cells: string[]) => {
			const made = makeSeries(
				{ id: "thermal_expansion", property: "thermal_expansion" },
				{
					kind: "table",
					columns: [
						{ of: "temperature", unit: "°C", cells: ["20", "1,234.5", "2e3"].slice(0, cells.length) },
						{ of, unit, cells },
					],
					interpolation: "linear",
				},
			);
			if (!made.ok) throw new Error(JSON.stringify(made.issues));
			return localOf(made.value);
		};
		const head = { id: "thermal_expansion", property: "thermal_expansion" };
		const local = typed("value", "10^-6/K", ["11", "-2-3", "12.5"]);
		expect(scaled(local, 0, 2, head).rows.map((r) => r[0])).toEqual(["40", "2469", "4000"]);
		expect(scaled(local, 1, 2, head).rows.map((r) => r[1])).toEqual(["22", "-4 to 6", "25"]);
		expect(scaled(local, 1, -1, head).rows.map((r) => r[1])).toEqual(["-11", "-3 to 2", "-12.5"]);
		// what it makes reads again as the same numbers times the factor
		const [before, after] = [toValue(local, head), toValue(scaled(local, 1, 0.1, head), head)];
		if (!before.ok || !after.ok) throw new Error("does not read");
		const [a, b] = [before.value, after.value].map((v) => v.columns[1]);
		for (const end of ["si", "high"] as const)
			a?.[end]?.forEach((si, i) => {
				expect(b?.[end]?.[i]).toBeCloseTo(si * 0.1, 18);
			});
	});

	it("begins in the units on screen", () => {
		expect(blankLocal("table", "youngs_modulus", "us").columns).toEqual([
			{ of: "temperature", unit: "°F" },
			{ of: "value", unit: "Msi" },
		]);
	});
});

describe("the chart of a curve", () => {
	const E = makeValue("youngs_modulus", "100 GPa");
	if (!E.ok) throw new Error();
	const header = { stress: "engineering", strain: "total-engineering", loading: "tension" };
	const tension = curve(
		[
			["strain", "%", "0.00 0.10 0.50 5.00"],
			["stress", "MPa", "0 100 150 200"],
		],
		header,
	);
	const material: Material = { ...BLANK, values: { youngs_modulus: E.value, stress_strain: tension } };

	it("draws what was measured and what is derived, in the units on screen", () => {
		const data = chartData(tension, material, "derived", "us");
		expect(data.lines.map((l) => l.kind)).toEqual(["measured", "derived"]);
		expect([data.x.unit, data.y.unit]).toEqual(["%", "ksi"]);
		// 200 MPa x 1.05 at the last point, in ksi by 6.894757
		expect(data.lines[1]?.line.y.at(-1)).toBeCloseTo(210 / 6.894757293, 6);
		expect(chartData(tension, material, "as entered", "us").lines).toHaveLength(1);
	});

	it("has a line for each condition and copies its points with units", () => {
		const data = chartData(FAMILY, BLANK, "as entered", "engineering");
		expect(data.members).toEqual(["100 °C", "20 °C"]);
		expect(chartText(data)).toContain("100 °C\nstrain [%]\tstress [MPa]\n1\t270\n0\t0");
	});

	it("draws a band where cells are ranges", () => {
		const made = makeSeries(
			{ id: "tensile_strength", property: "tensile_strength" },
			{
				kind: "table",
				columns: [
					{ of: "temperature", unit: "°C", cells: ["20", "100"] },
					{ of: "value", unit: "MPa", cells: ["260-310", "240-290"] },
				],
				interpolation: "linear",
			},
		);
		if (!made.ok) throw new Error();
		const data = chartData(made.value, BLANK, "as entered", "engineering");
		expect(data.lines.filter((l) => l.kind === "band").map((l) => l.line.y)).toEqual([
			[260, 240],
			[310, 290],
		]);
	});
});

describe("the plasticity model beside the data", () => {
	const measured = curve(
		[
			["strain", "%", "0 1 5"],
			["stress", "MPa", "250 300 340"],
		],
		{ stress: "true", strain: "plastic-true" },
	);
	const model = (form: string, numbers: Readonly<Record<string, string>>): Material => ({
		...BLANK,
		values: {
			stress_strain: measured,
			plasticity_model: {
				id: "plasticity_model",
				property: "plasticity_model",
				kind: "model",
				form,
				coefficients: Object.fromEntries(
					Object.entries(numbers).map(([name, mpa]) => [
						name,
						{ entered: `${mpa} MPa`, low: Number(mpa) * 1e6, high: Number(mpa) * 1e6 },
					]),
				),
			},
		},
	});
	const linesOf = (material: Material, shown: "derived" | "as entered" = "derived") =>
		chartData(measured, material, shown, "engineering").lines.filter((l) => l.kind === "model");

	it("reaches as far as the points, in the units on screen", () => {
		const [line] = linesOf(model("bilinear-hardening", { sigma0: "250", H: "2000" }));
		expect([line?.line.x[0], line?.line.x.at(-1)]).toEqual([0, 5]);
		expect([line?.line.y[0], line?.line.y.at(-1)?.toFixed(6)]).toEqual([250, "350.000000"]);
	});

	it("is left out of what was entered, and where its coefficients are not whole", () => {
		expect(linesOf(model("bilinear-hardening", { sigma0: "250", H: "2000" }), "as entered")).toEqual([]);
		expect(linesOf(model("bilinear-hardening", { sigma0: "250" }))).toEqual([]);
		expect(linesOf({ ...BLANK, values: { stress_strain: measured } })).toEqual([]);
	});
});
