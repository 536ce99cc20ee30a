import { increasing, type Points } from "../curve";
import { axisById } from "../property";
import { commonMark, type QuantitySpec } from "../quantity";
import { ok, type Result } from "../result";
import { readCells } from "./decode-series";
import { rowOf } from "./decode-value";
import type { Interpolation, SeriesColumn, SeriesValue, ValueHead } from "./types";

/** A column before its cells are read. */
export type TypedColumn = Pick<SeriesColumn, "of" | "unit" | "cells" | "mark">;

/** The spec that the cells of a column are read with. */
export function columnSpec(value: Pick<ValueHead, "property" | "own">, of: string): QuantitySpec | undefined {
	return of === "value" ? rowOf(value) : axisById(of);
}

/** What a table or a curve is made from. */
export type TypedSeries = {
	readonly kind: "table" | "curve";
	readonly columns: readonly TypedColumn[];
	readonly interpolation: Interpolation;
	readonly header?: Readonly<Record<string, string>>;
};

/**
 * Makes a table or a curve from typed cells.
 * @returns issues with the column as `path` and the row as `line`
 */
export function makeSeries(head: ValueHead, { kind, columns, interpolation, header = {} }: TypedSeries): Result<SeriesValue> {
	const read: SeriesColumn[] = [];
	const common = commonMark(columns.flatMap((c) => c.cells));
	for (const column of columns) {
		const spec = columnSpec(head, column.of);
		if (spec === undefined) throw new Error(`no axis ${column.of}`);
		// `1.092` beside `0.020` is no question: numbers of one table share their mark
		const mark = column.mark ?? (common.ambiguous ? undefined : common.mark);
		const cells = readCells({ cells: column.cells, unit: column.unit, mark, path: column.of }, spec);
		if (!cells.ok) return cells;
		const { of, unit } = column;
		read.push({
			of,
			unit,
			cells: column.cells,
			...(mark === undefined ? {} : { mark }),
			si: cells.value.si,
			...(cells.value.high === null ? {} : { high: cells.value.high }),
		});
	}
	return ok({ ...head, kind, columns: read, interpolation, header });
}

/** y over x of a series with two columns, in SI, sorted; a range gives the end that is asked for. */
export function rowPoints(value: SeriesValue, end: "low" | "middle" | "high" = "middle"): Points {
	const x = value.columns.at(-2)?.si ?? [];
	const y = value.columns.at(-1);
	return increasing(x, y === undefined ? [] : y.si.map((low, i) => endOf(low, y.high?.[i] ?? low, end)));
}

function endOf(low: number, high: number, end: "low" | "middle" | "high"): number {
	if (end === "low") return low;
	return end === "high" ? high : low === high ? low : low / 2 + high / 2;
}

/** One member of a family of curves: the rows that share their conditions. */
export type Member = {
	/** SI of each condition column. */
	readonly at: readonly number[];
	readonly rows: readonly number[];
};

/** The members of a curve, in the order of their first row; one when it has no condition columns. */
export function members(value: SeriesValue): readonly Member[] {
	const conditions = value.columns.slice(0, -2);
	const rows = value.columns.at(-1)?.si.length ?? 0;
	const found = new Map<string, { at: number[]; rows: number[] }>();
	for (let row = 0; row < rows; row++) {
		const at = conditions.map((c) => c.si[row] as number);
		const key = at.join(" ");
		const member = found.get(key) ?? { at, rows: [] };
		member.rows.push(row);
		found.set(key, member);
	}
	return [...found.values()];
}

/** x and y of one member as measured, SI. */
export function memberPoints(value: SeriesValue, member: Member): { x: number[]; y: number[] } {
	const x = value.columns.at(-2)?.si ?? [];
	const y = value.columns.at(-1)?.si ?? [];
	return { x: member.rows.map((r) => x[r] as number), y: member.rows.map((r) => y[r] as number) };
}

/** Half a unit of the last digit typed in a column, SI: what rounding hides in each number. */
export function roundingOf(column: SeriesColumn, spec: QuantitySpec): number {
	let decimals = 0;
	for (const cell of column.cells) {
		const tail = /[.,](\d+)(?:e([-+]?\d+))?\s*$/i.exec(cell);
		const places = tail === null ? 0 : (tail[1] as string).length - Number(tail[2] ?? 0);
		decimals = Math.max(decimals, places);
	}
	const unit = readCells({ cells: ["1", "0"], unit: column.unit, path: "" }, { ...spec, min: -Infinity, max: Infinity });
	return unit.ok ? Math.abs((unit.value.si[0] as number) - (unit.value.si[1] as number)) * 0.5 * 10 ** -decimals : 0;
}
