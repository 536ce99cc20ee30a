import { fail, type Issue, ok, type Result } from "../result";
import { dimensionText, NONE } from "./dimension";
import { parsePlain } from "./fast";
import { normaliseText } from "./normalise";
import { type DecimalMark, type ExactNumber, isAmbiguous, type NumberToken, readNumber, scanNumber } from "./number";
import { minus, plus, type Rational, scaled } from "./rational";
import type { ParseOptions, Quantity, QuantityShape, QuantitySpec } from "./types";
import { readUnit, toSi, type Unit, unitOf } from "./unit";
import { HARDNESS_SCALES } from "./units.data";

const LEAST = /^(?:>=|≥|=>|>|min(?:imum)?\b\.?|mind(?:estens\b|\.)|at least\b|from\b)\s*/i;
const MOST = /^(?:<=|≤|=<|<|max(?:imum)?\b\.?|höchstens\b|at most\b|up to\b)\s*/i;
const ABOUT = /^(?:~|≈|ca\.?(?=[\s\d])|approx\.?|about\b)\s*/i;
const SEPARATOR = /\s*(?:\.{2,3}|…|–|—|-|\bto\b|\bbis\b)\s*/y;
const PLUS_MINUS = /\s*(?:±|\+\/-|\+-)\s*/y;
const TRAILING_SEPARATOR = /\s+(?:-|–|—|to|bis)\s+|\s*(?:\.{2,3}|…|–|—|±|\+\/-)\s*/;
const TRAILING_LIMIT = /\s*\b(min|max)\.?(?:imum)?\s*$/i;

/** The text cut into its parts; nothing is evaluated yet. */
type Cut = {
	shape: QuantityShape;
	first: NumberToken;
	second: NumberToken | null;
	unit: string;
	/** The first number's own unit, when both have one: `98 GPa to 107 GPa`. */
	firstUnit: string | null;
};

/**
 * Reads what an engineer types into a value field: `104.5 GPa`, `101-109 GPa`, `0,34`, `>= 118 MPa`, `23 ± 2 10^-6/K`.
 * Conversion is exact, rounded once to the nearest double.
 * @returns issue codes: `empty`, `not-a-number`, `unknown-unit`, `unit-missing`, `wrong-dimension`, `out-of-bounds`,
 *   `reversed-range`, `ambiguous-number` (with both readings as `choices`), `not-finite`
 * @example parseQuantity("2,71 g/cm³", density).value.low === 2710
 */
export function parseQuantity(text: string, spec: QuantitySpec, options: ParseOptions = {}): Result<Quantity> {
	const plain = parsePlain(text, spec);
	return plain === null ? parseGeneral(text, spec, options) : ok(plain);
}

/** The general reader; `parsePlain` must agree with it wherever it answers. */
export function parseGeneral(text: string, spec: QuantitySpec, options: ParseOptions = {}): Result<Quantity> {
	if (text.length > 400)
		return fail({ code: "not-a-number", actual: `${text.slice(0, 40)}…`, expected: "at most 400 characters" });
	const normal = normaliseText(text);
	if (normal === "") return fail({ code: "empty", expected: "a number" });
	const cut = cutText(normal);
	if (cut === null) return fail({ code: "not-a-number", actual: text });

	const units = readUnits(cut, spec, options, text);
	if (!units.ok) return units;

	const open = isAmbiguous(cut.first) || (cut.second !== null && isAmbiguous(cut.second));
	if (!open || options.decimalMark !== undefined) {
		return evaluate(text, cut, units.value, spec, options.decimalMark ?? null);
	}
	return settleMark(text, cut, units.value, spec);
}

/** Both decimal marks are tried; the only one inside the hard bounds wins, two are a question. */
function settleMark(text: string, cut: Cut, units: Units, spec: QuantitySpec): Result<Quantity> {
	const written = (isAmbiguous(cut.first) ? cut.first : (cut.second as NumberToken)).body.includes(",") ? "," : ".";
	const other = written === "," ? "." : ",";
	const asDecimal = evaluate(text, cut, units, spec, written);
	const asThousands = evaluate(text, cut, units, spec, other);
	if (!asThousands.ok) return asDecimal;
	if (!asDecimal.ok) return asThousands;
	return fail({
		code: "ambiguous-number",
		actual: text,
		expected: "one reading",
		choices: [shown(asDecimal.value), shown(asThousands.value)],
	});
}

function shown(q: Quantity): string {
	return `${q.digits.join("–")} ${q.unit}`.trim();
}

