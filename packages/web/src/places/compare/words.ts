import { type CompareRow, difference, type Entry, type Figure } from "@alvek/core/compare";
import { BASIS_WORD, EVIDENCE_WORD } from "@alvek/core/material";
import { propertyById, type UnitSetId } from "@alvek/core/property";
import { numberIn, plainUnit, valueIn } from "../../ui/Quantity";
import { type Column, labelOf } from "./useCompared";

type NumberEntry = Extract<Entry, { kind: "number" }>;

const SIGNS: Readonly<Record<string, string>> = { EUR: "€", USD: "$", GBP: "£" };

/** The unit of a row; a currency stands where its unit has a one. */
export function unitText(row: CompareRow, unitSet: UnitSetId): string {
	const unit = row.units[unitSet];
	if (row.currency === null) return plainUnit(unit);
	return plainUnit(unit).replace(/^1/, SIGNS[row.currency] ?? row.currency);
}

/** A number as it stands in its column: `8.78–8.91`, `≥ 262`, `135 along, 8.6 across`. */
export function entryText(entry: Entry, row: CompareRow, unitSet: UnitSetId): string {
	if (entry.kind === "words") return entry.words;
	if (entry.kind !== "number") return entry.kind === "not-applicable" ? "does not apply" : entry.kind;
	const unit = row.units[unitSet];
	if (entry.value !== null) return valueIn(entry.value, unit);
	const { low, high, working } = entry.figure;
	const show = (x: number): string => numberIn(x, unit, row.formula === "" ? 4 : 3);
	const worked = (x: number | null): string => (x === null ? "open" : show(x));
	if (entry.across !== null) return `${worked(working)} along, ${worked(entry.across.working)} across`;
	if (low !== null && high !== null && show(low) !== show(high)) return `${show(low)}–${show(high)}`;
	if (low !== null && high === null) return `≥\u2009${show(low)}`;
	if (high !== null && low === null) return `≤\u2009${show(high)}`;
	return working === null ? "blank" : show(working);
}

/** How a material stands to the one it is compared with: `69 % lighter`, `2.1 × present`. */
export function differenceText(
	[entry, base]: readonly [entry: Entry, base: Entry | undefined],
	row: CompareRow,
	of: string,
	unitSet: UnitSetId,
): string {
	if (entry.kind !== "number" || base?.kind !== "number") return "";
	const found = difference(entry.figure, base.figure, propertyById(row.id)?.absoluteTemperature === true);
	const [more, less] = row.words;
	switch (found?.kind) {
		case undefined:
			return "";
		case "same":
			return "the same";
		case "overlap":
			return "ranges meet";
		case "times":
			return `${round(found.times)} × ${of}`;
		case "percent":
			return `${found.percent < 1 ? found.percent.toFixed(1) : Math.round(found.percent)} % ${found.more ? more : less}`;
		case "by": {
			const unit = row.units[unitSet];
			const [x, y] = [entry.figure.working ?? 0, base.figure.working ?? 0].map((si) =>
				Number(plainNumber(numberIn(si, unit, 6))),
			);
			const by = (x as number) - (y as number);
			return `${by > 0 ? "+" : "−"}${round(Math.abs(by))} ${plainUnit(unit)}`.trim();
		}
	}
}

const plainNumber = (text: string): string => text.replace(/\u2009/g, "").replace("\u2212", "-");

function round(x: number): string {
	return String(Number(x.toPrecision(x < 10 ? 2 : 3)));
}

