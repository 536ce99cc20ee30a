import type { LibraryView, MaterialRow } from "@alvek/contract";
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
	type CellPlan,
	type CellWorld,
	cellOf,
	copiedText,
	filledBlock,
	mayEditRow,
	oneCell,
	planBlock,
	planFill,
	type Refusal,
	spread,
	together,
} from "./plan";
import { useSaving } from "./useSaving";

/** The element that takes the keyboard of the grid. */
export const ROWS_ID = "grid-rows";

/** Which cells of a row are chosen, and what is being typed in one. */
export type RowCells = {
	/** Columns from the first to the last, a stretch for each block. */
	readonly spans: readonly (readonly [from: number, to: number])[];
	/** The one that typing goes to; -1 when it is in another row. */
	readonly active: number;
};

/** A cell alone, the block up to it, or one more block beginning with it. */
export type Choosing = "only" | "extend" | "add";

type Walk = {
	readonly step: (row: number, by: number) => number | null;
	readonly page: number;
	readonly reveal: (row: number) => void;
};

export type Editing = {
	readonly active: boolean;
	readonly cursor: CellPlace | null;
	/** Rows and columns of the block of the cursor. */
	readonly size: { readonly rows: number; readonly columns: number };
	/** How many blocks are chosen, and how many cells stand in them. */
	readonly chosen: { readonly blocks: number; readonly cells: number };
	/** Materials changed since editing began. */
	readonly touched: ReadonlySet<string>;
	readonly refused: readonly Refusal[];
	readonly dismiss: () => void;
	readonly cellsOf: (row: number) => RowCells | null;
	readonly field: ReactNode;
	readonly choose: (cell: CellPlace, how: Choosing) => void;
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
	const blocks = useBlocks(rows.total, columns.length);
	const { cursor, box, boxes, size } = blocks;

	const { lay, put, clear, fillDown } = layingOn({ world, rows, saving, boxes });
	const typing = useTyping(world, rows, cursor, lay);
	const moveTo = (cell: CellPlace, how: Choosing): void => {
		blocks.choose(cell, how);
		typing.drop();
		if (cell.row !== cursor.row) onRow(cell.row);
	};
	const begin = (text: string | null): void => void typing.begin(text);
	const start = { row: box.top, col: box.left };
	const run = (command: CellCommand, walk: Walk): void => {
		const go = (row: number | null, col: number, extend = false): void => {
			if (row === null) return;
			moveTo({ row, col: Math.min(Math.max(col, 0), columns.length - 1) }, extend ? "extend" : "only");
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
			if (command.next === "everywhere") {
				const text = typing.readable();
				if (text === null) return;
				typing.drop();
				put(oneCell(text), "Filled");
			}
			// what cannot be read stays in its field
			if (!typing.take()) return;
			if (command.next === "below") go(walk.step(row, 1) ?? row, col);
			else if (command.next !== "everywhere") go(row, col + (command.next === "right" ? 1 : -1));
		}
		if (command.do === "take" || command.do === "drop") document.getElementById(ROWS_ID)?.focus();
	};
	const clipboard = useClipboard({ rows, columns, boxes, typing: typing.field !== null });

	return {
		active,
		cursor: active ? cursor : null,
		size,
		chosen: blocks.chosen,
		touched: saving.touched,
		refused: saving.refused,
		dismiss: saving.dismiss,
		cellsOf: (row) => (active ? rowCells(boxes, cursor, row) : null),
		field: typing.field,
		choose: (cell, how) => {
			if (typing.take()) moveTo(cell, how);
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
			if (boxes.length > 1) return put(block, "Pasted");
			blocks.cover(block);
			void lay(block, start, "Pasted");
		},
		copy: clipboard.copy,
		fillDown,
		clear,
		chosenIds: () => [
			...new Set(
				boxes.flatMap((b) => Array.from({ length: b.bottom - b.top + 1 }, (_, i) => rows.at(b.top + i)?.id ?? []).flat()),
			),
		],
	};
}

type Laying = {
	readonly world: CellWorld;
	readonly rows: Rows;
	readonly saving: ReturnType<typeof useSaving>;
	readonly boxes: readonly CellBox[];
};

