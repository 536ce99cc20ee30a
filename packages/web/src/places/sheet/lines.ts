import { firstValue, type Material, type MaterialValue, type Readiness } from "@alvek/core/material";
import { isFamily, PROPERTIES, type PropertyRow, type Section } from "@alvek/core/property";

/** A line of the sheet: a property, with its value or blank. */
export type SheetLine = { readonly key: string; readonly spec: PropertyRow; readonly value: MaterialValue | null };

/** Shown blank on every sheet, because most uses ask for them; the rest unfolds. */
const COMMON = new Set([
	"density",
	"hardness",
	"youngs_modulus",
	"poissons_ratio",
	"shear_modulus",
	"bulk_modulus",
	"yield_strength",
	"tensile_strength",
	"elongation",
	"compressive_strength",
	"thermal_conductivity",
	"specific_heat",
	"thermal_expansion",
	"melting_temperature",
	"resistivity",
]);

/** Lines of a section: what is filled in, what is common or missing for the wanted use, and on demand all. */
export function sectionLines(
	material: Material,
	section: Section,
	all: boolean,
	needed: ReadonlySet<string>,
): readonly SheetLine[] {
	return PROPERTIES.filter((p) => p.section === section).flatMap((spec): SheetLine[] => {
		const values = Object.values(material.values)
			.filter((v) => v.property === spec.id)
			.sort((a, b) => a.id.length - b.id.length || (a.id < b.id ? -1 : 1));
		if (values.length > 0) return values.map((value) => ({ key: value.id, spec, value }));
		const fits = spec.families === undefined || spec.families.some((f) => isFamily(material.family, f));
		return all || needed.has(spec.id) || (COMMON.has(spec.id) && fits) || (spec.families !== undefined && fits)
			? [{ key: spec.id, spec, value: null }]
			: [];
	});
}

/** Filled and possible lines of a section, for its entry in the index. */
export function completeness(material: Material, section: Section): { filled: number; of: number } {
	const specs = PROPERTIES.filter((p) => p.section === section);
	const filled = specs.filter((p) => firstValue(material, p.id) !== null).length;
	const of = specs.filter((p) => COMMON.has(p.id) || firstValue(material, p.id) !== null).length;
	return { filled, of };
}

/** The next blank that the wanted use needs; null when it needs nothing more. */
export function nextNeeded(readiness: readonly Readiness[], wanted: string): string | null {
	return readiness.find((r) => r.use === wanted)?.missing[0]?.[0] ?? null;
}
