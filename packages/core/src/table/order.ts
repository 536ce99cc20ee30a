import { compareNames } from "./names";

/** Rows in the order of their names. One row is put in its place by bisection; many at once are sorted once. */
export class NameOrder {
	private sorted: Int32Array = new Int32Array(0);
	private paused = false;
	/** Rows put and taken out while paused. */
	private readonly waiting = new Set<number>();
	private readonly gone = new Set<number>();

	/** @param keyOf name and id of a row; the id settles equal names */
	constructor(private readonly keyOf: (row: number) => readonly [string, string]) {}

	/** Many rows are about to change. */
	pause(): void {
		this.paused = true;
	}

	resume(): void {
		this.paused = false;
		if (this.gone.size > 0) this.sorted = this.sorted.filter((row) => !this.gone.has(row));
		const stay = this.sorted;
		const come = [...this.waiting].sort((a, b) => this.compare(a, b));
		this.gone.clear();
		this.waiting.clear();
		const next = new Int32Array(stay.length + come.length);
		// few among many: each looks for its place, and what stands between two places is moved in one piece
		let from = 0;
		for (const [c, row] of come.entries()) {
			const to = this.placeOf(row);
			next.set(stay.subarray(from, to), from + c);
			next[to + c] = row;
			from = to;
		}
		next.set(stay.subarray(from), from + come.length);
		this.sorted = next;
	}

	/** Rows in their order, as they were kept. */
	restore(sorted: Int32Array): void {
		this.sorted = sorted;
	}

	add(row: number): void {
		if (this.paused) {
			this.waiting.add(row);
			return;
		}
		const at = this.placeOf(row);
		const next = new Int32Array(this.sorted.length + 1);
		next.set(this.sorted.subarray(0, at));
		next[at] = row;
		next.set(this.sorted.subarray(at), at + 1);
		this.sorted = next;
	}

	/** Takes a row out; its name has to be still what it was. */
	remove(row: number): void {
		if (this.paused) {
			if (!this.waiting.delete(row)) this.gone.add(row);
			return;
		}
		const at = this.placeOf(row);
		const next = new Int32Array(this.sorted.length - 1);
		next.set(this.sorted.subarray(0, at));
		next.set(this.sorted.subarray(at + 1), at);
		this.sorted = next;
	}

	rows(): Int32Array {
		return this.sorted;
	}

	private placeOf(row: number): number {
		let [low, high] = [0, this.sorted.length];
		while (low < high) {
			const middle = (low + high) >> 1;
			if (this.compare(this.sorted[middle], row) < 0) low = middle + 1;
			else high = middle;
		}
		return low;
	}

	private compare(a: number, b: number): number {
		const [nameA, idA] = this.keyOf(a);
		const [nameB, idB] = this.keyOf(b);
		// a draft and what it is a draft of share name and id
		return compareNames(nameA, nameB) || (idA < idB ? -1 : idA > idB ? 1 : a - b);
	}
}

/** Rows by a number of each, blanks last whichever way; equals keep the order they came in. */
export function sortedBy(byName: Int32Array, key: Float64Array, descending: boolean): Int32Array {
	const sign = descending ? -1 : 1;
	const there = byName.filter((row) => !Number.isNaN(key[row]));
	const blank = byName.filter((row) => Number.isNaN(key[row]));
	// a stable sort, so equals keep the order of names
	there.sort((a, b) => sign * (key[a] - key[b]));
	const rows = new Int32Array(byName.length);
	rows.set(there);
	rows.set(blank, there.length);
	return rows;
}

/** Rows by a word of each, blanks last whichever way; equals keep the order they came in. */
export function sortedByWords(byName: Int32Array, wordOf: (row: number) => string, descending: boolean): Int32Array {
	const words = [...new Set(Array.from(byName, wordOf))].sort(compareNames);
	const place = new Map(words.map((word, i) => [word, word === "" ? Number.NaN : i]));
	return sortedBy(
		byName,
		keyed(byName, (row) => place.get(wordOf(row)) as number),
		descending,
	);
}

/** Rows by what they cost: currency by currency, because amounts of two are not compared. */
export function sortedByPrice(byName: Int32Array, prices: readonly Float64Array[], descending: boolean): Int32Array {
	const steps = prices.map((amounts) => {
		const known = [...new Set(Array.from(byName, (row) => amounts[row]))].filter((a) => !Number.isNaN(a)).sort((a, b) => a - b);
		return new Map(known.map((amount, i) => [amount, i]));
	});
	const starts = steps.map((_, s) => steps.slice(0, s).reduce((sum, step) => sum + step.size, 0));
	const place = (row: number): number => {
		const at = prices.findIndex((amounts) => !Number.isNaN(amounts[row]));
		return at < 0 ? Number.NaN : starts[at] + (steps[at].get(prices[at][row]) as number);
	};
	return sortedBy(byName, keyed(byName, place), descending);
}

function keyed(rows: Int32Array, keyOf: (row: number) => number): Float64Array {
	const key = new Float64Array(rows.reduce((most, row) => Math.max(most, row + 1), 0)).fill(Number.NaN);
	for (const row of rows) key[row] = keyOf(row);
	return key;
}

/** Groups by their paths, rows in the order they came in inside them: one counting pass. */
export function sortedByPath(
	byName: Int32Array,
	{ codes, paths }: { readonly codes: ArrayLike<number>; readonly paths: readonly string[] },
	descending: boolean,
): Int32Array {
	const sorted = [...paths.keys()].sort((a, b) => compareNames(paths[a], paths[b]));
	if (descending) sorted.reverse();
	const starts = new Int32Array(paths.length);
	for (const row of byName) starts[codes[row]]++;
	let at = 0;
	for (const code of sorted) {
		const count = starts[code];
		starts[code] = at;
		at += count;
	}
	const rows = new Int32Array(byName.length);
	for (const row of byName) rows[starts[codes[row]]++] = row;
	return rows;
}
