import type { DecimalMark } from "./number";

/**
 * The decimal mark that numbers written together share: one with other than three digits behind it, or behind a leading
 * zero, says it. `ambiguous` when nothing says it, or when they contradict each other.
 */
export function commonMark(cells: readonly string[]): { mark: DecimalMark; ambiguous: boolean } {
	let comma = 0;
	let point = 0;
	let open = 0;
	for (const cell of cells) {
		const marks = cell.replace(/[^.,]/g, "");
		if (marks === "") continue;
		const last = Math.max(cell.lastIndexOf(","), cell.lastIndexOf("."));
		const behind = /^\d+/.exec(cell.slice(last + 1))?.[0].length ?? 0;
		const clear = behind !== 3 || /^[-+]?0?[.,]/.test(cell) || /^[-+]?\d{4,}[.,]/.test(cell) || new Set(marks).size === 2;
		if (!clear) open++;
		else if (cell[last] === ",") comma++;
		else point++;
	}
	if (comma === 0 && point === 0) {
		const usesComma = cells.some((c) => c.includes(","));
		return { mark: usesComma ? "," : ".", ambiguous: open > 0 };
	}
	return { mark: comma > point ? "," : ".", ambiguous: comma > 0 && point > 0 };
}
