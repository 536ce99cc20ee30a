import type { RouteInput, Undoable } from "@alvek/contract";
import { applyEdits, BLANK, difference, type Edit, type Material, mergeEdits } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { type AssignmentState, type Context, inWrite, recordEvent } from "../db/write";
import { assignmentsOnDraft, setAssignments } from "../parts/assignments";
import { authorised, insertDraft, refreshed } from "./access";
import type { Finding } from "./finding";
import { draftBase, draftDocument, draftOf, insertRevision, type MaterialRecord, parseDocument } from "./store";

/** Appends edits to the actor's draft, opening one when there is none. Concurrent edits of other values go together. */
export function saveDraft(
	ctx: Context,
	input: { id: string; edits: readonly Edit[] },
): Promise<Result<{ draftId: string; version: number; savedAt: string }>> {
	return inWrite(ctx, async (sql) => {
		const material = await authorised(ctx, sql, input.id, "library.edit");
		if (!material.ok) return material;
		if (material.value.removed_at !== null) return fail({ code: "not-found", path: "The material" });
		const draft = await draftOf(sql, input.id, ctx.actor.person);
		const base = draft === null ? baseDocument(material.value) : draftBase(draft);
		const current = draft === null ? base : draftDocument(draft);
		const applied = applyEdits(current, input.edits);
		if (!applied.ok) return applied;
		const edits = difference(base, applied.value.material);
		const savedAt = ctx.now();
		const version = (draft?.version ?? 0) + 1;
		let draftId = draft?.id;
		if (draftId === undefined) draftId = await insertDraft(ctx, sql, input.id, material.value.revision_id, edits);
		else {
			await sql.run("UPDATE draft SET edits = $edits, version = $version, saved_at = $savedAt WHERE id = $draftId", {
				edits: JSON.stringify(edits),
				version,
				savedAt,
				draftId,
			});
		}
		await recordEvent(ctx, sql, {
			action: "draft.save",
			kind: "material",
			subject: input.id,
			changeset: input.edits,
			inverse: null,
		});
		return ok({ draftId, version, savedAt });
	});
}

function baseDocument(material: MaterialRecord): Material {
	return material.bytes === null ? BLANK : parseDocument(material.bytes);
}

export function discardDraft(ctx: Context, id: string): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const material = await authorised(ctx, sql, id, "library.edit");
		if (!material.ok) return material;
		const draft = await draftOf(sql, id, ctx.actor.person);
		if (draft === null) return fail({ code: "not-found", path: "Your draft" });
		if (material.value.revision_id === null) {
			return fail({
				code: "first-draft",
				actual: material.value.name,
				expected: "deleting the material instead: it was never published",
			});
		}
		const trying = await assignmentsOnDraft(sql, draft.id);
		await setAssignments(sql, trying.map(backToRevision));
		await sql.run("DELETE FROM draft WHERE id = $id", { id: draft.id });
		const event = await recordEvent(ctx, sql, {
			action: "draft.discard",
			kind: "material",
			subject: id,
			changeset: { edits: JSON.parse(draft.edits) as unknown },
			inverse: {
				kind: "draft",
				draft: {
					id: draft.id,
					material: id,
					person: ctx.actor.person,
					base: draft.base_revision_id,
					edits: draft.edits,
					version: draft.version,
				},
				parts: trying,
			},
		});
		return ok({ event, value: null });
	});
}

function backToRevision(state: AssignmentState): AssignmentState {
	return { part: state.part, revision: state.before, draft: null, before: null };
}

/**
 * The draft becomes the next revision; parts that try the draft move on to it. A draft that started from an older
 * revision is merged value by value; values that both changed come back as conflicts.
 */
export function publishDraft(
	ctx: Context,
	finding: Finding,
	input: RouteInput<"publishDraft">,
): Promise<Result<{ revision: number; movedParts: number }>> {
	return inWrite(ctx, async (sql, after) => {
		const material = await authorised(ctx, sql, input.id, "library.edit");
		if (!material.ok) return material;
		const draft = await draftOf(sql, input.id, ctx.actor.person);
		if (draft === null) return fail({ code: "not-found", path: "Your draft" });
		if (draft.version !== input.version) {
			return fail({ code: "conflict", path: "draft", actual: input.version, expected: `version ${draft.version}` });
		}
		const head = material.value;
		let document = draftDocument(draft);
		if (head.revision_id !== draft.base_revision_id && head.bytes !== null) {
			const merged = mergeEdits(draftBase(draft), JSON.parse(draft.edits) as Edit[], parseDocument(head.bytes));
			if (!merged.ok) return merged;
			document = merged.value;
		}
		if (head.bytes !== null && difference(parseDocument(head.bytes), document).length === 0) {
			return fail({ code: "nothing-changed", actual: `revision ${head.revision_no}`, expected: "a change to publish" });
		}
		const revision = await insertRevision(ctx, sql, {
			material: input.id,
			library: head.library_id,
			note: input.note.trim(),
			document,
		});
		const trying = await assignmentsOnDraft(sql, draft.id);
		await setAssignments(
			sql,
			trying.map((s) => ({ part: s.part, revision: revision.id, draft: null, before: null })),
		);
		await sql.run("DELETE FROM draft WHERE id = $id", { id: draft.id });
		await recordEvent(ctx, sql, {
			action: "material.publish",
			kind: "material",
			subject: input.id,
			changeset: { revision: revision.no, note: input.note, movedParts: trying.map((s) => s.part) },
			inverse: null,
		});
		refreshed(finding, after, input.id);
		return ok({ revision: revision.no, movedParts: trying.length });
	});
}
