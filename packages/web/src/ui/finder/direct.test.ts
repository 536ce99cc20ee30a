import { describe, expect, it } from "vitest";
import { directOf } from "./direct";

describe("what a text asks for itself", () => {
	it("is a number in another unit", () => {
		expect(directOf("35 ksi in MPa")).toEqual({ kind: "converted", from: "35 ksi", answer: "241.317 MPa" });
	});

	it.each([
		["rho AL 21", "density", "AL 21"],
		["Rm havrin 34", "tensile_strength", "havrin 34"],
		["yield strength mild plate", "yield_strength", "mild plate"],
		["thermal conductivity bronze", "thermal_conductivity", "bronze"],
	])("%s: a property of a material", (text, property, material) => {
		const asked = directOf(text);
		expect(asked).toMatchObject({ kind: "values", material });
		expect(asked?.kind === "values" ? asked.properties[0] : "").toBe(property);
	});

	it.each(["gudgeon bronze", "AL 21", "rho", "", "new material", "havrin 34 rho"])("%s: nothing but names", (text) =>
		expect(directOf(text)).toBeNull(),
	);
});
