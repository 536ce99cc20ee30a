import { DISCRIMINATING, NEAR, wordsLikeness } from "../material";

/** What finding look-alikes needs of the rows that somebody sees. */
export type AlikeRows = {
	readonly rows: Int32Array;
	/** Words of a row's name, split by `wordsOfName`. */
	readonly words: (row: number) => readonly string[];
	/** A number for each family; 0: none. */
	readonly family: (row: number) => number;
	/** The number that each property works with, by row; NaN: none. */
	readonly columns: ReadonlyMap<string, Float64Array>;
};

/** Two rows that may be one material, and how many of their numbers are within 1 %. */
export type AlikePair = { readonly a: number; readonly b: number; readonly byName: boolean; readonly shared: number };

/** The table does not hold compositions, which may stand in for one of the two telling values and of the four. */
const SHARED = 3;
const TELLING = 1;
/** Comparisons after which a search is broken off; it says so. */
const MOST_COMPARED = 5_000_000;
/** Comparisons in one go: some 20 ms. */
const REST_AFTER = 50_000;

/**
 * Rows that may be the same material as one that is not in the table or is about to change: by name, or by numbers.
 * @param seed its name in words, family and numbers
 */
export function alikeTo(
	all: AlikeRows,
	seed: { readonly words: readonly string[]; readonly family: number; readonly numbers: ReadonlyMap<string, number> },
): readonly { readonly row: number; readonly byName: boolean }[] {
	const found: { row: number; byName: boolean }[] = [];
	const wanted = [...seed.numbers].flatMap(([property, number]) => {
		const column = all.columns.get(property);
		return column === undefined ? [] : [{ column, number, telling: DISCRIMINATING.has(property) }];
	});
	const words = new Set(seed.words);
	for (const row of all.rows) {
		let [shared, telling] = [0, 0];
		if (seed.family !== 0 && all.family(row) === seed.family)
			for (const w of wanted) {
				if (!near(w.column[row] as number, w.number)) continue;
				shared++;
				if (w.telling) telling++;
			}
		const byName = mayBeNear(words, all.words(row)) && wordsLikeness(seed.words, all.words(row)) !== null;
		if (byName || (shared >= SHARED && telling >= TELLING)) found.push({ row, byName });
	}
	return found;
}

/** Of the words that are no codes at most one may be another: most names are left out by this without a further look. */
function mayBeNear(seed: ReadonlySet<string>, words: readonly string[]): boolean {
	let others = 0;
	for (const word of words) if (word.length >= 4 && !seed.has(word) && ++others > 1) return false;
	return true;
}

/**
 * Pairs of rows that may be the same material. Names meet by their codes and by words one slip apart; numbers by a
 * window of 1 % that runs over each telling property in each family. Yields now and then, so that a server can answer
 * others in between, and says how far it is: between 0 and 1.
 * @param mine one of each pair has to be such a row
 * @returns the pairs, the most alike first; `complete` is false when there was too much to compare
 */
