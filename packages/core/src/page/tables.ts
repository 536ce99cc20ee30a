import { type Cell, cellsOf, isMarked } from "./cells";
import { readOverColumns, readPropertyColumns } from "./columns";
import { readAnalysis, readConstituents } from "./composition";
import { type Head, headOf, unitRow } from "./heads";
import { readLabel } from "./label";
import { readRoleRows } from "./roles";
import { type Line, marksIn, type PageState } from "./state";

const MOST_ROWS = 400;

/**
 * Reads the table that begins at a line, if one does.
 * @returns the number of lines that belong to it; 0 for none
 */
export function readTable(state: PageState, no: number): number {
	const head = headOf(state.line(no));
	if (head === null) return 0;
	const rows = rowsUnder(state, no, head);
	if (rows.length === 0 || (head.weak === true && !isLabelledRow(rows[0] as Line, head.columns.length))) return 0;
	const read =
		head.kind === "elements"
			? readAnalysis(state, head, rows)
			: head.kind === "composition"
				? readConstituents(state, head, rows)
				: head.kind === "axis"
					? readOverColumns(state, head, rows)
					: head.kind === "columns"
						? readPropertyColumns(state, head, rows)
						: readRoleRows(state, head, rows);
	if (!read) return 0;
	state.headings.add(no);
	// names and numbers of the head itself: temperatures are axes, the rest are names
	for (const c of head.columns) state.claim(no, c.cell.from, c.cell.to, c.role === "at" || c.role === "axis" ? "axis" : "name");
	const last = rows.at(-1) as Line;
	return last.no - no + 1;
}

/** The lines under a head that have its layout; a new head, a blank line or another layout ends it. */
function rowsUnder(state: PageState, no: number, head: Head): readonly Line[] {
	const rows: Line[] = [];
	const marked = isMarked(head.line.text);
	for (let at = no + 1; at <= state.lines.length && rows.length < MOST_ROWS; at++) {
		const line = state.line(at);
		if (line.text.trim() === "" || isMarked(line.text) !== marked) break;
		const cells = cellsOf(line.text);
		if (cells.length < 2 || (marked && cells.length > head.columns.length + 2)) break;
		if (rows.length > 0 && headOf(line) !== null) break;
		if (rows.length === 0 && headOf(line) !== null && unitRow(line) === null && !/\d/.test(line.text)) break;
		rows.push(line);
	}
	return rows;
}

/** A label and as many numbers as there are columns. */
function isLabelledRow(line: Line, count: number): boolean {
	const [first, ...numbers] = cellsOf(line.text);
	if (first === undefined || numbers.length !== count) return false;
	const isNumber = (c: Cell): boolean => line.expressions.some((e) => e.from >= c.from && e.to <= c.to);
	return numbers.every(isNumber) && (readLabel(first.text, marksIn(line, first.from, first.to))?.properties.length ?? 0) > 0;
}
