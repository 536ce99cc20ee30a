import { fail, type Issue, ok, type Result } from "../result";

/** A plain object with no keys but these; `null` allows any. */
export function plainObject(input: unknown, keys: readonly string[] | null, path: string): Result<Record<string, unknown>> {
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

/** The issue of a text that is none or too long; null when it is fine or absent. */
export function textIssue(input: unknown, limit: number, path: string): Issue | null {
	if (input === undefined || (typeof input === "string" && input.length <= limit)) return null;
	return { code: "wrong-type", path, expected: `text of at most ${limit} characters` };
}

/** The issue of a choice that is none of these; null when it is fine or absent. */
export function choiceIssue(input: unknown, choices: readonly string[], path: string): Issue | null {
	if (input === undefined || (typeof input === "string" && choices.includes(input))) return null;
	return { code: "unknown-choice", path, actual: String(input).slice(0, 80), expected: choices.join(", ") };
}

export function isMark(input: unknown): input is "." | "," | undefined {
	return input === undefined || input === "." || input === ",";
}

/** A short map from ids to texts, such as the header of a curve. */
export function textMap(input: unknown, limit: number, path: string): Result<Record<string, string>> {
	const shape = plainObject(input, null, path);
	if (!shape.ok) return shape;
	const entries = Object.entries(shape.value);
	if (entries.length > 40) return fail({ code: "too-many", path, actual: entries.length, expected: "at most 40" });
	for (const [key, text] of entries) {
		const issue = text === undefined ? null : textIssue(text, limit, `${path}.${key.slice(0, 80)}`);
		if (issue !== null || key.length > 60) return fail(issue ?? { code: "bad-key", path, actual: key.slice(0, 80) });
	}
	return ok(shape.value as Record<string, string>);
}

/** Names that every object bears; a key of a document is none of them. */
const INHERITED: ReadonlySet<string> = new Set(Object.getOwnPropertyNames(Object.prototype));
export const isInherited = (key: string): boolean => INHERITED.has(key) || key === "prototype";

/** An address that a page may lead to: nothing that runs, nothing of this computer. */
export const isWebAddress = (text: string): boolean => /^https?:\/\/[^\s/?#]+\S*$/i.test(text);

/** Numbers that are not those that their text reads to. */
export function mismatch(path: string, actual: readonly unknown[], expected: readonly unknown[]): Result<never> {
	return fail({
		code: "si-mismatch",
		path,
		actual: actual.join(", ").slice(0, 200),
		expected: expected.join(", ").slice(0, 200),
	});
}
