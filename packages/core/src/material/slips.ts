import { type Band, MIXED_UNITS, type PropertyRow } from "../property";
import { readUnit, unitOf } from "../quantity";
import type { NumberValue } from "./types";
import { quantityOf } from "./value";

/** What probably went wrong with a number: meant in another unit, or a decimal slipped. */
export type Slip = { readonly ratio: number; readonly said: string; readonly repaired: number };

/** A slip across two systems of units is a little less likely than one within. */
const ACROSS = 0.4;
/** A unit explains the number when it lands in the middle part of the band; at its edge a slipped decimal may do as well. */
const CENTRAL = 0.7;
/** Relative: two units are one when their factors agree so closely. */
const SAME = 1e-9;

type Candidate = Slip & { readonly far: number; readonly cost: number };

/**
 * The slip that best explains a number outside its band. The unit that was typed says which slips can be meant: a number
 * in MPa may have been one in kgf/mm², one in GPa was not. Of those that land in the band the nearest to its middle (on
 * a logarithmic scale) wins; a plain factor of 10 is called that.
 * @param fits further conditions that the repaired number has to meet
 */
export function explainingSlip(
	spec: PropertyRow,
	{ typed, si: value }: { readonly typed: NumberValue; readonly si: number },
	band: Band,
	fits: (si: number) => boolean = () => true,
): Slip | null {
	const middle = Math.sqrt(Math.max(band.low, band.high * 1e-3) * band.high);
	const half = Math.log(band.high / middle) || 1;
	const inside = (c: Slip): boolean => c.repaired >= band.low && c.repaired <= band.high && fits(c.repaired);
	const weigh = (c: Slip, across: boolean): Candidate => {
		const far = Math.abs(Math.log(c.repaired / middle)) / half;
		return { ...c, far, cost: far + (across ? ACROSS : 0) };
	};
	const units = unitSlips(spec, typed, value).filter(({ slip }) => inside(slip));
	const tens = [value * 10, value / 10].map((repaired): Slip => ({ ratio: 10, said: "a factor of 10", repaired })).filter(inside);
	const ranked = units.map(({ slip, across }) => weigh(slip, across)).sort((a, b) => a.cost - b.cost);
	const [best] = ranked;
	const decimal = tens.map((c) => weigh(c, false)).sort((a, b) => a.far - b.far)[0];
	if (best !== undefined && (best.far <= CENTRAL || decimal === undefined || best.far <= decimal.far)) return best;
	return decimal ?? null;
}

function unitSlips(
	spec: PropertyRow,
	typed: NumberValue,
	value: number,
): readonly { readonly slip: Slip; readonly across: boolean }[] {
	const q = quantityOf(typed);
	const mixed = MIXED_UNITS.get(spec.dimension) ?? [];
	const read = typed.kind === "readings" || q.reciprocal ? undefined : readUnit(q.unit, [spec.dimension])?.unit;
	if (read === undefined) return [];
	const near = (a: number, b: number): boolean => Math.abs(a / b - 1) < SAME;
	const own = mixed.find((m) => near(unitOf(m.unit).approximate, read.approximate));
	return mixed.flatMap((meant) => {
		const factor = unitOf(meant.unit).approximate / read.approximate;
		if (near(factor, 1)) return [];
		const said = `${shown(meant.unit)} and ${shown(own?.unit ?? q.unit)}`;
		return [
			{
				slip: { ratio: factor > 1 ? factor : 1 / factor, said, repaired: value * factor },
				across: own !== undefined && own.system !== meant.system,
			},
		];
	});
}

const RAISED: Readonly<Record<string, string>> = { "0": "⁰", "1": "¹", "2": "²", "3": "³", "4": "⁴", "6": "⁶", "-": "⁻" };

/** A unit as people read it: `lb/in³`, `10⁻⁶/K`. */
function shown(unit: string): string {
	if (unit === "1") return "a plain ratio";
	return unit
		.replace(/\*/g, "·")
		.replace(/\^(-?\d(?![.\d]))/g, (_, power: string) => [...power].map((c) => RAISED[c] ?? c).join(""));
}
