import { fail, ok, type Result } from "@alvek/core/result";
import { type Lock, lockNow, passesLock } from "@alvek/core/rights";
import type { Context, Sql } from "../db";
import { countPeopleHere, type LibraryRecord, lockOf, onlyReader, ownerOf, useLock } from "../repo";
import { authoriseLibrary, authoriseProject } from "./places";

export type CurrentLock = { readonly lock: Lock; readonly holder: string };

/** The open lock of a library with its holder's name; null when it is closed, or has closed itself. */
export async function currentLock(
	ctx: Context,
	sql: Sql,
	library: Pick<LibraryRecord, "id" | "lock_minutes">,
): Promise<CurrentLock | null> {
	const row = await lockOf(sql, library.id);
	if (row === null) return null;
	const lock = lockNow({ openedBy: row.opened_by, since: row.since, usedAt: row.used_at }, library.lock_minutes, ctx.now());
	return lock === null ? null : { lock, holder: row.name };
}

/** Nobody else is here, so there is nobody to keep out. */
export const isSingleUser = async (sql: Sql): Promise<boolean> => (await countPeopleHere(sql)) === 1;

/** Nobody else reads this library: its lock has nobody to keep out, and no second person could approve. */
const isAloneIn = async (ctx: Context, sql: Sql, library: string): Promise<boolean> =>
	(await isSingleUser(sql)) || (await onlyReader(sql, library)) === ctx.actor.person;

/** Does what is published in this place wait for a second person? */
export const waitsForSecond = async (ctx: Context, sql: Sql, place: Pick<PublishPlace, "id" | "approval">): Promise<boolean> =>
	place.approval === 1 && !(await isAloneIn(ctx, sql, place.id));

/** A library or a project, as far as publishing asks about it. */
export type PublishPlace = Pick<LibraryRecord, "id" | "name" | "approval">;

/**
 * The place, when the actor may publish, move or delete in it now. Doing so counts as use of the lock, so that it does
 * not close in the middle of the work. A project's own materials have no lock.
 * @param id a library's id, or `project:` and a project's id
 */
export async function requireOpenLock(ctx: Context, sql: Sql, id: string): Promise<Result<PublishPlace>> {
	const { project } = ownerOf(id);
	if (project !== null) {
		const found = await authoriseProject(ctx, sql, project, "project.edit");
		return found.ok ? ok({ id, name: found.value.name, approval: 0 }) : found;
	}
	const library = await authoriseLibrary(ctx, sql, id, "library.publish");
	if (!library.ok) return library;
	const now = await currentLock(ctx, sql, library.value);
	const refused = passesLock(now?.lock ?? null, ctx.actor.person, await isAloneIn(ctx, sql, id), now?.holder ?? "");
	if (refused !== null) return fail({ ...refused, path: library.value.name });
	await useLock(sql, id, ctx.now());
	return library;
}

/**
 * The place, when the actor may put something among what is published in it: at once with its open lock, or as a proposal
 * where a second person approves. Proposing changes nothing that is published, so it needs no lock.
 */
export async function requirePublishing(
	ctx: Context,
	sql: Sql,
	id: string,
): Promise<Result<PublishPlace & { readonly proposed: boolean }>> {
	if (ownerOf(id).project === null) {
		const library = await authoriseLibrary(ctx, sql, id, "library.publish");
		if (!library.ok) return library;
		if (await waitsForSecond(ctx, sql, library.value)) return ok({ ...library.value, proposed: true });
	}
	const open = await requireOpenLock(ctx, sql, id);
	return open.ok ? ok({ ...open.value, proposed: false }) : open;
}

/** The working list is the team's, so it takes an editor; of a supplied library, which nobody edits, whoever may read it. */
export async function authoriseWorkingList(ctx: Context, sql: Sql, id: string): Promise<Result<unknown>> {
	const library = await authoriseLibrary(ctx, sql, id, "library.read");
	return !library.ok || library.value.kind === "supplied" ? library : authoriseLibrary(ctx, sql, id, "library.edit");
}
