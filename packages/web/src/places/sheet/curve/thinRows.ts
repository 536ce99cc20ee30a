import { thin } from "@alvek/core/curve";

export type ThinnedRows = {
	/** Places of the rows that stay. */
	readonly keep: readonly number[];
	/** No row that was left out is farther from the line through its neighbours, as a share of the height of its curve. */
	readonly off: number;
};

/**
 * Rows of a block that stand for all of them, curve by curve: the last column is the height, the one before it runs, those
 * before it say which curve a row belongs to.
 * @returns null where a cell is no plain number, or a curve turns too often to be thinned
 */
export function thinRows(rows: readonly (readonly string[])[], mark: "." | ",", most: number): ThinnedRows | null {
	if (rows.length <= most) return { keep: rows.map((_, i) => i), off: 0 };
	const keep: number[] = [];
	let off = 0;
	for (const [from, to] of curvesOf(rows)) {
		const part = rows.slice(from, to);
		const x = part.map((r) => plainNumber(r.at(-2) ?? "", mark));
		const y = part.map((r) => plainNumber(r.at(-1) ?? "", mark));
		if ([...x, ...y].some(Number.isNaN)) return null;
		const thinned = thin(x, y, Math.max(2, Math.floor((most * part.length) / rows.length)));
		if (thinned === null) return null;
		for (const i of thinned.keep) keep.push(from + i);
		off = Math.max(off, thinned.off);
	}
	return keep.length > most ? null : { keep, off };
}

/** Stretches of rows that follow one another and say the same in the columns before the last two. */
function curvesOf(rows: readonly (readonly string[])[]): readonly (readonly [from: number, to: number])[] {
	const key = (i: number): string => (rows[i] ?? []).slice(0, -2).join("\t");
	const starts = rows.flatMap((_, i) => (i === 0 || key(i) !== key(i - 1) ? [i] : []));
	return starts.map((from, n) => [from, starts[n + 1] ?? rows.length]);
}

/** A cell as a number, to look at its place in a curve; what is kept stays as it was typed. NaN where it is none. */
function plainNumber(cell: string, mark: "." | ","): number {
	const bare = cell.replace(/[\s' ]/g, "").replace("−", "-");
	const text = mark === "," ? bare.replaceAll(".", "").replace(",", ".") : bare.replaceAll(",", "");
	return text === "" ? Number.NaN : Number(text);
}
