import { useDraggable } from "@dnd-kit/core";
import { ChevronDown, ChevronUp, Columns3, CornerDownLeft, GripVertical, Printer, Sigma, X } from "lucide-react";
import { Link, useLocation } from "react-router";
import { requestAssignment } from "../stores/assignmentTarget";
import { usePartSelection } from "../stores/parts";
import { type TrayItem, useTray } from "../stores/tray";
import { Swatch } from "./marks";

/** Picked materials along the lower edge; folds away when empty. */
export function Tray() {
	const { items, folded, setFolded, clear } = useTray();
	if (items.length === 0) return null;
	if (folded) {
		return (
			<section aria-label="Tray" className="h-6 shrink-0 bg-card border-t border-line flex items-center px-4 caption">
				Tray: {items.map((i) => i.name).join(", ")}
				<button
					type="button"
					className="ml-auto flex items-center gap-1"
					onClick={() => setFolded(false)}
					aria-label="Unfold the tray"
				>
					<ChevronUp size={14} aria-hidden />
				</button>
			</section>
		);
	}
	return (
		<section aria-label="Tray" className="h-13 shrink-0 bg-card border-t border-line flex items-center gap-2 px-4">
			<div className="w-13 shrink-0 leading-3.75">
				<div className="caption">Tray</div>
				<div className="text-xs font-bold">{items.length} held</div>
			</div>
			<ul className="flex gap-2 overflow-x-auto min-w-0 py-1">
				{items.map((item) => (
					<TrayChip key={item.id} item={item} />
				))}
			</ul>
			<div className="ml-auto flex items-center gap-1.5 shrink-0">
				<CompareButton items={items} />
				<GiveButton items={items} />
				<Link className="btn btn-small" to={`/solver?ids=${items.map((i) => i.id).join(",")}`}>
					<Sigma size={13} aria-hidden /> For the solver
				</Link>
				<Link className="btn btn-small" to={`/paper?ids=${items.map((i) => i.id).join(",")}`}>
					<Printer size={13} aria-hidden /> Print
				</Link>
				<button type="button" className="btn btn-ghost btn-small" onClick={clear}>
					Empty
				</button>
				<button type="button" className="btn btn-ghost btn-icon" onClick={() => setFolded(true)} aria-label="Fold the tray">
					<ChevronDown size={16} aria-hidden />
				</button>
			</div>
		</section>
	);
}

function TrayChip({ item }: { item: TrayItem }) {
	const { setNodeRef, listeners, attributes, isDragging } = useDraggable({ id: `tray:${item.id}`, data: { item } });
	return (
		<li
			ref={setNodeRef}
			className={`h-8.5 flex items-center gap-2 bg-paper border border-line rounded-md pl-1 pr-1 ${isDragging ? "opacity-40" : ""}`}
		>
			<button
				type="button"
				className="cursor-grab touch-none text-ink3 h-full flex items-center"
				{...listeners}
				{...attributes}
				aria-label={`Drag ${item.name} to a part`}
			>
				<GripVertical size={14} aria-hidden />
			</button>
			<Swatch colour={item.colour} />
			<Link to={`/materials/${item.id}`} className="font-semibold whitespace-nowrap max-w-50 truncate" title={item.name}>
				{item.name}
			</Link>
			<span className="caption whitespace-nowrap">{item.draft ? "draft" : `rev ${item.revision}`}</span>
			<button
				type="button"
				className="text-ink3 hover:text-ink p-0.75"
				onClick={() => useTray.getState().remove(item.id)}
				aria-label={`Put ${item.name} back`}
			>
				<X size={13} aria-hidden />
			</button>
		</li>
	);
}

/** Side by side; where parts are selected, against what they are made of now. */
function CompareButton({ items }: { items: readonly TrayItem[] }) {
	const { pathname } = useLocation();
	const { project, selected } = usePartSelection();
	const forParts = project !== null && selected.length > 0 && pathname === `/parts/${project}`;
	// one of six columns is for what the parts are made of now
	const ids = items.slice(forParts ? -5 : -6).map((i) => i.id);
	const part = forParts ? `&part=${project}/${selected.join("+")}` : "";
	return (
		<Link className="btn btn-small" to={`/compare?ids=${ids.join(",")}${part.replaceAll("+", "%2B")}`}>
			<Columns3 size={13} aria-hidden /> Compare
		</Link>
	);
}

/** Gives the last picked material to the selected parts, where there are some. */
function GiveButton({ items }: { items: readonly TrayItem[] }) {
	const { pathname } = useLocation();
	const count = usePartSelection((s) => s.selected.length);
	const last = items[items.length - 1];
	if (!/^\/parts\/./.test(pathname) || count === 0 || last === undefined) return null;
	return (
		<button type="button" className="btn btn-small" onClick={() => requestAssignment(last.id, last.draft)}>
			<CornerDownLeft size={13} aria-hidden /> Give {last.name} to {count === 1 ? "the part" : `${count} rows`}
		</button>
	);
}
