import type { MaterialValue, NumberValue, SeriesValue } from "@alvek/core/material";
import { EVIDENCE_WORD, isNumber, quantityOf, specOf, workingRule, workingValue } from "@alvek/core/material";
import { axisById, formById, type PropertyRow, UNIT_SETS, type UnitSetId } from "@alvek/core/property";
import { fromSi, rangeText, showQuantity, significant, statistics, typeset, unitOf, unitParts } from "@alvek/core/quantity";
import { Fragment } from "react";
import { counted } from "./words";

/** A mass for each mass is one of gases: nothing else of the catalogue is measured so. */
const PER_MASS = "kg/kg";

/** A unit with raised exponents. */
export function UnitText({ unit, className = "text-ink3" }: { unit: string; className?: string }) {
	if (unit === "1" || unit === "") return null;
	if (unit === PER_MASS) return <span className={className}>{plainUnit(unit)}</span>;
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
export function unitFor(value: NumberValue, unitSet: UnitSetId): string {
	const spec = specOf(value);
	return spec.scales === true ? quantityOf(value).unit : spec.units[unitSet];
}

/** Numerals of a value in the unit set: `98–107`, with the digits that were typed. */
export function valueText(value: NumberValue, unitSet: UnitSetId): string {
	return valueIn(value, specOf(value).units[unitSet]);
}

/** The same in any unit of its property. */
export function valueIn(value: NumberValue, unit: string): string {
	const spec = specOf(value);
	if (value.kind === "readings") {
		const { mean, s } = statistics(value.readings);
		// a hardness scale is no unit that converts
		const shown = spec.scales === true ? "1" : unit;
		const spread = s === null ? "" : ` s\u2009${differenceIn(s, shown)}`;
		return `${numberIn(mean, shown)}${spread} n\u2009${value.readings.length}`;
	}
	const quantity = quantityOf(value);
	if (spec.scales === true) return scaleText(quantity);
	if (quantity.shape === "plus-minus" && value.low !== null && value.high !== null) {
		const { low, high } = value;
		// the centre and the half-width each with the digits that were typed for it
		const part = (si: number, index: number): string =>
			rangeText(
				showQuantity(
					{
						...quantity,
						shape: "scalar",
						// the half-width may have been typed in a unit of its own
						unit: (index === 1 ? quantity.secondUnit : undefined) ?? quantity.unit,
						secondUnit: undefined,
						low: si,
						high: si,
						digits: [quantity.digits[index] ?? ""],
						exponents: [quantity.exponents[index] ?? 0],
					},
					unit,
				),
			);
		const half = (high - low) / 2;
		const spread = spec.absoluteTemperature === true ? differenceIn(half, unit) : part(half, 1);
		return `${part(low / 2 + high / 2, 0)} ±\u2009${spread}`;
	}
	return rangeText(showQuantity(quantity, unit));
}

/** A difference in a unit: of a temperature without the offset of its scale. */
function differenceIn(si: number, unit: string): string {
	return typeset(trimZeros(significant(fromSi(si, unitOf(unit), "difference"), 3)));
}

/** One line for a value of any kind, unit and all. */
export function wordsOf(value: MaterialValue, unitSet: UnitSetId): string {
	if (isNumber(value)) return `${valueText(value, unitSet)} ${plainUnit(unitFor(value, unitSet))}`.trim();
	if (value.kind === "unknown") return "unknown";
	if (value.kind === "text") return value.text;
	if (value.kind === "not-applicable") return "does not apply";
	const form = formById(value.property);
	if (value.kind === "set") {
		const symmetry = form?.kind === "set" ? form.symmetries.find((s) => s.id === value.symmetry)?.name : undefined;
		return `${symmetry ?? value.symmetry}, ${counted(Object.keys(value.components).length, "number")}`;
	}
	if (value.kind === "model") {
		const shape = form?.kind === "model" ? form.forms.find((f) => f.id === value.form)?.name : undefined;
		return `${shape ?? value.form}, ${counted(Object.keys(value.coefficients).length, "number")}`;
	}
	return value.kind === "table" || value.kind === "curve" ? seriesWords(value, unitSet) : "";
}

/** `5 points, −40–200 °C, 94.53–103.8 GPa` of a table; of a curve its points and reach. */
function seriesWords(value: SeriesValue, unitSet: UnitSetId): string {
	const rows = value.columns[0]?.si.length ?? 0;
	const spans = value.columns.map((column) => {
		const spec = column.of === "value" ? specOf(value) : axisById(column.of);
		if (spec === undefined || rows === 0) return "";
		const unit = spec.units[unitSet];
		const show = (si: number): string => typeset(trimZeros(significant(fromSi(si, unitOf(unit)), 4)));
		const [low, high] = [Math.min(...column.si), Math.max(...(column.high ?? column.si))];
		return `${low === high ? show(low) : `${show(low)}–${show(high)}`} ${plainUnit(unit)}`.trim();
	});
	return [`${rows} points`, ...spans.filter((s) => s !== "")].join(", ");
}

/** Numerals of a hardness as typed: its scale is kept, nothing converts. */
function scaleText(quantity: ReturnType<typeof quantityOf>): string {
	const [first = "", second = first] = quantity.digits;
	if (quantity.shape === "plus-minus")
		return `${typeset(first)} ±\u2009${typeset(second)}${quantity.secondUnit === "%" ? "\u2009%" : ""}`;
	const low = quantity.low === null ? null : first;
	return rangeText({ low, high: quantity.high === null ? null : second, shape: quantity.shape, unit: quantity.unit });
}

/** What calculations work with, when that is not simply the value: `works with 102.5`. */
export function workingText(value: NumberValue, unitSet: UnitSetId): string | null {
	const spec = specOf(value);
	const chosen = value.working !== undefined || value.factor !== undefined;
	if ((value.low === value.high && !chosen) || spec.scales === true) return null;
	const working = workingValue(value);
	if (working === null) return "gives no working value";
	// an open end that works by its one number says nothing new
	if ((value.low === null || value.high === null) && !chosen) return null;
	const uses = Object.keys(value.working ?? {}).filter((use) => use !== "any");
	const times = value.factor === undefined ? "" : ` (times ${value.factor.by}, ${value.factor.reason})`;
	const rule = workingRule(value).chosen ? ", chosen" : "";
	const others = uses.length > 0 ? `, other for ${uses.map((u) => u.replaceAll("_", " ")).join(", ")}` : "";
	return `works with ${inUnit(working, spec, unitSet)}${rule}${times}${others}`;
}

/** An SI double in the unit of the set, four significant digits. */
export function inUnit(si: number, spec: Pick<PropertyRow, "units">, unitSet: UnitSetId, digits = 4): string {
	return numberIn(si, spec.units[unitSet], digits);
}

/** An SI double in any unit. */
export function numberIn(si: number, unit: string, digits = 4): string {
	return typeset(trimZeros(significant(fromSi(si, unitOf(unit)), digits)));
}

function trimZeros(text: string): string {
	return text.includes(".") ? text.replace(/0+$/, "").replace(/\.$/, "") : text;
}

/** The value in all unit sets and as it was typed, for a title. */
export function allUnits(value: MaterialValue): string {
	if (!isNumber(value)) return [...new Set(UNIT_SETS.map((set) => wordsOf(value, set.id)))].join("  =  ");
	const shown = UNIT_SETS.map((set) => `${valueText(value, set.id)} ${plainUnit(unitFor(value, set.id))}`.trim());
	return `${[...new Set(shown)].join("  =  ")}\nas typed: ${value.entered}`;
}

/** A unit without markup: `kg/m³`. */
export function plainUnit(unit: string): string {
	if (unit === "1") return "";
	if (unit === PER_MASS) return "kg CO₂e/kg";
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
/** The small letter behind a number; its word for readers of the page's text. */
export function EvidenceLetter({ value }: { value: MaterialValue }) {
	if (value.evidence === undefined) return <span className="inline-block w-3.5" />;
	// on the line and apart: raised, it would read as an exponent of the unit before it
	return (
		<abbr
			className="inline-block w-2.5 ml-1 no-underline text-center text-2xs font-semibold text-ink2"
			title={EVIDENCE_WORD[value.evidence]}
		>
			{EVIDENCE_LETTER[value.evidence]}
		</abbr>
	);
}
