import { BLANK, difference, type Material, mergeEdits } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import {
	type DraftRecord,
	draftBase,
	draftDocument,
	draftEdits,
	hashOfDocument,
	headDocument,
	type MaterialRecord,
	parseDocument,
} from "../repo";

/** What a draft stands on where it is the first one: the newest revision, or nothing. */
export const baseDocument = (material: Pick<MaterialRecord, "bytes">): Material => headDocument(material) ?? BLANK;

/** The document that a draft would publish now: merged value by value when the material moved on meanwhile. */
export function documentToPublish(head: MaterialRecord, draft: DraftRecord): Result<Material> {
	let document = draftDocument(draft);
	if (head.revision_id !== draft.base_revision_id && head.bytes !== null) {
		const merged = mergeEdits(draftBase(draft), draftEdits(draft), parseDocument(head.bytes));
		if (!merged.ok) return merged;
		document = merged.value;
	}
	if (head.bytes !== null && difference(parseDocument(head.bytes), document).length === 0)
		return fail({ code: "nothing-changed", actual: `revision ${head.revision_no}`, expected: "a change to publish" });
	return ok(document);
}

/**
 * What publishing this draft would put out, with its hash. Where it cannot be published as it stands the draft itself is
 * what is seen.
 */
export function seenOf(head: MaterialRecord, draft: DraftRecord): { readonly document: Material; readonly hash: string } {
	const publishable = documentToPublish(head, draft);
	const document = publishable.ok ? publishable.value : draftDocument(draft);
	return { document, hash: hashOfDocument(document) };
}
