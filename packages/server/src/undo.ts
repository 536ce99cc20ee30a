import type { Undoable } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "./db/connection";
import { authoriseLibrary, authoriseProject } from "./db/rights";
import {
	type AssignmentState,
	type Context,
	type DraftState,
	type GrantState,
	type GroupState,
	type Inverse,
	inWrite,
	recordEvent,
} from "./db/write";
import { grantsOn, setGrants } from "./libraries/grants";
import { groupsOf, setGroup } from "./libraries/groups";
import { guarded } from "./libraries/lock";
import { mayList, putWorking } from "./libraries/tidy";
import { authorisePlace } from "./materials/access";
import type { Finding } from "./materials/finding";
import { freeLinks, readLinks } from "./materials/namelinks";
import { draftOf, materialById } from "./materials/store";
import { assignmentStates, assignmentsOnDraft, setAssignments } from "./parts/assignments";
import { putFollow } from "./parts/following";

type EventRecord = {
	seq: number;
	actor: string;
	action: string;
	subject_kind: "material" | "project" | "library" | "person" | "team";
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
			"SELECT seq, actor, action, subject_kind, subject_id, inverse, undone_by FROM event WHERE seq = $seq",
			{
				seq: input.event,
			},
		);
		if (event === null || event.inverse === null) return fail({ code: "not-found", path: "This step" });
		const allowed = await authorise(ctx, sql, event, JSON.parse(event.inverse) as Inverse);
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
		if (inverse.kind === "groups") after(() => finding.reloadGroups());
		after(() => finding.refresh(touched(event, inverse)));
		return ok({ event: seq, value: null });
	});
}

/** Materials whose rows an inverse changes. */
function touched(event: EventRecord, inverse: Inverse): readonly string[] {
	switch (inverse.kind) {
		case "drafts":
			return inverse.expect.flatMap((state, i) => (state ?? inverse.set[i])?.material ?? []);
		case "material-rows":
			return inverse.rows.map((r) => r.id);
		case "working":
			return inverse.materials;
		case "groups":
			return inverse.rows.map((r) => r.id);
		default:
			return event.subject_kind === "material" ? [event.subject_id] : [];
	}
}

/** Taking a step back takes what the step took. */
async function authorise(ctx: Context, sql: Sql, event: EventRecord, inverse: Inverse): Promise<Result<unknown>> {
	// a draft is its author's, and so are the steps that made it
	if ((inverse.kind === "drafts" || inverse.kind === "draft") && event.actor !== ctx.actor.person)
		return fail({ code: "not-found", path: "This step" });
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
	if (event.subject_kind === "library") {
		const hidden = (result: Result<unknown>): Result<unknown> =>
			!result.ok && result.issues[0]?.code === "not-found" ? fail({ code: "not-found", path: "This step" }) : result;
		if (inverse.kind === "grants" || inverse.kind === "library-row")
			return hidden(await authoriseLibrary(ctx, sql, event.subject_id, "library.steward"));
		if (inverse.kind === "working") return hidden(await mayList(ctx, sql, event.subject_id));
		return hidden(await guarded(ctx, sql, event.subject_id));
	}
	const material = event.subject_kind === "material" ? await materialById(sql, event.subject_id) : null;
	if (material === null) return fail({ code: "not-found", path: "This step" });
	const allowed = await authorisePlace(ctx, sql, material.library_id, "library.edit");
	if (!allowed.ok || inverse.kind !== "material-rows") return allowed;
	return guarded(ctx, sql, material.library_id);
}

/** Takes a step back when its state is still there; the inverse of that. */
async function applyInverse(ctx: Context, sql: Sql, inverse: Inverse): Promise<Result<Inverse | null>> {
	switch (inverse.kind) {
		case "material-row":
			return setRow(ctx, sql, "material", inverse);
		case "project-row":
			return setRow(ctx, sql, "project", inverse);
		case "library-row":
			return setRow(ctx, sql, "library", inverse);
		case "material-rows": {
			const rows: Extract<Inverse, { kind: "material-rows" }>["rows"][number][] = [];
			for (const row of inverse.rows) {
				const back = await setRow(ctx, sql, "material", { kind: "material-row", ...row });
				if (!back.ok) return back;
				// the other way round, so that what two rows passed on (an item code) is free when it goes back
				rows.unshift({ id: row.id, expect: row.set, set: row.expect });
			}
			return ok({ kind: "material-rows", rows });
		}
		case "groups":
			return setGroups(sql, inverse);
		case "grants": {
			const now = await grantsOn(sql, inverse.on, inverse.target);
			const key = (list: readonly GrantState[]): string =>
				JSON.stringify(list.map((g) => `${g.by} ${g.subject} ${g.role}`).sort());
			if (key(now) !== key(inverse.expect)) return fail({ code: "newer-change", actual: "the roles were changed" });
			await setGrants(sql, inverse.on, inverse.target, inverse.set);
			return ok({ ...inverse, expect: inverse.set, set: inverse.expect });
		}
		case "working":
			await putWorking(sql, inverse.library, inverse.materials, inverse.on);
			return ok({ ...inverse, on: !inverse.on });
		case "follow": {
			const now = await sql.one<{ edition: string }>(
				"SELECT edition_id AS edition FROM follow WHERE project_id = $project AND library_id = $library",
				{ project: inverse.project, library: inverse.library },
			);
			if ((now?.edition ?? null) !== inverse.expect)
				return fail({ code: "newer-change", actual: "the project follows another edition" });
			await putFollow(sql, inverse.project, inverse.library, inverse.set);
			return ok({ ...inverse, expect: inverse.set, set: inverse.expect });
		}
		case "assignments": {
			const now = await assignmentStates(
				sql,
				inverse.expect.map((s) => s.part),
			);
			const moved = now.some((s, i) => !sameState(s, inverse.expect[i] as AssignmentState));
			if (moved) return fail({ code: "newer-change", actual: "one of these parts got another material" });
			await setAssignments(sql, inverse.set);
			const { standard } = inverse;
			if (standard !== undefined)
				await sql.run("UPDATE project SET default_revision_id = $set WHERE id = $id", { set: standard.set, id: inverse.project });
			await sql.run("UPDATE project SET changed_at = $at WHERE id = $id", { at: ctx.now(), id: inverse.project });
			const back = standard === undefined ? {} : { standard: { expect: standard.set, set: standard.expect } };
			return ok({ ...inverse, ...back, expect: inverse.set, set: inverse.expect });
		}
		case "drafts":
			return setDrafts(ctx, sql, inverse);
		case "draft":
			return restoreDraft(ctx, sql, inverse);
	}
}

