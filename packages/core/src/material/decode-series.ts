import { axisById, formById, type PropertyRow } from "../property";
import { parseQuantity, type QuantitySpec } from "../quantity";
import { fail, type Issue, ok, type Result } from "../result";
import { LIMITS } from "./limits";
import { isMark, mismatch, plainObject, textMap } from "./shape";
import type { SeriesColumn } from "./types";

type Raw = Record<string, unknown>;

/**
 * A table (conditions, then `value`) or a curve (conditions, x, y): columns of one length, each cell as it reads.
 * @param row the property's, which columns of its values are read by
 */
export function decodeSeries(id: string, v: Raw, row: PropertyRow | undefined): Result<unknown> {
	const { columns } = v;
	if (!Array.isArray(columns) || columns.length < 2 || columns.length > 4)
		return fail({ code: "wrong-type", path: `${id}.columns`, expected: "two to four columns" });
	if (v.interpolation !== "linear" && v.interpolation !== "pchip")
		return fail({ code: "unknown-choice", path: `${id}.interpolation`, actual: String(v.interpolation).slice(0, 80) });
	const header = textMap(v.header, 200, `${id}.header`);
	if (!header.ok) return header;
	const roles = columnRoles(v, columns.length);
	if (roles === null) return fail({ code: "unknown-property", path: id, actual: String(v.property).slice(0, 80) });
	let rows: number | null = null;
	for (const [n, raw] of columns.entries()) {
		const path = `${id}.columns.${n}`;
		const shape = plainObject(raw, ["of", "unit", "cells", "mark", "si", "high"], path);
		if (!shape.ok) return shape;
		const { of } = shape.value;
		if (typeof of !== "string" || !(roles[n] as readonly string[]).includes(of))
			return fail({
				code: "unknown-choice",
				path: `${path}.of`,
				actual: String(of).slice(0, 80),
				expected: roles[n]?.join(", ") ?? "",
			});
		const spec = of === "value" ? row : axisById(of);
		const column = decodeColumn(path, shape.value, spec as QuantitySpec);
		if (!column.ok) return column;
		if (rows !== null && rows !== column.value)
			return fail({ code: "wrong-count", path, actual: column.value, expected: `${rows} cells, as in the first column` });
		rows = column.value;
	}
	return ok(null);
}

/** What a table may run over. */
export const CONDITIONS: readonly string[] = [
	"temperature",
	"strain_rate",
	"thickness",
	"diameter",
	"frequency",
	"moisture",
	"time",
	"stress_ratio",
];

/** Ids that each column may carry; null when the property has no such shape. */
function columnRoles(v: Raw, count: number): readonly (readonly string[])[] | null {
	const form = formById(String(v.property));
	if (v.kind === "curve") {
		if (form?.kind !== "curve") return null;
		return [...Array.from({ length: count - 2 }, () => form.conditions), [form.x], form.y];
	}
	return count > 3 ? null : [...Array.from({ length: count - 1 }, () => CONDITIONS), ["value"]];
}

function decodeColumn(path: string, raw: Raw, spec: QuantitySpec): Result<number> {
	const { cells, unit, mark, si, high } = raw as Partial<SeriesColumn>;
	if (!Array.isArray(cells) || !Array.isArray(si) || cells.length !== si.length || cells.length > LIMITS.rows)
		return fail({
			code: "wrong-count",
			path,
			actual: Array.isArray(cells) ? cells.length : 0,
			expected: `cells and numbers, at most ${LIMITS.rows}`,
		});
	if (high !== undefined && (!Array.isArray(high) || high.length !== si.length))
		return fail({ code: "wrong-count", path: `${path}.high`, expected: `${si.length} numbers, or none` });
	if (typeof unit !== "string" || unit.length > 60 || !isMark(mark)) return fail({ code: "wrong-type", path: `${path}.unit` });
	const read = readCells({ cells, unit, mark, path }, spec);
	if (!read.ok) return read;
	for (let i = 0; i < cells.length; i++) {
		const [low, top] = [read.value.si[i], read.value.high?.[i] ?? read.value.si[i]];
		if (si[i] !== low || (high === undefined ? si[i] : high[i]) !== top)
			return mismatch(`${path} row ${i + 1}`, [si[i], high?.[i]], [low, top]);
	}
	return ok(cells.length);
}

/** Cells of a column in SI. A cell is one number or a closed range; blank cells make no point and are refused here. */
export function readCells(
	{ cells, unit, mark, path }: Pick<SeriesColumn, "cells" | "unit" | "mark"> & { readonly path: string },
	spec: QuantitySpec,
): Result<{ readonly si: readonly number[]; readonly high: readonly number[] | null }> {
	const si: number[] = [];
	const high: number[] = [];
	const issues: Issue[] = [];
	let ranged = false;
	const options = { fieldUnit: unit, ...(mark === undefined ? {} : { decimalMark: mark }) };
	for (const [row, cell] of cells.entries()) {
		const read =
			typeof cell === "string" ? parseQuantity(cell, spec, options) : fail({ code: "wrong-type", actual: typeof cell });
		if (!read.ok || read.value.low === null || read.value.high === null) {
			const found: readonly Issue[] = read.ok
				? [{ code: "not-a-number", actual: cell, expected: "a closed number" }]
				: read.issues;
			issues.push(...found.map((i) => ({ ...i, path, line: row + 1 })));
			if (issues.length >= 20) break;
			continue;
		}
		si.push(read.value.low);
		high.push(read.value.high);
		ranged ||= read.value.low !== read.value.high;
	}
	return issues.length > 0 ? fail(...issues) : ok({ si, high: ranged ? high : null });
}
