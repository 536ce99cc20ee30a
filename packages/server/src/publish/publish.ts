import type { PublishReply, RouteInput } from "@alvek/contract";
import { BLANK, difference, type Material } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authorisedAll, isSingleUser, requirePublishing } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import { documentToPublish } from "../materials";
import {
	addToProposal,
	assignmentsOnDrafts,
	type Canonical,
	canonical,
	type DraftRecord,
	draftDocument,
	draftsOf,
	hashOfDocument,
	insertFirstDrafts,
	insertRevisions,
	type MaterialRecord,
	openPublish,
	recordEvent,
	recordEvents,
	removeDrafts,
	setAssignments,
	storeCanonical,
} from "../repo";
import { forwardByRule } from "./forward";

/** A draft that can be published, with what would come out. */
export type Ready = {
	readonly head: MaterialRecord;
	readonly draft: DraftRecord;
	/** What would come out. */
	readonly out: Canonical;
};

/** The draft, when publishing it would still put out what was seen. */
export function readyAsSeen(head: MaterialRecord, draft: DraftRecord | undefined, seen: string): Result<Ready> {
	if (draft === undefined) return fail({ code: "not-found", path: "Your draft" });
	// what stands in the way is said as what it is, rather than as something unseen
	const document = documentToPublish(head, draft);
	if (!document.ok) return document;
	const out = canonical(document.value);
	if (out.hash !== seen) return fail({ code: "not-as-seen", path: "draft", actual: head.name });
	return ok({ head, draft, out });
}

/** The name of the material goes in front of what is wrong with it, where several are published together. */
function named(name: string, issues: Extract<Result<never>, { ok: false }>["issues"]) {
	return fail(...issues.map((i) => ({ ...i, path: `${name}${i.path === undefined ? "" : `, ${i.path}`}` })));
}

export type Published = {
	/** Numbers of the new revisions, by material. */
	readonly revisions: ReadonlyMap<string, number>;
	readonly movedParts: number;
};

type Opening = {
	/** The open publish of each place. */
	readonly publishes: ReadonlyMap<string, string>;
	readonly note: string;
	/** How many are published together. */
	readonly together: number;
};

/**
 * Drafts become the next revisions of their materials, as items of publishes that are open: parts that try one move on to
 * its revision, projects with a rule follow, history is told. All of them together, whatever their number: nothing is
 * asked of the database once for each.
 */
export async function publishReady(
	ctx: Context,
	sql: Sql,
	ready: readonly Ready[],
	{ publishes, ...told }: Opening,
): Promise<Published> {
	await storeCanonical(
		sql,
		ready.map((r) => r.out),
	);
	const rows = ready.map(({ head, out }) => ({
		id: ctx.newId(),
		material: head.id,
		no: (head.revision_no ?? 0) + 1,
		publish: publishes.get(head.library_id) as string,
		hash: out.hash,
	}));
	await insertRevisions(ctx, sql, rows);
	const revisions = new Map(rows.map((r) => [r.material, r.id]));
	const moved = await moveTrying(sql, ready, revisions);
	await removeDrafts(
		sql,
		ready.map((r) => r.draft.id),
	);
	const changes = rows.map(
		({ material, no }) => [material, { revision: no, movedParts: moved.get(material) ?? [], ...told }] as const,
	);
	await recordEvents(ctx, sql, { action: "material.publish", kind: "material" }, new Map(changes));
	await forwardByRule(ctx, sql, revisions);
	return {
		revisions: new Map(rows.map((r) => [r.material, r.no])),
		movedParts: [...moved.values()].reduce((n, parts) => n + parts.length, 0),
	};
}

/** Parts that try these drafts stand on their revisions from now on; which of them, by material. */
async function moveTrying(
	sql: Sql,
	ready: readonly Ready[],
	revisions: ReadonlyMap<string, string>,
): Promise<ReadonlyMap<string, readonly string[]>> {
	const materialOf = new Map(ready.map((r) => [r.draft.id, r.head.id]));
	const trying = await assignmentsOnDrafts(sql, [...materialOf.keys()]);
	const moved = new Map<string, string[]>();
	const states = trying.map((s) => {
		const material = materialOf.get(s.draft ?? "") as string;
		moved.set(material, [...(moved.get(material) ?? []), s.part]);
		return { part: s.part, revision: revisions.get(material) as string, draft: null, before: null };
	});
	await setAssignments(sql, states);
	return moved;
}

