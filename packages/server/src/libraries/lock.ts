import type { LockView } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { closesAt, type Lock, lockNow, passesLock } from "@alvek/core/rights";
import type { Sql } from "../db/connection";
import { authoriseLibrary, authoriseProject, type LibraryRecord } from "../db/rights";
import { type Context, inWrite, recordEvent } from "../db/write";
import { placeOf } from "../materials/access";

type Standing = { readonly lock: Lock; readonly holder: string } | null;

/** The open lock of a library with its holder's name; null when it is closed, or has closed itself. */
async function standing(ctx: Context, sql: Sql, library: Pick<LibraryRecord, "id" | "lock_minutes">): Promise<Standing> {
	const row = await sql.one<{ opened_by: string; since: string; used_at: string; name: string }>(
		`SELECT k.opened_by, k.since, k.used_at, p.name FROM library_lock k JOIN person p ON p.id = k.opened_by
		 WHERE k.library_id = $id AND p.left_at IS NULL`,
		{ id: library.id },
	);
	if (row === null) return null;
	const lock = lockNow({ openedBy: row.opened_by, since: row.since, usedAt: row.used_at }, library.lock_minutes, ctx.now());
	return lock === null ? null : { lock, holder: row.name };
}

export async function lockView(
	ctx: Context,
	sql: Sql,
	library: Pick<LibraryRecord, "id" | "lock_minutes">,
): Promise<LockView | null> {
	const now = await standing(ctx, sql, library);
	if (now === null) return null;
	const { openedBy, since } = now.lock;
	return { person: openedBy, name: now.holder, since, closesAt: closesAt(now.lock, library.lock_minutes) };
}

/** Nobody else is here, so there is nobody to keep out. */
export async function isSingleUser(sql: Sql): Promise<boolean> {
	const row = await sql.one<{ n: number }>("SELECT COUNT(*) AS n FROM person WHERE left_at IS NULL");
	return row?.n === 1;
}

/** A library or a project, as far as publishing asks about it. */
type Place = Pick<LibraryRecord, "id" | "name" | "approval">;

/**
 * The place, when the actor may publish, move or delete in it now. Doing so counts as use of the lock, so that it does
 * not close in the middle of the work. A project's own materials have no lock.
 * @param id a library's id, or `project:` and a project's id
 */
export async function requireOpenLock(ctx: Context, sql: Sql, id: string): Promise<Result<Place>> {
	const { project } = placeOf(id);
	if (project !== null) {
		const found = await authoriseProject(ctx, sql, project, "project.edit");
		return found.ok ? ok({ id, name: found.value.name, approval: 0 }) : found;
	}
	const library = await authoriseLibrary(ctx, sql, id, "library.publish");
	if (!library.ok) return library;
	const now = await standing(ctx, sql, library.value);
	const refused = passesLock(now?.lock ?? null, ctx.actor.person, await isSingleUser(sql), now?.holder ?? "");
	if (refused !== null) return fail({ ...refused, path: library.value.name });
	await sql.run("UPDATE library_lock SET used_at = $at WHERE library_id = $id", { at: ctx.now(), id });
	return library;
}

export function openLock(ctx: Context, input: { id: string; takeOver?: boolean }): Promise<Result<LockView | null>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.publish");
		if (!library.ok) return library;
		const now = await standing(ctx, sql, library.value);
		const { person } = ctx.actor;
		if (now !== null && now.lock.openedBy !== person && input.takeOver !== true)
			return fail({ code: "locked-by", path: library.value.name, actual: now.holder });
		const at = ctx.now();
		await sql.run(
			`INSERT INTO library_lock (library_id, opened_by, since, used_at) VALUES ($id, $person, $at, $at)
			 ON CONFLICT (library_id) DO UPDATE SET since = CASE WHEN opened_by = $person THEN since ELSE $at END, opened_by = $person, used_at = $at`,
			{ id: input.id, person, at },
		);
		await recordEvent(ctx, sql, {
			action: now !== null && now.lock.openedBy !== person ? "lock.take-over" : "lock.open",
			kind: "library",
			subject: input.id,
			changeset: { from: now?.holder ?? null },
			inverse: null,
		});
		return ok(await lockView(ctx, sql, library.value));
	});
}

export function closeLock(ctx: Context, input: { id: string }): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.publish");
		if (!library.ok) return library;
		const now = await standing(ctx, sql, library.value);
		if (now !== null && now.lock.openedBy !== ctx.actor.person)
			return fail({ code: "locked-by", path: library.value.name, actual: now.holder });
		await sql.run("DELETE FROM library_lock WHERE library_id = $id", { id: input.id });
		if (now !== null)
			await recordEvent(ctx, sql, { action: "lock.close", kind: "library", subject: input.id, changeset: {}, inverse: null });
		return ok(null);
	});
}
