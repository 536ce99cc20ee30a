import type { MaterialRow } from "@alvek/contract";
import { firstValue } from "@alvek/core/material";
import { property } from "@alvek/core/property";
import { memo } from "react";
import { useUnitSet } from "../../stores/preferences";
import { Comb, Swatch } from "../../ui/marks";
import { allUnits, EvidenceLetter, unitFor, valueText } from "../../ui/Quantity";
import { type ColumnFormat, padding } from "./numbers";

type Props = {
	row: MaterialRow;
	place: React.CSSProperties;
	template: string;
	columns: readonly string[];
	formats: ReadonlyMap<string, ColumnFormat>;
	focused: boolean;
	onFocus: () => void;
	onOpen: () => void;
};

export const GridRow = memo(
	function GridRow({ row, place, template, columns, formats, focused, onFocus, onOpen }: Props) {
		const state = row.draftId === null ? "" : row.revision === 0 ? " · draft, unpublished" : " · draft";
		return (
			<div
				role="row"
				tabIndex={-1}
				aria-selected={focused}
				style={{ ...place, gridTemplateColumns: template }}
				className={`grid items-center border-b border-line2 pl-[16px] pr-[14px] cursor-default ${focused ? "bg-accent-soft shadow-[inset_3px_0_0_var(--color-primary)]" : "hover:bg-paper"}`}
				onClick={onFocus}
				onDoubleClick={onOpen}
				onKeyDown={undefined}
			>
				<div role="gridcell" className="flex items-center gap-[9px] min-w-0 pr-[8px]">
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
						{row.supplied ? "supplied" : row.library}
						<span className="text-note">{state}</span>
					</span>
				</div>
				<div role="gridcell">
					<Comb readiness={row.readiness} />
				</div>
				{columns.map((id) => (
					<NumberCell key={id} row={row} id={id} format={formats.get(id) as ColumnFormat} />
				))}
			</div>
		);
	},
	(a, b) =>
		a.row === b.row &&
		a.focused === b.focused &&
		a.template === b.template &&
		a.formats === b.formats &&
		a.place.transform === b.place.transform,
);

function NumberCell({ row, id, format }: { row: MaterialRow; id: string; format: ColumnFormat }) {
	const unitSet = useUnitSet();
	const value = firstValue(row.document, id);
	if (value === null) {
		return (
			<div role="gridcell" className="text-right pr-[20px] text-ink3">
				<span aria-hidden>·</span>
				<span className="sr-only">blank</span>
			</div>
		);
	}
	const text = valueText(value, unitSet);
	const scale = property(id).scales === true ? ` ${unitFor(value, unitSet)}` : "";
	return (
		<div
			role="gridcell"
			className="text-right whitespace-nowrap pr-[4px]"
			title={allUnits(value) + (value.carried ? `\ncarried over from ${value.carried.name}` : "")}
		>
			<span className={value.carried ? "carried" : ""}>
				{text}
				{scale && <span className="caption">{scale}</span>}
			</span>
			{value.carried && <span className="sr-only">carried over</span>}
			<EvidenceLetter value={value} />
			<span aria-hidden style={{ paddingRight: `${padding(text, format)}ch` }} />
		</div>
	);
}
