import { property } from "../property";
import { dimension, parseQuantity } from "../quantity";
import type { Issue } from "../result";
import { catalogueId, evaluate, evaluateText, questionOf, type Reading, type Value } from "./evaluate";
import type { Expression } from "./expression";
import type { Label } from "./label";
import { type About, endsText, proposals } from "./propose";
import type { Line, PageState } from "./state";

export type Read = { readonly e: Expression; readonly value: Value; readonly conditions: string[]; double?: Expression };
/** A label of a line with the numbers that belong to it. */
export type Group = {
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

/** Takes or asks what a label's numbers say, and claims them; whether it did. */
export function finish(state: PageState, line: Line, group: Group, reading: Reading): boolean {
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
				? askLabel(state, line, { group }, reading)
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
			return askLabel(state, line, { group, open: only }, reading);
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
	if (label.ask !== undefined) return askLabel(state, line, { group: { ...group, values: [] }, open: e }, reading);
	push(state, line, group, {
		choices: choicesOf(e, asked.property) ?? asked.choices,
		id: asked.property,
		question: e.repaired === undefined ? asked.question : slipQuestion(e),
	});
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
	{ choices, id, question }: { choices: readonly { property: string; text: string }[]; id: string; question: string },
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
	push(state, line, group, {
		choices: [a, b].map((e) => ({ property: id, text: e.text })),
		id,
		question: "the two units disagree by more than rounding",
	});
	return true;
}

/** A label that says too little: both readings are offered. */
function askLabel(
	state: PageState,
	line: Line,
	{ group, open }: { readonly group: Group; readonly open?: Expression },
	reading: Reading,
): boolean {
	const { label } = group;
	const e = open ?? group.values[0]?.e;
	if (e === undefined) return false;
	const value = group.values[0]?.value;
	const id = value?.property ?? catalogueId(label.properties[0] as string);
	const question = label.ask as string;
	if (question.startsWith("volumetric")) {
		const third = value?.quantity.low == null ? e.text : `${Number(((value.quantity.low / 3) * 1e6).toPrecision(6))} 10^-6/K`;
		push(state, line, group, { choices: [{ property: "thermal_expansion", text: third }], id, question });
	} else if (id === "density" && open !== undefined) {
		const weight = weightDensity(e);
		if (weight === null) return false;
		push(state, line, group, { choices: [{ property: "density", text: weight }], id, question });
	} else {
		const texts =
			value === undefined
				? (questionOf(label, e, { code: "unit-missing" }, reading)?.choices ?? []).map((c) => c.text)
				: group.values.map((v) => v.value.text);
		const choices = label.properties.flatMap((p) => texts.map((text) => ({ property: catalogueId(p), text })));
		push(state, line, group, { choices, id, question: open === undefined ? question : `${question} which unit?` });
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
		push(state, line, group, {
			choices: choicesOf(e, value.property) ?? [{ property: value.property, text: value.text }],
			id: value.property,
			question,
		});
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
		push(state, line, group, {
			choices,
			id: values[0]?.value.property as string,
			question: "several numbers on one line; which one?",
		});
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
export function askAboutTheRest(state: PageState, line: Line, groups: readonly Group[]): void {
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
