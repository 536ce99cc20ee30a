import type { Sheet } from "@alvek/contract";
import {
	type Check,
	type CheckContext,
	checkMaterial,
	type Edit,
	type Material,
	NAME_LIKE,
	type Readiness,
	readiness,
} from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import { useMemo } from "react";
import { useOutletContext } from "react-router";
import { useRoute } from "../../api/queries";
import type { Draft } from "../../draft/useDraft";

/** What all views of one material share; one draft, so nothing is saved twice. */
export type SheetContext = {
	readonly sheet: Sheet;
	readonly material: Material;
	/** An older revision is being read. */
	readonly revision: number | null;
	/** Null where nothing can be changed. */
	readonly draft: Draft | null;
	readonly checks: readonly Check[];
	readonly uses: readonly Readiness[];
	/** Properties that the library adds to the catalogue. */
	readonly own: readonly OwnProperty[];
};

export function useSheet(): SheetContext {
	return useOutletContext<SheetContext>();
}

/** Checks and readiness of what is on screen, live while one types. */
export function useJudged(sheet: Sheet, material: Material): Pick<SheetContext, "checks" | "uses" | "own"> {
	const { base, row } = sheet;
	// a project adds no properties to the catalogue
	const kept = useRoute("listOwnProperties", { id: row.libraryId }, { enabled: !row.libraryId.startsWith("project:") });
	const own = useMemo(() => (kept.data ?? []).map((p) => p.content), [kept.data]);
	return useMemo(() => {
		const context: CheckContext = { name: row.name, own };
		const checks = checkMaterial(
			material,
			base?.document == null ? context : { ...context, base: { name: base.name, document: base.document } },
		);
		return { checks, uses: readiness(material, checks, own), own };
	}, [material, base, row.name, own]);
}

/** An edit of a field; what was carried over there is confirmed by replacing it. */
export function fieldEdits<F extends keyof Material & string>(material: Material, field: F, to: Material[F]): readonly Edit[] {
	const edits: Edit[] = [{ at: `field:${field}`, from: material[field], to }];
	const mark = material.carriedFields[field];
	if (mark !== undefined && NAME_LIKE.includes(field as never))
		edits.push({ at: `carriedFields:${field}`, from: mark, to: null });
	return edits;
}
