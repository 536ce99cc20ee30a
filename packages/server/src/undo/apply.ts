import { fail, ok, type Result } from "@alvek/core/result";
import type { Context, Sql } from "../db";
import { fitsUnder } from "../libraries";
import { ensureLinksAvailable } from "../materials";
import { undoGeometry } from "../parts";
import {
	type AssignmentState,
	assignmentStates,
	bearerOfCode,
	bearerOfName,
	changeLibraryRow,
	changeMaterialRow,
	changeProjectRow,
	countStandingOn,
	followedEdition,
	type GrantState,
	type GroupState,
	grantsOn,
	groupById,
	groupsOf,
	type Inverse,
	type InverseOf,
	isGroupEmpty,
	leadsTo,
	materialRow,
	moveIfIn,
	projectPlace,
	projectRow,
	putFollow,
	putWorking,
	type RowChange,
	readLinks,
	setAssignments,
	setForwardBy,
	setGrants,
	setGroup,
	type Values,
} from "../repo";
import { restoreDraft, setDrafts } from "./drafts";

/** Takes a step back when its state is still there; the inverse of that. */
export async function applyInverse(ctx: Context, sql: Sql, inverse: Inverse): Promise<Result<Inverse | null>> {
	switch (inverse.kind) {
		case "material-row":
			return turned(inverse, await setMaterialRow(ctx, sql, inverse));
		case "project-row":
			return turned(inverse, await setProjectRow(ctx, sql, inverse));
		case "library-row":
			return turned(inverse, await setLibraryRow(sql, inverse));
		case "material-rows": {
			const rows: RowChange[] = [];
			for (const row of inverse.rows) {
				const back = await setMaterialRow(ctx, sql, row);
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
			if ((await followedEdition(sql, inverse.project, inverse.library)) !== inverse.expect)
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
			await changeProjectRow(ctx, sql, inverse.project, standard === undefined ? {} : { default_revision_id: standard.set });
			const back = standard === undefined ? {} : { standard: { expect: standard.set, set: standard.expect } };
			return ok({ ...inverse, ...back, expect: inverse.set, set: inverse.expect });
		}
		case "geometry":
			return undoGeometry(ctx, sql, inverse);
		case "drafts":
			return setDrafts(ctx, sql, inverse);
		case "draft":
			return restoreDraft(ctx, sql, inverse);
		case "several": {
			const steps: Inverse[] = [];
			for (const step of inverse.steps) {
				const back = await applyInverse(ctx, sql, step);
				if (!back.ok) return back;
				// the other way round: what came last goes first
				if (back.value !== null) steps.unshift(back.value);
			}
			return ok({ kind: "several", steps });
		}
	}
}

/** What was set was expected the next time. */
function turned(inverse: InverseOf<"material-row" | "project-row" | "library-row">, done: Result<null>): Result<Inverse> {
	return done.ok ? ok({ ...inverse, expect: inverse.set, set: inverse.expect }) : done;
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

/** What may be set of a row; refused where a column is not as the step left it. */
function settable(row: Values | null, change: RowChange): Result<Values> {
	if (row === null) return fail({ code: "not-found", path: "This step" });
	for (const [column, value] of Object.entries(change.expect)) {
		if (row[column] !== value) return fail({ code: "newer-change", actual: `its ${column.replace("_", " ")} was changed` });
	}
	return ok(Object.fromEntries(Object.entries(change.set).filter(([column]) => COLUMNS.has(column))));
}

async function setLibraryRow(sql: Sql, change: RowChange): Promise<Result<null>> {
	const set = settable(await sql.find("library", { id: change.id }), change);
	if (!set.ok) return set;
	await changeLibraryRow(sql, change.id, set.value as Parameters<typeof changeLibraryRow>[2]);
	return ok(null);
}

async function setProjectRow(ctx: Context, sql: Sql, change: RowChange): Promise<Result<null>> {
	const set = settable(await projectRow(sql, change.id), change);
	if (!set.ok) return set;
	// a rule acts by the right of whoever set it last
	if (typeof set.value.forward === "string") await setForwardBy(sql, change.id, ctx.actor.person);
	await changeProjectRow(ctx, sql, change.id, set.value);
	return ok(null);
}

async function setMaterialRow(ctx: Context, sql: Sql, change: RowChange): Promise<Result<null>> {
	const row = await materialRow(sql, change.id);
	const set = settable(row, change);
	if (!set.ok || row === null) return set.ok ? fail({ code: "not-found", path: "This step" }) : set;
	const place = row.library_id ?? projectPlace(row.project_id ?? "");
	for (const check of [checkNames, checkGroup, checkSuccessors, checkParts]) {
		const free = await check(sql, { row, place, change });
		if (!free.ok) return free;
	}
	await changeMaterialRow(ctx, sql, change.id, set.value);
	return ok(null);
}

type MaterialChange = {
	readonly row: NonNullable<Awaited<ReturnType<typeof materialRow>>>;
	readonly place: string;
	readonly change: RowChange;
};

/** Its name, its code and its links are nobody else's by now. */
async function checkNames(sql: Sql, { row, place, change }: MaterialChange): Promise<Result<null>> {
	const { id, set } = change;
	const back = set.removed_at === null;
	if (back || set.name_key !== undefined) {
		const bearer = await bearerOfName(sql, place, String(set.name_key ?? row.name_key), id);
		if (bearer !== null) return fail({ code: "name-taken", path: "name", actual: bearer });
	}
	const code = String(set.item_code ?? (back ? row.item_code : ""));
	const bearer = await bearerOfCode(sql, row.library_id ?? "", code, id);
	if (bearer !== null) return fail({ code: "newer-change", actual: `the code ${code} is ${bearer} now` });
	const links = set.known_as ?? (back ? row.known_as : null);
	if (typeof links !== "string") return ok(null);
	const free = await ensureLinksAvailable(sql, place, readLinks(links), id);
	return free.ok ? ok(null) : free;
}

async function checkGroup(sql: Sql, { change }: MaterialChange): Promise<Result<null>> {
	const group = change.set.group_id;
	if (typeof group !== "string" || (await groupById(sql, group)) !== null) return ok(null);
	return fail({ code: "newer-change", actual: "the group that it stood in is gone" });
}

/** It is not, by whatever way, its own successor. */
async function checkSuccessors(sql: Sql, { change }: MaterialChange): Promise<Result<null>> {
	const { successor_id: first } = change.set;
	const loops = await leadsTo(sql, typeof first === "string" ? first : null, change.id);
	return loops ? fail({ code: "retired-loop" }) : ok(null);
}

/** Nothing goes to the bin that parts stand on by now. */
async function checkParts(sql: Sql, { change }: MaterialChange): Promise<Result<null>> {
	if (change.set.removed_at == null || (await countStandingOn(sql, [change.id])).parts === 0) return ok(null);
	return fail({ code: "newer-change", actual: "parts stand on it now" });
}

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
	const states: (GroupState | null)[] = [];
	for (const [i, state] of inverse.expect.entries())
		states.push(await groupById(sql, ((state ?? inverse.set[i]) as GroupState).id));
	if (states.some((now, i) => JSON.stringify(now) !== JSON.stringify(inverse.expect[i])))
		return fail({ code: "newer-change", actual: "one of these groups was changed" });
	const fits = await checkTree(sql, inverse);
	if (!fits.ok) return fits;
	// what comes back first, so that others can stand under it again; what goes last, when nothing stands under it any more
	for (const [i, state] of inverse.set.entries()) if (state !== null) await setGroup(sql, inverse.expect[i] ?? null, state);
	for (const { id, expect, set } of inverse.rows) await moveIfIn(sql, id, expect, set);
	for (const [i, state] of inverse.set.entries()) {
		const before = inverse.expect[i] ?? null;
		if (state !== null || before === null) continue;
		if (!(await isGroupEmpty(sql, before.id))) return fail({ code: "newer-change", actual: "something was put into this group" });
		await setGroup(sql, before, null);
	}
	const rows = inverse.rows.map(({ id, expect, set }) => ({ id, expect: set, set: expect }));
	return ok({ kind: "groups", expect: inverse.set, set: inverse.expect, rows });
}

function sameState(a: AssignmentState, b: AssignmentState): boolean {
	const bare = a.revision === null && a.draft === null;
	return a.revision === b.revision && a.draft === b.draft && (bare || (a.state ?? "chosen") === (b.state ?? "chosen"));
}
