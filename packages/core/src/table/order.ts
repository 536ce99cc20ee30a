import { compareNames } from "./names";

/** Rows in the order of their names. One row is put in its place by bisection; many at once are sorted once. */
export class NameOrder {
	private sorted = new Int32Array(0);
	private paused = false;
	private waiting: number[] = [];

	/** @param keyOf name and id of a row; the id settles equal names */
	constructor(private readonly keyOf: (row: number) => readonly [string, string]) {}

	pause(): void {
		this.paused = true;
	}

	resume(): void {
		this.paused = false;
		const all = [...this.sorted, ...this.waiting];
		this.waiting = [];
		this.sorted = Int32Array.from(all.sort((a, b) => this.compare(a, b)));
	}

	add(row: number): void {
		if (this.paused) {
			this.waiting.push(row);
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
			this.waiting = this.waiting.filter((r) => r !== row);
			this.sorted = this.sorted.filter((r) => r !== row);
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
