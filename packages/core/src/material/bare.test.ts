import { describe, expect, it } from "vitest";
import { PROPERTIES, property, widestBand } from "../property";
import { fromSi, unitOf } from "../quantity";
import { retype } from "./cells";
import { makeValue } from "./make";

const make = (text: string, id: string, fieldUnit = property(id).units.engineering) => {
	const made = makeValue(id, text, { fieldUnit });
	return made.ok ? made.value.entered : made.issues[0];
};

describe("a number without its unit", () => {
	it("is asked where only the base unit makes sense of its size", () => {
		expect(make("18e-6", "thermal_expansion")).toMatchObject({
			code: "unclear-number",
			choices: ["18e-6 10^-6/K", "18e-6 /K"],
		});
		expect(make("0.000018", "thermal_expansion")).toMatchObject({ code: "unclear-number" });
		expect(make("7850", "density")).toMatchObject({ code: "unclear-number", choices: ["7850 kg/m^3"] });
		expect(make("210000", "youngs_modulus")).toMatchObject({ code: "unclear-number" });
		expect(make("2.1e11", "youngs_modulus")).toMatchObject({ choices: expect.arrayContaining(["2.1e11 Pa"]) });
	});

	it("takes the unit of the field where its size fits, a small expansion too", () => {
		expect(make("18", "thermal_expansion")).toBe("18 10^-6/K");
		expect(make("0.05", "thermal_expansion")).toBe("0.05 10^-6/K");
		expect(make("-0.3", "thermal_expansion")).toBe("-0.3 10^-6/K");
		expect(make("2.71", "density")).toBe("2.71 g/cm^3");
		expect(make("0.01", "density")).toBe("0.01 g/cm^3");
	});

	it("every reading that is offered reads as itself", () => {
		for (const spec of PROPERTIES) {
			const band = widestBand(spec.id);
			if (band === null || spec.scales === true) continue;
			const inBase = String(fromSi(Math.sqrt(Math.max(band.low, band.high * 1e-3) * band.high), unitOf(spec.units.base)));
			const made = makeValue(spec.id, inBase, { fieldUnit: spec.units.engineering });
			if (made.ok) continue;
			for (const choice of made.issues[0]?.choices ?? []) {
				const again = makeValue(spec.id, choice, { decimalMark: "." });
				expect(again.ok, choice).toBe(true);
			}
		}
	});
});

describe("a number typed over another", () => {
	const page = { evidence: "data-sheet", basis: "typical", sourceId: "s1", qualifier: "Rp0.2", condition: "20 °C" } as const;
	const before = makeValue("yield_strength", "355 MPa", {}, page);
	it("is the typist's: the page's source, evidence and basis go, what it is stays", () => {
		if (!before.ok) throw new Error();
		const made = retype(before.value, { id: "yield_strength", property: "yield_strength" }, "350 MPa", {});
		expect(made.ok && made.value).toEqual({
			id: "yield_strength",
			property: "yield_strength",
			qualifier: "Rp0.2",
			condition: "20 °C",
			entered: "350 MPa",
			low: 350e6,
			high: 350e6,
		});
	});

	it("the same number in another spelling keeps its source", () => {
		if (!before.ok) throw new Error();
		const made = retype(before.value, { id: "yield_strength", property: "yield_strength" }, "355 N/mm2", {});
		expect(made.ok && made.value).toMatchObject({ sourceId: "s1", evidence: "data-sheet", basis: "typical" });
	});

	it("keeps what the typist said of a value without a source", () => {
		const own = makeValue("density", "2.7 g/cm3", {}, { evidence: "measured" });
		if (!own.ok) throw new Error();
		const made = retype(own.value, { id: "density", property: "density" }, "2.71 g/cm3", {});
		expect(made.ok && made.value.evidence).toBe("measured");
	});
});
