import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { PROPERTIES, property } from "../property";
import { parsePlain } from "./fast";
import { parseGeneral } from "./parse";

describe("the plain reader", () => {
	it("is really taken for everyday texts, and leaves the rest alone", () => {
		for (const [text, id] of [
			["2.71 g/cm3", "density"],
			["0.262 lb/in^3", "density"],
			["104.5 GPa", "youngs_modulus"],
			["1.12e5 N/mm2", "youngs_modulus"],
			["12 %", "elongation"],
		] as const) {
			expect(parsePlain(text, property(id)), text).not.toBeNull();
		}
		for (const text of [
			"1,234 MPa",
			"101-109 GPa",
			">= 5 MPa",
			"5",
			"",
			"5 kN",
			"-5 GPa",
			"5. GPa",
			".5 GPa",
			"1e9999 Pa",
			"1 234 MPa",
			"5 GPa max",
		]) {
			expect(parsePlain(text, property("youngs_modulus")), text).toBeNull();
		}
	});

	it("equals the general reader wherever it answers, for random numbers, units and properties", () => {
		const units = [
			"kg/m3",
			"g/cm3",
			"lb/in3",
			"lb/ft3",
			"t/mm3",
			"MPa",
			"GPa",
			"psi",
			"ksi",
			"Msi",
			"%",
			"W/(m·K)",
			"Btu/(h·ft·°F)",
			"Btu/(lb·°F)",
			"J/(kg·K)",
			"K",
			"/°F",
			"kV/mm",
			"",
		];
		const number = fc.oneof(
			fc.stringMatching(/^-?\d{1,9}([.,]\d{1,7})?$/),
			fc.stringMatching(/^\d{1,3}[.,]\d{1,4}[eE][+-]?\d{1,2}$/),
			fc.double({ min: 1e-9, max: 1e12, noNaN: true }).map(String),
		);
		let taken = 0;
		fc.assert(
			fc.property(
				number,
				fc.constantFrom(" ", ""),
				fc.constantFrom(...units),
				fc.constantFrom(...PROPERTIES),
				(n, gap, unit, spec) => {
					const text = n + gap + unit;
					const plain = parsePlain(text, spec);
					if (plain === null) return;
					taken++;
					expect({ ok: true, value: plain }, text).toEqual(parseGeneral(text, spec));
				},
			),
			{ numRuns: 20_000, seed: 20261125 },
		);
		expect(taken).toBeGreaterThan(300);
	});
});
