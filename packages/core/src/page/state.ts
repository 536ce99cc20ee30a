import type { Basis } from "../material";
import type { DecimalMark } from "../quantity";
import { type Expression, expressionsOf } from "./expression";
import type { Label } from "./label";
import { type Mark, marksOf } from "./marks";
import type { Ask, Fate, PageComposition, PagePrice, Taken, TakenCurve, TakenTable } from "./types";

type Run = { readonly from: number; readonly to: number; fate: Fate };

/** A line with what was found in it; read once, whatever looks at it. */
export type Line = {
	readonly no: number;
	readonly text: string;
	readonly marks: readonly Mark[];
	readonly expressions: readonly Expression[];
	readonly runs: readonly Run[];
	/** The label of the heading that a line without one stands under. */
	readonly heading?: Label;
};

/**
 * A page while it is read. The digits of every line are owned here and begin as `left`, but for those of names and
 * standards; a reader can only claim them, so none disappears.
 */
export class PageState {
	readonly taken: Taken[] = [];
	readonly tables: TakenTable[] = [];
	readonly curves: TakenCurve[] = [];
	readonly asks: Ask[] = [];
	readonly compositions: PageComposition[] = [];
	readonly headings = new Set<number>();
	readonly parts = new Set<number>();
	readonly done = new Set<number>();
	readonly grades: string[] = [];
	price: PagePrice | null = null;
	/** What the nearest heading says, and whether it is on that line that values stand under it. */
	basis: Basis | null = null;
	/** States that a heading names for numbers in pairs: `dry / cond.` */
	states: readonly [string, string] | null = null;
	/** What the nearest heading without a table says: `Typical specific total loss in W/kg`. */
	heading = "";
	mark: DecimalMark | null = null;

	constructor(readonly lines: readonly Line[]) {}

	line(no: number): Line {
		return this.lines[no - 1] as Line;
	}

	/** Claims the digits of a span; those that are claimed already keep their fate. */
	claim(no: number, from: number, to: number, fate: Fate): void {
		for (const run of this.line(no).runs) {
			// a slip of a scan may look like a name until it is asked
			const free = run.fate === "left" || (fate === "asked" && run.fate === "name");
			if (run.from < to && from < run.to && free) run.fate = fate;
		}
	}

	/** Digits of a line that nobody claimed. */
	leftOn(no: number): readonly string[] {
		const { runs, text } = this.line(no);
		return runs.filter((r) => r.fate === "left").map((r) => text.slice(r.from, r.to));
	}
}

const RUN = /\d+/g;
const LONGEST_LINE = 1000;
/** No number is written with so many digits; a line with such a run is left, unread. */
const ENDLESS_NUMBER = /[\d.,']{40}/;

export function lineOf(no: number, text: string): Line {
	const readable = text.length <= LONGEST_LINE && !ENDLESS_NUMBER.test(text);
	if (!readable) {
		// an endless line is left whole: from its first digit on it is one run
		const from = text.search(/\d/);
		return { no, text, marks: [], expressions: [], runs: from < 0 ? [] : [{ from, to: text.length, fate: "left" }] };
	}
	const marks = marksOf(text);
	const runs = [...text.matchAll(RUN)].map((m): Run => {
		const [from, to] = [m.index, m.index + m[0].length];
		const mark = marks.find((k) => k.from <= from && to <= k.to);
		return { from, to, fate: mark?.fate ?? "left" };
	});
	return { no, text, marks, runs, expressions: expressionsOf(text, marks) };
}

/** Can the line be read at all? */
export function isReadable(line: Line): boolean {
	return line.text.length <= LONGEST_LINE && !ENDLESS_NUMBER.test(line.text);
}

/** The marks inside a span, with positions of the span. */
export function marksIn(line: Line, from: number, to: number): readonly Mark[] {
	return line.marks.filter((m) => m.from >= from && m.to <= to).map((m) => ({ ...m, from: m.from - from, to: m.to - from }));
}
