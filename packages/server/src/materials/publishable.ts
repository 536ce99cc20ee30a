import { BLANK, difference, type Material, mergeEdits } from "@alvek/core/material";
import { fail, type Issue, ok, type Result } from "@alvek/core/result";
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

/** Does the draft stand on what is published now? Then its own edits are what publishing would change. */
export const standsOnHead = (head: MaterialRecord, draft: DraftRecord): boolean => head.revision_id === draft.base_revision_id;

/** The document that a draft would publish now: merged value by value when the material moved on meanwhile. */
export function documentToPublish(head: MaterialRecord, draft: DraftRecord): Result<Material> {
	if (head.bytes === null) return ok(draftDocument(draft));
	const unchanged = fail({ code: "nothing-changed", actual: `revision ${head.revision_no}`, expected: "a change to publish" });
	if (standsOnHead(head, draft)) return draft.edits === "[]" ? unchanged : ok(draftDocument(draft));
	const published = parseDocument(head.bytes);
	const merged = mergeEdits(draftBase(draft), draftEdits(draft), published);
	return merged.ok && difference(published, merged.value).length === 0 ? unchanged : merged;
}

/** What publishing a draft would put out, with its hash, and what stands in the way. */
export type Seen = { readonly document: Material; readonly hash: string; readonly issues: readonly Issue[] };

/** Where a draft cannot be published as it stands the draft itself is what is seen. */
export function seenOf(head: MaterialRecord, draft: DraftRecord): Seen {
	const publishable = documentToPublish(head, draft);
	const document = publishable.ok ? publishable.value : draftDocument(draft);
	return { document, hash: hashOfDocument(document), issues: publishable.ok ? [] : publishable.issues };
}
