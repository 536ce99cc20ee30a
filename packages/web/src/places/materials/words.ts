import type { LibraryView, MaterialPage } from "@alvek/contract";
import type { Where } from "@alvek/core/material";
import { type PropertyRow, propertyById, type UnitSetId } from "@alvek/core/property";
import { type FacetId, facetWordName } from "@alvek/core/table";
import { inUnit, plainUnit } from "../../ui/Quantity";

export type OwnRows = ReadonlyMap<string, PropertyRow>;

export function rowOfProperty(id: string, own: OwnRows): PropertyRow | undefined {
	return propertyById(id) ?? own.get(id);
}

/** A span as a person writes it: `60–80 GPa`, `≥ 200 MPa`. */
export function spanText(where: Where, row: PropertyRow, unitSet: UnitSetId): string {
	return where.reach === true ? `${plainSpan(where, row, unitSet)}, may reach` : plainSpan(where, row, unitSet);
}

function plainSpan({ low, high }: Where, row: PropertyRow, unitSet: UnitSetId): string {
	const show = (si: number): string => inUnit(si, row, unitSet);
	const unit = plainUnit(row.units[unitSet]);
	if (low === null) return `≤ ${show(high as number)} ${unit}`.trim();
	if (high === null) return `≥ ${show(low)} ${unit}`.trim();
	return `${low === high ? show(low) : `${show(low)}–${show(high)}`} ${unit}`.trim();
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
