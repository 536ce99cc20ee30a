import type { HandedOver, RouteInput } from "@alvek/contract";
import { difference, type Edit, mergeEdits } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Context, Sql } from "../db";
import { keepsAnAdministrator, manage, personById } from "../people";
import {
	assignmentsOnDrafts,
	type DraftRecord,
	draftBase,
	draftDocument,
	draftEdits,
	draftIdsOf,
	draftOf,
	draftState,
	giveDraft,
	grantsOf,
	materialById,
	nextVersion,
	putDraft,
	removeDrafts,
	removeGrantsOf,
	removePerson,
	setAssignments,
	strengthenGrant,
} from "../repo";

/** Somebody leaves: all that would be an orphan goes to another person in one step, and nothing opens for them any more. */
export function handOver(ctx: Context, input: RouteInput<"handOver">): Promise<Result<HandedOver>> {
	const event = { action: "person.leave", kind: "person", subject: input.id, changeset: { to: input.to } } as const;
	return manage<HandedOver>(ctx, event, async (sql) => {
		if (input.id === input.to) return fail({ code: "same-person" });
		const leaver = await personById(sql, input.id);
		if (!leaver.ok) return leaver;
		const heir = await personById(sql, input.to);
		if (!heir.ok) return heir;
		const kept = await keepsAnAdministrator(sql, input.id);
		if (!kept.ok) return kept;
		const people = { from: input.id, to: input.to };
		const drafts = await handOverDrafts(ctx, sql, people);
		const grants = await handOverGrants(sql, people);
		await removePerson(sql, people, ctx.now());
		return ok({ ...drafts, ...grants });
	});
}

type People = { readonly from: string; readonly to: string };

async function handOverDrafts(ctx: Context, sql: Sql, { from, to }: People): Promise<Pick<HandedOver, "drafts" | "kept">> {
	const kept: { material: string; at: string }[] = [];
	const drafts = await draftIdsOf(sql, from);
	for (const { id, material_id } of drafts) {
		const theirs = (await draftOf(sql, material_id, from)) as DraftRecord;
		const own = await draftOf(sql, material_id, to);
		if (own === null) {
			await giveDraft(sql, id, to);
			continue;
		}
		const { edits, lost } = joined(own, theirs);
		await putDraft(ctx, sql, { ...draftState(own), edits: JSON.stringify(edits), version: await nextVersion(sql) });
		// parts that try the leaver's draft try the joined one
		const trying = await assignmentsOnDrafts(sql, [id]);
		await setAssignments(
			sql,
			trying.map((s) => ({ ...s, draft: own.id })),
		);
		await removeDrafts(sql, [id]);
		const name = (await materialById(sql, material_id))?.name ?? material_id;
		kept.push(...lost.map((at) => ({ material: name, at })));
	}
	return { drafts: drafts.length, kept };
}

/** Both drafts as one on the receiver's base: the leaver's edits are added where the receiver changed nothing. */
function joined(own: DraftRecord, theirs: DraftRecord): { edits: readonly Edit[]; lost: readonly string[] } {
	const base = draftBase(own);
	const lost: string[] = [];
	let document = draftDocument(own);
	for (const edit of draftEdits(theirs)) {
		const merged = mergeEdits(draftBase(theirs), [edit], document);
		if (merged.ok) document = merged.value;
		else lost.push(edit.at);
	}
	return { edits: difference(base, document), lost };
}

/** Roles of the leaver become the receiver's, where those are not stronger already. */
async function handOverGrants(sql: Sql, people: People): Promise<Pick<HandedOver, "libraries" | "projects">> {
	const grants = await grantsOf(sql, people.from);
	for (const grant of grants) await strengthenGrant(sql, people.to, grant);
	await removeGrantsOf(sql, "person", people.from);
	return {
		libraries: grants.filter((g) => g.kind !== "project" && g.role === "steward").length,
		projects: grants.filter((g) => g.kind === "project" && g.role === "owner").length,
	};
}
