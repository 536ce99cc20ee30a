import { fail, type Issue, ok, type Result } from "../result";
import { type Cut, cutText, type Side } from "./cut";
import { dimensionText, NONE } from "./dimension";
import { parsePlain } from "./fast";
import { normaliseText } from "./normalise";
import { type DecimalMark, type ExactNumber, isAmbiguous, readNumber } from "./number";
import { minus, plus, type Rational, scaled, times, toDouble } from "./rational";
import { scaleNamed } from "./scale";
import type { ParseOptions, Quantity, QuantityShape, QuantitySpec } from "./types";
import { exactSi, readUnit, toSi, type Unit, unitOf } from "./unit";
import { HARDNESS_SCALES } from "./units.data";

/**
 * Reads what an engineer types into a value field: `104.5 GPa`, `101-109 GPa`, `0,34`, `>= 118 MPa`, `23 ± 2 10^-6/K`.
 * Conversion is exact, rounded once to the nearest double.
 * @returns issue codes: `empty`, `not-a-number`, `unknown-unit`, `unit-missing`, `wrong-dimension`, `out-of-bounds`,
 *   `reversed-range`, `ambiguous-number` (with both readings as `choices`),
 *   `unclear-number` (another doubt; each of the `choices` reads as itself with a decimal point), `not-finite`
 * @example parseQuantity("2,71 g/cm³", density).value.low === 2710
 */
export function parseQuantity(text: string, spec: QuantitySpec, options: ParseOptions = {}): Result<Quantity> {
	const plain = parsePlain(text, spec);
	return plain === null ? parseGeneral(text, spec, options) : ok(plain);
}

/** The general reader; `parsePlain` must agree with it wherever it answers. */
export function parseGeneral(text: string, spec: QuantitySpec, options: ParseOptions = {}): Result<Quantity> {
	if (text.length > MOST_CHARACTERS)
		return fail({ code: "not-a-number", actual: `${text.slice(0, 40)}…`, expected: `at most ${MOST_CHARACTERS} characters` });
	const normal = normaliseText(text);
	if (normal === "") return fail({ code: "empty", expected: "a number" });
	const twice = TWICE.exec(normal);
	if (twice !== null) return saidTwice(text, [twice[1] as string, twice[2] as string], spec, options);
	const cut = cutText(normal, spec);
	return cut === null ? fail({ code: "not-a-number", actual: text }) : readCut({ text, normal }, cut, spec, options);
}

const MOST_CHARACTERS = 400;
/** One value in two units: `0.163 lb/in³ (4.51 g/cm³)`. */
const TWICE = /^([^()]*\d[^()]*(?:\([^()\d]*\)[^()]*)?)\s*\(\s*([-+<>=≥≤~≈]*\s*\d[^()]*(?:\([^()]*\)[^()]*)?)\)$/;

/** The first reading is taken when the second agrees with it within the rounding of both; else both are asked. */
function saidTwice(text: string, [a, b]: readonly [string, string], spec: QuantitySpec, options: ParseOptions): Result<Quantity> {
	const first = parseGeneral(a.trim(), spec, options);
	const second = parseGeneral(b.trim(), spec, options);
	if (!first.ok) return first;
	if (!second.ok) return fail({ ...(second.issues[0] as Issue), actual: b.trim() });
	if (sameWithinRounding(first.value, second.value)) return ok({ ...first.value, entered: text.trim() });
	return fail({
		code: "unclear-number",
		actual: text,
		expected: "the two do not agree",
		choices: [a.trim(), b.trim()],
	});
}

/** Do two readings of one quantity overlap, each end widened by half a unit of its last printed digit? */
export function sameWithinRounding(a: Quantity, b: Quantity): boolean {
	const ends = [
		[a.low, b.low],
		[a.high, b.high],
	] as const;
	return ends.every(([x, y], i) => {
		if (x === null || y === null) return x === y;
		return Math.abs(x - y) <= roundingOf(a, i) + roundingOf(b, i) + 1e-12 * Math.abs(x);
	});
}

/** Half a unit of the last printed digit of an end, SI. */
function roundingOf(q: Quantity, end: number): number {
	const index = q.digits.length > end ? end : 0;
	const digits = q.digits[index] ?? "0";
	const decimals = digits.split(".")[1]?.length ?? 0;
	const zeros = digits.includes(".") ? 0 : (/0*$/.exec(digits)?.[0].length ?? 0);
	const step = 10 ** ((q.exponents[index] ?? 0) + zeros - decimals);
	const unit = readUnit(q.unit, [])?.unit;
	const si = end === 0 ? q.low : q.high;
	if (unit === undefined || si === null) return 0;
	// of a reciprocal the same share of the value
	return q.reciprocal ? Math.abs(si) * (step / 2 / Math.max(Math.abs(Number(digits)), step)) : (step / 2) * unit.approximate;
}

