import { inCurrency, type Money } from "../cost";
import {
	type Basis,
	type Coefficient,
	coefficient,
	type Evidence,
	firstValue,
	isDirectional,
	type Material,
	type MaterialValue,
	type NumberValue,
	type SetValue,
	temperatureTable,
	valuesOf,
	workingOf,
	workingValue,
} from "../material";
import { PROPERTIES, type PropertyRow, property, type UnitSetId } from "../property";
import { exactly, type Figure, over, same, times } from "./numbers";

export type Side = { readonly id: string; readonly name: string; readonly material: Material };

/** What a material says of a property. */
export type Entry =
	| {
			readonly kind: "number";
			readonly figure: Figure;
			/** The same across the first axis, where a directional set says it. */
			readonly across: Figure | null;
			readonly evidence: Evidence | null;
			readonly basis: Basis | null;
			readonly carried: boolean;
			/** A number at 20 °C out of a table over temperature. */
			readonly fromTable: boolean;
			/** The value as it stands on the sheet, for its typed digits. */
			readonly value: NumberValue | null;
	  }
	/** Held in a way that does not stand on one axis with the others, or in a currency without a rate. */
	| { readonly kind: "words"; readonly words: string }
	| { readonly kind: "blank" | "unknown" | "not-applicable" };

export type CompareRow = {
	readonly id: string;
	readonly name: string;
	readonly symbol: string;
	/** Units that numbers show in; a price per unit has `1` for its currency. */
	readonly units: Readonly<Record<UnitSetId, string>>;
	/** Currency of the numbers; null where they are no money. */
	readonly currency: string | null;
	/** How it follows from others; empty for what is on the sheets. */
	readonly formula: string;
	/** Said of a larger and of a smaller number. */
	readonly words: readonly [more: string, less: string];
	readonly entries: readonly Entry[];
};

const NO_UNITS = { engineering: "1", base: "1", us: "1" } as const;

const WORDS: Readonly<Record<string, readonly [string, string]>> = {
	density: ["heavier", "lighter"],
	youngs_modulus: ["stiffer", "less stiff"],
	shear_modulus: ["stiffer", "less stiff"],
	bulk_modulus: ["stiffer", "less stiff"],
	flexural_modulus: ["stiffer", "less stiff"],
	yield_strength: ["stronger", "weaker"],
	tensile_strength: ["stronger", "weaker"],
	compressive_strength: ["stronger", "weaker"],
	hardness: ["harder", "softer"],
};
const MORE = ["more", "less"] as const;
const DEARER = ["dearer", "cheaper"] as const;

/** Scalar properties that a directional set also says: its form, the component along and the one across axis 1. */
const DIRECTIONAL: Readonly<Record<string, readonly [form: string, along: string, across: string]>> = {
	youngs_modulus: ["elastic_set", "E1", "E2"],
	thermal_conductivity: ["conductivity_set", "k1", "k2"],
	thermal_expansion: ["expansion_set", "alpha1", "alpha2"],
};

/**
 * Materials side by side: each property that any of them holds, then price and carbon, then what follows from them.
 * @param money currency that prices are shown in, with rates that somebody gave
 */
export function compareRows(sides: readonly Side[], own: readonly PropertyRow[], money: Money): readonly CompareRow[] {
	const held = [...PROPERTIES, ...own].filter((p) => sides.some((s) => entryOf(s.material, p).kind !== "blank"));
	const plain = held.map((p): CompareRow => {
		const { id, name, symbol, units } = p;
		return {
			id,
			name,
			symbol,
			// a hardness carries its scale in its words
			units: p.scales === true ? NO_UNITS : units,
			currency: null,
			formula: "",
			words: WORDS[id] ?? MORE,
			entries: sides.map((s) => entryOf(s.material, p)),
		};
	});
	return [...plain, ...derivedRows(sides, money)].filter((row) => row.entries.some((e) => e.kind !== "blank"));
}

/** Whether all materials say the same in a row, blanks included. */
export function isUniform(row: CompareRow): boolean {
	const [first, ...others] = row.entries;
	return others.every((e) => first !== undefined && sameEntry(first, e));
}

function sameEntry(a: Entry, b: Entry): boolean {
	if (a.kind === "number" && b.kind === "number") {
		if ((a.across === null) !== (b.across === null)) return false;
		return same(a.figure, b.figure) && (a.across === null || same(a.across, b.across as Figure));
	}
	if (a.kind === "words" && b.kind === "words") return a.words === b.words;
	return a.kind === b.kind;
}

/** What a material says of a property, with the number that it works with. */
export function entryOf(material: Material, spec: PropertyRow): Entry {
	const directional = setEntry(material, spec.id);
	if (directional !== null && isDirectional(material)) return directional;
	const value = firstValue(material, spec.id);
	if (value !== null) {
		if (spec.scales === true) return { kind: "words", words: value.entered.replace("-", "–") };
		return numberEntry({ low: value.low, high: value.high, working: workingValue(value) }, value, false, value);
	}
	const table = temperatureTable(material, spec.id);
	const working = table === null ? null : workingOf(material, spec.id);
	if (table !== null) {
		return working === null ? { kind: "words", words: "a table" } : numberEntry(exactly(working), table, true, null);
	}
	if (directional !== null) return directional;
	const mark = valuesOf(material, spec.id)[0];
	if (mark?.kind === "unknown" || mark?.kind === "not-applicable") return { kind: mark.kind };
	return mark === undefined ? { kind: "blank" } : { kind: "words", words: "held otherwise" };
}

