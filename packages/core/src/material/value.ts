import type { DensityRange } from "../mass";
import { type PropertyRow, property, propertyById } from "../property";
import { type ParseOptions, parseQuantity, type Quantity } from "../quantity";
import { ok, type Result } from "../result";
import type { Carried, Material, MaterialValue } from "./types";

type Details = Pick<MaterialValue, "qualifier" | "condition" | "evidence" | "basis" | "source">;

/** Makes a value from typed text: the text kept, its SI double beside it. Not carried over: somebody typed it. */
export function makeValue(
	id: string,
	propertyId: string,
	text: string,
	options: ParseOptions,
	details: Details = {},
): Result<MaterialValue> {
	const parsed = parseQuantity(text, property(propertyId), options);
	if (!parsed.ok) return parsed;
	const { entered, mark, low, high } = parsed.value;
	const present = Object.fromEntries(Object.entries(details).filter(([, v]) => v !== undefined && v !== ""));
	return ok({ id, property: propertyId, entered, ...(mark === null ? {} : { mark }), low, high, ...present });
}

/** The quantity behind a stored value. A stored value always reads: decode made sure of it. */
export function quantityOf(value: MaterialValue): Quantity {
	const parsed = parseQuantity(
		value.entered,
		property(value.property),
		value.mark === undefined ? {} : { decimalMark: value.mark },
	);
	if (!parsed.ok) throw new Error(`stored value ${value.id} does not read: ${value.entered}`);
	return parsed.value;
}

/**
 * The number that a calculation works with: the low end of a strength, the middle of a density. SI.
 * Null when the range is open on the end that is needed: an upper limit alone gives no strength, and a middle needs both.
 */
export function workingValue(value: MaterialValue): number | null {
	const spec = property(value.property);
	const { low, high } = value;
	if (low === high) return low;
	if (spec.safeEnd === "low") return low;
	if (spec.safeEnd === "high") return high;
	if (low === null || high === null) return low ?? high;
	// of a quantity typed as its reciprocal the middle is that of what was typed
	if (spec.reciprocal === true && quantityOf(value).reciprocal) return 2 / (1 / low + 1 / high);
	return low / 2 + high / 2;
}

/** The first value of a property, by the order of ids; null when the material has none. */
export function firstValue(material: Material, propertyId: string): MaterialValue | null {
	if (Object.hasOwn(material.values, propertyId)) return material.values[propertyId] as MaterialValue;
	const ids = Object.keys(material.values).sort();
	const id = ids.find((key) => material.values[key]?.property === propertyId);
	return id === undefined ? null : (material.values[id] as MaterialValue);
}

/** The density that weighs, kg/m3: its working value with both ends. Null: no density, so no mass. */
export function densityOf(material: Material): DensityRange | null {
	const value = firstValue(material, "density");
	const working = value === null ? null : workingValue(value);
	return value === null || working === null ? null : { working, low: value.low, high: value.high };
}

/** A fresh id for one more value of a property: `tensile_strength`, then `tensile_strength~2`. */
export function freshValueId(material: Material, propertyId: string): string {
	if (!Object.hasOwn(material.values, propertyId)) return propertyId;
	for (let n = 2; ; n++) {
		if (!Object.hasOwn(material.values, `${propertyId}~${n}`)) return `${propertyId}~${n}`;
	}
}

/** A new material from a similar one: every value carried over until somebody confirms or replaces it. */
export function fromSimilar(base: Material, origin: Carried): Material {
	const values = Object.fromEntries(Object.entries(base.values).map(([id, v]) => [id, { ...v, carried: v.carried ?? origin }]));
	return { ...base, values };
}

/** The value without its carried-over mark. */
export function confirmed(value: MaterialValue): MaterialValue {
	const { carried: _mark, ...rest } = value;
	return rest;
}

/** The name that a value goes by, with its definition: `0.2 % proof stress`. */
export function valueLabel(value: MaterialValue): { readonly name: string; readonly symbol: string } {
	const spec = propertyById(value.property) as PropertyRow;
	const qualifier = spec.qualifiers?.find((q) => q.id === value.qualifier);
	return { name: spec.name, symbol: qualifier?.symbol ?? spec.symbol };
}
