import type { MaterialRow } from "@alvek/contract";
import { firstValue } from "@alvek/core/material";
import { property, type UnitSetId } from "@alvek/core/property";
import { valueText } from "../../ui/Quantity";

/** How a column writes its numbers: one unit, and room for the longest fraction so that points stand in line. */
export type ColumnFormat = { readonly unit: string; readonly decimals: number };

/** Digits behind the point of the last number in a text; ranges line up by their upper end. */
export function decimalsOf(text: string): number {
	const last = text.split("–").at(-1) ?? "";
	const point = last.indexOf(".");
	return point < 0 ? 0 : last.length - point - 1;
}

export function columnFormats(
	rows: readonly MaterialRow[],
	columns: readonly string[],
	unitSet: UnitSetId,
): ReadonlyMap<string, ColumnFormat> {
	return new Map(
		columns.map((id) => {
			const spec = property(id);
			let decimals = 0;
			// the first few hundred rows tell enough; a longer fraction further down only stands out
			for (const row of rows.slice(0, 300)) {
				const value = firstValue(row.document, id);
				if (value !== null) decimals = Math.max(decimals, Math.min(decimalsOf(valueText(value, unitSet)), 4));
			}
			return [id, { unit: spec.scales === true ? "scale" : spec.units[unitSet], decimals }];
		}),
	);
}

/** Room to the right of a number, in digits, so that its point meets the others. */
export function padding(text: string, format: ColumnFormat): number {
	const own = decimalsOf(text);
	if (own >= format.decimals) return 0;
	// a number without a fraction also lacks the point, which is about half a digit wide
	return format.decimals - own + (own === 0 ? 0.45 : 0);
}
