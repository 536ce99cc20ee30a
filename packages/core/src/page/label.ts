import { HARDNESS_SCALES, normaliseText, readUnit } from "../quantity";
import { isHead, type LabelSymbol, labelRow, symbolOf, wordOf } from "./lexicon";
import type { Mark } from "./marks";
import { lastHead, type Phrase, phrasesOf } from "./phrases";

/** What a label says: the property that its words name, and everything that belongs to it. */
export type Label = {
	/** Candidates; the dimension of the number picks one. Empty: the words name something that we do not know. */
	readonly properties: readonly string[];
	readonly qualifier?: string;
	readonly ask?: string;
	readonly limit?: "min" | "max" | "typ";
	readonly conditions: readonly string[];
	readonly scale?: string;
	/** A unit that stands in the label: `[N/mm²]`, `, MPa`, `in W/kg`. */
	readonly unit?: string;
	/** From 0 to 1. */
	readonly confidence: number;
	/** The words are part of a sentence. */
	readonly prose: boolean;
	/** An index that names a definition we do not have: Rp0.1. */
	readonly unknownDefinition?: true;
};

const ROOM = /(?:room|ambient) temperature|raumtemperatur|température ambiante/gi;
/** A short name behind a property that is a symbol, although we do not know it: `Bs`, `Hc`. */
const SYMBOL_LIKE = /^[A-Z][a-z]$|^[A-Z]{1,2}[a-z]$/;
/** Words behind which a symbol says where a value holds, and names nothing: `below Tg`. */
const BESIDE = /^(?:below|above|under|unter|über|at|bei|near|sous)$/i;

/**
 * Reads the words between two numbers as a label. A word that no property knows vetoes the whole label: tear strength
 * is no strength. Words behind a comma, in brackets or behind a preposition tell where the value holds.
 * @param text a piece of a line; `marks` are those inside it, with positions of the piece
 * @returns null where the text names nothing
 */
export function readLabel(text: string, marks: readonly Mark[]): Label | null {
	if (text.length > LONGEST_LABEL) return readLabel(text.slice(-LONGEST_LABEL), moved(marks, LONGEST_LABEL - text.length));
	if (marks.length > 0) return read(text, marks);
	const known = labels.get(text);
	if (known !== undefined) return known;
	const found = LETTER.test(text) ? read(text, marks) : null;
	if (labels.size >= MOST_KEPT) labels.clear();
	labels.set(text, found);
	return found;
}

/** No name of a property is longer; of a longer text the end before the number is read. */
const LONGEST_LABEL = 160;
const LETTER = /\p{L}/u;
/** Labels read before: a line is looked at as a head, as a row and by itself. */
const labels = new Map<string, Label | null>();
const MOST_KEPT = 4000;

function moved(marks: readonly Mark[], by: number): readonly Mark[] {
	return marks.map((m) => ({ ...m, from: m.from + by, to: m.to + by })).filter((m) => m.from >= 0);
}

/** What the words of a label say, before they are looked up together. */
type Heard = {
	/** Concepts, of all words together. */
	readonly bag: Set<string>;
	readonly conditions: string[];
	limit: Label["limit"];
	/** A sentence rather than a label. */
	prose: boolean;
	/** A word of the name that is not known: the whole may be something else. */
	vetoed: boolean;
	/** A symbol written in letters. */
	letters: { readonly symbol: LabelSymbol; readonly alone: boolean } | null;
};

function read(text: string, marks: readonly Mark[]): Label | null {
	const bare = blankMarks(text, marks).replace(ROOM, (words) => "rt".padEnd(words.length, " "));
	const { unit, rest } = unitOfLabel(bare, marks.length > 0);
	const heard = hear(phrasesOf(rest), rest);
	const { bag, conditions, limit, prose, letters } = heard;
	const marked = marks.filter((m) => m.symbol !== undefined);
	for (const c of [...marked.flatMap((m) => m.symbol?.concepts ?? []), ...(letters?.symbol.concepts ?? [])]) bag.add(c);
	conditions.push(...marks.flatMap((m) => m.condition ?? []));
	const scale = scaleIn(rest, marks);
	const extra: Extra = {
		conditions: conditions.map((c) => c.trim()).filter((c) => c !== ""),
		prose,
		...(limit === undefined ? {} : { limit }),
		...(scale === null ? {} : { scale }),
		...(unit === null ? {} : { unit }),
	};
	const signs: Signs = {
		symbol: marked.at(-1)?.symbol ?? letters?.symbol,
		offset: marks.find((m) => m.qualifier !== undefined)?.qualifier,
		isUnknown: marked.some((m) => m.unknown === true),
		rest,
	};
	const row = heard.vetoed ? null : labelRow(bag);
	return row === null ? bySymbol(heard, signs, extra) : byRow(row, heard, signs, extra);
}

