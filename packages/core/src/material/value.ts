import { interpolate, type Reading } from "../curve";
import type { DensityRange } from "../mass";
import { entryName, formById, ownRow, type PropertyRow, property, propertyById } from "../property";
import { parseQuantity, parseReadings, type Quantity, statistics } from "../quantity";
import { sameContent } from "./canonical";
import { rowPoints } from "./series";
import { BLANK, type Carried, type Material, type MaterialValue, NAME_LIKE, type NumberValue, type SeriesValue } from "./types";

/** The row of a number's property: of the catalogue, or the value's own. */
export function specOf(value: Pick<MaterialValue, "property" | "own">): PropertyRow {
	return value.own === undefined ? property(value.property) : ownRow(value.own);
}

/** Is it one number, a range or readings: something with two ends? */
export function isNumber(value: MaterialValue): value is NumberValue {
	return value.kind === undefined || value.kind === "readings";
}

export function isSeries(value: MaterialValue): value is SeriesValue {
	return value.kind === "table" || value.kind === "curve";
}

/**
 * The quantity behind a stored number. What was stored counts: where an older version read the text otherwise than
 * today, the numbers stay as they were and a check says so.
 */
export function quantityOf(value: NumberValue): Quantity {
	if (value.kind === "readings") return storedQuantity(value.entered, value, specOf(value));
	const parsed = readAgain(value);
	return parsed ?? storedQuantity(value.entered, value, specOf(value));
}

/** Does the text no longer read as the numbers that are stored beside it? */
export function textDisagrees(value: NumberValue): boolean {
	return value.kind !== "readings" && readAgain(value) === null;
}

function readAgain(value: NumberValue): Quantity | null {
	const parsed = parseQuantity(value.entered, specOf(value), value.mark === undefined ? {} : { decimalMark: value.mark });
	return parsed.ok && parsed.value.low === value.low && parsed.value.high === value.high ? parsed.value : null;
}

/** Readings seen as a range from the smallest to the largest, or stored ends, with four digits of each. */
function storedQuantity(entered: string, value: NumberValue, spec: PropertyRow): Quantity {
	const { low, high } = value;
	return {
		shape: low === null ? "at-most" : high === null ? "at-least" : low === high ? "scalar" : "range",
		low,
		high,
		siUnit: spec.siUnit,
		unit: scaleOf(value, spec),
		digits: [low ?? high, high ?? low].map((x) => String(Number((x ?? 0).toPrecision(4)))),
		exponents: [0, 0],
		reciprocal: false,
		mark: null,
		entered,
	};
}

/** The unit that readings are shown from; of a hardness its scale, which stands in the text alone. */
function scaleOf(value: NumberValue, spec: PropertyRow): string {
	if (spec.scales !== true) return spec.siUnit;
	const read = parseReadings(value.entered, spec);
	return read?.ok === true ? read.value.unit : spec.siUnit;
}

/** The end of a range that a calculation works with, by property: `low`, `middle` or `high`. */
export type End = "low" | "middle" | "high";

/** Which rule gives the working value of this number for a use, and whether a person chose it. */
export function workingRule(value: NumberValue, use = "any"): { readonly rule: string; readonly chosen: boolean } {
	const chosen = value.working?.[use] ?? value.working?.any;
	if (chosen !== undefined) return { rule: chosen, chosen: true };
	return {
		rule: value.kind === "readings" && specOf(value).safeEnd === "middle" ? "mean" : specOf(value).safeEnd,
		chosen: false,
	};
}

/**
 * The number that a calculation works with: the low end of a strength, the middle of a density, the mean of readings,
 * or what a person chose for this value and use. SI.
 * Null when the range is open on the end that is needed: an upper limit alone gives no strength, and a middle needs both.
 */
export function workingValue(value: NumberValue, use = "any"): number | null {
	const working = plainWorking(value, use);
	return working === null ? null : working * factorOf(value);
}

/** The factor that a number is multiplied with before it is worked with; 1 where there is none. */
export function factorOf(value: NumberValue): number {
	return value.factor === undefined ? 1 : Number(value.factor.by);
}

function plainWorking(value: NumberValue, use: string): number | null {
	const { low, high } = value;
	const { rule, chosen } = workingRule(value, use);
	if (chosen && !["low", "middle", "high", "mean"].includes(rule)) {
		const typed = parseQuantity(rule, specOf(value));
		return typed.ok ? typed.value.low : null;
	}
	if (rule === "mean" && value.kind === "readings") return statistics(value.readings).mean;
	if (low === high) return low;
	if (rule === "low") return low;
	if (rule === "high") return high;
	if (low === null || high === null) return low ?? high;
	// of a quantity typed as its reciprocal the middle is that of what was typed
	if (specOf(value).reciprocal === true && quantityOf(value).reciprocal) return 2 / (1 / low + 1 / high);
	return low / 2 + high / 2;
}

/** All values of a property, the first made first. */
export function valuesOf(material: Material, propertyId: string): readonly MaterialValue[] {
	return Object.values(material.values)
		.filter((v) => v.property === propertyId)
		.sort((a, b) => a.id.length - b.id.length || (a.id < b.id ? -1 : 1));
}

/** The first number of a property, by the order of ids; null when the material has none. */
export function firstValue(material: Material, propertyId: string): NumberValue | null {
	const direct = Object.hasOwn(material.values, propertyId) ? (material.values[propertyId] as MaterialValue) : null;
	if (direct !== null && isNumber(direct)) return direct;
	return valuesOf(material, propertyId).find(isNumber) ?? null;
}

