import type { DeviceView } from "@alvek/contract";
import { ok, type Result } from "@alvek/core/result";
import type { Actor } from "@alvek/core/rights";
import { type Context, inWrite, type Sql } from "../db";
import {
	insertSession,
	removeSession,
	removeSessionsOf,
	removeWornSessions,
	sessionByHash,
	sessionSeen,
	sessionsOf,
	tokenByHash,
	tokenUsed,
} from "../repo";
import { daysFrom } from "../runtime";
import { hashOf, newSecret } from "./secrets";

/** A session ends after this many days without use, and after the second number whatever happens. */
const IDLE_DAYS = 14;
export const SESSION_DAYS = 60;
/** How often a session's last use is written down. */
const SEEN_EVERY_MS = 5 * 60_000;

/** Always a new secret: one that was planted in the browser before signing in opens nothing. */
export async function openSession(ctx: Omit<Context, "actor">, sql: Sql, person: string, agent: string): Promise<string> {
	const secret = newSecret();
	const at = ctx.now();
	await removeWornSessions(sql, daysFrom(at, -SESSION_DAYS), daysFrom(at, -IDLE_DAYS));
	await insertSession(sql, {
		hash: hashOf(secret),
		id: ctx.newId(),
		person_id: person,
		agent: agent.slice(0, 300),
		created_at: at,
		seen_at: at,
	});
	return secret;
}

export type Known = { readonly actor: Actor; readonly session?: string };

/** Who shows this cookie; null for an unknown, ended or worn-out session. */
export async function bySession(ctx: Omit<Context, "actor">, secret: string): Promise<Known | null> {
	const hash = hashOf(secret);
	const now = ctx.now();
	const row = await sessionByHash(ctx.db, hash);
	if (row === null || row.seen_at < daysFrom(now, -IDLE_DAYS) || row.created_at < daysFrom(now, -SESSION_DAYS)) return null;
	if (Date.parse(now) - Date.parse(row.seen_at) > SEEN_EVERY_MS) await noted(sessionSeen(ctx.db, hash, now));
	return { actor: { person: row.person, admin: row.admin === 1 }, session: hash };
}

/** Who shows this token, held to the token's scope. */
export async function byToken(ctx: Omit<Context, "actor">, secret: string): Promise<Known | null> {
	const now = ctx.now();
	const row = await tokenByHash(ctx.db, hashOf(secret), now);
	if (row === null) return null;
	if (row.used_at === null || Date.parse(now) - Date.parse(row.used_at) > SEEN_EVERY_MS)
		await noted(tokenUsed(ctx.db, row.id, now));
	return { actor: { person: row.person, admin: row.admin === 1, scope: row.scope } };
}

/** Writing down when somebody was seen never stands in the way of reading: the disk may be full. */
async function noted(writing: Promise<void>): Promise<void> {
	await writing.catch(() => undefined);
}

export function signOut(ctx: Context, input: { everywhere?: boolean }): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		if (input.everywhere === true) await removeSessionsOf(sql, ctx.actor.person);
		else await removeSession(sql, ctx.session ?? "");
		return ok(null);
	});
}

const MOST_LISTED = 100;

export async function listSessions(ctx: Context): Promise<Result<readonly DeviceView[]>> {
	const rows = await sessionsOf(ctx.db, ctx.actor.person, MOST_LISTED);
	return ok(rows.map((r) => ({ id: r.id, agent: r.agent, since: r.created_at, seen: r.seen_at, here: r.hash === ctx.session })));
}
