import { describe, expect, it } from "vitest";
import fixture from "../../../../fixtures/solver.expected.json";
import { ALONE, judge } from "../judge";
import { acknowledge, BLANK, checkKey, type Material, type MaterialValue, makeSeries, makeValue } from "../material";
import { property } from "../property";
import { inSet, SOLVER_SETS, solverCsv, solverJson, solverMaterial, solverSet, solverText, unitInSet } from "./index";

function number(id: string, text: string, extra: object = {}): MaterialValue {
	const made = makeValue(id, text, {}, { evidence: "measured", ...extra });
	if (!made.ok) throw new Error(JSON.stringify(made.issues));
	return made.value;
}
function material(...values: MaterialValue[]): Material {
	return { ...BLANK, family: "metal.aluminium", values: Object.fromEntries(values.map((v) => [v.id, v])) };
}
const ALUMINIUM = material(
	number("density", "2700 kg/m3"),
	number("youngs_modulus", "69.5 GPa"),
	number("poissons_ratio", "0.33"),
	number("thermal_expansion", "23.2e-6 /K"),
	number("thermal_conductivity", "151 W/(m·K)"),
	number("specific_heat", "897 J/(kg·K)"),
	number("yield_strength", "262 MPa"),
);

describe("consistent sets", () => {
	it.each(Object.entries(fixture.sets))("%s gives the exact fractions", (id, expected) => {
		const set = solverSet(id);
		if (set === undefined) throw new Error(id);
		expect(set.temperatureUnit).toBe(expected.temperature_unit);
		for (const [p, si] of Object.entries(fixture.si)) {
			const wanted = (expected.values as Record<string, number>)[p] as number;
			expect(Math.abs(inSet(si, property(p), set) / wanted - 1), p).toBeLessThan(1e-12);
		}
	});

	it("keep the laws of physics: force is mass times acceleration in every one (a second method)", () => {
		// a bar of length L, density rho and stiffness E has the wave speed sqrt(E/rho): a length over a time in any set
		for (const set of SOLVER_SETS) {
			const speed = Math.sqrt(inSet(69.5e9, property("youngs_modulus"), set) / inSet(2700, property("density"), set));
			const metre = inSet(1, { dimension: 2 * 64 }, set);
			const second = inSet(1, { dimension: 2 * 64 * 64 }, set);
			expect(Math.abs(speed / (metre / second) / Math.sqrt(69.5e9 / 2700) - 1)).toBeLessThan(1e-12);
		}
	});

	it("name every unit, and toughness with its root", () => {
		const mm = solverSet("mm-t-s");
		if (mm === undefined) throw new Error();
		expect(unitInSet(property("density"), mm)).toBe("t/mm3");
		expect(unitInSet(property("fracture_toughness"), mm)).toBe("MPa mm^0.5");
		// 1 MPa sqrt(m) = sqrt(1000) MPa sqrt(mm)
		expect(inSet(1e6, property("fracture_toughness"), mm)).toBeCloseTo(Math.sqrt(1000), 10);
		for (const set of SOLVER_SETS)
			for (const id of ["resistivity", "impact_energy", "density"]) expect(unitInSet(property(id), set)).not.toBe("");
	});
});

