import type { Where } from "@alvek/core/material";
import { failOutside, numberAt, type PackedColumns, placeOn, type StripAxis } from "@alvek/core/table";

/** The ends of a strip's span; null where it is open. */
export type Ends = { readonly low: number | null; readonly high: number | null };

/**
 * How many of the spans each row fails; 0 passes.
 * @param bytes written over and answered, so that a drag allocates nothing
 */
export function failing({ rows, columns }: PackedColumns, where: readonly Where[], bytes: Uint8Array): Uint8Array {
	bytes.fill(0);
	for (const { property, low, high, reach } of where) {
		const spans = columns.get(property);
		if (spans === undefined) continue;
		failOutside(spans, rows, low ?? Number.NEGATIVE_INFINITY, high ?? Number.POSITIVE_INFINITY, bytes, reach);
	}
	return bytes;
}

export function passing(fails: Uint8Array): number {
	let count = 0;
	for (let i = 0; i < fails.length; i++) count += +(fails[i] === 0);
	return count;
}

/** The spans with one of them set anew; a span that is open at both ends goes. */
export function withSpan(where: readonly Where[], property: string, ends: Ends): readonly Where[] {
	const rest = where.filter((w) => w.property !== property);
	const at = where.findIndex((w) => w.property === property);
	const open = ends.low === null && ends.high === null;
	// what was asked of evidence stays, whatever the ends
	if (open && where[at]?.evidence === undefined) return rest;
	const span: Where = { ...where[at], property, low: ends.low, high: ends.high };
	return at < 0 ? [...rest, span] : where.map((w, i) => (i === at ? span : w));
}

/** Places of both ends on an axis, 0 to 1; open ends stand at its ends. */
export function placesOf(axis: StripAxis, { low, high }: Ends): readonly [number, number] {
	const clamp = (place: number): number => Math.min(Math.max(place, 0), 1);
	return [low === null ? 0 : clamp(placeOn(axis, low)), high === null ? 1 : clamp(placeOn(axis, high))];
}

/**
 * The number at a place for one end of a span; null (open) at the end of the axis.
 * @param round makes a number that a person would have typed
 */
export function endAt(axis: StripAxis, place: number, end: "low" | "high", round: (si: number) => number): number | null {
	if (end === "low" ? place <= 0 : place >= 1) return null;
	return round(numberAt(axis, Math.min(Math.max(place, 0), 1)));
}
