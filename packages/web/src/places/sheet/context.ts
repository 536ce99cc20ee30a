import type { Sheet } from "@alvek/contract";
import { type JudgeContext, judge } from "@alvek/core/judge";
import { type Check, type Edit, isNameLike, type Material, type Readiness } from "@alvek/core/material";
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
	/** The queue also where nothing may be changed any more: what was typed before that is still shown. */
	readonly typed: Draft | null;
	readonly checks: readonly Check[];
	readonly uses: readonly Readiness[];
	/** Properties that the library adds to the catalogue. */
	readonly own: readonly OwnProperty[];
	/** What the material is judged beside. */
	readonly beside: JudgeContext;
};

export function useSheet(): SheetContext {
	return useOutletContext<SheetContext>();
}

/** Checks and readiness of what is on screen, live while one types. */
export function useJudged(sheet: Sheet, material: Material): Pick<SheetContext, "checks" | "uses" | "own" | "beside"> {
	const { base, row } = sheet;
	// a project adds no properties to the catalogue
	const kept = useRoute("listOwnProperties", { id: row.libraryId }, { enabled: !row.libraryId.startsWith("project:") });
	const libraries = useRoute("listLibraries", {}).data;
	const uses = useMemo(() => libraries?.find((l) => l.id === row.libraryId)?.ownUses ?? [], [libraries, row.libraryId]);
	const own = useMemo(() => (kept.data ?? []).map((p) => p.content), [kept.data]);
	const beside = useMemo(
		(): JudgeContext => ({
			own,
			uses,
			base:
				base?.document == null
					? null
					: { name: base.name, document: base.document, ...(base.head == null ? {} : { head: base.head }) },
		}),
		[own, uses, base],
	);
	return useMemo(() => {
		const { checks, readiness } = judge(material, beside);
		return { checks, uses: readiness, own, beside };
	}, [material, beside, own]);
}

/** An edit of a field; what was carried over there is confirmed by replacing it. */
export function fieldEdits<F extends keyof Material & string>(material: Material, field: F, to: Material[F]): readonly Edit[] {
	const edits: Edit[] = [{ at: `field:${field}`, from: material[field], to }];
	const mark = material.carriedFields[field];
	if (mark !== undefined && isNameLike(field)) edits.push({ at: `carriedFields:${field}`, from: mark, to: null });
	return edits;
}
