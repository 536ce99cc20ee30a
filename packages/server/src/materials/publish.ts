import type { PublishReply, RouteInput } from "@alvek/contract";
import { BLANK, difference, type Material, mergeEdits } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { type Context, inWrite, recordEvent } from "../db/write";
import { isSingleUser, requireOpenLock } from "../libraries/lock";
import { assignmentsOnDraft, setAssignments } from "../parts/assignments";
import { forwardByRule } from "../parts/following";
import { authorised, authorisePlace, insertDraft } from "./access";
import type { Finding } from "./finding";
import {
	type DraftRecord,
	draftBase,
	draftDocument,
	draftEdits,
	draftOf,
	hashOfDocument,
	insertRevision,
	type MaterialRecord,
	materialById,
	openPublish,
	parseDocument,
} from "./store";

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

type Published = { readonly revision: number; readonly movedParts: readonly string[] };

/** The draft of a person, when publishing it would still put out what was seen. */
async function draftAsSeen(sql: Sql, head: MaterialRecord, seen: string, person: string): Promise<Result<DraftRecord>> {
	const draft = await draftOf(sql, head.id, person);
	if (draft === null) return fail({ code: "not-found", path: "Your draft" });
	// what stands in the way is said as what it is, below, rather than as something unseen
	const publishable = documentToPublish(head, draft);
	if (!publishable.ok) return publishable;
	const hash = hashOfDocument(publishable.value);
	return hash === seen ? ok(draft) : fail({ code: "not-as-seen", path: "draft", actual: head.name });
}

/** One draft becomes the next revision, as an item of a publish; parts that try it move on to the revision. */
async function publishOne(
	ctx: Context,
	sql: Sql,
	head: MaterialRecord,
	draft: DraftRecord,
	publish: string,
): Promise<Result<Published>> {
	const document = documentToPublish(head, draft);
	if (!document.ok) return document;
	const revision = await insertRevision(ctx, sql, { material: head.id, publish, document: document.value });
	const trying = await assignmentsOnDraft(sql, draft.id);
	await setAssignments(
		sql,
		trying.map((s) => ({ part: s.part, revision: revision.id, draft: null, before: null })),
	);
	await sql.run("DELETE FROM draft WHERE id = $id", { id: draft.id });
	await forwardByRule(ctx, sql, head.id, revision.id);
	return ok({ revision: revision.no, movedParts: trying.map((s) => s.part) });
}

/** The name of the material goes in front of what is wrong with it, where several are published together. */
function named(name: string, issues: Extract<Result<never>, { ok: false }>["issues"]) {
	return fail(...issues.map((i) => ({ ...i, path: `${name}${i.path === undefined ? "" : `, ${i.path}`}` })));
}

function toldToHistory(
	ctx: Context,
	sql: Sql,
	material: string,
	what: Published & { readonly note: string; readonly together: number },
): Promise<number> {
	return recordEvent(ctx, sql, {
		action: "material.publish",
		kind: "material",
		subject: material,
		changeset: what,
		inverse: null,
	});
}

/**
 * My drafts become revisions in one publish with one note, all or none; drafts of several libraries make one publish in
 * each. Parts that try a draft move on to its revision. A draft that started from an older revision is merged value by
 * value; values that both changed come back as conflicts. Where the library asks for a second person, what would be
 * published waits for approval instead.
 */
