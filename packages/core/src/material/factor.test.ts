import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isNumber, makeValue, strengthsOf, timesFactor } from "./index";
import { material, must, number } from "./testing";
import type { NumberValue } from "./types";

const value = (text: string, id = "yield_strength"): NumberValue => {
	const made = number(id, text);
	if (!isNumber(made)) throw new Error(text);
	return made;
};

describe("a factor on a number", () => {
	it.each([
		[">= 125 MPa", "0.9", ">= 112.5 MPa"],
		["260-310 MPa", "0.9", "234 MPa to 279 MPa"],
		["1.25e3 psi", "0.5", "0.625e3 psi"],
		["262 ± 4 MPa", "0.75", "196.5 MPa ± 3 MPa"],
		["262 MPa ± 2 %", "0.5", "131 MPa ± 2 %"],
		["<= 410 MPa", "1.1", "<= 451 MPa"],
		["~ 300 MPa", "0.333", "~ 99.9 MPa"],
	])("%s times %s", (text, factor, expected) => expect(timesFactor(value(text), factor)).toEqual({ ok: true, value: expected }));

	it.each(["0", "0.0", "-1", "1e3", "ninety", "", "1.2345678", "0,9", "1000"])("“%s” is none", (factor) =>
		expect(timesFactor(value("300 MPa"), factor)).toMatchObject({ ok: false, issues: [{ code: "not-a-factor" }] }),
	);

	it("leaves readings to be measured", () => {
		const readings = value("5 specimens: 261 264 258 266 262 MPa");
		expect(timesFactor(readings, "0.9")).toMatchObject({ ok: false, issues: [{ code: "held-otherwise" }] });
	});

	it("reads back as the product, for any number and factor", () => {
		const cents = fc.integer({ min: 1, max: 40_000_000 });
		fc.assert(
			fc.property(cents, fc.integer({ min: 1, max: 2000 }), (n, f) => {
				const text = `${n / 1000} MPa`;
				const factor = (f / 1000).toFixed(3);
				const made = must(makeValue("yield_strength", must(timesFactor(value(text), factor)), { decimalMark: "." }, {}));
				const low = isNumber(made) ? made.low : null;
				// n thousandths of a MPa times f thousandths: n f Pa
				expect(low).toBe(n * f);
			}),
			{ numRuns: 300 },
		);
	});

	it("is for stresses that a material bears, not for strains or hardness", () => {
		const m = material(
			value("300 MPa"),
			value("400 MPa", "tensile_strength"),
			number("elongation", "12 %"),
			number("hardness", "80 HBW"),
			number("youngs_modulus", "70 GPa"),
			number("fracture_toughness", "60 MPa m^0.5"),
		);
		expect(strengthsOf(m).map((v) => v.id)).toEqual(["yield_strength", "tensile_strength"]);
	});
});