describe("a table for the solver", () => {
	const set = solverSet("mm-t-s");
	if (set === undefined) throw new Error();

	it("carries a unit with every number and says which end of a range it took", () => {
		const m = material(
			number("density", "2.68-2.72 g/cm3"),
			number("youngs_modulus", "68-72 GPa"),
			number("shear_modulus", "26 GPa"),
			number("yield_strength", "250-270 MPa"),
		);
		const table = solverMaterial({ name: "ORS-AL", material: m }, "strength", set, ALONE);
		const at = Object.fromEntries(table.numbers.map((n) => [n.property, n]));
		expect(at.density).toMatchObject({ unit: "t/mm3", rule: "middle of 2.68e-9–2.72e-9" });
		expect(at.yield_strength).toMatchObject({ value: 250, rule: "low end of 250–270" });
		expect(at.poissons_ratio?.rule).toContain("derived from E and G, ill-conditioned");
		expect(at.poissons_ratio?.value).toBeCloseTo(70 / 52 - 1, 12);
		expect(table.numbers.every((n) => n.unit !== "")).toBe(true);
		expect(table.doubts.length).toBeGreaterThan(0);
	});

	it("takes directional sets in their stated order, a transverse one as its nine", () => {
		const c = (entered: string, si: number) => ({ entered, low: si, high: si });
		const ply: Material = {
			...material(),
			elasticity: "directional",
			values: {
				elastic_set: {
					id: "elastic_set",
					property: "elastic_set",
					kind: "set",
					symmetry: "transverse",
					axes: ["f", "a", "t"],
					components: {
						G12: c("4.5 GPa", 4.5e9),
						nu23: c("0.44", 0.44),
						E2: c("8.4 GPa", 8.4e9),
						E1: c("128 GPa", 128e9),
						nu12: c("0.3", 0.3),
					},
				},
				expansion_set: {
					id: "expansion_set",
					property: "expansion_set",
					kind: "set",
					symmetry: "orthotropic",
					axes: ["f", "a", "t"],
					components: { alpha2: c("30e-6 /K", 30e-6), alpha1: c("0.2e-6 /K", 0.2e-6) },
				},
			},
		};
		const { numbers } = solverMaterial({ name: "ply", material: ply }, "thermal-stress", set, ALONE);
		expect(numbers.map((n) => n.property)).toEqual([
			"E1",
			"E2",
			"E3",
			"nu12",
			"nu13",
			"nu23",
			"G12",
			"G13",
			"G23",
			"alpha1",
			"alpha2",
		]);
		const at = Object.fromEntries(numbers.map((n) => [n.property, n]));
		// G23 = E2/(2 (1 + nu23)) of a transversely isotropic ply
		expect(at.G23?.value).toBeCloseTo(8400 / 2.88, 9);
		expect(at.G23?.rule).toBe("follows from the symmetry");
		expect(at.alpha2).toMatchObject({ value: 30e-6, unit: "1/K" });
	});

	it("names what is missing instead of guessing", () => {
		const table = solverMaterial({ name: "empty", material: BLANK }, "thermal-stress", set, ALONE);
		expect(table.numbers).toEqual([]);
		expect(table.doubts).toContain("missing: Young’s modulus");
		expect(table.doubts).toContain("missing: Thermal expansion or Directional expansion");
	});

	it("for all numbers at once names what looks wrong, but for what somebody has said is right", () => {
		const odd = material(number("yield_strength", "300 MPa"), number("tensile_strength", "200 MPa"));
		const { doubts } = solverMaterial({ name: "odd", material: odd }, "all", set, ALONE);
		const { checks } = judge(odd, ALONE);
		const grave = checks.filter((c) => c.severity !== "note");
		expect(grave.length).toBeGreaterThan(0);
		expect(doubts).toEqual(grave.map((c) => c.title));
		const [first] = grave as [(typeof grave)[number]];
		const known = { ...odd, acknowledged: { [checkKey(first)]: acknowledge(first, odd, "sintered") } };
		expect(solverMaterial({ name: "odd", material: known }, "all", set, ALONE).doubts).not.toContain(first.title);
	});

	it("aligns temperature tables and says where an end value was held", () => {
		const series = (id: string, unit: string, T: string[], y: string[]): MaterialValue => {
			const made = makeSeries(
				{ id, property: id, evidence: "measured" },
				{
					kind: "table",
					columns: [
						{ of: "temperature", unit: "°C", cells: T },
						{ of: "value", unit, cells: y },
					],
					interpolation: "linear",
				},
			);
			if (!made.ok) throw new Error(JSON.stringify(made.issues));
			return made.value;
		};
		const m = material(
			series("youngs_modulus", "GPa", ["20", "120"], ["70", "60"]),
			series("thermal_expansion", "10^-6/K", ["20", "220"], ["23", "25"]),
			number("poissons_ratio", "0.33"),
		);
		const [table] = solverMaterial({ name: "m", material: m }, "thermal-stress", set, ALONE).tables;
		expect(table?.columns.map((c) => c.unit)).toEqual(["K", "MPa", "1/K"]);
		expect(table?.columns[0]?.values).toEqual([293.15, 393.15, 493.15]);
		expect(table?.columns[1]?.values).toEqual([70000, 60000, 60000]);
		expect(table?.columns[2]?.values[1]).toBeCloseTo(24e-6, 15);
		expect(table?.note).toContain("held");
	});

	it("writes text and CSV that no spreadsheet takes for a formula", () => {
		const table = solverMaterial({ name: '=HYPERLINK("x")', material: ALUMINIUM }, "linear-static", set, ALONE);
		expect(solverText(set, "linear-static", [table])).toContain("material\t'=HYPERLINK");
		const csv = solverCsv(set, "linear-static", [table]);
		expect(csv.split("\r\n")[0]).toBe('consistent units,"mm, t, s (MPa)"');
		expect(csv).toContain("density,2.7e-9,t/mm3,as given");
		expect(solverJson(set, "linear-static", [table])).toMatchObject({
			set: "mm-t-s",
			temperature_unit: "K",
			materials: [{ values: { youngs_modulus: 69500 }, units: { youngs_modulus: "MPa" } }],
		});
	});
});
