import { difference } from "@alvek/core/material";
import { ok, type Result } from "@alvek/core/result";
import { authorisedAll } from "../access";
import type { Context, Sql } from "../db";
import {
	documentsOf,
	draftsOf,
	hashesOf,
	headDocument,
	insertDraft,
	insertRevisions,
	type LibraryRecord,
	type MaterialRecord,
	openPublish,
	recordEvents,
} from "../repo";
import type { Made } from "./copies";
import { forwardByRule } from "./forward";
import { propose, recordProposal } from "./publish";

type Revised = {
	readonly revised: readonly Made[];
	/** Names of those whose bearer there cannot take a revision: retired, or with a draft of mine that it would overrun. */
	readonly left: readonly string[];
};

type Where = { readonly place: Pick<LibraryRecord, "id">; readonly proposed: boolean; readonly note: string };

/**
 * Documents of published revisions become the next revisions of what bears their names in another library, or a proposal
 * of them. What bears a name has to be there, published and in use; where the actor drafts it, it is left as it is.
 */
export async function reviseFrom(ctx: Context, sql: Sql, pairs: readonly Made[], where: Where): Promise<Result<Revised>> {
	if (pairs.length === 0) return ok({ revised: [], left: [] });
	const ids = pairs.map((p) => p.id);
	const heads = await authorisedAll(ctx, sql, ids, "library.publish");
	if (!heads.ok) return heads;
	const byId = new Map(heads.value.map((h) => [h.id, h]));
	const drafted = new Set((await draftsOf(sql, ids, ctx.actor.person)).map((d) => d.material_id));
	const fits = (p: Made): boolean => byId.get(p.id)?.retired === 0 && !drafted.has(p.id);
	const revised = pairs.filter(fits);
	if (where.proposed) await proposeRevisions(ctx, sql, revised, { byId, ...where });
	else await publishRevisions(ctx, sql, revised, { byId, ...where });
	return ok({ revised, left: pairs.filter((p) => !fits(p)).map((p) => p.of.name) });
}

type Heads = Where & { readonly byId: ReadonlyMap<string, MaterialRecord> };

async function publishRevisions(ctx: Context, sql: Sql, pairs: readonly Made[], { byId, place, note }: Heads): Promise<void> {
	if (pairs.length === 0) return;
	const publish = await openPublish(ctx, sql, { place: place.id, note });
	const hashes = await hashesOf(
		sql,
		pairs.map((p) => p.of.revision),
	);
	const rows = pairs.map(({ of, id }) => ({
		id: ctx.newId(),
		material: id,
		no: (byId.get(id)?.revision_no ?? 0) + 1,
		publish,
		hash: hashes.get(of.revision) as string,
	}));
	await insertRevisions(ctx, sql, rows);
	const told = rows.map((r) => [r.material, { revision: r.no, movedParts: [], note, together: rows.length }] as const);
	await recordEvents(ctx, sql, { action: "material.publish", kind: "material" }, new Map(told));
	await forwardByRule(ctx, sql, new Map(rows.map((r) => [r.material, r.id])));
}

async function proposeRevisions(ctx: Context, sql: Sql, pairs: readonly Made[], { byId, place, note }: Heads): Promise<void> {
	if (pairs.length === 0) return;
	const publish = await openPublish(ctx, sql, { place: place.id, note, state: "proposed" });
	const documents = await documentsOf(
		sql,
		pairs.map((p) => p.of.revision),
	);
	for (const { of, id } of pairs) {
		const head = byId.get(id);
		const now = head === undefined ? null : headDocument(head);
		const next = documents.get(of.revision);
		if (head === undefined || now === null || next === undefined) continue;
		await insertDraft(ctx, sql, { material: id, base: head.revision_id, edits: difference(now, next) });
	}
	const drafts = await draftsOf(
		sql,
		pairs.map((p) => p.id),
		ctx.actor.person,
	);
	await propose(
		sql,
		publish,
		drafts.map((draft) => ({ head: byId.get(draft.material_id) as MaterialRecord, draft })),
	);
	await recordProposal(ctx, sql, place.id, { publish, note });
}
