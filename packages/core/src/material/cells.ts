import { type OwnProperty, ownRow, type PropertyRow, propertyById } from "../property";
import {
	commonMark,
	type DecimalMark,
	fromSi,
	normaliseText,
	type ParseOptions,
	parseQuantity,
	readUnit,
	showQuantity,
	significant,
	unitOf,
} from "../quantity";
import { fail, type Issue, ok, type Result } from "../result";
import type { Edit } from "./edit";
import { contentAt } from "./edit";
import { type Details, makeValue } from "./make";
import type { Material, NumberValue } from "./types";
import { firstValue, freshValueId, quantityOf, specOf, valuesOf } from "./value";

/**
 * A number typed over another: what it is (definition, condition) stays. What the old number said of its origin holds
 * for that number only: where it was carried over, followed, or had a source, a changed number is the typist's, with
 * its source open. The same number typed again keeps its source.
 */
export function retype(
	before: NumberValue | null,
	{ id, property, own }: { readonly id: string; readonly property: string; readonly own?: OwnProperty | undefined },
	text: string,
	options: ParseOptions,
): Result<NumberValue> {
	const { qualifier, condition, evidence, basis, source, sourceId, spread, carried, follows } = before ?? {};
	const made = makeValue({ id, property }, text, options, { qualifier, condition, own } as Details);
	if (!made.ok || carried !== undefined || follows !== undefined) return made;
	const same = before !== null && made.value.low === before.low && made.value.high === before.high;
	const sourced = source !== undefined || sourceId !== undefined;
	return sourced && !same
		? made
		: makeValue({ id, property }, text, options, {
				qualifier,
				condition,
				evidence,
				basis,
				source,
				sourceId,
				spread,
				own,
			} as Details);
}

/** One cell of a grid: a property of a material, shown in a unit. */
export type Cell = { readonly property: string; readonly own?: OwnProperty; readonly unit: string };

/**
 * The edit that a text makes in a cell; null when nothing changes: the text is what was typed there or what the cell
 * copies out. An empty text clears the number.
 * @returns issue `held-otherwise` where the material holds the property as a table, `unknown-property`, or what the
 * quantity reader says
 */
export function cellEdit(material: Material, cell: Cell, text: string, mark?: DecimalMark): Result<Edit | null> {
	const spec = specOfCell(cell);
	if (spec === undefined) return fail({ code: "unknown-property", path: cell.property });
	const before = firstValue(material, cell.property);
	const others = valuesOf(material, cell.property);
	if (before === null && others.length > 0)
		return fail({ code: "held-otherwise", path: spec.name, actual: others[0].kind ?? "" });
	const id = before?.id ?? freshValueId(material, cell.property);
	if (text.trim() === "") return ok(before === null ? null : { at: id, from: before, to: null });
	if (before !== null && text === before.entered) return ok(null);
	if (spec.scales !== true) {
		const read = readUnit(cell.unit, [spec.dimension]);
		if (read === null || !read.fits) return fail({ code: "wrong-dimension", actual: cell.unit, expected: spec.siUnit });
	}
	// what was copied out of this very cell, in whatever unit, does not rewrite what was typed in it
	if (before !== null && text === cellText(before, cell.unit)) return ok(null);
	const options: ParseOptions = {
		...(spec.scales === true ? {} : { fieldUnit: cell.unit }),
		...(mark === undefined ? {} : { decimalMark: mark }),
	};
	const made = retype(before, { id, property: cell.property, own: cell.own }, text, options);
	if (!made.ok) return made;
	return ok({ at: id, from: contentAt(material, id), to: made.value });
}

function specOfCell(cell: Cell): PropertyRow | undefined {
	return cell.own === undefined ? propertyById(cell.property) : ownRow(cell.own);
}

/** The edit that puts another material's number, as it was typed, in a cell; null when nothing changes. */
export function fillEdit(material: Material, cell: Cell, from: NumberValue): Result<Edit | null> {
	return cellEdit(material, cell, from.entered, from.mark);
}

/**
 * A number as text for a spreadsheet: in the unit of its column, with as many digits as it takes to read back to the
 * same SI doubles (the typed ones where they do). What a bare number cannot say goes as it was typed, unit and all.
 */
