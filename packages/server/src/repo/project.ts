import type { ProjectRole } from "@alvek/core/rights";
import type { Context, Row, Some, Sql } from "../db";
import type { Values } from "./inverse";
import { roleIn } from "./library";

export type ProjectRecord = {
	readonly id: string;
	readonly name: string;
	readonly changed_at: string;
	/** Currency and rates, JSON. */
	readonly money: string;
	readonly frozen: number;
	readonly default_revision_id: string | null;
	readonly forward: Row<"project">["forward"];
	readonly removed_at: string | null;
	readonly role: ProjectRole | null;
};

const SELECT_PROJECT = `SELECT p.id, p.name, p.changed_at, p.money, p.frozen, p.default_revision_id, p.forward, p.removed_at, ${roleIn("project", "p.id")}
 FROM project p`;

/** The project, deleted or not, with a person's role in it. */
export function projectFor(sql: Sql, id: string, person: string): Promise<ProjectRecord | null> {
	return sql.one<ProjectRecord>(`${SELECT_PROJECT} WHERE p.id = $id`, { id, person });
}

/** All projects that are not deleted, each with a person's role in it, by name. */
export function projectsFor(sql: Sql, person: string): Promise<ProjectRecord[]> {
	return sql.all<ProjectRecord>(`${SELECT_PROJECT} WHERE p.removed_at IS NULL ORDER BY lower(p.name)`, { person });
}

/** How many pieces each of these projects has. */
export async function piecesOf(sql: Sql, projects: readonly string[]): Promise<ReadonlyMap<string, number>> {
	const rows = await sql.all<{ id: string; n: number }>(
		`SELECT project_id AS id, COUNT(*) AS n FROM occurrence WHERE part_id IS NOT NULL AND project_id IN ${sql.dialect.list("ids")} GROUP BY project_id`,
		{ ids: JSON.stringify(projects) },
	);
	return new Map(rows.map((r) => [r.id, r.n]));
}

export const hasProject = (sql: Sql, id: string): Promise<boolean> => sql.has("project", { id });

/** A project of the actor's. */
export async function insertProject(ctx: Context, sql: Sql, project: { id: string; name: string }): Promise<void> {
	await sql.insert("project", { ...project, changed_at: ctx.now() });
	const { person } = ctx.actor;
	await sql.insert("access_grant", {
		subject_kind: "person",
		subject: person,
		kind: "project",
		target: project.id,
		role: "owner",
	});
}

/** A project that is deleted and nobody's, in which something is put aside. */
export async function ensureAside(ctx: Context, sql: Sql, project: { id: string; name: string }): Promise<void> {
	const at = ctx.now();
	await sql.ensure("project", { ...project, changed_at: at, removed_at: at });
}

/** Sets columns of a row, and says that it changed. */
export async function changeProjectRow(ctx: Context, sql: Sql, id: string, set: Values): Promise<void> {
	// columns are named by services and by our own log of events, never by a request
	await sql.update("project", { id }, { ...(set as Some<"project">), changed_at: ctx.now() });
}

export const projectRow = (sql: Sql, id: string): Promise<Row<"project"> | null> => sql.find("project", { id });

/** Whose right a project's rule acts by: of whoever set it last. */
export const setForwardBy = (sql: Sql, id: string, person: string): Promise<void> =>
	sql.update("project", { id }, { forward_by: person });

/** The edition of a library that a project follows; null: the latest. */
export async function followedEdition(sql: Sql, project: string, library: string): Promise<string | null> {
	return (await sql.find("follow", { project_id: project, library_id: library }))?.edition_id ?? null;
}

export async function putFollow(sql: Sql, project: string, library: string, edition: string | null): Promise<void> {
	if (edition === null) return sql.remove("follow", { project_id: project, library_id: library });
	await sql.run(
		`INSERT INTO follow (project_id, library_id, edition_id) VALUES ($project, $library, $edition)
		 ON CONFLICT (project_id, library_id) DO UPDATE SET edition_id = excluded.edition_id`,
		{ project, library, edition },
	);
}

/** Numbers of the editions that these projects follow, library by library. */
export function editionsFollowed(
	sql: Sql,
	projects: readonly string[],
): Promise<{ project: string; library: string; no: number }[]> {
	return sql.all(
		`SELECT f.project_id AS project, f.library_id AS library, e.no FROM follow f JOIN edition e ON e.id = f.edition_id
		 WHERE f.project_id IN ${sql.dialect.list("ids")}`,
		{ ids: JSON.stringify(projects) },
	);
}

/** Libraries that a project's parts stand on, with the edition of each that it follows. */
export function followsOf(sql: Sql, project: string): Promise<{ library: string; name: string; edition: number | null }[]> {
	return sql.all(
		`SELECT l.id AS library, l.name, e.no AS edition
		 FROM library l LEFT JOIN follow f ON f.project_id = $project AND f.library_id = l.id LEFT JOIN edition e ON e.id = f.edition_id
		 WHERE l.id IN (SELECT m.library_id FROM assignment s JOIN revision r ON r.id = s.revision_id JOIN material m ON m.id = r.material_id
		 WHERE s.project_id = $project) ORDER BY l.name`,
		{ project },
	);
}

/** The material of a revision, as a project names its default. */
export function defaultNamed(
	sql: Sql,
	revision: string,
): Promise<{ materialId: string; material: string; revision: number } | null> {
	return sql.one(
		`SELECT m.id AS "materialId", m.name AS material, r.no AS revision FROM revision r JOIN material m ON m.id = r.material_id WHERE r.id = $revision`,
		{ revision },
	);
}

export type ProjectName = { readonly id: string; readonly name: string };

/** Names of all projects, and of their parts, for the finder; `key` tells whether any has changed. */
export async function searchKey(sql: Sql): Promise<string> {
	const row = await sql.one<{ parts: number; last: string; projects: number; changed: string; removed: number }>(
		`SELECT (SELECT COUNT(*) FROM part) AS parts, (SELECT COALESCE(MAX(id), '') FROM part) AS last,
		 (SELECT COUNT(*) FROM project) AS projects, (SELECT COALESCE(MAX(changed_at), '') FROM project) AS changed,
		 (SELECT COUNT(removed_at) FROM project) AS removed`,
	);
	return JSON.stringify(row);
}

export const projectNames = (sql: Sql): Promise<ProjectName[]> =>
	sql.all<ProjectName>("SELECT id, name FROM project WHERE removed_at IS NULL");

export const partNames = (sql: Sql): Promise<(ProjectName & { readonly project: string })[]> =>
	sql.all("SELECT id, name, project_id AS project FROM part");

/** How many parts each of these projects has. */
export async function partsPerProject(sql: Sql, projects: readonly string[]): Promise<ReadonlyMap<string, number>> {
	const rows = await sql.all<{ id: string; n: number }>(
		`SELECT project_id AS id, COUNT(*) AS n FROM part WHERE project_id IN ${sql.dialect.list("ids")} GROUP BY project_id`,
		{ ids: JSON.stringify(projects) },
	);
	return new Map(rows.map((r) => [r.id, r.n]));
}
