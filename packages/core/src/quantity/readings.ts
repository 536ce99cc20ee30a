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
 * Reads `5 specimens: 261 264 258 266 262 MPa` or `261; 264; 258 MPa`. Behind the head word blanks part the numbers;
 * without it only semicolons do, because `261 264` is otherwise one number with a thousands space.
 * @returns null when the text is no list; issue `wrong-count` when the head says another number of specimens
 */
export function parseReadings(text: string, spec: QuantitySpec, options: ParseOptions = {}): Result<Readings> | null {
	const normal = normaliseText(text);
	const head = HEAD.exec(normal);
	const body = head === null ? normal : normal.slice(head[0].length);
	const pieces = (body.includes(";") ? body.split(";") : head === null ? [] : spaced(body))
		.map((p) => p.trim())
		.filter((p) => p !== "");
	if (pieces.length < 2) return null;
	if (pieces.length > MAX_READINGS) return fail({ code: "too-many", actual: pieces.length, expected: `at most ${MAX_READINGS}` });
	const last = pieces.at(-1) as string;
	const unit = /^[-+]?[\d.,]+(?:e[-+]?\d+)?\s*(.*)$/i.exec(last)?.[1]?.trim() ?? "";
	const supplied = unit !== "" ? unit : (options.fieldUnit ?? "");
	const said = head?.[1];
	if (said !== undefined && Number(said) !== pieces.length) {
		return fail({ code: "wrong-count", actual: pieces.length, expected: `${said} readings` });
	}
	const readings: number[] = [];
	const digits: string[] = [];
	let written = "";
	for (const piece of pieces) {
		const own = /[^\d.,+\-eE]/.test(piece) ? piece : `${piece} ${supplied}`;
		const read = parseQuantity(own, spec, options);
		if (!read.ok) return read;
		if (read.value.low === null || read.value.low !== read.value.high) {
			return fail({ code: "not-a-number", actual: piece, expected: "single readings, not ranges" });
		}
		readings.push(read.value.low);
		digits.push(read.value.digits[0] ?? "");
		written = read.value.unit;
	}
	const entered = unit === "" && supplied !== "" && supplied !== "1" ? `${text.trim()} ${supplied}` : text.trim();
	return ok({ readings, unit: written, digits, entered });
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
