import { consistentFactor, type Dimension, dimension, dimensionText, fromSi, halvesOf, NONE, unitOf } from "../quantity";

type Base = { readonly mass: string; readonly length: string; readonly time: string; readonly temperature: string };

/** A consistent set of units for a solver. Names of derived units stand beside the dimension that they belong to. */
export type SolverSet = {
	readonly id: string;
	readonly name: string;
	/** Size of its base units in kg, m, s, K. */
	readonly base: Base;
	/** Symbols of its base units, for units that have no name of their own. */
	readonly symbols: readonly [mass: string, length: string, time: string];
	readonly temperatureUnit: "K" | "degF";
	readonly names: ReadonlyMap<Dimension, string>;
};

const DENSITY = dimension(1, -3);
const STRESS = dimension(1, -1, -2);
const CONDUCTIVITY = dimension(1, 1, -3, -1);
const HEAT = dimension(0, 2, -2, -1);
const EXPANSION = dimension(0, 0, 0, -1);
const RATE = dimension(0, 0, -1);
const TOUGHNESS = dimension(1, -0.5, -2);
const COMPRESSIBILITY = dimension(-1, 1, 2);

type UnitNames = Readonly<Record<"density" | "stress" | "conductivity" | "heat" | "per" | "time", string>>;

function names({ density, stress, conductivity, heat, per, time }: UnitNames): ReadonlyMap<Dimension, string> {
	return new Map([
		[NONE, "1"],
		[DENSITY, density],
		[STRESS, stress],
		[CONDUCTIVITY, conductivity],
		[HEAT, heat],
		[EXPANSION, `1/${per}`],
		[RATE, `1/${time}`],
		[COMPRESSIBILITY, `1/${stress.includes("/") ? `(${stress})` : stress}`],
	]);
}

const inch = "0.0254";
const foot = "0.3048";
const pound = "0.45359237";
// the pound-force moves a pound at 9.80665 m/s2 by definition
const force = "4.4482216152605";

/**
 * The seven sets: length, mass (or force), time. A set with mass t and length mm has MPa, and so on: every derived unit
 * follows from the base units. US sets count temperature in degF.
 */
export const SOLVER_SETS: readonly SolverSet[] = [
	{
		id: "m-kg-s",
		name: "m, kg, s (Pa)",
		base: { mass: "1", length: "1", time: "1", temperature: "1" },
		symbols: ["kg", "m", "s"],
		temperatureUnit: "K",
		names: names({ density: "kg/m3", stress: "Pa", conductivity: "W/(m K)", heat: "J/(kg K)", per: "K", time: "s" }),
	},
	{
		id: "mm-t-s",
		name: "mm, t, s (MPa)",
		base: { mass: "1000", length: "0.001", time: "1", temperature: "1" },
		symbols: ["t", "mm", "s"],
		temperatureUnit: "K",
		names: names({ density: "t/mm3", stress: "MPa", conductivity: "mW/(mm K)", heat: "mJ/(t K)", per: "K", time: "s" }),
	},
	{
		id: "mm-kg-ms",
		name: "mm, kg, ms (GPa)",
		base: { mass: "1", length: "0.001", time: "0.001", temperature: "1" },
		symbols: ["kg", "mm", "ms"],
		temperatureUnit: "K",
		names: names({ density: "kg/mm3", stress: "GPa", conductivity: "kW/(mm K)", heat: "J/(kg K)", per: "K", time: "ms" }),
	},
	{
		id: "mm-kg-s",
		name: "mm, kg, s (kPa)",
		base: { mass: "1", length: "0.001", time: "1", temperature: "1" },
		symbols: ["kg", "mm", "s"],
		temperatureUnit: "K",
		names: names({ density: "kg/mm3", stress: "kPa", conductivity: "uW/(mm K)", heat: "uJ/(kg K)", per: "K", time: "s" }),
	},
	{
		id: "in-lbf-s",
		name: "in, lbf, s (psi)",
		base: { mass: `${force}/${inch}`, length: inch, time: "1", temperature: "5/9" },
		symbols: ["lbf s2/in", "in", "s"],
		temperatureUnit: "degF",
		names: names({
			density: "lbf s2/in4",
			stress: "psi",
			conductivity: "lbf/(s degF)",
			heat: "in2/(s2 degF)",
			per: "degF",
			time: "s",
		}),
	},
	{
		id: "in-lbm-s",
		name: "in, lbm, s (lbm/(in s2))",
		base: { mass: pound, length: inch, time: "1", temperature: "5/9" },
		symbols: ["lbm", "in", "s"],
		temperatureUnit: "degF",
		names: names({
			density: "lbm/in3",
			stress: "lbm/(in s2)",
			conductivity: "lbm in/(s3 degF)",
			heat: "in2/(s2 degF)",
			per: "degF",
			time: "s",
		}),
	},
	{
		id: "ft-lbf-s",
		name: "ft, slug, s (lbf/ft2)",
		base: { mass: `${force}/${foot}`, length: foot, time: "1", temperature: "5/9" },
		symbols: ["slug", "ft", "s"],
		temperatureUnit: "degF",
		names: names({
			density: "slug/ft3",
			stress: "lbf/ft2",
			conductivity: "lbf/(s degF)",
			heat: "ft2/(s2 degF)",
			per: "degF",
			time: "s",
		}),
	},
];

export function solverSet(id: string): SolverSet | undefined {
	return SOLVER_SETS.find((s) => s.id === id);
}

/** An SI number in the set. An absolute temperature goes to K or degF, everything else by its dimension. */
export function inSet(
	si: number,
	quantity: { readonly dimension: Dimension; readonly absoluteTemperature?: boolean },
	set: SolverSet,
): number {
	if (quantity.absoluteTemperature === true) return set.temperatureUnit === "K" ? si : fromSi(si, unitOf("°F"));
	return si / consistentFactor(quantity.dimension, set.base);
}

/** The unit of a quantity in the set, in plain characters: `t/mm3`, `lbf s2/in4`, `MPa mm^0.5`. */
export function unitInSet(
	quantity: { readonly dimension: Dimension; readonly absoluteTemperature?: boolean },
	set: SolverSet,
): string {
	if (quantity.absoluteTemperature === true) return set.temperatureUnit;
	const known = set.names.get(quantity.dimension);
	if (known !== undefined) return known;
	if (quantity.dimension === TOUGHNESS) return `${set.names.get(STRESS)} ${set.symbols[1]}^0.5`;
	const [kg, m, s, K, A] = halvesOf(quantity.dimension);
	const part = (symbol: string, halves: number): string =>
		halves === 0 ? "" : halves === 2 ? symbol : `(${symbol})^${halves / 2}`;
	const [mass, length, time] = set.symbols;
	const parts = [part(mass, kg), part(length, m), part(time, s), part(set.temperatureUnit, K), part("A", A)];
	return parts.filter((p) => p !== "").join(" ") || dimensionText(quantity.dimension);
}
