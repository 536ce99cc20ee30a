import type { MaterialRow } from "@alvek/contract";
import { firstValue, type SeriesValue, temperatureTable, workingOf } from "@alvek/core/material";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import { Star } from "lucide-react";
import { type CSSProperties, type MouseEvent, memo, type PointerEventHandler, type ReactNode } from "react";
import { useUnitSet } from "../../stores/preferences";
import { ReadinessBar, Swatch } from "../../ui/marks";
import { allUnits, EvidenceLetter, numberIn, unitFor, valueIn } from "../../ui/Quantity";
import type { RowCells } from "./cells/useEditing";
import { type GridColumn, padding } from "./numbers";
import { trayItem } from "./trayItem";
import { type WordColumn, wordIn } from "./wordColumns";

type Props = {
	row: MaterialRow;
	index: number;
	place: CSSProperties;
	template: string;
	words: readonly WordColumn[];
	columns: readonly GridColumn[];
	focused: boolean;
	/** Only while cells are edited. */
	cells: RowCells | null;
	/** The field of the cell that is typed in. */
	field: ReactNode;
	/** Marked to be acted on with others. */
	marked: boolean;
	marks: ReadonlySet<string>;
	/** Libraries that this person keeps. */
	mine: ReadonlySet<string>;
	onFocus: (e: MouseEvent) => void;
	onOpen: () => void;
	onStar: () => void;
	/** Where rows have an order of one's own: takes the row that is let go here, by its id. */
	drop: ((id: string, to: number) => void) | null;
};

export const GridRow = memo(
	function GridRow({
		row,
		index,
		place,
		template,
		words,
		columns,
		focused,
		cells,
		field,
		marked,
		marks,
		mine,
		onFocus,
		onOpen,
		onStar,
		drop,
	}: Props) {
		const state = row.draftId === null ? "" : row.revision === 0 ? " · draft, unpublished" : " · draft";
		// a marked row takes all marked ones along
		const { setNodeRef, listeners } = useDraggable({
			id: `row:${row.id}`,
			data: { item: trayItem(row), rows: marked ? [...marks] : [row.id] },
			disabled: cells !== null,
		});
		const here = useDroppable({
			id: `place:${row.id}`,
			data: { take: (item: { readonly id: string }) => drop?.(item.id, index) },
			disabled: drop === null,
		});
		return (
			<div
				ref={(element) => {
					setNodeRef(element);
					here.setNodeRef(element);
				}}
				onPointerDown={listeners?.onPointerDown as PointerEventHandler | undefined}
				role="row"
				tabIndex={-1}
				id={`row-${row.id}`}
				data-index={index}
				aria-rowindex={index + 1}
				aria-selected={focused || marked}
				style={{ ...place, gridTemplateColumns: template }}
				className={`grid items-center border-b border-line2 pl-2.5 pr-3.5 cursor-default outline-none! ${here.isOver ? "outline-2! -outline-offset-2 outline-primary" : ""} ${focused ? "bg-accent-soft shadow-[inset_3px_0_0_var(--color-primary)]" : marked ? "bg-accent-soft" : "hover:bg-paper"}`}
				onClick={onFocus}
				onDoubleClick={cells === null ? onOpen : undefined}
				onKeyDown={undefined}
			>
				<div role="gridcell">
					<button
						type="button"
						tabIndex={-1}
						aria-pressed={row.starred}
						aria-label={row.starred ? `Remove the star of ${row.name}` : `Star ${row.name}`}
						className={`w-6.5 h-7.5 flex items-center justify-center ${row.starred ? "text-doubt" : "text-line hover:text-ink3"}`}
						onClick={(e) => {
							e.stopPropagation();
							onStar();
						}}
					>
						<Star size={14} aria-hidden fill={row.starred ? "currentColor" : "none"} />
					</button>
				</div>
				<div role="gridcell" className="flex items-center gap-2 min-w-0 pr-2">
					<Swatch colour={row.document.colour} />
					<a
						href={`/materials/${row.id}`}
						tabIndex={-1}
						title={row.name}
						className="font-semibold truncate hover:underline underline-offset-3 decoration-line"
						onClick={(e) => {
							if (e.metaKey || e.ctrlKey) return;
							e.preventDefault();
							e.stopPropagation();
							onOpen();
						}}
					>
						{row.name}
					</a>
					<span className="caption truncate shrink-[60] min-w-0">
						{row.supplied ? (
							"supplied"
						) : mine.has(row.libraryId) ? (
							<b className="text-primary" title="in a library that you keep">
								{row.library}
							</b>
						) : (
							row.library
						)}
						{row.working && " · working"}
						{row.retired !== null && <span className="text-doubt"> · retired</span>}
						{marked && <span className="sr-only">, marked</span>}
						<span className="text-note">{state}</span>
					</span>
				</div>
				<div role="gridcell">
					<ReadinessBar readiness={row.readiness} />
				</div>
				{words.map(({ id }) => (
					<div key={id} role="gridcell" className="truncate pr-2" title={wordIn(row, id)}>
						{wordIn(row, id)}
					</div>
				))}
				{columns.map((column, c) => {
					const chosen = cells?.spans.some(([from, to]) => c >= from && c <= to) === true;
					const active = cells !== null && c === cells.active;
					return (
						<div
							key={column.id}
							role="gridcell"
							data-cell={c}
							aria-selected={cells === null ? undefined : chosen}
							className={`h-full flex items-center justify-end min-w-0 ${chosen ? "bg-accent-soft" : ""} ${active ? "outline-2 outline-primary -outline-offset-2 bg-card" : ""}`}
						>
							{active && field !== null ? field : <NumberCell row={row} column={column} />}
						</div>
					);
				})}
			</div>
		);
	},
	(a, b) =>
		a.row === b.row &&
		a.index === b.index &&
		a.focused === b.focused &&
		a.marked === b.marked &&
		(!a.marked || a.marks === b.marks) &&
		a.template === b.template &&
		a.mine === b.mine &&
		a.words === b.words &&
		a.columns === b.columns &&
		a.field === b.field &&
		String(a.cells?.spans) === String(b.cells?.spans) &&
		a.cells?.active === b.cells?.active &&
		a.place.transform === b.place.transform &&
		a.place.top === b.place.top &&
		(a.drop === null) === (b.drop === null),
);

