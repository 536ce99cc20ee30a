import { FACETS, type FacetId } from "./filter.data";
import { leavesRetiredOut, type TableQuery } from "./query";
import { SetColumn } from "./sets";

/** A column for each facet, with nothing in it. */
export function blankFacets(): Record<FacetId, SetColumn> {
	return Object.fromEntries(FACETS.map((f) => [f.id, new SetColumn(0)])) as Record<FacetId, SetColumn>;
}

/** Rows of a question: those that pass, how often each fails, by which facet alone, and what the asker may not see. */
export type Passed = {
	readonly size: number;
	readonly hits: Int32Array;
	readonly fails: Uint8Array;
	readonly which: Uint8Array;
	readonly hidden: Uint8Array;
};

/** A word of a facet counts the rows that would pass if only that facet asked for it. */
export function countFacets(
	facets: ReturnType<typeof blankFacets>,
	query: TableQuery,
	{ size, hits, fails, which, hidden }: Passed,
): Record<string, ReadonlyMap<string, number>> {
	const asked = FACETS.some((f) => !f.all && (query.facets[f.id] ?? []).length > 0) || leavesRetiredOut(query);
	const tallies = FACETS.map((f) => new Uint32Array(facets[f.id].sets.length));
	FACETS.forEach((facet, f) => {
		const { codes } = facets[facet.id];
		const tally = tallies[f];
		for (let k = 0; k < hits.length; k++) tally[codes[hits[k]]]++;
	});
	if (asked) {
		const codes = FACETS.map((f) => facets[f.id].codes);
		for (let i = 0; i < size; i++) {
			if (fails[i] !== 1 || which[i] === 0 || hidden[i] !== 0) continue;
			const f = which[i] - 1;
			tallies[f][codes[f][i]]++;
		}
	}
	return Object.fromEntries(FACETS.map((facet, f) => [facet.id, facets[facet.id].byWord(tallies[f])]));
}
