import type { LibraryView, MaterialRow } from "@alvek/contract";
import {
	blockEdits,
	type Cell,
	type CellBlock,
	cellEdit,
	cellText,
	type Edit,
	fillEdit,
	firstValue,
	readCells,
} from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import { describeIssue, type Issue } from "@alvek/core/result";
import { type ClipboardEvent, type KeyboardEvent, type ReactNode, useRef, useState } from "react";

import { mutate, undoEvent } from "../../api/mutate";
import { sentences, showIssues } from "../../api/queries";
import { showToast } from "../../stores/toasts";
import { copyText } from "../../ui/copy";
import { counted } from "../../ui/words";
import { CellField } from "./CellField";
import type { RowCells } from "./GridRow";
import type { GridColumn } from "./numbers";
import type { Rows } from "./useRows";

/** The element that takes the keyboard of the grid. */
export const ROWS_ID = "grid-rows";

export type CellPlace = { readonly row: number; readonly col: number };
type Walk = {
	readonly step: (row: number, by: number) => number | null;
	readonly page: number;
	readonly reveal: (row: number) => void;
};
/** A cell that was not taken, with what a person needs to find it again. */
export type Refusal = { readonly material: string; readonly column: string; readonly text: string; readonly why: string };

export type Editing = {
	readonly active: boolean;
	readonly cursor: CellPlace | null;
	/** Rows and columns chosen. */
	readonly size: { readonly rows: number; readonly columns: number };
	/** Materials changed since editing began. */
	readonly touched: ReadonlySet<string>;
	readonly refused: readonly Refusal[];
	readonly dismiss: () => void;
	readonly cellsOf: (row: number) => RowCells | null;
	readonly field: ReactNode;
	readonly choose: (cell: CellPlace, extend: boolean) => void;
	/** Begins to type, over what is there or (null) in it. */
	readonly begin: (text: string | null) => void;
	readonly onKeyDown: (e: KeyboardEvent, walk: Walk) => void;
	readonly onCopy: (e: ClipboardEvent) => void;
	readonly onPaste: (e: ClipboardEvent) => void;
	readonly copy: () => void;
	readonly fillDown: () => void;
	readonly clear: () => void;
	/** Ids of the chosen rows that have arrived. */
	readonly chosenIds: () => readonly string[];
};

type Change = { readonly row: MaterialRow; readonly edits: readonly Edit[] };

type Typing = { readonly text: string; readonly error: string | null };

