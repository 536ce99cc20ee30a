import { axisById } from "../property";
import { parseQuantity } from "../quantity";
import { cellsOf } from "./cells";
import { readLoss, readXy } from "./curves";
import { bareUnit, type Column, type Head, unitRow } from "./heads";
import { proposals } from "./propose";
import { readAt } from "./roles";
import {
	type CellRead,
	type ColumnRead,
	claimCell,
	claimTold,
	pushTable,
	type ReadValue,
	type Row,
	readCell,
	rowOf,
	under,
} from "./row";
import type { Line, PageState } from "./state";

/** `Temperature, °C | 20 | 200 | …`: each row is a property over it; under a loss in the heading, a family of curves. */
export function readOverColumns(state: PageState, head: Head, rows: readonly Line[]): boolean {
	const other = head.columns.slice(1).find((c) => c.role === "at")?.axis;
	const first = head.columns[0] as Column;
	if (first.axis === "flux_density" && other === "frequency") return readLoss(state, head, rows);
	if (other !== first.axis) return false;
	let found = false;
	for (const line of rows) {
		const row = rowOf({ ...head, columns: head.columns.map((c, i) => (i === 0 ? { ...c, role: "label" as const } : c)) }, line);
		if (row === null) continue;
		const reads = head.columns.map(
			(_, i): CellRead =>
				i === 0
					? { is: "blank" }
					: readCell({ line, cell: row.cells[i] ?? null }, row.label, {
							mark: state.mark,
							...(row.unit === undefined ? {} : { unit: row.unit }),
						}),
		);
		if (!readAt(state, head, row, reads)) continue;
		claimTold(state, row);
		found = true;
	}
	return found;
}

const HEAT_WORD = /^[\p{L}]*\d[\p{L}\d/-]*$|^\d{1,6}$/u;

/** Properties over the columns: over an axis down the rows, as readings by heat and test, or for one grade a row. */
export function readPropertyColumns(state: PageState, head: Head, rows: readonly Line[]): boolean {
	const units = rows[0] === undefined ? null : unitRow(rows[0]);
	const body = units === null ? rows : rows.slice(1);
	const unitsUnder = units === null || rows[0] === undefined ? null : under(head, rows[0]);
	if (units !== null) state.headings.add((rows[0] as Line).no);
	const first = head.columns[0] as Column;
	if (head.columns.length === 2 && head.columns.every((c) => c.role === "axis")) return readXy(state, head, body);
	const isThread = body.length > 0 && body.every((l) => /^M\d+(?:[.,]\d+)?(?:\s*[x×]|$)/.test(cellsOf(l.text)[0]?.text ?? ""));
	const axis = isThread ? "diameter" : first.role === "axis" ? (first.axis as string) : null;
	const stated = unitsUnder?.[0] == null ? undefined : bareUnit(unitsUnder[0].text);
	const axisUnit: Column = first.unit === undefined && stated !== undefined && stated !== "" ? { ...first, unit: stated } : first;
	const ids = head.columns.flatMap((c, i) => (c.role === "id" ? [i] : []));
	let found = false;
	for (const [i, column] of head.columns.entries()) {
		if (column.role !== "property" || column.label === undefined) continue;
		const label = column.label;
		const unit = unitsUnder?.[i] == null ? column.unit : bareUnit(unitsUnder[i].text);
		const reads = body.map((line) => {
			const cells = under(head, line);
			return {
				line,
				cells,
				read: readCell({ line, cell: cells[i] ?? null }, label, {
					mark: state.mark,
					...(unit === undefined || unit === "" ? {} : { unit }),
				}),
			};
		});
		const row: Row = { line: body[0] as Line, label, conditions: label.conditions, unit, cells: [] };
		if (axis !== null) found = readDown(state, row, { first: axisUnit, axis, isThread }, reads) || found;
		else if (ids.length > 0) found = readReadings(state, row, ids, reads) || found;
		else {
			const graded = first.role !== "property";
			for (const { line, cells, read } of reads) {
				if (read.is !== "value") continue;
				const grade = graded && body.length > 1 ? cells[0]?.text : undefined;
				if (grade !== undefined && !state.grades.includes(grade)) state.grades.push(grade);
				state.taken.push(
					...proposals(label, read.value, {
						line: line.no,
						conditions: label.conditions,
						confidence: label.confidence * 0.95,
						...(grade === undefined ? {} : { grade }),
						...(label.ask === undefined ? {} : { question: label.ask }),
					}),
				);
				claimCell(state, line, read);
				found = true;
			}
		}
	}
	return found;
}

