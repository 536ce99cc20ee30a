import { type Rational, scaled, times, toDouble } from "./rational";
import type { Quantity, QuantitySpec } from "./types";
import { KNOWN_UNITS, type Unit } from "./unit";

/**
 * The everyday case, `2.71 g/cm3`: one plain decimal number and a unit known by its text. About ten times as fast as
 * the general reader, and equal to it digit for digit (a test compares the two, and that this one was really taken).
 * Whatever is not plain is left to the general reader.
 */
type Ready = {
	readonly unit: Unit;
	/**
	 * Factor x 10^k for k = -SPAN .. SPAN as unevaluated sums of two doubles, [high, low] pairs: 106 bits are enough to
	 * round the product once and correctly. Null for a power of ten, where shifting the exponent is exact.
	 */
	readonly pairs: Float64Array | null;
};

const SPAN = 9;
/** Integers up to 2^53 and powers of ten up to 10^22 are exact doubles, so one operation on them rounds correctly. */
const EXACT_DIGITS = 15;
const EXACT_TENS = 22;
const TENS = Float64Array.from({ length: EXACT_TENS + 1 }, (_, k) => Number(`1e${k}`));
/** Relative error of the product of a double with a double-double, generously: 2^-98. */
const PRODUCT_ERROR = 2 ** -98;

const READY: ReadonlyMap<string, Ready> = new Map(
	[...KNOWN_UNITS]
		.filter(([, unit]) => !unit.root && unit.offset.n === 0n)
		.map(([text, unit]) => [text, { unit, pairs: unit.tens === null ? pairsOf(unit.factor) : null }]),
);

function pairsOf(factor: Rational): Float64Array {
	const pairs = new Float64Array(2 * (2 * SPAN + 1));
	for (let k = -SPAN; k <= SPAN; k++) {
		const exact = times(factor, scaled(1n, k));
		const high = toDouble(exact);
		pairs[2 * (k + SPAN)] = high;
		pairs[2 * (k + SPAN) + 1] = toDouble(difference(exact, high));
	}
	return pairs;
}

/** `a - x` exactly: a double is a whole number of 2^-1074. */
function difference(a: Rational, x: number): Rational {
	const bits = new BigUint64Array(new Float64Array([x]).buffer)[0] as bigint;
	const exponent = Number((bits >> 52n) & 0x7ffn) - 1075;
	const mantissa = (bits & 0xfffffffffffffn) | 0x10000000000000n;
	const whole: Rational =
		exponent >= 0 ? { n: mantissa << BigInt(exponent), d: 1n } : { n: mantissa, d: 1n << BigInt(-exponent) };
	return { n: a.n * whole.d - whole.n * a.d, d: a.d * whole.d };
}

/** @returns null when the general reader has to look at it */
export function parsePlain(text: string, spec: QuantitySpec): Quantity | null {
	const length = text.length;
	let at = text.charCodeAt(0) === 45 ? 1 : 0;
	const first = at;
	let mantissa = 0;
	let mark = -1;
	for (; at < length; at++) {
		const c = text.charCodeAt(at);
		const digit = c - 48;
		if (digit >= 0 && digit <= 9) mantissa = mantissa * 10 + digit;
		else if ((c === 46 || c === 44) && mark < 0) mark = at;
		else break;
	}
	const count = at - first - (mark < 0 ? 0 : 1);
	const decimals = mark < 0 ? 0 : at - mark - 1;
	if (count === 0 || count > EXACT_DIGITS || mark === first || (mark >= 0 && decimals === 0)) return null;
	let exponent = 0;
	const numberEnd = at;
	const e = text.charCodeAt(at);
	if (e === 101 || e === 69) {
		const sign = text.charCodeAt(at + 1);
		const from = sign === 43 || sign === 45 ? at + 2 : at + 1;
		at = from;
		for (; at < length; at++) {
			const digit = text.charCodeAt(at) - 48;
			if (!(digit >= 0 && digit <= 9)) break;
			exponent = exponent * 10 + digit;
		}
		if (at === from || at > from + 3) return null;
		if (sign === 45) exponent = -exponent;
	}
	// thousands or decimals? a question for the general reader
	if (exponent === 0 && decimals === 3 && mark - first <= 3 && text.charCodeAt(first) !== 48) return null;
	if (text.charCodeAt(at) === 32) at++;
	const ready = READY.get(at === 0 ? text : text.slice(at));
	if (ready === undefined || ready.unit.dimension !== spec.dimension || spec.scales === true) return null;
	const magnitude = convert(mantissa, exponent - decimals, ready);
	if (magnitude === null) return null;
	const si = first === 1 ? 0 - magnitude : magnitude; // never -0, which JSON cannot hold
	const aboveMin = spec.min === undefined || si > spec.min || (si === spec.min && spec.minExclusive !== true);
	if (!aboveMin || (spec.max !== undefined && si > spec.max)) return null;
	const typed = text.slice(0, numberEnd);
	return {
		shape: "scalar",
		low: si,
		high: si,
		siUnit: spec.siUnit,
		unit: ready.unit.text,
		digits: [mark >= 0 && text.charCodeAt(mark) === 44 ? typed.replace(",", ".") : typed],
		exponents: [exponent],
		reciprocal: false,
		mark: null,
		entered: text,
	};
}

/** mantissa x 10^e10 x factor, rounded once to the nearest double; null where that is not certain. */
function convert(mantissa: number, e10: number, { unit, pairs }: Ready): number | null {
	if (pairs === null) {
		const shift = e10 + (unit.tens as number);
		if (shift >= 0) return shift <= EXACT_TENS ? mantissa * (TENS[shift] as number) : null;
		return shift >= -EXACT_TENS ? mantissa / (TENS[-shift] as number) : null;
	}
	if (e10 < -SPAN || e10 > SPAN) return null;
	const high = pairs[2 * (e10 + SPAN)] as number;
	const low = pairs[2 * (e10 + SPAN) + 1] as number;
	// Dekker's product: p + tail = mantissa * high exactly
	const p = mantissa * high;
	const a = split(mantissa);
	const b = split(high);
	const tail = (mantissa - a) * (high - b) - (p - a * b - (mantissa - a) * b - a * (high - b));
	const rest = tail + mantissa * low;
	// Ziv's test: when the smallest possible error could turn the rounding, exact arithmetic decides
	const slack = p * PRODUCT_ERROR;
	const rounded = p + (rest + slack);
	return rounded === p + (rest - slack) ? rounded : null;
}

/** The upper half of a double's bits (Veltkamp). */
function split(x: number): number {
	const c = 134217729 * x;
	return c - (c - x);
}
