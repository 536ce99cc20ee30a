import type { ProjectView, RevisionDocument, RouteInput, Undoable } from "@alvek/contract";
import { BLANK, difference, type Material, nameKey } from "@alvek/core/material";
import { readNewMaterial } from "@alvek/core/page";
import { fail, ok, type Result } from "@alvek/core/result";
import { authorised, authoriseLibrary, authoriseProject } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import { ensureNameAvailable } from "../materials";
import {
	type AssignmentState,
	assignmentStates,
	bearerOfName,
	changeMaterialRow,
	type DraftRecord,
	draftOf,
	draftState,
	type Inverse,
	insertDraft,
	insertMaterial,
	insertRevision,
	type MaterialRecord,
	materialById,
	openPublish,
	parseDocument,
	partsOnMaterial,
	projectPlace,
	recordEvent,
	revisionById,
	revisionInProject,
	setAssignments,
} from "../repo";
import { changeAssignments } from "./changes";

/** A material that lives in one project only: from a typed line, or as a local change of a library's material. */
export function createLocal(ctx: Context, input: RouteInput<"createLocal">): Promise<Result<Undoable<{ id: string }>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		if ((await materialById(sql, input.material)) !== null) return fail({ code: "id-taken" });
		const place = projectPlace(input.id);
		const begun = input.from != null ? await fromLibrary(ctx, sql, input.from, place) : fromLine(input.line ?? "");
		if (!begun.ok) return begun;
		const name = await ensureNameAvailable(sql, place, begun.value.name, "");
		if (!name.ok) return name;
		await insertMaterial(ctx, sql, {
			id: input.material,
			place,
			group: null,
			name: name.value,
			originKind: begun.value.origin === null ? null : "local",
			originRevision: begun.value.origin,
		});
		// published at once, so that it can be used like any other
		const publish = await openPublish(ctx, sql, { place, note: `made in ${project.value.name}` });
		await insertRevision(ctx, sql, { material: input.material, publish, document: begun.value.document });
		const event = await recordEvent(ctx, sql, {
			action: "material.create",
			kind: "material",
			subject: input.material,
			changeset: { name: name.value, project: input.id, from: input.from ?? null },
			inverse: { kind: "material-row", id: input.material, expect: { removed_at: null }, set: { removed_at: ctx.now() } },
		});
		return ok({ event, value: { id: input.material } });
	});
}

type Begun = { readonly name: string; readonly document: Material; readonly origin: string | null };

function fromLine(line: string): Result<Begun> {
	const read = readNewMaterial(line);
	if (!read.ok) return read;
	const values = Object.fromEntries(read.value.values.map((v) => [v.id, v]));
	return ok({ name: read.value.name, document: { ...BLANK, values }, origin: null });
}

/** The library's values as they are, to be changed here; the library stays untouched. */
async function fromLibrary(ctx: Context, sql: Sql, id: string, place: string): Promise<Result<Begun>> {
	const base = await authorised(ctx, sql, id, "library.read");
	if (!base.ok) return base;
	const { bytes, name, revision_id } = base.value;
	if (bytes === null || revision_id === null) return fail({ code: "not-published", actual: name });
	return ok({ name: await freeName(sql, place, `${name}, here`), document: parseDocument(bytes), origin: revision_id });
}

/** Of so many changes of one material in one project each has a name of its own. */
const MOST_CHANGES = 100;

/** The name, or with the first number that nobody else in this place bears. */
async function freeName(sql: Sql, place: string, name: string): Promise<string> {
	for (let n = 1; n < MOST_CHANGES; n++) {
		const numbered = n === 1 ? name : `${name} ${n}`;
		if ((await bearerOfName(sql, place, nameKey(numbered), "")) === null) return numbered;
	}
	return name;
}

/** A project's own material, when the actor may change the project. */
async function localOf(ctx: Context, sql: Sql, project: string, id: string): Promise<Result<MaterialRecord>> {
	const allowed = await authoriseProject(ctx, sql, project, "project.edit");
	if (!allowed.ok) return allowed;
	const material = await materialById(sql, id);
	return material === null || material.project_id !== project || material.removed_at !== null
		? fail({ code: "not-found", path: "The material" })
		: ok(material);
}

/**
 * A draft of it in a library, to be completed and published there. Its parts try the draft from now on; thrown away, it
 * gives them back what they stood on.
 */
