import { type EvidenceWord, PRICE, type Where } from "@alvek/core/material";
import { X } from "lucide-react";
import { useUnitSet } from "../../stores/preferences";
import { SymbolText } from "../../ui/Quantity";
import { EVIDENCE_CHOICES, evidenceInWords, spanInWords } from "./spanWords";
import type { ValueFilterProps } from "./ValueFilters";

/** The spans that filter now: what each asks, of which evidence, and whether it counts what may reach it. */
export function ValueSpans({ where, own, onChange }: ValueFilterProps) {
	const unitSet = useUnitSet();
	return (
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
	);
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
