import type { ProjectView } from "@alvek/contract";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ChevronDown, ChevronRight } from "lucide-react";
import { type KeyboardEvent, useMemo, useRef, useState } from "react";
import { columnDecimals, massColumnText } from "../../shared/massFigures";
import { useUnitSet } from "../../stores/preferences";
import { Swatch } from "../../ui/marks";
import { isTyped } from "./keys";
import { ROW } from "./PartRow";
import { type TreeRow, treeRows } from "./tree";

type Props = {
	project: ProjectView;
	selected: readonly string[];
	onSelect: (parts: readonly string[], add?: boolean) => void;
	onChoose: (text: string) => void;
	onClear: () => void;
};

/** The assembly as it was drawn: every occurrence, sub-assemblies with the sum of what lies below. */
export function PartTree({ project, selected, onSelect, onChoose, onClear }: Props) {
	const unitSet = useUnitSet();
	const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
	const [at, setAt] = useState(0);
	const scroller = useRef<HTMLDivElement>(null);
	const rows = useMemo(() => treeRows(project, closed), [project, closed]);
	const decimals = useMemo(() => columnDecimals(project.parts, unitSet), [project.parts, unitSet]);
	const virtual = useVirtualizer({
		count: rows.length,
		getScrollElement: () => scroller.current,
		estimateSize: () => ROW,
		overscan: 10,
	});
	const toggle = (row: TreeRow, close: boolean): void => {
		const next = new Set(closed);
		if (close) next.add(row.occurrence.id);
		else next.delete(row.occurrence.id);
		setClosed(next);
	};
	const go = (n: number): void => {
		const row = rows[n];
		if (row === undefined) return;
		setAt(n);
		onSelect(row.parts);
		virtual.scrollToIndex(n);
	};
	const onKeyDown = (e: KeyboardEvent): void => {
		const row = rows[at];
		if (e.key === "ArrowDown") go(at + 1);
		else if (e.key === "ArrowUp") go(at - 1);
		else if (e.key === "ArrowLeft" && row?.part === null) toggle(row, true);
		else if (e.key === "ArrowRight" && row?.part === null) toggle(row, false);
		else if (e.key === "Escape") onSelect([]);
		else if (e.key === "Delete" && selected.length > 0 && project.mayEdit) onClear();
		else if (
			(e.key === "Enter" || (isTyped(e.key) && !e.ctrlKey && !e.metaKey && !e.altKey)) &&
			selected.length > 0 &&
			project.mayEdit
		)
			onChoose(e.key === "Enter" ? "" : e.key);
		else return;
		e.preventDefault();
	};
	return (
		<div
			ref={scroller}
			role="tree"
			aria-label="Assembly: arrows walk, left and right fold, Enter gives a material"
			aria-multiselectable
			aria-activedescendant={rows[at] ? `tree-${rows[at].occurrence.id}` : undefined}
			tabIndex={0}
			className="flex-1 min-h-0 overflow-y-auto -outline-offset-2"
			onKeyDown={onKeyDown}
		>
			<div role="presentation" style={{ height: virtual.getTotalSize(), position: "relative" }}>
				{virtual.getVirtualItems().map((v) => {
					const row = rows[v.index] as TreeRow;
					return (
						<Line
							key={row.occurrence.id}
							row={row}
							top={v.start}
							decimals={decimals}
							closed={closed.has(row.occurrence.id)}
							selected={row.parts.length > 0 && row.parts.every((p) => selected.includes(p))}
							onSelect={(add) => {
								setAt(v.index);
								scroller.current?.focus();
								onSelect(row.parts, add);
							}}
							onFold={(close) => toggle(row, close)}
						/>
					);
				})}
			</div>
		</div>
	);
}

type LineProps = {
	row: TreeRow;
	top: number;
	decimals: number;
	closed: boolean;
	selected: boolean;
	onSelect: (add: boolean) => void;
	onFold: (close: boolean) => void;
};

/** One occurrence: a part with what it is made of, or a sub-assembly with how much of it has a mass. */
function Line({ row, top, decimals, closed, selected, onSelect, onFold }: LineProps) {
	const unitSet = useUnitSet();
	const Icon = closed ? ChevronRight : ChevronDown;
	return (
		// biome-ignore lint/a11y/useKeyWithClickEvents: keys are handled by the tree
		<div
			id={`tree-${row.occurrence.id}`}
			role="treeitem"
			tabIndex={-1}
			aria-level={row.depth + 1}
			aria-selected={selected}
			aria-expanded={row.part === null ? !closed : undefined}
			onClick={(e) => onSelect(e.ctrlKey || e.metaKey)}
			style={{ position: "absolute", top, left: 0, right: 0, height: ROW, paddingLeft: 16 + row.depth * 18 }}
			className={`flex items-center gap-2 pr-4 border-b border-line2 cursor-default select-none ${selected ? "bg-accent-soft shadow-[inset_3px_0_0_var(--color-primary)]" : "hover:bg-paper"}`}
		>
			{row.part === null ? (
				<Icon
					size={14}
					aria-hidden
					className="text-ink3 shrink-0"
					onClick={(e) => {
						e.stopPropagation();
						onFold(!closed);
					}}
				/>
			) : (
				<Swatch colour={row.part.assignment?.colour ?? null} />
			)}
			<span className={`truncate ${row.part === null ? "font-bold" : "font-semibold"}`} title={row.occurrence.path}>
				{row.name}
			</span>
			<span className="caption truncate">
				{row.part === null ? `${row.piecesWithMass} of ${row.pieces} parts` : (row.part.assignment?.material ?? "no material")}
			</span>
			<span className="ml-auto whitespace-nowrap">
				{row.mass_kg === null ? (
					<span className="text-ink3">no mass</span>
				) : (
					<b>{massColumnText(row.mass_kg, unitSet, decimals)}</b>
				)}
			</span>
		</div>
	);
}