export function promoteLocal(ctx: Context, input: RouteInput<"promoteLocal">): Promise<Result<Undoable<{ id: string }>>> {
	return inWrite(ctx, async (sql) => {
		const local = await localOf(ctx, sql, input.id, input.material);
		if (!local.ok) return local;
		const library = await authoriseLibrary(ctx, sql, input.libraryId, "library.edit");
		if (!library.ok) return library;
		if ((await materialById(sql, input.newId)) !== null) return fail({ code: "id-taken" });
		const name = await ensureNameAvailable(sql, input.libraryId, input.name, "");
		if (!name.ok) return name;
		const { bytes, revision_id } = local.value;
		if (bytes === null) return fail({ code: "not-published", actual: local.value.name });
		await insertMaterial(ctx, sql, {
			id: input.newId,
			place: input.libraryId,
			group: null,
			name: name.value,
			originKind: "copy",
			originRevision: revision_id,
		});
		const edits = difference(BLANK, parseDocument(bytes));
		const draft = await insertDraft(ctx, sql, { material: input.newId, base: null, edits });
		const moved = await tryDraft(sql, { project: input.id, local: input.material, draft });
		const event = await recordEvent(ctx, sql, {
			action: "material.promote",
			kind: "material",
			subject: input.newId,
			changeset: { from: input.material, project: input.id },
			inverse: {
				kind: "several",
				steps: [moved, { kind: "material-row", id: input.newId, expect: { removed_at: null }, set: { removed_at: ctx.now() } }],
			},
		});
		return ok({ event, value: { id: input.newId } });
	});
}

/** What was changed here goes back to where it came from: a draft of the next revision of its origin, which its parts try. */
export function returnLocal(ctx: Context, input: RouteInput<"returnLocal">): Promise<Result<Undoable<{ id: string }>>> {
	return inWrite(ctx, async (sql) => {
		const local = await localOf(ctx, sql, input.id, input.material);
		if (!local.ok) return local;
		const { bytes, name, origin_kind, origin_revision_id } = local.value;
		if (bytes === null) return fail({ code: "not-published", actual: name });
		const origin = origin_kind === "local" && origin_revision_id !== null ? await revisionById(sql, origin_revision_id) : null;
		if (origin === null) return fail({ code: "no-origin", actual: name });
		const target = await authorised(ctx, sql, origin.material, "library.edit");
		if (!target.ok) return target;
		const edits = difference(parseDocument(origin.bytes), parseDocument(bytes));
		if (edits.length === 0) return fail({ code: "nothing-changed", actual: target.value.name });
		// two drafts are not made one without being asked
		if ((await draftOf(sql, origin.material, ctx.actor.person)) !== null)
			return fail({ code: "own-draft", actual: target.value.name });
		await insertDraft(ctx, sql, { material: origin.material, base: origin_revision_id, edits });
		const made = draftState((await draftOf(sql, origin.material, ctx.actor.person)) as DraftRecord);
		const moved = await tryDraft(sql, { project: input.id, local: input.material, draft: made.id });
		const event = await recordEvent(ctx, sql, {
			action: "material.return",
			kind: "material",
			subject: origin.material,
			changeset: { from: input.material, project: input.id, edits },
			inverse: { kind: "several", steps: [moved, { kind: "drafts", expect: [made], set: [null] }] },
		});
		return ok({ event, value: { id: origin.material } });
	});
}

/** All parts on a project's own material try this draft; what takes that back. */
async function tryDraft(
	sql: Sql,
	{ project, local, draft }: { readonly project: string; readonly local: string; readonly draft: string },
): Promise<Inverse> {
	const before = await assignmentStates(sql, await partsOnMaterial(sql, project, local));
	const after = before.map(
		(s): AssignmentState => ({ ...s, revision: null, draft, before: s.revision ?? s.before, state: "chosen" }),
	);
	await setAssignments(sql, after);
	return { kind: "assignments", project, expect: after, set: before };
}

/** Parts go from the project's own material to another one's newest revision; the own one goes to the bin. */
export function replaceLocalMaterial(
	ctx: Context,
	input: RouteInput<"replaceLocalMaterial">,
): Promise<Result<Undoable<ProjectView>>> {
	return inWrite(ctx, async (sql) => {
		const local = await localOf(ctx, sql, input.id, input.material);
		if (!local.ok) return local;
		const target = await authorised(ctx, sql, input.to, "library.read");
		if (!target.ok) return target;
		const { revision_id, name } = target.value;
		if (revision_id === null) return fail({ code: "not-published", actual: name });
		const before = await assignmentStates(sql, await partsOnMaterial(sql, input.id, input.material));
		const states = before.map(
			(s): AssignmentState => ({ ...s, revision: revision_id, draft: null, before: null, state: "chosen" }),
		);
		await changeMaterialRow(ctx, sql, input.material, { removed_at: ctx.now() });
		return changeAssignments(ctx, sql, { project: input.id, action: "parts.assign", before, after: states });
	});
}

/** The revision that parts stand on, for whoever reads the project, whatever has become of its library. */
export async function getProjectRevision(
	ctx: Context,
	input: { id: string; material: string },
): Promise<Result<RevisionDocument>> {
	const project = await authoriseProject(ctx, ctx.db, input.id, "project.read");
	if (!project.ok) return project;
	const row = await revisionInProject(ctx.db, input.id, input.material);
	return row === null
		? fail({ code: "not-found", path: "The revision" })
		: ok({ no: row.no, name: row.name, document: parseDocument(row.bytes), hash: row.hash });
}
