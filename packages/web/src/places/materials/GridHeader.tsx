import { ArrowDown, ArrowUp } from "lucide-react";
import { type ReactNode, useState } from "react";
import { SymbolText, UnitText } from "../../ui/Quantity";
import type { GridColumn } from "./numbers";
import type { ChangeView, GridView } from "./view";
import type { WordColumn } from "./wordColumns";

const NARROWEST = 48;
const WIDEST = 600;

/** Titles with units; a click sorts, the right edge resizes. */
export function GridHeader(props: {
	view: GridView;
	change: ChangeView;
	words: readonly WordColumn[];
	columns: readonly GridColumn[];
	template: string;
	onResize: (id: string, width: number | null) => void;
}) {
	const { view, change, words, columns, template, onResize } = props;
	return (
		<div role="rowgroup">
			<div
				role="row"
				tabIndex={-1}
				className="grid items-end border-y border-line h-10 pl-2.5 pr-3.5 pb-1.5"
				style={{ gridTemplateColumns: template }}
			>
				<div role="columnheader">
					<span className="sr-only">Star</span>
				</div>
				<HeaderCell id="name" view={view} change={change} extra={<ChangedToggle view={view} change={change} />}>
					Name
				</HeaderCell>
				<div role="columnheader" className="text-sm font-semibold">
					Ready
				</div>
				{words.map((column) => (
					<HeaderCell
						key={column.id}
						id={column.id}
						view={view}
						change={change}
						edge={<Edge name={column.name} width={column.width} onResize={(width) => onResize(column.id, width)} />}
					>
						<span className="block truncate">{column.name}</span>
					</HeaderCell>
				))}
				{columns.map((column) => (
					<HeaderCell
						right
						key={column.id}
						id={column.id}
						view={view}
						change={change}
						edge={<Edge name={column.spec.name} width={column.width} onResize={(width) => onResize(column.id, width)} />}
					>
						<ColumnTitle column={column} />
					</HeaderCell>
				))}
			</div>
		</div>
	);
}

type HeaderProps = {
	id: string;
	view: GridView;
	change: ChangeView;
	children: ReactNode;
	extra?: ReactNode;
	/** Of a column whose width can be changed. */
	edge?: ReactNode;
	/** Numbers stand to the right. */
	right?: boolean;
};

function HeaderCell({ id, view, change, children, extra, edge, right = false }: HeaderProps) {
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
			className={`relative text-sm font-semibold min-w-0 flex items-end gap-2.5 ${right ? "justify-end pr-3" : ""}`}
		>
			<button
				type="button"
				className={`hover:text-primary flex items-end gap-0.75 leading-3.75 min-w-0 ${right ? "text-right" : ""}`}
				onClick={() => change(next)}
			>
				{active &&
					(view.dir === "asc" ? (
						<ArrowUp size={12} aria-hidden className="mb-px shrink-0" />
					) : (
						<ArrowDown size={12} aria-hidden className="mb-px shrink-0" />
					))}
				<span className="min-w-0">{children}</span>
			</button>
			{extra}
			{edge}
		</div>
	);
}

/** The edge of a column: drag, or arrows; Home takes the width back. */
function Edge({ name, width, onResize }: { name: string; width: number; onResize: (width: number | null) => void }) {
	const [drag, setDrag] = useState<{ x: number; width: number } | null>(null);
	const clamp = (width: number): number => Math.round(Math.min(Math.max(width, NARROWEST), WIDEST));
	return (
		<div
			role="separator"
			aria-orientation="vertical"
			aria-label={`Width of ${name}`}
			aria-valuenow={width}
			aria-valuemin={NARROWEST}
			aria-valuemax={WIDEST}
			tabIndex={0}
			className={`absolute right-0 -bottom-1 w-2.25 h-8 cursor-col-resize touch-none after:absolute after:right-1 after:inset-y-1 after:w-px after:bg-line hover:after:bg-primary ${drag ? "after:bg-primary" : ""}`}
			onPointerDown={(e) => {
				e.currentTarget.setPointerCapture(e.pointerId);
				setDrag({ x: e.clientX, width });
			}}
			onPointerMove={(e) => drag !== null && onResize(clamp(drag.width + e.clientX - drag.x))}
			onPointerUp={() => setDrag(null)}
			onDoubleClick={() => onResize(null)}
			onKeyDown={(e) => {
				if (e.key === "ArrowLeft") onResize(clamp(width - 8));
				else if (e.key === "ArrowRight") onResize(clamp(width + 8));
				else if (e.key === "Home") onResize(null);
				else return;
				e.preventDefault();
			}}
		/>
	);
}

/** Newest first is an ordinary sorting. */
function ChangedToggle({ view, change }: { view: GridView; change: ChangeView }) {
	const active = view.sort === "changed";
	return (
		<button
			type="button"
			aria-pressed={active}
			className={`caption hover:text-ink leading-3.75 whitespace-nowrap ${active ? "font-bold text-ink!" : ""}`}
			onClick={() => change(active ? { sort: "group", dir: "asc" } : { sort: "changed", dir: "desc" })}
		>
			last changed first
		</button>
	);
}

function ColumnTitle({ column: { spec, unit } }: { column: GridColumn }) {
	const short = spec.symbol !== "" && spec.name.length > 12;
	return (
		<span title={`${spec.name}. ${spec.explanation}`} className="block truncate">
			{short ? <SymbolText symbol={spec.symbol} /> : spec.name}
			<br />
			<UnitText unit={unit} className="text-ink3 font-normal" />
		</span>
	);
}
