import { type Component, formById, type OwnProperty, ownRow, type PropertyRow, propertyById } from "../property";
import { parseQuantity, parseReadings, type QuantitySpec, unitOf } from "../quantity";
import { fail, type Issue, ok, type Result } from "../result";
import { decodeSeries } from "./decode-series";
import { LIMITS } from "./limits";
import { choiceIssue, isInherited, isMark, mismatch, plainObject, textIssue, textMap } from "./shape";
import { BASES, EVIDENCE, type MaterialValue, SPREADS } from "./types";

const VALUE_ID = /^[a-z][a-zA-Z0-9_:-]{0,80}(~[1-9]\d{0,3})?$/;
const HEAD = [
	"id",
	"property",
	"own",
	"qualifier",
	"condition",
	"evidence",
	"basis",
	"source",
	"sourceId",
	"carried",
	"follows",
	"kind",
] as const;
const NUMBERS = ["entered", "mark", "low", "high", "spread", "working", "bases", "factor"] as const;

const KEYS: Readonly<Record<string, readonly string[]>> = {
	quantity: [...HEAD, ...NUMBERS],
	readings: [...HEAD, ...NUMBERS, "readings", "labels"],
	text: [...HEAD, "text"],
	table: [...HEAD, "columns", "interpolation", "header"],
	curve: [...HEAD, "columns", "interpolation", "header"],
	set: [...HEAD, "symmetry", "axes", "components"],
	model: [...HEAD, "form", "coefficients", "validity", "fitted"],
	unknown: HEAD,
	"not-applicable": HEAD,
};

type Raw = Record<string, unknown>;

/**
 * One value of any kind, every SI number checked against what was typed.
 * @param older a value of an older schema: its numbers stand, whatever its text reads as today
 */
export function decodeValue(id: string, input: unknown, older = false): Result<MaterialValue> {
	if (!VALUE_ID.test(id) || isInherited(id))
		return fail({ code: "bad-key", path: id.slice(0, 80), expected: "a value id such as density" });
	const any = plainObject(input, null, id);
	if (!any.ok) return any;
	const kind = any.value.kind === undefined ? "quantity" : String(any.value.kind);
	const keys = kind !== "quantity" || any.value.kind === undefined ? ownKeys(kind) : undefined;
	if (keys === undefined) return fail({ code: "unknown-choice", path: `${id}.kind`, actual: kind.slice(0, 80) });
	const shape = plainObject(input, keys, id);
	if (!shape.ok) return shape;
	const v = shape.value;
	if (v.id !== id) return fail({ code: "bad-key", path: id, actual: String(v.id).slice(0, 80), expected: id });
	const head = decodeHead(id, v);
	if (head !== null) return fail(head);
	const content = decodeContent(id, kind, v, older);
	// head and content were looked at, field by field
	return content.ok ? ok(v as unknown as MaterialValue) : content;
}

function ownKeys(kind: string): readonly string[] | undefined {
	return Object.hasOwn(KEYS, kind) ? KEYS[kind] : undefined;
}

/** The row of a number's property, from the catalogue or out of the value itself. */
export function rowOf(v: { readonly property?: unknown; readonly own?: unknown }): PropertyRow | undefined {
	if (typeof v.property !== "string") return undefined;
	if (v.own === undefined) return propertyById(v.property);
	const own = decodeOwn(v.own);
	return own.ok && v.property === `own:${own.value.uid}` ? ownRow(own.value) : undefined;
}

