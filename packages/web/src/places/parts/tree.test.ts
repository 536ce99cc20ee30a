import type { PartView, ProjectView } from "@alvek/contract";
import { describe, expect, it } from "vitest";
import { occurrenceNames, treeRows } from "./tree";

const part = (id: string, mass: number | null): PartView =>
	({ id, mass_kg: mass === null ? null : { mass, low: mass, high: mass } }) as PartView;
const at = (id: string, parentId: string | null, partId: string | null) => ({
	id,
	parentId,
	partId,
	name: id,
	path: id,
	matrix: [],
});

describe("the tree of an assembly", () => {
	const project = {
		parts: [part("bolt", 2), part("housing", null)],
		occurrences: [
			at("root", null, null),
			at("set:1", "root", null),
			at("b1", "set:1", "bolt"),
			at("h", "set:1", "housing"),
			at("b2", "root", "bolt"),
		],
	} as unknown as ProjectView;

	it("adds up what lies below, and says how much of it has a mass", () => {
		const rows = treeRows(project, new Set());
		expect(rows.map((r) => [r.occurrence.id, r.depth, r.mass_kg, `${r.piecesWithMass}/${r.pieces}`])).toEqual([
			["root", 0, 4, "2/3"],
			["set:1", 1, 2, "1/2"],
			["b1", 2, 2, "1/1"],
			["h", 2, null, "0/1"],
			["b2", 1, 2, "1/1"],
		]);
		expect(rows[0]?.parts).toEqual(["bolt", "housing"]);
	});

	it("hides what is below a closed row, without changing its sum", () => {
		const rows = treeRows(project, new Set(["set:1"]));
		expect(rows.map((r) => r.occurrence.id)).toEqual(["root", "set:1", "b2"]);
		expect(rows[1]?.mass_kg).toBe(2);
	});
});

describe("names of occurrences", () => {
	const occurrence = (id: string, partId: string | null, name: string) => ({
		id,
		partId,
		name,
		parentId: null,
		path: name,
		matrix: [],
	});
	it("count what only bears its part's name, with or without a number; a name of its own stays", () => {
		const names = occurrenceNames({
			parts: [{ id: "t", name: "Tube" }] as never,
			occurrences: [
				occurrence("a", "t", "Tube:1"),
				occurrence("b", "t", "Tube:2"),
				occurrence("c", "t", "Left tube"),
				occurrence("d", "t", "Tube"),
				occurrence("e", null, "Frame:1"),
				occurrence("f", null, "Bolt M6"),
			],
		});
		expect([...names.values()]).toEqual(["Tube 1 of 3", "Tube 2 of 3", "Left tube", "Tube 3 of 3", "Frame", "Bolt M6"]);
	});
});
