import type { Basis } from "../material";
import type { DecimalMark } from "../quantity";
import { fail, ok, type Result } from "../result";
import { readBroken } from "./broken";
import { cellsOf, isMarked } from "./cells";
import { type Label, readLabel } from "./label";
import { wordOf } from "./lexicon";
import { readOneLine } from "./oneline";
import { readPrice } from "./price";
import { isReadable, type Line, lineOf, marksIn, PageState } from "./state";
import { readTable } from "./tables";
import { cleanPaste, plainText } from "./text";
import type { NumberRun, Page, Taken } from "./types";

/** The most that a paste holds; more is refused at once, so that the page stays responsive. */
export const PASTE_LIMITS = { characters: 200_000, lines: 2_000, lineLength: 1_000 } as const;

const BASIS_WORDS: readonly (readonly [Basis, RegExp])[] = [
	[
		"typical",
		/\btypical(?: cured-ply)? (?:values?|properties|data|mechanical|physical|polari[sz]ation|specific)|typische (?:werte|eigenschaften|kennwerte)|\brichtwerte?\b|\bnominal values?\b|anhaltswerte|valeurs typiques/i,
	],
	[
		"guaranteed-minimum",
		/\bguaranteed (?:minimum|values?)|\bminimum (?:values|requirements|properties)|mindestwerte|garantierte (?:werte|mindestwerte)|(?:caractéristiques|valeurs) [\p{L}]* ?garanties/iu,
	],
	["mean", /\b(?:mean|average) values?\b|mittelwerte|valeurs moyennes/i],
	["characteristic", /\bcharacteristic values?\b|charakteristische (?:werte|kennwerte)|valeurs caractéristiques/i],
];
const LONGEST_HEADING = 240;
const SECTION = /^[\p{L} ,&/-]{3,60}(?:properties|eigenschaften|kennwerte|daten|data|values|werte)\s*:?$/iu;

/**
 * Reads text copied from a web page, a PDF, an e-mail or a certificate. Every line ends up as taken (perhaps with a
 * question), asked, a part of another line's value, a heading, the price, or left; every run of digits has one fate.
 * @returns issue `paste-too-large` with the limit
 */
export function readPage(pasted: string): Result<Page> {
	if (pasted.length > PASTE_LIMITS.characters)
		return fail({
			code: "paste-too-large",
			actual: `${pasted.length} characters`,
			expected: `at most ${PASTE_LIMITS.characters}`,
		});
	const texts = cleanPaste(pasted).split("\n");
	if (texts.length > PASTE_LIMITS.lines)
		return fail({ code: "paste-too-large", actual: `${texts.length} lines`, expected: `at most ${PASTE_LIMITS.lines}` });
	const state = new PageState(texts.map((text, i) => lineOf(i + 1, text)));
	state.mark = pageMark(state.lines);
	let no = 1;
	while (no <= state.lines.length) no += Math.max(1, readAt(state, no));
	return ok(pageOf(state));
}

/** Reads what begins at a line; the number of lines that it took. */
function readAt(state: PageState, no: number): number {
	const line = state.line(no);
	if (line.text.trim() === "" || !isReadable(line)) return 1;
	const before = { taken: state.taken.length, tables: state.tables.length, curves: state.curves.length };
	heed(state, line);
	if (state.price === null) {
		const price = readPrice(line.text, no, state.mark);
		if (price !== null) {
			state.price = price.price;
			state.claim(no, price.from, price.to, "price");
			state.parts.add(no);
			return 1;
		}
	}
	const table = readTable(state, no) || readBroken(state, no);
	if (table > 0) {
		for (let at = no; at < no + table; at++) readLeftRow(state, at);
		withBasis(state, before);
		return table;
	}
	if (!readOneLine(state, line, { mark: state.mark })) readUnderHeading(state, line);
	withBasis(state, before);
	return 1;
}

/** `H73301: 142 138 151 J` under a line that only names what it is of: `IMPACT TEST KV2 at -40 °C`. */
function readUnderHeading(state: PageState, line: Line): void {
	const above = line.no > 1 ? state.line(line.no - 1) : undefined;
	if (above === undefined || !/^[\p{L}\d/ -]{1,24}:/u.test(line.text) || line.expressions.length === 0) return;
	const from = line.text.indexOf(":") + 1;
	const isUsed = above.runs.some((r) => r.fate === "value" || r.fate === "asked");
	const named = isUsed || readLabel(line.text.slice(0, from), marksIn(line, 0, from)) !== null ? null : nameOnly(above);
	if (named === null) return;
	readOneLine(state, { ...line, heading: named }, { mark: state.mark }, from);
	if (line.runs.some((r) => r.fate === "value"))
		for (const e of above.expressions) state.claim(above.no, e.from, e.to, "condition");
}

/** The label of a line that holds nothing else but conditions; null for any other line. */
function nameOnly(line: Line): Label | null {
	if (line.expressions.some((e) => e.unit === "") || cellsOf(line.text).length > 1) return null;
	const bare = line.expressions.reduce((t, e) => `${t.slice(0, e.from)}${" ".repeat(e.to - e.from)}${t.slice(e.to)}`, line.text);
	const label = readLabel(bare.toLowerCase() === bare ? bare : titleCase(bare), line.marks);
	if (label === null || label.properties.length === 0) return null;
	return {
		...label,
		conditions: [...label.conditions, ...line.expressions.map((e) => e.text)],
		confidence: Math.min(label.confidence, 0.8),
	};
}

