import type { Ask, Page, Taken } from "./types";

/** What a page is known to say; see the pages in fixtures/sheets. */
export type ExpectedPage = {
	readonly recognised: readonly ExpectedValue[];
	readonly must_ask: readonly { readonly line: number; readonly property: string; readonly numbers: readonly string[] }[];
	readonly choose?: { readonly choices: readonly string[] };
	readonly composition?: readonly {
		readonly label?: string;
		readonly elements: readonly { readonly element: string; readonly line: number }[];
	}[];
	readonly price?: { readonly amount: string; readonly currency: string; readonly per: string; readonly line: number };
};
type ExpectedValue = {
	readonly property: string;
	readonly also?: readonly string[];
	readonly line?: number;
	readonly si_low?: number | null;
	readonly si_high?: number | null;
	readonly or_si?: readonly (readonly [number | null, number | null])[];
	readonly si_working?: number;
	readonly conditions?: string;
	readonly condition_needed?: boolean;
	readonly question?: string;
	readonly grade?: string;
	readonly numbers?: readonly string[];
	readonly form?: "table" | "readings" | "curve";
	readonly axis?: string;
	readonly points?: readonly {
		readonly at?: number;
		readonly label?: string;
		readonly si?: number;
		readonly si_low?: number | null;
		readonly si_high?: number | null;
		readonly row?: readonly number[];
		readonly line: number;
		readonly numbers?: readonly string[];
	}[];
};

export type Score = { right: number; asked: number; left: number; wrong: number; lost: number; invented: number; values: number };
export type Scored = { readonly score: Score; readonly notes: readonly string[] };

const near = (a: number | null | undefined, b: number | null | undefined): boolean =>
	a === b || (typeof a === "number" && typeof b === "number" && Math.abs(a - b) <= 1e-9 * Math.max(Math.abs(a), Math.abs(b)));

/**
 * Scores a reading: of every expected value (a point, a reading, a row of a curve counts as one) it is told whether it
 * was right, asked, left in sight, wrong or lost; `invented` counts what was taken and nobody expects.
 */
export function scorePage(page: Page, expected: ExpectedPage): Scored {
	const score: Score = { right: 0, asked: 0, left: 0, wrong: 0, lost: 0, invented: 0, values: 0 };
	const notes: string[] = [];
	const used = new Set<unknown>();
	const note = (kind: keyof Score, what: string): void => {
		score[kind]++;
		if (kind !== "right" && kind !== "asked") notes.push(`${kind}: ${what}`);
	};
	for (const value of expected.recognised) {
		if (value.form === undefined) {
			score.values++;
			note(...judge(page, value, used));
			continue;
		}
		for (const point of value.points ?? []) {
			score.values++;
			const what = `line ${point.line} ${value.property} ${JSON.stringify(point.at ?? point.label ?? point.row)}`;
			if (pointRight(page, value, point, used)) note("right", what);
			else if (page.asks.some((a) => a.line === point.line && names(value, a.property))) note("asked", what);
			else note(isVisible(page, point.line, point.numbers ?? []) ? "left" : "wrong", what);
		}
	}
	for (const asked of expected.must_ask) {
		score.values++;
		const what = `line ${asked.line} must ask ${asked.property}`;
		const taken = page.taken.filter((t) => t.line === asked.line && t.question === undefined);
		if (taken.length > 0) {
			for (const t of taken) used.add(t);
			note("wrong", `${what}, took ${taken.map((t) => t.text).join()}`);
		} else if (page.asks.some((a) => a.line === asked.line)) note("asked", what);
		else if (page.taken.some((t) => t.line === asked.line)) {
			for (const t of page.taken) if (t.line === asked.line) used.add(t);
			note("asked", what);
		} else note(isVisible(page, asked.line, asked.numbers) ? "left" : "lost", what);
	}
	const expectedAsks = new Set(expected.must_ask.map((a) => a.line));
	for (const t of page.taken)
		if (!used.has(t) && !expectedAsks.has(t.line)) note("invented", `line ${t.line} ${t.property} ${t.text}`);
	for (const t of page.tables) if (!used.has(t)) note("invented", `line ${t.line} ${t.property} over ${t.axis}`);
	for (const c of page.curves) if (!used.has(c)) note("invented", `line ${c.line} ${c.property}`);
	return { score, notes };
}

function names(value: ExpectedValue, property: string): boolean {
	return value.property === property || value.also?.includes(property) === true;
}

function judge(page: Page, value: ExpectedValue, used: Set<unknown>): [keyof Score, string] {
	const what = `line ${value.line} ${value.property} ${value.numbers?.join(" ")}`;
	const here = page.taken.filter((t) => t.line === value.line && names(value, t.property) && !used.has(t));
	const right = here.find((t) => isRight(t, value));
	if (right !== undefined) {
		used.add(right);
		if (value.question !== undefined && right.question === undefined) return ["wrong", `${what}: taken unasked`];
		return ["right", what];
	}
	const asked = page.asks.find(
		(a: Ask) => a.line === value.line && (names(value, a.property) || a.choices.some((c) => names(value, c.property))),
	);
	if (asked !== undefined) return ["asked", what];
	const mine = here.find((t) => value.grade === undefined || t.grade === value.grade);
	if (mine !== undefined) {
		used.add(mine);
		return ["wrong", `${what}: took ${mine.text} (${mine.low}, ${mine.high}; ${mine.condition ?? ""}; ${mine.working ?? ""})`];
	}
	const other = page.taken.find((t) => t.line === value.line && !used.has(t) && value.numbers?.some((n) => t.text.includes(n)));
	if (other !== undefined) {
		used.add(other);
		return ["wrong", `${what}: took ${other.property} ${other.text}`];
	}
	return [isVisible(page, value.line as number, value.numbers ?? []) ? "left" : "lost", what];
}

