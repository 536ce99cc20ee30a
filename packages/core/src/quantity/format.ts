import type { Quantity } from "./types";
import { fromSi, readUnit, type Unit, unitOf } from "./unit";

/** A quantity ready for the screen: numerals without unit, unit apart. Open ends are null. */
export type Shown = {
	readonly shape: Quantity["shape"];
	readonly low: string | null;
	readonly high: string | null;
	readonly unit: string;
};

/**
 * Writes a quantity in another unit with the digits it was typed with: `2710 kg/m3` in g/cm^3 is `2.71`, `2.70` stays
 * `2.70`, and a conversion by an odd factor keeps as many significant digits as were typed (at least three).
 */
export function showQuantity(q: Quantity, unit: string): Shown {
	const target = unitOf(unit);
	const sources = [q.unit, q.secondUnit ?? q.unit].map((text) => {
		const read = readUnit(text, [target.dimension]);
		return read?.fits === true ? read.unit : null;
	});
	const show = (si: number | null, index: number): string | null => {
		if (si === null) return null;
		const digits = q.digits[index] ?? q.digits[0] ?? "";
		const exponent = q.exponents[index] ?? q.exponents[0] ?? 0;
		const source = sources[index] ?? null;
		if (source !== null && !q.reciprocal && q.shape !== "plus-minus") {
			const shift = pointShift(source, target);
			if (shift !== null) return shiftPoint(digits, exponent + shift);
		}
		return significant(fromSi(si, target), Math.min(Math.max(significantDigits(digits), 3), 8));
	};
	const low = show(q.low, 0);
	const high = q.high === q.low ? low : show(q.high, q.low === null ? 0 : 1);
	return { shape: q.shape, low, high, unit };
}

/** How far the decimal point moves from one unit to another; null when that is not all. */
function pointShift(source: Unit, target: Unit): number | null {
	if (source.offset.n !== target.offset.n || source.offset.d !== target.offset.d) return null;
	if (source.text === target.text) return 0;
	const ratio = { n: source.factor.n * target.factor.d, d: source.factor.d * target.factor.n };
	if (source.root || target.root) return ratio.n === ratio.d && source.root === target.root ? 0 : null;
	const log = Math.round(Math.log10(source.approximate / target.approximate));
	const exact = log >= 0 ? ratio.n === ratio.d * 10n ** BigInt(log) : ratio.n * 10n ** BigInt(-log) === ratio.d;
	return exact ? log : null;
}

/** Moves the decimal point of typed digits: no digit is gained or lost, but padding zeros of whole numbers go. */
export function shiftPoint(digits: string, by: number): string {
	const negative = digits.startsWith("-");
	const [whole = "", decimals = ""] = digits.replace("-", "").split(".");
	const padding = decimals === "" && by < 0 ? (/0*$/.exec(whole)?.[0].length ?? 0) : 0;
	const all = whole + decimals;
	const point = whole.length + by;
	let text: string;
	if (point >= all.length) text = all.padEnd(point, "0");
	else if (point <= 0) text = `0.${"0".repeat(-point)}${all}`;
	else text = `${all.slice(0, point)}.${all.slice(point)}`;
	const removable = text.includes(".") ? Math.min(padding, /0*$/.exec(text)?.[0].length ?? 0) : 0;
	text = removable > 0 ? text.slice(0, -removable).replace(/\.$/, "") : text;
	text = text.replace(/^0+(?=\d)/, "");
	return (negative ? "-" : "") + text;
}

/** Digits that carry information: `0.0340` has three, `68900` three. */
export function significantDigits(digits: string): number {
	const plain = digits.replace("-", "").replace(/^0*\.?0*/, "");
	if (!digits.includes(".")) return Math.max(plain.replace(/0+$/, "").length, 1);
	return Math.max(plain.replace(".", "").length, 1);
}

/** A double with `count` significant digits, never in exponent form between 1e-6 and 1e15. */
export function significant(x: number, count: number): string {
	if (x === 0) return "0";
	const rounded = Number(x.toPrecision(count));
	const decimals = Math.max(0, count - 1 - Math.floor(Math.log10(Math.abs(rounded))));
	if (Math.abs(rounded) >= 1e15 || decimals > 20) return rounded.toExponential(count - 1);
	return rounded.toFixed(Math.min(decimals, 20));
}

/** Typography: a real minus, thin spaces between thousands of five digits and more. */
export function typeset(digits: string): string {
	const [mantissa = "", exponent] = digits.split("e");
	const [whole = "", decimals] = mantissa.replace("-", "\u2212").split(".");
	const count = whole.replace("\u2212", "").length;
	const spaced = count > 4 ? whole.replace(/\B(?=(\d{3})+(?!\d))/g, "\u2009") : whole;
	const plain = decimals === undefined ? spaced : `${spaced}.${decimals}`;
	return exponent === undefined ? plain : `${plain}·10^${exponent.replace("+", "").replace("-", "\u2212")}`;
}

/** `98–107`, `≥ 118`, `≤ 410`, `~ 4`, `2.70`. */
export function rangeText(shown: Shown): string {
	const { low, high, shape } = shown;
	if (low === null) return `≤\u2009${typeset(high ?? "")}`;
	if (high === null) return `≥\u2009${typeset(low)}`;
	if (low !== high) return `${typeset(low)}–${typeset(high)}`;
	return shape === "approximate" ? `~\u2009${typeset(low)}` : typeset(low);
}

/** Splits `kg/m^3` into pieces for `<sup>`: [{text:"kg/m"},{text:"3", raised:true}]. */
export function unitParts(unit: string): readonly { readonly text: string; readonly raised: boolean }[] {
	return unit
		.split(/(\^-?[\d.]+)/)
		.filter((piece) => piece !== "")
		.map((piece) =>
			piece.startsWith("^") ? { text: piece.slice(1).replace("-", "\u2212"), raised: true } : { text: piece, raised: false },
		);
}
