import type { ProjectView, RouteInput, Undoable } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { authorisePlace, authoriseProject, readableLibraries } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import { type AssignmentState, assignmentStates, assignmentsOf, draftOf, type MaterialRecord, materialById } from "../repo";
import { changeAssignments, checkParts } from "./changes";
import { mayReadHead } from "./weigh";

/** Gives parts a material, or takes it away. */
export function assign(ctx: Context, input: RouteInput<"assign">): Promise<Result<Undoable<ProjectView>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		const parts = await checkParts(sql, input.id, input.parts);
		if (!parts.ok) return parts;
		const target = input.materialId === null ? ok(NOTHING) : await targetOf(ctx, sql, { ...input, materialId: input.materialId });
		if (!target.ok) return target;
		const { revision, draft } = target.value;
		const before = await assignmentStates(sql, parts.value);
		const after = before.map(
			(s): AssignmentState => ({
				part: s.part,
				revision,
				draft,
				// a draft that is thrown away gives the part back what it stood on
				before: draft === null ? null : (s.revision ?? s.before),
			}),
		);
		const action = input.materialId === null ? "parts.clear" : "parts.assign";
		return changeAssignments(ctx, sql, { project: input.id, action, before, after });
	});
}

type Target = { readonly revision: string | null; readonly draft: string | null };
const NOTHING: Target = { revision: null, draft: null };

/** A material that a project's parts may stand on: one of a library that the actor reads, or the project's own. */
async function materialFor(
	ctx: Context,
	sql: Sql,
	{ id, materialId }: { readonly id: string; readonly materialId: string },
): Promise<Result<MaterialRecord>> {
	const material = await materialById(sql, materialId);
	const missing = fail({ code: "not-found", path: "The material" });
	if (material === null || material.removed_at !== null) return missing;
	// another project's own material is not here
	if (material.project_id !== null && material.project_id !== id) return missing;
	const place = await authorisePlace(ctx, sql, material.library_id, "library.read");
	return place.ok ? ok(material) : missing;
}

/** The newest revision of a material that may be the default of a project. @returns issues `not-found`, `not-published` */
export async function defaultRevision(
	ctx: Context,
	sql: Sql,
	wanted: { readonly id: string; readonly materialId: string },
): Promise<Result<string>> {
	const material = await materialFor(ctx, sql, wanted);
	if (!material.ok) return material;
	const { revision_id, name } = material.value;
	return revision_id === null ? fail({ code: "not-published", actual: name }) : ok(revision_id);
}

/** The newest revision of a material, or the actor's draft of it when asked for (or when nothing is published). */
async function targetOf(
	ctx: Context,
	sql: Sql,
	input: { readonly id: string; readonly materialId: string; readonly draft?: boolean | undefined },
): Promise<Result<Target>> {
	const material = await materialFor(ctx, sql, input);
	if (!material.ok) return material;
	const { revision_id } = material.value;
	if (input.draft !== true && revision_id !== null) return ok({ revision: revision_id, draft: null });
	const draft = await draftOf(sql, input.materialId, ctx.actor.person);
	return draft === null ? fail({ code: "not-found", path: "Your draft" }) : ok({ revision: null, draft: draft.id });
}

/** Parts that are behind stand on their heads, as far as the actor may read those. */
export function bringForward(ctx: Context, input: RouteInput<"bringForward">): Promise<Result<Undoable<ProjectView>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		const parts = await checkParts(sql, input.id, input.parts);
		if (!parts.ok) return parts;
		const heads = new Map((await assignmentsOf(sql, input.id)).map((a) => [a.part_id, a]));
		const readable = new Set((await readableLibraries(ctx, sql)).map((l) => l.id));
		const before = (await assignmentStates(sql, parts.value)).filter((s) => {
			const record = heads.get(s.part);
			if (record === undefined || !mayReadHead(record, readable)) return false;
			return record.revision_id !== null && record.head_id !== null && record.head_id !== record.revision_id;
		});
		if (before.length === 0) return fail({ code: "nothing-behind", expected: "parts that stand on an older revision" });
		const after = before.map((s): AssignmentState => ({ ...s, revision: heads.get(s.part)?.head_id ?? s.revision }));
		return changeAssignments(ctx, sql, { project: input.id, action: "parts.bring-forward", before, after });
	});
}