/** What stands beside the name of a label. */
type Extra = Pick<Label, "prose" | "limit" | "scale" | "unit"> & { readonly conditions: string[] };
/** Symbols and marks beside the words. */
type Signs = {
	readonly symbol: LabelSymbol | undefined;
	readonly offset: string | undefined;
	/** A symbol whose definition is not known here. */
	readonly isUnknown: boolean;
	/** The text without marks and unit. */
	readonly rest: string;
};

/** A word as it is looked up: without an elided article, and `use` only where it names a temperature. */
function meaningOf(lower: string, rest: string): ReturnType<typeof wordOf> {
	// `use 0.38` tells to, a use temperature is one
	if ((lower === "use" || lower === "working") && !/temp/i.test(rest)) return { is: "verb" };
	const word = wordOf(lower);
	return word.is === "unknown" ? wordOf(lower.replace(/^[dl]'/, "")) : word;
}

function hear(phrases: readonly Phrase[], rest: string): Heard {
	const heard: Heard = { bag: new Set(), conditions: [], limit: undefined, prose: false, vetoed: false, letters: null };
	const main = lastHead(phrases);
	for (const [index, phrase] of phrases.entries())
		if (index >= main || phrase.bracket) hearPhrase(heard, phrase, index - main, rest);
	return heard;
}

/** @param place of the phrase from the one that holds the name: 0 is that one, before it only brackets are heard */
function hearPhrase(heard: Heard, phrase: Phrase, place: number, rest: string): void {
	const { bag, conditions } = heard;
	let where: string[] | null = phrase.bracket ? [] : null;
	const unknown: string[] = [];
	let concepts = 0;
	for (const written of phrase.words) {
		const lower = written.toLowerCase().replace(/’/g, "'");
		const symbol = symbolOf(written);
		const word = meaningOf(lower, rest);
		if (
			symbol !== undefined &&
			word.is !== "concept" &&
			(written.length > 1 || phrase.words.length <= 2 || isSymbolPlace(phrase, written))
		) {
			if (where !== null && BESIDE.test(where[0] ?? "")) where.push(written);
			else heard.letters ??= { symbol, alone: phrase.words.length === 1 };
			continue;
		}
		if (word.is === "concept") {
			for (const c of word.concepts) bag.add(c);
			concepts++;
			where = phrase.bracket ? where : null;
		} else if (word.is === "limit") heard.limit = word.limit;
		else if (word.is === "verb") heard.prose = true;
		else if (word.is === "preposition") where = where !== null && where.length > 0 ? [...where, written] : [written];
		else if (word.is === "condition" && concepts === 0 && place <= 0 && !phrase.bracket) conditions.push(written);
		else if (word.is === "condition") where = [...(where ?? []), written];
		else if (word.is === "unknown" && where !== null) where.push(written);
		else if (word.is === "unknown" && !(SYMBOL_LIKE.test(written) && phrase.words.at(-1) === written)) unknown.push(written);
		if (where !== null && where.length > 0 && word.is === "concept") where = null;
	}
	if (unknown.length > 0 && place === 0 && !heard.prose && bag.size > 0) heard.vetoed = true;
	else if (unknown.length > 0 && place > 0 && !heard.prose) conditions.push(unknown.join(" "));
	const told = (where ?? []).filter((w) => wordOf(w.toLowerCase()).is !== "preposition");
	if (told.length > 0) conditions.push((where as string[]).join(" "));
}

/** A label whose words name nothing by themselves. */
function bySymbol({ bag, vetoed, prose }: Heard, { symbol, offset, isUnknown, rest }: Signs, extra: Extra): Label | null {
	if (vetoed || [...bag].some(isHead)) {
		// `Stress (σ_M)`: words that say too little beside a symbol that says all
		const helped = !vetoed && symbol !== undefined && bag.size <= 1 && !bag.has("change");
		if (!helped) return { properties: [], confidence: 1, ...extra };
	}
	if (symbol === undefined) return null;
	return {
		properties: [symbol.property, ...(symbol.others ?? [])],
		...qualifierOf(symbol, offset, symbol.property, rest),
		...(isUnknown ? { unknownDefinition: true as const } : {}),
		confidence: prose ? 0.6 : 0.95,
		...extra,
	};
}

/** A label whose words stand in the list of labels; a symbol beside them chooses among what they may mean. */
function byRow(
	row: NonNullable<ReturnType<typeof labelRow>>,
	{ bag, limit, prose }: Heard,
	{ symbol, offset, isUnknown, rest }: Signs,
	extra: Extra,
): Label {
	const named = symbol !== undefined && row.properties.includes(symbol.property) ? [symbol.property] : row.properties;
	if (bag.has("saturation") && row.properties[0] === "water_absorption") extra.conditions.push("saturation");
	const properties = pickService(named, limit);
	const first = properties[0] as string;
	const said = symbol?.property === first ? symbol : undefined;
	const definition = row.qualifier === undefined ? qualifierOf(said, offset, first, rest) : { qualifier: row.qualifier };
	// the greatest permeability and the greatest energy product are points of a curve, no limits
	if (first === "relative_permeability" && limit !== undefined) return { properties: [], confidence: 1, ...extra };
	const consumed = properties !== named || first === "energy_product" ? { ...extra, limit: undefined } : extra;
	return {
		properties,
		...definition,
		...(isUnknown && first === "yield_strength" ? { unknownDefinition: true as const } : {}),
		...(row.ask === undefined ? {} : { ask: row.ask }),
		confidence: prose ? 0.6 : 1,
		...consumed,
	} as Label;
}

/** Single letters are symbols only at the end of the name or in brackets: `Young's modulus E`, not an article `A`. */
function isSymbolPlace(phrase: Phrase, written: string): boolean {
	return phrase.bracket || phrase.words.at(-1) === written;
}

function blankMarks(text: string, marks: readonly Mark[]): string {
	let out = text;
	for (const m of marks)
		out = `${out.slice(0, Math.max(0, m.from))}${" ".repeat(Math.max(0, m.to - Math.max(0, m.from)))}${out.slice(m.to)}`;
	return out.slice(0, text.length);
}

function pickService(properties: readonly string[], limit: Label["limit"]): readonly string[] {
	if (properties[0] !== "service_temperature") return properties;
	if (limit === "max") return ["service_temperature_max"];
	return limit === "min" ? ["service_temperature_min"] : properties;
}

/** Which definition the words or the symbol mean; none where they do not say. */
function qualifierOf(
	symbol: LabelSymbol | undefined,
	offset: string | undefined,
	property: string,
	text: string,
): { qualifier?: string } {
	if (property === "yield_strength") {
		if (offset?.startsWith("R") === true) return { qualifier: offset };
		if (symbol?.qualifier !== undefined) return { qualifier: symbol.qualifier };
		if (/upper yield|obere streckgrenze/i.test(text)) return { qualifier: "ReH" };
		if (/lower yield|untere streckgrenze/i.test(text)) return { qualifier: "ReL" };
		if (/streckspannung|stress at yield|strength at yield|tensile (?:strength|stress),? \(?(?:at )?yield/i.test(text))
			return { qualifier: "sigma_Y" };
		return {};
	}
	if (property === "elongation" && offset?.startsWith("A") === true) return { qualifier: offset };
	if (property === "thermal_expansion") {
		if (/\bmean\b|mittler|moyen/i.test(text)) return { qualifier: "secant" };
		return /instantaneous|momentan/i.test(text) ? { qualifier: "instantaneous" } : {};
	}
	return symbol?.qualifier === undefined ? {} : { qualifier: symbol.qualifier };
}

/** A hardness scale in the words of a label or in a mark: `Brinell hardness`, `Hardness HV10`. */
function scaleIn(text: string, marks: readonly Mark[]): string | null {
	const marked = marks.find((m) => m.scale !== undefined)?.scale;
	if (marked !== undefined) return marked.startsWith("HB") ? "HBW" : marked;
	const lower = text.toLowerCase();
	if (!/hard|härte|dureté|h[bvr]|shore|irhd/.test(lower)) return null;
	if (/brinell|\bhb[ws]?\b/.test(lower)) return "HBW";
	if (/vickers|\bhv\b/.test(lower)) return "HV";
	const letter = /(?:rockwell ?|\bhr)([abc])\b/.exec(lower)?.[1];
	if (letter !== undefined) return `HR${letter.toUpperCase()}`;
	const shore = /shore[ -]?([ad])\b/.exec(lower)?.[1];
	if (shore !== undefined) return `Shore ${shore.toUpperCase()}`;
	if (/irhd/.test(lower)) return "IRHD";
	return HARDNESS_SCALES.find((s) => new RegExp(`(?<![\\p{L}])${s}(?![\\p{L}])`, "u").test(text)) ?? null;
}

const UNIT_IN_BRACKETS = /(?<![/·*.\p{L}\d])[[(]\s*(?:in\s+)?([^\][()]{1,24}(?:\([^()]{1,16}\)[^\][()]{0,8})?)\s*[\])]/gu;

/** A unit that the label says, and the label without it. */
function unitOfLabel(text: string, marked: boolean): { unit: string | null; rest: string } {
	// a cell of its own, before or behind those of standards
	let at = 0;
	const cells = /\t| {2}/.test(text) ? text.split(/\t| {2,}/) : [];
	for (const cell of cells) {
		at = text.indexOf(cell, at);
		if (cell.trim() !== "" && text.slice(0, at).trim() !== "" && isUnit(cell.trim()))
			return { unit: cell.trim(), rest: cutOut(text, at, cell.length) };
		at += cell.length;
	}
	const brackets = /[([]/.test(text) ? [...text.matchAll(UNIT_IN_BRACKETS)].reverse() : [];
	for (const match of brackets) {
		const inner = (match[1] as string).trim();
		if (isUnit(inner)) return { unit: inner, rest: cutOut(text, match.index, match[0].length) };
	}
	// behind the last comma or `in`: `Young's modulus, GPa`, `specific total loss in W/kg`
	const tail = !/,| in /.test(text)
		? null
		: /(?:,\s*|\s+in\s+)(?=\S)([^,()[\]]{1,24}(?:\([^()]{1,16}\)[^,()[\]]{0,8})?)\s*:?\s*$/.exec(text);
	if (tail !== null && isUnit((tail[1] as string).trim()))
		return { unit: (tail[1] as string).trim(), rest: text.slice(0, tail.index) };
	// a bare unit at the end of a head: `Rm MPa`, `A5 % min.`
	const last = /(?:^|\s)(\S{1,16})((?:\s+(?:min|max)\.?)?)\s*:?\s*$/i.exec(text);
	if (last !== null && (marked || text.slice(0, last.index).trim() !== "") && last.index > 0 && isUnit(last[1] as string))
		return { unit: last[1] as string, rest: `${text.slice(0, last.index)}${last[2]}` };
	return { unit: null, rest: text };
}

function cutOut(text: string, at: number, length: number): string {
	return `${text.slice(0, at)}${" ".repeat(length)}${text.slice(at + length)}`;
}

const units = new Map<string, boolean>();

/** Does the text read as a unit of anything, and not as a word that happens to be one (`A`, `in`, `h`, `t`)? */
export function isUnit(text: string): boolean {
	if (text.length > 32 || text === "") return false;
	const known = units.get(text);
	if (known !== undefined) return known;
	const normal = normaliseText(text);
	const plausible =
		/[/%°·^²³Ω‰*]|[Oo]hm|^(?:[kMGm]?Pa|[kM]?psi|K?PSI|[kM]si|[kM]?J|HBW?|HV|HR[ABC]|T|[kM]?N|K|MS\/m|IACS|[kM]?Hz|mm|MGOe|[km]?G|[kM]?Oe|IRHD|Shore [AD]|ppm.*|[kM]?bar)$/.test(
			text,
		);
	const found = plausible && (readUnit(normal, []) !== null || /^(?:HBW?|HV|HR[ABC]|IRHD|Shore [AD])$/.test(text));
	if (units.size > 2000) units.clear();
	units.set(text, found);
	return found;
}
