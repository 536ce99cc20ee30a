import { LateStrings } from "./image";
import { foldName, lettersOf, nearWords, RANKS, wordsOf } from "./rank";

export type RankedRow = { readonly row: number; readonly rank: number };

/** Slips are forgiven only while few names answer what was typed as it stands. */
const ENOUGH = 5;
const WORD = /^[\p{L}\p{N}]+$/u;
const IN_WORD = /[\p{L}\p{N}]$/u;
const FROM_WORD = /^[\p{L}\p{N}]/u;

/** Names and codes of rows, folded once, to be found by what somebody typed. */
export class NameIndex {
	/** All names of a row, folded, one a line; "" for a row that is not in use. */
	private texts = new LateStrings();
	/** Every word that ever stood in a name, with its letters. */
	private readonly vocabulary = new Map<string, number>();
	/** Rows in whose names a word stands, or stood: see `renamed`. */
	private readonly rowsOf = new Map<string, number[]>();
	/** The text of each row whose words are in the vocabulary. */
	private readTexts: (string | undefined)[] = [];
	/** Rows that bear other names than they once did, so that words of theirs may be gone. */
	private readonly renamed = new Set<number>();
	/** Rows whose words are not in the vocabulary yet: only a slip of the pen asks for it. */
	private unread: number[] = [];

	/** @param names one a line, the chief one first */
	put(row: number, names: string): void {
		const folded = names.split("\n").map(foldName);
		this.texts.set(row, folded.filter((n) => n !== "").join("\n"));
		this.unread.push(row);
	}

	remove(row: number): void {
		this.texts.set(row, "");
	}

	/** The texts as they are kept in an image. */
	image(rows: number): readonly string[] {
		const texts = this.texts.all();
		return Array.from({ length: rows }, (_, row) => texts[row] ?? "");
	}

	/** Stands on stored texts of so many rows from now on. */
	restore(stored: () => readonly string[], rows: number): void {
		this.texts = new LateStrings(stored);
		this.vocabulary.clear();
		this.rowsOf.clear();
		this.readTexts = [];
		this.renamed.clear();
		this.unread = Array.from({ length: rows }, (_, row) => row);
	}

	/**
	 * Reads the words of some rows that wait for it, so that the first slip of a pen does not wait for all of them.
	 * @returns whether any are left
	 */
	readSome(most: number): boolean {
		for (const row of this.unread.splice(-Math.max(1, most))) {
			const text = this.texts.get(row) ?? "";
			const before = this.readTexts[row];
			if (before === text) continue;
			if (before !== undefined) this.renamed.add(row);
			this.readTexts[row] = text;
			for (const word of new Set(wordsOf(text))) {
				const rows = this.rowsOf.get(word);
				if (rows === undefined) {
					this.vocabulary.set(word, lettersOf(word));
					this.rowsOf.set(word, [row]);
				} else rows.push(row);
			}
		}
		return this.unread.length > 0;
	}

	/**
	 * The rows whose names answer best: exact first, then those that begin with it, then by words; close ones last.
	 * @param sees which rows may answer
	 */
	search(typed: string, sees: (row: number) => boolean, most: number): readonly RankedRow[] {
		const query = foldName(typed);
		if (query === "") return [];
		const pieces = query.split(" ");
		const words = pieces.every((p) => WORD.test(p));
		const found: RankedRow[] = [];
		for (const [row, text] of this.texts.all().entries()) {
			if (text === undefined || !sees(row) || !pieces.every((p) => text.includes(p))) continue;
			found.push({ row, rank: rankIn(text, query, words ? pieces : null) });
		}
		if (found.length < ENOUGH) found.push(...this.close(pieces, sees, new Set(found.map((f) => f.row))));
		// shorter names first; those of one length by their letters, so that the order does not hang on when they came in
		const chief = (row: number): string => this.texts.get(row)?.split("\n", 1)[0] ?? "";
		const named = found.map((f) => ({ ...f, name: chief(f.row) }));
		const best = first(
			named,
			most,
			(a, b) => a.rank - b.rank || a.name.length - b.name.length || (a.name < b.name ? -1 : a.name > b.name ? 1 : 0),
		);
		return best.map(({ row, rank }) => ({ row, rank }));
	}

	/** Rows that have, for each piece of the query, a word within a few slips of it. */
	private close(pieces: readonly string[], sees: (row: number) => boolean, known: ReadonlySet<number>): readonly RankedRow[] {
		while (this.readSome(this.unread.length));
		let left: ReadonlyMap<number, number> | null = null;
		for (const piece of pieces) {
			const slips = new Map<number, number>();
			for (const [word, count] of nearWords(piece, this.vocabulary)) {
				for (const row of this.rowsOf.get(word) ?? []) {
					const before = left === null ? 0 : left.get(row);
					if (before === undefined || (this.renamed.has(row) && !hasWord(this.texts.get(row) ?? "", word))) continue;
					slips.set(row, Math.min(slips.get(row) ?? Number.POSITIVE_INFINITY, before + count));
				}
			}
			left = slips;
		}
		// a hundred slips would still rank as close
		return [...(left ?? [])].flatMap(([row, slips]) =>
			known.has(row) || !sees(row) ? [] : [{ row, rank: RANKS.length - 1 + slips / 100 }],
		);
	}
}

/** The first few in order; most of the others are looked at once and left. */
function first<T>(list: readonly T[], most: number, compare: (a: T, b: T) => number): readonly T[] {
	const kept: T[] = [];
	for (const item of list) {
		if (kept.length === most && compare(kept[most - 1], item) <= 0) continue;
		let at = kept.length;
		while (at > 0 && compare(kept[at - 1], item) > 0) at--;
		kept.splice(at, 0, item);
		if (kept.length > most) kept.pop();
	}
	return kept;
}

/**
 * As `rankName` ranks, over all names of a row that holds every piece, without splitting them.
 * @param pieces those of the query when each is one word; null: none of them can begin a word
 */
function rankIn(text: string, query: string, pieces: readonly string[] | null): number {
	if (`\n${text}\n`.includes(`\n${query}\n`)) return 0;
	if (text.startsWith(query) || text.includes(`\n${query}`)) return 1;
	return pieces?.every((p) => beginsWord(text, p)) === true ? 2 : 3;
}

function hasWord(text: string, word: string): boolean {
	for (let at = text.indexOf(word); at >= 0; at = text.indexOf(word, at + 1)) {
		const end = at + word.length;
		if ((at === 0 || !IN_WORD.test(text.slice(Math.max(0, at - 2), at))) && !FROM_WORD.test(text.slice(end, end + 2)))
			return true;
	}
	return false;
}

function beginsWord(text: string, piece: string): boolean {
	for (let at = text.indexOf(piece); at >= 0; at = text.indexOf(piece, at + 1))
		if (at === 0 || !IN_WORD.test(text.slice(Math.max(0, at - 2), at))) return true;
	return false;
}
