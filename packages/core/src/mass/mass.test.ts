import { describe, expect, it } from "vitest";
import {
	compose,
	IDENTITY,
	inverse,
	type MassItem,
	massOf,
	type Placement,
	placeSolid,
	type SolidGeometry,
	showComputed,
	sum,
	totalMass,
	type Vec3,
} from "./index";

/** A box a x b x c at a corner: V = abc, A = 2(ab + bc + ca), Ixx = V (b^2 + c^2)/12 about its centroid. */
function box(a: number, b: number, c: number, at: Vec3): SolidGeometry {
	const volume = a * b * c;
	return {
		volume,
		area: 2 * (a * b + b * c + c * a),
		centroid: [at[0] + a / 2, at[1] + b / 2, at[2] + c / 2],
		inertia: [
			[(volume * (b * b + c * c)) / 12, 0, 0],
			[0, (volume * (a * a + c * c)) / 12, 0],
			[0, 0, (volume * (a * a + b * b)) / 12],
		],
	};
}

const uniform = (working: number) => ({ working, low: working, high: working });

/** A linear congruential generator, so that a failing seed can be repeated. */
function random(seed: number): () => number {
	let state = seed;
	return () => {
		state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
		return state / 2 ** 32;
	};
}

describe("total mass", () => {
	it("of a box cut into eight equals the whole box: closed form", () => {
		const items: MassItem[] = [];
		for (const x of [0, 0.5])
			for (const y of [0, 1])
				for (const z of [0, 1.5]) items.push({ solid: box(0.5, 1, 1.5, [x, y, z]), density: uniform(2700) });
		const total = totalMass(items);
		const whole = box(1, 2, 3, [0, 0, 0]);
		expect(total.mass?.mass).toBeCloseTo(2700 * 6, 9);
		expect(total.centreOfGravity).toEqual([0.5, 1, 1.5]);
		for (const i of [0, 1, 2] as const) {
			for (const j of [0, 1, 2] as const)
				expect(Math.abs((total.inertia?.[i][j] ?? 0) - 2700 * whole.inertia[i][j])).toBeLessThan(1e-9 * 2700 * 7);
		}
	});

	it("is sum of density x volume for 100 seeded assignments with ranges and gaps", () => {
		for (let seed = 1; seed <= 100; seed++) {
			const next = random(seed);
			const items = Array.from({ length: 1 + Math.floor(next() * 40) }, (): MassItem => {
				const solid = box(next(), next(), next(), [next(), next(), next()]);
				const low = 100 + next() * 9000;
				const high = low * (1 + next() * 0.1);
				return { solid, density: next() < 0.25 ? null : { working: (low + high) / 2, low, high } };
			});
			const total = totalMass(items);
			// the slow obvious twin: plain sums in the order of a shuffled list
			const naive = (pick: "working" | "low" | "high"): number =>
				[...items].reverse().reduce((s, i) => s + (i.density === null ? 0 : (i.density[pick] ?? 0) * i.solid.volume), 0);
			const weighed = items.filter((i) => i.density !== null).length;
			expect(total.bodiesWithMass, `seed ${seed}`).toBe(weighed);
			if (weighed === 0) expect(total.mass).toBeNull();
			else {
				for (const [got, want] of [
					[total.mass?.mass, naive("working")],
					[total.mass?.low, naive("low")],
					[total.mass?.high, naive("high")],
				] as const) {
					expect(Math.abs((got ?? 0) / want - 1), `seed ${seed}`).toBeLessThan(1e-12);
				}
			}
		}
	});

	it("without any material is no mass, never zero", () => {
		const total = totalMass([{ solid: box(1, 1, 1, [0, 0, 0]), density: null }]);
		expect([total.mass, total.centreOfGravity, total.inertia]).toEqual([null, null, null]);
		expect(total.centroid).toEqual([0.5, 0.5, 0.5]);
		expect(totalMass([]).centroid).toBeNull();
	});

	it("keeps an open end open", () => {
		const open = totalMass([
			{ solid: box(1, 1, 1, [0, 0, 0]), density: { working: 1000, low: 1000, high: null } },
			{ solid: box(1, 1, 1, [0, 0, 0]), density: uniform(500) },
		]);
		expect(open.mass).toEqual({ mass: 1500, low: 1500, high: null });
		expect(massOf(2, { working: 3, low: null, high: 4 })).toEqual({ mass: 6, low: null, high: 8 });
	});
});

describe("placing", () => {
	const quarter: Placement = {
		rotation: [
			[0, -1, 0],
			[1, 0, 0],
			[0, 0, 1],
		],
		translation: [1, 2, 3],
	};

	it("turns centroid and moments: a quarter turn swaps Ixx and Iyy", () => {
		const placed = placeSolid(box(1, 2, 3, [0, 0, 0]), quarter);
		expect(placed.centroid).toEqual([0, 2.5, 4.5]);
		expect(placed.inertia[0][0]).toBeCloseTo(box(1, 2, 3, [0, 0, 0]).inertia[1][1], 12);
		expect(compose(quarter, inverse(quarter))).toEqual(IDENTITY);
	});
});

describe("sums and figures", () => {
	it("are compensated: a large term does not swallow the small ones", () => {
		expect(sum([1e16, 1, 1, -1e16])).toBe(2);
	});

	it("are shown in the units of the set", () => {
		expect(showComputed(0.45359237, "mass", "us")).toBe("1.000");
		expect(showComputed(1e-6, "volume", "engineering")).toBe("1.000");
		expect(showComputed(0.0254, "length", "us", 3)).toBe("1.00");
	});
});
