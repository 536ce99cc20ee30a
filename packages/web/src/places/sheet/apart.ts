import { isNumber, type MaterialValue } from "@alvek/core/material";
import type { UnitSetId } from "@alvek/core/property";
import { BASIS_WORD, EVIDENCE_WORD, workingText } from "../../ui/Quantity";

/** What a value says of its number, beside the number: each in words, "" where it says nothing. */
const SAYS: readonly ((value: MaterialValue, unitSet: UnitSetId) => string)[] = [
	(v) => (v.evidence === undefined ? "no evidence" : EVIDENCE_WORD[v.evidence]),
	(v) => (v.basis === undefined ? "" : BASIS_WORD[v.basis]),
	(v) => v.condition ?? "",
	(v) => v.qualifier ?? "",
	(v) => (v.sourceId !== undefined ? "source of the record" : v.source === undefined ? "no source" : `source ${v.source}`),
	(v, unitSet) => (isNumber(v) && v.working !== undefined ? (workingText(v, unitSet) ?? "") : ""),
	(v) => (v.carried === undefined ? "" : `carried over from ${v.carried.name}`),
	(v) => (v.follows === undefined ? "" : `follows ${v.follows.name}, revision ${v.follows.revision}`),
];

/**
 * Two contents of one value, each with what it says that the other does not: a number whose evidence alone was changed
 * would otherwise read the same before and after.
 */
export function tellApart(
	from: MaterialValue | null,
	to: MaterialValue | null,
	unitSet: UnitSetId,
): readonly [from: readonly string[], to: readonly string[]] {
	const said = (value: MaterialValue | null, i: number): string => (value === null ? "" : (SAYS[i]?.(value, unitSet) ?? ""));
	const apart = SAYS.map((_, i) => [said(from, i), said(to, i)] as const);
	// beside a blank every word of the other is new; only what is out of the ordinary is told then
	const told = from === null || to === null ? apart.slice(-2) : apart.filter(([a, b]) => a !== b);
	return [told.flatMap(([a]) => (a === "" ? [] : [a])), told.flatMap(([, b]) => (b === "" ? [] : [b]))];
}
