import { describe, expect, it } from "vitest";
import { isFiltered, isStep, narrowingOf, readView, UNFILTERED, type ViewChange, writeChange } from "./view";

function written(change: ViewChange): URLSearchParams {
	return new URLSearchParams(Object.entries(writeChange(change)).flatMap(([k, v]) => (v === null ? [] : [[k, v]])));
}

describe("a view of the grid in its address", () => {
	it("comes back as it was, whatever its words hold", () => {
		const view = readView(new URLSearchParams());
		const change: ViewChange = {
			text: "plate, cold ~ rolled",
			facets: { ...view.facets, group: ["Bar, drawn", "A~B"], ready: ["mass", "modal"], supplier: ["Tolvane & Sons"] },
			starred: true,
			reviewPassed: true,
			where: [{ property: "density", low: 2600, high: null }],
			strips: [
				{ id: "density", log: true },
				{ id: "own:x", log: null },
			],
			sort: "density",
			dir: "desc",
			columns: [
				{ id: "density", unit: "lb/in^3", width: 140 },
				{ id: "youngs_modulus", unit: null, width: 80 },
				{ id: "own:x", unit: null, width: null },
			],
			row: "m1",
			create: null,
			editing: true,
		};
		expect(readView(new URLSearchParams(written(change).toString()))).toEqual({ ...view, ...change });
	});

	it("leaves out what is as on a first visit, and keeps an empty choice of columns", () => {
		expect(written(UNFILTERED).toString()).toBe("");
		expect(isFiltered(readView(written(UNFILTERED)))).toBe(false);
		expect(readView(written({ columns: [], strips: [] }))).toMatchObject({ columns: [], strips: [] });
		expect(readView(new URLSearchParams()).columns.length).toBeGreaterThan(0);
	});

	it("passes over columns and strips that it does not know, and widths that make no sense", () => {
		const view = readView(new URLSearchParams("columns=density@@9,nonsense,youngs_modulus@GPa&strips=nonsense"));
		expect(view.columns).toEqual([
			{ id: "density", unit: null, width: null },
			{ id: "youngs_modulus", unit: "GPa", width: null },
		]);
		expect(view.strips).toEqual([]);
	});

	it("asks the server for what is chosen only", () => {
		const view = readView(new URLSearchParams("ready=mass,modal&where=density:1..2"));
		expect(narrowingOf(view)).toEqual({ ready: "mass,modal", where: "density:1..2", retired: "hide", sort: "group", dir: "asc" });
	});
});

describe("what Back takes back", () => {
	const before = { text: "" };
	it("is a filter or an order, and the beginning and end of a text; not its letters, nor what is looked at", () => {
		expect(isStep(before, { facets: readView(new URLSearchParams()).facets })).toBe(true);
		expect(isStep(before, { sort: "name" })).toBe(true);
		expect(isStep(before, { where: [] })).toBe(true);
		expect(isStep(before, { text: "b" })).toBe(true);
		expect(isStep({ text: "b" }, { text: "br" })).toBe(false);
		expect(isStep({ text: "br" }, { text: "" })).toBe(true);
		expect(isStep(before, { row: "m1" })).toBe(false);
		expect(isStep(before, { columns: [] })).toBe(false);
	});
});
