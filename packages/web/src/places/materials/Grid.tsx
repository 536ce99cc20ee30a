import { useDroppable } from "@dnd-kit/core";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ChevronDown, ChevronRight } from "lucide-react";
import {
	type ClipboardEvent,
	type CSSProperties,
	type KeyboardEvent,
	type RefObject,
	useCallback,
	useEffect,
	useMemo,
	useRef,
	useState,
} from "react";
import { useNavigate } from "react-router";
import { showToast } from "../../stores/toasts";
import { useTray } from "../../stores/tray";
import { type Editing, ROWS_ID } from "./cells/useEditing";
import { sayCopied, tableText } from "./copyTable";
import { GridHeader } from "./GridHeader";
import { GridRow, WaitingRow } from "./GridRow";
import type { Marking } from "./many/useMarking";
import type { GridColumn } from "./numbers";
import { type Item, type Lines, linesOf } from "./segments";
import { orderStar, star } from "./starOrder";
import { trayItem } from "./trayItem";
import type { Rows } from "./useRows";
import type { ChangeView, GridView } from "./view";
import type { WordColumn } from "./wordColumns";
import { switchWorking } from "./working";

const ROW_HEIGHT = 34;
const GROUP_HEIGHT = 30;

type Props = {
	rows: Rows;
	words: readonly WordColumn[];
	columns: readonly GridColumn[];
	view: GridView;
	change: ChangeView;
	/** Where the row in focus stands. */
	focused: number;
	onFocus: (index: number) => void;
	editing: Editing;
	marking: Marking;
	/** Libraries that this person keeps. */
	mine: ReadonlySet<string>;
};

/** Virtualised rows under group headings; arrows walk, Enter opens, T puts into the tray, S stars. */
export function Grid(props: Props) {
	const { rows, words, columns, view, change, editing } = props;
	const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
	const lines = useMemo(() => linesOf(rows.groups, rows.total, closed), [rows.groups, rows.total, closed]);
	const scroller = useRef<HTMLDivElement>(null);
	const virtual = useVirtualLines(rows, lines, scroller);
	const onKeyDown = useKeys(props, lines, {
		page: Math.max(1, Math.floor((scroller.current?.clientHeight ?? 0) / ROW_HEIGHT) - 1),
		reveal: (row) => virtual.scrollToIndex(lines.lineOf(row)),
	});
	const onCopy = useRowsCopy(props);
	const pick = useCellPicking(editing);
	// rows are drawn anew only when they change, so what they hold must not grow old
	const latest = useRef(rows);
	latest.current = rows;
	const drop = useCallback((id: string, to: number) => void orderStar(latest.current, latest.current.indexOf(id), to), []);
	// beyond what fits, the grid scrolls sideways inside itself rather than squeezing names away
	const minWidth = 26 + 210 + 74 + [...words, ...columns].reduce((sum, c) => sum + c.width, 0) + 24;
	const template = `26px minmax(0,1fr) 74px ${[...words, ...columns].map((c) => `${c.width}px`).join(" ")}`;
	return (
		<div className="flex-1 min-h-0 overflow-x-auto overflow-y-hidden flex">
			<div
				role="grid"
				aria-label="Materials"
				aria-rowcount={rows.total}
				className="flex-1 min-h-0 flex flex-col"
				style={{ minWidth }}
				aria-colcount={words.length + columns.length + 3}
				aria-multiselectable
			>
				<GridHeader
					view={view}
					change={change}
					words={words}
					columns={columns}
					template={template}
					onResize={(id, width) => change({ columns: view.columns.map((c) => (c.id === id ? { ...c, width } : c)) })}
				/>
				<div
					ref={scroller}
					id={ROWS_ID}
					data-content
					role="rowgroup"
					// the scroller takes the keyboard: one stop of Tab, then arrows
					// biome-ignore lint/a11y/noNoninteractiveTabindex: it holds the grid's roving focus
					tabIndex={0}
					aria-label={editing.active ? CELL_KEYS : ROW_KEYS}
					className="flex-1 min-h-0 overflow-y-auto -outline-offset-2"
					onKeyDown={onKeyDown}
					onCopy={editing.active ? editing.onCopy : onCopy}
					{...pick}
				>
					<div style={{ height: virtual.getTotalSize(), position: "relative" }} role="presentation">
						{virtual.getVirtualItems().map((v) => (
							<Line
								{...props}
								// of those in sight alone: the virtualiser would ask it of all rows
								key={keyOf(rows, lines.at(v.index))}
								item={lines.at(v.index)}
								start={v.start}
								height={v.size}
								template={template}
								drop={drop}
								closed={closed}
								onToggle={(path) => setClosed(toggled(closed, path))}
							/>
						))}
					</div>
				</div>
			</div>
		</div>
	);
}