export function* alikePairs(
	all: AlikeRows,
	mine: (row: number) => boolean,
): Generator<number, { readonly pairs: readonly AlikePair[]; readonly complete: boolean }> {
	const pairs = new Map<string, AlikePair>();
	const keep = (x: number, y: number, byName: boolean, shared: number): void => {
		const [a, b] = x < y ? [x, y] : [y, x];
		const key = `${a} ${b}`;
		const before = pairs.get(key);
		pairs.set(key, {
			a,
			b,
			byName: byName || before?.byName === true,
			shared: Math.max(shared, before?.shared ?? 0),
		});
	};
	let compared = 0;
	let rested = 0;
	/** Names, then each telling property, are gone through once. */
	let passes = 0;
	/** Each pair of rows of a list of which one is mine, once; `go` says whether to look further along. */
	function* meet(
		rows: readonly number[],
		go: (a: number, b: number) => boolean,
		pair: (a: number, b: number) => void,
	): Generator<number, void> {
		for (let i = 0; i < rows.length && compared < MOST_COMPARED; i++) {
			const a = rows[i] as number;
			if (!mine(a)) continue;
			if (compared - rested > REST_AFTER) {
				rested = compared;
				yield passes / (1 + DISCRIMINATING.size);
			}
			for (let j = i + 1; j < rows.length && go(a, rows[j] as number); j++, compared++) pair(a, rows[j] as number);
			// what stands before it was met from there, if it is mine too
			for (let j = i - 1; j >= 0 && go(rows[j] as number, a); j--, compared++)
				if (!mine(rows[j] as number)) pair(a, rows[j] as number);
		}
	}
	for (const bucket of bucketsByName(all))
		yield* meet(
			bucket,
			() => true,
			(a, b) => {
				const name = wordsLikeness(all.words(a), all.words(b));
				if (name !== null && name.kind !== "variant") keep(a, b, true, 0);
			},
		);
	const columns = [...all.columns].map(([property, column]) => ({ column, telling: DISCRIMINATING.has(property) }));
	for (const { column, telling } of columns) {
		if (!telling) continue;
		passes++;
		for (const rows of familiesBy(all, column))
			yield* meet(
				rows,
				(low, high) => near(column[low] as number, column[high] as number),
				(a, b) => {
					let [shared, tells] = [0, 0];
					for (const c of columns) {
						if (!near(c.column[a] as number, c.column[b] as number)) continue;
						shared++;
						if (c.telling) tells++;
					}
					if (shared >= SHARED && tells >= TELLING) keep(a, b, false, shared);
				},
			);
	}
	const list = [...pairs.values()].sort((x, y) => Number(y.byName) - Number(x.byName) || y.shared - x.shared || x.a - y.a);
	return { pairs: list, complete: compared < MOST_COMPARED };
}

/** As `isNear`, false for NaN. */
function near(a: number, b: number): boolean {
	return Math.abs(a - b) <= NEAR * Math.max(Math.abs(a), Math.abs(b));
}

/** Rows of each family that have a positive number of a property, in its order. */
function familiesBy(all: AlikeRows, column: Float64Array): Iterable<readonly number[]> {
	const families = new Map<number, number[]>();
	for (const row of all.rows) {
		const family = all.family(row);
		if (family === 0 || !((column[row] as number) > 0)) continue;
		const rows = families.get(family);
		if (rows === undefined) families.set(family, [row]);
		else rows.push(row);
	}
	for (const rows of families.values()) rows.sort((a, b) => (column[a] as number) - (column[b] as number));
	return families.values();
}

/**
 * Rows whose names may be near: the same codes, and words that are the same or one slip apart. Words one slip apart
 * share a word with one letter left out, so words are joined over those.
 */
function bucketsByName(all: AlikeRows): Iterable<readonly number[]> {
	const groups = new Map<string, string>();
	const leader = (word: string): string => {
		let at = word;
		for (let next = groups.get(at); next !== undefined && next !== at; next = groups.get(at)) at = next;
		return at;
	};
	const join = (a: string, b: string): void => {
		const [x, y] = [leader(a), leader(b)];
		if (x !== y) groups.set(x, y);
	};
	const known = new Map<string, string>();
	const words = new Set<string>();
	for (const row of all.rows) for (const word of all.words(row)) if (word.length >= 4 && !/\d/.test(word)) words.add(word);
	for (const word of words) {
		for (let i = -1; i < word.length; i++) {
			const shorter = i < 0 ? word : word.slice(0, i) + word.slice(i + 1);
			const other = known.get(shorter);
			if (other === undefined) known.set(shorter, word);
			else join(word, other);
		}
	}
	const buckets = new Map<string, number[]>();
	for (const row of all.rows) {
		const key = all
			.words(row)
			.map((w) => (words.has(w) ? leader(w) : w))
			.sort()
			.join(" ");
		const rows = buckets.get(key);
		if (rows === undefined) buckets.set(key, [row]);
		else rows.push(row);
	}
	return [...buckets.values()].filter((rows) => rows.length > 1);
}
