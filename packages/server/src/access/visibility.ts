import { eventRow } from "@alvek/core/event";
import { may, type Resource } from "@alvek/core/rights";
import type { Viewer } from "@alvek/core/table";
import type { Context } from "../db";
import { type NewsRow, personHere, projectPlace } from "../repo";
import { readableLibraries, readableProjects } from "./places";

/** What a person may see of what happens: places by id, `project:` before projects. */
export type Visibility = {
	readonly person: string;
	readonly admin: boolean;
	readonly readable: ReadonlySet<string>;
	readonly editable: ReadonlySet<string>;
};

/** As rights are now: a stream that was opened by an administrator is no administrator's when they no longer are one. */
export async function visibilityOf(ctx: Context): Promise<Visibility> {
	const row = await personHere(ctx.db, ctx.actor.person);
	const { person } = ctx.actor;
	if (row === null) return { person, admin: false, readable: new Set(), editable: new Set() };
	const now: Context = { ...ctx, actor: { ...ctx.actor, admin: row.admin === 1 } };
	const [libraries, projects] = await Promise.all([readableLibraries(now, now.db), readableProjects(now, now.db)]);
	const mayEdit = (resource: Resource): boolean =>
		may(now.actor, resource.kind === "library" ? "library.edit" : "project.edit", resource) === null;
	const places = [
		...libraries.map((l) => ({
			id: l.id,
			edit: mayEdit({ kind: "library", supplied: l.kind === "supplied", role: l.role }),
		})),
		...projects.map((p) => ({ id: projectPlace(p.id), edit: mayEdit({ kind: "project", role: p.role }) })),
	];
	return {
		person,
		admin: now.actor.admin,
		readable: new Set(places.map((p) => p.id)),
		editable: new Set(places.filter((p) => p.edit).map((p) => p.id)),
	};
}

/** A material never published is its author's alone, and so is what happens to it; drafts are heard of by who may edit. */
export function canSee(viewer: Visibility, row: Pick<NewsRow, "action" | "actor" | "subject" | "place" | "published">): boolean {
	const mine = row.actor === viewer.person;
	const heard = eventRow(row.action)?.heard ?? "self";
	if (row.place === null) return mine || (heard !== "self" && (viewer.admin || row.subject === viewer.person));
	if (!viewer.readable.has(row.place)) return false;
	if (mine) return true;
	if (heard === "self" || row.published !== 1) return false;
	return heard === "readers" || viewer.editable.has(row.place);
}

/**
 * Who asks for materials: the places that may be read, and the person. A project's own materials are found only when that
 * project is asked about; `all` adds those of every project, for what is asked for by id.
 */
export async function viewerOf(ctx: Context, project: string | "all" | null = null): Promise<Viewer> {
	const libraries = (await readableLibraries(ctx, ctx.db)).map((l) => l.id);
	const projects = project === null ? [] : (await readableProjects(ctx, ctx.db)).map((p) => p.id);
	const own = projects.filter((p) => project === "all" || p === project).map(projectPlace);
	return { person: ctx.actor.person, libraries: new Set([...libraries, ...own]) };
}
