/** A number with what is known of it: the ends of a range (null where open) and the one that calculations take. */
export type Figure = { readonly low: number | null; readonly high: number | null; readonly working: number | null };

export function exactly(x: number): Figure {
	return { low: x, high: x, working: x };
}

/** Product of two figures of positive numbers: least by least, most by most. */
export function times(a: Figure, b: Figure): Figure {
	return { low: product(a.low, b.low), high: product(a.high, b.high), working: product(a.working, b.working) };
}

/** Quotient of two figures of positive numbers: least by most, most by least. */
export function over(a: Figure, b: Figure): Figure {
	return { low: quotient(a.low, b.high), high: quotient(a.high, b.low), working: quotient(a.working, b.working) };
}

function product(a: number | null, b: number | null): number | null {
	return a === null || b === null ? null : a * b;
}

function quotient(a: number | null, b: number | null): number | null {
	return a === null || b === null || b === 0 ? null : a / b;
}

/** Whether two figures may be the same number: their ranges meet. */
export function meet(a: Figure, b: Figure): boolean {
	const infinite = Number.POSITIVE_INFINITY;
	return (a.low ?? -infinite) <= (b.high ?? infinite) && (b.low ?? -infinite) <= (a.high ?? infinite);
}

/** Whether two figures say the same, but for the last digits of a double. */
export function same(a: Figure, b: Figure): boolean {
	return (["low", "high", "working"] as const).every((k) => nearly(a[k], b[k]));
}

function nearly(x: number | null, y: number | null): boolean {
	if (x === null || y === null) return x === y;
	return Math.abs(x - y) <= 1e-9 * Math.max(Math.abs(x), Math.abs(y));
}