/** The first table of a property over temperature; null when it has none. */
export function temperatureTable(material: Material, propertyId: string): SeriesValue | null {
	const found = valuesOf(material, propertyId).find(
		(v) => v.kind === "table" && v.columns.length === 2 && v.columns[0]?.of === "temperature",
	);
	return (found as SeriesValue | undefined) ?? null;
}

/** The first value of a form: a curve, a set, a model. */
export function firstForm<K extends "curve" | "set" | "model">(
	material: Material,
	formId: string,
	kind: K,
): Extract<MaterialValue, { kind: K }> | SeriesValue | null {
	return (valuesOf(material, formId).find((v) => v.kind === kind) as SeriesValue | undefined) ?? null;
}

/** 20 degC: where a table gives its number when nobody says a temperature. */
export const REFERENCE_TEMPERATURE = 293.15;

/** A table's number at a temperature in K, with the side on which it had to hold its end value. */
export function readTable(table: SeriesValue, temperature: number, end: End = "middle"): Reading | null {
	return interpolate(rowPoints(table, end), temperature, table.interpolation);
}

/**
 * The number that a use works with: a number of its own first, else the table at 20 degC (an end value held where the
 * property allows that: strengths do not). SI; null when there is neither.
 */
export function workingOf(material: Material, propertyId: string, use = "any"): number | null {
	const value = firstValue(material, propertyId);
	if (value !== null) {
		const own = workingValue(value, use);
		if (own !== null) return own;
	}
	const table = temperatureTable(material, propertyId);
	if (table === null) return null;
	const spec = specOf(table);
	const reading = readTable(table, REFERENCE_TEMPERATURE, spec.safeEnd);
	if (reading === null || (reading.side !== "inside" && !holdsOutside(spec))) return null;
	return reading.y;
}

/** Elastic, density, k, cp, alpha hold their end value outside a table; strengths and the rest refuse. */
export function holdsOutside(spec: PropertyRow): boolean {
	return (
		["density", "thermal_conductivity", "specific_heat", "thermal_expansion"].includes(spec.id) || spec.section === "elastic"
	);
}

/** The density that weighs, kg/m3: its working value with both ends. Null: no density, so no mass. */
export function densityOf(material: Material): DensityRange | null {
	const working = workingOf(material, "density", "mass");
	if (working === null) return null;
	const value = firstValue(material, "density");
	if (value === null) return { working, low: working, high: working };
	const factor = factorOf(value);
	return { working, low: value.low === null ? null : value.low * factor, high: value.high === null ? null : value.high * factor };
}

/** A fresh id for one more value of a property: `tensile_strength`, then `tensile_strength~2`. */
export function freshValueId(material: Material, propertyId: string): string {
	const stem = propertyId.startsWith("own:") ? `own_${propertyId.slice(4)}` : propertyId;
	if (!Object.hasOwn(material.values, stem)) return stem;
	for (let n = 2; ; n++) {
		if (!Object.hasOwn(material.values, `${stem}~${n}`)) return `${stem}~${n}`;
	}
}

/**
 * A new material from a similar one: every value and every name-like field carried over until somebody confirms or
 * replaces it; nothing that somebody once acknowledged or followed comes along, and no attachment.
 */
export function fromSimilar(base: Material, origin: Carried): Material {
	const values = Object.fromEntries(
		Object.entries(base.values).map(([id, v]) => {
			const { follows: _follows, ...rest } = v;
			return [id, { ...rest, carried: v.carried ?? origin } as MaterialValue];
		}),
	);
	const carriedFields = Object.fromEntries(
		NAME_LIKE.filter((field) => !sameContent(base[field], BLANK[field])).map((field) => [
			field,
			base.carriedFields[field] ?? origin,
		]),
	);
	return { ...base, values, attachments: {}, carriedFields, acknowledged: {} };
}

/** A variant looks like its base; nobody has to confirm that. */
const LOOKS: ReadonlySet<string> = new Set(["colour", "look"]);

/** A variant: every value follows the base until somebody overrides it; followed values are not carried over. */
export function asVariant(base: Material, origin: Carried): Material {
	const values = Object.fromEntries(
		Object.entries(base.values).map(([id, v]) => {
			const { carried: _carried, ...rest } = v;
			return [id, { ...rest, follows: origin } as MaterialValue];
		}),
	);
	const carriedFields = Object.fromEntries(
		NAME_LIKE.filter((field) => !LOOKS.has(field) && !sameContent(base[field], BLANK[field])).map((field) => [field, origin]),
	);
	return { ...base, values, attachments: {}, carriedFields, acknowledged: {} };
}

/** The value without its carried-over mark. */
export function confirmed(value: MaterialValue): MaterialValue {
	const { carried: _mark, ...rest } = value;
	return rest;
}

/** The name that a value goes by, with its definition: `0.2 % proof stress`. */
export function valueLabel(value: MaterialValue): { readonly name: string; readonly symbol: string } {
	if (value.own !== undefined) return { name: value.own.name, symbol: value.own.symbol };
	const spec = propertyById(value.property);
	if (spec === undefined) return { name: formById(value.property)?.name ?? entryName(value.property), symbol: "" };
	const qualifier = spec.qualifiers?.find((q) => q.id === value.qualifier);
	return { name: spec.name, symbol: qualifier?.symbol ?? spec.symbol };
}
