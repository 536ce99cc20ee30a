import type { PartView } from "@alvek/contract";
import { useDroppable } from "@dnd-kit/core";
import type { MouseEvent } from "react";
import { massColumnText } from "../../shared/massFigures";
import { useUnitSet } from "../../stores/preferences";
import { Swatch } from "../../ui/marks";

/** Height of a row, px. */
export const ROW = 33;

type RowProps = {
	part: PartView;
	decimals: number;
	top: number;
	template: string;
	selected: boolean;
	onClick: (e: MouseEvent) => void;
};

/** One part: swatch, name, quantity, material with revision, mass or the words that it has none. Chips can be dropped on it. */
export function PartRow({ part, decimals, top, template, selected, onClick }: RowProps) {
	const unitSet = useUnitSet();
	const { setNodeRef, isOver } = useDroppable({ id: `part:${part.id}` });
	const a = part.assignment;
	return (
		// placed by `top`: drag and drop measures without transforms
		// biome-ignore lint/a11y/useKeyWithClickEvents: keys are handled by the grid
		<div
			ref={setNodeRef}
			role="row"
			tabIndex={-1}
			aria-selected={selected}
			onClick={onClick}
			style={{
				position: "absolute",
				top,
				left: 0,
				right: 0,
				height: ROW,
				gridTemplateColumns: template,
			}}
			className={`grid gap-x-2 items-center px-4 border-b border-line2 cursor-default select-none ${isOver ? "outline-2 -outline-offset-2 outline-primary" : ""} ${selected ? "bg-accent-soft shadow-[inset_3px_0_0_var(--color-primary)]" : "hover:bg-paper"}`}
		>
			<Cell className="flex items-center gap-2.5">
				<Swatch colour={a?.colour ?? null} />
				<span
					className="font-semibold truncate"
					title={part.productId === "" || part.productId === part.name ? part.name : `${part.name} (${part.productId})`}
				>
					{part.name}
				</span>
			</Cell>
			<Cell className="text-right text-ink2">{part.quantity}</Cell>
			<Cell className="flex items-center gap-1.5">
				{a === null ? (
					<span className="text-ink3">no material</span>
				) : (
					<>
						<span className="truncate" title={a.material}>
							{a.material}
						</span>
						{a.draft ? (
							<span className="tag tag-note">draft</span>
						) : (
							<span className="caption whitespace-nowrap max-md:hidden">rev {a.revision}</span>
						)}
						{a.own && <span className="tag">own</span>}
						{a.isDefault && <span className="tag tag-doubt">default</span>}
						{a.behind && <span className="tag tag-note">behind</span>}
						{a.removed && <span className="tag tag-doubt">in the bin</span>}
					</>
				)}
			</Cell>
			<Cell className="text-right whitespace-nowrap">
				{part.mass_kg === null ? (
					<span className="text-ink3">no mass</span>
				) : (
					<b className={a?.densityCarried ? "carried" : ""} title={a?.densityCarried ? "its density is carried over" : undefined}>
						{massColumnText(part.mass_kg.mass * part.quantity, unitSet, decimals)}
					</b>
				)}
			</Cell>
		</div>
	);
}

function Cell({ children, className = "" }: { children: React.ReactNode; className?: string }) {
	return (
		<span role="gridcell" className={`min-w-0 ${className}`}>
			{children}
		</span>
	);
}