/** Where the materials differ in how far their numbers can be trusted, as sentences. */
export function trustSentences(columns: readonly Column[], rows: readonly CompareRow[]): readonly string[] {
	const sentences: string[] = [];
	const numbers = rows.filter((r) => r.formula === "" && r.currency === null);
	const named = (test: (entry: NumberEntry) => boolean, c: number): string[] =>
		numbers
			.filter((r) => r.entries[c]?.kind === "number" && test(r.entries[c] as NumberEntry))
			.map((r) => r.symbol.replace("_", "") || r.name.toLowerCase());
	for (const [c, column] of columns.entries()) {
		const carried = named((e) => e.carried, c);
		const estimated = named((e) => e.evidence === "estimated" && !e.carried, c);
		const bare = named((e) => e.evidence === null && !e.carried, c);
		if (carried.length > 0) sentences.push(`${labelOf(column, columns)}: ${listed(carried)} carried over.`);
		if (estimated.length > 0) sentences.push(`${labelOf(column, columns)}: ${listed(estimated)} ${EVIDENCE_WORD.estimated}.`);
		if (bare.length > 0) sentences.push(`${labelOf(column, columns)}: ${listed(bare)} without evidence.`);
	}
	for (const row of numbers) {
		const bases = row.entries.map((e) => (e.kind === "number" ? (e.basis ?? "unknown") : null));
		const said = [...new Set(bases.filter((b) => b !== null))];
		if (said.length < 2) continue;
		const parts = said.map((b) => {
			const names = columns.filter((_, c) => bases[c] === b).map((column) => labelOf(column, columns));
			return `${BASIS_WORD[b]} for ${names.join(" and ")}`;
		});
		sentences.push(`${row.name}: ${parts.join(", ")}.`);
	}
	return sentences;
}

function listed(words: readonly string[]): string {
	if (words.length > 6) return `${words.slice(0, 5).join(", ")} and ${words.length - 5} more`;
	return words.length === 1 ? (words[0] as string) : `${words.slice(0, -1).join(", ")} and ${words.at(-1)}`;
}

/** The comparison as rows for a spreadsheet: per material both ends, the working number and what it rests on. */
export function compareTable(
	columns: readonly Column[],
	rows: readonly CompareRow[],
	unitSet: UnitSetId,
): readonly (readonly string[])[] {
	const head = [
		"Property",
		"Unit",
		...columns.flatMap(({ name, revision, draft }) => {
			const who = `${name}, ${draft ? "draft" : `rev ${revision}`}`;
			return [`${who}: low`, `${who}: high`, `${who}: works with`, `${who}: evidence`, `${who}: basis`];
		}),
	];
	const number = (si: number | null, unit: string): string => (si === null ? "" : plainNumber(numberIn(si, unit, 9)));
	const line = (row: CompareRow, name: string, figureOf: (e: NumberEntry) => Figure | null): readonly string[] => {
		const unit = row.units[unitSet];
		const cells = row.entries.flatMap((e) => {
			const figure = e.kind === "number" ? figureOf(e) : null;
			if (e.kind !== "number" || figure === null)
				return [e.kind === "number" || e.kind === "blank" ? "" : entryText(e, row, unitSet), "", "", "", ""];
			const evidence = e.carried ? "carried over" : e.evidence === null ? "" : EVIDENCE_WORD[e.evidence];
			const about = [evidence, e.fromTable ? "at 20 °C" : "", e.across === null ? "" : "directional set"];
			return [
				number(figure.low, unit),
				number(figure.high, unit),
				number(figure.working, unit),
				about.filter((w) => w !== "").join(", "),
				e.basis === null ? "" : BASIS_WORD[e.basis],
			];
		});
		return [name, unitText(row, unitSet), ...cells];
	};
	const body = rows.flatMap((row) => {
		const name = row.formula === "" ? row.name : `${row.name} (${row.formula})`;
		const along = line(row, name, (e) => e.figure);
		const isDirectional = row.entries.some((e) => e.kind === "number" && e.across !== null);
		// what stands across the first axis is a number like any other, in a line of its own
		return isDirectional ? [along, line(row, `${name}, across axis 1`, (e) => e.across)] : [along];
	});
	return [head, ...body];
}

/** Both ends of an axis that holds all numbers of a row, in the unit on screen; from zero unless some are below. */
export function axisOf(
	row: CompareRow,
	unitSet: UnitSetId,
): { readonly low: number; readonly high: number; readonly at: (si: number) => number } {
	const unit = row.units[unitSet];
	const show = (si: number): number => Number(plainNumber(numberIn(si, unit, 9).replace(/·10\^/, "e")));
	const all = row.entries.flatMap((e) => {
		if (e.kind !== "number") return [];
		const { low, high, working } = e.figure;
		return [low, high, working, e.across?.low ?? null, e.across?.high ?? null].filter((x) => x !== null).map(show);
	});
	const low = Math.min(0, ...all);
	const high = Math.max(...all, low) * 1.08 || 1;
	return { low, high, at: (si) => Math.min(Math.max((show(si) - low) / (high - low || 1), 0), 1) };
}