function readCut(
	{ text, normal }: { readonly text: string; readonly normal: string },
	cut: Cut,
	spec: QuantitySpec,
	options: ParseOptions,
): Result<Quantity> {
	const units = readUnits(cut, spec, options, text);
	if (!units.ok) return units;
	const entered = enteredText(text, normal, cut, units.value);
	// with the field's unit behind it the text has to stay one that reads
	if (entered.length > MOST_CHARACTERS)
		return fail({ code: "not-a-number", actual: `${text.slice(0, 40)}…`, expected: `at most ${MOST_CHARACTERS} characters` });
	const settle = (c: Cut): Result<Quantity> => {
		const open = isAmbiguous(c.first.number) || (c.second !== null && isAmbiguous(c.second.number));
		return open && options.decimalMark === undefined
			? settleMark({ text, entered, cut: c, units: units.value }, spec)
			: evaluate({ text, entered, cut: c, units: units.value }, spec, options.decimalMark ?? null);
	};
	if (!cut.sharedExponent || cut.second === null) return settle(cut);
	// `20-30e-6`: the power of ten may belong to both numbers
	const exponent = cut.second.number.exponent;
	const both = settle({ ...cut, first: { ...cut.first, number: { ...cut.first.number, exponent } } });
	const apart = settle(cut);
	if (!apart.ok) return both;
	if (!both.ok) return apart;
	return fail({
		code: "unclear-number",
		actual: text,
		choices: [shown(both.value), shown(apart.value)],
	});
}

/** The text with the field's unit behind its last number, where the field supplied it. */
function enteredText(text: string, normal: string, cut: Cut, units: Units): string {
	if (units.supplied === null || units.supplied === "1") return text.trim();
	const at = units.relative ? cut.firstEnd : cut.unitAt;
	const tail = normal.slice(at).trim();
	return tail === "" ? `${text.trim()} ${units.supplied}` : `${normal.slice(0, at)} ${units.supplied} ${tail}`;
}

/** A text taken apart: as typed, as it is kept, where it is cut, and in which units. */
type Typed = { readonly text: string; readonly entered: string; readonly cut: Cut; readonly units: Units };

/** Both decimal marks are tried; the only one inside the hard bounds wins, two are a question. */
function settleMark(typed: Typed, spec: QuantitySpec): Result<Quantity> {
	const { cut } = typed;
	const open = isAmbiguous(cut.first.number) ? cut.first.number : (cut.second as Side).number;
	const written = open.body.includes(",") ? "," : ".";
	const other = written === "," ? "." : ",";
	const asDecimal = evaluate(typed, spec, written);
	const asThousands = evaluate(typed, spec, other);
	if (!asThousands.ok) return asDecimal;
	if (!asDecimal.ok) return asThousands;
	return fail({
		code: "ambiguous-number",
		actual: typed.text,
		expected: "one reading",
		choices: [shown(asDecimal.value), shown(asThousands.value)],
	});
}

/** A reading as a text that reads as itself. */
function shown(q: Quantity): string {
	const written = q.digits.map((digits, i) => {
		const exponent = q.exponents[i] ?? 0;
		return exponent === 0 ? digits : `${digits}e${exponent}`;
	});
	// beside a power of ten of its own each end says its unit, or the power would be read for both
	const own = q.unit !== "1" && (q.secondUnit !== undefined || q.exponents[0] !== q.exponents[1]) ? ` ${q.unit}` : "";
	const unit = q.secondUnit ?? q.unit;
	const [first = "", second] = written;
	const sign = q.shape === "at-least" ? ">= " : q.shape === "at-most" ? "<= " : q.shape === "approximate" ? "~ " : "";
	const text = second === undefined ? `${sign}${first}` : `${first}${own}${q.shape === "plus-minus" ? " ± " : " – "}${second}`;
	return unit === "1" ? text : `${text} ${unit}`;
}

type Units = {
	readonly first: Unit;
	readonly second: Unit;
	readonly reciprocal: boolean;
	/** What follows `±` is a share of the value, in the second unit. */
	readonly relative: boolean;
	readonly supplied: string | null;
};

