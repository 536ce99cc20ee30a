import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import type { Context, DraftState, Inverse, InverseOf } from "../db/write";
import { draftOf, nextVersion } from "../materials/store";
import { assignmentStates, assignmentsOnDraft, setAssignments } from "../parts/assignments";

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
			const trying = await assignmentsOnDraft(sql, now.id);
			if (trying.length > 0) return fail({ code: "newer-change", actual: "parts try one of these drafts" });
			await sql.run("DELETE FROM draft WHERE id = $id", { id: now.id });
		}
		if (wanted === null) {
			done.push(null);
			continue;
		}
		// a version never repeats, so that nobody publishes what they have not seen
		const next = { ...wanted, version: await nextVersion(sql) };
		await sql.run(
			`INSERT INTO draft (id, material_id, person_id, base_revision_id, edits, version, saved_at)
			 VALUES ($id, $material, $person, $base, $edits, $version, $at)
			 ON CONFLICT (material_id, person_id) DO UPDATE SET edits = $edits, base_revision_id = $base, version = $version, saved_at = $at`,
			{ ...next, at: ctx.now() },
		);
		done.push(next);
	}
	return ok({ kind: "drafts", expect: done, set: inverse.expect });
}

export async function restoreDraft(ctx: Context, sql: Sql, inverse: InverseOf<"draft">): Promise<Result<null>> {
	const { draft } = inverse;
	const newer = await sql.one("SELECT 1 AS x FROM draft WHERE material_id = $material AND person_id = $person", {
		material: draft.material,
		person: draft.person,
	});
	if (newer !== null) return fail({ code: "newer-change", actual: "a newer draft was begun" });
	await sql.run(
		`INSERT INTO draft (id, material_id, person_id, base_revision_id, edits, version, saved_at)
		 VALUES ($id, $material, $person, $base, $edits, $version, $at)`,
		{ ...draft, version: await nextVersion(sql), at: ctx.now() },
	);
	// only parts that nobody has given anything else meanwhile go back onto the draft
	const now = await assignmentStates(
		sql,
		inverse.parts.map((p) => p.part),
	);
	const untouched = inverse.parts.filter((p, i) => now[i]?.draft === null && now[i]?.revision === p.before);
	await setAssignments(sql, untouched);
	return ok(null);
}
