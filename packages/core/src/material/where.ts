import type { Material } from "./types";
import { isNumber, isSeries, valuesOf } from "./value";

/** A wanted span of a property, SI; an open end is null. */
export type Where = { readonly property: string; readonly low: number | null; readonly high: number | null };

/** `density:2600..2800,own:x:..3` as it stands in an address. Pieces that do not read are left out. */
export function readWhere(text: string): readonly Where[] {
	return text.split(",").flatMap((piece) => {
		const match = /^(.+):([^:]*)\.\.([^:]*)$/.exec(piece.trim());
		if (match === null) return [];
		const [low, high] = [endOf(match[2] as string), endOf(match[3] as string)];
		if (low === undefined || high === undefined || (low === null && high === null)) return [];
		return [{ property: match[1] as string, low, high }];
	});
}

function endOf(text: string): number | null | undefined {
	if (text === "") return null;
	const number = Number(text);
	return Number.isFinite(number) ? number : undefined;
}

export function writeWhere(list: readonly Where[]): string {
	return list.map(({ property, low, high }) => `${property}:${low ?? ""}..${high ?? ""}`).join(",");
}

/**
 * Does some value of the property overlap the span? A range passes when any of it lies inside, an open range reaches
 * on without end, a table passes by what it holds anywhere.
 */
export function overlaps(material: Material, { property, low, high }: Where): boolean {
	return valuesOf(material, property).some((value) => {
		if (isNumber(value)) return meets(value.low ?? Number.NEGATIVE_INFINITY, value.high ?? Number.POSITIVE_INFINITY, low, high);
		if (!isSeries(value)) return false;
		const column = value.columns.at(-1);
		if (column === undefined || column.si.length === 0) return false;
		return meets(Math.min(...column.si), Math.max(...(column.high ?? column.si)), low, high);
	});
}

function meets(from: number, to: number, low: number | null, high: number | null): boolean {
	return (high === null || from <= high) && (low === null || to >= low);
}