function numberEntry(figure: Figure, head: MaterialValue, fromTable: boolean, value: NumberValue | null): Entry {
	return {
		kind: "number",
		figure,
		across: null,
		evidence: head.evidence ?? null,
		basis: head.basis ?? null,
		carried: head.carried !== undefined,
		fromTable,
		value,
	};
}

function setEntry(material: Material, propertyId: string): Entry | null {
	const [form, along, across] = DIRECTIONAL[propertyId] ?? [];
	if (form === undefined || along === undefined || across === undefined) return null;
	const set = valuesOf(material, form).find((v): v is SetValue => v.kind === "set");
	const first = figureOf(set?.components[along]);
	if (set === undefined || first === null) return null;
	const entry = numberEntry(first, set, false, null);
	return entry.kind === "number" ? { ...entry, across: figureOf(set.components[across]) } : entry;
}

function figureOf(value: Coefficient | undefined): Figure | null {
	if (value === undefined) return null;
	return { low: value.low, high: value.high, working: coefficient(value) };
}

type Derivation = Omit<CompareRow, "entries" | "currency"> & {
	readonly money: boolean;
	/** Null where something that it needs is missing. */
	readonly from: (parts: Parts) => Figure | null;
};

/** What derivations start from; along the first axis of a directional material. */
type Parts = {
	readonly density: Figure | null;
	readonly modulus: Figure | null;
	readonly strength: Figure | null;
	readonly carbon: Figure | null;
	/** Per kg, in the wanted currency. */
	readonly price: Figure | null;
};

const both = <T>(a: T | null, b: T | null, combine: (a: T, b: T) => T): T | null =>
	a === null || b === null ? null : combine(a, b);

/**
 * What follows from the numbers on the sheets. Per stiffness is for a bar of a given length L and axial stiffness
 * k = E A / L: its volume is A L = k L^2 / E, so what it costs goes by price × ρ / E.
 */
const DERIVED: readonly Derivation[] = [
	{
		id: "stiffness_by_mass",
		name: "Stiffness by mass",
		symbol: "",
		units: { engineering: "MN·m/kg", base: "N·m/kg", us: "Msi·in^3/lb" },
		formula: "E / ρ",
		money: false,
		words: ["more", "less"],
		from: (p) => both(p.modulus, p.density, over),
	},
	{
		id: "strength_by_mass",
		name: "Strength by mass",
		symbol: "",
		units: { engineering: "kN·m/kg", base: "N·m/kg", us: "ksi·in^3/lb" },
		formula: "Rp0.2 / ρ",
		money: false,
		words: ["more", "less"],
		from: (p) => both(p.strength, p.density, over),
	},
	{
		id: "price",
		name: "Price",
		symbol: "",
		units: { engineering: "1/kg", base: "1/kg", us: "1/lb" },
		formula: "",
		money: true,
		words: DEARER,
		from: (p) => p.price,
	},
	{
		id: "price_by_volume",
		name: "Price by volume",
		symbol: "",
		units: { engineering: "1/dm^3", base: "1/m^3", us: "1/in^3" },
		formula: "price × ρ",
		money: true,
		words: DEARER,
		from: (p) => both(p.price, p.density, times),
	},
	{
		id: "price_by_stiffness",
		name: "Price by stiffness",
		symbol: "",
		units: { engineering: "1/dm^3/GPa", base: "1/m^3/Pa", us: "1/in^3/Msi" },
		formula: "price × ρ / E: a bar of one length and axial stiffness",
		money: true,
		words: DEARER,
		from: (p) => both(both(p.price, p.density, times), p.modulus, over),
	},
	{
		id: "carbon_by_volume",
		name: "Carbon by volume",
		symbol: "",
		units: { engineering: "kg/dm^3", base: "kg/m^3", us: "lb/in^3" },
		formula: "embodied carbon × ρ",
		money: false,
		words: MORE,
		from: (p) => both(p.carbon, p.density, times),
	},
	{
		id: "carbon_by_stiffness",
		name: "Carbon by stiffness",
		symbol: "",
		units: { engineering: "kg/dm^3/GPa", base: "kg/m^3/Pa", us: "lb/in^3/Msi" },
		formula: "embodied carbon × ρ / E: a bar of one length and axial stiffness",
		money: false,
		words: MORE,
		from: (p) => both(both(p.carbon, p.density, times), p.modulus, over),
	},
];

function derivedRows(sides: readonly Side[], money: Money): readonly CompareRow[] {
	return DERIVED.map(({ from, money: isMoney, ...row }): CompareRow => {
		const entries = sides.map(({ material }): Entry => {
			const { price } = material;
			const figure = from(partsOf(material, money));
			if (figure !== null) {
				const carried = row.id === "price" && Object.hasOwn(material.carriedFields, "price");
				return { kind: "number", figure, across: null, evidence: null, basis: null, carried, fromTable: false, value: null };
			}
			// a price is there, but nobody said what its currency is worth
			if (row.id === "price" && price !== null) return { kind: "words", words: `${price.amount} ${price.currency}/kg, no rate` };
			return { kind: "blank" };
		});
		return { ...row, currency: isMoney ? money.currency : null, entries };
	});
}

function partsOf(material: Material, money: Money): Parts {
	const { price } = material;
	const figure = (id: string): Figure | null => {
		const entry = entryOf(material, property(id));
		return entry.kind === "number" ? entry.figure : null;
	};
	const perMass = price === null ? null : inCurrency(Number(price.amount), price.currency, money);
	return {
		density: figure("density"),
		modulus: figure("youngs_modulus"),
		strength: figure("yield_strength"),
		carbon: figure("embodied_carbon"),
		price: perMass === null ? null : exactly(perMass),
	};
}
