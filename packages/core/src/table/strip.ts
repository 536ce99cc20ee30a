import type { Spans } from "./spans";

/** The axis of a strip: SI ends, and whether equal steps are equal ratios. */
export type StripAxis = { readonly low: number; readonly high: number; readonly log: boolean };

/** Decades beyond which an axis is logarithmic unless somebody chose otherwise. */
const LOG_FROM_RATIO = 30;

/**
 * The axis that holds every number of a column.
 * @param log wanted kind; null: by the spread of the numbers. A column that is not all positive is always linear.
 * @returns null when there is no number
 */
export function stripAxis(spans: Spans, rows: number, log: boolean | null): StripAxis | null {
	let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
	for (let i = 0; i < rows; i++) {
		const [from, to] = ends(spans, i);
		if (from < low) low = from;
		if (to > high) high = to;
	}
	if (!(low <= high)) return null;
	const isLog = low > 0 && (log ?? high / low > LOG_FROM_RATIO);
	if (low === high)
		return { low: isLog ? low / 2 : low - Math.abs(low || 1) / 2, high: high + Math.abs(high || 1) / 2, log: isLog };
	if (isLog) return { low: low / 1.06, high: high * 1.06, log: true };
	const margin = (high - low) * 0.02;
	return { low: low - margin, high: high + margin, log: false };
}

/** The finite ends of a row; an open one counts as the other. */
function ends(spans: Spans, row: number): readonly [number, number] {
	const [low, high] = [spans.low[row], spans.high[row]];
	if (low > high) return [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
	return [Number.isFinite(low) ? low : high, Number.isFinite(high) ? high : low];
}

/** Where a number stands on the axis, 0 to 1 (beyond for numbers outside). */
export function placeOn(axis: StripAxis, x: number): number {
	if (!axis.log) return (x - axis.low) / (axis.high - axis.low);
	return x <= 0 ? Number.NEGATIVE_INFINITY : Math.log(x / axis.low) / Math.log(axis.high / axis.low);
}

/** The number at a place between 0 and 1. */
export function numberAt(axis: StripAxis, place: number): number {
	return axis.log ? axis.low * (axis.high / axis.low) ** place : axis.low + place * (axis.high - axis.low);
}

/** How many materials stand in each column of pixels: those that pass, and those that other filters keep out. */
export type Bins = { readonly passing: Uint32Array; readonly others: Uint32Array };

/**
 * Counts rows by columns of pixels. A tick counts where it stands; a band counts over its whole reach, by its ends only
 * (a difference array summed up once), so the cost does not depend on its width.
 * @param fails one byte a row; 0 passes
 */
export function binStrip(
	{ spans, rows, fails }: { readonly spans: Spans; readonly rows: number; readonly fails: Uint8Array },
	axis: StripAxis,
	width: number,
): Bins {
	const steps = [new Int32Array(width + 1), new Int32Array(width + 1)];
	const { low, high } = spans;
	// the logarithm of each end is what costs, so its factors are pulled out
	const scale = (axis.log ? 1 / Math.log(axis.high / axis.low) : 1 / (axis.high - axis.low)) * width;
	const offset = axis.log ? Math.log(axis.low) : axis.low;
	const pixel = (x: number): number => Math.floor(((axis.log ? Math.log(x) : x) - offset) * scale);
	for (let i = 0; i < rows; i++) {
		if (low[i] > high[i]) continue;
		const [from, to] = ends(spans, i);
		const first = pixel(from);
		const last = from === to ? first : pixel(to);
		if (last < 0 || first >= width) continue;
		const target = steps[fails[i] === 0 ? 0 : 1];
		target[Math.max(first, 0)]++;
		target[Math.min(last + 1, width)]--;
	}
	const [passing, others] = steps.map((step) => {
		const counts = new Uint32Array(width);
		let sum = 0;
		for (let x = 0; x < width; x++) {
			sum += step[x];
			counts[x] = sum;
		}
		return counts;
	});
	return { passing, others };
}
