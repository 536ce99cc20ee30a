import { increasing, interpolate, type Points } from "./interpolate";

/** Forms of a stress-strain curve; stress in Pa, strain as a ratio. All arrays of one length. */
export type StressStrain = {
	readonly trueStress: readonly number[];
	readonly trueStrain: readonly number[];
	/** Null without E. */
	readonly plasticStrain: readonly number[] | null;
	/** Number of points up to and with the highest engineering stress; nothing is derived beyond it. */
	readonly valid: number;
};

/**
 * True and plastic forms of an engineering tensile curve, up to uniform strain:
 * `sigma_t = sigma (1 + eps)`, `eps_t = ln(1 + eps)`, `eps_p = eps_t - sigma_t / E`.
 * The first two follow from constant volume, and hold until the bar necks, at the highest engineering stress.
 * @param youngsModulus Pa, at the temperature of the curve; null when it is not known
 */
export function fromEngineering(
	strain: readonly number[],
	stress: readonly number[],
	youngsModulus: number | null,
): StressStrain {
	let peak = 0;
	for (let i = 1; i < stress.length; i++) if ((stress[i] as number) > (stress[peak] as number)) peak = i;
	const valid = stress.length === 0 ? 0 : peak + 1;
	const trueStress = strain.slice(0, valid).map((e, i) => (stress[i] as number) * (1 + e));
	const trueStrain = strain.slice(0, valid).map((e) => Math.log1p(e));
	return { trueStress, trueStrain, plasticStrain: plastic(trueStrain, trueStress, youngsModulus), valid };
}

/** `eps_p = eps_t - sigma_t / E` of curves that are true already. */
export function plastic(
	trueStrain: readonly number[],
	trueStress: readonly number[],
	youngsModulus: number | null,
): readonly number[] | null {
	return youngsModulus === null ? null : trueStrain.map((e, i) => e - (trueStress[i] as number) / youngsModulus);
}

/** The way back: `sigma = sigma_t / (1 + eps)`, `eps = exp(eps_t) - 1`. */
export function toEngineering(
	trueStrain: readonly number[],
	trueStress: readonly number[],
): { strain: number[]; stress: number[] } {
	return {
		strain: trueStrain.map((e) => Math.expm1(e)),
		stress: trueStress.map((s, i) => s / Math.exp(trueStrain[i] as number)),
	};
}

/**
 * The flow curve that a solver takes: true stress over plastic strain, from 0 and strictly increasing.
 * In the elastic part the plastic strain is rounding noise, below `noise`; the last such point is where flow begins.
 * @param noise half a unit of the last digit of the strain, plus that of the stress over E
 */
export function flowCurve(plasticStrain: readonly number[], trueStress: readonly number[], noise: number): Points {
	let begin = 0;
	while (begin + 1 < plasticStrain.length && (plasticStrain[begin + 1] as number) <= noise) begin++;
	if (plasticStrain.length === 0) return { x: [], y: [] };
	const x = [Math.max(0, plasticStrain[begin] as number) <= noise ? 0 : (plasticStrain[begin] as number)];
	const y = [trueStress[begin] as number];
	for (let i = begin + 1; i < plasticStrain.length; i++) {
		if ((plasticStrain[i] as number) > noise) {
			x.push(plasticStrain[i] as number);
			y.push(trueStress[i] as number);
		}
	}
	return increasing(x, y, "as measured");
}

/** Flow stress at a plastic strain of 0.2 %, Pa; null when the curve does not reach there. */
export function proofStress(flow: Points, offset = 0.002): number | null {
	const reading = interpolate(flow, offset, "pchip");
	return reading === null || reading.side !== "inside" ? null : reading.y;
}

/** The steepest chord between neighbouring points, and where it begins; null for fewer than two points. */
export function steepest({ x, y }: Points): { readonly slope: number; readonly at: number } | null {
	let best: { slope: number; at: number } | null = null;
	for (let i = 1; i < x.length; i++) {
		const slope = ((y[i] as number) - (y[i - 1] as number)) / ((x[i] as number) - (x[i - 1] as number));
		if (best === null || slope > best.slope) best = { slope, at: i - 1 };
	}
	return best;
}

/** The first index at which y is lower than before; null when it never falls. */
export function firstFall(y: readonly number[]): number | null {
	for (let i = 1; i < y.length; i++) if ((y[i] as number) < (y[i - 1] as number)) return i;
	return null;
}
