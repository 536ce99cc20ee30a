import { PROPERTIES, type PropertyRow, SECTIONS, unitsFor } from "@alvek/core/property";
import { WORD_COLUMNS } from "@alvek/core/table";
import { ArrowDown, ArrowUp } from "lucide-react";
import { plainUnit } from "../../ui/Quantity";
import { type ColumnChoice, plainColumn } from "./view";
import { type OwnRows, rowOfProperty } from "./words";

/** Which properties stand as columns, in which order, and in which unit. */
export function ColumnList({
	columns,
	own,
	onChange,
}: {
	columns: readonly ColumnChoice[];
	own: OwnRows;
	onChange: (columns: readonly ColumnChoice[]) => void;
}) {
	const move = (column: ColumnChoice, by: number): void => {
		const at = columns.indexOf(column);
		const next = columns.filter((c) => c !== column);
		next.splice(Math.max(0, at + by), 0, column);
		onChange(next);
	};
	const toggle = (id: string): void => {
		const rest = columns.filter((c) => c.id !== id);
		onChange(rest.length < columns.length ? rest : [...columns, plainColumn(id)]);
	};
	const rowsOf = (section: string): readonly PropertyRow[] => [
		...PROPERTIES.filter((p) => p.section === section),
		...[...own.values()].filter((p) => p.section === section),
	];
	return (
		<div className="w-85 max-h-110 overflow-y-auto p-3">
			{columns.length > 0 && (
				<ol className="mb-2.5" aria-label="Order of columns">
					{columns.map((column, i) => {
						const row = rowOfProperty(column.id, own);
						const name = row?.name ?? WORD_COLUMNS.find((c) => c.id === column.id)?.name;
						if (name === undefined) return null;
						return (
							<li key={column.id} className="flex items-center gap-0.5 py-px">
								<span className="font-semibold truncate mr-auto">{name}</span>
								{row !== undefined && (
									<UnitChoice
										row={row}
										unit={column.unit}
										onChange={(unit) => onChange(columns.map((c) => (c === column ? { ...c, unit } : c)))}
									/>
								)}
								<button
									type="button"
									className="btn btn-ghost btn-small px-1!"
									disabled={i === 0}
									onClick={() => move(column, -1)}
									aria-label={`${name} further left`}
								>
									<ArrowUp size={13} aria-hidden />
								</button>
								<button
									type="button"
									className="btn btn-ghost btn-small px-1!"
									disabled={i === columns.length - 1}
									onClick={() => move(column, 1)}
									aria-label={`${name} further right`}
								>
									<ArrowDown size={13} aria-hidden />
								</button>
							</li>
						);
					})}
				</ol>
			)}
			<fieldset className="mb-2">
				<legend className="font-bold text-sm">About the material</legend>
				{WORD_COLUMNS.map((c) => (
					<label key={c.id} className="flex items-center gap-2 py-0.5 cursor-pointer">
						<input
							type="checkbox"
							className="checkbox checkbox-primary"
							checked={columns.some((column) => column.id === c.id)}
							onChange={() => toggle(c.id)}
						/>
						{c.name}
					</label>
				))}
			</fieldset>
			{SECTIONS.filter((s) => rowsOf(s.id).length > 0).map((section) => (
				<fieldset key={section.id} className="mb-2">
					<legend className="font-bold text-sm">{section.name}</legend>
					{rowsOf(section.id).map((p) => (
						<label key={p.id} className="flex items-center gap-2 py-0.5 cursor-pointer">
							<input
								type="checkbox"
								className="checkbox checkbox-primary"
								checked={columns.some((c) => c.id === p.id)}
								onChange={() => toggle(p.id)}
							/>
							{p.name}
						</label>
					))}
				</fieldset>
			))}
		</div>
	);
}

/** The unit of a column: that of the unit set, or one of its own. */
function UnitChoice({ row, unit, onChange }: { row: PropertyRow; unit: string | null; onChange: (unit: string | null) => void }) {
	const units = unitsFor(row);
	if (units.length < 2) return null;
	return (
		<select
			className="bg-transparent text-sm text-ink2 max-w-27.5"
			aria-label={`Unit of ${row.name}`}
			value={unit ?? ""}
			onChange={(e) => onChange(e.target.value === "" ? null : e.target.value)}
		>
			<option value="" className="bg-card">
				unit of the set
			</option>
			{units.map((u) => (
				<option key={u} value={u} className="bg-card">
					{plainUnit(u)}
				</option>
			))}
		</select>
	);
}
