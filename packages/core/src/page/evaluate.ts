import { readBare } from "../material";
import { property, unitsFor, widestBand } from "../property";
import {
	type DecimalMark,
	HARDNESS_SCALES,
	normaliseText,
	type ParseOptions,
	parseQuantity,
	parseReadings,
	type Quantity,
	type QuantitySpec,
	type Readings,
	readUnit,
} from "../quantity";
import { type Issue, ok, type Result } from "../result";
import type { Expression } from "./expression";
import type { Label } from "./label";
import type { Ask } from "./types";

/** How a bare number on this page is read. */
export type Reading = {
	readonly mark: DecimalMark | null;
	/** Unit of a head or a cell, for numbers without one. */
	readonly unit?: string;
	/** Unit that a field shows, where a person types into it. */
	readonly fieldUnit?: (propertyId: string) => string | undefined;
};

export type Value = {
	readonly property: string;
	readonly quantity: Quantity;
	readonly readings?: Readings;
	/** The text that was read, which a value field reads to the same. */
	readonly text: string;
};

/** The property that a name stands for where its reading needs one: a range of service temperatures is two. */
export function catalogueId(id: string): string {
	return id === "service_temperature" ? "service_temperature_max" : id;
}

/**
 * Reads an expression as a value of what the label names: of several candidates the first whose dimension fits.
 * @returns the issues of the likeliest candidate where none fits
 */
export function evaluate(label: Label, expression: Expression, reading: Reading, limitHere = true): Result<Value> {
	let first: Result<Value> | null = null;
	for (const id of label.properties) {
		const read = evaluateAs(id, { label, expression, reading, limitHere });
		if (read.ok) return read;
		// the first that the dimension did not rule out is what a question is about
		if (first === null || (isForeign(first) && !isForeign(read))) first = read;
	}
	return first ?? { ok: false, issues: [{ code: "unknown-property" }] };
}

const FOREIGN: Result<never> = { ok: false, issues: [{ code: "wrong-dimension" }] };
const fitting = new Map<string, boolean>();

/** Is the unit one of the property? Kept, because pages repeat their units. */
function unitFits(unit: string, spec: QuantitySpec): boolean {
	const key = `${spec.dimension} ${unit}`;
	const known = fitting.get(key);
	if (known !== undefined) return known;
	const wanted = spec.reciprocal === true ? [spec.dimension, -spec.dimension] : [spec.dimension];
	const fits = readUnit(normaliseText(unit), wanted)?.fits === true;
	if (fitting.size > 4000) fitting.clear();
	fitting.set(key, fits);
	return fits;
}

function isForeign(read: Result<unknown>): boolean {
	return !read.ok && (read.issues[0]?.code === "wrong-dimension" || read.issues[0]?.code === "unknown-unit");
}

type Said = { readonly label: Label; readonly expression: Expression; readonly reading: Reading; readonly limitHere: boolean };

