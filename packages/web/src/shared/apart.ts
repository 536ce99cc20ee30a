import {
	BASIS_WORD,
	type Edit,
	EVIDENCE_WORD,
	isNumber,
	isValuePlace,
	type MaterialValue,
	workingValue,
} from "@alvek/core/material";
import { propertyById, type UnitSetId } from "@alvek/core/property";
import { workingText } from "../ui/Quantity";

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

/** What kind of change it is, in a word or as a share: `added`, `+0.8 %`, `confirmed`, `words`. */
export function changeNote(edit: Edit): string {
	if (edit.from === null) return "added";
	if (edit.to === null) return "removed";
	if (!isValuePlace(edit.at)) return edit.at === "field:look" || edit.at === "field:colour" ? "look" : "words";
	const from = edit.from as MaterialValue;
	const to = edit.to as MaterialValue;
	if (isNumber(from) && isNumber(to)) {
		const [a, b] = [workingValue(from), workingValue(to)];
		// a share of a temperature would hang on where its scale begins
		const scaled = propertyById(to.property)?.siUnit !== "K";
		if (a !== null && b !== null && a !== 0 && scaled && Math.abs(b / a - 1) > 1e-9) return share(b / a - 1);
	}
	return from.carried !== undefined && to.carried === undefined ? "confirmed" : "";
}

/** `+0.8 %`, with a true minus. */
function share(part: number): string {
	const percent = Math.abs(part) * 100;
	const text = percent >= 1000 ? `${Math.round(percent)}` : String(Number(percent.toPrecision(2)));
	return `${part < 0 ? "−" : "+"}${text} %`;
}
