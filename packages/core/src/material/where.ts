import { formById, propertyById } from "../property";
import { fail, ok, type Result } from "../result";
import type { Material } from "./types";
import { isNumber, isSeries, valuesOf } from "./value";

/** A wanted span of a property, SI; an open end is null. */
export type Where = { readonly property: string; readonly low: number | null; readonly high: number | null };

/** Spans of one question, at the most. */
export const MOST_SPANS = 64;

/**
 * `density:2600..2800,own:x:..3` as it stands in an address. Pieces that do not read are left out, and so are further
 * ones of a property and whatever comes after the 64th.
 */
export function readWhere(text: string): readonly Where[] {
	const spans = new Map<string, Where>();
	for (const piece of text.split(",")) {
		const span = readSpan(piece.trim());
		if (span !== null && !spans.has(span.property) && spans.size < MOST_SPANS) spans.set(span.property, span);
	}
	return [...spans.values()];
}

/** The same for scripts, which are told what does not read: issues `too-many`, `unknown-property`, `bad-input`. */
export function checkWhere(text: string): Result<readonly Where[]> {
	const pieces = text.split(",").filter((piece) => piece.trim() !== "");
	if (pieces.length > MOST_SPANS)
		return fail({ code: "too-many", path: "where", actual: pieces.length, expected: `at most ${MOST_SPANS}` });
	const spans = new Map<string, Where>();
	for (const piece of pieces) {
		const span = readSpan(piece.trim());
		if (span === null || spans.has(span.property))
			return fail({ code: "bad-input", path: "where", actual: piece.slice(0, 80), expected: "a property once, with its ends" });
		if (!span.property.startsWith("own:") && propertyById(span.property) === undefined && formById(span.property) === undefined)
			return fail({ code: "unknown-property", path: "where", actual: span.property.slice(0, 80) });
		spans.set(span.property, span);
	}
	return ok([...spans.values()]);
}

function readSpan(piece: string): Where | null {
	const split = piece.lastIndexOf(":");
	if (split < 1) return null;
	const [from, to, more] = piece.slice(split + 1).split("..");
	if (from === undefined || to === undefined || more !== undefined) return null;
	const [low, high] = [endOf(from), endOf(to)];
	if (low === undefined || high === undefined || (low === null && high === null)) return null;
	return { property: piece.slice(0, split), low, high };
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
