import {
	type Basis,
	type Edit,
	type Evidence,
	freshValueId,
	isSeries,
	type Material,
	type MaterialValue,
	makeValue,
	type NumberValue,
	type Source,
} from "@alvek/core/material";
import type { Page, Taken } from "@alvek/core/page";
import { property } from "@alvek/core/property";
import type { DecimalMark } from "@alvek/core/quantity";
import type { Result } from "@alvek/core/result";

/** A proposed value on its way to the sheet, as the user left it. */
export type Row = {
	readonly key: string;
	readonly line: number;
	readonly property: string;
	readonly text: string;
	readonly mark?: DecimalMark;
	readonly qualifier?: string;
	readonly condition?: string;
	readonly basis?: Basis;
	readonly working?: string;
	readonly note?: string;
	/** Open questions; a row with one is not ticked by itself. */
	readonly question: string | null;
	readonly choices: readonly { readonly property: string; readonly text: string }[];
	readonly ticked: boolean;
};

/** Rows of a page: what was understood, and what has to be asked, in the order of lines. */
export function rowsOf(page: Page): readonly Row[] {
	const taken = page.taken.map((t, i): Row => ({ ...fromTaken(t), key: `t${i}` }));
	const asks = page.asks.map(
		(a, i): Row => ({
			key: `a${i}`,
			line: a.line,
			property: a.property,
			text: a.choices.length === 1 ? (a.choices[0]?.text ?? "") : "",
			question: a.question,
			choices: a.choices,
			ticked: false,
		}),
	);
	return [...taken, ...asks].sort((a, b) => a.line - b.line);
}

function fromTaken(t: Taken): Omit<Row, "key"> {
	const { line, property: id, text, mark, qualifier, condition, basis, working, note, question } = t;
	return {
		line,
		property: id,
		text,
		question: question ?? null,
		choices: [],
		ticked: question === undefined,
		...(mark === undefined ? {} : { mark }),
		...(qualifier === undefined ? {} : { qualifier }),
		...(condition === undefined ? {} : { condition }),
		...(basis === undefined ? {} : { basis }),
		...(working === undefined ? {} : { working }),
		...(note === undefined ? {} : { note }),
	};
}

/** The value that a row becomes; issues while its text does not read. */
export function proposedValue(
	row: Row,
	id: string,
	evidence: Evidence | "",
	basis: Basis | "",
	sourceId: string | null,
): Result<NumberValue> {
	return makeValue(id, row.property, row.text, row.mark === undefined ? {} : { decimalMark: row.mark }, {
		...(row.qualifier === undefined ? {} : { qualifier: row.qualifier }),
		...(row.condition === undefined ? {} : { condition: row.condition }),
		...(row.working === undefined ? {} : { working: { any: row.working } }),
		...(evidence === "" ? {} : { evidence }),
		...((row.basis ?? basis) === "" ? {} : { basis: (row.basis ?? basis) as Basis }),
		...(sourceId === null ? {} : { sourceId }),
	});
}

/** Where a number of a property goes: onto the number that is there, beside a table or a curve, which stay. */
export function placeFor(material: Material, property: string): { readonly id: string; readonly held: MaterialValue | null } {
	const held = material.values[property] ?? null;
	return held === null || !isSeries(held) ? { id: property, held } : { id: freshValueId(material, property), held: null };
}

/** What stands on the sheet where the row would go: the first one of a property replaces, further ones are added. */
export function placesOf(
	rows: readonly Row[],
	material: Material,
): ReadonlyMap<string, { id: string; held: MaterialValue | null }> {
	const places = new Map<string, { id: string; held: MaterialValue | null }>();
	let grown = material;
	const seen = new Set<string>();
	for (const row of rows) {
		const first = !seen.has(row.property);
		seen.add(row.property);
		const place = first ? placeFor(grown, row.property) : { id: freshValueId(grown, row.property), held: null };
		const { id } = place;
		places.set(row.key, place);
		grown = { ...grown, values: { ...grown.values, [id]: { id, property: row.property, kind: "unknown" } } };
	}
	return places;
}

/** The edits that take the ticked rows, their source first, and the price when it is per kilogram. */
export function takeEdits(
	material: Material,
	rows: readonly Row[],
	words: { evidence: Evidence | ""; basis: Basis | ""; sourceId: string; source: Source },
	price: Material["price"],
): readonly Edit[] {
	const ticked = rows.filter((r) => r.ticked);
	const places = placesOf(ticked, material);
	const edits: Edit[] = [{ at: `sources:${words.sourceId}`, from: null, to: words.source }];
	for (const row of ticked) {
		const place = places.get(row.key);
		if (place === undefined) continue;
		const made = proposedValue(row, place.id, words.evidence, words.basis, words.sourceId);
		if (made.ok) edits.push({ at: place.id, from: place.held, to: made.value });
	}
	if (price !== null) edits.push({ at: "field:price", from: material.price, to: price });
	return edits;
}

/** Where the numbers of a row stand in its line, for marking them; each found once, in order. */
export function numberSpans(line: string, row: Pick<Row, "text">): readonly (readonly [number, number])[] {
	const spans: [number, number][] = [];
	let from = 0;
	for (const match of row.text.matchAll(/(?<![×x·^]\s?|\^[-−]|[\d.,])\d[\d.,]*(?:\s\d{3}(?!\d))*/g)) {
		const at = line.indexOf(match[0], from);
		if (at < 0) continue;
		spans.push([at, at + match[0].length]);
		from = at + match[0].length;
	}
	return spans;
}

export function symbolOf(row: Row): string {
	const spec = property(row.property);
	return spec.qualifiers?.find((q) => q.id === row.qualifier)?.symbol ?? spec.symbol;
}