function cutText(normal: string): Cut | null {
	let shape: QuantityShape = "scalar";
	let rest = normal;
	for (const [pattern, meaning] of [
		[LEAST, "at-least"],
		[MOST, "at-most"],
		[ABOUT, "approximate"],
	] as const) {
		const match = pattern.exec(rest);
		if (match === null) continue;
		shape = meaning;
		rest = rest.slice(match[0].length);
		break;
	}
	const first = scanNumber(rest, 0);
	if (first === null) return null;

	let second: NumberToken | null = null;
	let firstUnit: string | null = null;
	let unitAt = first.end;
	if (shape === "scalar" || shape === "approximate") {
		const joined = joinedNumber(rest, first.end);
		if (joined !== null) {
			({ second, shape } = joined);
			unitAt = second.end;
		}
	}
	let unit = rest.slice(unitAt).trim();
	if (second === null) {
		const separator = TRAILING_SEPARATOR.exec(unit);
		const next = separator === null ? null : scanNumber(unit, separator.index + separator[0].length);
		if (separator !== null && next !== null && (shape === "scalar" || shape === "approximate")) {
			shape = /±|\+\/-/.test(separator[0]) ? "plus-minus" : "range";
			firstUnit = unit.slice(0, separator.index).trim();
			second = next;
			unit = unit.slice(next.end).trim();
		}
		const limit = TRAILING_LIMIT.exec(unit);
		if (limit !== null && second === null && shape === "scalar") {
			shape = limit[1]?.toLowerCase() === "min" ? "at-least" : "at-most";
			unit = unit.slice(0, limit.index).trim();
		}
	}
	// `1.02-1.06·10^5` and `23 ± 2·10^-6` mean the power of ten for both numbers
	const shared = second?.isProduct === true && first.exponent === 0 && firstUnit === null ? second.exponent : 0;
	return { shape, first: shared === 0 ? first : { ...first, exponent: shared }, second, unit, firstUnit };
}

/** A second number right behind the first: `101-109`, `23 ± 2`. */
function joinedNumber(text: string, at: number): { second: NumberToken; shape: QuantityShape } | null {
	for (const [pattern, shape] of [
		[PLUS_MINUS, "plus-minus"],
		[SEPARATOR, "range"],
	] as const) {
		pattern.lastIndex = at;
		if (pattern.exec(text) === null) continue;
		const second = scanNumber(text, pattern.lastIndex);
		if (second !== null) return { second, shape };
	}
	return null;
}

type Units = { readonly first: Unit; readonly second: Unit; readonly reciprocal: boolean; readonly supplied: string | null };

function readUnits(cut: Cut, spec: QuantitySpec, options: ParseOptions, text: string): Result<Units> {
	const secondText = cut.unit === "" && cut.firstUnit !== null ? cut.firstUnit : cut.unit;
	const supplied = secondText === "" ? (options.fieldUnit ?? (spec.bareIsSi ? "1" : null)) : null;
	if (secondText === "" && supplied === null) {
		const expected = spec.scales ? `a hardness scale (${HARDNESS_SCALES.join(", ")})` : `a unit such as ${spec.siUnit}`;
		return fail({ code: "unit-missing", actual: text, expected, unit: spec.siUnit });
	}
	const second = oneUnit(supplied === null ? secondText : normaliseText(supplied), spec);
	if (!second.ok) return second;
	if (cut.firstUnit === null || cut.firstUnit === secondText) {
		return ok({ first: second.value.unit, second: second.value.unit, reciprocal: second.value.reciprocal, supplied });
	}
	const first = oneUnit(cut.firstUnit, spec);
	if (!first.ok) return first;
	if (first.value.reciprocal !== second.value.reciprocal) {
		return fail({ code: "wrong-dimension", actual: cut.firstUnit, expected: secondText });
	}
	return ok({ first: first.value.unit, second: second.value.unit, reciprocal: second.value.reciprocal, supplied });
}

function oneUnit(text: string, spec: QuantitySpec): Result<{ unit: Unit; reciprocal: boolean }> {
	if (spec.scales) {
		const squeezed = text.replace(/\s+/g, "").toLowerCase();
		const scale = HARDNESS_SCALES.find(
			(s) => s.replace(" ", "").toLowerCase() === squeezed || (s === "HBW" && squeezed === "hb"),
		);
		if (scale === undefined) {
			return fail({ code: "unknown-unit", actual: text, expected: `one of ${HARDNESS_SCALES.join(", ")}` });
		}
		return ok({ unit: { ...unitOf("1"), text: scale }, reciprocal: false });
	}
	const wanted = spec.reciprocal ? [spec.dimension, -spec.dimension] : [spec.dimension];
	const reading = readUnit(text, wanted);
	if (reading === null) return fail(unknownUnit(text, spec));
	if (!reading.fits) {
		return fail({
			code: "wrong-dimension",
			actual: `${text} (${dimensionText(reading.unit.dimension)})`,
			expected: `${spec.siUnit} (${dimensionText(spec.dimension)})`,
			unit: spec.siUnit,
		});
	}
	return ok({ unit: reading.unit, reciprocal: spec.dimension !== NONE && reading.unit.dimension !== spec.dimension });
}

