import { derivedForms, type Material, type SeriesValue } from "@alvek/core/material";
import type { Issue } from "@alvek/core/result";
import { describeIssue } from "@alvek/core/result";
import { useVirtualizer } from "@tanstack/react-virtual";
import { Plus, Scaling, X } from "lucide-react";
import { useMemo, useRef, useState } from "react";
import { columnInfo, headOf, type Local, scaled } from "../../../shared/chart/columns";
import { useUnitSet } from "../../../stores/preferences";
import { inUnit, plainUnit, SymbolText } from "../../../ui/Quantity";

const ROW = 27;

type Props = {
	local: Local;
	property: string;
	material: Material;
	value: SeriesValue | null;
	issues: readonly Issue[];
	editable: boolean;
	onChange: (next: Local, label: string) => void;
	onPasteBlock: (text: string) => void;
	onFocusRow: (row: number | null) => void;
};

/** The points as typed, in the units that they were typed in; a derived column beside them where there is one. */
export function CurveTable({ local, property, material, value, issues, editable, onChange, onPasteBlock, onFocusRow }: Props) {
	const scroll = useRef<HTMLDivElement>(null);
	const [scaling, setScaling] = useState<number | null>(null);
	const trueStress = useTrueStress(material, value, property);
	const count = local.rows.length + (editable ? 1 : 0);
	const virtual = useVirtualizer({ count, getScrollElement: () => scroll.current, estimateSize: () => ROW, overscan: 12 });
	const template = `36px ${local.columns.map(() => "minmax(0,1fr)").join(" ")}${trueStress === null ? "" : " 62px"} 24px`;

	const put = (row: number, column: number, text: string): void => {
		const rows = local.rows.map((r) => [...r]);
		while (rows.length <= row) rows.push(local.columns.map(() => ""));
		const line = rows[row] as string[];
		if (line[column] === text) return;
		line[column] = text;
		onChange({ ...local, rows }, "a point changed");
	};
	const remove = (row: number): void => onChange({ ...local, rows: local.rows.filter((_, i) => i !== row) }, "a point deleted");
	const focusCell = (row: number, column: number): void => {
		virtual.scrollToIndex(row);
		requestAnimationFrame(() => scroll.current?.querySelector<HTMLInputElement>(`[data-cell="${row}:${column}"]`)?.focus());
	};
	const onKey = (e: React.KeyboardEvent<HTMLInputElement>, row: number, column: number): void => {
		const down = e.key === "Enter" || e.key === "ArrowDown";
		if (!down && e.key !== "ArrowUp" && !(e.key === "Delete" && e.ctrlKey)) return;
		e.preventDefault();
		if (e.key === "Delete") {
			if (row < local.rows.length) remove(row);
			return;
		}
		e.currentTarget.blur();
		const next =
			e.key === "Enter" && column + 1 < local.columns.length
				? [row, column + 1]
				: [row + (down ? 1 : -1), e.key === "Enter" ? 0 : column];
		focusCell(Math.max(0, next[0] as number), next[1] as number);
	};

	return (
		<div className="flex-1 min-h-0 flex flex-col">
			<Heads
				local={local}
				property={property}
				template={template}
				derives={trueStress !== null}
				onChange={editable ? onChange : null}
				onScale={(n) => setScaling(scaling === n ? null : n)}
			/>
			{scaling !== null && (
				<ScaleForm
					onScale={(factor) => {
						setScaling(null);
						if (factor === null) return;
						const head = headOf(value, value?.id ?? property, property);
						onChange(scaled(local, scaling, factor, head), `a column times ${factor}`);
					}}
				/>
			)}
			<div
				ref={scroll}
				className="flex-1 overflow-y-auto"
				role="group"
				aria-label="Points as typed"
				onPaste={(e) => {
					const text = e.clipboardData.getData("text/plain");
					// one number goes into its cell; a block is read as a block
					if (!editable || !/[\t\n;]/.test(text.trim())) return;
					e.preventDefault();
					onPasteBlock(text);
				}}
			>
				<div style={{ height: virtual.getTotalSize(), position: "relative" }}>
					{virtual.getVirtualItems().map(({ index, start }) => {
						const derived = trueStress?.[index];
						return (
							<Row
								key={index}
								index={index}
								start={start}
								local={local}
								property={property}
								template={template}
								derived={trueStress === null ? undefined : derived === undefined ? null : derived}
								issues={issues.filter((i) => i.line === index + 1)}
								editable={editable}
								onFocusRow={onFocusRow}
								onPut={put}
								onKey={onKey}
								onRemove={remove}
							/>
						);
					})}
				</div>
			</div>
		</div>
	);
}

type HeadsProps = Pick<Props, "local" | "property"> & {
	template: string;
	/** Whether a derived column stands beside the typed ones. */
	derives: boolean;
	onChange: Props["onChange"] | null;
	onScale: (column: number) => void;
};