function isRight(t: Taken, value: ExpectedValue): boolean {
	const ends = [[value.si_low, value.si_high], ...(value.or_si ?? [])];
	if (!ends.some(([low, high]) => near(t.low, low) && near(t.high, high))) return false;
	if (value.grade !== undefined && t.grade !== value.grade) return false;
	if (value.si_working !== undefined && t.working === undefined && t.question === undefined) return false;
	return value.condition_needed !== true || mentions(t.condition ?? "", value.conditions ?? "");
}

/** Does a condition say any part of what is needed, in whatever spelling? */
function mentions(have: string, needed: string): boolean {
	const plain = (s: string): string =>
		s
			.toLowerCase()
			.replace(/deg(?=[cf])/g, "°")
			.replace(/−/g, "-")
			.replace(/[\s().]/g, "");
	const mine = plain(have);
	return needed.split(/[,;]/).some((part) => {
		const p = plain(part.replace(/\bto\b/g, "–"));
		return p !== "" && (mine.includes(p) || (p.length > 4 && mine.includes(p.slice(0, 4))));
	});
}

function pointRight(
	page: Page,
	value: ExpectedValue,
	point: NonNullable<ExpectedValue["points"]>[0],
	used: Set<unknown>,
): boolean {
	if (value.form === "table") {
		const table = page.tables.find(
			(t) =>
				names(value, t.property) &&
				t.axis === value.axis &&
				t.points.some((p) => near(p.atSi, point.at) && near(p.low, point.si_low) && near(p.high, point.si_high)),
		);
		if (table !== undefined) used.add(table);
		return table !== undefined;
	}
	if (value.form === "readings") {
		const t = page.taken.find(
			(x) => names(value, x.property) && x.readings?.some((r) => near(r.si, point.si) && r.line === point.line),
		);
		if (t === undefined || (value.condition_needed === true && !mentions(t.condition ?? "", value.conditions ?? "")))
			return false;
		used.add(t);
		return true;
	}
	const curve = page.curves.find(
		(c) => names(value, c.property) && c.rows.some((r) => r.line === point.line && r.si.every((x, i) => near(x, point.row?.[i]))),
	);
	if (curve !== undefined) used.add(curve);
	return curve !== undefined;
}

/** Do the numbers still stand in sight: on a line that is left, or among the left numbers of a taken one? */
function isVisible(page: Page, line: number, numbers: readonly string[]): boolean {
	if (page.left.includes(line)) return true;
	const left = page.numbers.filter((r) => r.line === line && r.fate === "left");
	const text = page.lines[line - 1] ?? "";
	return numbers.some((n) => {
		const at = text.indexOf(n);
		return at >= 0 && left.some((r) => r.from >= at && r.from < at + n.length);
	});
}

/**
 * What is broken of the promise that no number disappears; null when nothing is. Every run of digits of every line is
 * listed once, each line is somewhere, and what stands on a line that is left was claimed by nobody.
 */
export function brokenPromise(page: Page): string | null {
	const left = new Set(page.left);
	let at = 0;
	for (const [i, text] of page.lines.entries()) {
		const line = i + 1;
		let covered = 0;
		for (; page.numbers[at]?.line === line; at++) {
			const run = page.numbers[at];
			if (run === undefined || run.from < covered || run.to > text.length) return `line ${line}: runs overlap`;
			if (/\d/.test(text.slice(covered, run.from))) return `line ${line}: digits before ${run.from} are in no run`;
			if (left.has(line) && !UNCLAIMED.has(run.fate))
				return `line ${line} is left, but ${text.slice(run.from, run.to)} is a ${run.fate}`;
			covered = run.to;
		}
		if (/\d/.test(text.slice(covered))) return `line ${line}: digits behind ${covered} are in no run`;
	}
	if (at !== page.numbers.length) return "runs of lines that are not there";
	const values = page.numbers.filter((n) => n.fate === "value" || n.fate === "asked");
	for (const t of page.taken)
		if (!values.some((n) => n.line === t.line)) return `line ${t.line}: ${t.property} was taken of no number`;
	return null;
}
const UNCLAIMED: ReadonlySet<string> = new Set(["left", "name", "standard", "condition"]);

/** A page made of pieces of others: lines cut, joined, and their numbers and blanks changed. From a seed. */
export function mutatedPage(next: () => number, pool: readonly string[]): string {
	const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T;
	const count = 1 + Math.floor(next() * 8);
	return Array.from({ length: count }, () => {
		let line = pick(pool);
		for (let k = Math.floor(next() * 4); k > 0; k--) {
			const at = Math.floor(next() * (line.length + 1));
			const kind = next();
			if (kind < 0.25) line = line.slice(0, at) + pick(ODD) + line.slice(at);
			else if (kind < 0.45) line = line.slice(0, at) + line.slice(at + 1 + Math.floor(next() * 4));
			else if (kind < 0.65) line = line.slice(0, at) + pick(pool).slice(0, 30);
			else if (kind < 0.85) line = line.replace(/\d+/, String(Math.floor(next() * 99_999)));
			else line = line.replace(/ {2,}|\t/, pick(["\t", "  ", "   ", " | ", " "]));
		}
		return line;
	}).join("\n");
}
const ODD = [..."± – − … .. / ( ) ; : , . % ° < ≥ 10⁻⁶ ×10^ e-6 min max 1,234 0 O l".split(" "), " ", "\t", "\u00a0"];
