import type { MaterialRow } from "@alvek/contract";
import { applyEdits, type CellBlock, firstValue, readCells } from "@alvek/core/material";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { columnOf, libraryWith, rowWith } from "../testing";
import { boxOf, type CellPlan, type CellWorld, copiedText, filledBlock, oneCell, planBlock, planFill, spread } from "./plan";

const DENSITY = columnOf("density", "g/cm^3");
const YOUNG = columnOf("youngs_modulus", "GPa");
const WORLD: CellWorld = {
	columns: [DENSITY, YOUNG],
	libraries: [libraryWith("own", true), libraryWith("supplied", false)],
};
const block = (cells: readonly (readonly string[])[]): CellBlock => ({ cells, units: [], mark: undefined });
const START = { row: 0, col: 0 };

/** SI numbers of the first value of a property after a plan, by row; null where there is none. */
function numbers({ changes }: CellPlan, property: string): readonly (number | null)[] {
	return changes.map(({ row, edits }) => {
		const applied = applyEdits(row.document, edits);
		if (!applied.ok) throw new Error(JSON.stringify(applied.issues));
		return firstValue(applied.value.material, property)?.low ?? null;
	});
}

describe("a block on cells", () => {
	const rows = [rowWith("a", { density: "2.7 g/cm3" }), rowWith("b", {})];

	it("becomes edits in the units of the columns, from the place on", () => {
		const plan = planBlock(
			WORLD,
			rows,
			block([
				["7.85", "210"],
				["2.7", "70"],
			]),
			START,
		);
		expect([numbers(plan, "density"), numbers(plan, "youngs_modulus"), plan.refused]).toEqual([[7850, 2700], [210e9, 70e9], []]);
		const second = planBlock(WORLD, rows, block([["210"], ["70"]]), { row: 0, col: 1 });
		expect([numbers(second, "density"), numbers(second, "youngs_modulus")]).toEqual([
			[2700, null],
			[210e9, 70e9],
		]);
	});

	it("changes nothing of a row that may not be edited, and names each of its cells", () => {
		const locked = rowWith("c", {}, "supplied");
		const plan = planBlock(
			WORLD,
			[locked, rows[1] as MaterialRow],
			block([
				["7.85", "210"],
				["2.7", ""],
			]),
			START,
		);
		expect(plan.changes.map((c) => c.edits.length)).toEqual([0, 1]);
		expect(plan.refused.map(({ material, column, text }) => [material, column, text])).toEqual([
			["Material c", DENSITY.spec.name, "7.85"],
			["Material c", YOUNG.spec.name, "210"],
		]);
		expect(plan.refused[0]?.why).toContain("read-only");
	});

	it("names cells that cannot be read and cells beyond the grid, and takes the rest", () => {
		const plan = planBlock(WORLD, rows, block([["soft", "210", "1"], ["2.7"], ["3"]]), START);
		expect([numbers(plan, "density"), numbers(plan, "youngs_modulus")]).toEqual([
			[2700, 2700],
			[210e9, null],
		]);
		expect(plan.refused.map(({ material, column, text }) => [material, column, text])).toEqual([
			["Material a", DENSITY.spec.name, "soft"],
			["Material a", "no column", "1"],
			["row 3", "", "3"],
		]);
	});

	it("an own property is read by its library's definition", () => {
		const uid = "0199";
		const own = {
			uid,
			name: "Wear",
			symbol: "w",
			siUnit: "m^2",
			unit: "mm^2",
			low: 0,
			high: null,
			explanation: "",
		} as never;
		const world: CellWorld = {
			columns: [{ ...DENSITY, id: `own:${uid}`, unit: "mm^2" }],
			libraries: [libraryWith("own", true, { ownProperties: [own] })],
		};
		const plan = planBlock(world, rows, block([["3"]]), START);
		expect([numbers(plan, `own:${uid}`)[0], plan.refused]).toEqual([expect.closeTo(3e-6, 18), []]);
		expect(planBlock({ ...world, libraries: WORLD.libraries }, rows, block([["3"]]), START).refused).toHaveLength(1);
	});
});