/** A line in capitals in lower case, so that its words are found and its symbols are not. */
function titleCase(text: string): string {
	return text.replace(/\p{Lu}{4,}/gu, (w) => w.toLowerCase());
}

/** A row that its table could not read is read as a line by itself. */
function readLeftRow(state: PageState, no: number): void {
	const line = state.line(no);
	const touched = line.runs.some((r) => r.fate !== "left" && r.fate !== "name" && r.fate !== "standard");
	if (touched || state.headings.has(no) || state.parts.has(no)) return;
	// cells under heads mean what their head says; without it only one label with one value is safe
	if (isMarked(line.text) && line.expressions.length !== 1) return;
	readOneLine(state, line, { mark: state.mark });
}

/** What a line says about those below it: their basis, the states of pairs, what a table is of. */
function heed(state: PageState, line: Line): void {
	if (line.text.length > LONGEST_HEADING) return;
	const basis = BASIS_WORDS.find(([, words]) => words.test(line.text))?.[0];
	if (basis !== undefined) state.basis = basis;
	const states = /(?<![\p{L}])(\p{L}+\.?)\s*\/\s*(\p{L}+\.?)(?![\p{L}])/u.exec(line.text);
	const isState = (w: string): boolean => wordOf(w.toLowerCase().replace(/\.$/, "")).is === "condition";
	if (states !== null && isState(states[1] as string) && isState(states[2] as string))
		state.states = [states[1] as string, states[2] as string];
	if (!isMarked(line.text)) state.heading = line.text;
}

/** What was just read takes the basis of the heading above it; a limit alone under typical values is asked. */
function withBasis(state: PageState, before: { taken: number; tables: number; curves: number }): void {
	const { basis } = state;
	for (let i = before.taken; i < state.taken.length; i++) state.taken[i] = basisOf(state.taken[i] as Taken, basis);
	if (basis === null) return;
	for (let i = before.tables; i < state.tables.length; i++)
		state.tables[i] = { basis, ...(state.tables[i] as (typeof state.tables)[0]) };
	for (let i = before.curves; i < state.curves.length; i++)
		state.curves[i] = { basis, ...(state.curves[i] as (typeof state.curves)[0]) };
}

function basisOf(taken: Taken, basis: Basis | null): Taken {
	const alone = taken.low !== null && taken.high === null && taken.working === undefined;
	if (alone && basis === "typical" && taken.basis === undefined) {
		const asked = "guaranteed minimum, or the least of typical?";
		return { ...taken, question: taken.question === undefined ? asked : `${taken.question}; ${asked}` };
	}
	return taken.basis !== undefined || basis === null ? taken : { ...taken, basis };
}

function pageOf(state: PageState): Page {
	const taken = withoutTwins(state.taken);
	const used = new Set<number>([
		...taken.flatMap((t) => [t.line, ...(t.readings ?? []).map((r) => r.line)]),
		...state.asks.map((a) => a.line),
		...state.tables.flatMap((t) => [t.line, ...t.points.map((p) => p.line)]),
		...state.curves.flatMap((c) => [c.line, ...c.rows.map((r) => r.line)]),
		...state.parts,
	]);
	const headings: number[] = [];
	const left: number[] = [];
	const opening = state.lines.find((l) => l.text.trim() !== "");
	for (const line of state.lines) {
		if (line.text.trim() === "" || used.has(line.no)) continue;
		// the first line, when it says nothing in numbers, is the name of the page
		const isTitle = line === opening && line.expressions.length === 0;
		if (isTitle || state.headings.has(line.no) || basisWords(line.text) !== null || SECTION.test(plainText(line.text).trim()))
			headings.push(line.no);
		else left.push(line.no);
	}
	const parts = [...state.parts].filter((no) => no !== state.price?.line && !taken.some((t) => t.line === no));
	const numbers = state.lines.flatMap((line) => line.runs.map((run): NumberRun => ({ line: line.no, ...run })));
	return {
		lines: state.lines.map((l) => l.text),
		taken,
		tables: state.tables,
		curves: state.curves,
		asks: state.asks,
		grades: state.grades,
		compositions: state.compositions,
		price: state.price,
		headings,
		left,
		parts: parts.sort((a, b) => a - b),
		numbers,
		basis: state.basis,
	};
}

/** The same property under the same conditions a second time is not taken by itself. */
function withoutTwins(taken: readonly Taken[]): readonly Taken[] {
	const seen = new Set<string>();
	return taken.map((t) => {
		const key = [t.property, t.qualifier, t.condition, t.grade, t.scale].join("|");
		if (!seen.has(key)) {
			seen.add(key);
			return t;
		}
		return { ...t, confidence: Math.min(t.confidence, 0.8), note: t.note ?? "the page says this property more than once" };
	});
}

/** Where a line says what the values below it are: `typical values`. Null when it does not. */
export function basisWords(line: string): readonly [from: number, to: number] | null {
	if (line.length > LONGEST_HEADING) return null;
	for (const [, words] of BASIS_WORDS) {
		const match = words.exec(line);
		if (match !== null) return [match.index, match.index + match[0].length];
	}
	return null;
}

/** The decimal mark, where every number that shows one shows the same. */
function pageMark(lines: readonly Line[]): DecimalMark | null {
	let comma = false;
	let point = false;
	for (const line of lines) {
		for (const e of line.expressions) {
			comma ||= /\d,\d{1,2}(?!\d)|(?<!\d)0,\d/.test(e.text);
			point ||= /\d\.\d{1,2}(?![\d.])|(?<!\d)0\.\d/.test(e.text);
		}
	}
	if (comma === point) return null;
	return comma ? "," : ".";
}
