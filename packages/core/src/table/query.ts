import type { Where } from "../material";
import type { TableFacts } from "./facts";
import type { FacetId } from "./filter.data";

/** One row to be kept: a material's newest revision (`person` null) or one person's draft of it. */
export type TableRow = {
	readonly id: string;
	readonly person: string | null;
	readonly name: string;
	readonly library: string;
	readonly group: string;
	/** Codes and shop name, looked in by the text filter. */
	readonly codes: string;
	readonly itemCode: string;
	readonly offeredFor: readonly string[];
	/** What the row says beside its document: see `MARKS`. */
	readonly marks: readonly string[];
	/** Milliseconds. */
	readonly changedAt: number;
	/** `2027-03-01`; null: no review planned. */
	readonly review: string | null;
	readonly facts: TableFacts;
};

export type TableQuery = {
	readonly spans: readonly Where[];
	/** Wanted words by facet; an absent or empty list wants nothing. */
	readonly facets: Readonly<Partial<Record<FacetId, readonly string[]>>>;
	/** Space-separated pieces, each of which has to occur. */
	readonly text: string;
	/** Where nothing that is seen says the text, names a few slips away stand in for it. */
	readonly forgiving?: true;
	/** Only these materials, when given. */
	readonly only?: ReadonlySet<string>;
	/** Only materials whose review date is before this day. */
	readonly reviewBefore?: string;
	/** What is retired is left out, unless the marks ask for it; it counts among them all the same. */
	readonly inUse?: true;
	/** `name`, `group`, `changed`, one of `WORD_COLUMNS` or a property. */
	readonly sort: string;
	readonly descending: boolean;
	readonly counts: boolean;
};

export const leavesRetiredOut = (query: TableQuery): boolean =>
	query.inUse === true && query.facets.marks?.includes("retired") !== true;

/** Who asks: the libraries that may be read, and whose drafts stand in place of what is published. */
export type Viewer = { readonly person: string; readonly libraries: ReadonlySet<string> };

export type TableAnswer = {
	/** Rows that the viewer sees at all; without the retired ones where those are left out. */
	readonly all: number;
	/** Nothing says the text; names a few slips away stand in for it. */
	readonly near: boolean;
	/** Rows that pass, in the wanted order. */
	readonly hits: Int32Array;
	/** Counts by word, each going with every other choice; empty when not asked for. */
	readonly counts: Readonly<Record<string, ReadonlyMap<string, number>>>;
};
