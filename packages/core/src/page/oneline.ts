import { property } from "../property";
import { dimension, parseQuantity, sameWithinRounding } from "../quantity";
import type { Issue } from "../result";
import { catalogueId, evaluate, evaluateText, questionOf, type Reading, type Value } from "./evaluate";
import type { Expression } from "./expression";
import { type Label, readLabel } from "./label";
import { wordOf } from "./lexicon";
import { type About, endsText, proposals } from "./propose";
import { type Line, marksIn, type PageState } from "./state";

type Read = { readonly e: Expression; readonly value: Value; readonly conditions: string[]; double?: Expression };
type Group = {
	readonly label: Label;
	readonly conditions: string[];
	readonly conditionSpans: Expression[];
	readonly values: Read[];
	/** Numbers that belong to the label but do not read yet. */
	readonly open: { readonly e: Expression; readonly issue: Issue | undefined }[];
	/** Numbers without a unit beside values with one. */
	readonly bare: Expression[];
	disagree: readonly [Expression, Expression] | null;
};

const GAP = /\t| {3}|\.{4}|_{3}/;
const GAP_FROM = /\t| {3}|\.{4}|_{3}/g;
/** Behind these words a quantity tells where a value holds. */
const BESIDE = /(?:^|[\s(,;])(?:at|bei|à|@|from|von|de|below|above|unter|über|until|after|nach|near|between|zwischen)\s*$/i;

/**
 * Reads one line as labels with their values: `Thermal conductivity at 20 °C: 121 W/(m·K); specific heat 380 J/(kg·K)`.
 * What is understood is claimed; everything else stays left.
 * @returns whether anything was taken or asked
 */
export function readOneLine(state: PageState, line: Line, reading: Reading, from = 0, to = line.text.length): boolean {
	const groups = groupsOf(line, reading, from, to);
	let found = false;
	for (const group of groups) found = finish(state, line, group, reading) || found;
	if (found) askAboutTheRest(state, line, groups);
	return found;
}

function groupsOf(line: Line, reading: Reading, from: number, to: number): readonly Group[] {
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
		place(group, e, expressions[k + 1], chunk, line, reading, words.right);
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

function place(
	group: Group,
	e: Expression,
	next: Expression | undefined,
	chunk: string,
	line: Line,
	reading: Reading,
	words: readonly string[],
): void {
	const last = group.values.at(-1);
	const inBracket = depthAt(line.text, e.from) > 0;
	const text = e.choices?.[0];
	const value = evaluate(
		group.label,
		text === undefined ? e : ({ ...e, text, list: false, repaired: undefined } as unknown as Expression),
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

function finish(state: PageState, line: Line, group: Group, reading: Reading): boolean {
	const { label } = group;
	if (label.properties.length === 0) return false;
	// a modulus at a strain is none of elasticity
	if (label.properties.includes("youngs_modulus") && group.conditionSpans.some((e) => e.unit === "%")) return false;
	if (group.values.length === 0) return finishOpen(state, line, group, reading);
	const before = state.asks.length;
	const done =
		group.disagree !== null
			? askDisagreement(state, line, group)
			: label.ask !== undefined
				? askLabel(state, line, group, reading)
				: propose(state, line, group, reading);
	if (!done) return false;
	for (const { e, double } of group.values) {
		state.claim(line.no, e.from, e.to, state.asks.length > before ? "asked" : "value");
		if (double !== undefined) state.claim(line.no, double.from, double.to, "value");
	}
	if (group.disagree !== null) state.claim(line.no, group.disagree[1].from, group.disagree[1].to, "asked");
	for (const e of group.conditionSpans) state.claim(line.no, e.from, e.to, "condition");
	return true;
}

/** A label whose number lacks its unit, or reads in two ways, is asked; so is one whose only number stood behind `at`. */
function finishOpen(state: PageState, line: Line, group: Group, reading: Reading): boolean {
	const { label } = group;
	const open = group.open[0];
	if (open === undefined) {
		const only = group.conditionSpans[0];
		if (only !== undefined && label.ask !== undefined && label.properties[0] === "density")
			return askLabel(state, line, group, reading, only);
		const value = group.conditionSpans.length === 1 && only !== undefined ? evaluate(label, only, reading) : null;
		if (only === undefined || value?.ok !== true || label.ask !== undefined) return false;
		state.taken.push(
			...proposals(label, value.value, {
				line: line.no,
				conditions: group.conditions.filter((c) => !c.includes(only.text)),
				confidence: 0.6,
			}),
		);
		state.claim(line.no, only.from, only.to, "value");
		return true;
	}
	const { e } = open;
	// a symbol or a sentence alone is a weak hint: without a unit it is no value
	if (
		label.confidence < 1 &&
		!label.prose &&
		open.issue?.code === "unit-missing" &&
		label.unknownDefinition !== true &&
		reading.fieldUnit === undefined &&
		!/[=:]\s*$/.test(line.text.slice(0, e.from))
	)
		return false;
	const asked =
		label.unknownDefinition === true
			? { property: "yield_strength", question: "which definition of the yield stress, and which unit?", choices: [] }
			: questionOf(label, e, open.issue, reading);
	if (asked === null) return false;
	if (label.ask !== undefined) return askLabel(state, line, { ...group, values: [] }, reading, e);
	push(
		state,
		line,
		group,
		choicesOf(e, asked.property) ?? asked.choices,
		asked.property,
		e.repaired === undefined ? asked.question : slipQuestion(e),
	);
	state.claim(line.no, e.from, e.to, "asked");
	for (const c of group.conditionSpans) state.claim(line.no, c.from, c.to, "condition");
	return true;
}

function choicesOf(e: Expression, id: string): readonly { property: string; text: string }[] | null {
	return e.choices === undefined ? null : e.choices.map((text) => ({ property: id, text }));
}

function push(
	state: PageState,
	line: Line,
	group: Group,
	choices: readonly { property: string; text: string }[],
	id: string,
	question: string,
): void {
	const condition = group.conditions.join(", ");
	state.asks.push({
		line: line.no,
		text: line.text,
		property: id,
		question,
		choices,
		...(condition === "" ? {} : { condition }),
		...(group.label.qualifier === undefined ? {} : { qualifier: group.label.qualifier }),
	});
}

function askDisagreement(state: PageState, line: Line, group: Group): boolean {
	const [a, b] = group.disagree as readonly [Expression, Expression];
	const id = group.values[0]?.value.property as string;
	push(
		state,
		line,
		group,
		[a, b].map((e) => ({ property: id, text: e.text })),
		id,
		"the two units disagree by more than rounding",
	);
	return true;
}

/** A label that says too little: both readings are offered. */
function askLabel(state: PageState, line: Line, group: Group, reading: Reading, open?: Expression): boolean {
	const { label } = group;
	const e = open ?? group.values[0]?.e;
	if (e === undefined) return false;
	const value = group.values[0]?.value;
	const id = value?.property ?? catalogueId(label.properties[0] as string);
	const question = label.ask as string;
	if (question.startsWith("volumetric")) {
		const third = value?.quantity.low == null ? e.text : `${Number(((value.quantity.low / 3) * 1e6).toPrecision(6))} 10^-6/K`;
		push(state, line, group, [{ property: "thermal_expansion", text: third }], id, question);
	} else if (id === "density" && open !== undefined) {
		const weight = weightDensity(e);
		if (weight === null) return false;
		push(state, line, group, [{ property: "density", text: weight }], id, question);
	} else {
		const texts =
			value === undefined
				? (questionOf(label, e, { code: "unit-missing" }, reading)?.choices ?? []).map((c) => c.text)
				: group.values.map((v) => v.value.text);
		const choices = label.properties.flatMap((p) => texts.map((text) => ({ property: catalogueId(p), text })));
		push(state, line, group, choices, id, open === undefined ? question : `${question} which unit?`);
	}
	state.claim(line.no, e.from, e.to, "asked");
	return true;
}

/** A weight per volume as a density: 86.3 kN/m3 is 86.3/9.80665 Mg/m3; a bare number is relative to water. */
function weightDensity(e: Expression): string | null {
	if (e.unit === "") return `${e.text.replace(",", ".")} g/cm^3`;
	const weight = parseQuantity(e.text, { dimension: WEIGHT_PER_VOLUME, siUnit: "N/m^3" }, { decimalMark: "." });
	// standard gravity, 9.80665 m/s2 by definition
	return weight.ok && weight.value.low !== null ? `${Number((weight.value.low / 9.80665).toPrecision(6))} kg/m^3` : null;
}
const WEIGHT_PER_VOLUME = dimension(1, -2, -2);

function propose(state: PageState, line: Line, group: Group, reading: Reading): boolean {
	const { label, values } = group;
	const roles = rolesOf(values);
	const about = (v: Read, more: Partial<About> = {}): About => ({
		line: line.no,
		conditions: [...group.conditions, ...v.conditions],
		confidence: label.confidence * (v.e.unit === "" && label.unit === undefined && reading.unit === undefined ? 0.97 : 1),
		...(v.value.readings === undefined
			? {}
			: { readings: v.value.readings.readings.map((si) => ({ si, label: "", line: line.no })) }),
		...more,
	});
	const slipped = values.find((v) => v.e.repaired !== undefined || v.e.choices !== undefined);
	if (slipped !== undefined) {
		const { e, value } = slipped;
		const question =
			e.repaired === undefined ? (e.list ? "10 to the power, or one number?" : "a range or a doubled point?") : slipQuestion(e);
		push(
			state,
			line,
			group,
			choicesOf(e, value.property) ?? [{ property: value.property, text: value.text }],
			value.property,
			question,
		);
		return true;
	}
	if (roles !== null) {
		const { first, ends } = roles;
		const combined = endsText(ends);
		const whole = combined === null ? null : evaluateText(label, combined.text, reading.mark);
		if (whole?.ok === true) {
			const conditions = values.flatMap((v) => v.conditions);
			state.taken.push(
				...proposals(
					label,
					whole.value,
					about(
						{ ...first, conditions },
						combined?.working === undefined ? {} : { working: combined.working, bases: { working: "typical" } },
					),
				),
			);
			return true;
		}
	}
	if (values.length > 1 && !haveConditionsApart(values)) {
		const choices = [...new Map(values.map((v) => [v.value.text, { property: v.value.property, text: v.value.text }])).values()];
		push(state, line, group, choices, values[0]?.value.property as string, "several numbers on one line; which one?");
		return true;
	}
	for (const v of values) state.taken.push(...proposals(label, v.value, about(v)));
	return true;
}

/** The ends of one value: each number says min, typical or max, and no two the same. */
function rolesOf(values: readonly Read[]): { first: Read; ends: { min?: string; typ?: string; max?: string } } | null {
	if (values.length < 2) return null;
	const ends: { min?: string; typ?: string; max?: string } = {};
	for (const [i, v] of values.entries()) {
		const role = v.e.limit ?? (i === 0 ? "typ" : null);
		if (role === null || ends[role] !== undefined) return null;
		ends[role] = v.e.unit === "" || v.e.text.includes(v.e.unit) ? v.e.text : `${v.e.text} ${v.e.unit}`;
	}
	const first = values.find((v) => v.e.limit !== "typ") ?? (values[0] as Read);
	return Object.keys(ends).length < 2 ? null : { first, ends };
}

/** Does every further value hold under words or quantities of its own? */
function haveConditionsApart(values: readonly Read[]): boolean {
	const texts = values.map((v) => v.conditions.join(", "));
	return texts.every((t) => t !== "") && new Set(texts).size === texts.length;
}

/** A taken line on which numbers stay unread is looked at by the user. */
function askAboutTheRest(state: PageState, line: Line, groups: readonly Group[]): void {
	const left = state.leftOn(line.no);
	if (left.length === 0 || !groups.some((g) => g.bare.length > 0 || g.label.prose || g.open.length > 0)) return;
	const question = `another number stands on the line: ${left.join(", ")}`.slice(0, 120);
	for (const [i, t] of state.taken.entries()) {
		if (t.line !== line.no || t.question !== undefined) continue;
		state.taken[i] = { ...t, question };
	}
}

/** What is odd about a number that a scan may have mistaken. */
export function slipQuestion(e: Expression): string {
	return e.slip === "torn" ? "digits torn apart?" : "a letter inside the number?";
}

/** Can a number of this property be below zero as people write it? */
export function mayBeNegative(id: string): boolean {
	const spec = property(id);
	return spec.absoluteTemperature === true || spec.min === undefined || spec.min < 0;
}

/** Both readings of a number behind a dash and a blank. */
export function signChoices(e: Expression): readonly string[] {
	return [`-${e.text}`, e.text];
}
