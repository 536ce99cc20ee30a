import { type Dimension, dimension } from "./dimension";

/**
 * Exact factors to SI: the defined values of NIST SP 811 and the SI Brochure for the inch, pound, pound-force, Btu_IT,
 * calories, prefixes and the zero of the Celsius scale. 100 %IACS is 58 MS/m at 20 degC.
 */
export type UnitRow = {
	readonly names: readonly string[];
	/** Decimal or quotient chain, exact. */
	readonly factor: string;
	readonly dimension: Dimension;
	/** Which SI prefixes it takes; none when absent. */
	readonly prefixes?: string;
	/** Added before the factor on an absolute temperature. */
	readonly offset?: string;
};

const MASS = dimension(1);
const LENGTH = dimension(0, 1);
const TIME = dimension(0, 0, 1);
const TEMPERATURE = dimension(0, 0, 0, 1);
const CURRENT = dimension(0, 0, 0, 0, 1);
const FORCE = dimension(1, 1, -2);
const DENSITY = dimension(1, -3);
const PRESSURE = dimension(1, -1, -2);
const ENERGY = dimension(1, 2, -2);
const POWER = dimension(1, 2, -3);
const NUMBER = dimension(0);

const METRIC = "n u m c d k M G T";
const ENGINEERING = "n u m k M G T";

