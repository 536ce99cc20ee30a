import { elasticOf, isElasticId, type Material, type MaterialValue, type Readiness, valuesOf } from "@alvek/core/material";
import {
	FORMS,
	type Form,
	isFamily,
	type OwnProperty,
	ownRow,
	PROPERTIES,
	type PropertyRow,
	property,
	type Section,
} from "@alvek/core/property";

/** A line of the sheet about numbers: a property, with its value or blank, or what follows from others. */
export type SheetLine = {
	readonly kind: "number";
	readonly key: string;
	readonly spec: PropertyRow;
	readonly value: MaterialValue | null;
	readonly own?: OwnProperty;
	/** SI, and from what: only for a blank that follows from two others. */
	readonly derived?: { readonly si: number; readonly from: string };
};

/** A line about a curve, a directional set or a model. */
export type FormSheetLine = {
	readonly kind: "form";
	readonly key: string;
	readonly form: Form;
	readonly value: MaterialValue | null;
};

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
	"stress_strain",
]);

/** Lines of a section: what is filled in, what is common or missing for the wanted use, and on demand all. */
/** Which lines are shown: all, or those with a value and those that a use needs; own properties of the library. */
type Wanted = { readonly all: boolean; readonly needed: ReadonlySet<string>; readonly own?: readonly OwnProperty[] };

export function sectionLines(
	material: Material,
	section: Section,
	{ all, needed, own: ownProperties = [] }: Wanted,
): readonly (SheetLine | FormSheetLine)[] {
	const elastic = section === "elastic" ? elasticOf(material) : null;
	const numbers = PROPERTIES.filter((p) => p.section === section).flatMap((spec): SheetLine[] => {
		const values = valuesOf(material, spec.id);
		if (values.length > 0) return values.map((value) => ({ kind: "number", key: value.id, spec, value }));
		if (elastic !== null && isElasticId(spec.id) && elastic.derived.has(spec.id)) {
			const from = elastic.from.map((id) => property(id).symbol).join(" and ");
			const derived = {
				si: elastic.constants[spec.id],
				from: elastic.illConditioned && spec.id === "poissons_ratio" ? `${from}, ill-conditioned` : from,
			};
			return [{ kind: "number", key: spec.id, spec, value: null, derived }];
		}
		const fits = spec.families === undefined || spec.families.some((f) => isFamily(material.family, f));
		return all || needed.has(spec.id) || (COMMON.has(spec.id) && fits) || (spec.families !== undefined && fits)
			? [{ kind: "number", key: spec.id, spec, value: null }]
			: [];
	});
	const forms = FORMS.filter((f) => f.section === section).flatMap((form): FormSheetLine[] => {
		const values = valuesOf(material, form.id);
		if (values.length > 0) return values.map((value) => ({ kind: "form", key: value.id, form, value }));
		const wanted = form.id === "elastic_set" && material.elasticity === "directional";
		return all || wanted || needed.has(form.id) || COMMON.has(form.id) ? [{ kind: "form", key: form.id, form, value: null }] : [];
	});
	// a filled directional set is what the numbers below it are read beside, so it stands first
	const leads = (line: FormSheetLine): boolean => line.form.id === "elastic_set" && line.value !== null;
	return [
		...forms.filter(leads),
		...numbers,
		...(section === "general" ? ownLines(material, all, ownProperties) : []),
		...forms.filter((f) => !leads(f)),
	];
}

/** A library's own properties: those that this material has, and on demand the others. */
function ownLines(material: Material, all: boolean, ownProperties: readonly OwnProperty[]): readonly SheetLine[] {
	const held = Object.values(material.values).filter((v) => v.own !== undefined);
	const filled = held.map((value): SheetLine => {
		const own = value.own as OwnProperty;
		return { kind: "number", key: value.id, spec: ownRow(own), value, own };
	});
	const open = ownProperties.filter((p) => !held.some((v) => v.own?.uid === p.uid));
	const blank = open.map((own): SheetLine => ({ kind: "number", key: `own_${own.uid}`, spec: ownRow(own), value: null, own }));
	return all ? [...filled, ...blank] : filled;
}

/** Filled and possible lines of a section, for its entry in the index. */
export function completeness(material: Material, section: Section): { filled: number; of: number } {
	const held = new Set(Object.values(material.values).map((v) => v.property));
	const ids = [...PROPERTIES, ...FORMS].filter((p) => p.section === section).map((p) => p.id);
	const filled = ids.filter((id) => held.has(id)).length;
	const of = ids.filter((id) => COMMON.has(id) || held.has(id)).length;
	return { filled, of };
}

/** The next blank that the wanted use needs; null when it needs nothing more. */
export function nextNeeded(readiness: readonly Readiness[], wanted: string): string | null {
	return readiness.find((r) => r.use === wanted)?.missing[0]?.[0] ?? null;
}
