import type { MaterialRow } from "@alvek/contract";
import { firstValue } from "@alvek/core/material";
import type { PropertyRow, UnitSetId } from "@alvek/core/property";
import { valueIn } from "../../ui/Quantity";
import type { ColumnChoice } from "./view";
import { type OwnRows, rowOfProperty } from "./words";

/** A column as the grid draws it: one unit, a width, and room for the longest fraction so that points stand in line. */
export type GridColumn = {
	readonly id: string;
	readonly spec: PropertyRow;
	/** The unit of its numbers; `scale` where each value has its own. */
	readonly unit: string;
	readonly width: number;
	readonly decimals: number;
};

export const COLUMN_WIDTH = 96;

/** Digits behind the point of the last number in a text; ranges line up by their upper end. */
export function decimalsOf(text: string): number {
	const last = text.split("–").at(-1) ?? "";
	const point = last.indexOf(".");
	return point < 0 ? 0 : last.length - point - 1;
}

export function gridColumns(
	rows: readonly MaterialRow[],
	choices: readonly ColumnChoice[],
	unitSet: UnitSetId,
	own: OwnRows,
): readonly GridColumn[] {
	return choices.flatMap((choice): GridColumn[] => {
		// a library that is not here any more takes its own properties along
		const spec = rowOfProperty(choice.id, own);
		if (spec === undefined) return [];
		const unit = choice.unit ?? spec.units[unitSet];
		let decimals = 0;
		// the first few hundred rows tell enough; a longer fraction further down only stands out
		for (const row of rows.slice(0, 300)) {
			const value = firstValue(row.document, choice.id);
			if (value !== null) decimals = Math.max(decimals, Math.min(decimalsOf(valueIn(value, unit)), 4));
		}
		return [{ id: choice.id, spec, unit: spec.scales === true ? "scale" : unit, width: choice.width ?? COLUMN_WIDTH, decimals }];
	});
}

export function isSameColumn(a: GridColumn, b: GridColumn | undefined): boolean {
	return b !== undefined && a.spec === b.spec && a.unit === b.unit && a.width === b.width && a.decimals === b.decimals;
}

/** Room to the right of a number, in digits, so that its point meets the others. */
export function padding(text: string, column: Pick<GridColumn, "decimals">): number {
	const own = decimalsOf(text);
	if (own >= column.decimals) return 0;
	// a number without a fraction also lacks the point, which is about half a digit wide
	return column.decimals - own + (own === 0 ? 0.45 : 0);
}
