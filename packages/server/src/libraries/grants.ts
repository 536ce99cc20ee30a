import type { GrantView, Undoable } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import type { LibraryRole } from "@alvek/core/rights";
import type { Sql } from "../db/connection";
import { authoriseLibrary, authoriseProject } from "../db/rights";
import { type Context, type GrantState, inWrite, recordEvent } from "../db/write";

type On = "library" | "set" | "project";

/** Grants on a target itself. */
export function grantsOn(sql: Sql, on: On, target: string): Promise<GrantState[]> {
	return sql.all<GrantState>(
		`SELECT subject_kind AS "by", subject, role FROM access_grant WHERE kind = $on AND target = $target ORDER BY subject_kind, subject`,
		{ on, target },
	);
}

/** Grants with the names of whom they are for; those that come through a set say so. */
export async function namedGrants(sql: Sql, on: On, target: string): Promise<readonly GrantView[]> {
	return sql.all<GrantView>(
		`SELECT g.subject_kind AS "by", g.subject, COALESCE(p.name, t.name, 'everyone here') AS name, g.role, s.name AS through FROM access_grant g
		 LEFT JOIN library_set s ON g.kind = 'set' AND s.id = g.target
		 LEFT JOIN person p ON g.subject_kind = 'person' AND p.id = g.subject LEFT JOIN team t ON g.subject_kind = 'team' AND t.id = g.subject
		 WHERE (g.kind = $on AND g.target = $target)
			OR (g.kind = 'set' AND $on = 'library' AND g.target IN (SELECT set_id FROM set_member WHERE library_id = $target))
		 ORDER BY CASE g.role WHEN 'steward' THEN 0 WHEN 'owner' THEN 0 WHEN 'editor' THEN 1 ELSE 2 END, name`,
		{ on, target },
	);
}

export type GrantInput = { readonly by: "person" | "team" | "everyone"; readonly subject: string; readonly role: string | null };

/** The subject of a grant, when there is such a person or team; everyone has none. */
async function subjectOf(sql: Sql, input: GrantInput): Promise<Result<string>> {
	if (input.by === "everyone") return ok("");
	const found = await sql.one<{ id: string }>(
		input.by === "team" ? "SELECT id FROM team WHERE id = $id" : "SELECT id FROM person WHERE id = $id AND left_at IS NULL",
		{ id: input.subject },
	);
	return found === null ? fail({ code: "not-found", path: input.by === "team" ? "The team" : "The person" }) : ok(found.id);
}

/** Gives, changes or takes one role on a target; the event that says so can be undone. */
export async function putGrant(
	ctx: Context,
	sql: Sql,
	on: On,
	target: string,
	input: GrantInput,
): Promise<Result<Undoable<null>>> {
	const subject = await subjectOf(sql, input);
	if (!subject.ok) return subject;
	const before = await grantsOn(sql, on, target);
	const rest = before.filter((g) => g.by !== input.by || g.subject !== subject.value);
	const after = input.role === null ? rest : [...rest, { by: input.by, subject: subject.value, role: input.role }];
	await setGrants(sql, on, target, after);
	const event = await recordEvent(ctx, sql, {
		action: input.role === null ? `${on}.unshare` : `${on}.share`,
		kind: on === "project" ? "project" : "library",
		subject: target,
		changeset: input,
		inverse: on === "set" ? null : { kind: "grants", on, target, expect: after, set: before },
	});
	return ok({ event, value: null });
}

export async function setGrants(sql: Sql, on: On, target: string, grants: readonly GrantState[]): Promise<void> {
	await sql.run("DELETE FROM access_grant WHERE kind = $on AND target = $target", { on, target });
	for (const grant of grants) {
		await sql.run(
			"INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ($by, $subject, $on, $target, $role)",
			{ ...grant, on, target },
		);
	}
}

export function shareLibrary(
	ctx: Context,
	input: GrantInput & { id: string; role: LibraryRole | null },
): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.steward");
		if (!library.ok) return library;
		if (library.value.kind === "supplied" && input.role === "editor") return fail({ code: "read-only" });
		return putGrant(ctx, sql, "library", input.id, input);
	});
}

export function shareProject(ctx: Context, input: GrantInput & { id: string }): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.share");
		if (!project.ok) return project;
		const owners = (await grantsOn(sql, "project", input.id)).filter((g) => g.role === "owner");
		const last = owners.length === 1 && owners[0]?.by === input.by && owners[0].subject === input.subject;
		if (last && input.role !== "owner") return fail({ code: "last-owner" });
		return putGrant(ctx, sql, "project", input.id, input);
	});
}
