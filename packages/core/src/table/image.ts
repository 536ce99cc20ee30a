export type Numbers = Float64Array<ArrayBufferLike> | Int32Array<ArrayBufferLike> | Uint32Array<ArrayBufferLike>;

/** A table as named lists, to be kept in a file and taken back without making any of its rows anew. */
export type TableImage = {
	readonly numbers: ReadonlyMap<string, Numbers>;
	readonly strings: ReadonlyMap<string, readonly string[]>;
};

/** The same as read back: numbers are used where they lie, strings are split when they are first asked for. */
export type StoredTable = {
	readonly numbers: ReadonlyMap<string, Numbers>;
	readonly strings: (name: string) => readonly string[];
};

/** One string per row, of which those that were stored are read when the first of them is needed. */
export class LateStrings {
	private readonly known: (string | undefined)[] = [];

	/** @param stored what the rows had when they were stored; null: nothing */
	constructor(private stored: (() => readonly string[]) | null = null) {}

	set(row: number, text: string | undefined): void {
		// a stored one would come back in place of what is taken away
		if (text === undefined) this.all();
		this.known[row] = text;
	}

	get(row: number): string | undefined {
		return this.all()[row];
	}

	/** By row; undefined where there is none. */
	all(): readonly (string | undefined)[] {
		if (this.stored !== null) {
			const stored = this.stored();
			this.stored = null;
			for (let row = 0; row < stored.length; row++) this.known[row] ??= stored[row];
		}
		return this.known;
	}
}
