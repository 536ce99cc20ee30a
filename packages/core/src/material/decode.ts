import { familyName, propertyById } from "../property";
import { parseQuantity } from "../quantity";
import { fail, type Issue, ok, type Result } from "../result";
import { BASES, type Designation, EVIDENCE, FIELDS, type Field, type Material, type MaterialValue, type Price } from "./types";

export const LIMITS = { name: 200, text: 400, description: 20_000, designations: 20, values: 400 } as const;

const VALUE_ID = /^[a-z][a-zA-Z0-9_]{0,60}(~[1-9]\d{0,3})?$/;

/**
 * Reads a material document from outside. Unknown keys, wrong shapes, SI numbers that the typed text does not give,
 * and keys such as `__proto__` are refused.
 */
export function decodeMaterial(input: unknown): Result<Material> {
	const shape = plainObject(input, ["schema", ...FIELDS, "values"], "");
	if (!shape.ok) return shape;
	const object = shape.value;
	if (object.schema !== 1) return fail({ code: "unknown-schema", path: "schema", actual: String(object.schema), expected: "1" });
	const issues: Issue[] = [];
	const fields: Record<string, unknown> = {};
	for (const field of FIELDS) {
		const read = decodeField(field, object[field]);
		if (read.ok) fields[field] = read.value;
		else issues.push(...read.issues);
	}
	const values: Record<string, MaterialValue> = {};
	const list = plainObject(object.values, null, "values");
	if (!list.ok) return list;
	const entries = Object.entries(list.value);
	if (entries.length > LIMITS.values) {
		return fail({ code: "too-many", path: "values", actual: entries.length, expected: `at most ${LIMITS.values}` });
	}
	for (const [id, raw] of entries) {
		const read = decodeValue(id, raw);
		if (read.ok) values[id] = read.value;
		else issues.push(...read.issues);
	}
	if (issues.length > 0) return fail(...issues);
	return ok({ schema: 1, ...fields, values } as Material);
}

/** One value, its SI checked against what was typed. */
export function decodeValue(id: string, input: unknown): Result<MaterialValue> {
	if (!VALUE_ID.test(id)) return fail({ code: "bad-key", path: id.slice(0, 80), expected: "a value id such as density" });
	const keys = [
		"id",
		"property",
		"entered",
		"mark",
		"low",
		"high",
		"qualifier",
		"condition",
		"evidence",
		"basis",
		"source",
		"carried",
	];
	const shape = plainObject(input, keys, id);
	if (!shape.ok) return shape;
	const v = shape.value;
	const spec = typeof v.property === "string" ? propertyById(v.property) : undefined;
	if (spec === undefined) return fail({ code: "unknown-property", path: id, actual: String(v.property).slice(0, 80) });
	if (v.id !== id) return fail({ code: "bad-key", path: id, actual: String(v.id).slice(0, 80), expected: id });
	if (typeof v.entered !== "string") return fail({ code: "wrong-type", path: `${id}.entered`, expected: "text" });
	if (v.mark !== undefined && v.mark !== "," && v.mark !== ".")
		return fail({ code: "wrong-type", path: `${id}.mark`, expected: ". or ," });
	const parsed = parseQuantity(v.entered, spec, v.mark === undefined ? {} : { decimalMark: v.mark });
	if (!parsed.ok) return fail(...parsed.issues.map((i) => ({ ...i, path: id })));
	if (v.low !== parsed.value.low || v.high !== parsed.value.high) {
		return fail({
			code: "si-mismatch",
			path: id,
			actual: `${v.low}, ${v.high}`,
			expected: `${parsed.value.low}, ${parsed.value.high}`,
		});
	}
	for (const key of ["condition", "source"] as const) {
		const text = v[key];
		if (text !== undefined && (typeof text !== "string" || text.length > LIMITS.text)) {
			return fail({ code: "wrong-type", path: `${id}.${key}`, expected: `text of at most ${LIMITS.text} characters` });
		}
	}
	if (v.qualifier !== undefined && !spec.qualifiers?.some((q) => q.id === v.qualifier)) {
		return fail({ code: "unknown-choice", path: `${id}.qualifier`, actual: String(v.qualifier).slice(0, 80) });
	}
	if (v.evidence !== undefined && !EVIDENCE.includes(v.evidence as never)) {
		return fail({ code: "unknown-choice", path: `${id}.evidence`, actual: String(v.evidence).slice(0, 80) });
	}
	if (v.basis !== undefined && !BASES.includes(v.basis as never)) {
		return fail({ code: "unknown-choice", path: `${id}.basis`, actual: String(v.basis).slice(0, 80) });
	}
	if (v.carried !== undefined) {
		const carried = plainObject(v.carried, ["name", "uid", "revision"], `${id}.carried`);
		if (!carried.ok) return carried;
		const { name, uid, revision } = carried.value;
		if (typeof name !== "string" || typeof uid !== "string" || !Number.isInteger(revision)) {
			return fail({ code: "wrong-type", path: `${id}.carried`, expected: "name, uid and revision" });
		}
	}
	return ok(v as unknown as MaterialValue);
}

