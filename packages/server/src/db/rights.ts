import { fail, ok, type Result } from "@alvek/core/result";
import { type Action, type LibraryRole, may, type ProjectRole } from "@alvek/core/rights";
import type { Sql } from "./connection";
import type { Context } from "./write";

export type LibraryRecord = {
	readonly id: string;
	readonly name: string;
	readonly kind: "own" | "supplied";
	readonly role: LibraryRole | null;
};

/** The library with the actor's role in it, when `action` is allowed. */
export async function authoriseLibrary(ctx: Context, sql: Sql, id: string, action: Action): Promise<Result<LibraryRecord>> {
	const row = await sql.one<LibraryRecord>(
		`SELECT l.id, l.name, l.kind, g.role FROM library l
		 LEFT JOIN access_grant g ON g.kind = 'library' AND g.target = l.id AND g.subject = $person WHERE l.id = $id`,
		{ id, person: ctx.actor.person },
	);
	if (row === null) return fail({ code: "not-found", path: "The library" });
	const refused = may(ctx.actor, action, { kind: "library", supplied: row.kind === "supplied", role: row.role });
	return refused === null ? ok(row) : fail(refused);
}

export type ProjectRecord = {
	readonly id: string;
	readonly name: string;
	readonly changed_at: string;
	readonly role: ProjectRole | null;
};

export async function authoriseProject(ctx: Context, sql: Sql, id: string, action: Action): Promise<Result<ProjectRecord>> {
	const row = await sql.one<ProjectRecord>(
		`SELECT p.id, p.name, p.changed_at, g.role FROM project p
		 LEFT JOIN access_grant g ON g.kind = 'project' AND g.target = p.id AND g.subject = $person
		 WHERE p.id = $id AND p.removed_at IS NULL`,
		{ id, person: ctx.actor.person },
	);
	if (row === null) return fail({ code: "not-found", path: "The project" });
	const refused = may(ctx.actor, action, { kind: "project", role: row.role });
	return refused === null ? ok(row) : fail(refused);
}

/** Libraries that the actor may read. */
export async function readableLibraries(ctx: Context, sql: Sql): Promise<readonly LibraryRecord[]> {
	const rows = await sql.all<LibraryRecord>(
		`SELECT l.id, l.name, l.kind, g.role FROM library l
		 LEFT JOIN access_grant g ON g.kind = 'library' AND g.target = l.id AND g.subject = $person
		 WHERE l.archived = 0 ORDER BY l.kind, l.name`,
		{ person: ctx.actor.person },
	);
	return rows.filter(
		(l) => may(ctx.actor, "library.read", { kind: "library", supplied: l.kind === "supplied", role: l.role }) === null,
	);
}
