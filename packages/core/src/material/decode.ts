import { familyName } from "../property";
import { fail, type Issue, ok, type Result } from "../result";
import { decodeAttachment, decodeLook } from "./decode-look";
import { decodeCarried, decodeValue } from "./decode-value";
import { LIMITS } from "./limits";
import { choiceIssue, isInherited, plainObject, textIssue } from "./shape";
import {
	type Constituent,
	type Designation,
	FIELDS,
	type Field,
	isNameLike,
	type Material,
	type MaterialValue,
	type Price,
	SOURCE_KINDS,
	type Source,
} from "./types";
import { upgradeMaterial } from "./upgrade";

/** Maps of a document whose entries an edit can set one by one, beside the values. */
export const MAPS = ["sources", "attachments", "carriedFields", "acknowledged"] as const;

/**
 * Reads a material document from outside. Unknown keys, wrong shapes, SI numbers that the typed text does not give,
 * and keys such as `__proto__` are refused.
 */
export function decodeMaterial(input: unknown): Result<Material> {
	const shape = plainObject(input, ["schema", ...FIELDS, "values", ...MAPS], "");
	if (!shape.ok) return shape;
	const object = shape.value;
	if (object.schema !== 3) {
		// what an older version wrote is seen as today's; its numbers stay, although its texts may read otherwise now
		const held = plainObject(object.values, null, "values");
		if (!held.ok) return held;
		// checked field by field once it is seen as of today
		if (object.schema === 1 || object.schema === 2) return decodeAs(upgradeMaterial(object as never), true);
		return fail({ code: "unknown-schema", path: "schema", actual: String(object.schema), expected: "1 to 3" });
	}
	return decodeAs(object, false);
}

function decodeAs(object: Readonly<Record<string, unknown>>, older: boolean): Result<Material> {
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
		const read = decodeValue(id, raw, older);
		if (read.ok) values[id] = read.value;
		else issues.push(...read.issues);
	}
	const maps: Record<string, unknown> = {};
	for (const map of MAPS) {
		const entry = plainObject(object[map], null, map);
		if (!entry.ok) return entry;
		const rows = Object.entries(entry.value);
		const limit = map === "sources" ? LIMITS.sources : map === "attachments" ? LIMITS.attachments : LIMITS.values;
		if (rows.length > limit) return fail({ code: "too-many", path: map, actual: rows.length, expected: `at most ${limit}` });
		for (const [id, raw] of rows) {
			const read = decodeEntry(map, id, raw);
			if (!read.ok) issues.push(...read.issues);
		}
		maps[map] = entry.value;
	}
	if (issues.length > 0) return fail(...issues);
	return ok({ schema: 3, ...fields, values, ...maps } as Material);
}

/** One entry of the maps beside the values: a source, an attachment, a mark on a field, an acknowledged check. */
export function decodeEntry(map: (typeof MAPS)[number], id: string, input: unknown): Result<unknown> {
	const path = `${map}.${id.slice(0, 80)}`;
	if (id === "" || id.length > 300 || isInherited(id)) return fail({ code: "bad-key", path });
	if (map === "carriedFields") {
		return isNameLike(id) ? decodeCarried(input, path) : fail({ code: "unknown-key", path });
	}
	if (map === "acknowledged") {
		const shape = plainObject(input, ["reason", "seen"], path);
		if (!shape.ok) return shape;
		const { reason, seen } = shape.value;
		const fine = typeof reason === "string" && reason.trim() !== "" && typeof seen === "string" && seen.length <= 2000;
		const issue = fine ? textIssue(reason, LIMITS.text, path) : ({ code: "wrong-type", path, expected: "a reason" } as const);
		return issue === null ? ok(input) : fail(issue);
	}
	return map === "attachments" ? decodeAttachment(input, path) : decodeSource(input, path);
}

/** A source record: a kind and a title, the rest optional. */
export function decodeSource(input: unknown, path: string): Result<Source> {
	const shape = plainObject(input, ["kind", "title", "edition", "address", "date", "conditions", "text"], path);
	if (!shape.ok) return shape;
	const { kind, title, date, text, ...rest } = shape.value;
	if (typeof kind !== "string" || choiceIssue(kind, SOURCE_KINDS, path) !== null)
		return fail({
			code: "unknown-choice",
			path: `${path}.kind`,
			actual: String(kind).slice(0, 80),
			expected: SOURCE_KINDS.join(", "),
		});
	if (typeof title !== "string" || title.trim() === "")
		return fail({ code: "name-missing", path: `${path}.title`, expected: "a title" });
	const issue =
		textIssue(title, LIMITS.text, `${path}.title`) ??
		textIssue(text, LIMITS.description, `${path}.text`) ??
		["edition", "address", "conditions"].map((k) => textIssue(rest[k], LIMITS.text, `${path}.${k}`)).find((i) => i !== null) ??
		null;
	if (issue !== null) return fail(issue);
	if (date !== undefined && (typeof date !== "string" || !/^\d{4}(-\d{2}(-\d{2})?)?$/.test(date)))
		return fail({ code: "wrong-type", path: `${path}.date`, expected: "a date such as 2026-11-25, or a year" });
	// every field was looked at above
	return ok(shape.value as unknown as Source);
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
		case "look":
			return decodeLook(input);
		case "elasticity": {
			const issue = choiceIssue(input ?? null, ["isotropic", "directional"], field);
			return issue === null ? ok(input as Material["elasticity"]) : fail(issue);
		}
		case "links":
			return decodeLinks(input);
		case "composition":
			return decodeComposition(input);
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

/** Links open in the browser, so only those that name a web page are taken. */
function decodeLinks(input: unknown): Result<readonly string[]> {
	const fine =
		Array.isArray(input) &&
		input.length <= LIMITS.links &&
		input.every((l) => typeof l === "string" && l.length <= LIMITS.text && /^https?:\/\/[^\s]+$/.test(l));
	return fine
		? ok(input as string[])
		: fail({
				code: "wrong-type",
				path: "links",
				expected: `at most ${LIMITS.links} addresses that begin with http:// or https://`,
			});
}

const SHARE = /^\d{1,3}(\.\d{1,8})?$/;

/** Mass percentages; one constituent may be the balance. */
function decodeComposition(input: unknown): Result<readonly Constituent[]> {
	if (!Array.isArray(input) || input.length > LIMITS.constituents)
		return fail({ code: "wrong-type", path: "composition", expected: `a list of at most ${LIMITS.constituents}` });
	let balances = 0;
	for (const row of input) {
		const shape = plainObject(row, ["name", "min", "max", "balance"], "composition");
		if (!shape.ok) return shape;
		const { name, min, max, balance } = shape.value;
		const share = (x: unknown): x is string => x === "" || (typeof x === "string" && SHARE.test(x) && Number(x) <= 100);
		const isFlag = balance === undefined || typeof balance === "boolean";
		if (typeof name !== "string" || name.trim() === "" || name.length > 40 || !share(min) || !share(max) || !isFlag)
			return fail({
				code: "wrong-type",
				path: "composition",
				actual: String(name).slice(0, 40),
				expected: "a constituent with mass percentages from 0 to 100",
			});
		if (min !== "" && max !== "" && Number(min) > Number(max))
			return fail({ code: "reversed-range", path: `composition.${name}`, actual: `${min} to ${max}` });
		if (balance === true) balances++;
	}
	if (balances > 1) return fail({ code: "wrong-type", path: "composition", expected: "one balance element at most" });
	return ok(input as Constituent[]);
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
	// every field was looked at above
	return ok(shape.value as unknown as Price);
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