export function publishDrafts(ctx: Context, finding: Finding, input: RouteInput<"publishDrafts">): Promise<Result<PublishReply>> {
	return inWrite(ctx, async (sql, after) => {
		const alone = await isSingleUser(sql);
		const note = input.note.trim();
		if (note === "" && !alone) return fail({ code: "note-missing", path: "note" });
		const publishes = new Map<string, { readonly id: string; readonly proposed: boolean }>();
		let [published, proposed, movedParts, revision] = [0, 0, 0, 0];
		for (const item of input.items) {
			const material = await authorised(ctx, sql, item.id, "library.publish");
			if (!material.ok) return material;
			const head = material.value;
			const draft = await draftAsSeen(sql, head, item.hash, ctx.actor.person);
			if (!draft.ok) return input.items.length === 1 ? draft : named(head.name, draft.issues);
			let publish = publishes.get(head.library_id);
			if (publish === undefined) {
				const library = await requireOpenLock(ctx, sql, head.library_id);
				if (!library.ok) return library;
				const waits = library.value.approval === 1 && !alone;
				publish = { id: await openPublish(ctx, sql, head.library_id, note, waits ? "proposed" : "done"), proposed: waits };
				publishes.set(head.library_id, publish);
			}
			if (publish.proposed) {
				const ready = await propose(sql, publish.id, head, draft.value);
				if (!ready.ok) return named(head.name, ready.issues);
				proposed++;
				continue;
			}
			const one = await publishOne(ctx, sql, head, draft.value, publish.id);
			if (!one.ok) return input.items.length === 1 ? one : named(head.name, one.issues);
			published++;
			revision = one.value.revision;
			movedParts += one.value.movedParts.length;
			await toldToHistory(ctx, sql, item.id, { ...one.value, note, together: input.items.length });
		}
		for (const [library, publish] of publishes) {
			if (publish.proposed) await recordProposal(ctx, sql, library, publish.id, note);
		}
		after(() => finding.refresh(input.items.map((i) => i.id)));
		return ok({ published, proposed, movedParts, revision });
	});
}

export async function recordProposal(ctx: Context, sql: Sql, library: string, publish: string, note: string): Promise<void> {
	await recordEvent(ctx, sql, {
		action: "publish.propose",
		kind: "library",
		subject: library,
		changeset: { publish, note },
		inverse: null,
	});
}

/** A material that is not published yet, with a draft of this document that waits for approval. */
export async function proposeNew(ctx: Context, sql: Sql, publish: string, id: string, document: Material): Promise<Result<null>> {
	await insertDraft(ctx, sql, id, null, difference(BLANK, document));
	const head = (await materialById(sql, id)) as MaterialRecord;
	const draft = (await draftOf(sql, id, ctx.actor.person)) as DraftRecord;
	return propose(sql, publish, head, draft);
}

/** A draft that waits for approval, with the hash of what it holds. A newer proposal of the same draft takes its place. */
export async function propose(sql: Sql, publish: string, head: MaterialRecord, draft: DraftRecord): Promise<Result<null>> {
	const document = documentToPublish(head, draft);
	if (!document.ok) return document;
	const older = await sql.all<{ publish_id: string }>(
		`SELECT i.publish_id FROM publish_item i JOIN publish p ON p.id = i.publish_id
		 WHERE p.state = 'proposed' AND p.actor = $person AND i.material_id = $material AND p.id <> $publish`,
		{ person: draft.person_id, material: head.id, publish },
	);
	for (const { publish_id } of older) {
		await sql.run("DELETE FROM publish_item WHERE publish_id = $publish_id AND material_id = $material", {
			publish_id,
			material: head.id,
		});
		await sql.run(
			"DELETE FROM publish WHERE id = $publish_id AND NOT EXISTS (SELECT 1 FROM publish_item WHERE publish_id = $publish_id)",
			{
				publish_id,
			},
		);
	}
	await sql.run("INSERT INTO publish_item (publish_id, material_id, row_change) VALUES ($publish, $material, $change)", {
		publish,
		material: head.id,
		change: JSON.stringify({ draft: draft.id, hash: hashOfDocument(draftDocument(draft)) }),
	});
	return ok(null);
}