/** Cells of the grid as in a spreadsheet: what is typed, pasted or filled becomes drafts in one step that undoes in one. */
export function useEditing(props: {
	active: boolean;
	rows: Rows;
	columns: readonly GridColumn[];
	libraries: readonly LibraryView[];
	/** The row of the cell has the focus of the place too. */
	onRow: (row: number) => void;
	leave: () => void;
}): Editing {
	const { active, rows, columns, libraries, onRow, leave } = props;
	const [cursor, setCursor] = useState<CellPlace>({ row: 0, col: 0 });
	const [anchor, setAnchor] = useState<CellPlace>({ row: 0, col: 0 });
	const [typing, show] = useState<Typing | null>(null);
	/** What is typed as of now: leaving the field follows a commit before the next render. */
	const typed = useRef<Typing | null>(null);
	const setTyping = (next: Typing | null): void => {
		typed.current = next;
		show(next);
	};
	const [refused, setRefused] = useState<readonly Refusal[]>([]);
	const [touched, setTouched] = useState<ReadonlySet<string>>(new Set());
	/** Writes go one after the other, each on what the one before left. */
	const queue = useRef<Promise<unknown>>(Promise.resolve());
	const box = {
		top: Math.min(cursor.row, anchor.row),
		bottom: Math.min(Math.max(cursor.row, anchor.row), Math.max(rows.total - 1, 0)),
		left: Math.min(cursor.col, anchor.col),
		right: Math.min(Math.max(cursor.col, anchor.col), columns.length - 1),
	};
	const size = { rows: box.bottom - box.top + 1, columns: box.right - box.left + 1 };
	const own = new Map<string, OwnProperty>(
		libraries.flatMap((l) => l.ownProperties.map((p): [string, OwnProperty] => [`own:${p.uid}`, p])),
	);
	const cellOf = (column: GridColumn): Cell => {
		const added = own.get(column.id);
		return { property: column.id, unit: column.unit, ...(added === undefined ? {} : { own: added }) };
	};
	const mayEdit = (row: MaterialRow): boolean => libraries.find((l) => l.id === row.libraryId)?.mayEdit === true;
	const refusalOf = (row: MaterialRow, col: number, text: string, issues: readonly Issue[]): Refusal => ({
		material: row.name,
		column: columns[col]?.spec.name ?? "no column",
		text,
		why: issues.map(describeIssue).join(" "),
	});

	const choose = (cell: CellPlace, extend: boolean): void => {
		setCursor(cell);
		if (!extend) setAnchor(cell);
		setTyping(null);
		if (cell.row !== cursor.row) onRow(cell.row);
	};

	/** All changes in one step; false when the server refused, with everything as it was. */
	const save = async (changes: readonly Change[], refusals: readonly Refusal[], what: string): Promise<boolean> => {
		setRefused(refusals);
		const items = changes.filter((c) => c.edits.length > 0).map(({ row, edits }) => ({ id: row.id, edits: [...edits] }));
		if (items.length === 0) {
			if (refusals.length === 0) showToast({ tone: "plain", text: "Nothing changed: the cells hold that already." });
			return refusals.length === 0;
		}
		const result = await mutate("saveDrafts", { items });
		if (!result.ok) {
			showIssues(result.issues);
			return false;
		}
		setTouched((now) => new Set([...now, ...items.map((i) => i.id)]));
		const cells = items.reduce((n, i) => n + i.edits.length, 0);
		const said = `${what}: ${counted(cells, "cell")} of ${counted(items.length, "material")} changed, as drafts`;
		showToast({
			tone: "plain",
			text: `${said}.`,
			action: { label: "Undo", run: () => undoEvent(result.value.event, said) },
		});
		return true;
	};
	const inTurn = <T,>(work: () => Promise<T>): Promise<T> => {
		const next = queue.current.then(work, work);
		queue.current = next;
		return next;
	};

	/** A block laid on the cells from a place on. */
	const lay = (block: CellBlock, at: CellPlace, what: string): Promise<boolean> =>
		inTurn(async () => {
			const found = await rows.range(at.row, block.cells.length);
			if (found === null) return false;
			const own = columns.slice(at.col).map(cellOf);
			const { edits, refused } = blockEdits(
				found.map((r) => r.document),
				own,
				block,
			);
			const changes = found.map((row, i): Change => ({ row, edits: mayEdit(row) ? (edits[i] ?? []) : [] }));
			const locked = found.flatMap((row, i) =>
				mayEdit(row)
					? []
					: (edits[i] ?? []).map((edit) => {
							const col = columns.findIndex((c) => edit.at === c.id || edit.at.startsWith(`${c.id}~`));
							return refusalOf(row, col, block.cells[i]?.[col - at.col] ?? "", [{ code: "read-only" }]);
						}),
			);
			const others = refused.map((r): Refusal => {
				const row = found[r.row];
				if (row !== undefined) return refusalOf(row, at.col + r.column, r.text, r.issues);
				return { material: `row ${at.row + r.row + 1}`, column: "", text: r.text, why: sentences(r.issues) };
			});
			return save(changes, [...locked, ...others], what);
		});

	const begin = (text: string | null): void => {
		const row = rows.at(cursor.row);
		const column = columns[cursor.col];
		if (row === undefined || column === undefined) return;
		if (!mayEdit(row)) return showIssues([{ code: "read-only" }]);
		setAnchor(cursor);
		const value = firstValue(row.document, column.id);
		setTyping({ text: text ?? (value === null ? "" : cellText(value, column.unit)), error: null });
	};

	/** Takes what was typed; a text that cannot be read stays in its field with the reason. */
	const commit = (): boolean => {
		const row = rows.at(cursor.row);
		const column = columns[cursor.col];
		const now = typed.current;
		if (now === null || row === undefined || column === undefined) return true;
		const edit = cellEdit(row.document, cellOf(column), now.text);
		if (!edit.ok) {
			setTyping({ ...now, error: sentences(edit.issues) });
			return false;
		}
		setTyping(null);
		if (edit.value !== null) void lay({ cells: [[now.text]], units: [], mark: undefined }, cursor, column.spec.name);
		return true;
	};

	const fillDown = (): void =>
		void inTurn(async () => {
			const found = await rows.range(box.top, size.rows);
			const [first, ...others] = found ?? [];
			if (first === undefined) return;
			const refusals: Refusal[] = [];
			const changes = others.map((row): Change => {
				const edits = columns.slice(box.left, box.right + 1).flatMap((column, i): Edit[] => {
					const from = firstValue(first.document, column.id);
					const made = from === null ? cellEdit(row.document, cellOf(column), "") : fillEdit(row.document, cellOf(column), from);
					const issues: readonly Issue[] = !mayEdit(row) ? [{ code: "read-only" }] : made.ok ? [] : made.issues;
					if (issues.length > 0) refusals.push(refusalOf(row, box.left + i, from?.entered ?? "", issues));
					return made.ok && made.value !== null && issues.length === 0 ? [made.value] : [];
				});
				return { row, edits };
			});
			return save(changes, refusals, "Filled down");
		});

	const clear = (): void => {
		const cells = Array.from({ length: size.rows }, () => Array.from({ length: size.columns }, () => ""));
		void lay({ cells, units: [], mark: undefined }, { row: box.top, col: box.left }, "Cleared");
	};

	/** Chosen cells with the units in a first row. Only rows that have arrived; null where one has not. */
	const chosenText = (): string | null => {
		const chosen = columns.slice(box.left, box.right + 1);
		const lines = Array.from({ length: size.rows }, (_, i) => rows.at(box.top + i));
		if (lines.some((row) => row === undefined)) return null;
		const head = chosen.map((c) => `${c.spec.name} [${c.unit}]`);
		const body = lines.map((row) =>
			chosen.map((c) => {
				const value = firstValue((row as MaterialRow).document, c.id);
				return value === null ? "" : cellText(value, c.unit);
			}),
		);
		return [head, ...body].map((line) => line.join("\t")).join("\r\n");
	};
	const saidCopied = (): void =>
		showToast({ tone: "plain", text: `${size.rows} × ${size.columns} cells are in the clipboard, units in the first row.` });

	return {
		active,
		cursor: active ? cursor : null,
		size,
		touched,
		refused,
		dismiss: () => setRefused([]),
		cellsOf: (row) => {
			if (!active) return null;
			const inBox = row >= box.top && row <= box.bottom;
			const here = row === cursor.row ? cursor.col : -1;
			return inBox ? { from: box.left, to: box.right, active: here } : { from: 0, to: -1, active: here };
		},
		field:
			typing === null ? null : (
				<CellField
					text={typing.text}
					error={typing.error}
					label={`${columns[cursor.col]?.spec.name} of ${rows.at(cursor.row)?.name}`}
					onChange={(text) => setTyping({ text, error: null })}
					onLeave={commit}
				/>
			),
		choose: (cell, extend) => {
			if (typing === null || commit()) choose(cell, extend);
		},
		begin,
		onKeyDown: (e, walk) => {
			const go = (row: number | null, col: number, extend = false): void => {
				if (row === null) return;
				choose({ row, col: Math.min(Math.max(col, 0), columns.length - 1) }, extend);
				walk.reveal(row);
			};
			const below = (): number => walk.step(cursor.row, 1) ?? cursor.row;
			if (typing !== null) {
				if (e.key !== "Enter" && e.key !== "Tab" && e.key !== "Escape") return;
				e.preventDefault();
				if (e.key === "Escape") setTyping(null);
				else if (!commit()) return;
				else if (e.key === "Enter") go(below(), cursor.col);
				else go(cursor.row, cursor.col + (e.shiftKey ? -1 : 1));
				document.getElementById(ROWS_ID)?.focus();
				return;
			}
			const { key } = e;
			const command = e.ctrlKey || e.metaKey;
			if (key === "ArrowDown" && e.altKey) fillDown();
			else if (key === "ArrowDown" || key === "ArrowUp")
				go(walk.step(cursor.row, key === "ArrowDown" ? 1 : -1), cursor.col, e.shiftKey);
			else if (key === "PageDown" || key === "PageUp")
				go(walk.step(cursor.row, key === "PageDown" ? walk.page : -walk.page), cursor.col, e.shiftKey);
			else if (key === "ArrowLeft" || key === "ArrowRight")
				go(cursor.row, cursor.col + (key === "ArrowRight" ? 1 : -1), e.shiftKey);
			else if (key === "Home" || key === "End") go(cursor.row, key === "Home" ? 0 : columns.length - 1, e.shiftKey);
			else if (key === "Enter") begin(null);
			else if (key === "Delete" || key === "Backspace") clear();
			else if (key === "Escape") leave();
			else if (key.length === 1 && !command && !e.altKey) begin(key);
			else return;
			e.preventDefault();
		},
		onCopy: (e) => {
			const text = typing === null ? chosenText() : null;
			if (text === null) return;
			e.clipboardData.setData("text/plain", text);
			e.preventDefault();
			saidCopied();
		},
		onPaste: (e) => {
			if (typing !== null) return;
			e.preventDefault();
			const read = readCells(e.clipboardData.getData("text/plain"));
			if (!read.ok) return showIssues(read.issues);
			const block = spread(read.value, size.rows, size.columns);
			const width = Math.max(...block.cells.map((line) => line.length));
			setAnchor({ row: box.top, col: box.left });
			setCursor({
				row: Math.min(box.top + block.cells.length, rows.total) - 1,
				col: Math.min(box.left + width, columns.length) - 1,
			});
			void lay(block, { row: box.top, col: box.left }, "Pasted");
		},
		copy: () => {
			const text = chosenText();
			if (text !== null && copyText(text)) saidCopied();
		},
		fillDown,
		clear,
		chosenIds: () => Array.from({ length: size.rows }, (_, i) => rows.at(box.top + i)?.id).filter((id) => id !== undefined),
	};
}

/** One copied cell fills everything that is chosen; one copied row or column fills as many as are. */
export function spread(block: CellBlock, rows: number, columns: number): CellBlock {
	const [first] = block.cells;
	if (first === undefined) return block;
	const width = first.length;
	const tall = block.cells.length === 1 && rows > 1 ? Array.from({ length: rows }, () => first) : block.cells;
	if (width > 1 || columns <= 1) return { ...block, cells: tall };
	return { ...block, cells: tall.map((line) => Array.from({ length: columns }, () => line[0] ?? "")) };
}
