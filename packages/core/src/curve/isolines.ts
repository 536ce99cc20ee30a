/** Heights over a grid of places; null where there is none. `z[j][i]` stands at `xs[i]`, `ys[j]`. */
export type Field = {
	readonly xs: readonly number[];
	readonly ys: readonly number[];
	readonly z: readonly (readonly (number | null)[])[];
};

/** A straight piece of a line of one height. */
export type Piece = readonly [from: readonly [number, number], to: readonly [number, number]];

/**
 * Lines of one height over a field, as straight pieces: marching squares. On each side of a cell the height runs straight,
 * so a piece begins and ends where it passes the level; of the two ways through a saddle the mean of the corners decides.
 * A cell with a corner that has no height holds no piece.
 */
export function isoline({ xs, ys, z }: Field, level: number): readonly Piece[] {
	const pieces: Piece[] = [];
	for (let j = 0; j + 1 < ys.length; j++) {
		for (let i = 0; i + 1 < xs.length; i++) {
			const corners = [z[j]?.[i], z[j]?.[i + 1], z[j + 1]?.[i + 1], z[j + 1]?.[i]];
			if (corners.some((c) => c == null)) continue;
			const places = [
				[xs[i], ys[j]],
				[xs[i + 1], ys[j]],
				[xs[i + 1], ys[j + 1]],
				[xs[i], ys[j + 1]],
			] as [number, number][];
			pieces.push(...piecesOf(corners as number[], places, level));
		}
	}
	return pieces;
}

/** The pieces in one cell, whose corners go round it. */
function piecesOf(corners: readonly number[], places: readonly [number, number][], level: number): readonly Piece[] {
	const above = corners.map((c) => c >= level);
	const crossings: [number, number][] = [];
	for (let k = 0; k < 4; k++) {
		const n = (k + 1) % 4;
		if (above[k] === above[n]) continue;
		const [from, to] = [corners[k] as number, corners[n] as number];
		const share = (level - from) / (to - from);
		const [[x0, y0], [x1, y1]] = [places[k], places[n]] as [[number, number], [number, number]];
		crossings.push([x0 + share * (x1 - x0), y0 + share * (y1 - y0)]);
	}
	const [a, b, c, d] = crossings;
	if (a === undefined || b === undefined) return [];
	if (c === undefined || d === undefined) return [[a, b]];
	// a saddle: all four sides are passed. The corners on the side of the mean are joined through the middle
	const mean = corners.reduce((sum, v) => sum + v, 0) / 4;
	return mean >= level === above[0]
		? [
				[a, b],
				[c, d],
			]
		: [
				[d, a],
				[b, c],
			];
}

/** Round heights that part a span into about so many steps: 1, 2 or 5 times a power of ten apart. */
export function roundLevels(low: number, high: number, about: number): readonly number[] {
	const rough = (high - low) / about;
	if (!(rough > 0) || !Number.isFinite(rough)) return [];
	const power = 10 ** Math.floor(Math.log10(rough));
	const step = ([1, 2, 5].find((s) => s * power >= rough) ?? 10) * power;
	const first = Math.ceil(low / step);
	const last = Math.floor(high / step);
	return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => Number(((first + i) * step).toPrecision(12))).filter(
		(l) => l > low && l < high,
	);
}
