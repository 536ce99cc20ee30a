import { CONDITIONS } from "@alvek/core/material";
import { formById, inSentence } from "@alvek/core/property";
import { Plus, X } from "lucide-react";
import { useState } from "react";
import { columnInfo, type Local } from "../../../shared/chart/columns";
import { useUnitSet } from "../../../stores/preferences";
import { plainUnit } from "../../../ui/Quantity";

/** What the table or the family of curves runs over: one or two conditions, each a column of its own. */
export function Conditions({
	local,
	property,
	onChange,
}: {
	local: Local;
	property: string;
	onChange: (next: Local, label: string) => void;
}) {
	const unitSet = useUnitSet();
	const [adding, setAdding] = useState(false);
	const form = formById(property);
	const possible = form?.kind === "curve" ? form.conditions : CONDITIONS;
	// the last two columns of a curve are x and y; of a table only the last is no condition
	const count = local.columns.length - (local.kind === "curve" ? 2 : 1);
	const mine = local.columns.slice(0, count);
	const free = possible.filter((id) => !mine.some((c) => c.of === id));
	const least = local.kind === "curve" ? 0 : 1;

	const swap = (at: number, of: string): void => {
		const unit = columnInfo(property, of).units[unitSet];
		onChange({ ...local, columns: local.columns.map((c, i) => (i === at ? { of, unit } : c)) }, "condition changed");
	};
	const add = (of: string, value: string): void => {
		const unit = columnInfo(property, of).units[unitSet];
		const rows = local.rows.map((r) => (r.some((c) => c !== "") ? [value, ...r] : ["", ...r]));
		onChange({ ...local, columns: [{ of, unit }, ...local.columns], rows }, "condition added");
		setAdding(false);
	};
	const drop = (at: number): void =>
		onChange(
			{ ...local, columns: local.columns.filter((_, i) => i !== at), rows: local.rows.map((r) => r.filter((_, i) => i !== at)) },
			"condition taken out",
		);

	return (
		<div className="flex flex-wrap items-center gap-1.5">
			{mine.map((column, i) => (
				<span key={column.of} className="flex items-center">
					<select
						aria-label={`Condition ${i + 1}`}
						className="field w-auto! h-7! pr-1!"
						value={column.of}
						onChange={(e) => swap(i, e.target.value)}
					>
						{[column.of, ...free].map((id) => (
							<option key={id} value={id}>
								over {inSentence(columnInfo(property, id).name)}
							</option>
						))}
					</select>
					{mine.length > least && (
						<button
							type="button"
							className="text-ink3 hover:text-ink p-0.75"
							aria-label={`Take ${columnInfo(property, column.of).name} out`}
							onClick={() => drop(i)}
						>
							<X size={12} aria-hidden />
						</button>
					)}
				</span>
			))}
			{count < 2 && free.length > 0 && !adding && (
				<button type="button" className="btn btn-ghost btn-small" onClick={() => setAdding(true)}>
					<Plus size={13} aria-hidden /> condition
				</button>
			)}
			{adding && (
				<form
					className="flex items-center gap-1.5"
					onSubmit={(e) => {
						e.preventDefault();
						const data = new FormData(e.currentTarget);
						add(String(data.get("of")), String(data.get("value")).trim());
					}}
				>
					<select name="of" aria-label="New condition" className="field w-auto! h-7!">
						{free.map((id) => (
							<option key={id} value={id}>
								{inSentence(columnInfo(property, id).name)}, {plainUnit(columnInfo(property, id).units[unitSet]) || "number"}
							</option>
						))}
					</select>
					<input
						name="value"
						className="field w-22.5! h-7!"
						aria-label="Its value in the rows that are there"
						placeholder="of these rows"
						required={local.rows.length > 0}
					/>
					<button type="submit" className="btn btn-small">
						Add
					</button>
				</form>
			)}
		</div>
	);
}