/** What somebody else proposed is published, each draft exactly as it was when it was proposed. */
export function approvePublish(
	ctx: Context,
	finding: Finding,
	input: RouteInput<"approvePublish">,
): Promise<Result<{ published: number; movedParts: number }>> {
	return inWrite(ctx, async (sql, after) => {
		const proposal = await openProposal(ctx, sql, input.id);
		if (!proposal.ok) return proposal;
		const { place, actor, note } = proposal.value;
		const library = await requireOpenLock(ctx, sql, place);
		if (!library.ok) return library;
		if (actor === ctx.actor.person) return fail({ code: "own-approval" });
		const items = await sql.all<{ material_id: string; row_change: string }>(
			"SELECT material_id, row_change FROM publish_item WHERE publish_id = $id",
			{ id: input.id },
		);
		const seen = new Map(input.items.map((i) => [i.id, i.hash]));
		if (seen.size !== items.length) return fail({ code: "proposal-stale", actual: library.value.name });
		let movedParts = 0;
		await sql.run("DELETE FROM publish_item WHERE publish_id = $id", { id: input.id });
		await sql.run("UPDATE publish SET state = 'done', approved_by = $person, at = $at WHERE id = $id", {
			id: input.id,
			person: ctx.actor.person,
			at: ctx.now(),
		});
		for (const item of items) {
			const head = await materialById(sql, item.material_id);
			if (head === null) return fail({ code: "not-found", path: "The material" });
			const draft = await draftAsSeen(sql, head, seen.get(head.id) ?? "", actor);
			// the draft has to hold what was proposed, and what comes of it what the approver saw
			const { hash } = JSON.parse(item.row_change) as { hash?: string };
			if (!draft.ok || hashOfDocument(draftDocument(draft.value)) !== hash)
				return fail({ code: "proposal-stale", actual: head.name });
			const one = await publishOne(ctx, sql, head, draft.value, input.id);
			if (!one.ok) return named(head.name, one.issues);
			movedParts += one.value.movedParts.length;
			await toldToHistory(ctx, sql, head.id, { ...one.value, note, together: items.length });
		}
		after(() => finding.refresh(items.map((i) => i.material_id)));
		return ok({ published: items.length, movedParts });
	});
}

/** Sends a proposal back with a reason, or withdraws one's own; the drafts stay as they are. */
export function declinePublish(ctx: Context, input: { id: string; note: string }): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		const proposal = await openProposal(ctx, sql, input.id);
		if (!proposal.ok) return proposal;
		const { place, actor } = proposal.value;
		const mine = actor === ctx.actor.person;
		const library = await guardedUnless(ctx, sql, place, mine);
		if (!library.ok) return library;
		if (!mine && input.note.trim() === "") return fail({ code: "note-missing", path: "note" });
		await sql.run("DELETE FROM publish_item WHERE publish_id = $id", { id: input.id });
		await sql.run("DELETE FROM publish WHERE id = $id", { id: input.id });
		await recordEvent(ctx, sql, {
			action: mine ? "publish.withdraw" : "publish.decline",
			kind: "library",
			subject: place,
			changeset: { note: input.note.trim(), of: actor },
			inverse: null,
		});
		return ok(null);
	});
}

/** Withdrawing one's own proposal publishes nothing, so it needs no lock. */
async function guardedUnless(ctx: Context, sql: Sql, library: string, mine: boolean): Promise<Result<unknown>> {
	return mine ? ok(null) : requireOpenLock(ctx, sql, library);
}

/** A proposal in a library that the actor may read; any other is not there, in the same words. */
async function openProposal(ctx: Context, sql: Sql, id: string): Promise<Result<{ place: string; actor: string; note: string }>> {
	const row = await sql.one<{ place: string; actor: string; note: string }>(
		"SELECT place, actor, note FROM publish WHERE id = $id AND state = 'proposed'",
		{ id },
	);
	const seen = row !== null && (row.actor === ctx.actor.person || (await authorisePlace(ctx, sql, row.place, "library.edit")).ok);
	return row === null || !seen ? fail({ code: "not-found", path: "The proposal" }) : ok(row);
}
