import { type axisById, property } from "../property";
import { parseQuantity, sameWithinRounding } from "../quantity";
import { type Cell, cellsOf, isBlankCell, isMarked } from "./cells";
import { catalogueId, evaluate, questionOf, type Reading, type Value } from "./evaluate";
import type { Expression } from "./expression";
import type { Column, Head, Role } from "./heads";
import { isUnit, type Label, readLabel } from "./label";
import { mayBeNegative, signChoices, slipQuestion } from "./oneline-groups";
import { proposals } from "./propose";
import { type Line, marksIn, type PageState } from "./state";
import type { TakenTable } from "./types";

/** Cells of a row under the columns of a head: by their place where a mark parts them or the counts agree, else by overlap. */
export function under(head: Head, line: Line): (Cell | null)[] {
	const cells = cellsOf(line.text);
	const columns = head.columns;
	if (isMarked(line.text)) return columns.map((_, i) => cells[i] ?? null);
	if (cells.length === columns.length && columns[0]?.role !== "unit" && columns[0]?.role !== "min") return cells.map((c) => c);
	// a head without a cell over the labels, whose blanks do not line up
	const labelled = columns.some((c) => c.role === "label" || c.role === "axis" || c.role === "unit");
	if (!labelled && cells.length === columns.length + 1) return cells.slice(1);
	const found: (Cell | null)[] = columns.map(() => null);
	for (const cell of cells) {
		const overlaps = columns.map((c) => Math.min(c.cell.to, cell.to) - Math.max(c.cell.from, cell.from));
		const best = overlaps.indexOf(Math.max(...overlaps));
		// what stands left of all columns is the label of the row
		if ((overlaps[best] as number) > 0 && found[best] === null) found[best] = cell;
		else if ((overlaps[best] as number) > 0 || cell.from > (columns[0]?.cell.from ?? 0)) {
			const near = columns.map((c, i) =>
				found[i] === null && c.cell.from > 0
					? Math.abs((c.cell.from + c.cell.to) / 2 - (cell.from + cell.to) / 2)
					: Number.POSITIVE_INFINITY,
			);
			const at = near.indexOf(Math.min(...near));
			if ((near[at] as number) < 8) found[at] = cell;
		}
	}
	return found;
}

/** The label of a row: its label cell, or all that stands left of the first column that has another role. */
function labelCell(head: Head, line: Line, cells: readonly (Cell | null)[]): Cell | null {
	const index = head.columns.findIndex((c) => c.role === "label" || c.role === "axis");
	if (index >= 0 && cells[index] !== null && cells[index] !== undefined) return cells[index];
	const all = cellsOf(line.text);
	const first = all[0];
	if (first === undefined || cells.includes(first)) return null;
	const last =
		all.filter((c) => !cells.includes(c)).findLast((c) => c.from < (cells.find((x) => x !== null)?.from ?? 0)) ?? first;
	return { text: line.text.slice(first.from, last.to), from: first.from, to: last.to };
}

export type CellRead =
	| {
			readonly is: "value";
			readonly e: Expression;
			readonly value: Value;
			readonly double: Expression | null;
			readonly conditions: readonly string[];
	  }
	| {
			readonly is: "asked";
			readonly e: Expression;
			readonly question: string;
			readonly choices: readonly { property: string; text: string }[];
	  }
	| { readonly is: "pair"; readonly e: Expression }
	| { readonly is: "blank" }
	| { readonly is: "unread" };

