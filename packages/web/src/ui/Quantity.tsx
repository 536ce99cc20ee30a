import type { MaterialValue } from "@alvek/core/material";
import { quantityOf, workingValue } from "@alvek/core/material";
import { type PropertyRow, property, UNIT_SETS, type UnitSetId } from "@alvek/core/property";
import { fromSi, rangeText, showQuantity, significant, typeset, unitOf, unitParts } from "@alvek/core/quantity";
import { Fragment } from "react";

/** A unit with raised exponents. */
export function UnitText({ unit, className = "text-ink3" }: { unit: string; className?: string }) {
	if (unit === "1" || unit === "") return null;
	return (
		<span className={className}>
			{unitParts(unit).map((part, i) =>
				part.raised ? (
					// biome-ignore lint/suspicious/noArrayIndexKey: pieces of one fixed text
					<sup key={i}>{part.text}</sup>
				) : (
					// biome-ignore lint/suspicious/noArrayIndexKey: pieces of one fixed text
					<Fragment key={i}>{part.text}</Fragment>
				),
			)}
		</span>
	);
}

/** `R_p0.2` with its index, in italics. */
export function SymbolText({ symbol }: { symbol: string }) {
	const [base, index] = symbol.split("_");
	return (
		<span className="italic font-semibold">
			{base}
			{index !== undefined && <sub className="not-italic font-normal">{index}</sub>}
		</span>
	);
}

/** The unit that a value shows in: hardness keeps its scale, everything else follows the unit set. */
export function unitFor(value: MaterialValue, unitSet: UnitSetId): string {
	const spec = property(value.property);
	return spec.scales === true ? quantityOf(value).unit : spec.units[unitSet];
}

/** Numerals of a value in the unit set: `98–107`, with the digits that were typed. */
export function valueText(value: MaterialValue, unitSet: UnitSetId): string {
	const quantity = quantityOf(value);
	if (property(value.property).scales === true)
		return rangeText({ ...showScale(quantity.digits), shape: quantity.shape, unit: quantity.unit });
	return rangeText(showQuantity(quantity, property(value.property).units[unitSet]));
}

function showScale(digits: readonly string[]): { low: string; high: string } {
	return { low: digits[0] ?? "", high: digits[1] ?? digits[0] ?? "" };
}

/** What calculations work with, when that is not simply the value: `works with 102.5`. */
export function workingText(value: MaterialValue, unitSet: UnitSetId): string | null {
	if (value.low === value.high || property(value.property).scales === true) return null;
	const working = workingValue(value);
	if (working === null) return "gives no working value";
	// an open end that works by its one number says nothing new
	if (value.low === null || value.high === null) return null;
	return `works with ${inUnit(working, property(value.property), unitSet)}`;
}

/** An SI double in the unit of the set, four significant digits. */
export function inUnit(si: number, spec: PropertyRow, unitSet: UnitSetId, digits = 4): string {
	return typeset(trimZeros(significant(fromSi(si, unitOf(spec.units[unitSet])), digits)));
}

function trimZeros(text: string): string {
	return text.includes(".") ? text.replace(/0+$/, "").replace(/\.$/, "") : text;
}

/** The value in all unit sets and as it was typed, for a title. */
export function allUnits(value: MaterialValue): string {
	const shown = UNIT_SETS.map((set) => `${valueText(value, set.id)} ${plainUnit(unitFor(value, set.id))}`.trim());
	return `${[...new Set(shown)].join("  =  ")}\nas typed: ${value.entered}`;
}

/** A unit without markup: `kg/m³`. */
export function plainUnit(unit: string): string {
	if (unit === "1") return "";
	return unit.replace(/\^(-?[\d.]+)/g, (_, exponent: string) => [...exponent].map((c) => SUPERSCRIPT[c] ?? c).join(""));
}

const SUPERSCRIPT: Readonly<Record<string, string>> = {
	"-": "⁻",
	"0": "⁰",
	"1": "¹",
	"2": "²",
	"3": "³",
	"4": "⁴",
	"5": "⁵",
	"6": "⁶",
	"7": "⁷",
	"8": "⁸",
	"9": "⁹",
};

export const EVIDENCE_LETTER = { measured: "m", standard: "s", "data-sheet": "d", estimated: "e" } as const;
export const EVIDENCE_WORD = {
	measured: "measured",
	standard: "standard",
	"data-sheet": "data sheet",
	estimated: "estimated",
} as const;
export const BASIS_WORD = {
	typical: "typical",
	"guaranteed-minimum": "guaranteed minimum",
	mean: "mean",
	characteristic: "characteristic",
	unknown: "basis unknown",
} as const;

/** The small letter behind a number; its word for readers of the page's text. */
export function EvidenceLetter({ value }: { value: MaterialValue }) {
	if (value.evidence === undefined) return <span className="inline-block w-[9px]" />;
	return (
		<abbr className="inline-block w-[8px] ml-[1px] no-underline" title={EVIDENCE_WORD[value.evidence]}>
			<sup className="text-[9px] font-semibold text-ink2">{EVIDENCE_LETTER[value.evidence]}</sup>
		</abbr>
	);
}