/** Ways to put content into cells: from a place on, or into each of the blocks in one step. */
function layingOn({ world, rows, saving, boxes }: Laying) {
	const eachBlock = (of: (found: readonly MaterialRow[], box: CellBox) => CellPlan, what: string): Promise<boolean> =>
		saving.saveNext(async () => {
			const plans: CellPlan[] = [];
			for (const one of boxes) {
				const found = await rows.range(one.top, one.bottom - one.top + 1);
				if (found === null) return null;
				plans.push(of(found, one));
			}
			return together(plans);
		}, what);
	const put = (cell: CellBlock, what: string): void =>
		void eachBlock((found, one) => planBlock(world, found, filledBlock(one, cell), { row: one.top, col: one.left }), what);
	return {
		lay: (block: CellBlock, at: CellPlace, what: string): Promise<boolean> =>
			saving.saveNext(async () => {
				const found = await rows.range(at.row, block.cells.length);
				return found === null ? null : planBlock(world, found, block, at);
			}, what),
		put,
		clear: (): void => put(oneCell(""), "Cleared"),
		fillDown: (): void => void eachBlock((found, one) => planFill(world, found, one), "Filled down"),
	};
}

/** Blocks that are chosen: that of the cursor, which begins at its anchor, and those that were chosen before it. */
function useBlocks(rows: number, columns: number) {
	const [cursor, setCursor] = useState<CellPlace>({ row: 0, col: 0 });
	const [anchor, setAnchor] = useState<CellPlace>({ row: 0, col: 0 });
	const [others, setOthers] = useState<readonly CellBox[]>([]);
	const box = boxOf(cursor, anchor, rows, columns);
	const boxes = [...others, box];
	const sizeOf = (b: CellBox) => ({ rows: b.bottom - b.top + 1, columns: b.right - b.left + 1 });
	return {
		cursor,
		box,
		boxes,
		size: sizeOf(box),
		chosen: { blocks: boxes.length, cells: boxes.reduce((n, b) => n + sizeOf(b).rows * sizeOf(b).columns, 0) },
		choose: (cell: CellPlace, how: Choosing): void => {
			setCursor(cell);
			if (how === "add") setOthers(boxes);
			if (how === "only") setOthers([]);
			if (how !== "extend") setAnchor(cell);
		},
		/** What was pasted is chosen afterwards. */
		cover: (block: CellBlock): void => {
			const width = Math.max(...block.cells.map((line) => line.length));
			setAnchor({ row: box.top, col: box.left });
			setCursor({
				row: Math.min(box.top + block.cells.length, rows) - 1,
				col: Math.min(box.left + width, columns) - 1,
			});
		},
	};
}

function rowCells(boxes: readonly CellBox[], cursor: CellPlace, row: number): RowCells {
	const spans = boxes.flatMap((b) => (row >= b.top && row <= b.bottom ? [[b.left, b.right] as const] : []));
	return { spans, active: row === cursor.row ? cursor.col : -1 };
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
		if (edit.value !== null) void lay({ ...oneCell(now.text) }, cursor, column.spec.name);
		return true;
	};

	return {
		take,
		/** What was typed, where its cell can hold it; null leaves it in its field with the reason. */
		readable: (): string | null => {
			const now = typed.current;
			if (now === null || row === undefined || column === undefined) return null;
			const edit = cellEdit(row.document, cellOf(world, column), now.text);
			if (!edit.ok) set({ ...now, error: sentences(edit.issues) });
			return edit.ok ? now.text : null;
		},
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
function useClipboard(props: { rows: Rows; columns: readonly GridColumn[]; boxes: readonly CellBox[]; typing: boolean }) {
	const { rows, columns, boxes, typing } = props;
	const box = boxes.at(-1) as CellBox;
	const tall = boxes.reduce((n, b) => n + b.bottom - b.top + 1, 0);
	const size = { rows: boxes.length === 1 ? box.bottom - box.top + 1 : tall, columns: box.right - box.left + 1 };
	/** Only rows that have arrived; null where one has not. Blocks of the same columns go one below the other. */
	const chosenText = (): string | null => {
		if (boxes.some((b) => b.left !== box.left || b.right !== box.right)) {
			showToast({ tone: "plain", text: "These blocks stand in different columns; copy them one by one." });
			return null;
		}
		const down = [...boxes].sort((a, b) => a.top - b.top);
		const lines = down.flatMap((b) => Array.from({ length: b.bottom - b.top + 1 }, (_, i) => rows.at(b.top + i)));
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
			if (read.ok && boxes.length > 1 && (read.value.cells.length > 1 || (read.value.cells[0]?.length ?? 0) > 1)) {
				showToast({ tone: "plain", text: "Into several blocks goes one copied cell; for more, choose one block." });
				return null;
			}
			if (read.ok) return spread(read.value, size.rows, size.columns);
			showIssues(read.issues);
			return null;
		},
	};
}