/** What each column is and the unit that its cells were typed in. */
function Heads({ local, property, template, derives, onChange, onScale }: HeadsProps) {
	const unitSet = useUnitSet();
	return (
		<div className="grid items-end px-1.5 pb-1.5 border-b border-ink" style={{ gridTemplateColumns: template }}>
			<span />
			{local.columns.map((column, n) => {
				const info = columnInfo(property, column.of);
				return (
					<div key={column.of} className="text-right pr-1.5 min-w-0">
						<div className="font-bold truncate" title={info.name}>
							{local.columns.length > 2 ? <SymbolText symbol={info.symbol} /> : info.name}
							{onChange !== null && (
								<button
									type="button"
									className="text-ink3 hover:text-ink ml-0.75 align-middle"
									aria-label={`Scale ${info.name}`}
									title="Multiply the whole column"
									onClick={() => onScale(n)}
								>
									<Scaling size={11} aria-hidden />
								</button>
							)}
						</div>
						<input
							aria-label={`Unit of ${info.name}`}
							className="caption text-right w-full bg-transparent border-b border-transparent hover:border-line"
							key={column.unit}
							defaultValue={plainUnit(column.unit) === "" ? "" : column.unit}
							placeholder="number"
							readOnly={onChange === null}
							title="The unit that these cells were typed in. Another unit reads the same digits anew."
							onBlur={(e) => {
								const unit = e.target.value.trim() === "" ? "1" : e.target.value.trim();
								if (unit !== column.unit)
									onChange?.({ ...local, columns: local.columns.map((c, i) => (i === n ? { ...c, unit } : c)) }, "unit changed");
							}}
							onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
						/>
					</div>
				);
			})}
			{derives && (
				<div className="text-right">
					<div className="font-bold">True</div>
					<div className="caption">{plainUnit(columnInfo(property, "stress").units[unitSet])}</div>
				</div>
			)}
			<span />
		</div>
	);
}

/** Multiplies a column; null when what was typed changes nothing. */
function ScaleForm({ onScale }: { onScale: (factor: number | null) => void }) {
	return (
		<form
			className="flex gap-1.5 items-center px-3 py-1.5 bg-paper border-b border-line"
			onSubmit={(e) => {
				e.preventDefault();
				const input = e.currentTarget.elements.namedItem("factor") as HTMLInputElement;
				const factor = Number(input.value.replace(",", "."));
				onScale(Number.isFinite(factor) && factor !== 0 && factor !== 1 ? factor : null);
			}}
		>
			<label className="flex items-center gap-1.5">
				Column times
				{/* biome-ignore lint/a11y/noAutofocus: the person has just asked to scale */}
				<input autoFocus name="factor" className="field w-20! h-6.5!" placeholder="1.05" />
			</label>
			<button type="submit" className="btn btn-small">
				Scale
			</button>
		</form>
	);
}

type RowProps = Pick<Props, "local" | "property" | "editable" | "onFocusRow" | "issues"> & {
	index: number;
	start: number;
	template: string;
	/** True stress; null where it has none, undefined where nothing is derived. */
	derived: number | null | undefined;
	onPut: (row: number, column: number, text: string) => void;
	onKey: (e: React.KeyboardEvent<HTMLInputElement>, row: number, column: number) => void;
	onRemove: (row: number) => void;
};

/** One point; the row after the last one is where the next is typed. */
function Row(props: RowProps) {
	const { index, start, local, property, template, derived, issues, editable, onFocusRow, onPut, onKey, onRemove } = props;
	const unitSet = useUnitSet();
	const isNew = index >= local.rows.length;
	const cells = local.rows[index] ?? [];
	return (
		<div
			className="grid items-center px-1.5 border-b border-line2 group hover:bg-paper focus-within:bg-accent-soft absolute left-0 right-0"
			style={{ gridTemplateColumns: template, top: start, height: ROW }}
		>
			<span className="caption text-right pr-2">{isNew ? <Plus size={11} aria-hidden className="inline" /> : index + 1}</span>
			{local.columns.map((column, n) => {
				const issue = issues.find((i) => i.path === column.of);
				return (
					<input
						key={`${column.of} ${cells[n] ?? ""}`}
						data-cell={`${index}:${n}`}
						aria-label={`${columnInfo(property, column.of).name}, row ${index + 1}`}
						aria-invalid={issue !== undefined && !isNew}
						title={issue === undefined || isNew ? undefined : describeIssue(issue)}
						className={`bg-transparent text-right w-full h-full pr-1.5 -outline-offset-2! ${issue !== undefined && !isNew ? "text-wrong bg-wrong-soft" : ""}`}
						defaultValue={cells[n] ?? ""}
						readOnly={!editable}
						onFocus={() => onFocusRow(isNew ? null : index)}
						onBlur={(e) => (e.target.value.trim() !== "" || !isNew) && onPut(index, n, e.target.value.trim())}
						onKeyDown={(e) => onKey(e, index, n)}
					/>
				);
			})}
			{derived !== undefined && (
				<span className="text-right text-ink2">
					{derived === null ? "" : inUnit(derived, columnInfo(property, "stress"), unitSet)}
				</span>
			)}
			{editable && !isNew ? (
				<button
					type="button"
					className="text-ink3 hover:text-ink opacity-0 group-hover:opacity-100 focus:opacity-100 p-1"
					aria-label={`Delete row ${index + 1}`}
					onClick={() => onRemove(index)}
				>
					<X size={12} aria-hidden />
				</button>
			) : (
				<span />
			)}
		</div>
	);
}

/** True stress of each row of an engineering curve, by row; null where none is derived. */
function useTrueStress(material: Material, value: SeriesValue | null, property: string): readonly (number | undefined)[] | null {
	return useMemo(() => {
		if (property !== "stress_strain" || value === null || value.header.stress !== "engineering") return null;
		const out: (number | undefined)[] = [];
		for (const d of derivedForms(material, value)) {
			for (const [i, row] of d.member.rows.entries()) out[row] = d.trueStress[i];
		}
		return out.length === 0 ? null : out;
	}, [material, value, property]);
}
