import { ALONE, judge } from "@alvek/core/judge";
import { BLANK, type Material, type MaterialValue, makeValue } from "@alvek/core/material";
import { describe, expect, it } from "vitest";
import { completeness, nextNeeded, sectionLines } from "./lines";

function value(id: string, property: string, text: string): MaterialValue {
	const made = makeValue({ id, property }, text);
	if (!made.ok) throw new Error();
	return made.value;
}
const material = (family: string | null, ...values: MaterialValue[]): Material => ({
	...BLANK,
	family,
	values: Object.fromEntries(values.map((v) => [v.id, v])),
});

describe("lines of a sheet", () => {
	it("show what is common, what is filled in, and what the wanted use needs", () => {
		const ids = (m: Material, all = false, needed: string[] = []) =>
			sectionLines(m, "strength", { all, needed: new Set(needed) }).map((l) => l.key);
		expect(ids(BLANK)).toEqual(["yield_strength", "tensile_strength", "elongation", "compressive_strength"]);
		expect(ids(BLANK, false, ["flexural_strength"])).toContain("flexural_strength");
		expect(ids(BLANK, true)).toContain("izod_impact_width");
		expect(ids(material("composite"))).toContain("ply_Xt");
		expect(
			ids(
				material(
					"metal.steel",
					value("yield_strength", "yield_strength", "5 MPa"),
					value("yield_strength~2", "yield_strength", "6 MPa"),
				),
			).slice(0, 2),
		).toEqual(["yield_strength", "yield_strength~2"]);
	});

	it("count what is filled in, a property once", () => {
		expect(completeness(BLANK, "elastic")).toEqual({ filled: 0, of: 4 });
		expect(completeness(material(null, value("loss_factor", "loss_factor", "0.1")), "elastic")).toEqual({ filled: 1, of: 5 });
	});

	it("know the next blank of the wanted use", () => {
		expect(nextNeeded(judge(BLANK, ALONE).readiness, "linear_static")).toBe("youngs_modulus");
		expect(nextNeeded(judge(material(null, value("density", "density", "1 g/cm3")), ALONE).readiness, "mass")).toBeNull();
	});
});
