import type { LibraryRole } from "@alvek/core/rights";
import type { Context, Some, Sql } from "../db";

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

/** The strongest role that a person's grants add up to; roles of one kind stand in this order. */
export const roleIn = (kind: "library" | "project", target: string): string =>
	`(SELECT role FROM reach WHERE person_id = $person AND kind = '${kind}' AND target = ${target}
	  ORDER BY CASE role WHEN 'reader' THEN 0 WHEN 'editor' THEN 1 ELSE 2 END DESC LIMIT 1) AS role`;

const SELECT_LIBRARY = `SELECT l.id, l.name, l.kind, l.description, l.owner, l.approval, l.archived, l.lock_minutes, ${roleIn("library", "l.id")}
 FROM library l`;

/** The library with a person's role in it. */
export function libraryFor(sql: Sql, id: string, person: string): Promise<LibraryRecord | null> {
	return sql.one<LibraryRecord>(`${SELECT_LIBRARY} WHERE l.id = $id`, { id, person });
}

/** All libraries, each with a person's role in it. */
export function librariesFor(sql: Sql, person: string): Promise<LibraryRecord[]> {
	return sql.all<LibraryRecord>(`${SELECT_LIBRARY} ORDER BY l.kind, lower(l.name)`, { person });
}

export type NewLibrary = {
	readonly id: string;
	readonly name: string;
	readonly description?: string;
	readonly kind: "own" | "supplied";
	readonly uid?: string;
	/** Who keeps it; the actor, unless said otherwise. */
	readonly owner?: string | null;
};

/** A library in which the actor gets a role. */
export async function insertLibrary(ctx: Context, sql: Sql, library: NewLibrary, role: LibraryRole): Promise<void> {
	const { person } = ctx.actor;
	await sql.insert("library", {
		id: library.id,
		uid: library.uid ?? ctx.newId(),
		name: library.name,
		kind: library.kind,
		description: library.description ?? "",
		owner: library.owner === undefined ? person : library.owner,
	});
	await sql.insert("access_grant", { subject_kind: "person", subject: person, kind: "library", target: library.id, role });
}

/** The one person who reaches a library; null where there are several, or none. */
export async function onlyReader(sql: Sql, library: string): Promise<string | null> {
	const rows = await sql.all<{ person: string }>(
		"SELECT DISTINCT person_id AS person FROM reach WHERE kind = 'library' AND target = $library LIMIT 2",
		{ library },
	);
	return rows.length === 1 ? (rows[0]?.person ?? null) : null;
}

export const changeLibraryRow = (sql: Sql, id: string, set: Some<"library">): Promise<void> => sql.update("library", { id }, set);

/** Where a library came from: what it is called wherever it is taken, and its newest edition here. */
export function libraryByUid(sql: Sql, uid: string): Promise<{ id: string; kind: string; edition: number } | null> {
	return sql.one(
		`SELECT l.id, l.kind, (SELECT COALESCE(MAX(no), 0) FROM edition e WHERE e.library_id = l.id) AS edition FROM library l WHERE l.uid = $uid`,
		{ uid },
	);
}

/** What a library is called wherever it is taken. */
export const uidOfLibrary = async (sql: Sql, id: string): Promise<string> => (await sql.find("library", { id }))?.uid ?? "";

/** What each library counts, asked for all of them at once. */
export type LibraryCounts = {
	readonly id: string;
	readonly materials: number;
	readonly waiting: number;
	readonly edition: number;
	readonly hidden: number;
	readonly everyone: number;
	readonly people: number;
};

export function libraryCounts(sql: Sql, ids: readonly string[], person: string): Promise<LibraryCounts[]> {
	return sql.all<LibraryCounts>(
		`SELECT l.id,
		 (SELECT COUNT(*) FROM material m WHERE m.library_id = l.id AND m.removed_at IS NULL
		  AND EXISTS (SELECT 1 FROM revision r WHERE r.material_id = m.id)) AS materials,
		 (SELECT COUNT(*) FROM publish b WHERE b.place = l.id AND b.state = 'proposed') AS waiting,
		 (SELECT COALESCE(MAX(e.no), 0) FROM edition e WHERE e.library_id = l.id) AS edition,
		 CASE WHEN EXISTS (SELECT 1 FROM library_hidden h WHERE h.library_id = l.id AND h.person_id = $person) THEN 1 ELSE 0 END AS hidden,
		 CASE WHEN EXISTS (SELECT 1 FROM access_grant g WHERE g.subject_kind = 'everyone' AND ((g.kind = 'library' AND g.target = l.id)
		  OR (g.kind = 'set' AND g.target IN (SELECT set_id FROM set_member WHERE library_id = l.id)))) THEN 1 ELSE 0 END AS everyone,
		 (SELECT COUNT(DISTINCT h.person_id) FROM reach h WHERE h.kind = 'library' AND h.target = l.id) AS people
		 FROM library l WHERE l.id IN ${sql.dialect.list("ids")}`,
		{ person, ids: JSON.stringify(ids) },
	);
}

