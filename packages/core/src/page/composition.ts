import { parseQuantity } from "../quantity";
import type { Cell } from "./cells";
import { elementOf, type Head, type Role } from "./heads";
import { under } from "./row";
import type { Line, PageState } from "./state";
import type { PageConstituent } from "./types";

/** A share of mass of a cell: 0 to 1; null for none. */
function share(text: string | undefined, state: PageState): number | null {
	if (text === undefined || !/^[<≤>≥]?\s*\d+(?:[.,]\d+)?$/.test(text.trim())) return null;
	const read = parseQuantity(
		`${text.replace(/[<≤>≥\s]/g, "")} %`,
		{ dimension: 0, siUnit: "1", min: 0, max: 1 },
		{ decimalMark: state.mark ?? "." },
	);
	return read.ok ? read.value.low : null;
}

/** Elements over the columns, one row a heat; with rows named min and max, limits. */
export function readAnalysis(state: PageState, head: Head, rows: readonly Line[]): boolean {
	let found = false;
	for (const line of rows) {
		const cells = under(head, line);
		const elements = head.columns.flatMap((column, i): PageConstituent[] => {
			const element = column.role === "element" ? elementOf(column.cell.text) : null;
			const text = cells[i]?.text;
			if (element === null || text === undefined) return [];
			if (/^(?:bal|rest|rem)/i.test(text)) return [{ element, min: null, max: null, balance: true, line: line.no }];
			const value = share(text, state);
			if (value === null) return [];
			state.claim(line.no, (cells[i] as Cell).from, (cells[i] as Cell).to, "composition");
			return [{ element, min: /^[<≤]/.test(text) ? null : value, max: value, line: line.no }];
		});
		if (elements.length < 2) continue;
		const name = cells[head.columns.findIndex((c) => c.role === "id")];
		if (name != null) state.claim(line.no, name.from, name.to, "name");
		state.compositions.push({ label: name?.text ?? "", elements });
		state.parts.add(line.no);
		found = true;
	}
	return found;
}

/** Elements down the rows with min and max beside them. */
export function readConstituents(state: PageState, head: Head, rows: readonly Line[]): boolean {
	const elements: PageConstituent[] = [];
	for (const line of rows) {
		const cells = under(head, line);
		const element = elementOf(cells[0]?.text ?? "");
		if (element === null) continue;
		const at = (role: Role): Cell | null => cells[head.columns.findIndex((c) => c.role === role)] ?? null;
		const balance = cells.some((c) => c !== null && /^(?:bal|rest|rem|reste)/i.test(c.text));
		const [min, max, value] = [
			share(at("min")?.text, state),
			share(at("max")?.text, state),
			share((at("value") ?? at("typ"))?.text, state),
		];
		if (!balance && min === null && max === null && value === null) continue;
		elements.push({
			element,
			min: min ?? value,
			max: max ?? value,
			...(balance ? { balance: true as const } : {}),
			line: line.no,
		});
		for (const c of cells) if (c !== null) state.claim(line.no, c.from, c.to, "composition");
		state.parts.add(line.no);
	}
	if (elements.length < 2) return false;
	state.compositions.push({ label: "", elements });
	return true;
}