const CELL_KEYS = "Cells: arrows walk, Shift extends, typing overwrites, Enter edits, Delete clears, Escape leaves";
const ROW_KEYS =
	"Rows: arrows walk, Enter opens the sheet, Space marks, Ctrl+A marks all, Shift with arrows marks many, T puts into the tray, S stars, W puts on the working list";

/** The lines in sight; rows that come into sight are fetched. */
function useVirtualLines(rows: Rows, lines: Lines, scroller: RefObject<HTMLDivElement | null>) {
	const virtual = useVirtualizer({
		count: lines.count,
		getScrollElement: () => scroller.current,
		estimateSize: (i) => (lines.at(i).kind === "group" ? GROUP_HEIGHT : ROW_HEIGHT),
		overscan: 12,
	});
	// a heading that folds, or another order, moves everything below it
	// biome-ignore lint/correctness/useExhaustiveDependencies: the sizes follow the lines
	useEffect(() => virtual.measure(), [lines]);
	const shown = virtual
		.getVirtualItems()
		.map((v) => lines.at(v.index))
		.flatMap((i) => (i.kind === "row" ? [i.index] : []));
	const [first, last] = [shown[0] ?? 0, shown.at(-1) ?? 0];
	const { show } = rows;
	useEffect(() => {
		// a fast drag along the scroll bar passes thousands of rows that nobody will see
		const timer = setTimeout(() => show(first, last), 60);
		return () => clearTimeout(timer);
	}, [show, first, last]);
	return virtual;
}

function keyOf(rows: Rows, item: Item): string {
	if (item.kind === "group") return `g${item.path}`;
	return rows.at(item.index)?.id ?? `w${item.index}`;
}

/** Keys of rows; while cells are edited all of them are the cells'. */
function useKeys(props: Props, lines: Lines, sight: { page: number; reveal: (row: number) => void }) {
	const { rows, view, focused, onFocus, editing, marking } = props;
	const navigate = useNavigate();
	const walk = (by: number, marks: boolean): void => {
		const to = lines.step(focused, by);
		if (to === null) return;
		if (marks) {
			marking.extend(focused);
			marking.extend(to);
		}
		onFocus(to);
		sight.reveal(to);
	};
	const reorder = async (to: number): Promise<void> => {
		if (await orderStar(rows, focused, to)) onFocus(to);
	};
	const steps: Readonly<Record<string, number>> = {
		ArrowDown: 1,
		ArrowUp: -1,
		PageDown: sight.page,
		PageUp: -sight.page,
		Home: -rows.total,
		End: rows.total,
	};
	return (e: KeyboardEvent): void => {
		if (editing.active) return editing.onKeyDown(e, { step: lines.step, ...sight });
		const row = rows.at(focused);
		const step = steps[e.key];
		const plain = !e.ctrlKey && !e.metaKey && !e.altKey;
		// after a click the row itself has the focus; a button in it keeps its keys
		const onRow = (e.target as HTMLElement).closest("button, a, input, select") === null;
		if (view.sort === "star" && e.altKey && Math.abs(step ?? 0) === 1) void reorder(focused + (step as 1 | -1));
		else if (step !== undefined) walk(step, e.shiftKey);
		else if (e.key === " " && onRow) marking.toggle(focused);
		else if (e.key === "Escape" && marking.ids.size > 0) marking.clear();
		else if (e.key === "a" && (e.ctrlKey || e.metaKey)) void marking.all();
		else if (e.key === "Enter" && row && onRow) void navigate(`/materials/${row.id}`);
		else if (e.key === "t" && row && plain) useTray.getState().add(trayItem(row));
		else if (e.key === "s" && row && plain) void star(row);
		else if (e.key === "w" && row && plain) void switchWorking(row);
		else return;
		e.preventDefault();
	};
}

/** Ctrl+C takes the marked rows, or the one in focus, as they are shown; selected text stays what is copied. */
function useRowsCopy({ rows, words, columns, focused, marking }: Props) {
	return (e: ClipboardEvent): void => {
		if (document.getSelection()?.isCollapsed === false) return;
		const places = marking.ids.size === 0 ? [focused] : [...marking.ids].map(rows.indexOf).sort((a, b) => a - b);
		const here = places.flatMap((place) => rows.at(place) ?? []);
		e.preventDefault();
		if (here.length < places.length)
			return showToast({ tone: "plain", text: "Some of the marked rows are not loaded here; the bar below copies them all." });
		e.clipboardData.setData("text/plain", tableText(here, words, columns));
		sayCopied(here.length);
	};
}

type LineProps = Props & {
	/** Gives a starred row, by its id, the place of another. */
	drop: (id: string, to: number) => void;
	item: Item;
	/** Pixels from the first line, and of this one. */
	start: number;
	height: number;
	template: string;
	closed: ReadonlySet<string>;
	onToggle: (path: string) => void;
};

