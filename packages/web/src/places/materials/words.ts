import type { LibraryView, MaterialPage } from "@alvek/contract";
import { USES, type Where } from "@alvek/core/material";
import { familyName, type PropertyRow, propertyById, type UnitSetId } from "@alvek/core/property";
import { CARRIES, type FacetId, MARKS, OPEN } from "@alvek/core/table";
import { BASIS_WORD, EVIDENCE_WORD, inUnit, plainUnit } from "../../ui/Quantity";

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

const NAMES = new Map<string, string>([...USES, ...CARRIES, ...OPEN, ...MARKS].map((x) => [x.id, x.name]));

/** The name of a word of a facet; groups and suppliers are their own names. */
export function wordName(facet: FacetId, word: string, libraries: readonly LibraryView[]): string {
	switch (facet) {
		case "library":
			return libraries.find((l) => l.id === word)?.name ?? "a library that is not here";
		case "family":
			return familyName(word) ?? word;
		case "evidence":
			return word === "none" ? "no evidence" : (EVIDENCE_WORD[word as keyof typeof EVIDENCE_WORD] ?? word);
		case "basis":
			return word === "none" ? "no basis" : (BASIS_WORD[word as keyof typeof BASIS_WORD] ?? word);
		case "ready":
		case "carries":
		case "open":
		case "marks":
			return NAMES.get(word) ?? word;
		default:
			return word;
	}
}

/** How many rows a word of a facet would give. */
export function countOf(page: MaterialPage | undefined, facet: FacetId, word: string): number {
	return page?.facets[facet].find((f) => f.key === word)?.count ?? 0;
}
