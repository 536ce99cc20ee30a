import { dimension } from "./dimension";
import { type NumberToken, scanNumber } from "./number";
import { leadingScale, scaleNamed, trailingScale } from "./scale";
import type { QuantityShape, QuantitySpec } from "./types";

/** A number and the unit written behind it; the unit is empty where none stands there. */
export type Side = { readonly number: NumberToken; readonly unit: string };

/** The text of a quantity cut into its parts; nothing is evaluated yet. */
export type Cut = {
	readonly shape: QuantityShape;
	readonly first: Side;
	readonly second: Side | null;
	/** The power of ten behind the second number may belong to both: `20-30e-6`. */
	readonly sharedExponent: boolean;
	/** Where a unit that the field supplies belongs in the text, and where the first number ends. */
	readonly unitAt: number;
	readonly firstEnd: number;
};

// words that part two numbers end at a blank or a number, so that `to` is not found in `ton`
const LEAST =
	/^(?:>=|≥|=>|>|(?:min(?:imum|imal|destens|d?\.)?|mini|at least|not less than|from|ab|au moins|von|de)\.?(?![\p{L}]))\s*:?\s*/iu;
const MOST =
	/^(?:<=|≤|=<|<|(?:max(?:imum|imal|\.)?|maxi|höchstens|at most|not more than|up to|bis(?: zu)?|jusqu'à|au plus)\.?(?![\p{L}]))\s*:?\s*/iu;
const ABOUT = /^(?:~|≈|(?:ca|circa|approx(?:imately)?|about|around|rund|etwa|env(?:iron)?)\.?(?![\p{L}]))\s*/iu;
const BETWEEN = /^(?:between|zwischen|entre)\s+/i;
const OPENING = /^(?:from|von|de)\b/i;
/** Directly behind a number. */
const JOINER = /\s*(?:(±|\+\/-|\+-)|\.{2,3}|…|–|—|-|(?:to|bis|à|and|und|et|a)(?=[\s\d]))\s*/iuy;
/** Behind a number's own unit; a bare hyphen parts only with blanks around it, because units hold hyphens. */
const UNIT_JOINER = /\s*(?:(±|\+\/-)|\.{2,3}|…|–|—)\s*|\s+(?:-|\+-|to|bis|à|and|und|et)\s+/giu;
const SECOND_LIMIT = /[\s,;]*(?:<=|≤|<|(?:and\s+|und\s+|et\s+)?max(?:imum|imal|\.)?)\s*(?=[-+\d.,–])/iuy;
const TRAILING_LIMIT = /[\s,]*\(?\b(min|max)(?:imum|imal|\.)?\)?$/i;
const LEADING_LIMIT = /^(min|max)(?:imum|imal|\.)?(?=\s|$)\s*/i;

const TIME = dimension(0, 0, 1);

/** @returns null where the text does not begin with a number after its words */
export function cutText(normal: string, spec: QuantitySpec): Cut | null {
	const scale = spec.scales === true ? (leadingScale(normal) ?? trailingScale(normal)) : null;
	const text = scale?.rest ?? normal;
	const opened = opening(text);
	const cut = cutSides(text, opened, spec);
	if (cut === null || scale === null) return cut;
	// a scale belongs to both ends; what still stands behind a number then is no unit
	if ([cut.first, cut.second].some((side) => side !== null && side.unit !== "" && scaleNamed(side.unit) !== scale.scale))
		return null;
	return {
		...cut,
		first: { ...cut.first, unit: scale.scale },
		second: cut.second === null ? null : { ...cut.second, unit: scale.scale },
	};
}

/** What stands before the first number: a limit, `about`, or the first word of a pair. */
function opening(text: string): { at: number; shape: QuantityShape; pair: boolean } {
	const between = BETWEEN.exec(text);
	if (between !== null) return { at: between[0].length, shape: "scalar", pair: true };
	for (const [pattern, shape] of [
		[LEAST, "at-least"],
		[MOST, "at-most"],
		[ABOUT, "approximate"],
	] as const) {
		const match = pattern.exec(text);
		if (match !== null) return { at: match[0].length, shape, pair: false };
	}
	return { at: 0, shape: "scalar", pair: false };
}

function cutSides(text: string, { at, shape: opened, pair }: ReturnType<typeof opening>, spec: QuantitySpec): Cut | null {
	const first = scanNumber(text, at);
	if (first === null) return null;
	// `from 20 to 30` is a range, `from 20` a limit
	const open = opened === "scalar" || opened === "approximate" || OPENING.test(text);
	const joined =
		(open ? directJoin(text, first.end) : null) ??
		(open ? unitJoin(text, first.end) : null) ??
		limitJoin(text, first.end, opened);
	if (joined !== null) {
		const unit = text.slice(joined.second.end).trim();
		// behind `±` a % is a share of the value, unless the quantity itself is shown in %
		const share = joined.shape === "plus-minus" && unit === "%" && spec.percent !== true;
		const alone = joined.unit === "" && first.exponent === 0 && !first.isProduct && !share;
		const shared = alone && joined.second.exponent !== 0 ? joined.second : null;
		return {
			shape: joined.shape,
			// `1.02-1.06·10^5` and `23 ± 2·10^-6` mean the power of ten for both numbers
			first: { number: shared?.isProduct === true ? { ...first, exponent: shared.exponent } : first, unit: joined.unit },
			second: { number: joined.second, unit },
			sharedExponent: shared !== null && !shared.isProduct,
			unitAt: joined.second.end,
			firstEnd: first.end,
		};
	}
	if (pair) return null;
	let unit = text.slice(first.end).trim();
	let shape = opened;
	if (shape === "scalar" && spec.dimension !== TIME) {
		const leading = LEADING_LIMIT.exec(unit);
		const limit = leading ?? TRAILING_LIMIT.exec(unit);
		if (limit !== null) {
			shape = limit[1]?.toLowerCase() === "min" ? "at-least" : "at-most";
			unit = (leading === null ? unit.slice(0, limit.index) : unit.slice(leading[0].length)).trim();
		}
	}
	return { shape, first: { number: first, unit }, second: null, sharedExponent: false, unitAt: first.end, firstEnd: first.end };
}

type Joined = { readonly second: NumberToken; readonly shape: QuantityShape; readonly unit: string };

/** A second number right behind the first: `101-109`, `23 ± 2`. */
function directJoin(text: string, at: number): Joined | null {
	JOINER.lastIndex = at;
	const match = JOINER.exec(text);
	const second = match === null ? null : scanNumber(text, JOINER.lastIndex);
	if (match === null || second === null) return null;
	return { second, shape: match[1] === undefined ? "range" : "plus-minus", unit: "" };
}

/** A second number behind the unit of the first: `98 GPa to 107 GPa`, `180 °C ± 5 K`. */
function unitJoin(text: string, at: number): Joined | null {
	UNIT_JOINER.lastIndex = at;
	for (let match = UNIT_JOINER.exec(text); match !== null; match = UNIT_JOINER.exec(text)) {
		const second = scanNumber(text, match.index + match[0].length);
		if (second === null) continue;
		const unit = text.slice(at, match.index).trim();
		return { second, shape: /±|\+\/?-/.test(match[0]) ? "plus-minus" : "range", unit };
	}
	return null;
}

/** An upper limit behind a lower one: `min 827, max 1034 N/mm2`, `>= 235 <= 355`. */
function limitJoin(text: string, at: number, opened: QuantityShape): Joined | null {
	if (opened !== "at-least") return null;
	for (let from = at; from < text.length && from < at + 24; from++) {
		SECOND_LIMIT.lastIndex = from;
		const match = SECOND_LIMIT.exec(text);
		const second = match === null ? null : scanNumber(text, SECOND_LIMIT.lastIndex);
		if (second !== null) return { second, shape: "range", unit: text.slice(at, from).trim() };
	}
	return null;
}
