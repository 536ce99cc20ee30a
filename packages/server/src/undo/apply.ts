import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import type { AssignmentState, Context, GrantState, GroupState, Inverse, InverseOf } from "../db/write";
import { grantsOn, setGrants } from "../libraries/grants";
import { fitsUnder, groupsOf, setGroup } from "../libraries/groups";
import { putWorking } from "../libraries/tidy";
import { freeLinks, readLinks } from "../materials/namelinks";
import { assignmentStates, setAssignments } from "../parts/assignments";
import { undoGeometry } from "../parts/files";
import { putFollow } from "../parts/following";
import { restoreDraft, setDrafts } from "./drafts";

/** Takes a step back when its state is still there; the inverse of that. */
export async function applyInverse(ctx: Context, sql: Sql, inverse: Inverse): Promise<Result<Inverse | null>> {
	switch (inverse.kind) {
		case "material-row":
			return setRow(ctx, sql, "material", inverse);
		case "project-row":
			return setRow(ctx, sql, "project", inverse);
		case "library-row":
			return setRow(ctx, sql, "library", inverse);
		case "material-rows": {
			const rows: InverseOf<"material-rows">["rows"][number][] = [];
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
		case "geometry":
			return undoGeometry(ctx, sql, inverse);
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
	inverse: InverseOf<"material-row" | "project-row" | "library-row">,
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
	if (table === "material") {
		const free = await checkMaterialRow(sql, row, inverse);
		if (!free.ok) return free;
	}
	const links = table === "material" ? (inverse.set.known_as ?? (inverse.set.removed_at === null ? row.known_as : null)) : null;
	if (typeof links === "string") {
		const place = typeof row.library_id === "string" ? row.library_id : `project:${row.project_id}`;
		const free = await freeLinks(sql, place, readLinks(links), inverse.id);
		if (!free.ok) return free;
	}
	// a rule acts by the right of whoever set it last
	if (table === "project" && typeof inverse.set.forward === "string")
		await sql.run("UPDATE project SET forward_by = $person WHERE id = $id", { person: ctx.actor.person, id: inverse.id });
	const assignments = columns.map((c) => `${c} = $${c}`).join(", ");
	const values = Object.fromEntries(columns.map((c) => [c, inverse.set[c] as string | number | null]));
	await sql.run(`UPDATE ${table} SET ${assignments} WHERE id = $id`, { ...values, id: inverse.id });
	if (table !== "library")
		await sql.run(`UPDATE ${table} SET changed_at = $at WHERE id = $id`, { at: ctx.now(), id: inverse.id });
	return ok({ ...inverse, expect: inverse.set, set: inverse.expect });
}

/** What else stands in the way of a material's row: a code that is another's now, a line of successors, a group that is gone. */
async function checkMaterialRow(
	sql: Sql,
	row: Record<string, unknown>,
	inverse: InverseOf<"material-row" | "project-row" | "library-row">,
): Promise<Result<null>> {
	const { set, id } = inverse;
	const back = set.removed_at === null;
	const code = (set.item_code ?? (back ? row.item_code : "")) as string;
	const taken =
		code === ""
			? null
			: await sql.one<{ name: string }>(
					"SELECT name FROM material WHERE library_id = $library AND item_code = $code AND removed_at IS NULL AND id <> $id",
					{ library: (row.library_id as string | null) ?? "", code, id },
				);
	if (taken !== null) return fail({ code: "newer-change", actual: `the code ${code} is ${taken.name} now` });
	if (
		typeof set.group_id === "string" &&
		(await sql.one("SELECT 1 AS x FROM library_group WHERE id = $id", { id: set.group_id })) === null
	)
		return fail({ code: "newer-change", actual: "the group that it stood in is gone" });
	for (let at = (set.successor_id ?? null) as string | null, steps = 0; at !== null; steps++) {
		if (at === id || steps > MOST_SUCCESSORS) return fail({ code: "retired-loop" });
		at =
			(await sql.one<{ next: string | null }>("SELECT successor_id AS next FROM material WHERE id = $at", { at }))?.next ?? null;
	}
	if (set.removed_at != null) {
		const used = await sql.one(
			`SELECT 1 AS x FROM assignment s JOIN revision r ON r.id = s.revision_id JOIN project p ON p.id = s.project_id
			 WHERE r.material_id = $id AND p.removed_at IS NULL LIMIT 1`,
			{ id },
		);
		if (used !== null) return fail({ code: "newer-change", actual: "parts stand on it now" });
	}
	return ok(null);
}

/** Retired materials one after the other, at the most. */
const MOST_SUCCESSORS = 20;

/** The tree as it would be: every group under one that is there, none under itself, no two of one name side by side. */
async function checkTree(sql: Sql, inverse: InverseOf<"groups">): Promise<Result<null>> {
	const [first] = [...inverse.expect, ...inverse.set].filter((g) => g !== null);
	if (first === undefined) return ok(null);
	const byId = new Map((await groupsOf(sql, first.library)).map((g) => [g.id, g]));
	for (const [i, state] of inverse.set.entries()) {
		if (state !== null) byId.set(state.id, state);
		else byId.delete((inverse.expect[i] as GroupState).id);
	}
	const all = [...byId.values()];
	for (const state of inverse.set) {
		if (state === null) continue;
		if (state.parent !== null && !byId.has(state.parent))
			return fail({ code: "newer-change", actual: `the group above ${state.name} is gone` });
		const twin = all.find(
			(g) => g.id !== state.id && g.parent === state.parent && g.name.toLowerCase() === state.name.toLowerCase(),
		);
		if (twin !== undefined) return fail({ code: "group-taken", path: "name", actual: state.name });
		const fits = fitsUnder(all, state.id, state.parent);
		if (!fits.ok) return fits;
	}
	return ok(null);
}

/** Groups as they were, with the materials that had moved along; refused when one of them was changed since. */
async function setGroups(sql: Sql, inverse: InverseOf<"groups">): Promise<Result<Inverse>> {
	const states = await Promise.all(
		inverse.expect.map((state, i) => {
			const { library, id } = (state ?? inverse.set[i]) as GroupState;
			return groupsOf(sql, library).then((all) => all.find((g) => g.id === id) ?? null);
		}),
	);
	if (states.some((now, i) => JSON.stringify(now) !== JSON.stringify(inverse.expect[i])))
		return fail({ code: "newer-change", actual: "one of these groups was changed" });
	const standing = await checkTree(sql, inverse);
	if (!standing.ok) return standing;
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

function sameState(a: AssignmentState, b: AssignmentState): boolean {
	const bare = a.revision === null && a.draft === null;
	return a.revision === b.revision && a.draft === b.draft && (bare || (a.state ?? "chosen") === (b.state ?? "chosen"));
}