export function cellText(value: NumberValue, unit: string): string {
	const spec = specOf(value);
	if (value.kind === "readings" || spec.scales === true) return value.entered;
	const quantity = quantityOf(value);
	if (quantity.shape === "plus-minus" || quantity.reciprocal) return value.entered;
	const shown = showQuantity(quantity, unit);
	const exact = (si: number, typed: string | null): string => {
		const candidates = [typed ?? "", ...DIGITS.map((n) => significant(fromSi(si, unitOf(unit)), n))];
		const found = candidates.find((text) => {
			const read = parseQuantity(text, spec, { fieldUnit: unit, decimalMark: "." });
			return read.ok && read.value.low === si && read.value.high === si;
		});
		return found ?? "";
	};
	const { low, high } = value;
	const [from, to] = [low === null ? null : exact(low, shown.low), high === null ? null : exact(high, shown.high)];
	if (from === "" || to === "") return value.entered;
	if (from === null) return `<= ${to}`;
	if (to === null) return `>= ${from}`;
	if (from === to) return quantity.shape === "approximate" ? `~${from}` : from;
	return `${from} – ${to}`;
}

/** Digits tried; seventeen tell any two doubles apart, but for the last bit that a conversion may shift. */
const DIGITS = [9, 12, 15, 16, 17] as const;

/** A block of a spreadsheet as texts. */
export type CellBlock = {
	readonly cells: readonly (readonly string[])[];
	/** Units of the columns where a row of headings says them: `Density [g/cm³]`. */
	readonly units: readonly (string | null)[];
	/** The decimal mark that the cells share; undefined where nothing says it and it matters. */
	readonly mark: DecimalMark | undefined;
};

/** The most cells that one paste takes. */
export const MOST_CELLS = 20_000;

/**
 * Splits a pasted block: rows by lines, cells by tabs (or semicolons where there is no tab). A first row of headings,
 * each with its unit in brackets, gives units and is no data.
 * @returns issue `paste-too-large`, or `empty`
 */
export function readCells(text: string): Result<CellBlock> {
	const lines = text.replace(/\r\n?/g, "\n").replace(/\n+$/, "").split("\n");
	if (lines.length === 1 && lines[0].trim() === "") return fail({ code: "empty" });
	const separator = text.includes("\t") ? "\t" : ";";
	const rows = lines.map((line) => line.split(separator).map((c) => c.trim()));
	const count = rows.reduce((n, r) => n + r.length, 0);
	if (count > MOST_CELLS) return fail({ code: "paste-too-large", actual: `${count} cells`, expected: `${MOST_CELLS} cells` });
	const headed = rows.length > 1 && rows[0].every((c) => HEADING.test(c));
	const units = headed ? rows[0].map(headingUnit) : [];
	const cells = headed ? rows.slice(1) : rows;
	const { mark, ambiguous } = commonMark(cells.flat().flatMap((c) => /^[\s<>=≤≥~±+-]*(\d[\d.,]*)/.exec(c)?.[1] ?? []));
	return ok({ cells, units, mark: ambiguous ? undefined : mark });
}

/** Words, then perhaps a unit in brackets; nothing that begins like a number. */
const HEADING = /^[\p{L}][^\d]*.*\[[^\]]*\]$/u;

function headingUnit(heading: string): string | null {
	const unit = normaliseText(/\[([^\]]*)\]$/.exec(heading)?.[1] ?? "").trim();
	return unit === "" ? null : unit;
}

/** A cell that was not taken: where it stands in the block, and why. */
export type RefusedCell = {
	readonly row: number;
	readonly column: number;
	readonly text: string;
	readonly issues: readonly Issue[];
};

export type BlockEdits = {
	/** Edits by row of the block. */
	readonly edits: readonly (readonly Edit[])[];
	readonly changed: number;
	readonly refused: readonly RefusedCell[];
};

/**
 * What a block changes, cell by cell: each is read or refused with its reason, and a refused one stops no other. A
 * single cell or row or column fills a larger selection.
 * @param materials rows from where the block begins; a block that is longer loses its rest as refused cells
 * @param columns columns from where it begins
 */
export function blockEdits(materials: readonly Material[], columns: readonly Cell[], block: CellBlock): BlockEdits {
	const edits: Edit[][] = [];
	const refused: RefusedCell[] = [];
	let changed = 0;
	for (const [row, cells] of block.cells.entries()) {
		edits.push([]);
		for (const [column, text] of cells.entries()) {
			const [material, cell] = [materials[row], columns[column]];
			if (material === undefined || cell === undefined) {
				if (text !== "") refused.push({ row, column, text, issues: [{ code: "beyond-grid" }] });
				continue;
			}
			const unit = block.units[column] ?? cell.unit;
			const read = cellEdit(material, { ...cell, unit }, text, block.mark);
			if (!read.ok) refused.push({ row, column, text, issues: read.issues });
			else if (read.value !== null) {
				edits[row].push(read.value);
				changed++;
			}
		}
	}
	return { edits, changed, refused };
}
