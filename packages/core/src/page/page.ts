import type { Basis } from "../material";
import type { DecimalMark } from "../quantity";
import { fail, ok, type Result } from "../result";
import { type LineContext, type LineReading, nameIn, readLine, readNamed } from "./line";
import { readPrice } from "./price";
import { cleanPaste, plainText } from "./text";
import type { Ask, Page, PagePrice, Taken } from "./types";

/** The most that a paste holds; more is refused at once, so that the page stays responsive. */
export const PASTE_LIMITS = { characters: 200_000, lines: 2_000, lineLength: 1_000 } as const;

/** No number is written with so many digits; a line with such a run is left, unread. */
const ENDLESS_NUMBER = /[\d.,']{40}/;

type Role = "property" | "symbol" | "min" | "typical" | "max" | "value" | "unit" | "method" | "condition" | "at" | "other";
type Column = { readonly role: Role; readonly at?: string; readonly unit?: string };

const ROLES: readonly (readonly [Role, RegExp])[] = [
	["property", /^(?:propert|eigenschaft|kennwert|merkmal|characteristic|parameter|kenngröße|description|bezeichnung)/i],
	["symbol", /^(?:symbol|formelzeichen|zeichen|kurzzeichen)/i],
	["min", /^(?:min(?:imum|\.|\b)|mindest)/i],
	["max", /^(?:max(?:imum|\.|\b)|höchst)/i],
	["typical", /^(?:typ(?:ical|\.|isch|\b)|nominal|mean|mittel|richtwert|average|nenn)/i],
	["unit", /^(?:units?\b|einheit|dimension|maßeinheit)/i],
	["value", /^(?:values?\b|werte?\b|result|ergebnis|messwert|data\b)/i],
	["method", /^(?:(?:test )?(?:method|standard)|norm|prüf(?:norm|verfahren|methode)|according|nach\b)/i],
	["condition", /^(?:(?:test )?condition|bedingung|prüfbedingung|state|zustand|comment|bemerkung)/i],
];

const BASIS_WORDS: readonly (readonly [Basis, RegExp])[] = [
	[
		"typical",
		/\btypical (?:values?|properties|data|mechanical|physical)|typische (?:werte|eigenschaften|kennwerte)|\brichtwerte?\b|\bnominal values?\b|anhaltswerte/i,
	],
	[
		"guaranteed-minimum",
		/\bguaranteed (?:minimum|values?)|\bminimum (?:values|requirements|properties)|mindestwerte|garantierte (?:werte|mindestwerte)/i,
	],
	["mean", /\b(?:mean|average) values?\b|mittelwerte/i],
	["characteristic", /\bcharacteristic values?\b|charakteristische (?:werte|kennwerte)/i],
];
const SECTION = /^[\p{L} ,&/-]{3,60}(?:properties|eigenschaften|kennwerte|daten|data|values|werte)\s*:?$/iu;

/**
 * Reads text copied from a web page or a PDF. Every line ends up as taken (perhaps with a question), asked, a heading,
 * the price, or left; none disappears.
 * @returns issue `paste-too-large` with the limit
 */
export function readPage(pasted: string): Result<Page> {
	if (pasted.length > PASTE_LIMITS.characters)
		return fail({
			code: "paste-too-large",
			actual: `${pasted.length} characters`,
			expected: `at most ${PASTE_LIMITS.characters}`,
		});
	const lines = cleanPaste(pasted).split("\n");
	if (lines.length > PASTE_LIMITS.lines)
		return fail({ code: "paste-too-large", actual: `${lines.length} lines`, expected: `at most ${PASTE_LIMITS.lines}` });
	const mark = pageMark(lines);
	const state = { columns: null as readonly Column[] | null, basis: null as Basis | null };
	const taken: Taken[] = [];
	const asks: Ask[] = [];
	const headings: number[] = [];
	const left: number[] = [];
	let price: PagePrice | null = null;
	for (const [index, raw] of lines.entries()) {
		const line = index + 1;
		if (raw.trim() === "") continue;
		if (raw.length > PASTE_LIMITS.lineLength || ENDLESS_NUMBER.test(raw)) {
			left.push(line);
			continue;
		}
		const columns = headerRow(raw);
		if (columns !== null) {
			state.columns = columns;
			headings.push(line);
			continue;
		}
		const context: LineContext = { line, ...(mark === null ? {} : { mark }) };
		const found: PagePrice | null = price === null ? readPrice(plainText(raw), line) : null;
		if (found !== null) {
			price = found;
			continue;
		}
		const reading = readRow(raw, state.columns, context);
		if (reading.kind === "taken") taken.push(...reading.taken.map((t) => withBasis(t, state.basis)));
		else if (reading.kind === "ask") asks.push(reading.ask);
		else {
			const basis = BASIS_WORDS.find(([, words]) => words.test(raw))?.[0];
			if (basis !== undefined) state.basis = basis;
			if (basis !== undefined || SECTION.test(plainText(raw).trim())) headings.push(line);
			else left.push(line);
		}
	}
	return ok({ lines, taken, asks, price, headings, left, basis: state.basis });
}

/** Where a line says what the values below it are: `typical values`. Null when it does not. */
export function basisWords(line: string): readonly [from: number, to: number] | null {
	for (const [, words] of BASIS_WORDS) {
		const match = words.exec(line);
		if (match !== null) return [match.index, match.index + match[0].length];
	}
	return null;
}

/** A minimum alone on a page of typical values is asked about; whatever else is taken as the heading says. */
function withBasis(taken: Taken, basis: Basis | null): Taken {
	const alone = taken.low !== null && taken.high === null;
	if (alone && basis === "typical") {
		const { question } = taken;
		const asked = "guaranteed minimum, or the least of typical?";
		return { ...taken, question: question === undefined ? asked : `${question}; ${asked}` };
	}
	if (taken.basis !== undefined || basis === null) return taken;
	return { ...taken, basis };
}

const NONE: LineReading = { kind: "none" };

/** The decimal mark, where every number that shows one shows the same. */
function pageMark(lines: readonly string[]): DecimalMark | null {
	const all = lines.join("\n");
	const comma = /\d,\d{1,2}(?!\d)|(?<!\d)0,\d/.test(all);
	const point = /\d\.\d{1,2}(?![\d.])|(?<!\d)0\.\d/.test(all);
	if (comma === point) return null;
	return comma ? "," : ".";
}

/** A row cut into cells: tabs first, else bars, else wide gaps. */
function cells(raw: string): readonly string[] {
	if (raw.includes("\t")) return raw.split("\t").map((c) => c.trim());
	if (/\|/.test(raw))
		return raw
			.replace(/^\s*\||\|\s*$/g, "")
			.split("|")
			.map((c) => c.trim());
	return raw
		.trim()
		.split(/\s{2,}/)
		.map((c) => c.trim());
}

/** Roles of the columns when this is a header row: at least two cells with a known role, no numbers but temperatures. */
function headerRow(raw: string): readonly Column[] | null {
	const found = cells(raw);
	if (found.length < 2) return null;
	const columns = found.map((cell): Column => {
		const plain = plainText(cell).trim();
		const temperature = /^(?:at |bei )?([-−+]?\d+\s*(?:°[CF]|K))$/i.exec(plain);
		if (temperature !== null) return { role: "at", at: (temperature[1] as string).replace(/\s*°/, " °") };
		const role = ROLES.find(([, words]) => words.test(plain))?.[0] ?? "other";
		const unit = /[[(]([^\])]+)[\])]/.exec(plain)?.[1];
		return unit !== undefined && ["min", "max", "typical", "value"].includes(role) ? { role, unit } : { role };
	});
	const known = columns.filter((c) => c.role !== "other").length;
	const digits = found.some((cell, i) => columns[i]?.role !== "at" && /\d{2,}/.test(cell.replace(/[[(].*?[\])]/g, "")));
	if (known < 2 || digits) return null;
	// a table nearly always begins with what it is about, even when that cell is blank or named otherwise
	return columns[0]?.role === "other" ? [{ role: "property" }, ...columns.slice(1)] : columns;
}

