import { BLANK, type Material, makeSeries, makeValue } from "@alvek/core/material";
import { readPage } from "@alvek/core/page";
import { describe, expect, it } from "vitest";
import { numberOn, placeFor, placesOf, proposedValue, rowByHand, rowsOf, takeEdits } from "./rows";

function rows(text: string) {
	const page = readPage(text);
	if (!page.ok) throw new Error();
	return rowsOf(page.value);
}
function number(id: string, text: string) {
	const made = makeValue(id, text);
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
		const price = { amount: "9.80", currency: "EUR", date: "2026-11-25" };
		const edits = takeEdits(BLANK, found, WORDS, { price, composition: null });
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
			{
				kind: "table",
				columns: [
					{ of: "temperature", unit: "°C", cells: ["20", "100"] },
					{ of: "value", unit: "GPa", cells: ["210", "206"] },
				],
				interpolation: "linear",
			},
		);
		if (!table.ok) throw new Error();
		const material: Material = { ...BLANK, values: { youngs_modulus: table.value } };
		expect(placeFor(material, "youngs_modulus")).toEqual({ id: "youngs_modulus~2", held: null });
		expect(placeFor(material, "density")).toEqual({ id: "density", held: null });
	});

	it("keep a typical number inside a range as the working value", () => {
		const [row] = rows("Property\tMin.\tTyp.\tMax.\tUnit\nRemanence Br\t1.22\t1.24\t1.26\tT");
		if (row === undefined) throw new Error();
		const made = proposedValue(row, "remanence", { evidence: "data-sheet", sourceId: "s" });
		expect(made.ok && made.value).toMatchObject({ low: 1.22, high: 1.26, working: { any: "1.24 T" } });
	});

	it("of several grades only those of the chosen one, and those of none", () => {
		const page = readPage(
			"Property\tUnit\tAlder 1\tAlder 2\nDensity\tkg/m³\t7840\t7830\nTensile strength\tMPa\t780–1080\t880\nPoisson's ratio: 0.29",
		);
		if (!page.ok) throw new Error();
		expect(rowsOf(page.value).map((r) => r.property)).toEqual(["poissons_ratio"]);
		expect(rowsOf(page.value, "Alder 2").map((r) => r.text)).toEqual(["7830 kg/m³", "880 MPa", "0.29"]);
	});

	it("make a table of the sheet out of temperatures over the columns, beside the number that is there", () => {
		const found = rows("Temperature, °C\t20\t200\nYoung's modulus, GPa\t214\t205");
		const material: Material = { ...BLANK, values: { youngs_modulus: number("youngs_modulus", "210 GPa") } };
		const edits = takeEdits(material, found, WORDS, { price: null, composition: null });
		expect(edits.map((e) => e.at)).toEqual(["sources:s", "youngs_modulus~2"]);
		expect(edits[1]?.to).toMatchObject({
			kind: "table",
			columns: [
				{ of: "temperature", si: [293.15, 473.15] },
				{ of: "value", si: [214e9, 205e9] },
			],
		});
	});

	it("make a family of loss curves with the frequency as its condition", () => {
		const found = rows("Typical specific total loss in W/kg\nJ in T\t50 Hz\t400 Hz\n0.5\t0.30\t4.53\n1.0\t0.98\t15.6");
		const made = found[0] === undefined ? null : proposedValue(found[0], "core_loss");
		expect(made?.ok && made.value).toMatchObject({
			kind: "curve",
			columns: [{ of: "frequency" }, { of: "flux_density" }, { of: "loss_per_mass" }],
		});
	});

	it("take a composition in per cent", () => {
		const page = readPage("Element\tMin\tMax\nNi\tbalance\t\nCr\t20.0\t23.0\nFe\t\t5.0");
		if (!page.ok) throw new Error();
		const edits = takeEdits(BLANK, [], WORDS, { price: null, composition: page.value.compositions[0] ?? null });
		expect(edits[1]).toMatchObject({
			at: "field:composition",
			to: [
				{ name: "Ni", min: "", max: "", balance: true },
				{ name: "Cr", min: "20", max: "23" },
				{ name: "Fe", min: "", max: "5" },
			],
		});
	});

	it("begin a left line with its number", () => {
		expect(numberOn("Softening point\t475 °C")).toBe("475 °C");
		expect(rowByHand("h3", 3, "density", numberOn("weight ~ 2.7 g/cm3"))).toMatchObject({ text: "~ 2.7 g/cm3", ticked: true });
	});
});
