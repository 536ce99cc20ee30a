import { type Figure, meet } from "./numbers";

/** How one figure stands to another: by how much, in which direction. */
export type Difference =
	| { readonly kind: "same" }
	/** Closed ranges that meet while their working numbers are near: nothing can be said. */
	| { readonly kind: "overlap" }
	| { readonly kind: "percent"; readonly percent: number; readonly more: boolean }
	| { readonly kind: "times"; readonly times: number }
	/** No ratio: one of them is zero, or they differ in sign. */
	| { readonly kind: "by"; readonly by: number };

/** From this ratio on, and down to its reciprocal by percent, a factor reads easier than a percentage. */
const TIMES_FROM = 2;

/**
 * Compares by working numbers; null where one of them has none. Two limits of the same side are compared by their given
 * ends, whatever lies beyond: `>= 262` is 8.7 % more than `>= 241`, as `>= 386` is 47 % more than `>= 262`.
 * @param byDifference for numbers whose zero means nothing, such as temperatures in °C
 */
export function difference(of: Figure, against: Figure, byDifference = false): Difference | null {
	const [x, y] = [of.working, against.working];
	if (x === null || y === null) return null;
	if (Math.abs(x - y) <= 1e-9 * Math.max(Math.abs(x), Math.abs(y))) return { kind: "same" };
	if (byDifference || y === 0 || x / y <= 0) return { kind: "by", by: x - y };
	const ratio = x / y;
	const percent = Math.abs(ratio - 1) * 100;
	const areLimits = (of.high === null && against.high === null) || (of.low === null && against.low === null);
	if (percent < 10 && !areLimits && meet(of, against) && !isPoint(of) && !isPoint(against)) return { kind: "overlap" };
	if (ratio >= TIMES_FROM) return { kind: "times", times: ratio };
	return { kind: "percent", percent, more: ratio > 1 };
}

function isPoint({ low, high }: Figure): boolean {
	return low !== null && low === high;
}
