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
		const read: Cell[] = [];
		const elements = head.columns.flatMap((column, i): PageConstituent[] => {
			const element = column.role === "element" ? elementOf(column.cell.text) : null;
			const text = cells[i]?.text;
			if (element === null || text === undefined) return [];
			if (/^(?:bal|rest|rem)/i.test(text)) return [{ element, min: null, max: null, balance: true, line: line.no }];
			const value = share(text, state);
			if (value === null) return [];
			read.push(cells[i] as Cell);
			return [{ element, min: /^[<≤]/.test(text) ? null : value, max: value, line: line.no }];
		});
		if (elements.length < 2) continue;
		for (const c of read) state.claim(line.no, c.from, c.to, "composition");
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
	const read: { line: number; cell: Cell }[] = [];
	for (const line of rows) {
		const cells = under(head, line);
		const element = elementOf(cells[0]?.text ?? "");
		if (element === null) continue;
		const at = (role: Role): Cell | null => cells[head.columns.findIndex((c) => c.role === role)] ?? null;
		const balance = cells.some((c) => c !== null && /^(?:bal|rest|rem|reste)/i.test(c.text));
		const columns = [at("min"), at("max"), at("value") ?? at("typ")];
		const [min, max, value] = columns.map((c) => share(c?.text, state)) as [number | null, number | null, number | null];
		if (!balance && min === null && max === null && value === null) continue;
		elements.push({
			element,
			min: min ?? value,
			max: max ?? value,
			...(balance ? { balance: true as const } : {}),
			line: line.no,
		});
		for (const c of columns) if (c !== null && share(c.text, state) !== null) read.push({ line: line.no, cell: c });
	}
	if (elements.length < 2) return false;
	for (const { line, cell } of read) state.claim(line, cell.from, cell.to, "composition");
	for (const { line } of elements) state.parts.add(line);
	state.compositions.push({ label: "", elements });
	return true;
}
