import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { BLANK, derivedForms, type Material, makeSeries, makeValue } from "../material";
import { BLOCK_LIMITS, readBlock, wantedAxes } from "./index";

const file = (name: string): string => readFileSync(new URL(`../../../../fixtures/${name}`, import.meta.url), "utf8");
const fixture = (name: string): Record<string, unknown> => JSON.parse(file(name)) as Record<string, unknown>;

describe("a curve copied from a German spreadsheet", () => {
	const read = readBlock(file("curve-paste.txt"), wantedAxes("stress_strain"));
	if (!read.ok) throw new Error();
	const block = read.value;

	it("knows its columns, units, mark and form", () => {
		expect(block.columns.map((c) => [c.guess, c.unit])).toEqual([
			["strain", "%"],
			["stress", "N/mm²"],
		]);
		expect(block).toMatchObject({
			mark: ",",
			ambiguous: false,
			dropped: [],
			header: { stress: "engineering", strain: "total-engineering" },
		});
		expect(block.columns[0]?.cells).toHaveLength(40);
	});

	it("gives the expected SI numbers and derived forms (closed form, 1e-9)", () => {
		const expected = fixture("curve-paste.expected.json") as {
			youngs_modulus_pa: number;
			points: { strain: number; stress_pa: number; true_stress_pa: number; true_strain: number; plastic_strain: number }[];
		};
		const columns = block.columns.map((c) => ({
			of: c.guess as string,
			unit: c.unit as string,
			cells: c.cells,
			mark: block.mark,
		}));
		const curve = makeSeries(
			{ id: "stress_strain", property: "stress_strain" },
			{
				kind: "curve",
				columns,
				interpolation: "pchip",
				header: {
					...block.header,
					loading: "tension",
				},
			},
		);
		const E = makeValue("youngs_modulus", "102.5 GPa");
		const rp = makeValue("yield_strength", ">= 125 MPa", {}, { qualifier: "Rp0.2" });
		if (!curve.ok || !E.ok || !rp.ok) throw new Error(JSON.stringify([curve, E, rp].map((r) => r.ok || r.issues)).slice(0, 600));
		const material: Material = {
			...BLANK,
			values: { stress_strain: curve.value, youngs_modulus: E.value, yield_strength: rp.value },
		};
		const [derived] = derivedForms(material, curve.value);
		if (derived === undefined) throw new Error();
		expect(derived.valid).toBe(40);
		const near = (a: number | undefined, b: number, scale: number): void =>
			expect(Math.abs((a ?? Number.NaN) - b)).toBeLessThanOrEqual(1e-9 * scale);
		expected.points.forEach((p, i) => {
			near(curve.value.columns[0]?.si[i], p.strain, 1);
			near(curve.value.columns[1]?.si[i], p.stress_pa, p.stress_pa);
			near(derived.trueStress[i], p.true_stress_pa, p.true_stress_pa || 1);
			near(derived.trueStrain[i], p.true_strain, 1);
			near(derived.plasticStrain?.[i], p.plastic_strain, 1);
		});
		// points of the elastic part are noise and belong to no flow curve
		expect(derived.flow?.x[0]).toBe(0);
		expect(derived.flow?.y[0]).toBeCloseTo(30008790, 0);
		expect(derived.flow?.x.every((x, i, all) => i === 0 || x > (all[i - 1] as number))).toBe(true);
	});
});

describe("two properties over temperature in US units", () => {
	it("gives the exact fractions", () => {
		const read = readBlock(file("over-temperature.txt"), ["temperature"]);
		if (!read.ok) throw new Error();
		const { columns, mark } = read.value;
		expect(columns.map((c) => [c.guess, c.unit])).toEqual([
			["temperature", "°F"],
			["youngs_modulus", "Msi"],
			["thermal_conductivity", "Btu/(h·ft·°F)"],
		]);
		const expected = fixture("over-temperature.expected.json") as Record<string, number[]>;
		for (const [n, id] of [
			[1, "youngs_modulus"],
			[2, "thermal_conductivity"],
		] as const) {
			const made = makeSeries(
				{ id, property: id },
				{
					kind: "table",
					columns: [
						{ of: "temperature", unit: columns[0]?.unit as string, cells: columns[0]?.cells ?? [], mark },
						{ of: "value", unit: columns[n]?.unit as string, cells: columns[n]?.cells ?? [], mark },
					],
					interpolation: "linear",
				},
			);
			if (!made.ok) throw new Error(JSON.stringify(made.issues));
			for (const [i, x] of (made.value.columns[0]?.si ?? []).entries())
				expect(Math.abs(x - (expected.temperature_k?.[i] as number))).toBeLessThan(1e-9);
			for (const [i, x] of (made.value.columns[1]?.si ?? []).entries())
				expect(Math.abs(x / (expected[id]?.[i] as number) - 1)).toBeLessThan(1e-12);
		}
	});
});

describe("blocks of other shapes", () => {
	it.each([
		["semicolons", "H [A/m];B [T]\n100;0,52\n200;0,91\n", "bh_curve", ["field", "flux_density"], ","],
		["wide blanks and points", "strain %   stress MPa\n0.1   70\n0.2   140\n", "stress_strain", ["strain", "stress"], "."],
		["a row of units", "N\tSpannungsamplitude\n[-]\tMPa\n1e4\t310\n1e6\t220\n", "sn_curve", ["cycles", "stress"], "."],
		["no header", "0.1\t70\n0.2\t140\n", "stress_strain", ["strain", "stress"], "."],
		["commas between", "B,P\n0.5,0.7\n1.0,2.4\n", "core_loss", ["flux_density", "loss_per_mass"], "."],
	])("%s", (_, text, form, guesses, mark) => {
		const read = readBlock(text, wantedAxes(form));
		if (!read.ok) throw new Error(JSON.stringify(read.issues));
		expect(read.value.columns.map((c) => c.guess)).toEqual(guesses);
		expect(read.value.mark).toBe(mark);
		expect(read.value.columns[0]?.cells).toHaveLength(2);
	});

	it("says when a mark could be either, and names rows that are no numbers", () => {
		const read = readBlock("T °C\tE MPa\n20\t1,234\n100\t1,111\nsource: lab\t\n", ["temperature"]);
		expect(read.ok && [read.value.ambiguous, read.value.dropped]).toEqual([true, [{ line: 4, text: "source: lab\t" }]]);
	});

	it("refuses what is too large or holds no numbers, and never throws", () => {
		const rows = readBlock("1\t2\n".repeat(BLOCK_LIMITS.rows + 100));
		expect(rows.ok ? "" : rows.issues[0]?.code).toBe("paste-too-large");
		const huge = readBlock("x".repeat(BLOCK_LIMITS.characters + 1));
		expect(huge.ok ? "" : huge.issues[0]?.code).toBe("paste-too-large");
		expect(readBlock("<table><tr><td>x</td></tr></table>").ok).toBe(false);
		fc.assert(
			fc.property(fc.string({ unit: "binary", maxLength: 400 }), (text) => void readBlock(text, ["strain"])),
			{ seed: 4, numRuns: 300 },
		);
	});
});
