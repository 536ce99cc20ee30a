/** A share of the height of a curve below which nobody sees, or measures, a difference. */
const UNSEEN = 1e-4;

/** Halvings of the tolerance that is looked for; they settle it to less than a billionth of the height. */
const HALVINGS = 40;

export type Thinned = {
	/** Places of the points that stand for all of them, in order; the first and the last point are among them. */
	readonly keep: readonly number[];
	/** No point that was left out is farther from the straight line between its neighbours, as a share of the height. */
	readonly off: number;
};

/**
 * Few points that stand for many: the polyline through them passes all others within a tolerance, the least one that
 * leaves at most so many, but at least what nobody sees. Where x turns (loading and unloading), or stands still, the
 * points around stay.
 * @param x any order, finite, in any one unit; @param y the same number of values
 * @returns null where even the points at which x turns are more than `most`
 *
 * Method, derived here: from a point that is kept, the lines that pass each following point within the tolerance form a
 * cone; the next point is kept as the end of a line as soon as the one after it lies outside the cone. One pass is linear
 * in the number of points; the tolerance is found by halving.
 */
export function thin(x: readonly number[], y: readonly number[], most: number): Thinned | null {
	if (x.length <= most) return { keep: x.map((_, i) => i), off: 0 };
	const height = spanOf(y);
	const least = walk(x, y, UNSEEN * height);
	if (least.length <= most) return { keep: least, off: height === 0 ? 0 : UNSEEN };
	let [low, high] = [UNSEEN, 1];
	let found = walk(x, y, high * height);
	if (found.length > most) return null;
	for (let i = 0; i < HALVINGS; i++) {
		const middle = (low + high) / 2;
		const keep = walk(x, y, middle * height);
		if (keep.length <= most) [high, found] = [middle, keep];
		else low = middle;
	}
	return { keep: found, off: high };
}

/** The points that one pass keeps; each of the others is within the tolerance of the line between its neighbours. */
function walk(x: readonly number[], y: readonly number[], tolerance: number): readonly number[] {
	const keep = [0];
	let start = 0;
	let [low, high] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
	for (let i = 1; i < x.length; i++) {
		const run = (x[i] as number) - (x[start] as number);
		const rise = (y[i] as number) - (y[start] as number);
		const slope = rise / run;
		const turns =
			i - 1 > start &&
			Math.sign((x[i] as number) - (x[i - 1] as number)) !== Math.sign((x[i - 1] as number) - (x[start] as number));
		if (i - 1 > start && (turns || !(slope >= low && slope <= high))) {
			start = i - 1;
			keep.push(start);
			[low, high] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
			i--;
			continue;
		}
		// straight up, or on the spot, there is no line that could pass another point
		if (run === 0) [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
		else {
			const give = tolerance / Math.abs(run);
			low = Math.max(low, slope - give);
			high = Math.min(high, slope + give);
		}
	}
	if (keep.at(-1) !== x.length - 1) keep.push(x.length - 1);
	return keep;
}

function spanOf(values: readonly number[]): number {
	let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
	for (const v of values) {
		low = Math.min(low, v);
		high = Math.max(high, v);
	}
	return high - low;
}
