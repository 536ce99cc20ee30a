import { FACETS, type FacetId } from "./filter.data";
import { SetColumn } from "./sets";

/** A column for each facet, with nothing in it. */
export function blankFacets(): Record<FacetId, SetColumn> {
	return Object.fromEntries(FACETS.map((f) => [f.id, new SetColumn(0)])) as Record<FacetId, SetColumn>;
}
