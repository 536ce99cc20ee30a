import type { PartView, ProjectView } from "@alvek/contract";
import { MASS_UNITS } from "@alvek/core/mass";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ListFilter, ListTree } from "lucide-react";
import { type KeyboardEvent, type MouseEvent, useMemo, useRef, useState } from "react";
import { columnDecimals } from "../../shared/massFigures";
import { useUnitSet } from "../../stores/preferences";
import { useMedia } from "../../ui/useMedia";
import { Chooser } from "./Chooser";
import { isTyped } from "./keys";
import { PartRow, ROW } from "./PartRow";
import { PartTree } from "./PartTree";

type Props = {
	project: ProjectView;
	selected: readonly string[];
	onSelect: (parts: readonly string[], add?: boolean) => void;
	/** Text that the chooser begins with; null: closed. */
	chooser: string | null;
	setChooser: (text: string | null) => void;
	onAssign: (materialId: string | null, draft: boolean) => void;
};

/** Parts, one row each: swatch, name, quantity, material with revision, mass or state. */
export function PartTable({ project, selected, onSelect, chooser, setChooser, onAssign }: Props) {
	const [filter, setFilter] = useState("");
	const [asTree, setAsTree] = useState(false);
	const parts = useMemo(() => project.parts.filter((p) => matches(p, filter)), [project.parts, filter]);
	const chosen = project.parts.filter((p) => selected.includes(p.id));
	return (
		<section aria-label="Parts" className="w-125 shrink-0 bg-card border-r border-line flex flex-col max-lg:w-105 max-md:w-full">
			<Bar
				filter={filter}
				onFilter={setFilter}
				asTree={asTree}
				onTree={() => setAsTree(!asTree)}
				give={!project.mayEdit ? null : chosen.length === 0 ? "none" : "some"}
				onAssign={() => {
					setAsTree(false);
					setChooser("");
				}}
			/>
			{asTree && (
				<PartTree
					project={project}
					selected={selected}
					onSelect={onSelect}
					onClear={() => onAssign(null, false)}
					onChoose={(text) => {
						// the chooser hangs from rows of the list
						setAsTree(false);
						setChooser(text);
					}}
				/>
			)}
			{!asTree && (
				<PartList
					project={project}
					parts={parts}
					chosen={chosen}
					filter={filter}
					selected={selected}
					onSelect={onSelect}
					chooser={chooser}
					setChooser={setChooser}
					onAssign={onAssign}
				/>
			)}
		</section>
	);
}

/** Widths of the columns; on a phone names go before materials. */
function useTemplate(): string {
	const phone = useMedia("(max-width: 767px)");
	return phone ? "minmax(0,1.2fr) 30px minmax(0,1fr) 68px" : "minmax(0,1fr) 30px minmax(0,1.5fr) 68px";
}

type ListProps = Props & { parts: readonly PartView[]; chosen: readonly PartView[]; filter: string };

/** The rows that pass the filter, and the chooser below the chosen ones. */
function PartList({ project, parts, chosen, filter, selected, onSelect, chooser, setChooser, onAssign }: ListProps) {
	const unitSet = useUnitSet();
	const scroller = useRef<HTMLDivElement>(null);
	const anchor = useRef<string | null>(null);
	const virtual = useVirtualizer({
		count: parts.length,
		getScrollElement: () => scroller.current,
		estimateSize: () => ROW,
		overscan: 10,
	});
	const decimals = useMemo(() => columnDecimals(project.parts, unitSet), [project.parts, unitSet]);
	const firstAt = parts.findIndex((p) => selected.includes(p.id));
	const lastAt = parts.findLastIndex((p) => selected.includes(p.id));

	const click = (part: PartView, e: MouseEvent): void => {
		setChooser(null);
		scroller.current?.focus();
		if (e.shiftKey && anchor.current !== null) return onSelect(between(parts, anchor.current, part.id));
		anchor.current = part.id;
		onSelect([part.id], e.ctrlKey || e.metaKey);
	};
	const onKeyDown = (e: KeyboardEvent): void => {
		if (e.target !== e.currentTarget) return;
		if (e.key === "ArrowDown" || e.key === "ArrowUp") {
			const at = e.key === "ArrowDown" ? Math.min(lastAt + 1, parts.length - 1) : Math.max(firstAt - 1, 0);
			const part = parts[at];
			if (part === undefined) return;
			if (!e.shiftKey) anchor.current = part.id;
			onSelect(e.shiftKey && anchor.current !== null ? between(parts, anchor.current, part.id) : [part.id]);
			virtual.scrollToIndex(at);
		} else if (e.key === "a" && (e.ctrlKey || e.metaKey)) onSelect(parts.map((p) => p.id));
		else if (e.key === "Escape") onSelect([]);
		else if ((e.key === "Delete" || e.key === "Backspace") && chosen.length > 0 && project.mayEdit) onAssign(null, false);
		else if (e.key === "Enter" && chosen.length > 0 && project.mayEdit) setChooser("");
		else if (isTyped(e.key) && !e.ctrlKey && !e.metaKey && !e.altKey && chosen.length > 0 && project.mayEdit) setChooser(e.key);
		else return;
		e.preventDefault();
	};
	const close = (): void => {
		setChooser(null);
		scroller.current?.focus();
	};
	const template = useTemplate();

	return (
		<div
			role="grid"
			aria-label="Parts"
			aria-multiselectable
			aria-rowcount={parts.length}
			className="flex-1 min-h-0 flex flex-col"
		>
			<Heads template={template} />
			<div
				ref={scroller}
				role="rowgroup"
				// biome-ignore lint/a11y/noNoninteractiveTabindex: it holds the grid's roving focus
				tabIndex={0}
				aria-label="Rows: arrows walk, type or press Enter to give a material, Delete removes it"
				className="flex-1 min-h-0 overflow-y-auto relative -outline-offset-2"
				onKeyDown={onKeyDown}
			>
				<div style={{ height: virtual.getTotalSize() + (chooser === null ? 0 : 330), position: "relative" }} role="presentation">
					{virtual.getVirtualItems().map((v) => {
						const part = parts[v.index] as PartView;
						return (
							<PartRow
								key={part.id}
								part={part}
								decimals={decimals}
								top={v.start}
								template={template}
								selected={selected.includes(part.id)}
								onClick={(e) => click(part, e)}
							/>
						);
					})}
					{chooser !== null && chosen.length > 0 && (
						<ChooserRow>
							<Chooser
								key={selected.join()}
								project={project}
								parts={chosen}
								initial={chooser}
								top={(lastAt + 1) * ROW + 2}
								onAssign={(id, draft) => {
									close();
									onAssign(id, draft);
								}}
								onClose={close}
							/>
						</ChooserRow>
					)}
				</div>
				{parts.length === 0 && filter !== "" && <p className="p-4 text-ink2">No part matches “{filter}”.</p>}
			</div>
		</div>
	);
}

