/** How well a name answers what was typed; smaller is better. */
export const RANKS = ["exact", "start", "word start", "inside", "close"] as const;

/** Without case, accents and doubled blanks. */
export function foldName(text: string): string {
	return text.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase().replace(/\s+/g, " ").trim();
}

/**
 * Rank of a name for a query, both folded: 0 the same, 1 begins with it, 2 each piece begins a word, 3 each piece is
 * inside; null when it is none of these.
 */
export function rankName(name: string, query: string): number | null {
	if (name === query) return 0;
	if (name.startsWith(query)) return 1;
	const pieces = query.split(" ");
	if (!pieces.every((p) => name.includes(p))) return null;
	const words = wordsOf(name);
	return pieces.every((p) => words.some((w) => w.startsWith(p))) ? 2 : 3;
}

/** Letters and digits run together; what stands between ends a word. */
export function wordsOf(name: string): readonly string[] {
	return name.split(/[^\p{L}\p{N}]+/u).filter((w) => w !== "");
}

/** Slips forgiven in a piece of this length: none in short ones, where every word would be near. */
export function slipsFor(length: number): number {
	return length < 4 ? 0 : length < 8 ? 1 : 2;
}

/** The letters of a word as bits; digits and whatever else share the higher ones. */
export function lettersOf(word: string): number {
	let bits = 0;
	for (let i = 0; i < word.length; i++) {
		const code = word.charCodeAt(i);
		bits |= 1 << (code >= 97 && code <= 122 ? code - 97 : 26 + (code % 6));
	}
	return bits;
}

/**
 * The words, of all that occur, that a piece may have been meant as: within a few slips of a word or of its start.
 * @param vocabulary each word with its letters
 * @returns word -> slips
 */
export function nearWords(piece: string, vocabulary: ReadonlyMap<string, number>): ReadonlyMap<string, number> {
	const near = new Map<string, number>();
	const most = slipsFor(piece.length);
	const letters = lettersOf(piece);
	for (const [word, has] of vocabulary) {
		// each letter that a word lacks is a slip, which spares almost every comparison
		if (word.length < piece.length - most || bitCount(letters & ~has) > most) continue;
		// a word that goes on is compared by its start
		const lengths = [word.length, piece.length - 1, piece.length, piece.length + 1].filter((n) => n > 0 && n <= word.length);
		const slips = Math.min(...lengths.map((n) => distance(piece, word.slice(0, n), most)));
		if (slips <= most) near.set(word, slips);
	}
	return near;
}

function bitCount(bits: number): number {
	let count = 0;
	for (let left = bits; left !== 0; left &= left - 1) count++;
	return count;
}

/**
 * Edits (insert, delete, replace, swap neighbours) between two words: the optimal string alignment distance.
 * @param most the count beyond which the exact number does not matter
 */
export function distance(a: string, b: string, most: number): number {
	if (Math.abs(a.length - b.length) > most) return most + 1;
	let before: number[] = [];
	let last = Array.from({ length: b.length + 1 }, (_, j) => j);
	for (let i = 1; i <= a.length; i++) {
		const row = [i];
		let best = i;
		for (let j = 1; j <= b.length; j++) {
			const same = a[i - 1] === b[j - 1];
			let edits = Math.min(last[j] + 1, row[j - 1] + 1, last[j - 1] + (same ? 0 : 1));
			if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) edits = Math.min(edits, before[j - 2] + 1);
			row.push(edits);
			if (edits < best) best = edits;
		}
		if (best > most) return most + 1;
		before = last;
		last = row;
	}
	return last[b.length];
}
