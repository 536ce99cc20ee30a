import { describe, expect, it } from "vitest";
import { type Page, readEntry, readPage } from "./index";

function page(text: string): Page {
	const read = readPage(text);
	if (!read.ok) throw new Error(JSON.stringify(read.issues));
	return read.value;
}

describe("a name behind its number", () => {
	const read = (text: string) => page(text).taken.map((t) => [t.property, t.text]);

	it("names that number, not the next", () => {
		expect(read("The bar tested at 66.2 ksi UTS and 58.9 ksi yield, elongation 12.5 %")).toEqual([
			["tensile_strength", "66.2 ksi"],
			["yield_strength", "58.9 ksi"],
			["elongation", "12.5 %"],
		]);
	});

	it("does not when a number of another kind stands before it", () => {
		const { taken, asks } = page("Bar of 25 mm tensile strength, 610 MPa");
		expect(taken.map((t) => [t.property, t.text])).toEqual([["tensile_strength", "610 MPa"]]);
		expect(asks).toEqual([]);
	});
});

describe("limits, symbols and definitions at the edge of a number", () => {
	const read = (text: string) => page(text).taken.map((t) => [t.property, t.text]);

	it("a limit behind the same number in other units holds for the number before it", () => {
		expect(read("Ultimate tensile strength: 930 MPa (135 ksi) minimum")).toEqual([["tensile_strength", ">= 930 MPa"]]);
		expect(read("Tensile strength 930 MPa (135 ksi), yield strength 860 MPa (125 ksi) min.")).toEqual([
			["tensile_strength", "930 MPa"],
			["yield_strength", ">= 860 MPa"],
		]);
	});

	it("a limit behind a condition holds for the number before it, or for the name behind it", () => {
		expect(read("Tensile strength 930 MPa (20 °C) minimum")).toEqual([["tensile_strength", ">= 930 MPa"]]);
		expect(read("Tensile strength 930 MPa (20 °C) minimum yield 860 MPa")).toEqual([
			["tensile_strength", "930 MPa"],
			["yield_strength", ">= 860 MPa"],
		]);
		expect(read("Tensile strength 930 MPa (20 °C) minimum, yield strength 860 MPa")).toEqual([
			["tensile_strength", ">= 930 MPa"],
			["yield_strength", "860 MPa"],
		]);
	});

	it("a hardness scale heads a column, and the offset of a proof stress is no number", () => {
		const { taken } = page("Temper\t0.2% Proof Stress [MPa]\tHV\nH2\t170\t55–95\nH4\t300\t95–125");
		expect(taken.map((t) => [t.property, t.grade, t.text])).toEqual([
			["yield_strength", "H2", "170 MPa"],
			["yield_strength", "H4", "300 MPa"],
			["hardness", "H2", "55–95 HV"],
			["hardness", "H4", "95–125 HV"],
		]);
	});
});

describe("one line of entries", () => {
	const units: Readonly<Record<string, string>> = { youngs_modulus: "GPa", density: "g/cm^3" };
	const entry = (text: string) => readEntry(text, (id) => units[id]);

	it("reads symbols and words, and a bare number in the unit of its field", () => {
		const { taken, left } = entry("rho 2.71 g/cm3; E 68.9; nu 0.33; Rp0.2 >= 240 MPa; tensile strength 260-310 N/mm2; HB 75-90");
		expect(left).toEqual([]);
		expect(taken.map((t) => [t.property, t.low, t.high])).toEqual([
			["density", 2710, 2710],
			["youngs_modulus", 68.9e9, 68.9e9],
			["poissons_ratio", 0.33, 0.33],
			["yield_strength", 240e6, null],
			["tensile_strength", 260e6, 310e6],
			["hardness", 75, 90],
		]);
		expect(taken[1]?.text).toBe("68.9 GPa");
	});

	it("tells K from k, and leaves what it does not know", () => {
		const { taken, left, asks } = entry("K 70 GPa; k 151 W/(m·K); colour red; E 5 kg; rho 1,234 kg/m3");
		expect(taken.map((t) => t.property)).toEqual(["bulk_modulus", "thermal_conductivity"]);
		expect(left).toEqual([
			{ text: "colour red", why: "no property of this name" },
			{ text: "E 5 kg", why: "“kg” is no unit of it" },
		]);
		expect(asks.map((a) => a.choices.map((c) => c.text))).toEqual([["1.234 kg/m3", "1234 kg/m3"]]);
	});
});
