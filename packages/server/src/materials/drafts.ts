import type { RouteInput, SavedDraft, Undoable } from "@alvek/contract";
import { applyEdits, difference, type Edit, type Material, mergeEdits, sourceAddressIssue } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authorised } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import {
	type AssignmentState,
	assignmentsOnDrafts,
	type DraftState,
	draftBase,
	draftDocument,
	draftEdits,
	draftOf,
	draftState,
	hashOfDocument,
	lastStep,
	type MaterialRecord,
	materialById,
	nextVersion,
	noteStep,
	parseDocument,
	putDraft,
	recordEvent,
	removeDrafts,
	revisionById,
	setAssignments,
} from "../repo";
import { daysFrom } from "../runtime";
import { checkFiles } from "./files";
import { baseDocument, seenOf } from "./publishable";

type Written = {
	readonly before: DraftState | null;
	/** Null when there was no draft and nothing differs from what is published. */
	readonly after: DraftState | null;
	readonly changed: boolean;
	readonly savedAt: string;
};

/** What the page that asks shows: a draft of mine (null: none), and the revision below it. */
export type Shown = { readonly draft?: string | null | undefined; readonly base?: string | null | undefined };

/** Adds edits to the actor's draft of a material, opening one when there is none, inside a transaction. */
export async function writeDraft(
	ctx: Context,
	sql: Sql,
	{ id, edits, ...shown }: { readonly id: string; readonly edits: readonly Edit[] } & Shown,
): Promise<Result<Written>> {
	const material = await authorised(ctx, sql, id, "library.edit");
	if (!material.ok) return material;
	if (material.value.removed_at !== null) return fail({ code: "not-found", path: "The material" });
	const draft = await draftOf(sql, id, ctx.actor.person);
	// published or thrown away elsewhere: what was typed onto it is asked about, never put onto something else in silence
	if (shown.draft != null && shown.draft !== draft?.id) return fail({ code: "draft-moved", actual: material.value.name });
	const below = draft === null ? await shownBase(sql, material.value, shown.base) : null;
	const base = draft === null ? (below?.document ?? baseDocument(material.value)) : draftBase(draft);
	const current = draft === null ? base : draftDocument(draft);
	const applied = applyEdits(current, edits);
	if (!applied.ok) return applied;
	const address = sourceAddressIssue(edits);
	if (address !== null) return fail(address);
	const files = await checkFiles(ctx, sql, id, edits);
	if (!files.ok) return files;
	const all = JSON.stringify(difference(base, applied.value.material));
	const savedAt = ctx.now();
	const before = draft === null ? null : draftState(draft);
	if (all === (before?.edits ?? "[]")) return ok({ before, after: before, changed: false, savedAt });
	const after: DraftState = {
		id: draft?.id ?? ctx.newId(),
		material: id,
		person: ctx.actor.person,
		base: draft === null ? (below?.id ?? material.value.revision_id) : draft.base_revision_id,
		edits: all,
		version: await nextVersion(sql),
	};
	await putDraft(ctx, sql, after);
	return ok({ before, after, changed: true, savedAt });
}

/** The revision that the page shows, where that is not the newest: a draft begins on what was seen. */
async function shownBase(
	sql: Sql,
	material: MaterialRecord,
	shown: string | null | undefined,
): Promise<{ id: string; document: Material } | null> {
	if (shown == null || shown === material.revision_id) return null;
	const row = await revisionById(sql, shown);
	return row?.material === material.id ? { id: row.id, document: parseDocument(row.bytes) } : null;
}

/**
 * Appends edits to the actor's draft, opening one when there is none. Concurrent edits of other values go together. A
 * step that has come before is answered like the first time and changes nothing.
 */
export function saveDraft(
	ctx: Context,
	input: Omit<RouteInput<"saveDraft">, "edits"> & { edits: readonly Edit[] },
): Promise<Result<SavedDraft>> {
	return inWrite(ctx, async (sql) => {
		if (await wasTaken(ctx, sql, input)) {
			const allowed = await authorised(ctx, sql, input.id, "library.edit");
			return allowed.ok ? savedDraft(ctx, sql, input.id, ctx.now()) : allowed;
		}
		const written = await writeDraft(ctx, sql, input);
		if (!written.ok) return written;
		await takeStep(ctx, sql, input);
		if (!written.value.changed) return savedDraft(ctx, sql, input.id, written.value.savedAt);
		await recordEvent(ctx, sql, {
			action: "draft.save",
			kind: "material",
			subject: input.id,
			changeset: input.edits,
			inverse: null,
		});
		return savedDraft(ctx, sql, input.id, written.value.savedAt);
	});
}

