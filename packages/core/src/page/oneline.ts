import { property } from "../property";
import { sameWithinRounding } from "../quantity";
import type { Issue } from "../result";
import { catalogueId, evaluate, type Reading } from "./evaluate";
import type { Expression } from "./expression";
import { type Label, readLabel } from "./label";
import { wordOf } from "./lexicon";
import { askAboutTheRest, finish, type Group, mayBeNegative, signChoices } from "./oneline-groups";
import { type Line, marksIn, type PageState } from "./state";

const GAP = /\t| {3}|\.{4}|_{3}/;
const GAP_FROM = /\t| {3}|\.{4}|_{3}/g;
/** Behind these words a quantity tells where a value holds. */
const BESIDE = /(?:^|[\s(,;])(?:at|bei|à|@|from|von|de|below|above|unter|über|until|after|nach|near|between|zwischen)\s*$/i;

/**
 * Reads one line as labels with their values: `Thermal conductivity at 20 °C: 121 W/(m·K); specific heat 380 J/(kg·K)`.
 * What is understood is claimed; everything else stays left.
 * @returns whether anything was taken or asked
 */
export function readOneLine(state: PageState, line: Line, reading: Reading, from = 0): boolean {
	const groups = groupsOf(line, reading, from);
	let found = false;
	for (const group of groups) found = finish(state, line, group, reading) || found;
	if (found) askAboutTheRest(state, line, groups);
	return found;
}

function groupsOf(line: Line, reading: Reading, from: number): readonly Group[] {
	const to = line.text.length;
	const groups: Group[] = [];
	let group: Group | null = line.heading === undefined ? null : groupOf(line.heading);
	if (group !== null) groups.push(group);
	let at = from;
	let isBehind = false;
	const expressions = line.expressions.filter((e) => e.from >= from && e.to <= to);
	for (const [k, e] of expressions.entries()) {
		const chunk = line.text.slice(at, e.from);
		const label = readLabel(
			chunk.replace(/@\s*temperature/i, (m) => "@".padEnd(m.length)),
			marksIn(line, at, e.from),
		);
		const behind: Behind | null =
			label === null && (group === null || isBehind) ? labelBehind(line, e, expressions[k + 1]?.from ?? to) : null;
		isBehind = behind !== null;
		if (label !== null || behind !== null) {
			group = groupOf(label ?? (behind as Behind).label);
			groups.push(group);
		}
		at = behind?.to ?? e.to;
		if (group === null || group.label.properties.length === 0) continue;
		const words = label === null ? wordsBetween(chunk) : { left: [], right: [] };
		const last = group.values.at(-1);
		last?.conditions.push(...words.left, ...(label === null ? sizesIn(line, e, chunk.length) : []));
		place(group, { e, next: expressions[k + 1], chunk, line, words: words.right }, reading);
	}
	const last = group?.values.at(-1);
	if (last !== undefined) {
		const sizes = marksIn(line, at, to).flatMap((m) => m.condition ?? []);
		last.conditions.push(...wordsBetween(line.text.slice(at, to)).left, ...sizes);
	}
	return groups;
}

type Behind = { readonly label: Label; readonly to: number };

/** `66.2 ksi UTS and 58.9 ksi yield, elongation …`: a name that follows its number and ends before anything else begins. */
function labelBehind(line: Line, e: Expression, end: number): Behind | null {
	if (e.unit === "" || e.dimension === null) return null;
	const phrase = /^ ?(\p{L}[\p{L} '-]{0,39}?)(?= ?(?:[,;.)]|\b(?:and|und|et)\b|$))/u.exec(line.text.slice(e.to, end));
	if (phrase === null) return null;
	const to = e.to + phrase[0].length;
	if (to === end && end !== line.text.length) return null;
	const label = readLabel(phrase[1] as string, []);
	return label === null || label.properties.length === 0 ? null : { label, to };
}

function groupOf(label: Label): Group {
	return { label, conditions: [...label.conditions], conditionSpans: [], values: [], open: [], bare: [], disagree: null };
}

/** A number of a line, with the one behind it, the text in front of it, and words there that tell where it holds. */
type Standing = {
	readonly e: Expression;
	readonly next: Expression | undefined;
	readonly chunk: string;
	readonly line: Line;
	readonly words: readonly string[];
};

function place(group: Group, { e, next, chunk, line, words }: Standing, reading: Reading): void {
	const last = group.values.at(-1);
	const inBracket = depthAt(line.text, e.from) > 0;
	const text = e.choices?.[0];
	const value = evaluate(
		group.label,
		text === undefined ? e : { ...e, text, list: false, repaired: undefined },
		reading,
		last === undefined,
	);
	if (inBracket && last !== undefined && value.ok && e.dimension !== null) {
		if (sameWithinRounding(last.value.quantity, value.value.quantity)) last.double = e;
		else group.disagree = [last.e, e];
		return;
	}
	const spec = property(catalogueId(group.label.properties[0] as string));
	// `Absorption, 23 °C/50 % r.h.   ISO 62   %   1.9`: what stands in the label's own cell tells where it holds
	const isInLabel =
		last === undefined && e.unit !== "" && !GAP.test(chunk) && /,|\b(?:at|bei)\b/.test(chunk) && hasNumberInLaterCell(line, e);
	const isBeside =
		isInLabel ||
		(BESIDE.test(chunk) && (last !== undefined || e.dimension !== spec.dimension || spec.absoluteTemperature === true));
	// `Lowest service temperature: – 30 °C` may be minus thirty
	if (value.ok && e.dash === true && mayBeNegative(value.value.property)) {
		group.open.push({ e: { ...e, choices: signChoices(e) }, issue: { code: "unclear-number" } });
		return;
	}
	if (value.ok && !isBeside && !(e.unit === "" && last !== undefined && last.e.unit !== "" && e.limit === undefined)) {
		group.values.push({ e, value: value.value, conditions: [...words] });
		return;
	}
	if (e.unit === "" && !isBeside) {
		// `min 827, max 1034 N/mm2`: the unit of the next number closes both
		const shared =
			next !== undefined && next.unit !== "" && /^[\s,;/]*(?:and|und|et|to)?\s*$/i.test(line.text.slice(e.to, next.from));
		const borrowed = shared
			? evaluate(group.label, { ...e, text: `${e.text} ${next.unit}`, unit: next.unit }, reading, last === undefined)
			: null;
		if (borrowed?.ok === true)
			group.values.push({ e: { ...e, unit: next?.unit ?? "" }, value: borrowed.value, conditions: [...words] });
		else if (last === undefined) group.open.push({ e, issue: value.ok ? undefined : value.issues[0] });
		else group.bare.push(e);
		return;
	}
	if (!value.ok && e.dimension !== null && !isForeign(value.issues[0])) {
		group.open.push({ e, issue: value.issues[0] });
		return;
	}
	if (!value.ok && value.issues[0]?.code === "unit-missing") {
		group.open.push({ e, issue: value.issues[0] });
		return;
	}
	group.conditionSpans.push(e);
	const sign = e.limit === "max" ? "≤ " : e.limit === "min" ? "≥ " : "";
	const into =
		last !== undefined && !/^\s*[,;]/.test(chunk) ? last.conditions : last === undefined ? group.conditions : last.conditions;
	into.push(`${sign}${e.text}`);
}

/** Sizes between two numbers belong to the left one: `170 MPa (t ≤ 5 mm)`. */
function sizesIn(line: Line, e: Expression, length: number): readonly string[] {
	return marksIn(line, e.from - length, e.from).flatMap((m) => m.condition ?? []);
}

/** Does the next number behind a gap stand in a cell of its own, without a label before it? */
function hasNumberInLaterCell(line: Line, e: Expression): boolean {
	GAP_FROM.lastIndex = e.to;
	const gap = GAP_FROM.exec(line.text);
	const next = gap === null ? undefined : line.expressions.find((o) => o.from > gap.index);
	return next !== undefined && readLabel(line.text.slice(e.to, next.from), []) === null;
}

function isForeign(issue: Issue | undefined): boolean {
	return issue?.code === "wrong-dimension" || issue?.code === "unknown-unit";
}

function depthAt(text: string, at: number): number {
	let depth = 0;
	for (let i = Math.max(0, at - 80); i < at; i++) {
		if (text[i] === "(") depth++;
		else if (text[i] === ")") depth = Math.max(0, depth - 1);
	}
	return depth;
}

/** Words between two numbers that tell where a value holds: those before a comma belong to the left one. */
function wordsBetween(chunk: string): { left: string[]; right: string[] } {
	const cut = /[,;.]\s|\s(?:and|und|et)\s|\s–\s|\t| {3,}/.exec(` ${chunk}`);
	const at = cut === null ? chunk.length : Math.max(0, cut.index - 1);
	return { left: conditionWords(chunk.slice(0, at)), right: conditionWords(chunk.slice(at)) };
}

function conditionWords(text: string): string[] {
	const words = [...text.matchAll(/\p{L}[\p{L}/'’-]*/gu)].map((m) => m[0]);
	const kinds = words.map((w) => wordOf(w.toLowerCase()).is);
	const begin = kinds.findIndex((k) => k === "condition" || k === "preposition");
	if (begin < 0) return [];
	const phrase = words.slice(begin).filter((w) => wordOf(w.toLowerCase()).is !== "verb");
	// a preposition alone says nothing, unless it is all there is: `172 ppm/K above`
	const says =
		phrase.some((w) => wordOf(w.toLowerCase()).is !== "preposition") ||
		/^(?:above|below|darüber|darunter)$/i.test(phrase.join(" "));
	return says && phrase.length <= 6 ? [phrase.join(" ")] : [];
}
