import type { Where } from "@alvek/core/material";
import { PROPERTIES, type PropertyRow, propertyById, SECTIONS } from "@alvek/core/property";
import { parseQuantity } from "@alvek/core/quantity";
import { describeIssue } from "@alvek/core/result";
import { X } from "lucide-react";
import { useState } from "react";
import { useUnitSet } from "../../stores/preferences";
import { plainUnit, SymbolText } from "../../ui/Quantity";
import { FilterGroup } from "./Filters";
import { spanText } from "./words";

type Props = {
	where: readonly Where[];
	own: ReadonlyMap<string, PropertyRow>;
	onChange: (where: readonly Where[]) => void;
};

/**
 * Spans of values, compared by the number that each works with; under *may reach* also by what it may be. Typed as
 * values are: `2.6-2.8`, `>= 200 MPa`.
 */
export function ValueFilters({ where, own, onChange }: Props) {
	const unitSet = useUnitSet();
	const [adding, setAdding] = useState("");
	const [error, setError] = useState<string | null>(null);
	const rowOf = (id: string): PropertyRow | undefined => propertyById(id) ?? own.get(id);
	const spec = rowOf(adding);
	const add = (text: string): boolean => {
		if (spec === undefined || text.trim() === "") return false;
		const unit = spec.units[unitSet];
		const read = parseQuantity(text, spec, spec.scales === true || unit === "1" ? {} : { fieldUnit: unit });
		if (!read.ok) {
			setError(read.issues.map(describeIssue).join(" "));
			return false;
		}
		setError(null);
		setAdding("");
		onChange([...where.filter((w) => w.property !== spec.id), { property: spec.id, low: read.value.low, high: read.value.high }]);
		return true;
	};
	return (
		<FilterGroup title="Values">
			<ul>
				{where.map((w) => {
					const row = rowOf(w.property);
					if (row === undefined) return null;
					return (
						<li key={w.property} className="flex items-center gap-1.5 bg-accent-soft rounded-md px-2 py-0.75 mb-1">
							<span className="min-w-0">
								{row.symbol === "" ? row.name : <SymbolText symbol={row.symbol} />}{" "}
								<b>{spanText({ property: w.property, low: w.low, high: w.high }, row, unitSet)}</b>
							</span>
							<button
								type="button"
								className={`ml-auto caption whitespace-nowrap ${w.reach === true ? "font-semibold text-ink" : "text-ink3"} hover:text-ink`}
								aria-pressed={w.reach === true}
								title="Also keep what may lie inside: a lower limit below an “at least”, a range by any of it"
								onClick={() => onChange(where.map((x) => (x === w ? reaching(w, w.reach !== true) : x)))}
							>
								may reach
							</button>
							<button
								type="button"
								className="text-ink3 hover:text-ink"
								aria-label={`Remove the filter on ${row.name}`}
								onClick={() => onChange(where.filter((x) => x !== w))}
							>
								<X size={12} aria-hidden />
							</button>
						</li>
					);
				})}
			</ul>
			<select
				aria-label="Filter by a value"
				className="field h-6.5! text-sm"
				value={adding}
				onChange={(e) => setAdding(e.target.value)}
			>
				<option value="">by a value…</option>
				{SECTIONS.map((s) => (
					<optgroup key={s.id} label={s.name}>
						{[...PROPERTIES.filter((p) => p.section === s.id), ...[...own.values()].filter((p) => p.section === s.id)].map(
							(p) => (
								<option key={p.id} value={p.id}>
									{p.name}
								</option>
							),
						)}
					</optgroup>
				))}
			</select>
			{spec !== undefined && (
				<form
					className="mt-1"
					onSubmit={(e) => {
						e.preventDefault();
						const input = e.currentTarget.elements.namedItem("span") as HTMLInputElement;
						if (add(input.value)) input.value = "";
					}}
				>
					<input
						// biome-ignore lint/a11y/noAutofocus: the person has just chosen the property
						autoFocus
						name="span"
						className="field h-6.5! text-sm"
						aria-label={`Span of ${spec.name}`}
						aria-invalid={error !== null}
						placeholder={spec.scales === true ? "75-90 HBW" : `2-3, >= 2 ${plainUnit(spec.units[unitSet])}`}
						onKeyDown={(e) => e.key === "Escape" && setAdding("")}
					/>
					{error !== null && (
						<span role="alert" className="text-wrong text-sm block">
							{error}
						</span>
					)}
				</form>
			)}
		</FilterGroup>
	);
}

function reaching({ property, low, high }: Where, reach: boolean): Where {
	return { property, low, high, ...(reach ? { reach: true } : {}) };
}
