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

/** One row a byte, but for those that are counted from the start. */
type Rows = Omit<Passed, "hits">;

/** Counts a failure of every row that has not the wanted words of a facet. */
export function failFacets(facets: ReturnType<typeof blankFacets>, query: TableQuery, { size, fails, which }: Rows): void {
	FACETS.forEach((facet, f) => {
		const wanted = query.facets[facet.id] ?? [];
		if (wanted.length === 0) return;
		const { codes } = facets[facet.id];
		const passing = facets[facet.id].passing(wanted, facet.all);
		for (let i = 0; i < size; i++) {
			if (passing[codes[i]] !== 0) continue;
			fails[i]++;
			which[i] = facet.all ? 0 : f + 1;
		}
	});
}

/**
 * What is retired fails by its mark alone, so that it is counted there.
 * @returns how many of those that are not hidden
 */
export function failRetired(facets: ReturnType<typeof blankFacets>, query: TableQuery, rows: Rows): number {
	if (!leavesRetiredOut(query)) return 0;
	const { size, fails, which, hidden } = rows;
	let count = 0;
	const { codes, sets } = facets.marks;
	const retired = sets.map((words) => words.includes("retired"));
	const marks = 1 + FACETS.findIndex((f) => f.id === "marks");
	for (let i = 0; i < size; i++) {
		if (!retired[codes[i]]) continue;
		fails[i]++;
		which[i] = marks;
		count += hidden[i] === 0 ? 1 : 0;
	}
	return count;
}