export const UNITS: readonly UnitRow[] = [
	{ names: ["g"], factor: "0.001", dimension: MASS, prefixes: "u m k M" },
	{ names: ["t", "tonne"], factor: "1000", dimension: MASS },
	{ names: ["lbm"], factor: "0.45359237", dimension: MASS },
	{ names: ["oz"], factor: "0.45359237/16", dimension: MASS },
	{ names: ["slug"], factor: "4.4482216152605/0.3048", dimension: MASS },
	{ names: ["m"], factor: "1", dimension: LENGTH, prefixes: METRIC },
	{ names: ["in", "inch", '"'], factor: "0.0254", dimension: LENGTH, prefixes: "u" },
	{ names: ["ft", "'"], factor: "0.3048", dimension: LENGTH },
	{ names: ["yd"], factor: "0.9144", dimension: LENGTH },
	{ names: ["mil"], factor: "0.0000254", dimension: LENGTH },
	{ names: ["cc", "ccm"], factor: "0.000001", dimension: 3 * LENGTH },
	{ names: ["l", "L"], factor: "0.001", dimension: 3 * LENGTH, prefixes: "m c d" },
	{ names: ["s", "sec"], factor: "1", dimension: TIME, prefixes: "u m" },
	{ names: ["min"], factor: "60", dimension: TIME },
	{ names: ["h", "hr"], factor: "3600", dimension: TIME },
	{ names: ["K"], factor: "1", dimension: TEMPERATURE, prefixes: "m" },
	{ names: ["°C", "degC", "C"], factor: "1", dimension: TEMPERATURE, offset: "273.15" },
	{ names: ["°F", "degF", "F"], factor: "5/9", dimension: TEMPERATURE, offset: "459.67" },
	{ names: ["°R", "degR"], factor: "5/9", dimension: TEMPERATURE },
	{ names: ["A"], factor: "1", dimension: CURRENT, prefixes: ENGINEERING },
	{ names: ["N"], factor: "1", dimension: FORCE, prefixes: ENGINEERING },
	{ names: ["kgf", "kp"], factor: "9.80665", dimension: FORCE },
	{ names: ["dyn"], factor: "0.00001", dimension: FORCE },
	{ names: ["lbf"], factor: "4.4482216152605", dimension: FORCE },
	{ names: ["kip"], factor: "4448.2216152605", dimension: FORCE },
	{ names: ["pcf"], factor: "0.45359237/0.3048/0.3048/0.3048", dimension: DENSITY },
	{ names: ["pci"], factor: "0.45359237/0.0254/0.0254/0.0254", dimension: DENSITY },
	{ names: ["Pa"], factor: "1", dimension: PRESSURE, prefixes: "m k M G T" },
	// poise, 0.1 Pa s: viscosities are quoted in cP, which is mPa s
	{ names: ["P"], factor: "0.1", dimension: dimension(1, -1, -1), prefixes: "m c" },
	{ names: ["bar"], factor: "100000", dimension: PRESSURE, prefixes: "m k" },
	{ names: ["psi", "PSI"], factor: "4.4482216152605/0.0254/0.0254", dimension: PRESSURE },
	{ names: ["psf"], factor: "4.4482216152605/0.3048/0.3048", dimension: PRESSURE },
	{ names: ["ksi", "kpsi", "KSI"], factor: "4448.2216152605/0.0254/0.0254", dimension: PRESSURE },
	{ names: ["Msi", "Mpsi"], factor: "4448221.6152605/0.0254/0.0254", dimension: PRESSURE },
	{ names: ["J"], factor: "1", dimension: ENERGY, prefixes: ENGINEERING },
	{ names: ["cal"], factor: "4.184", dimension: ENERGY, prefixes: "k" },
	{ names: ["cal_IT"], factor: "4.1868", dimension: ENERGY, prefixes: "k" },
	{ names: ["Btu", "BTU", "Btu_IT"], factor: "1055.05585262", dimension: ENERGY },
	{ names: ["W"], factor: "1", dimension: POWER, prefixes: ENGINEERING },
	{ names: ["V"], factor: "1", dimension: dimension(1, 2, -3, 0, -1), prefixes: ENGINEERING },
	{ names: ["Ω", "ohm", "Ohm"], factor: "1", dimension: dimension(1, 2, -3, 0, -2), prefixes: ENGINEERING },
	{ names: ["S"], factor: "1", dimension: dimension(-1, -2, 3, 0, 2), prefixes: "u m k M" },
	{ names: ["T"], factor: "1", dimension: dimension(1, 0, -2, 0, -1), prefixes: "m u" },
	// 1 Oe = 1000/(4 pi) A/m; 34 digits of it round to the same double as the whole number does
	{
		names: ["Oe", "oersted"],
		factor: "79.57747154594766788444188168625718",
		dimension: dimension(0, -1, 0, 0, 1),
		prefixes: "k",
	},
	{ names: ["G", "Gs"], factor: "0.0001", dimension: dimension(1, 0, -2, 0, -1), prefixes: "k" },
	{ names: ["MGOe"], factor: "7957.747154594766788444188168625718", dimension: dimension(1, -1, -2) },
	{ names: ["Hz"], factor: "1", dimension: dimension(0, 0, -1), prefixes: "k M G" },
	{ names: ["%IACS"], factor: "580000", dimension: dimension(-1, -3, 3, 0, 2) },
	{ names: ["%"], factor: "0.01", dimension: NUMBER },
	{ names: ["‰"], factor: "0.001", dimension: NUMBER },
	{ names: ["ppm"], factor: "0.000001", dimension: NUMBER },
	{ names: ["1"], factor: "1", dimension: NUMBER },
];

export const PREFIXES: Readonly<Record<string, number>> = {
	n: -9,
	u: -6,
	m: -3,
	c: -2,
	d: -1,
	k: 3,
	M: 6,
	G: 9,
	T: 12,
};

/** Trade shorthand: the same symbol read as a force when the dimension asks for one. */
export const AS_FORCE: Readonly<Record<string, string>> = { lb: "lbf", lbs: "lbf", kg: "kgf" };
export const AS_MASS: Readonly<Record<string, string>> = { lb: "lbm", lbs: "lbm" };

/** Hardness scales never convert: each is its own unit. Their standards stand in the catalogue. */
export const HARDNESS_SCALES = ["HV", "HBW", "HRA", "HRB", "HRC", "Shore A", "Shore D", "IRHD"] as const;
