import type { LibraryView } from "@alvek/contract";
import { type CellBlock, cellEdit, cellText, firstValue, readCells } from "@alvek/core/material";
import { type ClipboardEvent, type KeyboardEvent, type ReactNode, useRef, useState } from "react";
import { sentences } from "../../../api/queries";
import { showIssues } from "../../../api/refusals";
import { showToast } from "../../../stores/toasts";
import { copyText } from "../../../ui/copy";
import type { GridColumn } from "../numbers";
import type { Rows } from "../useRows";
import { CellField } from "./CellField";
import { type CellCommand, typingCommand, walkingCommand } from "./keys";
import {
	boxOf,
	type CellBox,
	type CellPlace,
	type CellWorld,
	cellOf,
	copiedText,
	emptyBlock,
	mayEditRow,
	planBlock,
	planFill,
	type Refusal,
	spread,
} from "./plan";
import { useSaving } from "./useSaving";

/** The element that takes the keyboard of the grid. */
export const ROWS_ID = "grid-rows";

/** Which cells of a row are chosen, and what is being typed in one. */
export type RowCells = {
	readonly from: number;
	readonly to: number;
	/** The one that typing goes to; -1 when it is in another row. */
	readonly active: number;
};

type Walk = {
	readonly step: (row: number, by: number) => number | null;
	readonly page: number;
	readonly reveal: (row: number) => void;
};

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

type Props = {
	active: boolean;
	rows: Rows;
	columns: readonly GridColumn[];
	libraries: readonly LibraryView[];
	/** The row of the cell has the focus of the place too. */
	onRow: (row: number) => void;
	leave: () => void;
};

/** Cells of the grid as in a spreadsheet: what is typed, pasted or filled becomes drafts in one step that undoes in one. */
export function useEditing({ active, rows, columns, libraries, onRow, leave }: Props): Editing {
	const world: CellWorld = { columns, libraries };
	const saving = useSaving();
	const [cursor, setCursor] = useState<CellPlace>({ row: 0, col: 0 });
	const [anchor, setAnchor] = useState<CellPlace>({ row: 0, col: 0 });
	const box = boxOf(cursor, anchor, rows.total, columns.length);
	const size = { rows: box.bottom - box.top + 1, columns: box.right - box.left + 1 };

	/** A block laid on the cells from a place on. */
	const lay = (block: CellBlock, at: CellPlace, what: string): Promise<boolean> =>
		saving.saveNext(async () => {
			const found = await rows.range(at.row, block.cells.length);
			return found === null ? null : planBlock(world, found, block, at);
		}, what);
	const typing = useTyping(world, rows, cursor, lay);
	const moveTo = (cell: CellPlace, extend: boolean): void => {
		setCursor(cell);
		if (!extend) setAnchor(cell);
		typing.drop();
		if (cell.row !== cursor.row) onRow(cell.row);
	};
	const begin = (text: string | null): void => {
		if (typing.begin(text)) setAnchor(cursor);
	};
	const start = { row: box.top, col: box.left };
	const clear = (): void => void lay(emptyBlock(box), start, "Cleared");
	const fillDown = (): void =>
		void saving.saveNext(async () => {
			const found = await rows.range(box.top, size.rows);
			return found === null ? null : planFill(world, found, box);
		}, "Filled down");
	const run = (command: CellCommand, walk: Walk): void => {
		const go = (row: number | null, col: number, extend = false): void => {
			if (row === null) return;
			moveTo({ row, col: Math.min(Math.max(col, 0), columns.length - 1) }, extend);
			walk.reveal(row);
		};
		const { row, col } = cursor;
		if (command.do === "rows") go(walk.step(row, command.by), col, command.extend);
		else if (command.do === "columns") go(row, col + command.by, command.extend);
		else if (command.do === "edge") go(row, command.end === "first" ? 0 : columns.length - 1, command.extend);
		else if (command.do === "begin") begin(command.text);
		else if (command.do === "fill") fillDown();
		else if (command.do === "clear") clear();
		else if (command.do === "leave") leave();
		else if (command.do === "drop") typing.drop();
		else if (command.do === "take") {
			// what cannot be read stays in its field
			if (!typing.take()) return;
			if (command.next === "below") go(walk.step(row, 1) ?? row, col);
			else go(row, col + (command.next === "right" ? 1 : -1));
		}
		if (command.do === "take" || command.do === "drop") document.getElementById(ROWS_ID)?.focus();
	};
	const clipboard = useClipboard({ rows, columns, box, typing: typing.field !== null });

	return {
		active,
		cursor: active ? cursor : null,
		size,
		touched: saving.touched,
		refused: saving.refused,
		dismiss: saving.dismiss,
		cellsOf: (row) => (active ? rowCells(box, cursor, row) : null),
		field: typing.field,
		choose: (cell, extend) => {
			if (typing.take()) moveTo(cell, extend);
		},
		begin,
		onKeyDown: (e, walk) => {
			const command = typing.field === null ? walkingCommand(e, walk.page) : typingCommand(e);
			if (command === null) return;
			e.preventDefault();
			run(command, walk);
		},
		onCopy: clipboard.onCopy,
		onPaste: (e) => {
			const block = clipboard.pasted(e);
			if (block === null) return;
			const width = Math.max(...block.cells.map((line) => line.length));
			setAnchor(start);
			setCursor({
				row: Math.min(box.top + block.cells.length, rows.total) - 1,
				col: Math.min(box.left + width, columns.length) - 1,
			});
			void lay(block, start, "Pasted");
		},
		copy: clipboard.copy,
		fillDown,
		clear,
		chosenIds: () => Array.from({ length: size.rows }, (_, i) => rows.at(box.top + i)?.id).filter((id) => id !== undefined),
	};
}

