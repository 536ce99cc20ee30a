import { BAND_SOURCE, BANDS } from "./bands.data";
import { PROPERTY_ROWS } from "./catalogue.data";
import { FAMILIES } from "./family.data";
import type { Band, FamilyId, PropertyRow, Section } from "./types";

export type { Band, FamilyId, PropertyRow, Qualifier, Section, UnitSetId } from "./types";

/** The catalogue in its order on the sheet. */
export const PROPERTIES: readonly PropertyRow[] = PROPERTY_ROWS;

const BY_ID: ReadonlyMap<string, PropertyRow> = new Map(PROPERTY_ROWS.map((p) => [p.id, p]));

/** A property by its id; undefined when the catalogue has none (safe against `__proto__`). */
export function propertyById(id: string): PropertyRow | undefined {
	return BY_ID.get(id);
}

/** A property that our own code names; a bug when it is missing. */
export function property(id: string): PropertyRow {
	const found = BY_ID.get(id);
	if (found === undefined) throw new Error(`no property ${id} in the catalogue`);
	return found;
}

export const SECTIONS: readonly { readonly id: Section; readonly name: string }[] = [
	{ id: "general", name: "General" },
	{ id: "elastic", name: "Elastic" },
	{ id: "strength", name: "Strength" },
	{ id: "thermal", name: "Thermal" },
	{ id: "electrical", name: "Electrical" },
];

export const UNIT_SETS = [
	{ id: "engineering", name: "SI, GPa·MPa" },
	{ id: "base", name: "SI base" },
	{ id: "us", name: "US customary" },
] as const;

const FAMILY_NAMES: ReadonlyMap<string, string> = new Map(FAMILIES.map((f) => [f.id, f.name]));

export { FAMILIES };

/** The name of a family; undefined for one that is not in the tree. */
export function familyName(id: FamilyId): string | undefined {
	return FAMILY_NAMES.get(id);
}

/** Is `family` the same as `ancestor` or below it? */
export function isFamily(family: FamilyId | null, ancestor: FamilyId): boolean {
	return family !== null && (family === ancestor || family.startsWith(`${ancestor}.`));
}

/** The plausible band of a property for a family: the most specific one on the way up the tree. SI. */
export function plausibleBand(propertyId: string, family: FamilyId | null): Band | null {
	const bands = Object.hasOwn(BANDS, propertyId) ? BANDS[propertyId] : undefined;
	for (let at = family; bands !== undefined && at !== null; at = at.includes(".") ? at.slice(0, at.lastIndexOf(".")) : null) {
		const band = Object.hasOwn(bands, at) ? bands[at] : undefined;
		if (band !== undefined) return { low: band[0], high: band[1], source: BAND_SOURCE };
	}
	return null;
}
