import type { LibraryView, MaterialRow } from "@alvek/contract";
import {
	blockEdits,
	type Cell,
	type CellBlock,
	cellEdit,
	cellText,
	type Edit,
	fillEdit,
	firstValue,
	type Material,
} from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import { describeIssue, type Issue } from "@alvek/core/result";
import type { GridColumn } from "../numbers";

export type CellPlace = { readonly row: number; readonly col: number };
/** Rows and columns from the first to the last, both included. */
export type CellBox = { readonly top: number; readonly bottom: number; readonly left: number; readonly right: number };
/** A cell that was not taken, with what a person needs to find it again. */
export type Refusal = { readonly material: string; readonly column: string; readonly text: string; readonly why: string };
export type RowChange = { readonly row: MaterialRow; readonly edits: readonly Edit[] };
/** What cells become: edits of rows, and the cells that were not taken with their reasons. */
export type CellPlan = { readonly changes: readonly RowChange[]; readonly refused: readonly Refusal[] };

/** What cells stand in: the columns of the grid, and the libraries of its rows. */
export type CellWorld = { readonly columns: readonly GridColumn[]; readonly libraries: readonly LibraryView[] };

const READ_ONLY: readonly Issue[] = [{ code: "read-only" }];

/** The box between the cell of the cursor and the cell where choosing began, inside the grid. */
export function boxOf(cursor: CellPlace, anchor: CellPlace, rows: number, columns: number): CellBox {
	return {
		top: Math.min(cursor.row, anchor.row),
		bottom: Math.min(Math.max(cursor.row, anchor.row), Math.max(rows - 1, 0)),
		left: Math.min(cursor.col, anchor.col),
		right: Math.min(Math.max(cursor.col, anchor.col), columns - 1),
	};
}

export function mayEditRow({ libraries }: CellWorld, row: MaterialRow): boolean {
	return libraries.find((l) => l.id === row.libraryId)?.mayEdit === true;
}

/** The cell of a column as the reader of numbers wants it. */
export function cellOf({ libraries }: CellWorld, column: GridColumn): Cell {
	const own = libraries.flatMap((l) => l.ownProperties).find((p: OwnProperty) => `own:${p.uid}` === column.id);
	return { property: column.id, unit: column.unit, ...(own === undefined ? {} : { own }) };
}

function refusalOf(
	{ columns }: CellWorld,
	row: MaterialRow,
	col: number,
	{ text, issues }: { readonly text: string; readonly issues: readonly Issue[] },
): Refusal {
	return {
		material: row.name,
		column: columns[col]?.spec.name ?? "no column",
		text,
		why: issues.map(describeIssue).join(" "),
	};
}

/** A block laid on the cells from a place on; `rows` are those from that place on. What may not be edited is refused by cell. */
export function planBlock(world: CellWorld, rows: readonly MaterialRow[], block: CellBlock, at: CellPlace): CellPlan {
	const { columns } = world;
	const { edits, refused } = blockEdits(
		rows.map((r) => r.document),
		columns.slice(at.col).map((column) => cellOf(world, column)),
		block,
	);
	const changes = rows.map((row, i): RowChange => ({ row, edits: mayEditRow(world, row) ? (edits[i] ?? []) : [] }));
	const locked = rows.flatMap((row, i) =>
		mayEditRow(world, row)
			? []
			: (edits[i] ?? []).map((edit) => {
					const col = columns.findIndex((c) => edit.at === c.id || edit.at.startsWith(`${c.id}~`));
					return refusalOf(world, row, col, { text: block.cells[i]?.[col - at.col] ?? "", issues: READ_ONLY });
				}),
	);
	const others = refused.map((r): Refusal => {
		const row = rows[r.row];
		if (row !== undefined) return refusalOf(world, row, at.col + r.column, { text: r.text, issues: r.issues });
		return { material: `row ${at.row + r.row + 1}`, column: "", text: r.text, why: r.issues.map(describeIssue).join(" ") };
	});
	return { changes, refused: [...locked, ...others] };
}

/** The first of the rows in those below it, for the columns of the box; an empty cell empties. */
export function planFill(world: CellWorld, rows: readonly MaterialRow[], { left, right }: CellBox): CellPlan {
	const [first, ...others] = rows;
	const refused: Refusal[] = [];
	const changes = others.map((row): RowChange => {
		const edits = world.columns.slice(left, right + 1).flatMap((column, i): Edit[] => {
			const from = firstValue((first as MaterialRow).document, column.id);
			const cell = cellOf(world, column);
			const made = from === null ? cellEdit(row.document, cell, "") : fillEdit(row.document, cell, from);
			const issues = !mayEditRow(world, row) ? READ_ONLY : made.ok ? [] : made.issues;
			if (issues.length > 0) refused.push(refusalOf(world, row, left + i, { text: from?.entered ?? "", issues }));
			return made.ok && made.value !== null && issues.length === 0 ? [made.value] : [];
		});
		return { row, edits };
	});
	return { changes, refused };
}

/** Plans of several blocks as one; of a cell that stands in two of them the first one counts. */
export function together(plans: readonly CellPlan[]): CellPlan {
	const changes = new Map<string, RowChange>();
	for (const { row, edits } of plans.flatMap((p) => p.changes)) {
		const before = changes.get(row.id)?.edits ?? [];
		changes.set(row.id, { row, edits: [...before, ...edits.filter((e) => !before.some((b) => b.at === e.at))] });
	}
	return { changes: [...changes.values()], refused: plans.flatMap((p) => p.refused) };
}

/** One cell as a block, in the unit of its column. */
export const oneCell = (text: string): CellBlock => ({ cells: [[text]], units: [], mark: undefined });

/** As many cells as a box has, all like the first one of the block, with its unit and decimal mark; "" empties. */
export function filledBlock({ top, bottom, left, right }: CellBox, { cells, units, mark }: CellBlock): CellBlock {
	const [text = ""] = cells[0] ?? [];
	const [unit] = units;
	const width = right - left + 1;
	const line = Array.from({ length: width }, () => text);
	return {
		cells: Array.from({ length: bottom - top + 1 }, () => line),
		units: unit === undefined ? [] : Array.from({ length: width }, () => unit),
		mark,
	};
}

/** The number of a column as text for a spreadsheet; "" for none. */
export function cellTextIn(document: Material, column: GridColumn): string {
	const value = firstValue(document, column.id);
	return value === null ? "" : cellText(value, column.unit);
}

/** Cells as text for a spreadsheet, names and units in a first row. */
export function copiedText(rows: readonly MaterialRow[], columns: readonly GridColumn[]): string {
	const head = columns.map((c) => `${c.spec.name} [${c.unit}]`);
	const body = rows.map((row) => columns.map((c) => cellTextIn(row.document, c)));
	return [head, ...body].map((line) => line.join("\t")).join("\r\n");
}

/** One copied cell fills everything that is chosen; one copied row or column fills as many as are. */
export function spread(block: CellBlock, rows: number, columns: number): CellBlock {
	const [first] = block.cells;
	if (first === undefined) return block;
	const width = first.length;
	const tall = block.cells.length === 1 && rows > 1 ? Array.from({ length: rows }, () => first) : block.cells;
	if (width > 1 || columns <= 1) return { ...block, cells: tall };
	return { ...block, cells: tall.map((line) => Array.from({ length: columns }, () => line[0] ?? "")) };
}
