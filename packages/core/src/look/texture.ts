import type { Texture } from "../material";

type Pattern = Extract<Texture, { kind: "procedural" }>["pattern"];

/**
 * How light a procedural texture is at a place of its repeat, -1 (dark) to 1. Equal at opposite borders, so that it can
 * be laid side by side.
 * @param u across, v up, each 0 to 1
 */
export function shadeAt(pattern: Pattern, u: number, v: number): number {
	switch (pattern) {
		case "brushed":
			// long streaks: fine across, coarse along
			return noise(u, v, 2, 64) * 0.7 + noise(u, v, 4, 128) * 0.3;
		case "cast":
			return noise(u, v, 12, 12) * 0.6 + noise(u, v, 40, 40) * 0.4;
		case "weave": {
			// threads go over two and under two; each is round
			const [x, y] = [u * 8, v * 8];
			const over = (((Math.floor(x) + Math.floor(y)) % 4) + 4) % 4 < 2;
			return 2 * Math.sin(Math.PI * ((over ? x : y) % 1)) - 1 + (over ? 0 : -0.25);
		}
		case "grain":
			// rings that wander along the length
			return Math.sin(2 * Math.PI * (6 * v + 0.35 * noise(u, v, 3, 2))) * 0.7 + noise(u, v, 4, 48) * 0.3;
		case "speckle":
			return hash(Math.floor(u * 48) % 48, Math.floor(v * 48) % 48) > 0.86 ? 1 : -0.1;
	}
}

/** Smooth value noise on a grid that closes on itself, -1 to 1. */
function noise(u: number, v: number, nx: number, ny: number): number {
	const [x, y] = [u * nx, v * ny];
	const [i, j] = [Math.floor(x), Math.floor(y)];
	const [fx, fy] = [smooth(x - i), smooth(y - j)];
	const at = (a: number, b: number): number => hash(((a % nx) + nx) % nx, ((b % ny) + ny) % ny);
	const low = at(i, j) * (1 - fx) + at(i + 1, j) * fx;
	const high = at(i, j + 1) * (1 - fx) + at(i + 1, j + 1) * fx;
	return 2 * (low * (1 - fy) + high * fy) - 1;
}

function smooth(t: number): number {
	return t * t * (3 - 2 * t);
}

/** A number between 0 and 1 that belongs to a place of a grid: integer mixing, the same on every machine. */
function hash(i: number, j: number): number {
	let h = Math.imul(i + 1, 0x9e3779b1) ^ Math.imul(j + 1, 0x85ebca6b);
	h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
	h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
	return ((h ^ (h >>> 15)) >>> 0) / 4294967296;
}