function evaluateAs(id: string, said: Said): Result<Value> {
	const { expression, reading } = said;
	const spec = property(catalogueId(id));
	// most numbers of a page are of another quantity: that is known by the unit alone
	if (expression.unit !== "" && spec.scales !== true && !/[±(]|\+\//.test(expression.text) && !unitFits(expression.unit, spec))
		return FOREIGN;
	const text = valueText(id, said);
	const fieldUnit = reading.fieldUnit?.(catalogueId(id));
	const options: ParseOptions = fieldUnit === undefined ? {} : { fieldUnit };
	const list =
		spec.scales === true || (!expression.list && !/\d \d/.test(expression.text)) ? null : parseReadings(text, spec, options);
	if (list?.ok === true)
		return ok({
			property: catalogueId(id),
			quantity: readingsAsRange(list.value, spec.siUnit, text),
			readings: list.value,
			text,
		});
	if (list !== null && !list.ok && list.issues[0]?.code === "unclear-number") return list;
	// where a person types into a field its unit is taken for a bare number, unless its size says otherwise
	const read = fieldUnit === undefined ? parseQuantity(text, spec, options) : readBare(text, spec, options);
	if (read.ok) return ok({ property: catalogueId(id), quantity: read.value, text });
	if (read.issues[0]?.code !== "ambiguous-number" || reading.mark === null) return read;
	const marked = parseQuantity(text, spec, { ...options, decimalMark: reading.mark });
	return marked.ok ? ok({ property: catalogueId(id), quantity: marked.value, text }) : read;
}

/** Reads a text that was put together of several numbers, such as the two ends of a range. */
export function evaluateText(label: Label, text: string, mark: DecimalMark | null): Result<Value> {
	let first: Result<Value> | null = null;
	for (const id of label.properties) {
		const spec = property(catalogueId(id));
		const plain = parseQuantity(text, spec);
		const open = !plain.ok && plain.issues[0]?.code === "ambiguous-number" && mark !== null;
		const read = open ? parseQuantity(text, spec, { decimalMark: mark }) : plain;
		if (read.ok) return ok({ property: catalogueId(id), quantity: read.value, text });
		first ??= read;
	}
	return first ?? FOREIGN;
}

/** The number as written, with the unit, scale and limit that stand elsewhere. */
function valueText(id: string, { label, expression, reading, limitHere }: Said): string {
	let text = expression.repaired ?? expression.text;
	const isHardness = id === "hardness";
	const unit = label.unit ?? reading.unit;
	if (expression.unit === "" && unit !== undefined && !isHardness) text = `${text} ${unit.replace(/^[-–—]$/, "")}`.trim();
	if (isHardness && !HARDNESS_SCALES.some((s) => text.includes(s)) && !/HB|Sh/.test(text)) {
		const scale = label.scale ?? label.unit ?? reading.unit;
		if (scale !== undefined) text = `${text} ${scale}`;
	}
	const limit = limitHere ? (expression.limit ?? label.limit) : expression.limit;
	const joined = /[–…±]|\d\s*-\s*\d|\+\/-|\b(?:to|bis|à)\b|\.\./.test(text.replace(/10\s?[-–]\d|[eE][-–]\d/g, ""));
	if (limit === "min" && !joined) return `>= ${text}`;
	if (limit === "max" && !joined) return `<= ${text}`;
	return expression.about === true && !joined ? `~ ${text}` : text;
}

function readingsAsRange(list: Readings, siUnit: string, text: string): Quantity {
	const [low, high] = [Math.min(...list.readings), Math.max(...list.readings)];
	return {
		shape: low === high ? "scalar" : "range",
		low,
		high,
		siUnit,
		unit: list.unit,
		digits: list.digits,
		exponents: list.digits.map(() => 0),
		reciprocal: false,
		mark: null,
		entered: text,
	};
}

const ASKED: Readonly<Record<string, string>> = {
	"ambiguous-number": "is the mark a decimal one or thousands?",
	"unclear-number": "which one is meant?",
	"unit-missing": "which unit?",
	"out-of-bounds": "impossible as it stands; check number and unit",
	"reversed-range": "the range runs downward; which end is which?",
};

/** What has to be asked about an expression that does not read; null where it is no number of the property at all. */
export function questionOf(
	label: Label,
	expression: Expression,
	issue: Issue | undefined,
	reading: Reading,
): Pick<Ask, "property" | "question" | "choices"> | null {
	const id = catalogueId(label.properties[0] as string);
	const code = issue?.code ?? "";
	const question = code === "unclear-number" && expression.list ? "readings, or one number?" : ASKED[code];
	if (question === undefined) return null;
	if (code === "unit-missing") return { property: id, question, choices: unitChoices(id, expression, reading) };
	return { property: id, question, choices: (issue?.choices ?? []).map((text) => ({ property: id, text })) };
}

const MOST_UNITS = 3;

/** The units in which a bare number would be an everyday one. */
function unitChoices(id: string, expression: Expression, reading: Reading): Ask["choices"] {
	const spec = property(id);
	const band = widestBand(id);
	const units = spec.scales === true ? [...HARDNESS_SCALES] : unitsFor(spec);
	const fits = units.flatMap((unit) => {
		const text = `${expression.repaired ?? expression.text} ${unit}`;
		const read = parseQuantity(text, spec, reading.mark === null ? {} : { decimalMark: reading.mark });
		const si = read.ok ? (read.value.low ?? read.value.high) : null;
		return si === null || (band !== null && (si < band.low || si > band.high)) ? [] : [{ si, text }];
	});
	return fits
		.filter((f, i) => fits.findIndex((o) => o.si === f.si) === i)
		.slice(0, MOST_UNITS)
		.map(({ text }) => ({ property: id, text }));
}
