import { PROPERTIES } from "../property";
import { LABELS, type LabelRow, SYMBOLS } from "./labels.data";
import { CONCEPTS, CONDITION_WORDS, LIMITS, NEUTRAL, PREPOSITIONS, VERBS } from "./vocabulary.data";

/** What a word of a label is. */
export type Word =
	| { readonly is: "concept"; readonly concepts: readonly string[] }
	| { readonly is: "limit"; readonly limit: "min" | "max" | "typ" }
	| { readonly is: "neutral" | "condition" | "preposition" | "verb" | "unknown" };

const split = (text: string): readonly string[] => text.split(/\s+/).filter((w) => w !== "");

const WORDS: ReadonlyMap<string, Word> = new Map<string, Word>([
	...split(VERBS).map((w): [string, Word] => [w, { is: "verb" }]),
	...split(NEUTRAL).map((w): [string, Word] => [w, { is: "neutral" }]),
	...split(CONDITION_WORDS).map((w): [string, Word] => [w, { is: "condition" }]),
	...split(PREPOSITIONS).map((w): [string, Word] => [w, { is: "preposition" }]),
	...Object.entries(LIMITS).map(([w, limit]): [string, Word] => [w, { is: "limit", limit }]),
	...Object.entries(CONCEPTS).flatMap(([concept, words]) =>
		split(words).map((w): [string, Word] => [w, { is: "concept", concepts: [concept] }]),
	),
	// words that are two concepts at once
	["bruchdehnung", { is: "concept", concepts: ["elongation", "break"] }],
	["reißdehnung", { is: "concept", concepts: ["elongation", "break"] }],
	["elastizitätsgrenze", { is: "concept", concepts: ["yield", "limit"] }],
	["dehngrenze", { is: "concept", concepts: ["yield", "limit"] }],
	["ys", { is: "concept", concepts: ["yield", "strength"] }],
	["uts", { is: "concept", concepts: ["tension", "strength"] }],
	["ténacité", { is: "concept", concepts: ["crack", "toughness"] }],
	["wichte", { is: "concept", concepts: ["specific", "weight"] }],
	["brinellhärte", { is: "concept", concepts: ["brinell", "hardness"] }],
	["cte", { is: "concept", concepts: ["expansion"] }],
	["e-modul", { is: "concept", concepts: ["elastic", "modulus"] }],
	["emodul", { is: "concept", concepts: ["elastic", "modulus"] }],
	["e-modulus", { is: "concept", concepts: ["elastic", "modulus"] }],
]);

/** Stems that compounds are cut at; short ones only where a compound begins with them. */
const STEMS: readonly string[] = [...WORDS]
	.filter(([w, what]) => what.is === "concept" && w.length >= 3 && /^\p{L}+$/u.test(w))
	.map(([w]) => w)
	.sort((a, b) => b.length - a.length);
const STEM_SET: ReadonlySet<string> = new Set(STEMS);
const LONGEST_STEM = STEMS[0]?.length ?? 0;
const LONGEST_WORD = 48;

const kept = new Map<string, Word>();
const MOST_KEPT = 5000;
const UNKNOWN: Word = { is: "unknown" };

/** What a word is, in lower case; compounds are cut into the words that we know, and are unknown where one is not. */
export function wordOf(word: string): Word {
	const known = WORDS.get(word) ?? kept.get(word);
	if (known !== undefined) return known;
	const found = compound(word);
	if (kept.size >= MOST_KEPT) kept.clear();
	kept.set(word, found);
	return found;
}

function compound(word: string): Word {
	if (word.length > LONGEST_WORD) return UNKNOWN;
	if (word.includes("-")) {
		const parts = word.split("-").filter((p) => p !== "" && p !== "e");
		const words = parts.map(wordOf);
		if (word.startsWith("e-") && words.length === 1 && words[0]?.is === "concept")
			return { is: "concept", concepts: ["elastic", ...words[0].concepts] };
		if (words.length > 1 && words.every((w) => w.is === "concept"))
			return { is: "concept", concepts: words.flatMap((w) => (w.is === "concept" ? w.concepts : [])) };
		return UNKNOWN;
	}
	const parts = cut(word, 0, new Map());
	if (parts === null || parts.length < 2) {
		// a plural or a genitive of what we know
		const stem = /^(.{4,})(?:e?s|en|n|e)$/.exec(word)?.[1];
		const plain = stem === undefined ? undefined : WORDS.get(stem);
		return plain?.is === "concept" ? plain : UNKNOWN;
	}
	const concepts = parts.flatMap((p) => {
		const w = WORDS.get(p);
		return w?.is === "concept" ? w.concepts : [];
	});
	return { is: "concept", concepts };
}