function rowCells(box: CellBox, cursor: CellPlace, row: number): RowCells {
	const inBox = row >= box.top && row <= box.bottom;
	const here = row === cursor.row ? cursor.col : -1;
	return inBox ? { from: box.left, to: box.right, active: here } : { from: 0, to: -1, active: here };
}

type Lay = (block: CellBlock, at: CellPlace, what: string) => Promise<boolean>;

/** The text in the cell of the cursor, from the first key to what becomes of it. */
function useTyping(world: CellWorld, rows: Rows, cursor: CellPlace, lay: Lay) {
	const [typing, show] = useState<{ readonly text: string; readonly error: string | null } | null>(null);
	/** What is typed as of now: leaving the field follows a commit before the next render. */
	const typed = useRef(typing);
	const set = (next: typeof typing): void => {
		typed.current = next;
		show(next);
	};
	const row = rows.at(cursor.row);
	const column = world.columns[cursor.col];

	/** Takes what was typed; a text that cannot be read stays in its field with the reason. */
	const take = (): boolean => {
		const now = typed.current;
		if (now === null || row === undefined || column === undefined) return true;
		const edit = cellEdit(row.document, cellOf(world, column), now.text);
		if (!edit.ok) {
			set({ ...now, error: sentences(edit.issues) });
			return false;
		}
		set(null);
		if (edit.value !== null) void lay({ cells: [[now.text]], units: [], mark: undefined }, cursor, column.spec.name);
		return true;
	};

	return {
		take,
		drop: () => set(null),
		/** @returns whether typing has begun */
		begin(text: string | null): boolean {
			if (row === undefined || column === undefined) return false;
			if (!mayEditRow(world, row)) {
				showIssues([{ code: "read-only" }]);
				return false;
			}
			const value = firstValue(row.document, column.id);
			set({ text: text ?? (value === null ? "" : cellText(value, column.unit)), error: null });
			return true;
		},
		field:
			typing === null ? null : (
				<CellField
					text={typing.text}
					error={typing.error}
					label={`${column?.spec.name} of ${row?.name}`}
					onChange={(text) => set({ text, error: null })}
					onLeave={take}
				/>
			),
	};
}

/** Chosen cells out of the grid and into it; while something is typed the clipboard is the field's. */
function useClipboard(props: { rows: Rows; columns: readonly GridColumn[]; box: CellBox; typing: boolean }) {
	const { rows, columns, box, typing } = props;
	const size = { rows: box.bottom - box.top + 1, columns: box.right - box.left + 1 };
	/** Only rows that have arrived; null where one has not. */
	const chosenText = (): string | null => {
		const lines = Array.from({ length: size.rows }, (_, i) => rows.at(box.top + i));
		const here = lines.filter((row) => row !== undefined);
		return here.length < lines.length ? null : copiedText(here, columns.slice(box.left, box.right + 1));
	};
	const sayCopied = (): void =>
		showToast({ tone: "plain", text: `${size.rows} × ${size.columns} cells are in the clipboard, units in the first row.` });
	return {
		copy: () => {
			const text = chosenText();
			if (text !== null && copyText(text)) sayCopied();
		},
		onCopy: (e: ClipboardEvent): void => {
			const text = typing ? null : chosenText();
			if (text === null) return;
			e.clipboardData.setData("text/plain", text);
			e.preventDefault();
			sayCopied();
		},
		/** The block that is pasted, as large as what is chosen; null when there is none, which was said. */
		pasted: (e: ClipboardEvent): CellBlock | null => {
			if (typing) return null;
			e.preventDefault();
			const read = readCells(e.clipboardData.getData("text/plain"));
			if (read.ok) return spread(read.value, size.rows, size.columns);
			showIssues(read.issues);
			return null;
		},
	};
}
