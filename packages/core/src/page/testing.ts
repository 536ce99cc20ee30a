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
