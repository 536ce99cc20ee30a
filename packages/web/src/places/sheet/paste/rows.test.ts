import { BLANK, type Material, makeSeries, makeValue } from "@alvek/core/material";
import { readPage } from "@alvek/core/page";
import { describe, expect, it } from "vitest";
import { numberSpans, placeFor, placesOf, proposedValue, rowsOf, takeEdits } from "./rows";

function rows(text: string) {
	const page = readPage(text);
	if (!page.ok) throw new Error();
	return rowsOf(page.value);
}
function number(id: string, text: string) {
	const made = makeValue(id, id, text, {});
	if (!made.ok) throw new Error();
	return made.value;
}
const SOURCE = { kind: "web", title: "A page" } as const;
const WORDS = { evidence: "data-sheet", basis: "typical", sourceId: "s", source: SOURCE } as const;

describe("rows of a pasted page", () => {
	it("stand in the order of lines; what has a question is not ticked", () => {
		const found = rows("Typical values\nModulus 3.1 GPa\nDensity 8.8 g/cm3\nElongation 12 %\nProof stress min. 125 MPa");
		expect(found.map((r) => [r.property, r.ticked, r.question !== null])).toEqual([
			["youngs_modulus", false, true],
			["density", true, false],
			["elongation", false, true],
			["yield_strength", false, true],
		]);
		expect(found[0]?.choices.map((c) => c.property)).toEqual(["youngs_modulus", "flexural_modulus"]);
	});

	it("become edits with the source first, only of what is ticked, each with evidence, basis and source", () => {
		const found = rows("Density 8.8 g/cm3\nElongation 12 %\nTensile strength 260-310 N/mm²");
		const edits = takeEdits(BLANK, found, WORDS, { amount: "9.80", currency: "EUR", date: "2026-11-25" });
		expect(edits.map((e) => e.at)).toEqual(["sources:s", "density", "tensile_strength", "field:price"]);
		expect(edits[2]?.to).toMatchObject({ low: 260e6, high: 310e6, evidence: "data-sheet", basis: "typical", sourceId: "s" });
	});

	it("replace the number that is there, and add further ones of the same property", () => {
		const material: Material = { ...BLANK, values: { density: number("density", "8.7 g/cm3") } };
		const found = rows("Density 8.8 g/cm3\nDensity at 200 °C 8.7 g/cm3");
		const places = placesOf(found, material);
		expect(found.map((r) => places.get(r.key)?.id)).toEqual(["density", "density~2"]);
		expect(places.get(found[0]?.key ?? "")?.held).toEqual(material.values.density);
	});

	it("never put a number over a table", () => {
		const table = makeSeries(
			{ id: "youngs_modulus", property: "youngs_modulus" },
			"table",
			[
				{ of: "temperature", unit: "°C", cells: ["20", "100"] },
				{ of: "value", unit: "GPa", cells: ["210", "206"] },
			],
			"linear",
		);
		if (!table.ok) throw new Error();
		const material: Material = { ...BLANK, values: { youngs_modulus: table.value } };
		expect(placeFor(material, "youngs_modulus")).toEqual({ id: "youngs_modulus~2", held: null });
		expect(placeFor(material, "density")).toEqual({ id: "density", held: null });
	});

	it("keep a typical number inside a range as the working value", () => {
		const [row] = rows("Property\tMin.\tTyp.\tMax.\tUnit\nRemanence Br\t1.22\t1.24\t1.26\tT");
		if (row === undefined) throw new Error();
		const made = proposedValue(row, "remanence", "data-sheet", "", "s");
		expect(made.ok && made.value).toMatchObject({ low: 1.22, high: 1.26, working: { any: "1.24 T" }, basis: "typical" });
	});

	it("know where their numbers stand in the line", () => {
		const line = "Coefficient of linear expansion (20-200 °C) 17.9 ×10⁻⁶ /°C";
		expect(numberSpans(line, { text: "17.9 ×10⁻⁶ /°C" }).map(([a, b]) => line.slice(a, b))).toEqual(["17.9"]);
		expect(numberSpans("Melting range 1530 – 1830 °F", { text: "1530 °F 1830 °F" })).toHaveLength(2);
	});
});
