import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ALONE } from "../judge";
import { solverMaterial, solverSet } from "../solver";
import { BLANK, firstValue, type Material, makeValue, typedMaterial, valuesOf } from "./index";
import { material, must, number, series } from "./testing";

describe("values of a property", () => {
	it("stand in the order in which they were made, whatever order the document holds them in", () => {
		const ids = ["density", ...Array.from({ length: 12 }, (_, i) => `density~${i + 2}`)];
		fc.assert(
			fc.property(fc.shuffledSubarray(ids, { minLength: 1 }), (shuffled) => {
				const values = Object.fromEntries(
					shuffled.map((id) => [id, must(makeValue({ id, property: "density" }, `${ids.indexOf(id) + 1} g/cm3`))]),
				);
				const m: Material = { ...BLANK, values: { ...values, x: number("poissons_ratio", "0.3") } };
				const expected = ids.filter((id) => shuffled.includes(id));
				expect(valuesOf(m, "density").map((v) => v.id)).toEqual(expected);
				expect(firstValue(m, "density")?.id).toBe(expected[0]);
			}),
		);
		expect(valuesOf(BLANK, "density")).toEqual([]);
	});
});

describe("a material as a script writes it", () => {
	it("has numbers in SI where no unit is written, texts with their own, kinds and a family", () => {
		const made = must(
			typedMaterial(
				{
					family: "metal.steel",
					values: { density: 7850, yield_strength: "355 MPa", poissons_ratio: 0.3 },
					kinds: { yield_strength: "Rp0.2" },
				} as never,
				"m",
			),
		);
		expect([made.family, made.elasticity]).toEqual(["metal.steel", BLANK.elasticity]);
		expect(made.values.density).toMatchObject({ low: 7850, high: 7850, entered: "7850 kg/m^3" });
		expect(made.values.yield_strength).toMatchObject({ low: 355e6, qualifier: "Rp0.2" });
		expect(made.values.poissons_ratio).toMatchObject({ low: 0.3, entered: "0.3" });
	});

	it("is refused by place: an unknown property, a text that does not read, a family that is none", () => {
		const codes = (input: object) => {
			const made = typedMaterial(input as never, "m");
			return made.ok ? [] : made.issues.map((i) => [i.code, i.path]);
		};
		expect(codes({ values: { weight: 1 } })).toEqual([["unknown-property", "m.weight"]]);
		expect(codes({ values: { density: "heavy" } })).toEqual([["not-a-number", "m.density"]]);
		expect(codes({ family: "cheese", values: {} })).toEqual([["bad-input", "m.family"]]);
		expect(codes({ family: "", values: {} })).toEqual([]);
	});
});

describe("flow curves for a solver", () => {
	it("go out over plastic strain in the units of the set, one table a temperature", () => {
		const curve = {
			...series(
				"stress_strain",
				"curve",
				[
					["temperature", "°C", "20 20 100 100"],
					["strain", "1", "0 0.1 0 0.1"],
					["stress", "MPa", "300 350 250 280"],
				],
				{ stress: "true", strain: "plastic-true" },
			),
			interpolation: "linear" as const,
		};
		const m = material(number("youngs_modulus", "210 GPa"), number("poissons_ratio", "0.3"), curve);
		const set = solverSet("mm-t-s");
		if (set === undefined) throw new Error();
		const { tables } = solverMaterial({ name: "m", material: m }, "plasticity", set, ALONE);
		const flow = tables.filter((t) => t.name === "true stress over plastic strain");
		expect(flow.map((t) => t.at)).toEqual(["temperature 293.15 K", "temperature 373.15 K"]);
		expect(flow.map((t) => t.columns)).toEqual(
			[
				[300, 350],
				[250, 280],
			].map((values) => [
				{ name: "plastic_strain", unit: "1", values: [0, 0.1] },
				{ name: "true_stress", unit: "MPa", values },
			]),
		);
		expect(flow[0]?.note).toBe("ends at the last point");
	});
});
