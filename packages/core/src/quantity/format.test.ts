import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { property, UNIT_SETS } from "../property";
import { parseQuantity, rangeText, shiftPoint, showQuantity, significant, significantDigits, typeset } from "./index";

function shown(text: string, id: string, unit: string): string {
	const parsed = parseQuantity(text, property(id));
	if (!parsed.ok) throw new Error(JSON.stringify(parsed.issues));
	return rangeText(showQuantity(parsed.value, unit));
}

describe("showing a quantity", () => {
	it("keeps the digits that were typed in their own unit", () => {
		expect(shown("2.70 g/cm3", "density", "g/cm^3")).toBe("2.70");
		expect(shown("0,340", "poissons_ratio", "1")).toBe("0.340");
		expect(shown("22.5e-6 /K", "thermal_expansion", "10^-6/K")).toBe("22.5");
	});

	it("only moves the point between units that differ by a power of ten", () => {
		expect(shown("2.70 g/cm3", "density", "kg/m^3")).toBe("2700");
		expect(shown("2710 kg/m3", "density", "g/cm^3")).toBe("2.71");
		expect(shown("68900 MPa", "youngs_modulus", "GPa")).toBe("68.9");
		expect(shown("104.5 GPa", "youngs_modulus", "Pa")).toBe("104\u2009500\u2009000\u2009000");
		expect(shown("12.50 %", "elongation", "%")).toBe("12.50");
	});

	it("rounds an odd factor to the digits typed, three at least", () => {
		expect(shown("512 lb/ft3", "density", "g/cm^3")).toBe("8.20");
		expect(shown("2.7 g/cm3", "density", "lb/in^3")).toBe("0.0975");
		expect(shown("70 Btu/(h·ft·°F)", "thermal_conductivity", "W/(m·K)")).toBe("121");
		expect(shown("915 °C", "melting_temperature", "°F")).toBe("1680");
		expect(shown("27 %IACS", "resistivity", "μΩ·cm")).toBe("6.39");
	});

	it("writes ranges, open ends and approximations", () => {
		expect(shown("101 to 109 GPa", "youngs_modulus", "GPa")).toBe("101–109");
		expect(shown(">= 118 MPa", "yield_strength", "MPa")).toBe("≥\u2009118");
		expect(shown("max. 410 MPa", "tensile_strength", "MPa")).toBe("≤\u2009410");
		expect(shown("~4 GPa", "youngs_modulus", "GPa")).toBe("~\u20094");
		expect(shown("-20 °C", "service_temperature_min", "°C")).toBe("\u221220");
	});

	it("shows the same after any walk through the unit sets: nothing is rewritten", () => {
		const parsed = parseQuantity("0.262 lb/in^3", property("density"));
		if (!parsed.ok) throw new Error();
		const before = JSON.stringify(parsed.value);
		for (const set of UNIT_SETS) showQuantity(parsed.value, property("density").units[set.id]);
		expect(JSON.stringify(parsed.value)).toBe(before);
	});
});

describe("digits", () => {
	it("counts those that carry information", () => {
		expect([significantDigits("0.0340"), significantDigits("68900"), significantDigits("2.70"), significantDigits("0")]).toEqual([
			3, 3, 3, 1,
		]);
	});

	it("moves the point there and back without a change", () => {
		fc.assert(
			fc.property(fc.stringMatching(/^[1-9]\d{0,5}\.\d{1,6}$/), fc.integer({ min: -9, max: 9 }), (digits, by) => {
				// a shift to the right may pad with zeros before the point; shifting back brings the same number
				expect(Number(shiftPoint(shiftPoint(digits, by), -by))).toBe(Number(digits));
			}),
			{ seed: 11 },
		);
	});

	it("never writes an exponent for numbers that people read", () => {
		expect(significant(0.0000123456, 3)).toBe("0.0000123");
		expect(significant(-1234.5678, 5)).toBe("-1234.6");
		expect(significant(0, 4)).toBe("0");
		expect(typeset("-12345.6")).toBe("\u221212\u2009345.6");
	});
});
