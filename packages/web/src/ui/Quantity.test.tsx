import { makeValue, type NumberValue } from "@alvek/core/material";
import { property } from "@alvek/core/property";
import { describe, expect, it } from "vitest";
import { decimalsOf, padding } from "../places/materials/numbers";
import { allUnits, inUnit, plainUnit, unitFor, valueText, workingText } from "./Quantity";

function value(id: string, text: string): NumberValue {
	const made = makeValue(id, text);
	if (!made.ok) throw new Error();
	return made.value;
}

describe("values on the screen", () => {
	it("keep their digits, and hardness its scale", () => {
		expect(valueText(value("density", "2.70 g/cm3"), "engineering")).toBe("2.70");
		expect([valueText(value("hardness", "75-90 HB"), "us"), unitFor(value("hardness", "75-90 HB"), "us")]).toEqual([
			"75–90",
			"HBW",
		]);
		const hard = (text: string) => valueText(value("hardness", text), "engineering");
		expect(["<= 207 HBW", "min. 90 HBW", "~ 90 HBW", "90 ± 4 HV"].map(hard)).toEqual([
			"≤\u2009207",
			"≥\u200990",
			"~\u200990",
			"90 ±\u20094",
		]);
	});

	it("show a ± with both its numbers as typed, and readings by mean, s and n", () => {
		expect(valueText(value("density", "0.080 ± 0.006 g/cm3"), "engineering")).toBe("0.080 ±\u20090.006");
		expect(valueText(value("density", "0.080 ± 0.006 g/cm3"), "base")).toBe("80 ±\u20096");
		expect(valueText(value("glass_transition", "185 ± 5 °C"), "us")).toBe("365 ±\u20099");
		expect(valueText(value("tensile_strength", "261; 264; 258 MPa"), "engineering")).toBe("261 s\u20093 n\u20093");
		const hard = value("hardness", "168; 171; 165 HV");
		expect([valueText(hard, "us"), unitFor(hard, "us")]).toEqual(["168 s\u20093 n\u20093", "HV"]);
		expect(allUnits(hard)).toContain("168");
		expect(valueText(value("youngs_modulus", "210 GPa ± 4000 MPa"), "engineering")).toBe("210 ±\u20094");
		expect(valueText(value("density", "2.71 g/cm3 ± 2 %"), "engineering")).toMatch(/^2\.71\d* ±\u20090\.05/);
	});

	it("say what calculations work with, only where that is news", () => {
		expect(workingText(value("density", "8.78-8.91 g/cm3"), "engineering")).toBe("works with 8.845");
		expect(workingText(value("tensile_strength", "260-310 MPa"), "engineering")).toBe("works with 260");
		expect(workingText(value("yield_strength", ">= 118 MPa"), "engineering")).toBeNull();
		expect(workingText(value("tensile_strength", "max. 410 MPa"), "engineering")).toBe("gives no working value");
	});

	it("in all units and as typed", () => {
		expect(allUnits(value("density", "2.7 g/cm3"))).toBe("2.7 g/cm³  =  2700 kg/m³  =  0.0975 lb/in³\nas typed: 2.7 g/cm3");
		expect(plainUnit("10^-6/K")).toBe("10⁻⁶/K");
		expect(inUnit(68.9e9, property("youngs_modulus"), "engineering")).toBe("68.9");
	});

	it("stand in line on the point", () => {
		expect([decimalsOf("101"), decimalsOf("2.70"), decimalsOf("8.78–8.9")]).toEqual([0, 2, 1]);
		expect(padding("2.7", { decimals: 2 })).toBe(1);
		expect(padding("27", { decimals: 2 })).toBeCloseTo(2.45);
		expect(padding("2.701", { decimals: 2 })).toBe(0);
	});
});
