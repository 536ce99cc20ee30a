import { type EvidenceWord, PRICE, type Where } from "@alvek/core/material";
import { PROPERTIES, type PropertyRow, propertyById, SECTIONS, type UnitSetId } from "@alvek/core/property";
import { parseQuantity } from "@alvek/core/quantity";
import { describeIssue, ok, type Result } from "@alvek/core/result";
import { X } from "lucide-react";
import { useState } from "react";
import { useUnitSet } from "../../stores/preferences";
import { plainUnit, SymbolText } from "../../ui/Quantity";
import { FilterGroup } from "./Filters";
import { EVIDENCE_CHOICES, evidenceInWords, readPriceSpan, spanInWords } from "./spanWords";

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
			<ul>
				{where.map((w) => {
					const { property, low, high } = w;
					const said = spanInWords({ property, low, high }, own, unitSet);
					if (said === null) return null;
					return (
						<li key={w.property} className="flex flex-wrap items-center gap-x-1.5 bg-accent-soft rounded-md px-2 py-0.75 mb-1">
							<span className="min-w-0 flex-1">
								{said.symbol === "" ? said.name : <SymbolText symbol={said.symbol} />} <b>{said.text}</b>
							</span>
							{!PRICE.test(property) && (
								<button
									type="button"
									className={`ml-auto caption whitespace-nowrap ${w.reach === true ? "font-semibold text-ink" : "text-ink3"} hover:text-ink`}
									aria-pressed={w.reach === true}
									title="Also keep what may lie inside: a lower limit below an “at least”, a range by any of it"
									onClick={() => onChange(where.map((x) => (x === w ? reaching(w, w.reach !== true) : x)))}
								>
									may reach
								</button>
							)}
							<button
								type="button"
								className="text-ink3 hover:text-ink"
								aria-label={`Remove the filter on ${said.name}`}
								onClick={() => onChange(where.filter((x) => x !== w))}
							>
								<X size={12} aria-hidden />
							</button>
							{!PRICE.test(property) && (
								<EvidenceChoice
									name={said.name}
									evidence={w.evidence}
									choose={(evidence) => onChange(judged(where, w, evidence))}
								/>
							)}
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

/** Of which evidence the values of one filter have to be. */
function EvidenceChoice(props: {
	name: string;
	evidence: readonly EvidenceWord[] | undefined;
	choose: (evidence: readonly EvidenceWord[] | undefined) => void;
}) {
	const { name, evidence, choose } = props;
	const at = EVIDENCE_CHOICES.findIndex((c) => c.words.join() === evidence?.join());
	return (
		<select
			className="w-full min-w-0 truncate bg-transparent text-sm text-ink2 -ml-1"
			aria-label={`Evidence of ${name}`}
			value={evidence === undefined ? "any" : String(at)}
			onChange={(e) => choose(EVIDENCE_CHOICES[Number(e.target.value)]?.words)}
		>
			<option value="any" className="bg-card">
				of any evidence
			</option>
			{EVIDENCE_CHOICES.map((c, i) => (
				<option key={c.name} value={i} className="bg-card">
					{c.name}
				</option>
			))}
			{evidence !== undefined && at < 0 && (
				<option value="-1" className="bg-card">
					{evidenceInWords(evidence)}
				</option>
			)}
		</select>
	);
}

/** The filters with other evidence for one of them; one that asks nothing any more goes. */
function judged(where: readonly Where[], one: Where, evidence: readonly EvidenceWord[] | undefined): readonly Where[] {
	const { evidence: _, ...rest } = one;
	const next: Where = evidence === undefined ? rest : { ...rest, evidence };
	const isOpen = next.low === null && next.high === null && evidence === undefined;
	return isOpen ? where.filter((w) => w !== one) : where.map((w) => (w === one ? next : w));
}

function reaching({ reach: _, ...rest }: Where, reach: boolean): Where {
	return reach ? { ...rest, reach } : rest;
}
