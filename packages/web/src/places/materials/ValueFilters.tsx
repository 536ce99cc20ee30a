import type { Where } from "@alvek/core/material";
import { PROPERTIES, type PropertyRow, propertyById, SECTIONS, type UnitSetId } from "@alvek/core/property";
import { parseQuantity } from "@alvek/core/quantity";
import { describeIssue, ok, type Result } from "@alvek/core/result";
import { lazy, Suspense, useState } from "react";
import { useUnitSet } from "../../stores/preferences";
import { plainUnit } from "../../ui/Quantity";
import { FilterGroup } from "./Filters";
import { readPriceSpan } from "./spanWords";

const ValueSpans = lazy(async () => ({ default: (await import("./ValueSpans")).ValueSpans }));

export type ValueFilterProps = {
	where: readonly Where[];
	own: ReadonlyMap<string, PropertyRow>;
	onChange: (where: readonly Where[]) => void;
};

/**
 * Spans of values, compared by the number that each works with; under *may reach* also by what it may be. Typed as
 * values are: `2.6-2.8`, `>= 200 MPa`.
 */
export function ValueFilters({ where, own, onChange }: ValueFilterProps) {
	const unitSet = useUnitSet();
	const [adding, setAdding] = useState("");
	const [error, setError] = useState<string | null>(null);
	const rowOf = (id: string): PropertyRow | undefined => propertyById(id) ?? own.get(id);
	const spec = rowOf(adding);
	const named = adding === "price" ? "Price" : spec?.name;
	const add = (text: string): boolean => {
		if (text.trim() === "") return false;
		const read = spec === undefined ? readPriceSpan(text) : readSpan(text, spec, unitSet);
		if (!read.ok) {
			setError(read.issues.map(describeIssue).join(" "));
			return false;
		}
		setError(null);
		setAdding("");
		onChange([...where.filter((w) => w.property !== read.value.property), read.value]);
		return true;
	};
	return (
		<FilterGroup title="Values">
			{where.length > 0 && (
				<Suspense>
					<ValueSpans where={where} own={own} onChange={onChange} />
				</Suspense>
			)}
			<select
				aria-label="Filter by a value"
				className="field h-6.5! text-sm"
				value={adding}
				onChange={(e) => setAdding(e.target.value)}
			>
				<option value="">by a value…</option>
				<option value="price">Price per kg</option>
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
			{named !== undefined && (
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
						aria-label={`Span of ${named}`}
						aria-invalid={error !== null}
						placeholder={exampleOf(spec, unitSet)}
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

function readSpan(text: string, spec: PropertyRow, unitSet: UnitSetId): Result<Where> {
	const unit = spec.units[unitSet];
	const read = parseQuantity(text, spec, spec.scales === true || unit === "1" ? {} : { fieldUnit: unit });
	return read.ok ? ok({ property: spec.id, low: read.value.low, high: read.value.high }) : read;
}

function exampleOf(spec: PropertyRow | undefined, unitSet: UnitSetId): string {
	if (spec === undefined) return "2-5 EUR, <= 4 USD";
	return spec.scales === true ? "75-90 HBW" : `2-3, >= 2 ${plainUnit(spec.units[unitSet])}`;
}