/** The content of an own property: a name, a unit that reads, bounds in order. */
export function decodeOwn(input: unknown): Result<OwnProperty> {
	const shape = plainObject(
		input,
		["uid", "name", "symbol", "siUnit", "unit", "low", "high", "likelyLow", "likelyHigh", "neededFor", "explanation"],
		"own",
	);
	if (!shape.ok) return shape;
	const {
		uid,
		name,
		symbol,
		siUnit,
		unit,
		low,
		high,
		likelyLow = null,
		likelyHigh = null,
		neededFor = [],
		explanation,
	} = shape.value;
	if (typeof uid !== "string" || !/^[0-9a-zA-Z-]{1,64}$/.test(uid)) return fail({ code: "bad-key", path: "own.uid" });
	if (typeof name !== "string" || name.trim() === "" || name.length > 80)
		return fail({ code: "name-missing", path: "own.name", expected: "a name of at most 80 characters" });
	for (const [key, text, limit] of [
		["symbol", symbol, 20],
		["explanation", explanation, 400],
		["unit", unit, 40],
		["siUnit", siUnit, 40],
	] as const) {
		const path = `own.${key}`;
		const issue =
			typeof text === "string" ? textIssue(text, limit, path) : ({ code: "wrong-type", path, expected: "text" } as const);
		if (issue !== null) return fail(issue);
	}
	const units = safeUnits(String(siUnit), String(unit));
	if (units === null)
		return fail({ code: "unknown-unit", path: "own.unit", actual: `${unit}`, expected: "a unit such as kg/m^2" });
	for (const bound of [low, high, likelyLow, likelyHigh]) {
		if (bound !== null && (typeof bound !== "number" || !Number.isFinite(bound)))
			return fail({ code: "wrong-type", path: "own.low", expected: "a number or nothing" });
	}
	for (const [from, to] of [
		[low, high],
		[likelyLow, likelyHigh],
	]) {
		if (typeof from === "number" && typeof to === "number" && from > to)
			return fail({ code: "reversed-range", path: "own", actual: `${from} to ${to}` });
	}
	if (!Array.isArray(neededFor) || neededFor.length > 20 || neededFor.some((use) => typeof use !== "string" || use.length > 40))
		return fail({ code: "wrong-type", path: "own.neededFor", expected: "a list of uses" });
	// every field was looked at above
	return ok(shape.value as never);
}

function safeUnits(si: string, unit: string): true | null {
	try {
		const a = unitOf(si);
		return a.dimension === unitOf(unit).dimension && a.approximate === 1 ? true : null;
	} catch {
		// unitOf throws for a text that is no unit; here that text came from a person
		return null;
	}
}

function decodeHead(id: string, v: Raw): Issue | null {
	for (const key of ["condition", "source", "sourceId"] as const) {
		const issue = textIssue(v[key], LIMITS.text, `${id}.${key}`);
		if (issue !== null) return issue;
	}
	const choice =
		choiceIssue(v.evidence, EVIDENCE, `${id}.evidence`) ??
		choiceIssue(v.basis, BASES, `${id}.basis`) ??
		choiceIssue(v.spread, SPREADS, `${id}.spread`);
	if (choice !== null) return choice;
	for (const key of ["carried", "follows"] as const) {
		if (v[key] === undefined) continue;
		const carried = decodeCarried(v[key], `${id}.${key}`);
		if (!carried.ok) return carried.issues[0] as Issue;
	}
	return null;
}

export function decodeCarried(input: unknown, path: string): Result<unknown> {
	const carried = plainObject(input, ["name", "uid", "revision"], path);
	if (!carried.ok) return carried;
	const { name, uid, revision } = carried.value;
	const fine = typeof name === "string" && name.length <= LIMITS.name && typeof uid === "string" && Number.isInteger(revision);
	return fine ? carried : fail({ code: "wrong-type", path, expected: "name, uid and revision" });
}

