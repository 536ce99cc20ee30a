import { fail, ok, type Result } from "../result";
import { normaliseText } from "./normalise";
import { parseQuantity } from "./parse";
import type { ParseOptions, QuantitySpec } from "./types";

/** Readings of n specimens, in SI and as typed. */
export type Readings = {
	readonly readings: readonly number[];
	readonly unit: string;
	/** Each number as typed, without its unit. */
	readonly digits: readonly string[];
	readonly entered: string;
};

const HEAD = /^(?:(\d{1,3})\s*(?:specimens?|readings?|samples?|tests?|Proben|Messwerte)|readings?|specimens?|Messwerte)\s*:?\s+/i;
const MAX_READINGS = 500;

/**
 * Reads `5 specimens: 261 264 258 266 262 MPa`, `261; 264; 258 MPa`, `1041, 1052, 1060 MPa`, `261 264 258 MPa` or one
 * reading a line. Where the blanks or commas could also part the thousands or the decimals of fewer numbers, and those
 * fit the property, both readings are asked.
 * @returns null when the text is no list; issues `wrong-count` when the head says another number of specimens,
 *   `unclear-number` with the readings and the number as `choices`
 */
export function parseReadings(text: string, spec: QuantitySpec, options: ParseOptions = {}): Result<Readings> | null {
	if (text.length > MOST_CHARACTERS) return null;
	const lines = text
		.split(/\r?\n/)
		.map((l) => l.trim())
		.filter((l) => l !== "");
	const normal = normaliseText(lines.length > 1 ? lines.join("; ") : text);
	const head = HEAD.exec(normal);
	const body = head === null ? normal : normal.slice(head[0].length);
	const pieces = piecesOf(body, head !== null);
	if (pieces === null || pieces.length < 2) return null;
	const read = readPieces(text, { pieces, said: head?.[1] }, spec, options);
	// with a head word, semicolons or lines there is nothing to mistake
	if (head !== null || body.includes(";") || !read.ok) return read.ok || head !== null || body.includes(";") ? read : null;
	const single = parseQuantity(text, spec, options);
	if (!single.ok && single.issues[0]?.code !== "ambiguous-number") return read;
	if (single.ok && /^[+-]?\d{1,3}(?:([ ',])\d{3})(?:\1\d{3})*(?!\d)/.test(body) && !/^\d{3}(?: \d{3}){2}/.test(body)) return null;
	const one = single.ok ? [oneNumber(text)] : (single.issues[0]?.choices ?? []);
	return fail({
		code: "unclear-number",
		actual: text,
		expected: "readings or one number",
		choices: [pieces.join("; "), ...one],
	});
}

const MOST_CHARACTERS = 8000;

/** `261 264 MPa` without the blanks between its digits. */
function oneNumber(text: string): string {
	return text.trim().replace(/(?<=\d)[ '\u00a0\u2009\u202f](?=\d{3}(?!\d))/g, "");
}

const NUMBERS_IN_ROW = /^[+-]?[\d.,]+(?:e[+-]?\d+)?(?:[ ]+[+-]?[\d.,]+(?:e[+-]?\d+)?)+(?=[ ]|$)/i;

/** The pieces of a list, the unit kept with the last one; null when the text is no list. */
function piecesOf(body: string, headed: boolean): string[] | null {
	const split = (parts: string[]): string[] => parts.map((p) => p.trim()).filter((p) => p !== "");
	if (body.includes(";")) return split(body.split(";"));
	if (headed) return split(/\d,\s/.test(body) ? body.split(/,\s+/) : spaced(body));
	if (/^[+-]?\d[\d.]*(?:, +[+-]?\d[\d.]*)+(?![\d,])/.test(body)) return split(body.split(/, +/));
	// `261,264,258 MPa` and `1041,1052 MPa`: groups or readings
	const commas = /^([+-]?\d+(?:\.\d+)?(?:,\d{2,}(?:\.\d+)?)+)(?!\d)/.exec(body)?.[1];
	if (commas !== undefined && (commas.split(",").length > 2 || /^(?:\d{3},\d{3}|\d{4},\d{4})$/.test(commas))) {
		const rest = body.slice(commas.length).trim();
		if (!/^(?:[-–±…]|to\b|bis\b|\.\.)/.test(rest)) {
			const parts = commas.split(",");
			return [...parts.slice(0, -1), `${parts.at(-1)} ${rest}`.trim()];
		}
	}
	const row = NUMBERS_IN_ROW.exec(body)?.[0];
	if (row === undefined || /^\s*(?:[-–±…*x×·^/]|to\b|bis\b|à|\.\.)/.test(body.slice(row.length))) return null;
	const numbers = row.split(/ +/);
	// digits torn apart are no list: `1 6 8 0 MPa`; a thousands group alone is one number
	if (numbers.some((n) => n.replace(/\D/g, "").length < 2) || numbers.length < 2) return null;
	return spaced(body);
}

/** The readings of the pieces, each with the unit of the last where it has none of its own. */
function readPieces(
	text: string,
	{ pieces, said }: { readonly pieces: readonly string[]; readonly said: string | undefined },
	spec: QuantitySpec,
	options: ParseOptions,
): Result<Readings> {
	if (pieces.length > MAX_READINGS) return fail({ code: "too-many", actual: pieces.length, expected: `at most ${MAX_READINGS}` });
	const last = pieces.at(-1) as string;
	const unit = /^[-+]?[\d.,]+(?:e[-+]?\d+)?\s*(.*)$/i.exec(last)?.[1]?.trim() ?? "";
	const supplied = unit !== "" ? unit : (options.fieldUnit ?? "");
	if (said !== undefined && Number(said) !== pieces.length) {
		return fail({ code: "wrong-count", actual: pieces.length, expected: `${said} readings` });
	}
	const readings: number[] = [];
	const digits: string[] = [];
	let unitRead = "";
	for (const piece of pieces) {
		const own = /[^\d.,+\-eE]/.test(piece) ? piece : `${piece} ${supplied}`;
		const read = parseQuantity(own, spec, options);
		if (!read.ok) return read;
		if (read.value.low === null || read.value.low !== read.value.high) {
			return fail({ code: "not-a-number", actual: piece, expected: "single readings, not ranges" });
		}
		readings.push(read.value.low);
		digits.push(read.value.digits[0] ?? "");
		unitRead = read.value.unit;
	}
	const written = text
		.trim()
		.split(/\r?\n/)
		.map((l) => l.trim())
		.filter((l) => l !== "")
		.join("; ");
	const entered = unit === "" && supplied !== "" && supplied !== "1" ? `${written} ${supplied}` : written;
	return ok({ readings, unit: unitRead, digits, entered });
}

/** `261 264 258 MPa` cut at its blanks, the unit kept with the last number. */
function spaced(body: string): string[] {
	const numbers = /^(?:[-+]?[\d.,]+(?:e[-+]?\d+)?(?:\s+|$))+/i.exec(body)?.[0] ?? "";
	const pieces = numbers.trim().split(/\s+/);
	const unit = body.slice(numbers.length).trim();
	return unit === "" ? pieces : [...pieces.slice(0, -1), `${pieces.at(-1)} ${unit}`];
}

/** Mean, sample standard deviation (n - 1) and number of readings. `s` is null for a single one. */
export function statistics(readings: readonly number[]): {
	readonly mean: number;
	readonly s: number | null;
	readonly n: number;
} {
	const n = readings.length;
	const first = readings[0] ?? 0;
	// sums are taken from the first reading, so that close readings of a large value keep their digits
	const mean = first + readings.reduce((sum, x) => sum + (x - first), 0) / n;
	const squares = readings.reduce((sum, x) => sum + (x - mean) ** 2, 0);
	return { mean, s: n > 1 ? Math.sqrt(squares / (n - 1)) : null, n };
}
