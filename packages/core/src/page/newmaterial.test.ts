import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readNewMaterial } from "./newmaterial";

describe("a material in one line", () => {
	it.each([
		["Gudgeon alloy 2.68 g/cm3", "Gudgeon alloy", 2680, 2680],
		["Gudgeon bronze 5 8.78-8.91 g/cm3", "Gudgeon bronze 5", 8780, 8910],
		["Gudgeon bronze 5: 8.78 - 8.91 g/cm3", "Gudgeon bronze 5", 8780, 8910],
		["Kelpa 60, 1,17 g/cm³", "Kelpa 60", 1170, 1170],
		["Tar oak 0.71 kg/dm3; E 12 GPa; nu 0.3", "Tar oak", 710, 710],
	])("%s", (text, name, low, high) => {
		const read = readNewMaterial(text);
		if (!read.ok) throw new Error(JSON.stringify(read.issues));
		expect(read.value.name).toBe(name);
		expect(read.value.values[0]?.low).toBeCloseTo(low, 9);
		expect(read.value.values[0]?.high).toBeCloseTo(high, 9);
	});

	it("takes what follows after semicolons, and says what it did not read", () => {
		const read = readNewMaterial("Tar oak 0.71 kg/dm3; E 12 GPa; colour brown");
		if (!read.ok) throw new Error();
		expect(read.value.values.map((v) => v.property)).toEqual(["density", "youngs_modulus"]);
		expect(read.value.left).toEqual(["colour brown"]);
	});

	it.each([
		["Gudgeon alloy", "density-missing"],
		["2.68 g/cm3", "density-missing"],
		["Gudgeon alloy 2.68 GPa", "density-missing"],
		["  ", "name-missing"],
	])("%s is refused", (text, code) => {
		const read = readNewMaterial(text);
		expect(read.ok ? "ok" : read.issues[0]?.code).toBe(code);
	});

	it("never throws, whatever is typed", () => {
		fc.assert(fc.property(fc.string({ maxLength: 200 }), (text) => typeof readNewMaterial(text).ok === "boolean"));
	});
});
