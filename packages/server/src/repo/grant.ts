import type { LibraryRole, ProjectRole } from "@alvek/core/rights";
import type { Sql } from "../db";
import type { GrantState } from "./inverse";

export type GrantTarget = "library" | "set" | "project";

/** Grants on a target itself. */
export function grantsOn(sql: Sql, on: GrantTarget, target: string): Promise<GrantState[]> {
	return sql.all<GrantState>(
		`SELECT subject_kind AS "by", subject, role FROM access_grant WHERE kind = $on AND target = $target ORDER BY subject_kind, subject`,
		{ on, target },
	);
}

type RoleIn<On extends GrantTarget> = On extends "project" ? ProjectRole : LibraryRole;
export type NamedGrant<On extends GrantTarget> = Omit<GrantState, "role"> & {
	readonly role: RoleIn<On>;
	readonly name: string;
	readonly through: string | null;
};

/** Grants with the names of whom they are for; those that come through a set say so. */
export function namedGrants<On extends GrantTarget>(sql: Sql, on: On, target: string): Promise<NamedGrant<On>[]> {
	const throughSets =
		on === "library" ? "OR (g.kind = 'set' AND g.target IN (SELECT set_id FROM set_member WHERE library_id = $target))" : "";
	return sql.all<NamedGrant<On>>(
		`SELECT g.subject_kind AS "by", g.subject, COALESCE(p.name, t.name, 'everyone here') AS name, g.role, s.name AS through FROM access_grant g
		 LEFT JOIN library_set s ON g.kind = 'set' AND s.id = g.target
		 LEFT JOIN person p ON g.subject_kind = 'person' AND p.id = g.subject LEFT JOIN team t ON g.subject_kind = 'team' AND t.id = g.subject
		 WHERE (g.kind = $on AND g.target = $target) ${throughSets}
		 ORDER BY CASE g.role WHEN 'steward' THEN 0 WHEN 'owner' THEN 0 WHEN 'editor' THEN 1 ELSE 2 END, name`,
		{ on, target },
	);
}

export async function setGrants(sql: Sql, on: GrantTarget, target: string, grants: readonly GrantState[]): Promise<void> {
	await sql.remove("access_grant", { kind: on, target });
	for (const { by, subject, role } of grants)
		await sql.insert("access_grant", { subject_kind: by, subject, kind: on, target, role });
}

export type OwnGrant = { readonly kind: GrantTarget; readonly target: string; readonly role: string };

/** What a person was given by name. */
export function grantsOf(sql: Sql, person: string): Promise<OwnGrant[]> {
	return sql.all<OwnGrant>("SELECT kind, target, role FROM access_grant WHERE subject_kind = 'person' AND subject = $person", {
		person,
	});
}

/** A role of one person becomes another's, unless that one's is as strong already. */
export async function strengthenGrant(sql: Sql, person: string, grant: OwnGrant): Promise<void> {
	await sql.run(
		`INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ('person', $person, $kind, $target, $role)
		 ON CONFLICT (subject_kind, subject, kind, target) DO UPDATE SET role = excluded.role
		 WHERE access_grant.role = 'reader' OR excluded.role IN ('steward', 'owner')`,
		{ ...grant, person },
	);
}

export const removeGrantsOf = (sql: Sql, by: GrantState["by"], subject: string): Promise<void> =>
	sql.remove("access_grant", { subject_kind: by, subject });
