/** A cell of a line: its text and where it stands. */
export type Cell = { readonly text: string; readonly from: number; readonly to: number };

/** Cells by tabs or bars, blank ones too; else by gaps of two blanks and more, or leaders. */
export function cellsOf(line: string): readonly Cell[] {
	if (line.includes("\t")) return parted(line, /\t/g);
	if (/\S\s*\|/.test(line)) {
		const cells = parted(line, /\|/g);
		// a table of bars often has one before and behind each row
		const begin = cells[0]?.text === "" ? 1 : 0;
		const end = cells.at(-1)?.text === "" ? cells.length - 1 : cells.length;
		return cells.slice(begin, end);
	}
	return parted(line, / {2,}|\.{4,}|_{3,}|…{2,}/g).filter((c) => c.text !== "");
}

/** Are the cells parted by a mark, so that a blank one keeps its place? */
export function isMarked(line: string): boolean {
	return line.includes("\t") || /\S\s*\|/.test(line);
}

function parted(line: string, by: RegExp): Cell[] {
	const cells: Cell[] = [];
	let at = 0;
	const add = (to: number): void => {
		const text = line.slice(at, to);
		const lead = text.length - text.trimStart().length;
		const trimmed = text.trim();
		cells.push({ text: trimmed, from: at + lead, to: at + lead + trimmed.length });
	};
	for (const match of line.matchAll(by)) {
		add(match.index);
		at = match.index + match[0].length;
	}
	add(line.length);
	return cells;
}

/** Is it a cell that says nothing: a dash, `n/a`, an asterisk? */
export function isBlankCell(text: string): boolean {
	return /^(?:[-–—*.]*|n\.?\/?\s?a\.?|k\.\s?a\.|nd|n\.d\.)$/i.test(text.trim());
}
