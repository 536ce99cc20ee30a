import type { DeviceView } from "@alvek/contract";
import { ok, type Result } from "@alvek/core/result";
import type { Actor } from "@alvek/core/rights";
import type { Sql } from "../db/connection";
import { type Context, inWrite } from "../db/write";
import { daysFrom, hashOf, newSecret } from "./secrets";

/** A session ends after this many days without use, and after the second number whatever happens. */
const IDLE_DAYS = 14;
export const SESSION_DAYS = 60;
/** How often a session's last use is written down. */
const SEEN_EVERY_MS = 5 * 60_000;

/** Always a new secret: one that was planted in the browser before signing in opens nothing. */
export async function openSession(ctx: Omit<Context, "actor">, sql: Sql, person: string, agent: string): Promise<string> {
	const secret = newSecret();
	const at = ctx.now();
	await sql.run("DELETE FROM session WHERE created_at < $old OR seen_at < $idle", {
		old: daysFrom(at, -SESSION_DAYS),
		idle: daysFrom(at, -IDLE_DAYS),
	});
	await sql.run(
		"INSERT INTO session (hash, id, person_id, agent, created_at, seen_at) VALUES ($hash, $id, $person, $agent, $at, $at)",
		{ hash: hashOf(secret), id: ctx.newId(), person, agent: agent.slice(0, 300), at },
	);
	return secret;
}

export type Known = { readonly actor: Actor; readonly session?: string };

/** Who shows this cookie; null for an unknown, ended or worn-out session. */
export async function bySession(ctx: Omit<Context, "actor">, secret: string): Promise<Known | null> {
	const hash = hashOf(secret);
	const now = ctx.now();
	const row = await ctx.db.one<{ person: string; admin: number; created_at: string; seen_at: string }>(
		`SELECT p.id AS person, p.admin, s.created_at, s.seen_at FROM session s JOIN person p ON p.id = s.person_id
		 WHERE s.hash = $hash AND p.left_at IS NULL`,
		{ hash },
	);
	if (row === null || row.seen_at < daysFrom(now, -IDLE_DAYS) || row.created_at < daysFrom(now, -SESSION_DAYS)) return null;
	if (Date.parse(now) - Date.parse(row.seen_at) > SEEN_EVERY_MS)
		await noted(ctx.db.run("UPDATE session SET seen_at = $now WHERE hash = $hash", { now, hash }));
	return { actor: { person: row.person, admin: row.admin === 1 }, session: hash };
}

/** Who shows this token, held to the token's scope. */
export async function byToken(ctx: Omit<Context, "actor">, secret: string): Promise<Known | null> {
	const now = ctx.now();
	const row = await ctx.db.one<{ id: string; person: string; admin: number; scope: "read" | "write"; used_at: string | null }>(
		`SELECT t.id, p.id AS person, p.admin, t.scope, t.used_at FROM token t JOIN person p ON p.id = t.person_id
		 WHERE t.hash = $hash AND t.expires_at > $now AND p.left_at IS NULL`,
		{ hash: hashOf(secret), now },
	);
	if (row === null) return null;
	if (row.used_at === null || Date.parse(now) - Date.parse(row.used_at) > SEEN_EVERY_MS)
		await noted(ctx.db.run("UPDATE token SET used_at = $now WHERE id = $id", { now, id: row.id }));
	return { actor: { person: row.person, admin: row.admin === 1, scope: row.scope } };
}

/** Writing down when somebody was seen never stands in the way of reading: the disk may be full. */
async function noted(writing: Promise<void>): Promise<void> {
	await writing.catch(() => undefined);
}

export function signOut(ctx: Context, input: { everywhere?: boolean }): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		if (input.everywhere === true) await sql.run("DELETE FROM session WHERE person_id = $person", { person: ctx.actor.person });
		else await sql.run("DELETE FROM session WHERE hash = $hash", { hash: ctx.session ?? "" });
		return ok(null);
	});
}

export async function listSessions(ctx: Context): Promise<Result<readonly DeviceView[]>> {
	const rows = await ctx.db.all<{ hash: string; id: string; agent: string; created_at: string; seen_at: string }>(
		"SELECT hash, id, agent, created_at, seen_at FROM session WHERE person_id = $person ORDER BY seen_at DESC LIMIT 100",
		{ person: ctx.actor.person },
	);
	return ok(rows.map((r) => ({ id: r.id, agent: r.agent, since: r.created_at, seen: r.seen_at, here: r.hash === ctx.session })));
}
