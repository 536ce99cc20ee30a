import { foldName, lettersOf, nearWords, RANKS, wordsOf } from "./rank";

export type RankedRow = { readonly row: number; readonly rank: number };

/** Slips are forgiven only while few names answer what was typed as it stands. */
const ENOUGH = 5;

/** Names and codes of rows, folded once, to be found by what somebody typed. */
export class NameIndex {
	private readonly names: (readonly string[] | undefined)[] = [];
	/** All names of a row together: what is not in here is in none of them. */
	private readonly texts: (string | undefined)[] = [];
	private readonly words: (readonly string[] | undefined)[] = [];
	/** Every word that ever stood in a name, with its letters. */
	private readonly vocabulary = new Map<string, number>();
	/** Rows in whose names a word stood; one that is gone is seen by its `words`. */
	private readonly rowsOf = new Map<string, number[]>();

	/** @param names one a line, the chief one first */
	put(row: number, names: string): void {
		const folded = names
			.split("\n")
			.map(foldName)
			.filter((n) => n !== "");
		const words = [...new Set(folded.flatMap(wordsOf))];
		for (const word of words) {
			const rows = this.rowsOf.get(word);
			if (rows === undefined) {
				this.vocabulary.set(word, lettersOf(word));
				this.rowsOf.set(word, [row]);
			} else rows.push(row);
		}
		this.names[row] = folded;
		this.texts[row] = folded.join("\n");
		this.words[row] = words;
	}

	remove(row: number): void {
		this.names[row] = undefined;
		this.texts[row] = undefined;
		this.words[row] = undefined;
	}

	/**
	 * The rows whose names answer best: exact first, then those that begin with it, then by words; close ones last.
	 * @param sees which rows may answer
	 */
	search(typed: string, sees: (row: number) => boolean, most: number): readonly RankedRow[] {
		const query = foldName(typed);
		if (query === "") return [];
		const pieces = query.split(" ");
		const found: RankedRow[] = [];
		for (const [row, text] of this.texts.entries()) {
			if (text === undefined || !sees(row) || !pieces.every((p) => text.includes(p))) continue;
			found.push({ row, rank: this.rank(row, query, pieces) });
		}
		if (found.length < ENOUGH) found.push(...this.close(pieces, sees, new Set(found.map((f) => f.row))));
		const length = (row: number): number => this.names[row]?.[0]?.length ?? 0;
		return found.sort((a, b) => a.rank - b.rank || length(a.row) - length(b.row)).slice(0, most);
	}

	/** As `rankName` ranks, over all names of a row that holds every piece: its words are split already. */
	private rank(row: number, query: string, pieces: readonly string[]): number {
		const names = this.names[row] ?? [];
		if (names.includes(query)) return 0;
		if (names.some((n) => n.startsWith(query))) return 1;
		const words = this.words[row] ?? [];
		return pieces.every((p) => words.some((w) => w.startsWith(p))) ? 2 : 3;
	}

	/** Rows that have, for each piece of the query, a word within a few slips of it. */
	private close(pieces: readonly string[], sees: (row: number) => boolean, known: ReadonlySet<number>): readonly RankedRow[] {
		let left: ReadonlyMap<number, number> | null = null;
		for (const piece of pieces) {
			const slips = new Map<number, number>();
			for (const [word, count] of nearWords(piece, this.vocabulary)) {
				for (const row of this.rowsOf.get(word) ?? []) {
					const before = left === null ? 0 : left.get(row);
					if (before === undefined || this.words[row]?.includes(word) !== true) continue;
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