function readUnits(cut: Cut, spec: QuantitySpec, options: ParseOptions, text: string): Result<Units> {
	const relative =
		cut.shape === "plus-minus" &&
		cut.second?.unit === "%" &&
		cut.first.unit !== "%" &&
		!(cut.first.unit === "" && spec.percent === true);
	const written = cut.second === null || relative ? cut.first.unit : cut.second.unit || cut.first.unit;
	const supplied = written === "" ? (options.fieldUnit ?? (spec.bareIsSi ? "1" : null)) : null;
	if (written === "" && supplied === null) {
		const expected = spec.scales ? `a hardness scale (${HARDNESS_SCALES.join(", ")})` : `a unit such as ${spec.siUnit}`;
		return fail({ code: "unit-missing", actual: text, expected, unit: spec.siUnit });
	}
	const main = oneUnit(supplied === null ? written : normaliseText(supplied), spec);
	if (!main.ok) return main;
	const { unit, reciprocal } = main.value;
	if (relative) return ok({ first: unit, second: unitOf("%"), reciprocal, relative, supplied });
	if (cut.second === null || cut.first.unit === "" || cut.first.unit === written)
		return ok({ first: unit, second: unit, reciprocal, relative, supplied });
	const first = oneUnit(cut.first.unit, spec);
	if (!first.ok) return first;
	if (first.value.reciprocal !== reciprocal) return fail({ code: "wrong-dimension", actual: cut.first.unit, expected: written });
	return ok({ first: first.value.unit, second: unit, reciprocal, relative, supplied });
}

function oneUnit(text: string, spec: QuantitySpec): Result<{ unit: Unit; reciprocal: boolean }> {
	if (spec.scales) {
		const scale = HARDNESS_SCALES.find((s) => s === text) ?? scaleNamed(text);
		if (scale === null || scale === undefined) {
			return fail({ code: "unknown-unit", actual: text, expected: `a hardness scale (${HARDNESS_SCALES.join(", ")})` });
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

function evaluate({ text, entered, cut, units }: Typed, spec: QuantitySpec, mark: DecimalMark | null): Result<Quantity> {
	const numbers: ExactNumber[] = [];
	const sides = cut.second === null ? [cut.first] : [cut.first, cut.second];
	for (const side of sides) {
		const number = readNumber(side.number, mark);
		if (number === null) return fail({ code: "not-a-number", actual: text });
		// beyond any double, and beyond what exact arithmetic should be asked to hold
		if (tooLarge(number)) return notFinite(text);
		numbers.push(number);
	}
	const [first, second = null] = numbers as [ExactNumber, ExactNumber?];
	let [low, high] = ends(cut.shape, first, second, units);
	if (low !== null && high !== null && low > high) {
		const expected = cut.shape === "plus-minus" ? "a half-width above zero" : "the smaller end first";
		return fail({ code: "reversed-range", actual: text, expected });
	}
	if (units.reciprocal) {
		if (low === 0 || high === 0) return fail({ code: "out-of-bounds", actual: text, expected: "not zero" });
		[low, high] = [reciprocalSi(cut, second ?? first, units.second, high), reciprocalSi(cut, first, units.first, low)];
	}
	for (const si of [low, high]) {
		if (si !== null && !Number.isFinite(si)) return notFinite(text);
		if (si !== null && !withinBounds(si, spec)) return fail(outOfBounds(text, si, spec));
	}
	const usedMark = sides.some((side) => isAmbiguous(side.number)) ? mark : null;
	const same = units.first.text === units.second.text;
	return ok({
		shape: cut.shape,
		low,
		high,
		siUnit: spec.siUnit,
		unit: units.first.text || "1",
		...(same ? {} : { secondUnit: units.second.text || "1" }),
		digits: numbers.map((n) => n.digits),
		exponents: sides.map((side) => side.number.exponent),
		reciprocal: units.reciprocal,
		mark: usedMark,
		entered,
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
	if (shape !== "plus-minus") return [toSi(a, units.first), toSi(b, units.second)];
	// the half-width is a difference in its own unit, or a share of the number as it is written
	if (units.relative || units.first.text === units.second.text) {
		const half = units.relative ? times(a.n < 0n ? { n: -a.n, d: a.d } : a, times(b, units.second.factor)) : b;
		return [toSi(minus(a, half), units.first), toSi(plus(a, half), units.first)];
	}
	const centre = exactSi(a, units.first);
	const half = exactSi(b, units.second, "difference");
	if (centre !== null && half !== null) return [toDouble(minus(centre, half)), toDouble(plus(centre, half))];
	const [c, h] = [toSi(a, units.first), toSi(b, units.second, "difference")];
	return [c - h, c + h];
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
