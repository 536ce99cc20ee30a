/**
 * One set of words per row (its library; the uses it is ready for), coded by the set as a whole: rows share few
 * different sets, so a test is one look-up a row and a count one increment.
 */
export class SetColumn {
	codes: Uint32Array;
	/** Words of each code. */
	readonly sets: string[][] = [[]];
	private readonly known = new Map<string, number>([["", 0]]);

	constructor(rows: number) {
		this.codes = new Uint32Array(rows);
	}

	/** A column as it was kept. */
	static from(codes: Uint32Array, sets: readonly string[][]): SetColumn {
		const column = new SetColumn(0);
		column.codes = codes;
		for (const [code, words] of sets.entries()) {
			column.sets[code] = words;
			column.known.set(words.join("\u0000"), code);
		}
		return column;
	}

	put(row: number, words: readonly string[]): void {
		const key = words.join("\u0000");
		let code = this.known.get(key);
		if (code === undefined) {
			code = this.sets.length;
			this.known.set(key, code);
			this.sets.push([...words]);
		}
		this.codes[row] = code;
	}

	/** The code of a set of words; -1 when no row ever bore it. */
	codeOf(words: readonly string[]): number {
		return this.known.get(words.join("\u0000")) ?? -1;
	}

	grow(rows: number): void {
		const codes = new Uint32Array(rows);
		codes.set(this.codes);
		this.codes = codes;
	}

	/** Which codes pass: any of the wanted words, or all of them. */
	passing(wanted: readonly string[], all: boolean): Uint8Array {
		return Uint8Array.from(this.sets, (words) =>
			(all ? wanted.every((w) => words.includes(w)) : wanted.some((w) => words.includes(w))) ? 1 : 0,
		);
	}

	/** Counts by code turned into counts by word. */
	byWord(counts: Uint32Array): ReadonlyMap<string, number> {
		const words = new Map<string, number>();
		this.sets.forEach((set, code) => {
			if (counts[code] === 0) return;
			for (const word of set) words.set(word, (words.get(word) ?? 0) + counts[code]);
		});
		return words;
	}
}
