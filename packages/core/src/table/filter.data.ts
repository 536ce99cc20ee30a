import { BASES, BASIS_WORD, EVIDENCE, EVIDENCE_WORD, USES } from "../material";
import { familyName } from "../property";

/** A word of a facet with its name. */
export type FacetWord = { readonly id: string; readonly name: string };

/** Kinds of data that a material may carry, in the order they are shown. */
export const CARRIES = [
	{ id: "flow_curve", name: "a flow curve or model" },
	{ id: "over_temperature", name: "values over temperature" },
	{ id: "modulus_over_temperature", name: "temperature-dependent E" },
	{ id: "directional", name: "a directional set" },
	{ id: "rubber_model", name: "a hyperelastic model" },
	{ id: "sn_curve", name: "an S-N curve" },
	{ id: "creep_model", name: "a creep model" },
	{ id: "bh_curve", name: "a B-H curve" },
	{ id: "loss", name: "loss data" },
	{ id: "demagnetisation", name: "demagnetisation curves" },
	{ id: "readings", name: "readings of specimens" },
	{ id: "composition", name: "a composition" },
	{ id: "price", name: "a price" },
	{ id: "certificate", name: "a certificate" },
	{ id: "test-report", name: "a test report" },
	{ id: "data-sheet", name: "a data sheet" },
	{ id: "drawing", name: "a drawing" },
	{ id: "solver-file", name: "a solver file" },
	{ id: "picture", name: "a picture" },
] as const;

/** What may still be open on a material. */
export const OPEN = [
	{ id: "carried", name: "carried over, open" },
	{ id: "no_source", name: "a value without a source" },
	{ id: "no_evidence", name: "a value without evidence" },
	{ id: "wrong", name: "a check says wrong" },
	{ id: "draft", name: "my draft" },
] as const;

/** Marks of a material's row. */
export const MARKS = [
	{ id: "working", name: "on the working list" },
	{ id: "retired", name: "retired" },
] as const;

/** Columns of words that the grid may show and sort by, beside those of properties. */
export const WORD_COLUMNS = [
	{ id: "code", name: "Item code" },
	{ id: "supplier", name: "Supplier" },
	{ id: "condition", name: "Condition" },
	{ id: "price", name: "Price" },
	{ id: "review", name: "Review due" },
] as const;
export type WordColumnId = (typeof WORD_COLUMNS)[number]["id"];

type FacetRow = {
	readonly id: string;
	/** Every ticked word has to be there, so its counts go with all other ticks; otherwise one of them is enough. */
	readonly all: boolean;
	/** The most letters of its words in a request. */
	readonly letters: number;
	/** Heads its ticks. */
	readonly title: string;
	/** Leads its words in a sentence: `materials ready for mass and modal`. */
	readonly before: string;
	/** The words that there are, in their order; undefined: what the rows say. */
	readonly words?: readonly FacetWord[];
	/** The name of a word; undefined: the words are their own names. */
	readonly nameOf?: (word: string) => string;
};

const NO_EVIDENCE: FacetWord = { id: "none", name: "no evidence" };
const NO_BASIS: FacetWord = { id: "none", name: "no basis" };

/**
 * Facets of the rows, each declared here once: the table counts by it, address and request carry it, panel and sentence
 * name it. In the order of the sentence.
 */
export const FACETS = [
	{ id: "library", all: false, letters: 4000, title: "Library", before: "from" },
	{ id: "group", all: false, letters: 4000, title: "Group", before: "in" },
	{
		id: "family",
		all: false,
		letters: 4000,
		title: "Family",
		before: "being",
		nameOf: (word: string) => familyName(word) ?? word,
	},
	{ id: "supplier", all: false, letters: 4000, title: "Supplier", before: "supplied by" },
	{ id: "ready", all: true, letters: 400, title: "Ready for", before: "ready for", words: USES },
	{ id: "carries", all: true, letters: 400, title: "Carries", before: "carrying", words: CARRIES },
	{ id: "open", all: true, letters: 200, title: "Open", before: "with", words: OPEN },
	{ id: "marks", all: true, letters: 200, title: "Marks", before: "that are", words: MARKS },
	{
		id: "evidence",
		all: false,
		letters: 200,
		title: "Evidence",
		before: "with a value that is",
		words: [...EVIDENCE.map((id) => ({ id, name: EVIDENCE_WORD[id] })), NO_EVIDENCE],
	},
	{
		id: "basis",
		all: false,
		letters: 200,
		title: "Basis",
		before: "with a value of basis",
		words: [...BASES.map((id) => ({ id, name: BASIS_WORD[id] })), NO_BASIS],
	},
	{ id: "offered", all: false, letters: 4000, title: "Offered for", before: "offered for" },
] as const satisfies readonly FacetRow[];

export type FacetId = (typeof FACETS)[number]["id"];

const ROWS: ReadonlyMap<FacetId, FacetRow> = new Map(FACETS.map((f) => [f.id, f]));

export const facetRow = (id: FacetId): FacetRow => ROWS.get(id) as FacetRow;

/** The name of a word of a facet; a word that is not known is its own name. */
export function facetWordName(id: FacetId, word: string): string {
	const { words, nameOf } = facetRow(id);
	return nameOf?.(word) ?? words?.find((w) => w.id === word)?.name ?? word;
}
