import { fail, ok, type Result } from "@alvek/core/result";
import type { Context, Sql } from "../db";
import {
	assignmentStates,
	assignmentsOnDrafts,
	type DraftState,
	draftOf,
	type Inverse,
	type InverseOf,
	nextVersion,
	putDraft,
	removeDrafts,
	setAssignments,
} from "../repo";

/** Puts many drafts back as they were; all or none. */
export async function setDrafts(ctx: Context, sql: Sql, inverse: InverseOf<"drafts">): Promise<Result<Inverse>> {
	const done: (DraftState | null)[] = [];
	for (const [i, expected] of inverse.expect.entries()) {
		const wanted = inverse.set[i] ?? null;
		const { material, person } = (expected ?? wanted) as DraftState;
		const now = await draftOf(sql, material, person);
		if ((now?.edits ?? null) !== (expected?.edits ?? null))
			return fail({ code: "newer-change", actual: "a draft was changed since" });
		if (now !== null && wanted === null) {
			const trying = await assignmentsOnDrafts(sql, [now.id]);
			if (trying.length > 0) return fail({ code: "newer-change", actual: "parts try one of these drafts" });
			await removeDrafts(sql, [now.id]);
		}
		if (wanted === null) {
			done.push(null);
			continue;
		}
		// a version never repeats, so that nobody publishes what they have not seen
		const next = { ...wanted, version: await nextVersion(sql) };
		await putDraft(ctx, sql, next);
		done.push(next);
	}
	return ok({ kind: "drafts", expect: done, set: inverse.expect });
}

export async function restoreDraft(ctx: Context, sql: Sql, inverse: InverseOf<"draft">): Promise<Result<null>> {
	const { draft } = inverse;
	if ((await draftOf(sql, draft.material, draft.person)) !== null)
		return fail({ code: "newer-change", actual: "a newer draft was begun" });
	await putDraft(ctx, sql, { ...draft, version: await nextVersion(sql) });
	// only parts that nobody has given anything else meanwhile go back onto the draft
	const now = await assignmentStates(
		sql,
		inverse.parts.map((p) => p.part),
	);
	const untouched = inverse.parts.filter((p, i) => now[i]?.draft === null && now[i]?.revision === p.before);
	await setAssignments(sql, untouched);
	return ok(null);
}
