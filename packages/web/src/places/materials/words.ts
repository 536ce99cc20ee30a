import type { LibraryView, MaterialPage } from "@alvek/contract";
import { type OwnUse, ownUseId } from "@alvek/core/material";
import { type PropertyRow, propertyById } from "@alvek/core/property";
import { type FacetId, facetWordName } from "@alvek/core/table";

export type OwnRows = ReadonlyMap<string, PropertyRow>;

export function rowOfProperty(id: string, own: OwnRows): PropertyRow | undefined {
	return propertyById(id) ?? own.get(id);
}

/** The name of a word of a facet; libraries are named by those that are here. */
export function wordName(facet: FacetId, word: string, libraries: readonly LibraryView[]): string {
	if (facet === "ready" && word.startsWith("own:"))
		return ownUsesOf(libraries).find((u) => ownUseId(u.uid) === word)?.name ?? "a use that is not here";
	if (facet !== "library") return facetWordName(facet, word);
	return libraries.find((l) => l.id === word)?.name ?? "a library that is not here";
}

/** Uses that the libraries here add to the built-in ones. */
export const ownUsesOf = (libraries: readonly LibraryView[]): readonly OwnUse[] => libraries.flatMap((l) => l.ownUses);

/** How many rows a word of a facet would give. */
export function countOf(page: MaterialPage | undefined, facet: FacetId, word: string): number {
	return page?.facets[facet].find((f) => f.key === word)?.count ?? 0;
}