type BarProps = {
	filter: string;
	onFilter: (text: string) => void;
	asTree: boolean;
	onTree: () => void;
	/** Whether there are rows to give a material to; null: not by this person. */
	give: "none" | "some" | null;
	onAssign: () => void;
};

function Bar({ filter, onFilter, asTree, onTree, give, onAssign }: BarProps) {
	return (
		<div className="h-11.5 shrink-0 flex items-center gap-2 px-4 border-b border-line">
			<div className="relative flex-1">
				<ListFilter size={15} aria-hidden className="absolute left-2.5 top-2 text-ink3" />
				<input
					type="search"
					className="field pl-8!"
					placeholder="part, material, state"
					aria-label="Filter parts by name, material or state"
					value={filter}
					onChange={(e) => onFilter(e.target.value)}
				/>
			</div>
			<button type="button" className="btn btn-ghost" aria-pressed={asTree} onClick={onTree}>
				<ListTree size={15} aria-hidden /> Tree
			</button>
			{give !== null && (
				<button type="button" className="btn" disabled={give === "none"} onClick={onAssign}>
					Give material
				</button>
			)}
		</div>
	);
}

function Heads({ template }: { template: string }) {
	const unitSet = useUnitSet();
	return (
		<div role="rowgroup">
			<div
				role="row"
				tabIndex={-1}
				className="grid gap-x-2 h-7.5 items-center px-4 border-b border-line text-sm font-semibold"
				style={{ gridTemplateColumns: template }}
			>
				<Head>Part</Head>
				<Head right>Qty</Head>
				<Head>Material</Head>
				<Head right>Mass, {MASS_UNITS[unitSet].mass}</Head>
			</div>
		</div>
	);
}

/** Inside a grid everything stands in a row and a cell, the chooser too. */
function ChooserRow({ children }: { children: React.ReactNode }) {
	return (
		<div role="row" tabIndex={-1}>
			<div role="gridcell">{children}</div>
		</div>
	);
}

function Head({ children, right = false }: { children: React.ReactNode; right?: boolean }) {
	return (
		<span role="columnheader" className={right ? "text-right" : ""}>
			{children}
		</span>
	);
}

function matches(part: PartView, filter: string): boolean {
	const a = part.assignment;
	const state = [
		a === null ? "no material" : "",
		a?.behind ? "behind" : "",
		a?.draft ? "draft" : "",
		a?.isDefault ? "default, not confirmed" : "",
		a?.own ? "own" : "",
		a?.densityCarried ? "carried over" : "",
		a?.densityRule ? `weighs with ${a.densityRule}` : "",
	].join(" ");
	const haystack = `${part.name} ${part.productId} ${a?.material ?? ""} ${state}`.toLowerCase();
	return filter
		.toLowerCase()
		.split(/\s+/)
		.every((word) => haystack.includes(word));
}

function between(parts: readonly PartView[], from: string, to: string): readonly string[] {
	const [a, b] = [parts.findIndex((p) => p.id === from), parts.findIndex((p) => p.id === to)];
	return parts.slice(Math.min(a, b), Math.max(a, b) + 1).map((p) => p.id);
}