async function savedDraft(ctx: Context, sql: Sql, id: string, savedAt: string): Promise<Result<SavedDraft>> {
	const head = await materialById(sql, id);
	if (head === null) return fail({ code: "not-found", path: "The material" });
	const draft = await draftOf(sql, id, ctx.actor.person);
	if (draft === null)
		return ok({ draftId: null, version: 0, hash: hashOfDocument(baseDocument(head)), savedAt, base: head.revision_id });
	return ok({
		draftId: draft.id,
		version: draft.version,
		hash: seenOf(head, draft).hash,
		savedAt,
		base: draft.base_revision_id,
	});
}

type Step = Pick<RouteInput<"saveDraft">, "id" | "client" | "step">;

/** Has this step of this page been taken already? */
async function wasTaken(ctx: Context, sql: Sql, { id, client, step }: Step): Promise<boolean> {
	if (client === undefined || step === undefined) return false;
	return step <= (await lastStep(sql, { material: id, person: ctx.actor.person, client }));
}

/** Days after which a page that has said nothing more is forgotten. */
const CLIENT_DAYS = 90;

async function takeStep(ctx: Context, sql: Sql, { id, client, step }: Step): Promise<void> {
	if (client === undefined || step === undefined) return;
	const at = ctx.now();
	await noteStep(sql, { material: id, person: ctx.actor.person, client, step }, at, daysFrom(at, -CLIENT_DAYS));
}

/** Edits on my drafts of many materials, all or none, with one way back. */
export function saveDrafts(
	ctx: Context,
	input: { items: readonly { readonly id: string; readonly edits: readonly Edit[] }[] },
): Promise<Result<Undoable<{ drafts: number }>>> {
	return inWrite(ctx, async (sql) => {
		const states: Written[] = [];
		for (const item of input.items) {
			const written = await writeDraft(ctx, sql, { id: item.id, edits: item.edits });
			if (!written.ok) return fail(...written.issues.map((i) => ({ ...i, path: `${item.id}: ${i.path ?? ""}` })));
			if (written.value.changed) states.push(written.value);
		}
		const ids = states.flatMap((s) => s.after?.material ?? []);
		const [first] = ids;
		if (first === undefined) return ok({ event: 0, value: { drafts: 0 } });
		const event = await recordEvent(ctx, sql, {
			action: "drafts.save",
			kind: "material",
			subject: first,
			changeset: input.items.filter((i) => ids.includes(i.id)),
			inverse: { kind: "drafts", expect: states.map((s) => s.after), set: states.map((s) => s.before) },
		});
		return ok({ event, value: { drafts: states.length } });
	});
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
		const trying = await assignmentsOnDrafts(sql, [draft.id]);
		await setAssignments(sql, trying.map(backToRevision));
		await removeDrafts(sql, [draft.id]);
		const event = await recordEvent(ctx, sql, {
			action: "draft.discard",
			kind: "material",
			subject: id,
			changeset: { edits: JSON.parse(draft.edits) as unknown },
			inverse: { kind: "draft", draft: draftState(draft), parts: trying },
		});
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
export function rebaseDraft(ctx: Context, input: RouteInput<"rebaseDraft">): Promise<Result<Undoable<SavedDraft>>> {
	return inWrite(ctx, async (sql) => {
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
		const next: DraftState = { ...before, base: material.value.revision_id, edits, version: await nextVersion(sql) };
		await putDraft(ctx, sql, next);
		const event = await recordEvent(ctx, sql, {
			action: "draft.rebase",
			kind: "material",
			subject: input.id,
			changeset: { chosen: input.chosen },
			inverse: { kind: "drafts", expect: [next], set: [before] },
		});
		const saved = await savedDraft(ctx, sql, input.id, ctx.now());
		return saved.ok ? ok({ event, value: saved.value }) : saved;
	});
}
