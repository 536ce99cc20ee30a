import {
	BASIS_WORD,
	EVIDENCE_WORD,
	isNumber,
	isSeries,
	type Material,
	type MaterialValue,
	type ModelValue,
	type SetValue,
	type Source,
	specOf,
	workingRule,
} from "@alvek/core/material";
import { axisById, type Component, entryName, formById, SECTIONS, type UnitSetId } from "@alvek/core/property";
import { numberIn, plainUnit, unitFor, valueText, workingText } from "../../ui/Quantity";

/** A line of a printed sheet: everything in words, so that it reads in black and white. */
export type PaperLine = {
	readonly id: string;
	readonly symbol: string;
	readonly name: string;
	readonly value: string;
	readonly unit: string;
	/** Evidence, basis, condition, working value, where it came from. */
	readonly about: string;
	/** Number of its source in the list; null where it has none. */
	readonly source: number | null;
};

export type PaperSection = {
	readonly name: string;
	readonly lines: readonly PaperLine[];
	readonly series: readonly MaterialValue[];
};

/** Sources of a sheet in order of their first use, those in words too. */
export function sourcesOf(material: Material): readonly string[] {
	const texts = Object.values(material.values).flatMap((v) => sourceText(v, material) ?? []);
	return [...new Set(texts)];
}

function sourceText(value: MaterialValue, { sources }: Material): string | null {
	if (value.sourceId !== undefined && sources[value.sourceId] !== undefined) return recordText(sources[value.sourceId] as Source);
	return value.source ?? null;
}

function recordText({ title, edition, address, date, conditions }: Source): string {
	return [title, edition, date, address, conditions].filter((w) => w !== undefined && w !== "").join(", ");
}

/** Values by section, in the order of the sheet; blank ones are not printed. */
export function paperSections(material: Material, unitSet: UnitSetId): readonly PaperSection[] {
	const sources = sourcesOf(material);
	const values = Object.values(material.values);
	return SECTIONS.flatMap((section): PaperSection[] => {
		const mine = values.filter((v) => sectionOf(v) === section.id);
		if (mine.length === 0) return [];
		const lines = mine.flatMap((value) => linesOf(value, material, unitSet, sources));
		return [{ name: section.name, lines, series: mine.filter(isSeries) }];
	});
}

function sectionOf(value: MaterialValue): string {
	return formById(value.property)?.section ?? specOf(value).section;
}

function linesOf(value: MaterialValue, material: Material, unitSet: UnitSetId, sources: readonly string[]): readonly PaperLine[] {
	const text = sourceText(value, material);
	const head = { id: value.id, source: text === null ? null : sources.indexOf(text) + 1, about: aboutOf(value, unitSet) };
	if (isNumber(value)) {
		const spec = specOf(value);
		const name = [spec.name, value.qualifier].filter((w) => w !== undefined && w !== "").join(", ");
		return [{ ...head, symbol: spec.symbol, name, value: valueText(value, unitSet), unit: plainUnit(unitFor(value, unitSet)) }];
	}
	const name = formById(value.property)?.name ?? entryName(value.property);
	if (isSeries(value)) {
		const points = value.columns[0]?.si.length ?? 0;
		return [{ ...head, symbol: "", name, value: `${points} points, below`, unit: "" }];
	}
	if (value.kind === "set" || value.kind === "model") return partsOf(value, name, head, unitSet);
	return [
		{
			...head,
			symbol: "",
			name,
			value: value.kind === "text" ? value.text : value.kind === "unknown" ? "unknown" : "does not apply",
			unit: "",
		},
	];
}