/** A cell as a value of a label. A number that is only a part of what the cell says (`0.5 × t`) is none. */
export function readCell(
	{ line, cell }: { readonly line: Line; readonly cell: Cell | null },
	label: Label,
	reading: Reading,
	limitHere = true,
): CellRead {
	if (cell === null || isBlankCell(cell.text)) return { is: "blank" };
	const inside = line.expressions.filter((e) => e.from >= cell.from && e.to <= cell.to);
	const e = inside[0];
	if (e === undefined) return { is: "unread" };
	const rest = line.text.slice(e.to, cell.to).trim();
	if (e.unit === "" && /^[×x*·]?\s*\p{L}/u.test(rest)) return { is: "unread" };
	if (e.pair !== undefined) return { is: "pair", e };
	const value = evaluate(label, e, reading, limitHere);
	const id = value.ok ? value.value.property : catalogueId(label.properties[0] as string);
	if (e.repaired !== undefined || e.choices !== undefined) {
		const choices = (e.choices ?? [value.ok ? value.value.text : (e.repaired as string)]).map((text) => ({ property: id, text }));
		return {
			is: "asked",
			e,
			question: e.repaired === undefined ? "two readings of one number" : slipQuestion(e),
			choices,
		};
	}
	if (value.ok && e.dash === true && mayBeNegative(id))
		return { is: "asked", e, question: "a minus, or a dash?", choices: signChoices(e).map((text) => ({ property: id, text })) };
	if (!value.ok) {
		const asked = questionOf(label, e, value.issues[0], reading);
		return asked === null ? { is: "unread" } : { is: "asked", e, question: asked.question, choices: asked.choices };
	}
	const second = inside[1];
	if (second === undefined) return { is: "value", e, value: value.value, double: null, conditions: [] };
	const other = evaluate(label, second, reading, limitHere);
	if (other.ok && second.unit !== "" && /^\s*\(\s*$/.test(line.text.slice(e.to, second.from))) {
		if (sameWithinRounding(value.value.quantity, other.value.quantity))
			return { is: "value", e, value: value.value, double: second, conditions: [] };
		return {
			is: "asked",
			e,
			question: "the two units disagree by more than rounding",
			choices: [e, second].map((x) => ({ property: id, text: x.text })),
		};
	}
	return { is: "value", e, value: value.value, double: null, conditions: other.ok ? [] : [second.text] };
}

export function claimCell(state: PageState, line: Line, read: CellRead): void {
	if (read.is !== "value" && read.is !== "asked") return;
	state.claim(line.no, read.e.from, read.e.to, read.is === "value" ? "value" : "asked");
	if (read.is === "value" && read.double !== null) state.claim(line.no, read.double.from, read.double.to, "value");
}

export type Row = {
	readonly line: Line;
	readonly label: Label;
	readonly conditions: readonly string[];
	readonly unit: string | undefined;
	readonly cells: readonly (Cell | null)[];
	/** Spans that say where the value holds; claimed once the row is taken. */
	readonly told?: readonly { readonly from: number; readonly to: number }[];
};

/** What a row is about: its label with conditions in it, in a condition column, and the unit from wherever it stands. */
export function rowOf(head: Head, line: Line): Row | null {
	const cells = under(head, line);
	const cell = labelCell(head, line, cells);
	if (cell === null || cell.text === "") return null;
	const at = (role: Role): string => cells[head.columns.findIndex((c) => c.role === role)]?.text ?? "";
	const inside = line.expressions.filter(
		(e) => e.from >= cell.from && e.to <= cell.to && !(/^10[\^⁻⁺-]/.test(e.text) && isUnit(e.text)),
	);
	// numbers in a label tell where the value holds; the words around them are read without them
	let words = line.text.slice(cell.from, cell.to);
	for (const e of inside)
		words = `${words.slice(0, e.from - cell.from)}${" ".repeat(e.to - e.from)}${words.slice(e.to - cell.from)}`;
	const symbol = at("symbol");
	const label = readLabel(`${words}${symbol === "" ? "" : `, ${symbol}`}`, marksIn(line, cell.from, cell.to));
	if (label === null || label.properties.length === 0) return null;
	if (label.properties.includes("youngs_modulus") && inside.some((e) => e.unit === "%")) return null;
	const beside = at("condition");
	const conditions = [
		...label.conditions,
		...inside.map((e) => e.text),
		...(beside === "" || isBlankCell(beside) ? [] : [beside.replace(/^@\s*(?:temperature)?\s*/i, "")]),
	];
	const besideCell = cells[head.columns.findIndex((c) => c.role === "condition")];
	const stated = at("unit");
	const unit = stated !== "" && !isBlankCell(stated) ? stated : label.unit;
	const told = [...inside, ...(besideCell == null ? [] : [besideCell])];
	return { line, label, conditions, unit, cells, told };
}

export type ReadValue = Extract<CellRead, { is: "value" }>;

export function pushTable(state: PageState, row: Row, at: readonly { column: Column; read: ReadValue; line?: Line }[]): boolean {
	const first = at[0];
	if (first === undefined) return false;
	const { label, conditions } = row;
	if (at.length === 1) {
		state.taken.push(
			...proposals(label, first.read.value, {
				line: row.line.no,
				conditions: [...conditions, first.column.at?.text ?? ""],
				confidence: label.confidence * 0.95,
			}),
		);
		claimCell(state, row.line, first.read);
		return true;
	}
	const points: TakenTable["points"] = at.map(({ column, read, line }) => ({
		at: column.at?.text as string,
		atSi: column.at?.si as number,
		text: read.value.quantity.entered,
		low: read.value.quantity.low,
		high: read.value.quantity.high,
		line: (line ?? row.line).no,
	}));
	for (const { read, line } of at) claimCell(state, line ?? row.line, read);
	const units = [unitOf(first.column.at?.text ?? ""), first.read.e.unit || row.unit || first.read.value.quantity.unit] as const;
	const cells = at.map(({ column, read }) => {
		const own = read.e.unit;
		const value = read.e.text.endsWith(own) ? read.e.text.slice(0, read.e.text.length - own.length).trim() : read.e.text;
		return [(column.at?.text ?? "").replace(units[0], "").trim(), own === units[1] || own === "" ? value : read.e.text] as const;
	});
	const limit = first.read.e.limit ?? label.limit;
	const id = first.read.value.property;
	const qualifier =
		id === "thermal_expansion"
			? "secant"
			: property(id).qualifiers?.some((q) => q.id === label.qualifier) === true
				? label.qualifier
				: undefined;
	state.tables.push({
		property: id,
		axis: first.column.axis as string,
		points,
		units,
		cells,
		...(limit === "min" ? { basis: "guaranteed-minimum" as const } : {}),
		siUnit: first.read.value.quantity.siUnit,
		line: row.line.no,
		confidence: label.confidence * 0.97,
		...(qualifier === undefined ? {} : { qualifier }),
		...(conditions.length === 0 ? {} : { condition: conditions.join(", ") }),
		...(property(id).scales === true ? { scale: first.read.value.quantity.unit } : {}),
		...(label.ask === undefined ? {} : { question: label.ask }),
		...(state.mark === null ? {} : { mark: state.mark }),
	});
	return true;
}

/** The unit behind a number: `20 °C`. */
function unitOf(text: string): string {
	return text.replace(/^[-−+]?[\d.,\s]+/, "").trim();
}

export function numberIn(
	text: string | undefined,
	unit: string,
	axis: NonNullable<ReturnType<typeof axisById>>,
	state: PageState,
): { text: string; si: number } | null {
	if (text === undefined || isBlankCell(text) || !/^[-−+]?[\d.,]+(?:[eE][-+]?\d+)?$/.test(text)) return null;
	const read = parseQuantity(`${text} ${unit}`, axis, { decimalMark: state.mark ?? "." });
	return read.ok && read.value.low !== null ? { text, si: read.value.low } : null;
}

export type ColumnRead = { readonly line: Line; readonly cells: readonly (Cell | null)[]; readonly read: CellRead };

/** What the label and the condition cell of a taken row say is part of it. */
export function claimTold(state: PageState, row: Row): void {
	for (const { from, to } of row.told ?? []) state.claim(row.line.no, from, to, "condition");
}
