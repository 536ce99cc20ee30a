import { EVIDENCE_WORDS, type EvidenceWord } from "../material";

/**
 * One property of every row: the ends between which its first value lies, and the number it works with. SI.
 * A blank row has `low` +Infinity and `high` -Infinity, so that it never meets a wanted span; an open end is infinite.
 */
export type Spans = {
	low: Float64Array;
	high: Float64Array;
	/** NaN where nothing can be worked with. */
	working: Float64Array;
	/** Further values of a row: row, low, high and working number in step. */
	extraRow: Int32Array;
	extraLow: Float64Array;
	extraHigh: Float64Array;
	extraWorking: Float64Array;
};

/** Spans with the evidence of each value, its place among `EVIDENCE_WORDS`. */
export type JudgedSpans = Spans & { evidence: Int32Array; extraEvidence: Int32Array };

/** The place of `none`. */
export const NO_EVIDENCE = EVIDENCE_WORDS.indexOf("none");

export function blankSpans(rows: number): JudgedSpans {
	return {
		evidence: new Int32Array(rows).fill(NO_EVIDENCE),
		extraEvidence: new Int32Array(0),
		low: new Float64Array(rows).fill(Number.POSITIVE_INFINITY),
		high: new Float64Array(rows).fill(Number.NEGATIVE_INFINITY),
		working: new Float64Array(rows).fill(Number.NaN),
		extraRow: new Int32Array(0),
		extraLow: new Float64Array(0),
		extraHigh: new Float64Array(0),
		extraWorking: new Float64Array(0),
	};
}

/**
 * Adds one to `fails` of every row that has no value between `from` and `to`. A value is compared by the number that it
 * works with, so a lower limit of 235 passes no "at least 300". Where nothing can be worked with, an upper limit passes
 * only "at most" by its end, and a closed range by any of it. Nothing is checked or allocated here.
 * @param rows how many rows from the start are looked at
 * @param reach a value also passes where it *may* reach: an open end goes on without end, a range by any of it
 */
// biome-ignore lint/complexity/useMaxParams: runs over every row at each drag of a strip; nothing is made on the way
export function failOutside(spans: Spans, rows: number, from: number, to: number, fails: Uint8Array, reach = false): void {
	const { low, high, working, extraRow, extraLow, extraHigh, extraWorking } = spans;
	if (reach) for (let i = 0; i < rows; i++) fails[i] += +(low[i] > to) | +(high[i] < from);
	else for (let i = 0; i < rows; i++) fails[i] += +misses(low[i], high[i], working[i], from, to);
	// a row that fails by its first value may pass by another; each row is forgiven once
	let forgiven = -1;
	for (let k = 0; k < extraRow.length; k++) {
		const row = extraRow[k];
		if (row === forgiven || row >= rows) continue;
		if (reach ? extraLow[k] > to || extraHigh[k] < from : misses(extraLow[k], extraHigh[k], extraWorking[k], from, to)) continue;
		if (reach ? low[row] > to || high[row] < from : misses(low[row], high[row], working[row], from, to)) fails[row] -= 1;
		forgiven = row;
	}
}

/** Does a value miss the span, by what it works with? The same rule serves lists, facets and strips. */
// biome-ignore lint/complexity/useMaxParams: five numbers, once for every row at each drag of a strip
export function misses(low: number, high: number, working: number, from: number, to: number): boolean {
	// false for NaN: nothing to work with
	if (working >= from && working <= to) return false;
	if (working < from || working > to || low > high) return true;
	if (low === Number.NEGATIVE_INFINITY) return from !== Number.NEGATIVE_INFINITY || high > to;
	return low > to || high < from;
}

/** Values of a property beside the first: low, high, working number and evidence by row. */
export type Further = Map<number, readonly (readonly [number, number, number, number])[]>;

/** Further values of rows, laid out for the loop above: rows ascending, all of a row together. */
export function setExtras(spans: JudgedSpans, further: Further): void {
	const flat = [...further].sort((a, b) => a[0] - b[0]).flatMap(([row, ends]) => ends.map((e) => [row, ...e] as const));
	spans.extraRow = Int32Array.from(flat, (e) => e[0]);
	spans.extraLow = Float64Array.from(flat, (e) => e[1]);
	spans.extraHigh = Float64Array.from(flat, (e) => e[2]);
	spans.extraWorking = Float64Array.from(flat, (e) => e[3]);
	spans.extraEvidence = Int32Array.from(flat, (e) => e[4]);
}

/** The same read back. */
export function extrasOf(spans: JudgedSpans): Further {
	const further = new Map<number, (readonly [number, number, number, number])[]>();
	for (let k = 0; k < spans.extraRow.length; k++) {
		const ends = further.get(spans.extraRow[k]) ?? [];
		ends.push([spans.extraLow[k], spans.extraHigh[k], spans.extraWorking[k], spans.extraEvidence[k]]);
		further.set(spans.extraRow[k], ends);
	}
	return further;
}

/** The same columns with room for more rows. */
export function grownSpans(spans: JudgedSpans, rows: number): JudgedSpans {
	const grown = blankSpans(rows);
	grown.low.set(spans.low);
	grown.high.set(spans.high);
	grown.working.set(spans.working);
	grown.evidence.set(spans.evidence);
	const { extraRow, extraLow, extraHigh, extraWorking, extraEvidence } = spans;
	return { ...grown, extraRow, extraLow, extraHigh, extraWorking, extraEvidence };
}

/** The same with only the values of some evidence; the first of a row that counts leads. */
export function withEvidence(spans: JudgedSpans, wanted: readonly EvidenceWord[]): Spans {
	const counts = EVIDENCE_WORDS.map((word) => wanted.includes(word));
	const rows = spans.low.length;
	const kept = blankSpans(rows);
	const led = new Uint8Array(rows);
	for (let i = 0; i < rows; i++) {
		if (counts[spans.evidence[i]] !== true) continue;
		kept.low[i] = spans.low[i];
		kept.high[i] = spans.high[i];
		kept.working[i] = spans.working[i];
		led[i] = 1;
	}
	const further: Further = new Map();
	for (const [row, values] of extrasOf(spans)) {
		const counted = values.filter(([, , , evidence]) => counts[evidence] === true);
		const first = counted[0];
		if (led[row] === 0 && first !== undefined) [kept.low[row], kept.high[row], kept.working[row]] = first;
		const rest = led[row] === 0 ? counted.slice(1) : counted;
		if (rest.length > 0) further.set(row, rest);
	}
	setExtras(kept, further);
	return kept;
}