/** A directional set or a model: what it is in one line, then a line for each of its numbers. */
function partsOf(
	value: SetValue | ModelValue,
	name: string,
	head: Pick<PaperLine, "id" | "source" | "about">,
	unitSet: UnitSetId,
): readonly PaperLine[] {
	const form = formById(value.property);
	let shape = "";
	let specs: Readonly<Record<string, Component>> = {};
	if (value.kind === "set" && form?.kind === "set") {
		const symmetry = form.symmetries.find((s) => s.id === value.symmetry)?.name ?? value.symmetry;
		shape = `${symmetry}; 1, 2, 3: ${value.axes.join(", ")}`;
		specs = form.components;
	} else if (value.kind === "model" && form?.kind === "model") {
		const model = form.forms.find((f) => f.id === value.form);
		shape = model?.expression ?? value.form;
		specs = model?.coefficients ?? {};
	}
	const numbers = Object.entries(value.kind === "set" ? value.components : value.coefficients);
	const lines = numbers.map(([key, { low, high }]): PaperLine => {
		const spec = specs[key];
		const unit = spec?.units[unitSet] ?? "1";
		const show = (si: number): string => numberIn(si, unit, 6);
		const text =
			low === null
				? `≤ ${show(high ?? 0)}`
				: high === null
					? `≥ ${show(low)}`
					: low === high
						? show(low)
						: `${show(low)}–${show(high)}`;
		return {
			id: `${value.id} ${key}`,
			symbol: spec?.symbol ?? key,
			name: spec?.name ?? "",
			value: text,
			unit: plainUnit(unit),
			about: "",
			source: null,
		};
	});
	return [{ ...head, symbol: "", name, value: shape, unit: "" }, ...lines];
}

/** `measured, guaranteed minimum, at 100 °C, works with 102.5, carried over from Gudgeon bronze 5`. */
function aboutOf(value: MaterialValue, unitSet: UnitSetId): string {
	const header = isSeries(value) ? Object.values(value.header).filter((w) => w !== "") : [];
	const works = isNumber(value) ? workingText(value, unitSet) : null;
	const chosen = isNumber(value) && workingRule(value).chosen;
	return [
		value.evidence === undefined ? "" : EVIDENCE_WORD[value.evidence],
		value.basis === undefined ? "" : BASIS_WORD[value.basis],
		value.condition ?? "",
		...header,
		works ?? (chosen ? "working value chosen" : ""),
		value.carried === undefined ? "" : `CARRIED OVER from ${value.carried.name}, not confirmed`,
		value.follows === undefined ? "" : `follows ${value.follows.name} rev ${value.follows.revision}`,
	]
		.filter((w) => w !== "")
		.join(", ");
}

export type PaperTable = {
	readonly head: readonly string[];
	readonly rows: readonly (readonly string[])[];
	readonly left: number;
};

/** The most rows of a series that are printed; the curve above shows the rest. */
const MOST_ROWS = 24;

/** A series as a table of its own columns in the unit set; a long one thinned out evenly, both ends kept. */
export function paperTable(value: MaterialValue, unitSet: UnitSetId): PaperTable | null {
	if (!isSeries(value)) return null;
	const count = value.columns[0]?.si.length ?? 0;
	const kept =
		count <= MOST_ROWS
			? Array.from({ length: count }, (_, i) => i)
			: Array.from({ length: MOST_ROWS }, (_, i) => Math.round((i * (count - 1)) / (MOST_ROWS - 1)));
	const columns = value.columns.map((column) => {
		const spec = column.of === "value" ? specOf(value) : axisById(column.of);
		const unit = spec?.units[unitSet] ?? "1";
		const name = column.of === "value" ? (spec?.name ?? "") : (spec?.name ?? column.of);
		const cell = (i: number): string => {
			const low = numberIn(column.si[i] as number, unit, 5);
			const high = column.high?.[i];
			return high === undefined || high === column.si[i] ? low : `${low}–${numberIn(high, unit, 5)}`;
		};
		return { head: `${name}${plainUnit(unit) === "" ? "" : `, ${plainUnit(unit)}`}`, cell };
	});
	return { head: columns.map((c) => c.head), rows: kept.map((i) => columns.map((c) => c.cell(i))), left: count - kept.length };
}
