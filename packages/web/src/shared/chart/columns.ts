import {
	type Interpolation,
	isSeries,
	type MaterialValue,
	makeSeries,
	type SeriesColumn,
	type SeriesValue,
	type ValueHead,
} from "@alvek/core/material";
import { axisById, formById, type PropertyRow, propertyById, type UnitSetId } from "@alvek/core/property";
import { type DecimalMark, fromSi, type QuantitySpec, unitOf } from "@alvek/core/quantity";
import type { Issue, Result } from "@alvek/core/result";

/** A column while it is being typed. */
export type LocalColumn = { readonly of: string; readonly unit: string; readonly mark?: DecimalMark };

/** A table or curve on the screen: rows may be half typed, which a stored one never is. */
export type Local = {
	readonly kind: "table" | "curve";
	readonly columns: readonly LocalColumn[];
	readonly rows: readonly (readonly string[])[];
	readonly interpolation: Interpolation;
	readonly header: Readonly<Record<string, string>>;
};

/** Name, symbol and units of a column. */
export type ColumnInfo = QuantitySpec & Pick<PropertyRow, "name" | "symbol" | "units">;

export function columnInfo(property: string, of: string): ColumnInfo {
	const found = of === "value" ? propertyById(property) : axisById(of);
	if (found === undefined) throw new Error(`no column ${of} of ${property}`);
	return found;
}

/** A blank table over temperature, or a blank curve, in the units on screen. */
export function blankLocal(kind: "table" | "curve", property: string, unitSet: UnitSetId): Local {
	const form = formById(property);
	const ids = form?.kind === "curve" ? [form.x, form.y[0] as string] : ["temperature", "value"];
	const columns = ids.map((of) => ({ of, unit: columnInfo(property, of).units[unitSet] }));
	return { kind, columns, rows: [], interpolation: kind === "curve" ? "pchip" : "linear", header: {} };
}

export function localOf(value: SeriesValue): Local {
	const { kind, interpolation, header } = value;
	const columns = value.columns.map(({ of, unit, mark }) => ({ of, unit, ...(mark === undefined ? {} : { mark }) }));
	const length = value.columns[0]?.cells.length ?? 0;
	const rows = Array.from({ length }, (_, i) => value.columns.map((c: SeriesColumn) => c.cells[i] as string));
	return { kind, columns, rows, interpolation, header };
}

/** The stored value that the screen stands for; issues with row and column while something does not read. */
export function toValue(local: Local, head: ValueHead): Result<SeriesValue> {
	const filled = local.rows.map((cells, i) => ({ cells, i })).filter(({ cells }) => cells.some((c) => c.trim() !== ""));
	const columns = local.columns.map((column, n) => ({ ...column, cells: filled.map(({ cells }) => (cells[n] ?? "").trim()) }));
	const made = makeSeries(head, { kind: local.kind, columns, interpolation: local.interpolation, header: local.header });
	if (made.ok) return made;
	// lines of issues count rows on screen, blank ones too
	const issues = made.issues.map(
		(issue: Issue): Issue => (issue.line === undefined ? issue : { ...issue, line: (filled[issue.line - 1]?.i ?? 0) + 1 }),
	);
	return { ok: false, issues };
}

/** What a value says about itself beside its points. */
export function headOf(value: MaterialValue | null, id: string, property: string): ValueHead {
	if (value === null || !isSeries(value)) return { id, property };
	const { kind: _kind, columns: _columns, interpolation: _interpolation, header: _header, ...head } = value;
	return head;
}

/** Rows in rising order of their columns from the left, conditions first. */
export function sorted(local: Local, head: ValueHead): Local {
	const value = toValue(local, head);
	if (!value.ok) return local;
	const filled = local.rows.filter((cells) => cells.some((c) => c.trim() !== ""));
	const order = filled.map((_, i) => i);
	const keys = value.value.columns.slice(0, -1).map((c) => c.si);
	order.sort((a, b) => keys.map((k) => (k[a] as number) - (k[b] as number)).find((d) => d !== 0) ?? a - b);
	return { ...local, rows: order.map((i) => filled[i] as readonly string[]) };
}

/** One column times a factor; digits as a double prints them, because a product has no typed digits. */
export function scaled(local: Local, column: number, factor: number, head: ValueHead): Local {
	const value = toValue(local, head);
	const scaling = local.columns[column];
	if (!value.ok || scaling === undefined) return local;
	// as they were read, however they were typed; a temperature is scaled in its unit, not from absolute zero
	const unit = unitOf(scaling.unit);
	const numbers = value.value.columns[column]?.si.map((si) => fromSi(si, unit)) ?? [];
	const ranges = value.value.columns[column]?.high;
	const times = (number: number): string => String(Number((number * factor).toPrecision(12)));
	const filled = local.rows.filter((cells) => cells.some((c) => c.trim() !== ""));
	const rows = filled.map((cells, i) =>
		cells.map((cell, n) => {
			if (n !== column) return cell;
			const [low, high] = [numbers[i] as number, ranges?.[i]];
			return high === undefined || high === value.value.columns[column]?.si[i]
				? times(low)
				: [low, fromSi(high, unit)]
						.sort((a, b) => a * factor - b * factor)
						.map(times)
						.join(" to ");
		}),
	);
	const columns = local.columns.map((c, n) => (n === column ? { of: c.of, unit: c.unit } : c));
	return { ...local, columns, rows };
}