/** `word` from `at` as a row of stems, with the joints that German puts between them; null where it is none. */
function cut(word: string, at: number, seen: Map<number, string[] | null>): string[] | null {
	if (at === word.length) return [];
	const before = seen.get(at);
	if (before !== undefined) return before;
	let found: string[] | null = null;
	for (let end = Math.min(word.length, at + LONGEST_STEM); end > at + 2 && found === null; end--) {
		const stem = word.slice(at, end);
		if (!STEM_SET.has(stem)) continue;
		for (const joint of ["", "s", "n", "en", "e"]) {
			if (!word.startsWith(joint, end)) continue;
			const rest = cut(word, end + joint.length, seen);
			if (rest !== null) {
				found = [stem, ...rest];
				break;
			}
		}
	}
	seen.set(at, found);
	return found;
}

type Compiled = { readonly row: LabelRow; readonly taken: ReadonlySet<string> };
const COMPILED: readonly Compiled[] = LABELS.map((row) => ({
	row,
	taken: new Set([...row.needs.flat(), ...(row.allows ?? [])]),
}));
/** Rows by a concept of their first need, so that a label looks at few of them. */
const BY_CONCEPT: ReadonlyMap<string, readonly Compiled[]> = COMPILED.reduce((map, compiled) => {
	for (const concept of compiled.row.needs[0] ?? []) map.set(concept, [...(map.get(concept) ?? []), compiled]);
	return map;
}, new Map<string, Compiled[]>());

/** The row that a set of concepts names: all of its needs are there, and nothing that it does not allow. */
export function labelRow(concepts: ReadonlySet<string>): LabelRow | null {
	let best: LabelRow | null = null;
	for (const concept of concepts) {
		for (const { row, taken } of BY_CONCEPT.get(concept) ?? []) {
			if (
				best !== null &&
				(row.needs.length < best.needs.length ||
					(row.needs.length === best.needs.length && LABELS.indexOf(row) >= LABELS.indexOf(best)))
			)
				continue;
			if (fits(concepts, row, taken)) best = row;
		}
	}
	return best;
}

function fits(concepts: ReadonlySet<string>, row: LabelRow, taken: ReadonlySet<string>): boolean {
	for (const c of concepts) if (!taken.has(c)) return false;
	return row.needs.every((group) => group.some((c) => concepts.has(c)));
}

/** Concepts that stand alone as a name; others, such as `linear` or `nominal`, only colour one. */
const HEADS: ReadonlySet<string> = new Set(
	(
		"density modulus poisson yield proof strength stress limit elongation strain necking toughness impact charpy izod hardness conductivity " +
		"resistivity resistance expansion solidus liquidus melting transition deflection temperature absorption shrinkage friction emissivity permittivity " +
		"dielectric loss dissipation damping viscosity permeability polarisation remanence coercivity product stacking embodied carbon capacity gravity weight " +
		"fatigue reduction uniform interlaminar change tear softening compression bending tension shear"
	).split(" "),
);

export function isHead(concept: string): boolean {
	return HEADS.has(concept);
}

export type LabelSymbol = (typeof SYMBOLS)[string];

/** Every symbol that the sheet shows, beside those that pages write. */
const ALL_SYMBOLS: ReadonlyMap<string, LabelSymbol> = new Map<string, LabelSymbol>([
	...PROPERTIES.flatMap((p): [string, LabelSymbol][] =>
		[{ symbol: p.symbol }, ...(p.qualifiers ?? []).map((q) => ({ symbol: q.symbol, qualifier: q.id }))]
			.filter(({ symbol }) => symbol !== "" && !/[\s()]/.test(symbol))
			.flatMap((s): [string, LabelSymbol][] => {
				const symbol: LabelSymbol = {
					property: p.id,
					...("qualifier" in s && s.qualifier !== undefined ? { qualifier: s.qualifier } : {}),
				};
				return [
					[s.symbol, symbol],
					[s.symbol.replace("_", ""), symbol],
				];
			}),
	),
	...Object.entries(SYMBOLS),
]);

/** A symbol, case and all; undefined for none. */
export function symbolOf(text: string): LabelSymbol | undefined {
	return ALL_SYMBOLS.get(text.replace(/µ/g, "μ"));
}
