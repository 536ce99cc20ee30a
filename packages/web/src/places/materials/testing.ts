import type { LibraryView, MaterialRow } from "@alvek/contract";
import { BLANK, makeValue } from "@alvek/core/material";
import { propertyById } from "@alvek/core/property";
import type { GridColumn } from "./numbers";
import type { Rows } from "./useRows";

/** A row of the grid holding these numbers, for tests. */
export function rowWith(id: string, values: Readonly<Record<string, string>>, libraryId = "own"): MaterialRow {
	const made = Object.entries(values).map(([property, text]) => {
		const value = makeValue(property, text);
		if (!value.ok) throw new Error(JSON.stringify(value.issues));
		return [property, value.value] as const;
	});
	return {
		id,
		name: `Material ${id}`,
		libraryId,
		library: libraryId,
		supplied: false,
		group: "",
		itemCode: "",
		shopName: "",
		knownAs: [],
		revision: 1,
		revisionId: `${id}-1`,
		draftId: null,
		draftVersion: 0,
		changedAt: "2026-11-26T00:00:00.000Z",
		reviewAt: null,
		offeredFor: [],
		starred: false,
		working: false,
		retired: null,
		publishedDensity: null,
		document: { ...BLANK, values: Object.fromEntries(made) },
		readiness: [],
	};
}

export function columnOf(id: string, unit: string): GridColumn {
	const spec = propertyById(id);
	if (spec === undefined) throw new Error(id);
	return { id, spec, unit, width: 96, decimals: 0 };
}

/** As much of a library as cells look at. */
export function libraryWith(id: string, mayEdit: boolean, more: Partial<LibraryView> = {}): LibraryView {
	return { id, name: id, mayEdit, ownProperties: [], ...more } as unknown as LibraryView;
}

/** Rows of the grid that have all arrived. */
export function rowsOf(list: readonly MaterialRow[]): Rows {
	return {
		total: list.length,
		groups: [],
		at: (index) => list[index],
		indexOf: (id) => list.findIndex((r) => r.id === id),
		complete: true,
		show: () => undefined,
		range: async (first, count) => list.slice(first, first + count),
		sample: list,
	};
}
