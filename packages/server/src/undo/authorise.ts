import { eventRow, type Needs, needsOfUndo } from "@alvek/core/event";
import { fail, ok, type Result } from "@alvek/core/result";
import { may } from "@alvek/core/rights";
import {
	authoriseLibrary,
	authorisePlace,
	authoriseProject,
	authoriseRemovedProject,
	authoriseWorkingList,
	type LibraryAction,
	requireOpenLock,
	waitsForSecond,
} from "../access";
import type { Context, Sql } from "../db";
import { type Inverse, materialsById, type StoredEvent } from "../repo";

/** Materials whose rows or drafts an inverse changes. */
function touchedMaterials(event: StoredEvent, inverse: Inverse): readonly string[] {
	switch (inverse.kind) {
		case "drafts":
			return inverse.expect.flatMap((state, i) => (state ?? inverse.set[i])?.material ?? []);
		case "draft":
			return [inverse.draft.material];
		case "material-row":
			return [inverse.id];
		case "material-rows":
			return inverse.rows.map((r) => r.id);
		case "working":
			return inverse.materials;
		case "groups":
			return inverse.rows.map((r) => r.id);
		case "several":
			return [...new Set(inverse.steps.flatMap((step) => touchedMaterials(event, step)))];
		default:
			return event.subject_kind === "material" ? [event.subject_id] : [];
	}
}

/** Projects whose parts an inverse gives other materials, beside the step's own subject. */
function touchedProjects(inverse: Inverse): readonly string[] {
	if (inverse.kind === "several") return [...new Set(inverse.steps.flatMap(touchedProjects))];
	return inverse.kind === "assignments" ? [inverse.project] : [];
}

/** Columns of a material's row that only whoever passes the lock may change, once it was published. */
const PLACED = ["group_id", "removed_at", "retired", "successor_id"] as const;

/**
 * May the actor take this step back now? What one may not see is not there, in the same words whatever it is; the
 * step's own row of the catalogue says what it takes, and every place that it reaches into is asked.
 */
export async function authoriseUndo(ctx: Context, sql: Sql, event: StoredEvent, inverse: Inverse): Promise<Result<unknown>> {
	const allowed = await authorise(ctx, sql, event, inverse);
	return !allowed.ok && allowed.issues[0]?.code === "not-found" ? fail({ code: "not-found", path: "This step" }) : allowed;
}

async function authorise(ctx: Context, sql: Sql, event: StoredEvent, inverse: Inverse): Promise<Result<unknown>> {
	const row = eventRow(event.action);
	const needs = needsOfUndo(event.action);
	const foreign = fail({ code: "not-found", path: "This step" });
	if (row === null || needs === null) return foreign;
	if (row.own === true && event.actor !== ctx.actor.person) return foreign;
	switch (event.subject_kind) {
		case "project": {
			const project = await ofProject(ctx, sql, event, needs);
			return project.ok ? ofMaterials(ctx, sql, { event, inverse }, needs) : project;
		}
		case "library": {
			const library =
				inverse.kind === "working"
					? await authoriseWorkingList(ctx, sql, event.subject_id)
					: await ofLibrary(ctx, sql, event.subject_id, needs);
			return library.ok && inverse.kind !== "working" ? ofMaterials(ctx, sql, { event, inverse }, needs) : library;
		}
		case "material": {
			for (const id of touchedProjects(inverse)) {
				const project = await authoriseProject(ctx, sql, id, "project.edit");
				if (!project.ok) return project;
			}
			return ofMaterials(ctx, sql, { event, inverse }, needs);
		}
		default: {
			const refused = may(ctx.actor, needs.right, { kind: "installation" });
			return refused === null ? ok(null) : fail(refused);
		}
	}
}

/** A deleted project is brought back by whoever deleted it, as long as deleting it would be theirs to do. */
async function ofProject(ctx: Context, sql: Sql, event: StoredEvent, needs: Needs): Promise<Result<unknown>> {
	const right = needs.right.startsWith("project.") && needs.right !== "project.create" ? needs.right : "project.edit";
	const there = await authoriseProject(ctx, sql, event.subject_id, right);
	if (there.ok || there.issues[0]?.code !== "not-found") return there;
	const removed = await authoriseRemovedProject(ctx, sql, event.subject_id, "project.remove");
	if (!removed.ok) return removed;
	return event.actor === ctx.actor.person || ctx.actor.admin ? ok(null) : fail({ code: "not-found", path: "This step" });
}

async function ofLibrary(ctx: Context, sql: Sql, library: string, needs: Needs): Promise<Result<unknown>> {
	const right = await authoriseLibrary(ctx, sql, library, needs.right);
	if (!right.ok || needs.lock !== "always") return right;
	const open = await requireOpenLock(ctx, sql, library);
	if (!open.ok) return open;
	const second = needs.approval && (await waitsForSecond(ctx, sql, open.value));
	return second ? fail({ code: "undo-approval", actual: open.value.name }) : ok(null);
}

/** Every material that the inverse reaches, in the place where it lives now. */
async function ofMaterials(
	ctx: Context,
	sql: Sql,
	{ event, inverse }: { readonly event: StoredEvent; readonly inverse: Inverse },
	needs: Needs,
): Promise<Result<unknown>> {
	if (inverse.kind === "groups") return ok(null);
	const asked = new Set<string>();
	const touched = touchedMaterials(event, inverse);
	const materials = await materialsById(sql, touched);
	for (const id of touched) {
		const material = materials.get(id);
		if (material === undefined) return fail({ code: "not-found", path: "This step" });
		const { library_id: place, project_id } = material;
		const right = needs.right.startsWith("library.") ? (needs.right as LibraryAction) : "library.edit";
		const lock = needs.lock === "always" || (needs.lock === "placed" && material.bytes !== null && isPlaced(inverse, id));
		const key = `${place} ${lock}`;
		if (asked.has(key)) continue;
		asked.add(key);
		const allowed =
			lock && project_id === null
				? await ofLibrary(ctx, sql, place, { ...needs, right: "library.publish", lock: "always" })
				: await authorisePlace(ctx, sql, place, right);
		if (!allowed.ok) return allowed;
	}
	return ok(null);
}

function isPlaced(inverse: Inverse, id: string): boolean {
	if (inverse.kind === "several") return inverse.steps.some((step) => isPlaced(step, id));
	const set =
		inverse.kind === "material-row" && inverse.id === id
			? inverse.set
			: inverse.kind === "material-rows"
				? inverse.rows.find((r) => r.id === id)?.set
				: undefined;
	return set !== undefined && PLACED.some((column) => column in set);
}
