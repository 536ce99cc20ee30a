import { describe, expect, it } from "vitest";
import { dimensionText, parseQuantity, unitOf } from "../quantity";
import { BANDS } from "./bands.data";
import { FAMILIES, FORMS, isFamily, MIXED_UNITS, PROPERTIES, plausibleBand, propertyById, SECTIONS } from "./index";

describe("the catalogue", () => {
	it("has unique ids and every section filled", () => {
		expect(new Set(PROPERTIES.map((p) => p.id)).size).toBe(PROPERTIES.length);
		for (const s of SECTIONS) expect([...PROPERTIES, ...FORMS].some((p) => p.section === s.id)).toBe(true);
	});

	it.each(PROPERTIES.filter((p) => p.scales !== true))("$id shows in units of its own dimension", (p) => {
		for (const unit of [p.siUnit, ...Object.values(p.units)]) {
			expect(dimensionText(unitOf(unit).dimension)).toBe(dimensionText(p.dimension));
		}
		expect(unitOf(p.siUnit).approximate).toBe(1);
	});

	it("explains each property in one sentence or two, for people who are no specialists", () => {
		for (const p of PROPERTIES) {
			expect(p.explanation.endsWith(".")).toBe(true);
			expect(p.explanation.length).toBeLessThan(150);
		}
	});

	it("keeps every plausible band inside the hard bounds and on known families", () => {
		const families = new Set(FAMILIES.map((f) => f.id));
		for (const [id, bands] of Object.entries(BANDS)) {
			const spec = propertyById(id);
			for (const [family, [low, high]] of Object.entries(bands)) {
				expect(families.has(family)).toBe(true);
				for (const si of [low, high])
					expect(parseQuantity(`${si} ${spec?.siUnit}`, spec as never, { decimalMark: "." }).ok).toBe(true);
				expect(low).toBeLessThan(high);
			}
		}
	});

	it("answers the most specific band, says its source, and knows no prototype keys", () => {
		expect(plausibleBand("density", "metal.aluminium")).toEqual({ low: 2500, high: 3000, source: "engineering judgement" });
		expect(plausibleBand("density", "metal.zamak")).toEqual({ low: 1500, high: 23000, source: "engineering judgement" });
		expect(plausibleBand("density", null)).toBeNull();
		expect(propertyById("__proto__")).toBeUndefined();
		expect(plausibleBand("constructor", "metal")).toBeNull();
		expect([isFamily("metal.steel", "metal"), isFamily("metalloid", "metal")]).toEqual([true, false]);
	});
});

describe("units that are mixed up", () => {
	it.each([...MIXED_UNITS])("of dimension %i measure the same", (dimension, units) => {
		for (const { unit } of units) expect(unitOf(unit).dimension, unit).toBe(dimension);
	});
});
