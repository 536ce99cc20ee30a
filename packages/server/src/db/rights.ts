import { fail, ok, type Result } from "@alvek/core/result";
import { type Action, type LibraryRole, may, type ProjectRole } from "@alvek/core/rights";
import type { Sql } from "./connection";
import type { Context } from "./write";

export type LibraryRecord = {
	readonly id: string;
	readonly name: string;
	readonly kind: "own" | "supplied";
	readonly description: string;
	readonly owner: string | null;
	readonly approval: number;
	readonly archived: number;
	readonly lock_minutes: number;
	readonly role: LibraryRole | null;
};

const LIBRARY = "l.id, l.name, l.kind, l.description, l.owner, l.approval, l.archived, l.lock_minutes";

/** The strongest role that a person's grants add up to; roles of one kind stand in this order. */
const roleIn = (kind: "library" | "project", target: string): string =>
	`(SELECT role FROM reach WHERE person_id = $person AND kind = '${kind}' AND target = ${target}
	  ORDER BY CASE role WHEN 'reader' THEN 0 WHEN 'editor' THEN 1 ELSE 2 END DESC LIMIT 1) AS role`;

/** The library with the actor's role in it, when `action` is allowed. */
export async function authoriseLibrary(ctx: Context, sql: Sql, id: string, action: Action): Promise<Result<LibraryRecord>> {
	const row = await sql.one<LibraryRecord>(`SELECT ${LIBRARY}, ${roleIn("library", "l.id")} FROM library l WHERE l.id = $id`, {
		id,
		person: ctx.actor.person,
	});
	if (row === null) return fail({ code: "not-found", path: "The library" });
	const refused = may(ctx.actor, action, { kind: "library", supplied: row.kind === "supplied", role: row.role });
	if (refused !== null) return fail(refused);
	// an archived library is put away: only its stewards still find it, to bring it back
	return row.archived === 1 && action !== "library.steward" ? fail({ code: "not-found", path: "The library" }) : ok(row);
}

export type ProjectRecord = {
	readonly id: string;
	readonly name: string;
	readonly changed_at: string;
	/** Currency and rates, JSON. */
	readonly money: string;
	readonly frozen: number;
	readonly default_revision_id: string | null;
	readonly forward: string;
	readonly role: ProjectRole | null;
};

export function authoriseProject(ctx: Context, sql: Sql, id: string, action: Action): Promise<Result<ProjectRecord>> {
	return projectWhere(ctx, sql, id, action, "p.removed_at IS NULL");
}

/** The same of a project that was deleted. */
export function authoriseRemovedProject(ctx: Context, sql: Sql, id: string, action: Action): Promise<Result<ProjectRecord>> {
	return projectWhere(ctx, sql, id, action, "p.removed_at IS NOT NULL");
}

async function projectWhere(
	ctx: Context,
	sql: Sql,
	id: string,
	action: Action,
	condition: string,
): Promise<Result<ProjectRecord>> {
	const row = await sql.one<ProjectRecord>(
		`SELECT p.id, p.name, p.changed_at, p.money, p.frozen, p.default_revision_id, p.forward, ${roleIn("project", "p.id")} FROM project p
		 WHERE p.id = $id AND ${condition}`,
		{ id, person: ctx.actor.person },
	);
	if (row === null) return fail({ code: "not-found", path: "The project" });
	const refused = may(ctx.actor, action, { kind: "project", role: row.role });
	return refused === null ? ok(row) : fail(refused);
}

/** Libraries that the actor may read; archived ones only when asked for, and only those that the actor is a steward of. */
export async function readableLibraries(ctx: Context, sql: Sql, archived = false): Promise<readonly LibraryRecord[]> {
	const rows = await sql.all<LibraryRecord>(
		`SELECT ${LIBRARY}, ${roleIn("library", "l.id")} FROM library l ORDER BY l.kind, l.name COLLATE NOCASE`,
		{ person: ctx.actor.person },
	);
	return rows.filter((l) => {
		if (l.archived === 1 && !archived) return false;
		const action = l.archived === 1 ? "library.steward" : "library.read";
		return may(ctx.actor, action, { kind: "library", supplied: l.kind === "supplied", role: l.role }) === null;
	});
}

/** Projects that the actor may read. */
export async function readableProjects(ctx: Context, sql: Sql): Promise<readonly Pick<ProjectRecord, "id" | "name" | "role">[]> {
	const rows = await sql.all<Pick<ProjectRecord, "id" | "name" | "role">>(
		`SELECT p.id, p.name, ${roleIn("project", "p.id")} FROM project p WHERE p.removed_at IS NULL ORDER BY p.name COLLATE NOCASE`,
		{ person: ctx.actor.person },
	);
	return rows.filter((p) => may(ctx.actor, "project.read", { kind: "project", role: p.role }) === null);
}
