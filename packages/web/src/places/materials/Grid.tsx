import type { MaterialRow } from "@alvek/contract";
import { property } from "@alvek/core/property";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowDown, ArrowUp, ChevronDown, ChevronRight } from "lucide-react";
import { useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { useUnitSet } from "../../stores/preferences";
import { useTray } from "../../stores/tray";
import { SymbolText, UnitText } from "../../ui/Quantity";
import { GridRow } from "./GridRow";
import { columnFormats } from "./numbers";
import type { GridView, useGridView } from "./view";

type Item =
	| { readonly kind: "group"; readonly path: string; readonly count: number }
	| { readonly kind: "row"; readonly row: MaterialRow };

const ROW_HEIGHT = 34;
const GROUP_HEIGHT = 30;
export const COLUMN_WIDTH = 96;

/** Virtualised rows under group headings; arrows walk, Enter opens, T puts into the tray. */
export function Grid(props: {
	rows: readonly MaterialRow[];
	view: GridView;
	change: ReturnType<typeof useGridView>[1];
	focused: string | null;
}) {
	const { rows, view, change, focused } = props;
	const navigate = useNavigate();
	const unitSet = useUnitSet();
	const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
	const items = useMemo(() => itemsOf(rows, view.sort === "group", closed), [rows, view.sort, closed]);
	const formats = useMemo(() => columnFormats(rows, view.columns, unitSet), [rows, view.columns, unitSet]);
	const scroller = useRef<HTMLDivElement>(null);
	const virtual = useVirtualizer({
		count: items.length,
		getScrollElement: () => scroller.current,
		estimateSize: (i) => (items[i]?.kind === "group" ? GROUP_HEIGHT : ROW_HEIGHT),
		overscan: 12,
	});
	// beyond what fits, the grid scrolls sideways inside itself rather than squeezing names away
	const minWidth = 210 + 74 + view.columns.length * COLUMN_WIDTH + 30;
	const template = `minmax(0,1fr) 74px repeat(${view.columns.length}, ${COLUMN_WIDTH}px)`;

	const walk = (by: number): void => {
		const at = items.findIndex((i) => i.kind === "row" && i.row.id === focused);
		for (let n = at + by; n >= 0 && n < items.length; n += by) {
			const item = items[n];
			if (item?.kind !== "row") continue;
			change({ row: item.row.id });
			virtual.scrollToIndex(n);
			return;
		}
	};
	const onKeyDown = (e: React.KeyboardEvent): void => {
		const row = rows.find((r) => r.id === focused);
		if (e.key === "ArrowDown" || e.key === "ArrowUp") walk(e.key === "ArrowDown" ? 1 : -1);
		else if (e.key === "Enter" && row && e.target === e.currentTarget) navigate(`/materials/${row.id}`);
		else if (e.key === "t" && row && !e.ctrlKey && !e.metaKey) useTray.getState().add(trayItem(row));
		else return;
		e.preventDefault();
	};

	return (
		<div className="flex-1 min-h-0 overflow-x-auto overflow-y-hidden flex">
			<div
				role="grid"
				aria-label="Materials"
				aria-rowcount={rows.length}
				className="flex-1 min-h-0 flex flex-col"
				style={{ minWidth }}
				aria-colcount={view.columns.length + 2}
			>
				<div role="rowgroup">
					<div
						role="row"
						tabIndex={-1}
						className="grid items-end border-y border-line h-[40px] pl-[16px] pr-[14px] pb-[5px]"
						style={{ gridTemplateColumns: template }}
					>
						<HeaderCell id="name" view={view} change={change} extra={<ChangedToggle view={view} change={change} />}>
							Name
						</HeaderCell>
						<div role="columnheader" className="text-[12px] font-semibold">
							Ready
						</div>
						{view.columns.map((id) => (
							<HeaderCell key={id} id={id} view={view} change={change} right>
								<ColumnTitle id={id} unit={formats.get(id)?.unit ?? ""} />
							</HeaderCell>
						))}
					</div>
				</div>
				<div
					ref={scroller}
					role="rowgroup"
					// the scroller takes the keyboard: one stop of Tab, then arrows
					// biome-ignore lint/a11y/noNoninteractiveTabindex: it holds the grid's roving focus
					tabIndex={0}
					aria-label="Rows: arrows walk, Enter opens the sheet, T puts into the tray"
					className="flex-1 min-h-0 overflow-y-auto -outline-offset-2"
					onKeyDown={onKeyDown}
				>
					<div style={{ height: virtual.getTotalSize(), position: "relative" }} role="presentation">
						{virtual.getVirtualItems().map((v) => {
							const item = items[v.index] as Item;
							const place = {
								position: "absolute",
								top: 0,
								left: 0,
								right: 0,
								height: v.size,
								transform: `translateY(${v.start}px)`,
							} as const;
							if (item.kind === "group") {
								return (
									<GroupRow
										key={`g${item.path}`}
										place={place}
										item={item}
										closed={closed.has(item.path)}
										onToggle={() => setClosed(toggled(closed, item.path))}
									/>
								);
							}
							return (
								<GridRow
									key={item.row.id}
									row={item.row}
									place={place}
									template={template}
									columns={view.columns}
									formats={formats}
									focused={item.row.id === focused}
									onFocus={() => change({ row: item.row.id })}
									onOpen={() => navigate(`/materials/${item.row.id}`)}
								/>
							);
						})}
					</div>
				</div>
			</div>
		</div>
	);
}

export function trayItem(row: MaterialRow) {
	return { id: row.id, name: row.name, colour: row.document.colour, revision: row.revision, draft: row.draftId !== null };
}

function toggled(set: ReadonlySet<string>, key: string): ReadonlySet<string> {
	const next = new Set(set);
	if (!next.delete(key)) next.add(key);
	return next;
}

function itemsOf(rows: readonly MaterialRow[], grouped: boolean, closed: ReadonlySet<string>): readonly Item[] {
	if (!grouped) return rows.map((row) => ({ kind: "row", row }));
	const counts = new Map<string, number>();
	for (const row of rows) counts.set(row.group, (counts.get(row.group) ?? 0) + 1);
	const items: Item[] = [];
	let last: string | null = null;
	for (const row of rows) {
		if (row.group !== last) {
			last = row.group;
			items.push({ kind: "group", path: row.group, count: counts.get(row.group) ?? 0 });
		}
		if (!closed.has(row.group)) items.push({ kind: "row", row });
	}
	return items;
}

function GroupRow({
	place,
	item,
	closed,
	onToggle,
}: {
	place: React.CSSProperties;
	item: Extract<Item, { kind: "group" }>;
	closed: boolean;
	onToggle: () => void;
}) {
	const Icon = closed ? ChevronRight : ChevronDown;
	return (
		<div role="row" tabIndex={-1} style={place} className="bg-paper border-b border-line">
			<div role="gridcell" className="h-full">
				<button
					type="button"
					aria-expanded={!closed}
					onClick={onToggle}
					className="h-full w-full flex items-center gap-[8px] pl-[16px] text-left"
				>
					<Icon size={14} aria-hidden className="text-ink3" />
					<span className="font-bold">{item.path === "" ? "Not in a group" : item.path}</span>
					<span className="caption">{item.count}</span>
				</button>
			</div>
		</div>
	);
}

type HeaderProps = {
	id: string;
	view: GridView;
	change: ReturnType<typeof useGridView>[1];
	right?: boolean;
	children: React.ReactNode;
	extra?: React.ReactNode;
};

function HeaderCell({ id, view, change, right = false, children, extra }: HeaderProps) {
	const active = view.sort === id;
	const next = !active
		? { sort: id, dir: "asc" as const }
		: view.dir === "asc"
			? { sort: id, dir: "desc" as const }
			: { sort: "group", dir: "asc" as const };
	return (
		<div
			role="columnheader"
			aria-sort={active ? (view.dir === "asc" ? "ascending" : "descending") : "none"}
			className={`text-[12px] font-semibold min-w-0 flex items-end gap-[10px] ${right ? "justify-end pr-[12px]" : ""}`}
		>
			<button
				type="button"
				className={`hover:text-primary flex items-end gap-[3px] leading-[15px] ${right ? "text-right" : ""}`}
				onClick={() => change(next)}
			>
				{active &&
					(view.dir === "asc" ? (
						<ArrowUp size={12} aria-hidden className="mb-[1px]" />
					) : (
						<ArrowDown size={12} aria-hidden className="mb-[1px]" />
					))}
				<span>{children}</span>
			</button>
			{extra}
		</div>
	);
}

/** Newest first is an ordinary sorting. */
function ChangedToggle({ view, change }: { view: GridView; change: ReturnType<typeof useGridView>[1] }) {
	const active = view.sort === "changed";
	return (
		<button
			type="button"
			aria-pressed={active}
			className={`caption hover:text-ink leading-[15px] ${active ? "font-bold text-ink!" : ""}`}
			onClick={() => change(active ? { sort: "group", dir: "asc" } : { sort: "changed", dir: "desc" })}
		>
			last changed first
		</button>
	);
}

function ColumnTitle({ id, unit }: { id: string; unit: string }) {
	const spec = property(id);
	const short = spec.symbol !== "" && spec.name.length > 12;
	return (
		<span title={`${spec.name}. ${spec.explanation}`} className="block">
			{short ? <SymbolText symbol={spec.symbol} /> : spec.name}
			<br />
			<UnitText unit={unit} className="text-ink3 font-normal" />
		</span>
	);
}
