import type { RouteInput, Undoable } from "@alvek/contract";
import { applyEdits, BLANK, difference, type Edit, type Material, mergeEdits } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { type AssignmentState, type Context, type DraftState, inWrite, recordEvent } from "../db/write";
import { assignmentsOnDraft, setAssignments } from "../parts/assignments";
import { authorised, insertDraft, refreshed } from "./access";
import { checkFiles } from "./files";
import type { Finding } from "./finding";
import { type DraftRecord, draftBase, draftDocument, draftEdits, draftOf, type MaterialRecord, parseDocument } from "./store";

type Written = { readonly before: DraftState | null; readonly after: DraftState; readonly savedAt: string };

/** Adds edits to the actor's draft of a material, opening one when there is none, inside a transaction. */
export async function writeDraft(ctx: Context, sql: Sql, id: string, edits: readonly Edit[]): Promise<Result<Written>> {
	const material = await authorised(ctx, sql, id, "library.edit");
	if (!material.ok) return material;
	if (material.value.removed_at !== null) return fail({ code: "not-found", path: "The material" });
	const draft = await draftOf(sql, id, ctx.actor.person);
	const base = draft === null ? baseDocument(material.value) : draftBase(draft);
	const current = draft === null ? base : draftDocument(draft);
	const applied = applyEdits(current, edits);
	if (!applied.ok) return applied;
	const files = await checkFiles(ctx, sql, id, edits);
	if (!files.ok) return files;
	const all = difference(base, applied.value.material);
	const savedAt = ctx.now();
	const version = (draft?.version ?? 0) + 1;
	let draftId = draft?.id;
	if (draftId === undefined) draftId = await insertDraft(ctx, sql, id, material.value.revision_id, all);
	else {
		await sql.run("UPDATE draft SET edits = $edits, version = $version, saved_at = $savedAt WHERE id = $draftId", {
			edits: JSON.stringify(all),
			version,
			savedAt,
			draftId,
		});
	}
	const before = draft === null ? null : draftState(draft);
	const standsOn = draft === null ? material.value.revision_id : draft.base_revision_id;
	const after = { id: draftId, material: id, person: ctx.actor.person, base: standsOn, edits: JSON.stringify(all), version };
	return ok({ before, after, savedAt });
}

function draftState(draft: DraftRecord): DraftState {
	const { id, material_id, person_id, base_revision_id, edits, version } = draft;
	return { id, material: material_id, person: person_id, base: base_revision_id, edits, version };
}

/** Appends edits to the actor's draft, opening one when there is none. Concurrent edits of other values go together. */
export function saveDraft(
	ctx: Context,
	finding: Finding,
	input: { id: string; edits: readonly Edit[] },
): Promise<Result<{ draftId: string; version: number; savedAt: string }>> {
	return inWrite(ctx, async (sql, after) => {
		const written = await writeDraft(ctx, sql, input.id, input.edits);
		if (!written.ok) return written;
		await recordEvent(ctx, sql, {
			action: "draft.save",
			kind: "material",
			subject: input.id,
			changeset: input.edits,
			inverse: null,
		});
		refreshed(finding, after, input.id);
		return ok({ draftId: written.value.after.id, version: written.value.after.version, savedAt: written.value.savedAt });
	});
}

/** Edits on my drafts of many materials, all or none, with one way back. */
export function saveDrafts(
	ctx: Context,
	finding: Finding,
	input: { items: readonly { readonly id: string; readonly edits: readonly Edit[] }[] },
): Promise<Result<Undoable<{ drafts: number }>>> {
	return inWrite(ctx, async (sql, after) => {
		const states: Written[] = [];
		for (const item of input.items) {
			const written = await writeDraft(ctx, sql, item.id, item.edits);
			if (!written.ok) return fail(...written.issues.map((i) => ({ ...i, path: `${item.id}: ${i.path ?? ""}` })));
			states.push(written.value);
		}
		const event = await recordEvent(ctx, sql, {
			action: "drafts.save",
			kind: "material",
			subject: input.items[0]?.id ?? "",
			changeset: input.items,
			inverse: { kind: "drafts", expect: states.map((s) => s.after), set: states.map((s) => s.before) },
		});
		after(() => finding.refresh(input.items.map((i) => i.id)));
		return ok({ event, value: { drafts: states.length } });
	});
}

export function baseDocument(material: MaterialRecord): Material {
	return material.bytes === null ? BLANK : parseDocument(material.bytes);
}

export function discardDraft(ctx: Context, finding: Finding, id: string): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql, after) => {
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
		refreshed(finding, after, id);
		return ok({ event, value: null });
	});
}

function backToRevision(state: AssignmentState): AssignmentState {
	return { part: state.part, revision: state.before, draft: null, before: null };
}

/**
 * My draft stands on the newest revision from now on. What others changed meanwhile comes in; where both changed a place,
 * the side that was chosen stands, and a place without a choice comes back as a conflict.
 */
export function rebaseDraft(
	ctx: Context,
	finding: Finding,
	input: RouteInput<"rebaseDraft">,
): Promise<Result<Undoable<{ version: number }>>> {
	return inWrite(ctx, async (sql, after) => {
		const material = await authorised(ctx, sql, input.id, "library.edit");
		if (!material.ok) return material;
		const draft = await draftOf(sql, input.id, ctx.actor.person);
		if (draft === null) return fail({ code: "not-found", path: "Your draft" });
		const head = baseDocument(material.value);
		const chosen = Object.fromEntries(input.chosen.map((c) => [c.at, c.side]));
		const merged = mergeEdits(draftBase(draft), draftEdits(draft), head, chosen);
		if (!merged.ok) return merged;
		const before = draftState(draft);
		const edits = JSON.stringify(difference(head, merged.value));
		const next: DraftState = { ...before, base: material.value.revision_id, edits, version: before.version + 1 };
		await sql.run(
			"UPDATE draft SET edits = $edits, base_revision_id = $base, version = $version, saved_at = $at WHERE id = $id",
			{ id: next.id, edits, base: next.base, version: next.version, at: ctx.now() },
		);
		const event = await recordEvent(ctx, sql, {
			action: "draft.rebase",
			kind: "material",
			subject: input.id,
			changeset: { chosen: input.chosen },
			inverse: { kind: "drafts", expect: [next], set: [before] },
		});
		refreshed(finding, after, input.id);
		return ok({ event, value: { version: next.version } });
	});
}