/** Column names come from our own event log, never from a request; they are checked all the same. */
const COLUMNS = new Set([
	"review_at",
	"offered_for",
	"origin_revision_id",
	"name",
	"name_key",
	"item_code",
	"shop_name",
	"known_as",
	"group_id",
	"removed_at",
	"money",
	"retired",
	"successor_id",
	"description",
	"owner",
	"approval",
	"lock_minutes",
	"archived",
	"frozen",
	"forward",
]);

async function setRow(
	ctx: Context,
	sql: Sql,
	table: "material" | "project" | "library",
	inverse: Extract<Inverse, { kind: "material-row" | "project-row" | "library-row" }>,
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
			"SELECT name FROM material WHERE library_id IS $library AND project_id IS $project AND name_key = $key AND removed_at IS NULL AND id <> $id",
			{ library: row.library_id as string | null, project: row.project_id as string | null, key, id: inverse.id },
		);
		if (taken !== null) return fail({ code: "name-taken", path: "name", actual: taken.name });
	}
	const links = table === "material" ? (inverse.set.known_as ?? (inverse.set.removed_at === null ? row.known_as : null)) : null;
	if (typeof links === "string") {
		const place = typeof row.library_id === "string" ? row.library_id : `project:${row.project_id}`;
		const free = await freeLinks(sql, place, readLinks(links), inverse.id);
		if (!free.ok) return free;
	}
	const assignments = columns.map((c) => `${c} = $${c}`).join(", ");
	const values = Object.fromEntries(columns.map((c) => [c, inverse.set[c] as string | number | null]));
	await sql.run(`UPDATE ${table} SET ${assignments} WHERE id = $id`, { ...values, id: inverse.id });
	if (table !== "library")
		await sql.run(`UPDATE ${table} SET changed_at = $at WHERE id = $id`, { at: ctx.now(), id: inverse.id });
	return ok({ ...inverse, expect: inverse.set, set: inverse.expect });
}

/** Groups as they were, with the materials that had moved along; refused when one of them was changed since. */
async function setGroups(sql: Sql, inverse: Extract<Inverse, { kind: "groups" }>): Promise<Result<Inverse>> {
	const states = await Promise.all(
		inverse.expect.map((state, i) => {
			const { library, id } = (state ?? inverse.set[i]) as GroupState;
			return groupsOf(sql, library).then((all) => all.find((g) => g.id === id) ?? null);
		}),
	);
	if (states.some((now, i) => JSON.stringify(now) !== JSON.stringify(inverse.expect[i])))
		return fail({ code: "newer-change", actual: "one of these groups was changed" });
	// what comes back first, so that others can stand under it again; what goes last, when nothing stands under it any more
	for (const [i, state] of inverse.set.entries()) if (state !== null) await setGroup(sql, inverse.expect[i] ?? null, state);
	for (const row of inverse.rows)
		await sql.run("UPDATE material SET group_id = $set WHERE id = $id AND group_id IS $expect", { ...row });
	for (const [i, state] of inverse.set.entries()) {
		const before = inverse.expect[i] ?? null;
		if (state !== null || before === null) continue;
		const inside = await sql.one(
			"SELECT 1 AS x FROM material WHERE group_id = $id UNION SELECT 1 FROM library_group WHERE parent_id = $id",
			{
				id: before.id,
			},
		);
		if (inside !== null) return fail({ code: "newer-change", actual: "something was put into this group" });
		await setGroup(sql, before, null);
	}
	const rows = inverse.rows.map(({ id, expect, set }) => ({ id, expect: set, set: expect }));
	return ok({ kind: "groups", expect: inverse.set, set: inverse.expect, rows });
}

/** Puts many drafts back as they were; all or none. */
async function setDrafts(ctx: Context, sql: Sql, inverse: Extract<Inverse, { kind: "drafts" }>): Promise<Result<Inverse>> {
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
		const next = { ...wanted, version: Math.max(now?.version ?? 0, wanted.version, expected?.version ?? 0) + 1 };
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
	const bare = a.revision === null && a.draft === null;
	return a.revision === b.revision && a.draft === b.draft && (bare || (a.state ?? "chosen") === (b.state ?? "chosen"));
}
