import type { LibraryView, MaterialPage } from "@alvek/contract";
import { type PropertyRow, propertyById } from "@alvek/core/property";
import { type FacetId, facetWordName } from "@alvek/core/table";

export type OwnRows = ReadonlyMap<string, PropertyRow>;

export function rowOfProperty(id: string, own: OwnRows): PropertyRow | undefined {
	return propertyById(id) ?? own.get(id);
}

/** The name of a word of a facet; libraries are named by those that are here. */
export function wordName(facet: FacetId, word: string, libraries: readonly LibraryView[]): string {
	if (facet !== "library") return facetWordName(facet, word);
	return libraries.find((l) => l.id === word)?.name ?? "a library that is not here";
}

/** How many rows a word of a facet would give. */
export function countOf(page: MaterialPage | undefined, facet: FacetId, word: string): number {
	return page?.facets[facet].find((f) => f.key === word)?.count ?? 0;
}
