import { readUnit, unitOf } from "../quantity";
import { AXIS_ROWS } from "./axes.data";
import { BAND_SOURCE, BANDS } from "./bands.data";
import { PROPERTY_ROWS } from "./catalogue.data";
import { FAMILIES } from "./family.data";
import { FORM_ROWS } from "./forms.data";
import { MIXED_UNITS } from "./slips.data";
import type { Axis, Band, FamilyId, Form, OwnProperty, PropertyRow, Section } from "./types";

export type {
	Axis,
	Band,
	Component,
	CurveForm,
	FamilyId,
	Form,
	HeaderField,
	ModelForm,
	OwnProperty,
	PropertyRow,
	Qualifier,
	Section,
	SetForm,
	UnitSetId,
} from "./types";

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

/** Curves, directional sets and models: what is more than one number. */
export const FORMS: readonly Form[] = FORM_ROWS;
const FORMS_BY_ID: ReadonlyMap<string, Form> = new Map(FORM_ROWS.map((f) => [f.id, f]));

export function formById(id: string): Form | undefined {
	return FORMS_BY_ID.get(id);
}

/** What a column of a table or a curve can be. */
export const AXES: readonly Axis[] = AXIS_ROWS;
const AXES_BY_ID: ReadonlyMap<string, Axis> = new Map(AXIS_ROWS.map((a) => [a.id, a]));

export function axisById(id: string): Axis | undefined {
	return AXES_BY_ID.get(id);
}

/** Name and symbol of anything in the catalogue, number or form; the id itself for one that is not there. */
export function entryName(id: string): string {
	return propertyById(id)?.name ?? formById(id)?.name ?? (id === "solver_file" ? "an attached solver file" : id);
}

/** A name inside a sentence: lower case, but for people's names and the letters of curves. */
export function inSentence(name: string): string {
	return name.toLowerCase().replace("young", "Young").replace("poisson", "Poisson").replace("s-n", "S-N").replace("b-h", "B-H");
}

/** A library's own property as a row like those of the catalogue. Shown in its one unit in every unit set. */
export function ownRow(own: OwnProperty): PropertyRow {
	const unit = unitOf(own.siUnit);
	return {
		id: `own:${own.uid}`,
		name: own.name,
		symbol: own.symbol,
		section: "general",
		dimension: unit.dimension,
		siUnit: own.siUnit,
		units: { engineering: own.unit, base: own.siUnit, us: own.unit },
		...(unit.dimension === 0 ? { bareIsSi: own.unit === "1", percent: own.unit === "%" } : {}),
		...(own.low === null ? {} : { min: own.low }),
		...(own.high === null ? {} : { max: own.high }),
		safeEnd: "middle",
		explanation: own.explanation,
	};
}

export const SECTIONS: readonly { readonly id: Section; readonly name: string }[] = [
	{ id: "general", name: "General" },
	{ id: "elastic", name: "Elastic" },
	{ id: "strength", name: "Strength" },
	{ id: "curves", name: "Curves" },
	{ id: "thermal", name: "Thermal" },
	{ id: "electrical", name: "Electrical" },
	{ id: "magnetic", name: "Magnetic" },
];

export const UNIT_SETS = [
	{ id: "engineering", name: "SI, GPa·MPa" },
	{ id: "base", name: "SI base" },
	{ id: "us", name: "US customary" },
] as const;

const FAMILY_NAMES: ReadonlyMap<string, string> = new Map(FAMILIES.map((f) => [f.id, f.name]));

export { FAMILIES, MIXED_UNITS };

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

/** The span of all bands of a property, whatever the family; null where no family has one. SI. */
export function widestBand(propertyId: string): Band | null {
	const bands = Object.hasOwn(BANDS, propertyId)
		? Object.values(BANDS[propertyId] as Record<string, readonly [number, number]>)
		: [];
	if (bands.length === 0) return null;
	return { low: Math.min(...bands.map((b) => b[0])), high: Math.max(...bands.map((b) => b[1])), source: BAND_SOURCE };
}

/** Units that people ask for, by trade; `unitsFor` picks those that measure the same quantity. */
const ASKED_FOR = [
	"Pa",
	"kPa",
	"MPa",
	"GPa",
	"N/mm^2",
	"bar",
	"psi",
	"ksi",
	"kg/m^3",
	"g/cm^3",
	"t/m^3",
	"lb/in^3",
	"lb/ft^3",
	"W/(m·K)",
	"W/(cm·K)",
	"Btu/(h·ft·°F)",
	"J/(kg·K)",
	"kJ/(kg·K)",
	"cal/(g·K)",
	"Btu/(lb·°F)",
	"1/K",
	"10^-6/K",
	"10^-6/°F",
	"K",
	"°C",
	"°F",
	"Ω·m",
	"µΩ·cm",
	"µΩ·m",
	"T",
	"A/m",
	"kA/m",
	"J/m^2",
	"kJ/m^2",
	"%",
] as const;

/** Units that a column of this property can be shown in: those of the unit sets first. */
export function unitsFor(spec: PropertyRow): readonly string[] {
	if (spec.scales === true) return [];
	const others = ASKED_FOR.filter((text) => {
		const read = readUnit(text, [spec.dimension]);
		return read?.fits;
	});
	return [...new Set([...Object.values(spec.units), ...(spec.dimension === 0 ? [] : others)])];
}
