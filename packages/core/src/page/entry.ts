import { describeIssue } from "../result";
import { evaluate } from "./evaluate";
import { readLabel } from "./label";
import { readOneLine } from "./oneline";
import { readPrice } from "./price";
import { lineOf, marksIn, PageState } from "./state";
import { cleanPaste } from "./text";
import type { Ask, Taken } from "./types";

/** A piece of the line that was not taken, and what of it was not understood. */
export type EntryLeft = { readonly text: string; readonly why: string };

export type Entry = {
	readonly taken: readonly Taken[];
	readonly asks: readonly Ask[];
	/** Pieces that name no property or whose number does not read. */
	readonly left: readonly EntryLeft[];
	/** Prices per kilogram in the line. */
	readonly prices: readonly { readonly amount: string; readonly currency: string }[];
};

/**
 * Reads several entries in one line: `rho 2.71 g/cm3; E 68.9 GPa; nu 0.33; 4.20 EUR/kg`. A bare number takes the unit
 * that the field of that property shows.
 * @param fieldUnit the unit shown for a property
 */
export function readEntry(text: string, fieldUnit: (propertyId: string) => string | undefined): Entry {
	const taken: Taken[] = [];
	const asks: Ask[] = [];
	const left: EntryLeft[] = [];
	const prices: { amount: string; currency: string }[] = [];
	const pieces = cleanPaste(text)
		.slice(0, 4000)
		.split(/[;\n]/)
		.map((p) => p.trim());
	for (const [index, piece] of pieces.entries()) {
		if (piece === "") continue;
		const price = readPrice(piece, index + 1)?.price;
		if (price?.per === "kg" && price.question === undefined) {
			prices.push({ amount: price.amount, currency: price.currency });
			continue;
		}
		const line = lineOf(1, piece);
		const state = new PageState([line]);
		const found = readOneLine(state, line, { mark: null, fieldUnit });
		taken.push(...state.taken.map((t) => ({ ...t, line: index + 1 })));
		asks.push(...state.asks.map((a) => ({ ...a, line: index + 1 })));
		if (!found) left.push({ text: piece, why: whyLeft(piece) });
	}
	return { taken, asks, left, prices };
}

/** What of a piece was not understood: its name, its number, or its unit. */
function whyLeft(piece: string): string {
	const line = lineOf(1, piece);
	const e = line.expressions[0];
	const label = readLabel(e === undefined ? piece : piece.slice(0, e.from), marksIn(line, 0, e?.from ?? piece.length));
	if (label === null || label.properties.length === 0) return "no property of this name";
	if (e === undefined) return "no number";
	const read = evaluate(label, e, { mark: null });
	const issue = read.ok ? undefined : read.issues[0];
	if (issue?.code === "wrong-dimension" || issue?.code === "unknown-unit") {
		const unit = e.unit || piece.slice(e.to).trim();
		return `“${unit}” is no unit of it`;
	}
	return issue === undefined ? "not understood" : describeIssue(issue);
}
