import { dimension, NONE } from "../quantity";

/**
 * Units that people take for one another, by what they measure; a slip is a number typed in one of them that was meant
 * in another. Units of one `system` are mixed up more often than those of two. Every ratio follows from the exact
 * factors of quantity/. Percent and a plain ratio are such a pair too.
 */
export type MixedUnit = { readonly unit: string; readonly system: "si" | "us" | "old" };

const si = (...units: string[]): MixedUnit[] => units.map((unit) => ({ unit, system: "si" }));
const us = (...units: string[]): MixedUnit[] => units.map((unit) => ({ unit, system: "us" }));
const old = (...units: string[]): MixedUnit[] => units.map((unit) => ({ unit, system: "old" }));

export const MIXED_UNITS: ReadonlyMap<number, readonly MixedUnit[]> = new Map<number, readonly MixedUnit[]>([
	[dimension(1, -3), [...si("kg/m^3", "g/cm^3"), ...us("lb/in^3", "lb/ft^3", "lbf*s^2/in^4")]],
	[dimension(1, -1, -2), [...si("Pa", "kPa", "MPa", "GPa"), ...us("psi", "ksi", "Msi"), ...old("kgf/mm^2")]],
	[
		dimension(1, 1, -3, -1),
		[
			...si("W/(m·K)", "W/(cm·K)", "mW/(m·K)"),
			...us("Btu/(h·ft·°F)", "Btu*in/(h*ft^2*°F)"),
			...old("kcal/(m·h·K)", "cal/(s·cm·K)"),
		],
	],
	[dimension(0, 2, -2, -1), [...si("J/(kg·K)", "kJ/(kg·K)"), ...us("Btu/(lb·°F)")]],
	[dimension(0, 0, 0, -1), [...si("/K", "10^-6/K", "10^-4/K"), ...us("10^-6/°F", "/°F")]],
	[dimension(1, -0.5, -2), [...si("MPa·√m", "N/mm^1.5"), ...us("ksi·√in")]],
	[dimension(1, 2, -2), [...si("J"), ...us("ft*lbf"), ...old("kgf*m")]],
	[dimension(1, 3, -3, 0, -2), [...si("Ω·m", "μΩ·m", "nΩ·m"), ...old("μΩ·cm")]],
	[dimension(0, -1, 0, 0, 1), [...si("A/m", "kA/m"), ...old("Oe", "kOe")]],
	[dimension(1, 0, -2, 0, -1), [...si("T", "mT"), ...old("G", "kG")]],
	[dimension(0, 2, -3), [...si("W/kg"), ...us("W/lb")]],
	[NONE, si("1", "%")],
]);