function readRow(raw: string, columns: readonly Column[] | null, context: LineContext): LineReading {
	const found = cells(raw);
	if (columns !== null && found.length >= 2 && found.length <= columns.length + 1) {
		const reading = readColumns(raw, found, columns, context);
		if (reading.kind !== "none") return reading;
	}
	const loose = found.length >= 2 && /[\t|]/.test(raw) ? readLoose(raw, found, context) : NONE;
	return loose.kind === "none" ? readLine(raw.replace(/\t|\s*\|\s*/g, " "), context) : loose;
}

/** Cells under known columns. */
function readColumns(raw: string, found: readonly string[], columns: readonly Column[], context: LineContext): LineReading {
	const cell = (role: Role): string => {
		const index = columns.findIndex((c) => c.role === role);
		return index < 0 ? "" : (found[index] ?? "").trim();
	};
	const name = plainText([cell("property") || (found[0] ?? ""), cell("symbol")].join(" ").trim());
	const named = nameIn(name);
	if (named === null) return { kind: "none" };
	const stated = columns.find((c) => c.unit !== undefined)?.unit ?? "";
	const unit = blankUnit(cell("unit")) ? (blankUnit(stated) ? "" : stated) : cell("unit");
	const several = columns.flatMap((c, i) =>
		c.role === "at" && (found[i] ?? "") !== "" ? [{ at: c.at as string, text: found[i] as string }] : [],
	);
	if (several.length > 0) return severalConditions(named, name, several, unit, raw, context);
	const [min, typical, max, value] = (["min", "typical", "max", "value"] as const).map((role) => numberCell(cell(role)));
	const text = columnText(min ?? "", typical ?? "", max ?? "", value ?? "", unit);
	if (text === null) return { kind: "none" };
	const reading = readNamed(named, `${name} ${conditionCell(cell("condition"))}`, text.text, raw, context);
	if (reading.kind !== "taken") return reading;
	const extra: Partial<Taken> = {
		...(text.typical && typical !== "" ? { basis: "typical" as const } : {}),
		...(text.working === null ? {} : { working: text.working }),
	};
	return { kind: "taken", taken: reading.taken.map((t) => ({ ...t, ...extra })) };
}