/** Where a row is still on its way. */
export function WaitingRow({ place, index }: { place: CSSProperties; index: number }) {
	return (
		<div
			role="row"
			tabIndex={-1}
			data-index={index}
			aria-rowindex={index + 1}
			style={place}
			className="border-b border-line2 flex items-center pl-12"
		>
			<div role="gridcell" className="h-2 w-32.5 rounded-sm bg-sunk">
				<span className="sr-only">on its way</span>
			</div>
		</div>
	);
}

/** A table over temperature shows its number at 20 °C, and that it is one. */
function TableCell({ table, row, column }: { table: SeriesValue; row: MaterialRow; column: GridColumn }) {
	const working = workingOf(row.document, column.id);
	const text = working === null ? "table" : numberIn(working, column.unit);
	return (
		<div className="text-right whitespace-nowrap pr-1" title={`over temperature: ${allUnits(table)}`}>
			<span className={`text-ink2 ${table.carried ? "carried" : ""}`}>{text}</span>
			{working !== null && <span className="caption"> T</span>}
			<span className="sr-only">, over temperature</span>
			<EvidenceLetter value={table} />
			<span aria-hidden style={{ paddingRight: `${padding(text, column)}ch` }} />
		</div>
	);
}

function NumberCell({ row, column }: { row: MaterialRow; column: GridColumn }) {
	const unitSet = useUnitSet();
	const value = firstValue(row.document, column.id);
	const table = value === null ? temperatureTable(row.document, column.id) : null;
	if (table !== null) return <TableCell table={table} row={row} column={column} />;
	if (value === null) {
		return (
			<div className="text-right pr-5 text-ink3">
				<span aria-hidden>·</span>
				<span className="sr-only">blank</span>
			</div>
		);
	}
	const text = valueIn(value, column.unit);
	const scale = column.spec.scales === true ? ` ${unitFor(value, unitSet)}` : "";
	return (
		<div
			className="text-right whitespace-nowrap pr-1 overflow-hidden"
			title={allUnits(value) + (value.carried ? `\ncarried over from ${value.carried.name}` : "")}
		>
			<span className={value.carried ? "carried" : ""}>
				{text}
				{scale && <span className="caption">{scale}</span>}
			</span>
			{value.carried && <span className="sr-only">carried over</span>}
			<EvidenceLetter value={value} />
			<span aria-hidden style={{ paddingRight: `${padding(text, column)}ch` }} />
		</div>
	);
}
