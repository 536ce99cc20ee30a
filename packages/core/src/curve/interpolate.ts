/** Points of a curve: `x` strictly increasing, both of one length, any consistent unit. */
export type Points = { readonly x: readonly number[]; readonly y: readonly number[] };

/** A value read off a curve, and on which side of its points the place lay. */
export type Reading = { readonly y: number; readonly side: "inside" | "below" | "above" };

/**
 * y at `x`. Outside the points the end value is held and `side` says so; what a use makes of that is its own rule.
 * @param points at least one; `x` strictly increasing
 * @returns null for no points
 */
export function interpolate(points: Points, x: number, method: "linear" | "pchip"): Reading | null {
	const { x: xs, y: ys } = points;
	const n = xs.length;
	if (n === 0) return null;
	const first = xs[0] as number;
	const last = xs[n - 1] as number;
	if (x < first) return { y: ys[0] as number, side: "below" };
	if (x > last) return { y: ys[n - 1] as number, side: "above" };
	if (n === 1) return { y: ys[0] as number, side: "inside" };
	const k = segment(xs, x);
	const x0 = xs[k] as number;
	const h = (xs[k + 1] as number) - x0;
	const y0 = ys[k] as number;
	const y1 = ys[k + 1] as number;
	const t = (x - x0) / h;
	if (method === "linear") return { y: t === 1 ? y1 : y0 + t * (y1 - y0), side: "inside" };
	return { y: hermite(y0, y1, h * slopeAt(points, k), h * slopeAt(points, k + 1), t), side: "inside" };
}

/** Index k with xs[k] <= x <= xs[k + 1], by bisection. */
function segment(xs: readonly number[], x: number): number {
	let low = 0;
	let high = xs.length - 2;
	while (low < high) {
		const middle = (low + high + 1) >> 1;
		if ((xs[middle] as number) <= x) low = middle;
		else high = middle - 1;
	}
	return low;
}

/** Cubic through y0 and y1 with slopes m0 and m1, already multiplied by the width of the interval. */
// biome-ignore lint/complexity/useMaxParams: the symbols of the formula, and nothing is made on the way
function hermite(y0: number, y1: number, m0: number, m1: number, t: number): number {
	if (t === 0) return y0;
	if (t === 1) return y1;
	const t2 = t * t;
	const t3 = t2 * t;
	return (2 * t3 - 3 * t2 + 1) * y0 + (t3 - 2 * t2 + t) * m0 + (3 * t2 - 2 * t3) * y1 + (t3 - t2) * m1;
}

/**
 * Slope of the shape-preserving cubic (PCHIP) at point k. Inside: the harmonic mean of the two chord slopes, each
 * weighted by the widths, zero where they differ in sign, so that the curve never overshoots its points. At an end: the
 * slope of the parabola through three points, cut back so that the end piece stays monotone.
 */
export function slopeAt({ x, y }: Points, k: number): number {
	const n = x.length;
	const h = (i: number): number => (x[i + 1] as number) - (x[i] as number);
	const chord = (i: number): number => ((y[i + 1] as number) - (y[i] as number)) / h(i);
	if (n === 2) return chord(0);
	if (k === 0) return endSlope(h(0), h(1), chord(0), chord(1));
	if (k === n - 1) return endSlope(h(n - 2), h(n - 3), chord(n - 2), chord(n - 3));
	const before = chord(k - 1);
	const after = chord(k);
	if (before * after <= 0) return 0;
	const w1 = 2 * h(k) + h(k - 1);
	const w2 = h(k) + 2 * h(k - 1);
	return (w1 + w2) / (w1 / before + w2 / after);
}

function endSlope(h0: number, h1: number, d0: number, d1: number): number {
	const slope = ((2 * h0 + h1) * d0 - h0 * d1) / (h0 + h1);
	if (Math.sign(slope) !== Math.sign(d0)) return 0;
	if (Math.sign(d0) !== Math.sign(d1) && Math.abs(slope) > Math.abs(3 * d0)) return 3 * d0;
	return slope;
}

type Point = readonly [x: number, y: number];

/**
 * Points between which straight lines stay within `tolerance` (a share of the span of y) of the PCHIP curve: for
 * solvers, which read tables linearly.
 * @param limit most points that may be made
 */
export function resample(points: Points, tolerance: number, limit = 2000): Points {
	const span = Math.max(...points.y) - Math.min(...points.y) || Math.abs(points.y[0] ?? 0) || 1;
	const x: number[] = [];
	const y: number[] = [];
	const at = (place: number): number => interpolate(points, place, "pchip")?.y ?? 0;
	const halve = ([x0, y0]: Point, [x1, y1]: Point, depth: number): void => {
		const quarter = [0.25, 0.5, 0.75].map((t) => Math.abs(at(x0 + t * (x1 - x0)) - (y0 + t * (y1 - y0))));
		if (depth === 0 || x.length >= limit || Math.max(...quarter) <= tolerance * span) {
			x.push(x1);
			y.push(y1);
			return;
		}
		const middle = (x0 + x1) / 2;
		halve([x0, y0], [middle, at(middle)], depth - 1);
		halve([middle, at(middle)], [x1, y1], depth - 1);
	};
	if (points.x.length > 0) {
		x.push(points.x[0] as number);
		y.push(points.y[0] as number);
	}
	for (let k = 1; k < points.x.length; k++) {
		halve([points.x[k - 1] as number, points.y[k - 1] as number], [points.x[k] as number, points.y[k] as number], 12);
	}
	return { x, y };
}

/**
 * A curve with strictly increasing x from points as measured: sorted or as measured, points that fall back in x dropped,
 * equal x averaged. The raw series itself is never changed.
 */
export function increasing(x: readonly number[], y: readonly number[], order: "sorted" | "as measured" = "sorted"): Points {
	const rows = x.map((_, i) => i);
	if (order === "sorted") rows.sort((a, b) => (x[a] as number) - (x[b] as number));
	const outX: number[] = [];
	const outY: number[] = [];
	let same = 1;
	for (const i of rows) {
		const place = x[i] as number;
		const value = y[i] as number;
		const last = outX.at(-1);
		if (last === undefined || place > last) {
			outX.push(place);
			outY.push(value);
			same = 1;
		} else if (place === last) {
			same++;
			outY[outY.length - 1] = (outY.at(-1) as number) + (value - (outY.at(-1) as number)) / same;
		}
	}
	return { x: outX, y: outY };
}
