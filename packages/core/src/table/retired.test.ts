import { describe, expect, it } from "vitest";
import { MaterialTable, type TableQuery } from "./index";
import { ASK, row, VIEWER } from "./testing";

it("a file that a row holds is found by its name", () => {
	const table = new MaterialTable();
	table.put(row("a", { name: "Plate" }, { files: "Heat 4471.pdf\nsecond plate" }));
	table.put(row("b", { name: "Bar" }));
	const found = (text: string) => table.search(text, 9, VIEWER).map((f) => table.idOf(f.row));
	expect([found("heat 4471"), found("bar"), found("second")]).toEqual([["a"], ["b"], ["a"]]);
});

describe("what is retired", () => {
	const table = new MaterialTable();
	for (const [id, marks] of [
		["a", []],
		["b", ["retired"]],
		["c", ["working"]],
		["d", ["working", "retired"]],
	] as const)
		table.put(row(id, { marks, group: id === "d" ? "Metals" : "" }));
	const found = (query: Partial<TableQuery>) => {
		const answer = table.find({ ...ASK, inUse: true, ...query }, VIEWER);
		expect(answer.all).toBe(query.facets?.marks?.includes("retired") === true ? 4 : 2);
		return { ids: [...answer.hits].map((r) => table.idOf(r)).sort(), retired: answer.counts.marks?.get("retired") ?? 0 };
	};

	it("is left out where only what is in use is wanted, and counted among the marks all the same", () => {
		expect(found({})).toEqual({ ids: ["a", "c"], retired: 2 });
		expect(found({ text: "d" })).toEqual({ ids: [], retired: 1 });
		expect(found({ facets: { marks: ["working"] } })).toEqual({ ids: ["c"], retired: 1 });
		expect(found({ facets: { group: ["Metals"] } })).toEqual({ ids: [], retired: 1 });
	});

	it("is shown where the marks ask for it", () => {
		expect(found({ facets: { marks: ["retired"] } })).toEqual({ ids: ["b", "d"], retired: 2 });
		expect([...table.find(ASK, VIEWER).hits]).toHaveLength(4);
	});
});
