/** Exact fractions, so that a conversion is rounded once, at the very end. */
export type Rational = { readonly n: bigint; readonly d: bigint };

export const ZERO: Rational = { n: 0n, d: 1n };

/** 10^k as a bigint, k >= 0. */
export function tenTo(k: number): bigint {
	return 10n ** BigInt(k);
}

/** `mantissa * 10^e10` as a fraction. */
export function scaled(mantissa: bigint, e10: number): Rational {
	return e10 >= 0 ? { n: mantissa * tenTo(e10), d: 1n } : { n: mantissa, d: tenTo(-e10) };
}

/** Reads a decimal such as `0.45359237` or a quotient chain such as `4.448/0.0254/0.0254`. Tables only. */
export function exact(text: string): Rational {
	const [first = "", ...rest] = text.split("/");
	return rest.map(decimal).reduce((a, b) => ({ n: a.n * b.d, d: a.d * b.n }), decimal(first));
}

function decimal(text: string): Rational {
	const [mantissa = "", exponent = "0"] = text.split("e");
	const point = mantissa.indexOf(".");
	const decimals = point < 0 ? 0 : mantissa.length - point - 1;
	return scaled(BigInt(mantissa.replace(".", "")), Number(exponent) - decimals);
}

export function times(a: Rational, b: Rational): Rational {
	return { n: a.n * b.n, d: a.d * b.d };
}

export function plus(a: Rational, b: Rational): Rational {
	return a.d === b.d ? { n: a.n + b.n, d: a.d } : { n: a.n * b.d + b.n * a.d, d: a.d * b.d };
}

export function minus(a: Rational, b: Rational): Rational {
	return plus(a, { n: -b.n, d: b.d });
}

/** `a^k` for an integer k; `a` is not zero when k < 0. */
export function power(a: Rational, k: number): Rational {
	const exponent = BigInt(Math.abs(k));
	return k >= 0 ? { n: a.n ** exponent, d: a.d ** exponent } : { n: a.d ** exponent, d: a.n ** exponent };
}

/** The double nearest to n/d, ties to even. Infinite when it is beyond the largest double. */
export function toDouble({ n, d }: Rational): number {
	if (n === 0n) return 0;
	const negative = n < 0n !== d < 0n;
	const a = n < 0n ? -n : n;
	const b = d < 0n ? -d : d;
	// keep 66 or more bits of the quotient plus a sticky bit; Number() then rounds once and correctly
	const shift = 66 + bits(b) - bits(a);
	const quotient = shift >= 0 ? (a << BigInt(shift)) / b : a / (b << BigInt(-shift));
	const remainder = shift >= 0 ? (a << BigInt(shift)) % b : a % (b << BigInt(-shift));
	return sign(Number(remainder === 0n ? quotient : quotient | 1n) * 2 ** -shift, negative);
}

/** The double nearest to sqrt(n/d). */
export function rootToDouble({ n, d }: Rational): number {
	if (n === 0n) return 0;
	let shift = 132 + bits(d) - bits(n);
	if (shift % 2 !== 0) shift += 1;
	const quotient = shift >= 0 ? (n << BigInt(shift)) / d : n / (d << BigInt(-shift));
	const root = integerRoot(quotient);
	// the root is irrational or the remainder non-zero unless all is exact
	const inexact = root * root !== quotient || (shift >= 0 ? (n << BigInt(shift)) % d : 1n) !== 0n;
	return Number(inexact ? root | 1n : root) * 2 ** (-shift / 2);
}

function sign(x: number, negative: boolean): number {
	return negative ? -x : x;
}

function bits(x: bigint): number {
	const hex = x.toString(16);
	return hex.length * 4 - Math.clz32(Number.parseInt(hex[0] as string, 16)) + 28;
}

/** Newton's integer square root, rounded down. */
function integerRoot(x: bigint): bigint {
	let r = 1n << BigInt((bits(x) + 1) >> 1);
	for (;;) {
		const next = (r + x / r) >> 1n;
		if (next >= r) return r;
		r = next;
	}
}