describe("filling down", () => {
	it("puts the first row's numbers into those below as they were typed, and empties where it has none", () => {
		const rows = [rowWith("a", { density: "2.70 g/cm3" }), rowWith("b", { density: "1 g/cm3", youngs_modulus: "5 GPa" })];
		const plan = planFill(WORLD, rows, { top: 0, bottom: 1, left: 0, right: 1 });
		expect([numbers(plan, "density"), numbers(plan, "youngs_modulus"), plan.refused]).toEqual([[2700], [null], []]);
		const [change] = plan.changes;
		expect(change?.edits.map((e) => (e.to as { entered?: string } | null)?.entered ?? null)).toEqual(["2.70 g/cm3", null]);
		expect(planFill(WORLD, rows, { top: 0, bottom: 1, left: 1, right: 1 }).changes[0]?.edits.map((e) => e.at)).toEqual([
			"youngs_modulus",
		]);
	});

	it("leaves rows that may not be edited, and says so", () => {
		const rows = [rowWith("a", { density: "2.7 g/cm3" }), rowWith("b", {}, "supplied")];
		const plan = planFill(WORLD, rows, { top: 0, bottom: 1, left: 0, right: 0 });
		expect(plan.changes[0]?.edits).toEqual([]);
		expect(plan.refused).toMatchObject([{ material: "Material b", text: "2.7 g/cm3" }]);
	});
});

describe("what is chosen", () => {
	it("is the box between two cells, inside the grid", () => {
		expect(boxOf({ row: 4, col: 0 }, { row: 1, col: 2 }, 10, 2)).toEqual({ top: 1, bottom: 4, left: 0, right: 1 });
		expect(boxOf({ row: 4, col: 0 }, { row: 1, col: 0 }, 3, 2)).toMatchObject({ top: 1, bottom: 2 });
		expect(boxOf(START, START, 0, 1)).toMatchObject({ top: 0, bottom: 0 });
		expect(filledBlock({ top: 1, bottom: 3, left: 0, right: 1 }, oneCell("")).cells).toEqual([
			["", ""],
			["", ""],
			["", ""],
		]);
	});

	it("copied and laid on other rows gives the same numbers, on the same ones changes nothing", () => {
		const number = fc.double({ min: 1e-3, max: 3e4, noNaN: true }).map((x) => `${x} kg/m3`);
		fc.assert(
			fc.property(fc.array(number, { minLength: 1, maxLength: 6 }), (texts) => {
				const rows = texts.map((density, i) => rowWith(`r${i}`, { density }));
				const read = readCells(copiedText(rows, WORLD.columns));
				if (!read.ok) throw new Error(JSON.stringify(read.issues));
				const same = planBlock(WORLD, rows, read.value, START);
				expect([same.changes.flatMap((c) => c.edits), same.refused]).toEqual([[], []]);
				const others = rows.map((_, i) => rowWith(`s${i}`, {}));
				expect(numbers(planBlock(WORLD, others, read.value, START), "density")).toEqual(
					rows.map((r) => firstValue(r.document, "density")?.low),
				);
			}),
		);
	});

	it("is filled by one copied cell, row or column; a block stays as it is", () => {
		expect(spread(block([["1"]]), 2, 3).cells).toEqual([
			["1", "1", "1"],
			["1", "1", "1"],
		]);
		expect(spread(block([["1", "2"]]), 2, 3).cells).toEqual([
			["1", "2"],
			["1", "2"],
		]);
		expect(spread(block([["1"], ["2"]]), 1, 2).cells).toEqual([
			["1", "1"],
			["2", "2"],
		]);
		expect(
			spread(
				block([
					["1", "2"],
					["3", "4"],
				]),
				5,
				5,
			).cells,
		).toEqual([
			["1", "2"],
			["3", "4"],
		]);
		expect(spread(block([]), 2, 2).cells).toEqual([]);
	});
});