/** Projects that stand on a library, with how many of their parts do. */
export function usersOfLibrary(sql: Sql, library: string): Promise<{ id: string; name: string; parts: number }[]> {
	// revisions and drafts apart, each by its own keys
	return sql.all(
		`SELECT p.id, p.name, CAST(SUM(n) AS INTEGER) AS parts FROM (
		 SELECT s.project_id, COUNT(*) AS n FROM assignment s JOIN revision r ON r.id = s.revision_id JOIN material m ON m.id = r.material_id
		 WHERE m.library_id = $library GROUP BY s.project_id
		 UNION ALL SELECT s.project_id, COUNT(*) FROM draft f ${sql.dialect.joinInOrder} assignment s ON s.draft_id = f.id JOIN material m ON m.id = f.material_id
		 WHERE m.library_id = $library GROUP BY s.project_id) u
		 JOIN project p ON p.id = u.project_id WHERE p.removed_at IS NULL GROUP BY p.id, p.name ORDER BY lower(p.name)`,
		{ library },
	);
}

/** Names of places where materials live: libraries, and projects with materials of their own. */
export async function placeNames(sql: Sql): Promise<ReadonlyMap<string, string>> {
	const rows = await sql.all<{ id: string; name: string }>(
		"SELECT id, name FROM library UNION ALL SELECT 'project:' || id, name || ', its own' FROM project WHERE removed_at IS NULL",
	);
	return new Map(rows.map((l) => [l.id, l.name]));
}

/** Whether a person leaves a library out of their choosers. */
export async function putHidden(sql: Sql, library: string, person: string, hidden: boolean): Promise<void> {
	if (hidden) await sql.ensure("library_hidden", { library_id: library, person_id: person });
	else await sql.remove("library_hidden", { library_id: library, person_id: person });
}

/** Of these materials of a library, those that are not on its working list, or are. */
export async function workingToChange(sql: Sql, library: string, materials: readonly string[], on: boolean): Promise<string[]> {
	const rows = await sql.all<{ id: string }>(
		`SELECT m.id FROM material m WHERE m.library_id = $library AND m.removed_at IS NULL AND m.id IN ${sql.dialect.list("wanted")}
		 AND ${on ? "NOT " : ""}EXISTS (SELECT 1 FROM working_list w WHERE w.material_id = m.id)`,
		{ library, wanted: JSON.stringify(materials) },
	);
	return rows.map((r) => r.id);
}

export async function putWorking(sql: Sql, library: string, materials: readonly string[], on: boolean): Promise<void> {
	const bind = { library, ids: JSON.stringify(materials) };
	if (on)
		await sql.run(
			`INSERT INTO working_list (library_id, material_id) SELECT ${sql.dialect.typed("library", "text")}, j.value
			 FROM ${sql.dialect.numbered("ids", "j")} WHERE true ON CONFLICT DO NOTHING`,
			bind,
		);
	else await sql.run(`DELETE FROM working_list WHERE library_id = $library AND material_id IN ${sql.dialect.list("ids")}`, bind);
}

export async function workingMaterials(sql: Sql): Promise<ReadonlySet<string>> {
	return new Set((await sql.all<{ id: string }>("SELECT material_id AS id FROM working_list")).map((w) => w.id));
}

export type LockRecord = {
	readonly opened_by: string;
	readonly since: string;
	readonly used_at: string;
	readonly name: string;
};

/** Who opened a library's lock, unless they left. */
export function lockOf(sql: Sql, library: string): Promise<LockRecord | null> {
	return sql.one<LockRecord>(
		`SELECT k.opened_by, k.since, k.used_at, p.name FROM library_lock k JOIN person p ON p.id = k.opened_by
		 WHERE k.library_id = $library AND p.left_at IS NULL`,
		{ library },
	);
}

/** Opens a lock for a person; who has it open already keeps it open since then. */
export async function putLock(sql: Sql, library: string, person: string, at: string): Promise<void> {
	await sql.run(
		`INSERT INTO library_lock (library_id, opened_by, since, used_at) VALUES ($library, $person, $at, $at)
		 ON CONFLICT (library_id) DO UPDATE SET
		 since = CASE WHEN library_lock.opened_by = excluded.opened_by THEN library_lock.since ELSE excluded.since END,
		 opened_by = excluded.opened_by, used_at = excluded.used_at`,
		{ library, person, at },
	);
}

export const useLock = (sql: Sql, library: string, at: string): Promise<void> =>
	sql.update("library_lock", { library_id: library }, { used_at: at });

export const removeLock = (sql: Sql, library: string): Promise<void> => sql.remove("library_lock", { library_id: library });
