import type { RouteInput } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseLibrary, authorisePlace } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import {
	approveProposal,
	draftDocument,
	draftsOf,
	hashOfDocument,
	itemsOf,
	materialsById,
	type Proposal,
	type ProposedItem,
	proposalById,
	recordEvent,
	removeProposal,
} from "../repo";
import { publishReady, type Ready, readyAsSeen } from "./publish";

/** What somebody else proposed is published, each draft exactly as it was when it was proposed. */
export function approvePublish(
	ctx: Context,
	input: RouteInput<"approvePublish">,
): Promise<Result<{ published: number; movedParts: number }>> {
	return inWrite(ctx, async (sql) => {
		const proposal = await openProposal(ctx, sql, input.id);
		if (!proposal.ok) return proposal;
		const { place, actor, note } = proposal.value;
		// a second look is what the lock would ask for: it goes out whoever holds that
		const library = await authoriseLibrary(ctx, sql, place, "library.publish");
		if (!library.ok) return library;
		if (actor === ctx.actor.person) return fail({ code: "own-approval" });
		const seen = new Map(input.items.map((i) => [i.id, i.hash]));
		const items = await itemsOf(sql, input.id);
		if (seen.size !== items.length) return stale(library.value.name);
		const ready = await readyAsProposed(sql, actor, items, seen);
		if (!ready.ok) return ready;
		await approveProposal(sql, input.id, ctx.actor.person, ctx.now());
		const publishes = new Map([[place, input.id]]);
		const done = await publishReady(ctx, sql, ready.value, { publishes, note, together: ready.value.length });
		return ok({ published: ready.value.length, movedParts: done.movedParts });
	});
}

const stale = (name: string) => fail({ code: "proposal-stale", actual: name });

/**
 * The drafts of a proposal: each has to hold what was proposed, and what comes of it has to be what the approver saw.
 * @param seen hashes of what was on the approver's screen, by material
 */
async function readyAsProposed(
	sql: Sql,
	person: string,
	items: readonly ProposedItem[],
	seen: ReadonlyMap<string, string>,
): Promise<Result<readonly Ready[]>> {
	const ids = items.map((i) => i.material);
	const heads = await materialsById(sql, ids);
	const drafts = new Map((await draftsOf(sql, ids, person)).map((d) => [d.material_id, d]));
	const ready: Ready[] = [];
	for (const { material, proposed } of items) {
		const head = heads.get(material);
		if (head === undefined) return fail({ code: "not-found", path: "The material" });
		const one = readyAsSeen(head, drafts.get(material), seen.get(material) ?? "");
		if (!one.ok || hashOfDocument(draftDocument(one.value.draft)) !== proposed.hash) return stale(head.name);
		ready.push(one.value);
	}
	return ok(ready);
}

/** Sends a proposal back with a reason, or withdraws one's own; the drafts stay as they are. */
export function declinePublish(ctx: Context, input: { id: string; note: string }): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		const proposal = await openProposal(ctx, sql, input.id);
		if (!proposal.ok) return proposal;
		const { place, actor } = proposal.value;
		const mine = actor === ctx.actor.person;
		// nothing is published by it, so it needs no lock; withdrawing one's own takes no right either
		const allowed = mine ? ok(null) : await authoriseLibrary(ctx, sql, place, "library.publish");
		if (!allowed.ok) return allowed;
		const note = input.note.trim();
		if (!mine && note === "") return fail({ code: "note-missing", path: "note" });
		await removeProposal(sql, input.id);
		await recordEvent(ctx, sql, {
			action: mine ? "publish.withdraw" : "publish.decline",
			kind: "library",
			subject: place,
			changeset: { note, of: actor },
			inverse: null,
		});
		return ok(null);
	});
}

/** A proposal in a library that the actor may read; any other is not there, in the same words. */
async function openProposal(ctx: Context, sql: Sql, id: string): Promise<Result<Proposal>> {
	const row = await proposalById(sql, id);
	const seen = row !== null && (row.actor === ctx.actor.person || (await authorisePlace(ctx, sql, row.place, "library.edit")).ok);
	return row === null || !seen ? fail({ code: "not-found", path: "The proposal" }) : ok(row);
}