type Opened = { readonly id: string; readonly proposed: boolean };

/** One publish in each place of these materials, or one proposal where the place asks for a second person. */
async function openIn(
	ctx: Context,
	sql: Sql,
	materials: readonly MaterialRecord[],
	note: string,
): Promise<Result<ReadonlyMap<string, Opened>>> {
	const opened = new Map<string, Opened>();
	for (const place of new Set(materials.map((m) => m.library_id))) {
		const library = await requirePublishing(ctx, sql, place);
		if (!library.ok) return library;
		const { proposed } = library.value;
		const id = await openPublish(ctx, sql, { place, note, state: proposed ? "proposed" : "done" });
		opened.set(place, { id, proposed });
	}
	return ok(opened);
}

/**
 * My drafts become revisions in one publish with one note, all or none; drafts of several libraries make one publish in
 * each. Parts that try a draft move on to its revision. A draft that started from an older revision is merged value by
 * value; values that both changed come back as conflicts. Where the library asks for a second person, what would be
 * published waits for approval instead.
 */
export function publishDrafts(ctx: Context, input: RouteInput<"publishDrafts">): Promise<Result<PublishReply>> {
	return inWrite(ctx, async (sql) => {
		const alone = await isSingleUser(sql);
		const note = input.note.trim();
		if (note === "" && !alone) return fail({ code: "note-missing", path: "note" });
		const seen = new Map(input.items.map((i) => [i.id, i.hash]));
		const materials = await authorisedAll(ctx, sql, [...seen.keys()], "library.publish");
		if (!materials.ok) return materials;
		const drafts = new Map((await draftsOf(sql, [...seen.keys()], ctx.actor.person)).map((d) => [d.material_id, d]));
		const ready: Ready[] = [];
		for (const head of materials.value) {
			const one = readyAsSeen(head, drafts.get(head.id), seen.get(head.id) ?? "");
			if (!one.ok) return seen.size === 1 ? one : named(head.name, one.issues);
			ready.push(one.value);
		}
		const opened = await openIn(ctx, sql, materials.value, note);
		if (!opened.ok) return opened;
		const waits = ready.filter((r) => opened.value.get(r.head.library_id)?.proposed === true);
		const out = ready.filter((r) => !waits.includes(r));
		const ids = new Map([...opened.value].map(([place, { id }]) => [place, id]));
		const done = await publishReady(ctx, sql, out, { publishes: ids, note, together: seen.size });
		for (const [library, { id, proposed }] of opened.value) {
			if (!proposed) continue;
			await propose(
				sql,
				id,
				waits.filter((r) => r.head.library_id === library),
			);
			await recordProposal(ctx, sql, library, { publish: id, note });
		}
		return ok({
			published: out.length,
			proposed: waits.length,
			movedParts: done.movedParts,
			revision: [...done.revisions.values()].at(-1) ?? 0,
		});
	});
}

export async function recordProposal(
	ctx: Context,
	sql: Sql,
	library: string,
	changeset: { readonly publish: string; readonly note: string },
): Promise<void> {
	await recordEvent(ctx, sql, { action: "publish.propose", kind: "library", subject: library, changeset, inverse: null });
}

/** Drafts of one person that wait for approval, with the hash of what each holds. A newer proposal of the same draft takes its place. */
export async function propose(sql: Sql, publish: string, drafts: readonly Pick<Ready, "head" | "draft">[]): Promise<void> {
	const [first] = drafts;
	if (first === undefined) return;
	const items = drafts.map(({ head, draft }) => ({
		material: head.id,
		proposed: { draft: draft.id, hash: hashOfDocument(draftDocument(draft)) },
	}));
	await addToProposal(sql, publish, first.draft.person_id, items);
}

/** Materials that are not published yet, each with a draft of a document that waits for approval. */
export async function proposeNew(
	ctx: Context,
	sql: Sql,
	publish: string,
	documents: ReadonlyMap<string, Material>,
): Promise<void> {
	const edits = new Map([...documents].map(([id, document]) => [id, difference(BLANK, document)]));
	await insertFirstDrafts(ctx, sql, edits);
	const drafts = await draftsOf(sql, [...documents.keys()], ctx.actor.person);
	const items = drafts.map((draft) => ({
		material: draft.material_id,
		proposed: { draft: draft.id, hash: hashOfDocument(draftDocument(draft)) },
	}));
	await addToProposal(sql, publish, ctx.actor.person, items);
}