function decodeContent(id: string, kind: string, v: Raw, older: boolean): Result<unknown> {
	const form = typeof v.property === "string" ? formById(v.property) : undefined;
	if (kind === "unknown" || kind === "not-applicable") {
		return form !== undefined || rowOf(v) !== undefined ? ok(null) : unknownProperty(id, v);
	}
	if (kind === "set" || kind === "model" || kind === "curve") {
		if (form?.kind !== kind) return unknownProperty(id, v);
		if (form.kind === "set") {
			const symmetry = form.symmetries.find((s) => s.id === v.symmetry);
			if (symmetry === undefined) return fail({ code: "unknown-choice", path: `${id}.symmetry`, actual: String(v.symmetry) });
			const axes = Array.isArray(v.axes) && v.axes.length === 3 && v.axes.every((a) => typeof a === "string" && a.length <= 60);
			if (!axes) return fail({ code: "wrong-type", path: `${id}.axes`, expected: "three names" });
			return decodeCoefficients(id, v.components, form.components);
		}
		if (form.kind === "model") {
			const shape = form.forms.find((f) => f.id === v.form);
			if (shape === undefined) return fail({ code: "unknown-choice", path: `${id}.form`, actual: String(v.form).slice(0, 80) });
			const words = textIssue(v.validity, LIMITS.text, `${id}.validity`) ?? textIssue(v.fitted, LIMITS.text, `${id}.fitted`);
			return words === null ? decodeCoefficients(id, v.coefficients, shape.coefficients) : fail(words);
		}
		return decodeSeries(id, v, rowOf(v));
	}
	const row = rowOf(v);
	if (row === undefined) return unknownProperty(id, v);
	if (kind === "text") {
		const issue =
			typeof v.text === "string" && v.text.trim() !== ""
				? textIssue(v.text, LIMITS.text, `${id}.text`)
				: ({ code: "empty", path: `${id}.text` } as const);
		return issue === null ? ok(null) : fail(issue);
	}
	if (v.qualifier !== undefined && !row.qualifiers?.some((q) => q.id === v.qualifier)) {
		return fail({ code: "unknown-choice", path: `${id}.qualifier`, actual: String(v.qualifier).slice(0, 80) });
	}
	if (kind === "table") return decodeSeries(id, v, rowOf(v));
	return kind === "readings" ? decodeReadings(id, v, row) : decodeQuantity(id, v, row, older);
}

function unknownProperty(id: string, v: Raw): Result<never> {
	return fail({ code: "unknown-property", path: id, actual: String(v.property).slice(0, 80) });
}

function decodeQuantity(id: string, v: Raw, row: PropertyRow, older: boolean): Result<unknown> {
	const read = decodeTyped(id, v, row);
	const isStored = older && isEnd(v.low) && isEnd(v.high) && (v.low !== null || v.high !== null);
	return read.ok || isStored ? decodeWorking(id, v, row) : read;
}

function isEnd(x: unknown): x is number | null {
	return x === null || (typeof x === "number" && Number.isFinite(x));
}

/** Typed text with its SI ends: a value, a coefficient. */
function decodeTyped(path: string, v: Raw, spec: QuantitySpec): Result<unknown> {
	if (typeof v.entered !== "string") return fail({ code: "wrong-type", path: `${path}.entered`, expected: "text" });
	if (!isMark(v.mark)) return fail({ code: "wrong-type", path: `${path}.mark`, expected: ". or ," });
	const parsed = parseQuantity(v.entered, spec, v.mark === undefined ? {} : { decimalMark: v.mark });
	if (!parsed.ok) return fail(...parsed.issues.map((i) => ({ ...i, path })));
	return v.low === parsed.value.low && v.high === parsed.value.high
		? ok(null)
		: mismatch(path, [v.low, v.high], [parsed.value.low, parsed.value.high]);
}