function conditionCell(text: string): string {
	return text === "" ? "" : `(${text})`;
}

function numberCell(text: string): string {
	return /^[-–—]?$|^n\/?a\.?$|^k\.\s?a\.$/i.test(text) ? "" : text;
}

function blankUnit(text: string): boolean {
	return text === "" || /^[-–—1]$/.test(text);
}

type ColumnText = { readonly text: string; readonly typical: boolean; readonly working: string | null };

/** One text from the number columns; a typical number inside a range becomes its working value. */
function columnText(min: string, typical: string, max: string, value: string, unit: string): ColumnText | null {
	const tail = unit === "" ? "" : ` ${unit}`;
	const hasUnit = (text: string): string =>
		/[\p{L}°%]/u.test(text.replace(/^(?:min|max|ca|typ|approx)\.?/i, "")) ? text : `${text}${tail}`;
	if (value !== "") return { text: hasUnit(value), typical: false, working: null };
	if (min !== "" && max !== "")
		return { text: `${min} - ${max}${tail}`, typical: typical !== "", working: typical === "" ? null : `${typical}${tail}` };
	if (typical !== "") return { text: hasUnit(typical), typical: true, working: null };
	if (min !== "") return { text: `>= ${min}${tail}`, typical: false, working: null };
	return max === "" ? null : { text: `<= ${max}${tail}`, typical: false, working: null };
}

/** `Property | 20 °C | 100 °C`: one value for each temperature. */
function severalConditions(
	named: ReturnType<typeof nameIn> & object,
	name: string,
	several: readonly { at: string; text: string }[],
	unit: string,
	raw: string,
	context: LineContext,
): LineReading {
	const taken: Taken[] = [];
	for (const { at, text } of several) {
		if (numberCell(text) === "") continue;
		const reading = readNamed(named, `${name} (${at})`, unit === "" ? text : `${text} ${unit}`, raw, context);
		if (reading.kind === "ask") return reading;
		if (reading.kind === "taken") taken.push(...reading.taken);
	}
	return taken.length === 0 ? { kind: "none" } : { kind: "taken", taken };
}

/** Tabs without a header row: a name, then one or two numbers, then a unit, in that order. */
function readLoose(raw: string, found: readonly string[], context: LineContext): LineReading {
	const name = plainText(found[0] ?? "");
	const named = nameIn(name);
	if (named === null) return { kind: "none" };
	const rest = found.slice(1).filter((c) => c !== "");
	const numbers = rest.filter((c) => /^[<>≥≤~]?\s*[-+−]?[\d.,]+$/.test(c));
	const unit = rest.find((c) => /\p{L}|°|%/u.test(c) && !/^\d/.test(c) && !/^(?:ISO|DIN|EN|ASTM|IEC)/.test(c)) ?? "";
	if (numbers.length === 2) return readNamed(named, name, `${numbers[0]} - ${numbers[1]} ${unit}`.trim(), raw, context);
	const joined =
		unit !== "" && rest.indexOf(unit) < rest.findIndex((c) => /\d/.test(c)) ? [...rest.filter((c) => c !== unit), unit] : rest;
	return readNamed(named, name, joined.join(" "), raw, context);
}
