import type { Row, Sql } from "../db";

export const insertSession = (sql: Sql, session: Row<"session">): Promise<void> => sql.insert("session", session);

/** Sessions that began before one time, or were not seen since another. */
export async function removeWornSessions(sql: Sql, old: string, idle: string): Promise<void> {
	await sql.run("DELETE FROM session WHERE created_at < $old OR seen_at < $idle", { old, idle });
}

export type SessionRecord = {
	readonly person: string;
	readonly admin: number;
	readonly created_at: string;
	readonly seen_at: string;
};

export function sessionByHash(sql: Sql, hash: string): Promise<SessionRecord | null> {
	return sql.one<SessionRecord>(
		`SELECT p.id AS person, p.admin, s.created_at, s.seen_at FROM session s JOIN person p ON p.id = s.person_id
		 WHERE s.hash = $hash AND p.left_at IS NULL`,
		{ hash },
	);
}

export const sessionSeen = (sql: Sql, hash: string, at: string): Promise<void> =>
	sql.update("session", { hash }, { seen_at: at });

export const removeSession = (sql: Sql, hash: string): Promise<void> => sql.remove("session", { hash });

export const removeSessionsOf = (sql: Sql, person: string): Promise<void> => sql.remove("session", { person_id: person });

export async function removeOtherSessions(sql: Sql, person: string, here: string): Promise<void> {
	await sql.run("DELETE FROM session WHERE person_id = $person AND hash <> $here", { person, here });
}

export function sessionsOf(sql: Sql, person: string, most: number): Promise<Omit<Row<"session">, "person_id">[]> {
	return sql.all(
		"SELECT hash, id, agent, created_at, seen_at FROM session WHERE person_id = $person ORDER BY seen_at DESC LIMIT $most",
		{ person, most },
	);
}

export type TokenRecord = {
	readonly id: string;
	readonly person: string;
	readonly admin: number;
	readonly scope: "read" | "write";
	readonly used_at: string | null;
};

/** A token that still holds. */
export function tokenByHash(sql: Sql, hash: string, now: string): Promise<TokenRecord | null> {
	return sql.one<TokenRecord>(
		`SELECT t.id, p.id AS person, p.admin, t.scope, t.used_at FROM token t JOIN person p ON p.id = t.person_id
		 WHERE t.hash = $hash AND t.expires_at > $now AND p.left_at IS NULL`,
		{ hash, now },
	);
}

export const tokenUsed = (sql: Sql, id: string, at: string): Promise<void> => sql.update("token", { id }, { used_at: at });

export const hasToken = (sql: Sql, id: string): Promise<boolean> => sql.has("token", { id });

export const countTokens = (sql: Sql, person: string): Promise<number> => sql.count("token", { person_id: person });

export const insertToken = (sql: Sql, token: Row<"token">): Promise<void> => sql.insert("token", token);

export function tokensOf(
	sql: Sql,
	person: string,
): Promise<{ id: string; name: string; scope: "read" | "write"; createdAt: string; expiresAt: string; usedAt: string | null }[]> {
	return sql.all(
		`SELECT id, name, scope, created_at AS "createdAt", expires_at AS "expiresAt", used_at AS "usedAt" FROM token
		 WHERE person_id = $person ORDER BY created_at DESC`,
		{ person },
	);
}

export const tokenOf = (sql: Sql, person: string, id: string): Promise<Row<"token"> | null> =>
	sql.find("token", { id, person_id: person });

export const removeTokenRow = (sql: Sql, id: string): Promise<void> => sql.remove("token", { id });

export const removeTokensOf = (sql: Sql, person: string): Promise<void> => sql.remove("token", { person_id: person });

export const insertTicket = (sql: Sql, ticket: Row<"ticket">): Promise<void> => sql.insert("ticket", ticket);

export const removeOpenTickets = (sql: Sql, person: string): Promise<void> =>
	sql.remove("ticket", { person_id: person, used_at: null });

export type TicketRecord = Pick<Row<"ticket">, "id" | "kind" | "person_id" | "content"> & {
	readonly name: string | null;
	readonly login: string | null;
};

/** A ticket that still opens something. */
export function ticketByHash(sql: Sql, hash: string, now: string): Promise<TicketRecord | null> {
	return sql.one<TicketRecord>(
		`SELECT t.id, t.kind, t.person_id, t.content, p.name, p.login FROM ticket t LEFT JOIN person p ON p.id = t.person_id
		 WHERE t.hash = $hash AND t.used_at IS NULL AND t.expires_at > $now`,
		{ hash, now },
	);
}

export const ticketUsed = (sql: Sql, id: string, at: string): Promise<void> => sql.update("ticket", { id }, { used_at: at });

export function openInvitations(
	sql: Sql,
	now: string,
): Promise<{ id: string; content: string; by: string; expires_at: string }[]> {
	return sql.all(
		`SELECT t.id, t.content, p.name AS "by", t.expires_at FROM ticket t JOIN person p ON p.id = t.made_by
		 WHERE t.kind = 'invitation' AND t.used_at IS NULL AND t.expires_at > $now ORDER BY t.expires_at DESC`,
		{ now },
	);
}

/** Takes an invitation that nobody used away; false: there is none. */
export async function removeInvitation(sql: Sql, id: string): Promise<boolean> {
	const open = await sql.has("ticket", { id, kind: "invitation", used_at: null });
	if (open) await sql.remove("ticket", { id });
	return open;
}