/** One property down the rows of an axis. */
function readDown(
	state: PageState,
	row: Row,
	{ first, axis, isThread }: { readonly first: Column; readonly axis: string; readonly isThread: boolean },
	reads: readonly ColumnRead[],
): boolean {
	const spec = axisById(axis);
	if (spec === undefined) return false;
	const at: { column: Column; read: ReadValue; line: Line }[] = [];
	let spans = false;
	for (const { line, cells, read } of reads) {
		const cell = cells[0];
		if (cell == null || read.is !== "value") continue;
		const alone = isThread ? /^M(\d+(?:[.,]\d+)?)/.exec(cell.text) : ALONE.exec(cell.text);
		const unit = isThread ? "mm" : (alone?.[2] ?? first.unit);
		const quantity =
			alone === null || unit === undefined
				? null
				: parseQuantity(`${alone[1]} ${unit}`, spec, { decimalMark: state.mark ?? "." });
		if (quantity?.ok === true && quantity.value.low !== null) {
			const text = `${alone?.[1]} ${unit}`;
			at.push({ column: { ...first, axis, at: { text, si: quantity.value.low } }, read, line });
		} else if (/\d/.test(cell.text)) {
			// `> 16 ≤ 40`: a span of the axis is a condition, and each row a value of its own
			const where = `${spec.name.toLowerCase()} ${cell.text}${unit === undefined || cell.text.includes(unit) ? "" : ` ${unit}`}`;
			state.taken.push(
				...proposals(row.label, read.value, {
					line: line.no,
					conditions: [...row.conditions, where],
					confidence: row.label.confidence * 0.95,
				}),
			);
			claimCell(state, line, read);
			spans = true;
		} else continue;
		state.claim(line.no, cell.from, cell.to, "axis");
	}
	return pushTable(state, row, at) || spans;
}

/** A number alone in a cell, with its unit and perhaps the same in another unit: `70`, `20 °C`, `70 (21)`. */
const ALONE = /^([-−+]?\d[\d.,]*)\s*(°\s?[CF]|K|mm|in|[kM]?Hz)?\s*(?:\([^()]*\))?$/;

/** Readings by heat and test: all are kept, with what stands in the columns of names. */
function readReadings(state: PageState, row: Row, ids: readonly number[], reads: readonly ColumnRead[]): boolean {
	const values = reads.flatMap(({ line, cells, read }) => {
		const label = ids
			.map((i) => cells[i]?.text ?? "")
			.filter((t) => t !== "")
			.join(" ");
		if (
			read.is !== "value" ||
			read.value.quantity.low === null ||
			read.value.quantity.low !== read.value.quantity.high ||
			!HEAT_WORD.test(cells[ids[0] as number]?.text ?? "")
		)
			return [];
		return [{ line, cells, read, label, si: read.value.quantity.low }];
	});
	const first = values[0];
	if (first === undefined) return false;
	const q = first.read.value.quantity;
	const [low, high] = [Math.min(...values.map((v) => v.si)), Math.max(...values.map((v) => v.si))];
	const digits = values.map((v) => v.read.value.quantity.digits[0] ?? "");
	const text = values.length === 1 ? q.entered : `${digits.join("; ")}${q.unit === "1" ? "" : ` ${q.unit}`}`;
	const about = {
		line: first.line.no,
		conditions: row.label.conditions,
		confidence: row.label.confidence * 0.95,
		...(row.label.ask === undefined ? {} : { question: row.label.ask }),
	};
	const made = proposals(
		row.label,
		{ ...first.read.value, quantity: { ...q, low, high, shape: low === high ? "scalar" : "range", entered: text } },
		about,
	);
	state.taken.push(...made.map((t) => ({ ...t, readings: values.map((v) => ({ si: v.si, label: v.label, line: v.line.no })) })));
	for (const v of values) {
		claimCell(state, v.line, v.read);
		for (const i of ids) {
			const cell = v.cells[i];
			if (cell != null) state.claim(v.line.no, cell.from, cell.to, "name");
		}
	}
	return true;
}
