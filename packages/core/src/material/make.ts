import { type Component, ownRow, property } from "../property";
import { type ParseOptions, parseQuantity, parseReadings } from "../quantity";
import { ok, type Result } from "../result";
import { readBare } from "./bare";
import type { Coefficient, NumberValue, ValueHead } from "./types";

export type Details = Partial<
	Pick<
		NumberValue,
		| "qualifier"
		| "condition"
		| "evidence"
		| "basis"
		| "source"
		| "sourceId"
		| "spread"
		| "working"
		| "bases"
		| "factor"
		| "own"
		| "follows"
	>
>;

/**
 * Makes a number, a range or readings from typed text: the text kept, its SI doubles beside it. Not carried over: somebody typed it.
 * @param of its property; with an id where it does not stand under the same name
 */
export function makeValue(
	of: string | { readonly id: string; readonly property: string },
	text: string,
	options: ParseOptions = {},
	details: Details = {},
): Result<NumberValue> {
	const head: ValueHead = typeof of === "string" ? { id: of, property: of } : { id: of.id, property: of.property };
	const spec = details.own === undefined ? property(head.property) : ownRow(details.own);
	const present = Object.fromEntries(Object.entries(details).filter(([, v]) => v !== undefined && v !== "")) as Details;
	// numbers of a hardness may hold loads, so only semicolons or lines part its readings
	const list = spec.scales === true && !/[;\n]/.test(text) ? null : parseReadings(text, spec, options);
	if (list !== null) {
		if (!list.ok) return list;
		const { readings, entered } = list.value;
		const ends = { low: Math.min(...readings), high: Math.max(...readings) };
		const mark = options.decimalMark === undefined ? {} : { mark: options.decimalMark };
		return ok({ ...head, kind: "readings", entered, ...mark, ...ends, readings, ...present });
	}
	const parsed = readBare(text, spec, options);
	if (!parsed.ok) return parsed;
	const { entered, mark, low, high } = parsed.value;
	return ok({ ...head, entered, ...(mark === null ? {} : { mark }), low, high, ...present });
}

/** One number of a directional set or a model. */
export function makeCoefficient(text: string, spec: Component, options: ParseOptions): Result<Coefficient> {
	const parsed = parseQuantity(text, spec, options);
	if (!parsed.ok) return parsed;
	const { entered, mark, low, high } = parsed.value;
	return ok({ entered, ...(mark === null ? {} : { mark }), low, high });
}

/** The middle of a coefficient, SI; null when it is open. */
export function coefficient(value: Coefficient | undefined): number | null {
	if (value === undefined || value.low === null || value.high === null) return value?.low ?? value?.high ?? null;
	return value.low === value.high ? value.low : value.low / 2 + value.high / 2;
}
