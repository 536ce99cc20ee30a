import {
	type Bases,
	type Basis,
	type Edit,
	type Evidence,
	freshValueId,
	isSeries,
	type Material,
	type MaterialValue,
	makeSeries,
	makeValue,
	type Source,
	type TypedColumn,
} from "@alvek/core/material";
import type { Ask, Page, PageComposition, Taken, TakenCurve, TakenTable } from "@alvek/core/page";
import { entryName, formById, propertyById } from "@alvek/core/property";
import type { DecimalMark } from "@alvek/core/quantity";
import { ok, type Result } from "@alvek/core/result";

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
	readonly bases?: Bases;
	readonly note?: string;
	/** Open questions; a row with one is not ticked by itself. */
	readonly question: string | null;
	readonly choices: readonly { readonly property: string; readonly text: string }[];
	/** One of the page's grades. */
	readonly grade?: string;
	/** What each of several readings is of: its heat and test. */
	readonly labels?: readonly string[];
	/** Columns of a table or a curve; `text` then says how many points it has. */
	readonly series?: {
		readonly kind: "table" | "curve";
		readonly columns: readonly TypedColumn[];
		readonly header: Readonly<Record<string, string>>;
	};
	readonly ticked: boolean;
};

/** Below this a proposal is shown and not ticked by itself. */
const SURE = 0.9;

/** Rows of a page: what was understood, and what has to be asked, in the order of lines; of one grade where it has several. */
export function rowsOf(page: Page, grade: string | null = null): readonly Row[] {
	const isMine = (of: { readonly grade?: string }): boolean => of.grade === undefined || of.grade === grade;
	const rows = [
		...page.taken.filter(isMine).map((t, i): Row => ({ ...fromTaken(t), key: `t${i}` })),
		...page.tables.filter(isMine).map((t, i): Row => ({ ...fromTable(t), key: `s${i}` })),
		...page.curves.filter(isMine).map((c, i): Row => ({ ...fromCurve(c), key: `c${i}` })),
		...page.asks.filter(isMine).map((a, i): Row => ({ ...fromAsk(a), key: `a${i}` })),
	];
	return rows.sort((a, b) => a.line - b.line);
}

type Fresh = Omit<Row, "key">;

function present(
	of: Partial<Pick<Row, "mark" | "qualifier" | "condition" | "basis" | "working" | "bases" | "note" | "grade">>,
): Partial<Fresh> {
	const { mark, qualifier, condition, basis, working, bases, note, grade } = of;
	return Object.fromEntries(
		Object.entries({ mark, qualifier, condition, basis, working, bases, note, grade }).filter(([, v]) => v !== undefined),
	);
}

function fromTaken(t: Taken): Fresh {
	return {
		line: t.line,
		property: t.property,
		text: t.text,
		question: t.question ?? null,
		choices: [],
		ticked: t.question === undefined && t.confidence >= SURE,
		...(t.readings === undefined ? {} : { labels: t.readings.map((r) => r.label) }),
		...present(t),
	};
}

function fromTable(t: TakenTable): Fresh {
	const mark = t.mark === undefined ? {} : { mark: t.mark };
	const columns = ([t.axis, "value"] as const).map(
		(of, i): TypedColumn => ({ of, unit: t.units[i] as string, cells: t.cells.map((c) => c[i] as string), ...mark }),
	);
	return {
		line: t.line,
		property: t.property,
		text: `${t.points.length} points`,
		question: t.question ?? null,
		choices: [],
		ticked: t.question === undefined && t.confidence >= SURE,
		series: { kind: "table", columns, header: {} },
		...present({ ...t, mark: undefined }),
	} as Fresh;
}

/** A curve's columns in the order of its form: conditions, then x, then what was measured. */
function fromCurve(c: TakenCurve): Fresh {
	const form = formById(c.property);
	const order =
		form?.kind === "curve" ? [...form.conditions, form.x, ...form.y].filter((of) => c.columns.includes(of)) : c.columns;
	const columns = order.map((of): TypedColumn => {
		const at = c.columns.indexOf(of);
		return {
			of,
			unit: c.units[at] as string,
			cells: c.rows.map((r) => r.cells[at] as string),
			...(c.mark === undefined ? {} : { mark: c.mark }),
		};
	});
	return {
		line: c.line,
		property: c.property,
		text: `${c.rows.length} points`,
		question: c.question ?? null,
		choices: [],
		ticked: c.question === undefined && c.confidence >= SURE,
		series: { kind: "curve", columns, header: c.header },
		...present({ ...c, mark: undefined }),
	} as Fresh;
}