function decodeReadings(id: string, v: Raw, row: PropertyRow): Result<unknown> {
	if (typeof v.entered !== "string" || !isMark(v.mark))
		return fail({ code: "wrong-type", path: `${id}.entered`, expected: "text" });
	const read = parseReadings(v.entered, row, v.mark === undefined ? {} : { decimalMark: v.mark });
	if (read === null)
		return fail({ code: "not-a-number", path: id, actual: v.entered.slice(0, 80), expected: "a list of readings" });
	if (!read.ok) return fail(...read.issues.map((i) => ({ ...i, path: id })));
	const { readings } = read.value;
	const given = Array.isArray(v.readings) ? v.readings : [];
	if (given.length !== readings.length || given.some((x, i) => x !== readings[i])) return mismatch(id, given, readings);
	if (
		v.labels !== undefined &&
		!(
			Array.isArray(v.labels) &&
			v.labels.length === readings.length &&
			v.labels.every((l) => typeof l === "string" && l.length <= LIMITS.name)
		)
	)
		return fail({ code: "wrong-type", path: `${id}.labels`, expected: `${readings.length} names` });
	const ends = [Math.min(...readings), Math.max(...readings)];
	return v.low === ends[0] && v.high === ends[1] ? decodeWorking(id, v, row) : mismatch(id, [v.low, v.high], ends);
}

function decodeBases(id: string, v: Raw): Issue | null {
	if (v.bases === undefined) return null;
	const shape = plainObject(v.bases, ["low", "high", "working"], `${id}.bases`);
	if (!shape.ok) return shape.issues[0] as Issue;
	for (const [end, basis] of Object.entries(shape.value)) {
		const issue = choiceIssue(basis, BASES, `${id}.bases.${end}`);
		if (issue !== null) return issue;
	}
	return null;
}

/** A factor is a plain positive decimal with a reason. */
function decodeFactor(id: string, v: Raw): Issue | null {
	if (v.factor === undefined) return null;
	const shape = plainObject(v.factor, ["by", "reason"], `${id}.factor`);
	if (!shape.ok) return shape.issues[0] as Issue;
	const { by, reason } = shape.value;
	if (typeof by !== "string" || !FACTOR.test(by) || !(Number(by) > 0) || Number(by) > MOST_FACTOR)
		return {
			code: "bad-input",
			path: `${id}.factor.by`,
			actual: String(by).slice(0, 40),
			expected: `a positive number up to ${MOST_FACTOR}`,
		};
	if (typeof reason !== "string" || reason.trim() === "")
		return { code: "empty", path: `${id}.factor.reason`, expected: "a reason" };
	return textIssue(reason, LIMITS.text, `${id}.factor.reason`);
}
const FACTOR = /^\d{1,6}(?:\.\d{1,9})?$/;
const MOST_FACTOR = 1000;

/** Overrides of the working value: an end, the middle, or a number that reads. */
function decodeWorking(id: string, v: Raw, row: PropertyRow): Result<unknown> {
	const beside = decodeBases(id, v) ?? decodeFactor(id, v);
	if (beside !== null) return fail(beside);
	if (v.working === undefined) return ok(null);
	const map = textMap(v.working, 60, `${id}.working`);
	if (!map.ok) return map;
	for (const [use, text] of Object.entries(map.value)) {
		if (["low", "middle", "high", "mean"].includes(text)) continue;
		const read = parseQuantity(text, row);
		if (!read.ok) return fail(...read.issues.map((i) => ({ ...i, path: `${id}.working.${use}` })));
		if (read.value.low === null || read.value.low !== read.value.high)
			return fail({ code: "not-a-number", path: `${id}.working.${use}`, actual: text, expected: "one number" });
	}
	return ok(null);
}

function decodeCoefficients(id: string, input: unknown, specs: Readonly<Record<string, Component>>): Result<unknown> {
	const shape = plainObject(input, Object.keys(specs), id);
	if (!shape.ok) return shape;
	const issues: Issue[] = [];
	for (const [name, raw] of Object.entries(shape.value)) {
		const path = `${id}.${name}`;
		const coefficient = plainObject(raw, ["entered", "mark", "low", "high"], path);
		const read = coefficient.ok ? decodeTyped(path, coefficient.value, specs[name] as Component) : coefficient;
		if (!read.ok) issues.push(...read.issues);
	}
	return issues.length === 0 ? ok(null) : fail(...issues);
}
