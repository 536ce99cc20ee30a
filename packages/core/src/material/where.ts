import { formById, propertyById } from "../property";
import { fail, ok, type Result } from "../result";
import { EVIDENCE, type Evidence } from "./types";

/** A wanted span of a property, SI; an open end is null. */
export type Where = {
	readonly property: string;
	readonly low: number | null;
	readonly high: number | null;
	/** A value also passes where it may reach: a lower limit under "at least", any of a range. */
	readonly reach?: true;
	/** Only values of one of these evidences count, `none` for those without; absent: all. Then both ends may be open. */
	readonly evidence?: readonly EvidenceWord[];
};

/** What says how good a value is, or that nothing does. */
export type EvidenceWord = Evidence | "none";
export const EVIDENCE_WORDS: readonly EvidenceWord[] = [...EVIDENCE, "none"];

/** The price per kilogram in a currency, filtered and sorted like a property: `price:EUR`. */
export const PRICE = /^price:[A-Z]{3}$/;

/** Spans of one question, at the most. */
export const MOST_SPANS = 64;

/**
 * `density:2600..2800,own:x:..3` as it stands in an address; a `~` behind a span says that values may
 * reach into it, `!measured.standard` that only values of such evidence count. Pieces that do not read are left out, and so are further
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
		const isOther = span.property.startsWith("own:") || PRICE.test(span.property);
		if (!isOther && propertyById(span.property) === undefined && formById(span.property) === undefined)
			return fail({ code: "unknown-property", path: "where", actual: span.property.slice(0, 80) });
		spans.set(span.property, span);
	}
	return ok([...spans.values()]);
}

function readSpan(piece: string): Where | null {
	const split = piece.lastIndexOf(":");
	if (split < 1) return null;
	const [ends = "", words, ...rest] = piece.slice(split + 1).split("!");
	const evidence = words === undefined ? [] : readEvidence(words);
	const reach = ends.endsWith("~");
	const [from, to, more] = ends.slice(0, reach ? -1 : undefined).split("..");
	if (from === undefined || to === undefined || more !== undefined || rest.length > 0 || evidence === null) return null;
	const [low, high] = [endOf(from), endOf(to)];
	if (low === undefined || high === undefined || (low === null && high === null && evidence.length === 0)) return null;
	return {
		property: piece.slice(0, split),
		low,
		high,
		...(reach ? { reach } : {}),
		...(evidence.length > 0 ? { evidence } : {}),
	};
}

/** Words between points, in the usual order; null where one is none of them. */
function readEvidence(text: string): readonly EvidenceWord[] | null {
	const words = text.split(".");
	const known = EVIDENCE_WORDS.filter((word) => words.includes(word));
	return known.length === words.length ? known : null;
}

function endOf(text: string): number | null | undefined {
	if (text === "") return null;
	const number = Number(text);
	return Number.isFinite(number) ? number : undefined;
}

/** What spans ask of evidence alone: what a browser, which tries the ends by itself, leaves to the server. */
export function evidenceOnly(list: readonly Where[]): readonly Where[] {
	return list.flatMap(({ property, evidence }) =>
		evidence === undefined ? [] : [{ property, low: null, high: null, evidence }],
	);
}

export function writeWhere(list: readonly Where[]): string {
	return list
		.map(({ property, low, high, reach, evidence }) => {
			const better = evidence === undefined ? "" : `!${evidence.join(".")}`;
			return `${property}:${low ?? ""}..${high ?? ""}${reach === true ? "~" : ""}${better}`;
		})
		.join(",");
}
