import { EVIDENCE_WORD, EVIDENCE_WORDS, type EvidenceWord, PRICE, type Where } from "@alvek/core/material";
import { property, type UnitSetId } from "@alvek/core/property";
import { parseQuantity } from "@alvek/core/quantity";
import { fail, ok, type Result } from "@alvek/core/result";
import { inUnit, plainUnit } from "../../ui/Quantity";
import { type OwnRows, rowOfProperty } from "./words";

/** What values of evidence may be asked for, the best first. */
export const EVIDENCE_CHOICES: readonly { readonly words: readonly EvidenceWord[]; readonly name: string }[] = [
	{ words: ["measured"], name: "measured" },
	{ words: ["measured", "standard"], name: "measured or standard" },
	{ words: ["measured", "standard", "data-sheet"], name: "measured, standard or data sheet" },
	{ words: ["estimated"], name: "estimated" },
	{ words: ["none"], name: "without evidence" },
];

export function evidenceInWords(words: readonly EvidenceWord[]): string {
	const wanted = EVIDENCE_WORDS.filter((w) => words.includes(w));
	const known = EVIDENCE_CHOICES.find((c) => c.words.join() === wanted.join());
	return known?.name ?? wanted.map((w) => (w === "none" ? "without evidence" : EVIDENCE_WORD[w])).join(" or ");
}

/** A filter on values in words: what it is about, and its span; null for a property that is not here. */
export function spanInWords(
	where: Where,
	own: OwnRows,
	unitSet: UnitSetId,
): { readonly name: string; readonly symbol: string; readonly text: string } | null {
	const row = rowOfProperty(where.property, own);
	const isPrice = PRICE.test(where.property);
	if (row === undefined && !isPrice) return null;
	const [name, symbol] = row === undefined ? ["Price", ""] : [row.name, row.symbol];
	const ends =
		row === undefined
			? endsText(where, String, `${where.property.slice("price:".length)}/kg`)
			: endsText(where, (si) => inUnit(si, row, unitSet), plainUnit(row.units[unitSet]));
	const evidence = where.evidence === undefined ? "" : evidenceInWords(where.evidence);
	const reach = where.reach === true && ends !== "" ? "may reach" : "";
	return { name, symbol, text: [ends, evidence, reach].filter((t) => t !== "").join(", ") };
}

/** `60–80 GPa`, `≥ 200 MPa`; "" where both ends are open. */
function endsText({ low, high }: Where, show: (si: number) => string, unit: string): string {
	if (low === null && high === null) return "";
	if (low === null) return `≤ ${show(high as number)} ${unit}`.trim();
	if (high === null) return `≥ ${show(low)} ${unit}`.trim();
	return `${low === high ? show(low) : `${show(low)}–${show(high)}`} ${unit}`.trim();
}

/**
 * A span of prices as it is typed: `2-5 EUR`, `<= 4.50 USD/kg`. The currency has to be said, because amounts of two are
 * never compared.
 * @returns issue `not-a-currency`, or those of the number
 */
export function readPriceSpan(text: string): Result<Where> {
	const found = /^(.*?)\s*([a-z]{3})\s*(?:\/\s*kg|per kg)?$/i.exec(text.trim());
	if (found === null) return fail({ code: "not-a-currency", actual: text.trim().slice(0, 40) });
	const [, amount = "", currency = ""] = found;
	// a number without a unit, read as any other
	const read = parseQuantity(amount, { ...property("embodied_carbon"), min: 0, max: 1e9 });
	if (!read.ok) return read;
	return ok({ property: `price:${currency.toUpperCase()}`, low: read.value.low, high: read.value.high });
}
