import type { UnitSetId } from "../property";
import { fromSi, significant, unitOf } from "../quantity";

/** Units of computed quantities per unit set. Inertia in US customary is per mass pound. */
export const MASS_UNITS: Readonly<
	Record<UnitSetId, { mass: string; length: string; area: string; volume: string; inertia: string }>
> = {
	engineering: { mass: "kg", length: "mm", area: "cm^2", volume: "cm^3", inertia: "kg·m^2" },
	base: { mass: "kg", length: "m", area: "m^2", volume: "m^3", inertia: "kg·m^2" },
	us: { mass: "lb", length: "in", area: "in^2", volume: "in^3", inertia: "lb·in^2" },
};

export type MassQuantity = keyof (typeof MASS_UNITS)["engineering"];

/** A computed number in the unit of the set, with so many significant digits. */
export function showComputed(si: number, quantity: MassQuantity, unitSet: UnitSetId, digits = 4): string {
	return significant(fromSi(si, unitOf(MASS_UNITS[unitSet][quantity])), digits);
}
