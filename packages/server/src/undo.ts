import type { Undoable } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "./db/connection";
import { authoriseLibrary, authoriseProject } from "./db/rights";
import { type AssignmentState, type Context, type Inverse, inWrite, recordEvent } from "./db/write";
import type { Finding } from "./materials/finding";
import { materialById } from "./materials/store";
import { assignmentStates, setAssignments } from "./parts/assignments";

type EventRecord = {
	seq: number;
	action: string;
	subject_kind: "material" | "project" | "library";
	subject_id: string;
	inverse: string | null;
	undone_by: number | null;
};

/**
 * The inverse of one event. It is itself an event with an inverse, so undo can be undone; when something newer stands
 * in the way it says so and changes nothing.
 */
export function undo(ctx: Context, finding: Finding, input: { event: number }): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql, after) => {
		const event = await sql.one<EventRecord>(
			"SELECT seq, action, subject_kind, subject_id, inverse, undone_by FROM event WHERE seq = $seq",
			{
				seq: input.event,
			},
		);
		if (event === null || event.inverse === null) return fail({ code: "not-found", path: "This step" });
		const allowed = await authorise(ctx, sql, event);
		if (!allowed.ok) return allowed;
		if (event.undone_by !== null) return fail({ code: "newer-change", actual: "it was undone already" });
		const inverse = JSON.parse(event.inverse) as Inverse;
		const back = await applyInverse(ctx, sql, inverse);
		if (!back.ok) return back;
		const seq = await recordEvent(ctx, sql, {
			action: `undo ${event.action}`,
			kind: event.subject_kind,
			subject: event.subject_id,
			changeset: { undoes: event.seq },
			inverse: back.value,
		});
		await sql.run("UPDATE event SET undone_by = $seq WHERE seq = $event", { seq, event: event.seq });
		if (event.subject_kind === "material") after(() => finding.refresh(event.subject_id));
		return ok({ event: seq, value: null });
	});
}

async function authorise(ctx: Context, sql: Sql, event: EventRecord): Promise<Result<unknown>> {
	if (event.subject_kind === "project") {
		const project = await sql.one<{ removed_at: string | null }>("SELECT removed_at FROM project WHERE id = $id", {
			id: event.subject_id,
		});
		// a deleted project is brought back by whoever deleted it
		if (project?.removed_at == null) return authoriseProject(ctx, sql, event.subject_id, "project.edit");
		const mine = await sql.one("SELECT 1 AS x FROM event WHERE seq = $seq AND actor = $person", {
			seq: event.seq,
			person: ctx.actor.person,
		});
		return mine !== null || ctx.actor.admin ? ok(null) : fail({ code: "not-found", path: "This step" });
	}
	const material = await materialById(sql, event.subject_id);
	return material === null
		? fail({ code: "not-found", path: "This step" })
		: authoriseLibrary(ctx, sql, material.library_id, "library.edit");
}

/** Takes a step back when its state is still there; the inverse of that. */
async function applyInverse(ctx: Context, sql: Sql, inverse: Inverse): Promise<Result<Inverse | null>> {
	switch (inverse.kind) {
		case "material-row":
			return setRow(ctx, sql, "material", inverse);
		case "project-row":
			return setRow(ctx, sql, "project", inverse);
		case "assignments": {
			const now = await assignmentStates(
				sql,
				inverse.expect.map((s) => s.part),
			);
			const moved = now.some((s, i) => !sameState(s, inverse.expect[i] as AssignmentState));
			if (moved) return fail({ code: "newer-change", actual: "one of these parts got another material" });
			await setAssignments(sql, inverse.set);
			await sql.run("UPDATE project SET changed_at = $at WHERE id = $id", { at: ctx.now(), id: inverse.project });
			return ok({ ...inverse, expect: inverse.set, set: inverse.expect });
		}
		case "draft":
			return restoreDraft(ctx, sql, inverse);
	}
}

/** Column names come from our own event log, never from a request; they are checked all the same. */
const COLUMNS = new Set(["name", "name_key", "item_code", "shop_name", "group_id", "removed_at"]);

async function setRow(
	ctx: Context,
	sql: Sql,
	table: "material" | "project",
	inverse: Extract<Inverse, { kind: "material-row" | "project-row" }>,
): Promise<Result<Inverse>> {
	const row = await sql.one<Record<string, unknown>>(`SELECT * FROM ${table} WHERE id = $id`, { id: inverse.id });
	if (row === null) return fail({ code: "not-found", path: "This step" });
	const columns = Object.keys(inverse.set).filter((c) => COLUMNS.has(c));
	for (const [column, value] of Object.entries(inverse.expect)) {
		if (row[column] !== value) return fail({ code: "newer-change", actual: `its ${column.replace("_", " ")} was changed` });
	}
	if (table === "material" && (inverse.set.removed_at === null || inverse.set.name_key !== undefined)) {
		const key = (inverse.set.name_key ?? row.name_key) as string;
		const taken = await sql.one<{ name: string }>(
			"SELECT name FROM material WHERE library_id = $library AND name_key = $key AND removed_at IS NULL AND id <> $id",
			{ library: row.library_id as string, key, id: inverse.id },
		);
		if (taken !== null) return fail({ code: "name-taken", path: "name", actual: taken.name });
	}
	const assignments = columns.map((c) => `${c} = $${c}`).join(", ");
	const values = Object.fromEntries(columns.map((c) => [c, inverse.set[c] as string | null]));
	await sql.run(`UPDATE ${table} SET ${assignments}, changed_at = $at WHERE id = $id`, {
		...values,
		at: ctx.now(),
		id: inverse.id,
	});
	return ok({ ...inverse, expect: inverse.set, set: inverse.expect });
}

async function restoreDraft(ctx: Context, sql: Sql, inverse: Extract<Inverse, { kind: "draft" }>): Promise<Result<null>> {
	const { draft } = inverse;
	const newer = await sql.one("SELECT 1 AS x FROM draft WHERE material_id = $material AND person_id = $person", {
		material: draft.material,
		person: draft.person,
	});
	if (newer !== null) return fail({ code: "newer-change", actual: "a newer draft was begun" });
	await sql.run(
		`INSERT INTO draft (id, material_id, person_id, base_revision_id, edits, version, saved_at)
		 VALUES ($id, $material, $person, $base, $edits, $version, $at)`,
		{ ...draft, at: ctx.now() },
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

function sameState(a: AssignmentState, b: AssignmentState): boolean {
	return a.revision === b.revision && a.draft === b.draft;
}