/** A heading, a row, or a row that is on its way. */
function Line(props: LineProps) {
	const {
		drop,
		item,
		start,
		height,
		template,
		closed,
		onToggle,
		rows,
		view,
		words,
		columns,
		focused,
		onFocus,
		editing,
		marking,
		mine,
	} = props;
	const navigate = useNavigate();
	if (item.kind === "group") {
		return (
			<GroupRow
				// drag and drop measures without transforms
				place={{ position: "absolute", top: start, left: 0, right: 0, height }}
				item={item}
				closed={closed.has(item.path)}
				onToggle={() => onToggle(item.path)}
			/>
		);
	}
	const { index } = item;
	const row = rows.at(index);
	// where a row can be let go drag and drop measures it, which it does without transforms
	const ordered = view.sort === "star";
	const place = ordered ? { position: "absolute" as const, top: start, left: 0, right: 0, height } : placed(start, height);
	if (row === undefined) return <WaitingRow place={place} index={index} />;
	const cells = editing.cellsOf(index);
	const field = cells !== null && editing.cursor?.row === index ? editing.field : null;
	return (
		<GridRow
			row={row}
			index={index}
			// why a text was not taken hangs below its cell, over the rows that follow
			place={field === null ? place : { ...place, zIndex: 1 }}
			template={template}
			words={words}
			columns={columns}
			focused={!editing.active && index === focused}
			cells={cells}
			field={field}
			drop={ordered ? drop : null}
			marked={marking.ids.has(row.id)}
			marks={marking.ids}
			mine={mine}
			onFocus={(e) => {
				if (editing.active) return;
				if (e.shiftKey) marking.extend(index);
				else if (e.ctrlKey || e.metaKey) marking.toggle(index);
				onFocus(index);
			}}
			onOpen={() => navigate(`/materials/${row.id}`)}
			onStar={() => void star(row)}
		/>
	);
}

/** Pointer on cells: a press chooses, a drag or Shift extends, two clicks edit. */
function useCellPicking(editing: Editing) {
	const dragging = useRef(false);
	const cellAt = (target: EventTarget): { row: number; col: number } | null => {
		const cell = (target as HTMLElement).closest<HTMLElement>("[data-cell]");
		const row = cell?.closest<HTMLElement>("[data-index]");
		return cell && row ? { row: Number(row.dataset.index), col: Number(cell.dataset.cell) } : null;
	};
	if (!editing.active) return {};
	return {
		onPointerDown: (e: React.PointerEvent) => {
			const cell = cellAt(e.target);
			if (cell === null || (e.target as HTMLElement).tagName === "INPUT") return;
			dragging.current = true;
			editing.choose(cell, e.shiftKey ? "extend" : e.ctrlKey || e.metaKey ? "add" : "only");
		},
		onPointerMove: (e: React.PointerEvent) => {
			const cell = dragging.current && e.buttons === 1 ? cellAt(e.target) : null;
			if (cell !== null) editing.choose(cell, "extend");
		},
		onPointerUp: () => {
			// the row took the focus; keys, copies and pastes arrive at the rows as a whole
			if (dragging.current) document.getElementById(ROWS_ID)?.focus();
			dragging.current = false;
		},
		onDoubleClick: (e: React.MouseEvent) => {
			const cell = cellAt(e.target);
			if (cell !== null) editing.begin(null);
		},
		onCopy: editing.onCopy,
		onPaste: editing.onPaste,
	};
}

function placed(start: number, height: number): CSSProperties {
	return { position: "absolute", top: 0, left: 0, right: 0, height, transform: `translateY(${start}px)` };
}

function toggled(set: ReadonlySet<string>, key: string): ReadonlySet<string> {
	const next = new Set(set);
	if (!next.delete(key)) next.add(key);
	return next;
}

function GroupRow({
	place,
	item,
	closed,
	onToggle,
}: {
	place: CSSProperties;
	item: Extract<Item, { kind: "group" }>;
	closed: boolean;
	onToggle: () => void;
}) {
	const Icon = closed ? ChevronRight : ChevronDown;
	// rows that are let go here move into this group of their own library
	const { setNodeRef, isOver } = useDroppable({ id: `group:${item.path}` });
	return (
		<div
			ref={setNodeRef}
			role="row"
			tabIndex={-1}
			style={place}
			className={`border-b border-line ${isOver ? "bg-accent-soft outline-2 -outline-offset-2 outline-primary" : "bg-paper"}`}
		>
			<div role="gridcell" className="h-full">
				<button
					type="button"
					aria-expanded={!closed}
					onClick={onToggle}
					className="h-full w-full flex items-center gap-2 pl-4 text-left"
				>
					<Icon size={14} aria-hidden className="text-ink3" />
					<span className="font-bold">{item.path === "" ? "Not in a group" : item.path}</span>
					<span className="caption">{item.count}</span>
				</button>
			</div>
		</div>
	);
}