/** One field beside the values; an absent one is refused, so that a document is always whole. */
export function decodeField(field: Field, input: unknown): Result<Material[Field]> {
	switch (field) {
		case "family":
			if (input === null || (typeof input === "string" && familyName(input) !== undefined)) return ok(input as string | null);
			return fail({ code: "unknown-choice", path: field, actual: String(input).slice(0, 80), expected: "a family of the tree" });
		case "designations":
			return decodeDesignations(input);
		case "price":
			return decodePrice(input);
		case "colour":
			if (typeof input === "string" && /^#[0-9a-f]{6}$/.test(input)) return ok(input);
			return fail({ code: "wrong-type", path: field, expected: "a colour such as #b5bcc0" });
		default: {
			const limit = field === "description" || field === "notes" ? LIMITS.description : LIMITS.text;
			if (typeof input === "string" && input.length <= limit) return ok(input);
			return fail({
				code: "too-long",
				path: field,
				actual: typeof input === "string" ? input.length : typeof input,
				expected: `text of at most ${limit} characters`,
			});
		}
	}
}

function decodeDesignations(input: unknown): Result<readonly Designation[]> {
	if (!Array.isArray(input) || input.length > LIMITS.designations) {
		return fail({ code: "wrong-type", path: "designations", expected: `a list of at most ${LIMITS.designations}` });
	}
	for (const item of input) {
		const shape = plainObject(item, ["system", "text"], "designations");
		if (!shape.ok) return shape;
		const { system, text } = shape.value;
		const fine =
			typeof text === "string" &&
			text !== "" &&
			text.length <= LIMITS.name &&
			(system === undefined || typeof system === "string");
		if (!fine) return fail({ code: "wrong-type", path: "designations", expected: "system and text" });
	}
	return ok(input as Designation[]);
}

function decodePrice(input: unknown): Result<Price | null> {
	if (input === null) return ok(null);
	const shape = plainObject(input, ["amount", "currency", "date"], "price");
	if (!shape.ok) return shape;
	const { amount, currency, date } = shape.value;
	const fine =
		typeof amount === "string" &&
		/^\d{1,9}(\.\d{1,6})?$/.test(amount) &&
		typeof currency === "string" &&
		/^[A-Z]{3}$/.test(currency);
	if (!fine || typeof date !== "string" || !/^\d{4}-\d{2}-\d{2}$/.test(date)) {
		return fail({ code: "wrong-type", path: "price", expected: "amount, ISO 4217 currency and date" });
	}
	return ok(shape.value as unknown as Price);
}

/** A plain object with no keys but these; `null` allows any. */
function plainObject(input: unknown, keys: readonly string[] | null, path: string): Result<Record<string, unknown>> {
	if (typeof input !== "object" || input === null || Array.isArray(input)) {
		return fail({ code: "wrong-type", path, actual: input === null ? "null" : typeof input, expected: "an object" });
	}
	for (const key of Object.keys(input)) {
		if (key === "__proto__" || key === "constructor" || (keys !== null && !keys.includes(key))) {
			return fail({ code: "unknown-key", path: path === "" ? key.slice(0, 80) : `${path}.${key.slice(0, 80)}` });
		}
	}
	return ok(input as Record<string, unknown>);
}

/** A name as stored: NFC, trimmed, single spaces, 1 to 200 characters without control characters. */
export function cleanName(input: string): Result<string> {
	const name = input.normalize("NFC").trim().replace(/\s+/g, " ");
	if (name === "") return fail({ code: "name-missing", path: "name", expected: "a name" });
	if (name.length > LIMITS.name) {
		return fail({ code: "too-long", path: "name", actual: name.length, expected: `a name of at most ${LIMITS.name} characters` });
	}
	// biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is refused
	if (/[\u0000-\u001f\u007f]/.test(name))
		return fail({ code: "wrong-type", path: "name", expected: "a name without control characters" });
	return ok(name);
}

/** Names that differ only by case are the same name within a library. */
export function nameKey(name: string): string {
	return name.normalize("NFC").toLowerCase();
}
