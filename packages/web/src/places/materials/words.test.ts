import type { LibraryView, MaterialPage } from "@alvek/contract";
import { type PropertyRow, propertyById } from "@alvek/core/property";
import { describe, expect, it } from "vitest";
import { countOf, rowOfProperty, wordName } from "./words";

const row = (id: string): PropertyRow => propertyById(id) as PropertyRow;

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
