import type { Facet, MaterialPage, MaterialRow } from "@alvek/contract";
import {
	compareNames,
	FACETS,
	type FacetId,
	facetRow,
	facetWordName,
	type MaterialTable,
	type TableAnswer,
} from "@alvek/core/table";

// what the table answers, as a page of the grid shows it: rows with the values in use, headings, facets in words

/** Rows with the values that a grid shows, and none of the rest: a document may be large and a page holds many. */
export function pick(rows: readonly MaterialRow[], properties: readonly string[] | null): readonly MaterialRow[] {
	if (properties === null) return rows;
	return rows.map((row) => {
		const kept = Object.entries(row.document.values).filter(([, v]) => properties.includes(v.property));
		return { ...row, document: { ...row.document, notes: "", sources: {}, values: Object.fromEntries(kept) } };
	});
}

/** Headings of the grid: paths in order with how many rows stand under each. */
export function groupRuns(table: MaterialTable, answer: TableAnswer): MaterialPage["groups"] {
	const runs: { path: string; count: number }[] = [];
	for (const row of answer.hits) {
		const path = table.groupOf(row);
		const last = runs.at(-1);
		if (last?.path === path) last.count++;
		else runs.push({ path, count: 1 });
	}
	return runs;
}

export function facetsOf(answer: TableAnswer, libraries: ReadonlyMap<string, string>): MaterialPage["facets"] {
	const facets = FACETS.map(({ id }): [FacetId, readonly Facet[]] => {
		const counts = answer.counts[id] ?? new Map<string, number>();
		const { words } = facetRow(id);
		if (words !== undefined) {
			const fixed = words.map((w) => ({ key: w.id, label: w.name, count: counts.get(w.id) ?? 0 }));
			// uses that libraries add, which whoever shows them names
			const added = [...counts].flatMap(([key, count]) => (key.startsWith("own:") ? [{ key, label: key, count }] : []));
			return [id, [...fixed, ...added]];
		}
		const label = (key: string): string => (id === "library" ? (libraries.get(key) ?? key) : facetWordName(id, key));
		const list = [...counts].map(([key, count]) => ({ key, label: label(key), count }));
		// a family stands under the one above it, so it goes by its path
		return [id, list.sort((a, b) => (id === "family" ? (a.key < b.key ? -1 : 1) : compareNames(a.label, b.label)))];
	});
	return Object.fromEntries(facets) as MaterialPage["facets"];
}
