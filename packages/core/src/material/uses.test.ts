import { describe, expect, it } from "vitest";
import {
	acknowledge,
	BLANK,
	canonicalJson,
	checkKey,
	checkText,
	decodeMaterial,
	derivedForms,
	type Material,
	makeValue,
	members,
	readSeries,
	type SeriesValue,
	type UseId,
	workingOf,
} from "./index";
import { checksOf, material, must, number, readinessOf, series } from "./testing";

const state = (m: Material, use: UseId): string => readinessOf(m).find((r) => r.use === use)?.state ?? "";

describe("tables and curves in uses", () => {
	const plate = material(
		series("youngs_modulus", "table", [
			["temperature", "°C", "20 100 200"],
			["value", "GPa", "210 206 199"],
		]),
		number("poissons_ratio", "0.3"),
		series("thermal_expansion", "table", [
			["temperature", "°C", "100 200"],
			["value", "10^-6/K", "12.1 12.7"],
		]),
	);

	it("take what magnets, flow and moulding are computed from", () => {
		const state = (m: Material, use: string) => readinessOf(m).find((r) => r.use === use);
		expect(state(BLANK, "magnetostatic")?.missing[0]).toContain("bh_curve");
		expect(state(material(number("relative_permeability", "4000")), "magnetostatic")?.state).toBe("ready");
		const oil = [number("density", "870 kg/m3"), number("viscosity", "32 cP")] as const;
		expect(oil[1]).toMatchObject({ low: 0.032 });
		expect(state(material(oil[0]), "flow")?.missing).toEqual([["viscosity"]]);
		expect(state(material(...oil), "flow")?.state).toBe("ready");
		const file = { name: "card.txt", purpose: "data-sheet", note: "", format: "text", hash: "0", bytes: 1, version: 1, date: "" };
		const holding = (purpose: "data-sheet" | "solver-file"): Material => ({ ...BLANK, attachments: { a: { ...file, purpose } } });
		expect(state(holding("data-sheet"), "moulding")?.missing).toEqual([["solver_file"]]);
		expect(state(holding("solver-file"), "moulding")?.state).toBe("ready");
	});

	it("give their number at 20 °C, hold elastic ends and refuse a strength outside", () => {
		expect(workingOf(plate, "youngs_modulus")).toBe(210e9);
		expect(workingOf(plate, "thermal_expansion")).toBeCloseTo(12.1e-6, 15);
		const hot = material(
			series("yield_strength", "table", [
				["temperature", "°C", "100 200"],
				["value", "MPa", "300 250"],
			]),
		);
		expect(workingOf(hot, "yield_strength")).toBeNull();
	});

	it("thermal stress asks a table for its reference temperature", () => {
		expect(readinessOf(plate).find((r) => r.use === "thermal_stress")).toMatchObject({
			state: "not-ready",
			doubts: ["the table of thermal expansion does not say its reference temperature"],
		});
		const said = {
			...plate,
			values: {
				...plate.values,
				thermal_expansion: { ...(plate.values.thermal_expansion as SeriesValue), header: { reference: "20 °C" } },
			},
		};
		expect(state(said, "thermal_stress")).toBe("ready");
	});

	it("a curve of unknown form makes plasticity not ready; E has to be known at its temperature", () => {
		const columns: [string, string, string][] = [
			["temperature", "°C", "20 20 20 300 300 300"],
			["strain", "%", "0 0.1 5 0 0.1 5"],
			["stress", "MPa", "0 200 320 0 180 260"],
		];
		const unknown = { ...plate, values: { ...plate.values, stress_strain: series("stress_strain", "curve", columns) } };
		expect(state(unknown, "plasticity")).toBe("not-ready");
		const header = { stress: "engineering", strain: "total-engineering", loading: "tension" };
		const said = { ...plate, values: { ...plate.values, stress_strain: series("stress_strain", "curve", columns, header) } };
		const forms = derivedForms(said, said.values.stress_strain as SeriesValue);
		expect(forms.map((f) => f.missing)).toEqual([null, "Young’s modulus at 300 °C is needed for the plastic strain"]);
		expect(state(said, "plasticity")).toBe("not-ready");
	});

	it("fatigue, core loss, electrical and bolted joints name what they need", () => {
		const missing = (use: UseId): string =>
			readinessOf(plate)
				.find((r) => r.use === use)
				?.missing.flat()
				.join(" ") ?? "";
		expect(missing("fatigue")).toBe("sn_curve");
		expect(missing("core_loss")).toBe("core_loss core_loss_model");
		expect(missing("electrical")).toBe("resistivity");
		expect(missing("bolted")).toContain("friction_coefficient");
		const sn = series(
			"sn_curve",
			"curve",
			[
				["cycles", "1", "1e4 1e6"],
				["stress", "MPa", "250 160"],
			],
			{ stress: "amplitude", loading: "axial" },
		);
		const tired = { ...plate, values: { ...plate.values, sn_curve: sn } };
		expect(readinessOf(tired).find((r) => r.use === "fatigue")?.doubts).toEqual(["the S-N curve does not say R or mean stress"]);
	});
});