/** Names the unit that was probably meant when only the case of letters is off. */
function unknownUnit(text: string, spec: QuantitySpec): Issue {
	const likely = [
		"Pa",
		"kPa",
		"MPa",
		"GPa",
		"psi",
		"ksi",
		"Msi",
		"kg/m^3",
		"g/cm^3",
		"N/mm^2",
		"W/(m·K)",
		"J/(kg·K)",
		"K",
		"°C",
	].filter((u) => u.toLowerCase() === text.toLowerCase() && unitOf(u).dimension === spec.dimension);
	return { code: "unknown-unit", actual: text, expected: `a unit such as ${spec.siUnit}`, unit: spec.siUnit, choices: likely };
}

function evaluate(text: string, cut: Cut, units: Units, spec: QuantitySpec, mark: DecimalMark | null): Result<Quantity> {
	const first = readNumber(cut.first, mark);
	const second = cut.second === null ? null : readNumber(cut.second, mark);
	if (first === null || (cut.second !== null && second === null)) return fail({ code: "not-a-number", actual: text });
	// beyond any double, and beyond what exact arithmetic should be asked to hold
	if (tooLarge(first) || (second !== null && tooLarge(second))) return notFinite(text);

	let [low, high] = ends(cut.shape, first, second, units);
	if (cut.shape === "range" && low !== null && high !== null && low > high) {
		return fail({ code: "reversed-range", actual: text, expected: "the smaller end first" });
	}
	if (units.reciprocal) {
		if (low === 0 || high === 0) return fail({ code: "out-of-bounds", actual: text, expected: "not zero" });
		[low, high] = [reciprocalSi(cut, second ?? first, units.second, high), reciprocalSi(cut, first, units.first, low)];
	}
	for (const si of [low, high]) {
		if (si !== null && !Number.isFinite(si)) return notFinite(text);
		if (si !== null && !withinBounds(si, spec)) return fail(outOfBounds(text, si, spec));
	}
	const numbers = second === null ? [first] : [first, second];
	const usedMark = isAmbiguous(cut.first) || (cut.second !== null && isAmbiguous(cut.second)) ? mark : null;
	return ok({
		shape: cut.shape,
		low,
		high,
		siUnit: spec.siUnit,
		unit: units.second.text || "1",
		digits: numbers.map((n) => n.digits),
		exponents: cut.second === null ? [cut.first.exponent] : [cut.first.exponent, cut.second.exponent],
		reciprocal: units.reciprocal,
		mark: usedMark,
		entered: units.supplied === null || units.supplied === "1" ? text.trim() : `${text.trim()} ${units.supplied}`,
	});
}

function ends(
	shape: QuantityShape,
	first: ExactNumber,
	second: ExactNumber | null,
	units: Units,
): [number | null, number | null] {
	const a = scaled(first.mantissa, first.e10);
	if (second === null) {
		const si = toSi(a, units.first);
		return [shape === "at-most" ? null : si, shape === "at-least" ? null : si];
	}
	const b = scaled(second.mantissa, second.e10);
	if (shape === "plus-minus") return [toSi(minus(a, b), units.second), toSi(plus(a, b), units.second)];
	return [toSi(a, units.first), toSi(b, units.second)];
}

/** 1/x, again rounded only once; an open end stays open. */
function reciprocalSi(cut: Cut, number: ExactNumber, unit: Unit, direct: number | null): number | null {
	if (direct === null) return null;
	if (cut.shape === "plus-minus" || unit.root) return 1 / direct;
	const x: Rational = scaled(number.mantissa, number.e10);
	const turned = unit.factor;
	return toSi({ n: x.d, d: x.n }, { ...unit, factor: { n: turned.d, d: turned.n } });
}

function tooLarge(n: ExactNumber): boolean {
	return Math.abs(n.e10) > 400;
}

function notFinite(text: string): Result<never> {
	return fail({ code: "not-finite", actual: text, expected: "a number below 1e308" });
}

function withinBounds(si: number, spec: QuantitySpec): boolean {
	if (spec.min !== undefined && (si < spec.min || (spec.minExclusive === true && si === spec.min))) return false;
	return spec.max === undefined || si <= spec.max;
}

function outOfBounds(text: string, si: number, spec: QuantitySpec): Issue {
	const above = spec.min === undefined ? null : `${spec.minExclusive ? "above" : "at least"} ${spec.min}`;
	const below = spec.max === undefined ? null : `at most ${spec.max}`;
	const expected = [above, below].filter((s) => s !== null).join(" and ");
	return { code: "out-of-bounds", actual: `${text} = ${si} ${spec.siUnit}`, expected, unit: spec.siUnit };
}
