import type { MaterialPage } from "@alvek/contract";

/** What stands on a line of the grid. */
export type Item =
	| { readonly kind: "group"; readonly path: string; readonly count: number }
	| { readonly kind: "row"; readonly index: number };

/** Lines of the grid without a list of them: headings with as many rows below each, closed ones with none. */
export type Lines = {
	readonly count: number;
	readonly at: (line: number) => Item;
	/** The line of a row; of its heading where that is closed. */
	readonly lineOf: (row: number) => number;
	/** The next row in a direction that no closed heading hides; null at the end. */
	readonly step: (row: number, by: number) => number | null;
};

/**
 * @param groups headings in order over all rows; empty where rows are not sorted by group
 * @param total rows that there are
 */
export function linesOf(groups: MaterialPage["groups"], total: number, closed: ReadonlySet<string>): Lines {
	if (groups.length === 0) {
		return {
			count: total,
			at: (line) => ({ kind: "row", index: line }),
			lineOf: (row) => row,
			step: (row, by) => (row + by >= 0 && row + by < total ? row + by : null),
		};
	}
	const lineStart: number[] = [];
	const rowStart: number[] = [];
	let [lines, rows] = [0, 0];
	for (const { path, count } of groups) {
		lineStart.push(lines);
		rowStart.push(rows);
		lines += closed.has(path) ? 1 : 1 + count;
		rows += count;
	}
	const isClosed = (s: number): boolean => closed.has(groups[s]?.path ?? "");
	return {
		count: lines,
		at: (line) => {
			const s = lastNotAfter(lineStart, line);
			const within = line - (lineStart[s] ?? 0);
			const group = groups[s] ?? { path: "", count: 0 };
			return within === 0 ? { kind: "group", ...group } : { kind: "row", index: (rowStart[s] ?? 0) + within - 1 };
		},
		lineOf: (row) => {
			const s = lastNotAfter(rowStart, row);
			return (lineStart[s] ?? 0) + (isClosed(s) ? 0 : 1 + row - (rowStart[s] ?? 0));
		},
		step: (row, by) => {
			const wanted = Math.min(Math.max(row + by, 0), total - 1);
			const direction = Math.sign(by);
			for (let s = lastNotAfter(rowStart, wanted), first = true; s >= 0 && s < groups.length; s += direction, first = false) {
				if (isClosed(s)) continue;
				const start = rowStart[s] ?? 0;
				const found = first ? wanted : direction > 0 ? start : start + (groups[s]?.count ?? 0) - 1;
				return found === row ? null : found;
			}
			return null;
		},
	};
}

/** The last place whose number is not above x; `starts` ascend from 0. */
function lastNotAfter(starts: readonly number[], x: number): number {
	let [low, high] = [0, starts.length - 1];
	while (low < high) {
		const middle = (low + high + 1) >> 1;
		if ((starts[middle] ?? 0) <= x) low = middle;
		else high = middle - 1;
	}
	return low;
}