describe("reading a curve outside of its points", () => {
	const at = (value: SeriesValue, x: number) => readSeries(value, members(value)[0] as never, x);

	it("follows the property: held, with the slope of vacuum, or nothing", () => {
		const E = series("youngs_modulus", "table", [
			["temperature", "°C", "20 100"],
			["value", "GPa", "210 206"],
		]);
		expect(at(E, 500)).toEqual({ y: 206e9, how: "held" });
		const B = series(
			"bh_curve",
			"curve",
			[
				["field", "A/m", "0 1000"],
				["flux_density", "T", "0 1.5"],
			],
			{ quantity: "B" },
		);
		const far = at(B, 101_000);
		expect(far?.how).toBe("vacuum-slope");
		// 1e5 A/m more in vacuum: 4 pi 10^-7 x 1e5 = 0.12566 T
		expect(far?.y).toBeCloseTo(1.5 + 0.125663706, 8);
		expect(at(B, -1)).toBeNull();
		const S = series("yield_strength", "table", [
			["temperature", "°C", "20 100"],
			["value", "MPa", "300 280"],
		]);
		expect(at(S, 500)).toBeNull();
		expect(at(S, 333.15)?.y).toBeCloseTo(290e6, 0);
	});
});

describe("checks of curves", () => {
	const codes = (m: Material): string[] => checksOf(m).map((c) => c.code);

	it("find a B-H slope below vacuum, but not where the last digit explains it", () => {
		const curve = (b: string): Material =>
			material(
				series(
					"bh_curve",
					"curve",
					[
						["field", "A/m", "0 100 1000 100000"],
						["flux_density", "T", b],
					],
					{ quantity: "B" },
				),
			);
		// mu0 x 99000 A/m = 0.1244 T
		expect(codes(curve("0 1.20 1.50 1.63"))).not.toContain("below-vacuum");
		expect(codes(curve("0 1.20 1.50 1.55"))).toContain("below-vacuum");
		const J = material(
			series(
				"bh_curve",
				"curve",
				[
					["field", "A/m", "0 100 1000 100000"],
					["flux_density", "T", "0 1.2 1.5 1.55"],
				],
				{ quantity: "J" },
			),
		);
		expect(codes(J)).not.toContain("below-vacuum");
	});

	it("hold the flow curve against E and the yield stress, and find mixed forms", () => {
		const header = { stress: "engineering", strain: "total-engineering", loading: "tension" };
		const base = (stress: string, rp: string): Material =>
			material(
				number("youngs_modulus", "200 GPa"),
				number("yield_strength", rp, { qualifier: "Rp0.2" }),
				series(
					"stress_strain",
					"curve",
					[
						["strain", "%", "0.00 0.10 0.30 0.50 1.00 5.00"],
						["stress", "MPa", stress],
					],
					header,
				),
			);
		expect(codes(base("0 200 300 320 340 400", ">= 295 MPa"))).toEqual([]);
		expect(codes(base("0 200 300 320 340 400", "400 MPa"))).toContain("flow-against-yield");
		expect(codes(base("0 250 300 320 340 400", ">= 295 MPa"))).toContain("steeper-than-e");
		const mixed = series(
			"stress_strain",
			"curve",
			[
				["strain", "%", "0 1"],
				["stress", "MPa", "0 300"],
			],
			{ stress: "true", strain: "total-engineering" },
		);
		expect(codes(material(mixed))).toContain("forms-mixed");
		const neck = {
			...material(
				number("uniform_elongation", "12 %"),
				series(
					"stress_strain",
					"curve",
					[
						["strain", "%", "0 10 30"],
						["stress", "MPa", "200 300 400"],
					],
					{ stress: "true", strain: "plastic-true" },
				),
			),
		};
		expect(codes(neck)).toContain("beyond-uniform");
		const twice = series("youngs_modulus", "table", [
			["temperature", "°C", "20 100 100"],
			["value", "GPa", "210 206 205"],
		]);
		expect(codes(material(twice))).toContain("table-repeats");
	});

	it("can be acknowledged while the values stay as they were", () => {
		const odd: Material = { ...material(number("density", "7.1 g/cm3")), family: "metal.steel" };
		const [check] = checksOf(odd);
		if (check === undefined) throw new Error();
		const known: Material = { ...odd, acknowledged: { [checkKey(check)]: acknowledge(check, odd, "sintered") } };
		expect(checksOf(known)[0]?.acknowledged).toBe("sintered");
		expect(state(known, "mass")).toBe("ready");
		expect(state(odd, "mass")).toBe("doubts");
		const changed = { ...known, values: { density: number("density", "6.9 g/cm3") } };
		expect(checksOf(changed)[0]?.acknowledged).toBeUndefined();
		expect(must(decodeMaterial(JSON.parse(canonicalJson(known)))).acknowledged).toEqual(known.acknowledged);
	});

	it("name each slip by its ratio", () => {
		const slip = (family: string, id: string, text: string): string => {
			const found = checksOf({ ...material(number(id, text)), family }).find((c) => c.code === "outside-band");
			return found === undefined ? "" : checkText(found);
		};
		expect(slip("metal.steel", "density", "0.2836 kg/m3")).toContain("lb/in³ and kg/m³");
		expect(slip("metal.aluminium", "density", "169 kg/m3")).toContain("lb/ft³ and kg/m³");
		expect(slip("metal.steel", "thermal_expansion", "6.5e-6 /K")).toContain("/°F and /K");
		expect(slip("metal.aluminium", "youngs_modulus", "10 GPa")).toContain("Msi and GPa");
		expect(slip("metal.copper", "specific_heat", "0.09 J/(kg·K)")).toContain("Btu/(lb·°F)");
	});
});

