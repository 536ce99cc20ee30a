/** Round numbers that divide a span into about `wanted` steps of 1, 2 or 5 times a power of ten; inside the span. */
export function ticks(low: number, high: number, wanted: number): readonly number[] {
	if (!(high > low)) return [low];
	const rough = (high - low) / wanted;
	const power = 10 ** Math.floor(Math.log10(rough));
	const step = power * ([1, 2, 5, 10].find((m) => m * power >= rough) ?? 10);
	const first = Math.ceil(low / step - 1e-9);
	const last = Math.floor(high / step + 1e-9);
	return Array.from({ length: last - first + 1 }, (_, i) => Number(((first + i) * step).toPrecision(12)));
}

/** Powers of ten in a span of positive numbers. */
export function decades(low: number, high: number): readonly number[] {
	const [first, last] = [Math.ceil(Math.log10(low) - 1e-9), Math.floor(Math.log10(high) + 1e-9)];
	return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => 10 ** (first + i));
}