function fromAsk(a: Ask): Fresh {
	return {
		line: a.line,
		property: a.property,
		text: a.choices.length === 1 ? (a.choices[0]?.text ?? "") : "",
		question: a.question,
		choices: a.choices,
		ticked: false,
		...present(a),
	};
}

/** A row made by hand of a line that was left: the property chosen, the text for the user to correct. */
export function rowByHand(key: string, line: number, property: string, text: string): Row {
	return { key, line, property, text, question: null, choices: [], ticked: true, note: "named by hand" };
}

/** The first number on a left line with what follows it, as a beginning for the user. */
export function numberOn(line: string): string {
	const number = "[-−]?\\d[\\d.,]*";
	const first = new RegExp(
		`[<>≥≤~]?\\s?${number}(?:\\s?(?:[-–…±]|to|bis|à)\\s?${number})?[^\\d\\t;]{0,16}(?:\\d(?![\\d.,]))?`,
		"u",
	);
	return first.exec(line)?.[0]?.trim() ?? "";
}

/** What holds for all rows of a page, where a row says nothing else. */
type ProposedWords = { readonly evidence?: Evidence | ""; readonly basis?: Basis | ""; readonly sourceId?: string | null };

/** The value that a row becomes; issues while its text does not read. */
export function proposedValue(
	row: Row,
	id: string,
	{ evidence = "", basis = "", sourceId = null }: ProposedWords = {},
): Result<MaterialValue> {
	const said = (row.basis ?? basis) === "" ? {} : { basis: (row.basis ?? basis) as Basis };
	const words = {
		...(row.qualifier === undefined ? {} : { qualifier: row.qualifier }),
		...(row.condition === undefined ? {} : { condition: row.condition }),
		...(evidence === "" ? {} : { evidence }),
		...said,
		...(sourceId === null ? {} : { sourceId }),
	};
	if (row.series !== undefined) {
		const { kind, columns, header } = row.series;
		return makeSeries(
			{ id, property: row.property, ...words },
			{ kind, columns, interpolation: kind === "table" ? "linear" : "pchip", header },
		);
	}
	const made = makeValue({ id, property: row.property }, row.text, row.mark === undefined ? {} : { decimalMark: row.mark }, {
		...words,
		...(row.working === undefined ? {} : { working: { any: row.working } }),
		...(row.bases === undefined ? {} : { bases: row.bases }),
	});
	// a text that was corrected may hold another number of readings
	const labelled =
		made.ok &&
		made.value.kind === "readings" &&
		row.labels?.length === made.value.readings.length &&
		row.labels.some((l) => l !== "");
	return labelled ? ok({ ...made.value, labels: row.labels } as MaterialValue) : made;
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
		const first = !seen.has(row.property) && row.series === undefined;
		seen.add(row.property);
		const place = first ? placeFor(grown, row.property) : { id: freshValueId(grown, row.property), held: null };
		const { id } = place;
		places.set(row.key, place);
		grown = { ...grown, values: { ...grown.values, [id]: { id, property: row.property, kind: "unknown" } } };
	}
	return places;
}

/** The edits that take the ticked rows, their source first, then a price per kilogram and a composition. */
export function takeEdits(
	material: Material,
	rows: readonly Row[],
	words: { evidence: Evidence | ""; basis: Basis | ""; sourceId: string; source: Source },
	beside: { readonly price: Material["price"]; readonly composition: PageComposition | null },
): readonly Edit[] {
	const ticked = rows.filter((r) => r.ticked);
	const places = placesOf(ticked, material);
	const edits: Edit[] = [{ at: `sources:${words.sourceId}`, from: null, to: words.source }];
	for (const row of ticked) {
		const place = places.get(row.key);
		if (place === undefined) continue;
		const made = proposedValue(row, place.id, words);
		if (made.ok) edits.push({ at: place.id, from: place.held, to: made.value });
	}
	const { price, composition } = beside;
	if (price !== null) edits.push({ at: "field:price", from: material.price, to: price });
	if (composition !== null) edits.push({ at: "field:composition", from: material.composition, to: constituents(composition) });
	return edits;
}

/** Shares in per cent with the digits that they had, as the sheet's composition holds them. */
function constituents(of: PageComposition): Material["composition"] {
	const percent = (share: number | null): string => (share === null ? "" : String(Number((share * 100).toPrecision(10))));
	return of.elements.map((e) => ({
		name: e.element,
		min: percent(e.min),
		max: percent(e.max),
		...(e.balance === true ? { balance: true } : {}),
	}));
}

export function symbolOf(row: Row): string {
	const spec = propertyById(row.property);
	return spec?.qualifiers?.find((q) => q.id === row.qualifier)?.symbol ?? spec?.symbol ?? "";
}

export function nameOf(row: Row): string {
	return entryName(row.property);
}