describe("section drawing and rendering", () => {
	const stateOf = (material: Material, use: string) => readinessOf(material).find((r) => r.use === use);
	it("need a hatch and a look; the family lends its hatch with a doubt", () => {
		expect(stateOf(BLANK, "section")).toMatchObject({ state: "not-ready", missing: [["hatch"]] });
		expect(stateOf(BLANK, "rendering")).toMatchObject({ state: "not-ready", missing: [["look"]] });
		const steel: Material = { ...BLANK, family: "metal.steel", colour: "#7c848a" };
		expect(stateOf(steel, "section")).toMatchObject({ state: "doubts", doubts: ["the hatch is that of the family"] });
		expect(stateOf(steel, "rendering")).toMatchObject({ state: "doubts", doubts: ["only its colour was chosen"] });
		const hatch = { pattern: "lines", angle_deg: 30, spacing_mm: 2 } as const;
		const chosen: Material = { ...steel, look: { ...BLANK.look, metalness: 0.9, hatch } };
		expect([stateOf(chosen, "section")?.state, stateOf(chosen, "rendering")?.state]).toEqual(["ready", "ready"]);
	});
});

it("an open check about E, G and ν keeps its symbols in the doubts", () => {
	const made = Object.entries({ youngs_modulus: "70 GPa", shear_modulus: "40 GPa", poissons_ratio: "0.33" }).map(([id, text]) => {
		const value = makeValue(id, text, {}, { evidence: "measured" });
		if (!value.ok) throw new Error(text);
		return [id, value.value] as const;
	});
	const doubts = readinessOf({ ...BLANK, values: Object.fromEntries(made) }).find((r) => r.use === "linear_static")?.doubts;
	expect(doubts).toEqual(["E, G and ν disagree"]);
});
