import { describe, expect, it } from "vitest";
import { BLANK, type Material, makeValue } from "../material";
import { compareRows, difference, isUniform, type Side } from "./index";
import { exactly, over, times } from "./numbers";

function holding(values: Readonly<Record<string, string>>, extra: Partial<Material> = {}): Material {
	const made = Object.entries(values).map(([id, text]) => {
		const value = makeValue(id, text);
		if (!value.ok) throw new Error(`${id} ${text}: ${JSON.stringify(value.issues)}`);
		return [id, value.value] as const;
	});
	return { ...BLANK, values: Object.fromEntries(made), ...extra };
}
const price = (amount: string, currency = "EUR") => ({ price: { amount, currency, date: "2026-10-01" } });
const side = (name: string, material: Material): Side => ({ id: name, name, material });
const EUR = { currency: "EUR", rates: [] };

const SIDES = [
	side("plate", holding({ density: "2.70 g/cm3", youngs_modulus: "69.5 GPa", yield_strength: ">= 262 MPa" }, price("6.10"))),
	side("bronze", holding({ density: "8.78-8.91 g/cm3", youngs_modulus: "98-107 GPa" }, price("9.80"))),
	side("foreign", holding({ density: "1 g/cm3" }, price("5", "USD"))),
];
const rowOf = (id: string, sides: readonly Side[] = SIDES) => compareRows(sides, [], EUR).find((r) => r.id === id);

describe("comparing", () => {
	it("derives by interval, worked out by hand", () => {
		const stiffness = rowOf("stiffness_by_mass")?.entries;
		// 69.5e9 / 2700 = 25.74 MN m/kg; 98e9 / 8910 to 107e9 / 8780, middle 102.5e9 / 8845
		expect(stiffness?.[0]).toMatchObject({ figure: { working: 69.5e9 / 2700 } });
		const bronze = stiffness?.[1];
		if (bronze?.kind !== "number") throw new Error("no number");
		expect(bronze.figure.low).toBeCloseTo(98e9 / 8910, 3);
		expect(bronze.figure.high).toBeCloseTo(107e9 / 8780, 3);
		expect(bronze.figure.working).toBeCloseTo(102.5e9 / 8845, 3);
		expect(stiffness?.[2]).toEqual({ kind: "blank" });
		// 6.10 EUR/kg x 2700 kg/m3; by stiffness over 69.5 GPa
		expect(rowOf("price_by_volume")?.entries[0]).toMatchObject({ figure: { working: 6.1 * 2700 } });
		expect(rowOf("price_by_stiffness")?.entries[0]).toMatchObject({ figure: { working: (6.1 * 2700) / 69.5e9 } });
	});

	it("the price of a bar of one length and stiffness is what its rule says", () => {
		// a second way: E A / L = 1 kN/mm over L = 1 m asks for A, which weighs and costs
		const [E, rho, perKg, k, L] = [69.5e9, 2700, 6.1, 1e6, 1];
		const area = (k * L) / E;
		expect(((perKg * rho) / E) * k * L * L).toBeCloseTo(area * L * rho * perKg, 9);
	});

	it("keeps open ends open, shows blanks, and never converts a currency without a rate", () => {
		expect(rowOf("yield_strength")?.entries.map((e) => e.kind)).toEqual(["number", "blank", "blank"]);
		expect(rowOf("yield_strength")?.entries[0]).toMatchObject({ figure: { low: 262e6, high: null } });
		expect(rowOf("price")?.entries[2]).toEqual({ kind: "words", words: "5 USD/kg, no rate" });
		const withRate = { currency: "EUR", rates: [{ currency: "USD", rate: "0.9", date: "2026-11-01" }] };
		expect(compareRows(SIDES, [], withRate).find((r) => r.id === "price")?.entries[2]).toMatchObject({
			figure: { working: 4.5 },
		});
		expect(compareRows(SIDES, [], EUR).some((r) => r.id === "melting_temperature")).toBe(false);
	});

	it("reads a directional set along and across", () => {
		const ply = holding(
			{ density: "1.55 g/cm3" },
			{
				elasticity: "directional",
				values: {
					elastic_set: {
						id: "elastic_set",
						property: "elastic_set",
						kind: "set",
						symmetry: "ply",
						axes: ["fibre", "across", "up"],
						components: {
							E1: { entered: "135 GPa", low: 135e9, high: 135e9 },
							E2: { entered: "8.6 GPa", low: 8.6e9, high: 8.6e9 },
						},
					},
				},
			},
		);
		expect(rowOf("youngs_modulus", [side("ply", ply)])?.entries[0]).toMatchObject({
			figure: { working: 135e9 },
			across: { working: 8.6e9 },
		});
	});

	it("knows rows in which nothing differs", () => {
		const twice = [SIDES[0] as Side, side("again", holding({ density: "2700 kg/m3", youngs_modulus: "70 GPa" }))];
		const uniform = compareRows(twice, [], EUR)
			.filter(isUniform)
			.map((r) => r.id);
		expect(uniform).toEqual(["density"]);
	});
});

describe("differences", () => {
	const point = exactly;
	it("are a percentage, a factor, a difference, or nothing", () => {
		// 2.70 against 8.845: 69.5 % lighter
		expect(difference(point(2.7), point(8.845))).toMatchObject({ kind: "percent", more: false });
		expect(difference(point(2.7), point(8.845))).toHaveProperty("percent", expect.closeTo(69.47, 2));
		expect(difference(point(262), point(125))).toEqual({ kind: "times", times: 2.096 });
		expect(difference(point(3), point(3 * (1 + 1e-12)))).toEqual({ kind: "same" });
		expect(difference(point(-5), point(10))).toEqual({ kind: "by", by: -15 });
		expect(difference(point(900), point(600), true)).toEqual({ kind: "by", by: 300 });
		expect(difference({ low: 1, high: null, working: null }, point(1))).toBeNull();
	});

	it("say nothing of ranges that meet and lie close", () => {
		const a = { low: 98, high: 107, working: 102.5 };
		expect(difference(a, { low: 95, high: 101, working: 98 })).toEqual({ kind: "overlap" });
		expect(difference(a, { low: 60, high: 99, working: 79.5 })).toMatchObject({ kind: "percent" });
	});

	it("ranges multiply and divide by their ends", () => {
		const [a, b] = [
			{ low: 2, high: 3, working: 2.5 },
			{ low: 4, high: null, working: 4 },
		];
		expect(times(a, b)).toEqual({ low: 8, high: null, working: 10 });
		expect(over(a, b)).toEqual({ low: null, high: 0.75, working: 0.625 });
	});
});

describe("two limits", () => {
	const least = (low: number) => ({ low, high: null, working: low });
	it("are compared by their given ends, near or far", () => {
		expect(difference(least(262e6), least(241e6))).toMatchObject({ kind: "percent", more: true });
		expect(difference(least(386e6), least(262e6))).toMatchObject({ kind: "percent", more: true });
		const near = difference(least(262e6), least(241e6));
		expect(near?.kind === "percent" && near.percent).toBeCloseTo((100 * 262) / 241 - 100, 9);
		expect(difference({ low: 240e6, high: 285e6, working: 240e6 }, { low: 250e6, high: 290e6, working: 250e6 })).toEqual({
			kind: "overlap",
		});
	});
});
