import type { ProjectView, RouteInput, Undoable } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseLibrary, authoriseProject } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import {
	type AssignmentState,
	allSets,
	assignmentStates,
	editionByNo,
	editionsOfSet,
	followedEdition,
	type Inverse,
	librariesOfSet,
	partsOnDefault,
	putFollow,
	recordEvent,
	setForwardBy,
} from "../repo";
import { defaultRevision } from "./assign";
import { changeAssignments, changeProject, checkParts } from "./changes";

/** What `behind` is measured against in a project. Nothing of it moves a part. */
export function setFollowing(ctx: Context, input: RouteInput<"setFollowing">): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		const { id, library, edition, frozen, forward } = input;
		if (library != null && edition !== undefined) return followEdition(ctx, sql, { project: id, library, no: edition });
		if (input.set != null && edition !== undefined) return followSet(ctx, sql, { project: id, set: input.set, no: edition });
		const after: Record<string, string | number> = {};
		if (frozen !== undefined) after.frozen = frozen ? 1 : 0;
		if (forward !== undefined) {
			after.forward = forward;
			await setForwardBy(sql, id, ctx.actor.person);
		}
		if (Object.keys(after).length === 0) return fail({ code: "empty", expected: "a change" });
		const before = Object.fromEntries(Object.keys(after).map((k) => [k, project.value[k as "frozen" | "forward"]]));
		return changeProject(ctx, sql, { id, action: "project.following", before, after });
	});
}

/** The edition of a library that a project follows; 0 is the latest. */
async function followEdition(
	ctx: Context,
	sql: Sql,
	follow: { readonly project: string; readonly library: string; readonly no: number },
): Promise<Result<Undoable<null>>> {
	const { project, library, no } = follow;
	const readable = await authoriseLibrary(ctx, sql, library, "library.read");
	if (!readable.ok) return readable;
	const edition = no === 0 ? null : await editionByNo(sql, library, no);
	if (no !== 0 && edition === null) return fail({ code: "not-found", path: `Edition ${no}` });
	const before = await followedEdition(sql, project, library);
	await putFollow(sql, project, library, edition?.id ?? null);
	const event = await recordEvent(ctx, sql, {
		action: "project.following",
		kind: "project",
		subject: project,
		changeset: { library: readable.value.name, edition: no },
		inverse: { kind: "follow", project, library, expect: edition?.id ?? null, set: before },
	});
	return ok({ event, value: null });
}

/** All libraries of a set, each in the edition that the set's edition holds of it; one step, for all of them or none. */
async function followSet(
	ctx: Context,
	sql: Sql,
	follow: { readonly project: string; readonly set: string; readonly no: number },
): Promise<Result<Undoable<null>>> {
	const { project, set, no } = follow;
	const name = (await allSets(sql)).find((s) => s.id === set)?.name;
	const held = await editionsOfSet(sql, set);
	// the latest of each library that the set is made of now, or what stands in that edition of it
	const wanted =
		no === 0
			? (await librariesOfSet(sql, set)).map((library) => ({ library, id: null }))
			: held.filter((e) => e.no === no).map(({ library, id }) => ({ library, id }));
	if (name === undefined || wanted.length === 0)
		return fail({ code: "not-found", path: no === 0 ? "The set" : `Edition ${no} of the set` });
	const steps: Inverse[] = [];
	for (const { library, id } of wanted) {
		if (!(await authoriseLibrary(ctx, sql, library, "library.read")).ok)
			return fail({ code: "not-found", path: "One of the libraries of the set" });
		const before = await followedEdition(sql, project, library);
		if (before === id) continue;
		await putFollow(sql, project, library, id);
		steps.unshift({ kind: "follow", project, library, expect: id, set: before });
	}
	if (steps.length === 0) return ok({ event: 0, value: null });
	const event = await recordEvent(ctx, sql, {
		action: "project.following",
		kind: "project",
		subject: project,
		changeset: { library: name, edition: no },
		inverse: { kind: "several", steps },
	});
	return ok({ event, value: null });
}

/** The default of a project on all parts that have nothing; parts that had the older default and were not confirmed follow. */
export function setDefault(ctx: Context, input: RouteInput<"setDefault">): Promise<Result<Undoable<ProjectView>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		const { id, materialId } = input;
		const wanted = materialId === null ? ok(null) : await defaultRevision(ctx, sql, { id, materialId });
		if (!wanted.ok) return wanted;
		const revision = wanted.value;
		const before = await assignmentStates(sql, await partsOnDefault(sql, input.id));
		const after = before.map((s): AssignmentState => ({ part: s.part, revision, draft: null, before: null, state: "default" }));
		const standard = { expect: revision, set: project.value.default_revision_id };
		return changeAssignments(ctx, sql, { project: input.id, action: "parts.default", before, after, standard });
	});
}

export function confirmDefault(ctx: Context, input: RouteInput<"confirmDefault">): Promise<Result<Undoable<ProjectView>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		const parts = await checkParts(sql, input.id, input.parts);
		if (!parts.ok) return parts;
		const before = (await assignmentStates(sql, parts.value)).filter((s) => s.state === "default");
		if (before.length === 0) return fail({ code: "nothing-default" });
		const after = before.map((s): AssignmentState => ({ ...s, state: "chosen" }));
		return changeAssignments(ctx, sql, { project: input.id, action: "parts.confirm", before, after });
	});
}
