import type { LibraryView, MaterialPage } from "@alvek/contract";
import { type PropertyRow, propertyById } from "@alvek/core/property";
import { describe, expect, it } from "vitest";
import { countOf, rowOfProperty, spanText, wordName } from "./words";

const row = (id: string): PropertyRow => propertyById(id) as PropertyRow;
const span = (low: number | null, high: number | null, more = {}) =>
	spanText({ property: "density", low, high, ...more }, row("density"), "engineering");

describe("a span in words", () => {
	it("has two ends, one, or none but a number; in the unit of the set", () => {
		expect([span(2600, 2800), span(null, 2800), span(2600, null), span(2700, 2700)]).toEqual([
			"2.6–2.8 g/cm³",
			"≤ 2.8 g/cm³",
			"≥ 2.6 g/cm³",
			"2.7 g/cm³",
		]);
		expect(spanText({ property: "density", low: 2600, high: null }, row("density"), "base")).toBe("≥ 2600 kg/m³");
	});

	it("says when it is enough that a range reaches into it, and has no blank where there is no unit", () => {
		expect(span(2600, null, { reach: true })).toBe("≥ 2.6 g/cm³, may reach");
		expect(spanText({ property: "poissons_ratio", low: 0.3, high: 0.35 }, row("poissons_ratio"), "engineering")).toBe("0.3–0.35");
	});
});

describe("words of facets", () => {
	const libraries = [{ id: "own", name: "Orrisay shop" }] as unknown as readonly LibraryView[];
	it.each([
		["library", "own", "Orrisay shop"],
		["library", "gone", "a library that is not here"],
		["evidence", "none", "no evidence"],
		["evidence", "measured", "measured"],
		["evidence", "unheard", "unheard"],
		["basis", "none", "no basis"],
		["basis", "guaranteed-minimum", "guaranteed minimum"],
		["ready", "linear_static", "linear static"],
		["ready", "unheard", "unheard"],
		["family", "unheard", "unheard"],
		["group", "Metals / Bronze", "Metals / Bronze"],
		["supplier", "none", "none"],
	] as const)("%s %s", (facet, word, name) => expect(wordName(facet, word, libraries)).toBe(name));

	it("a family has its name, and so have the words of open questions", () => {
		expect(wordName("family", "metal", libraries)).not.toBe("metal");
		expect(wordName("open", "draft", libraries)).not.toBe("draft");
	});

	it("have the count of the page; none before it is here", () => {
		const page = { facets: { group: [{ key: "Metals", label: "Metals", count: 4 }] } } as unknown as MaterialPage;
		expect([countOf(page, "group", "Metals"), countOf(page, "group", "Woods"), countOf(undefined, "group", "Metals")]).toEqual([
			4, 0, 0,
		]);
	});
});

describe("a property by its id", () => {
	it("is of the catalogue or of a library that is here", () => {
		const own = { ...row("density"), id: "own:1", name: "Water uptake" };
		const rows = new Map([["own:1", own]]);
		expect([rowOfProperty("density", rows)?.name, rowOfProperty("own:1", rows)?.name, rowOfProperty("own:2", rows)]).toEqual([
			"Density",
			"Water uptake",
			undefined,
		]);
	});
});
