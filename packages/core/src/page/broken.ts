import { cellsOf, isBlankCell } from "./cells";
import { evaluate } from "./evaluate";
import type { Expression } from "./expression";
import { isUnit, type Label, readLabel } from "./label";
import { proposals } from "./propose";
import { type Line, marksIn, type PageState } from "./state";

/** What a line of one cell is: the label of a value, a unit, a number alone, a dash, or something else. */
type Kind = "label" | "unit" | "number" | "blank" | "other";
type Single = { readonly line: Line; readonly kind: Kind; readonly label?: Label };

const MOST_AHEAD = 4;
const LONGEST_CELL = 120;
const LEAST_REPEATS = 3;

/**
 * Tables whose cells came out one a line: label, value, unit (and perhaps a method), again and again; or all labels,
 * then all units, then all values. The second is joined by order, so it is always asked.
 * @returns the number of lines that belong to it; 0 for none
 */
export function readBroken(state: PageState, no: number): number {
	const first = singleOf(state.line(no));
	if (first.kind !== "label") return 0;
	return readPeriods(state, no) || readColumns(state, no);
}

const known = new WeakMap<Line, Single>();

function singleOf(line: Line): Single {
	const before = known.get(line);
	if (before !== undefined) return before;
	const found = look(line);
	known.set(line, found);
	return found;
}

function look(line: Line): Single {
	const text = line.text.trim();
	if (text === "" || text.length > LONGEST_CELL || cellsOf(line.text).length !== 1) return { line, kind: "other" };
	if (isBlankCell(text)) return { line, kind: "blank" };
	if (isUnit(text)) return { line, kind: "unit" };
	const inside = line.expressions;
	const alone = inside[0];
	if (
		alone !== undefined &&
		alone.from <= line.text.length - line.text.trimStart().length &&
		line.text.slice(alone.to).trim() === "" &&
		inside.length === 1
	)
		return { line, kind: "number" };
	// a label holds no number but a condition
	const bare = inside.reduce((t, e) => `${t.slice(0, e.from)}${" ".repeat(e.to - e.from)}${t.slice(e.to)}`, line.text);
	const label = readLabel(bare, marksIn(line, 0, line.text.length));
	if (label === null || label.properties.length === 0 || inside.some((e) => e.unit === "")) return { line, kind: "other" };
	return { line, kind: "label", label };
}

type Period = { readonly label: Single; readonly value: Single; readonly unit: Single | null; readonly rest: readonly Single[] };

/** Label, value and unit line by line; three in a row are a table, fewer may be chance. */
function readPeriods(state: PageState, no: number): number {
	const periods: Period[] = [];
	let at = no;
	while (at <= state.lines.length) {
		const label = singleOf(state.line(at));
		if (label.kind !== "label") break;
		const ahead: Single[] = [];
		for (let k = 1; k <= MOST_AHEAD && at + k <= state.lines.length; k++) {
			const next = singleOf(state.line(at + k));
			if (next.kind === "label" || (next.kind === "other" && !/^(?:DIN|EN|ISO|ASTM|IEC)\b/.test(next.line.text.trim()))) break;
			ahead.push(next);
		}
		const value = ahead.find((s) => s.kind === "number");
		if (value === undefined || ahead.filter((s) => s.kind === "number").length > 1) break;
		const unit = ahead.find((s) => s.kind === "unit") ?? null;
		periods.push({ label, value, unit, rest: ahead });
		at += 1 + ahead.length;
	}
	if (periods.length < LEAST_REPEATS) return 0;
	for (const { label, value, unit, rest } of periods) {
		take(state, { label, value, unit });
		for (const s of [label, ...rest]) if (s !== value) state.parts.add(s.line.no);
	}
	return at - no;
}

type Found = { readonly label: Single; readonly value: Single; readonly unit: Single | null; readonly question?: string };

function take(state: PageState, { label, value, unit, question }: Found): boolean {
	const named = label.label as Label;
	const e = value.line.expressions[0] as Expression;
	const read = evaluate(named, e, { mark: state.mark, ...(unit === null ? {} : { unit: unit.line.text.trim() }) });
	if (!read.ok) return false;
	const conditions = [...named.conditions, ...label.line.expressions.map((x) => x.text)];
	const asks = [question, named.ask].filter((q) => q !== undefined).join("; ");
	state.taken.push(
		...proposals(named, read.value, {
			line: value.line.no,
			conditions,
			confidence: question === undefined ? 0.95 : 0.6,
			...(asks === "" ? {} : { question: asks }),
		}),
	);
	state.claim(value.line.no, e.from, e.to, "value");
	for (const x of label.line.expressions) state.claim(label.line.no, x.from, x.to, "condition");
	return true;
}

/** All labels, then all units, then all values, or labels, values, units: as many of each, and every unit fits its label. */
function readColumns(state: PageState, no: number): number {
	const run = (from: number, kinds: readonly Kind[]): Single[] => {
		const found: Single[] = [];
		for (let at = from; at <= state.lines.length && found.length < 60; at++) {
			const single = singleOf(state.line(at));
			if (!kinds.includes(single.kind)) break;
			found.push(single);
		}
		return found;
	};
	const labels = run(no, ["label"]);
	const n = labels.length;
	if (n < LEAST_REPEATS) return 0;
	const second = run(no + n, ["unit", "blank"]).slice(0, n);
	const unitsFirst = second.length === n;
	const values = run(no + n + (unitsFirst ? n : 0), ["number"]).slice(0, n);
	const units = unitsFirst ? second : run(no + 2 * n, ["unit", "blank"]).slice(0, n);
	if (values.length !== n || units.length !== n) return 0;
	const fits = labels.every((label, i) => {
		const unit = units[i] as Single;
		const e = (values[i] as Single).line.expressions[0] as Expression;
		return evaluate(label.label as Label, e, {
			mark: state.mark,
			...(unit.kind === "blank" ? {} : { unit: unit.line.text.trim() }),
		}).ok;
	});
	if (!fits) return 0;
	for (const [i, label] of labels.entries()) {
		const unit = units[i] as Single;
		take(state, {
			label,
			value: values[i] as Single,
			unit: unit.kind === "blank" ? null : unit,
			question: "columns joined by their order",
		});
		state.parts.add(label.line.no);
		state.parts.add(unit.line.no);
	}
	return 3 * n;
}
