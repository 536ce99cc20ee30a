import type { LockView } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { closesAt } from "@alvek/core/rights";
import { authoriseLibrary, currentLock } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import { type LibraryRecord, putLock, recordEvent, removeLock } from "../repo";

export async function lockView(
	ctx: Context,
	sql: Sql,
	library: Pick<LibraryRecord, "id" | "lock_minutes">,
): Promise<LockView | null> {
	const now = await currentLock(ctx, sql, library);
	if (now === null) return null;
	const { openedBy, since } = now.lock;
	return { person: openedBy, name: now.holder, since, closesAt: closesAt(now.lock, library.lock_minutes) };
}

export function openLock(ctx: Context, input: { id: string; takeOver?: boolean }): Promise<Result<LockView | null>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.publish");
		if (!library.ok) return library;
		const now = await currentLock(ctx, sql, library.value);
		const { person } = ctx.actor;
		if (now !== null && now.lock.openedBy !== person && input.takeOver !== true)
			return fail({ code: "locked-by", path: library.value.name, actual: now.holder });
		await putLock(sql, input.id, person, ctx.now());
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
		const now = await currentLock(ctx, sql, library.value);
		if (now !== null && now.lock.openedBy !== ctx.actor.person)
			return fail({ code: "locked-by", path: library.value.name, actual: now.holder });
		await removeLock(sql, input.id);
		if (now !== null)
			await recordEvent(ctx, sql, { action: "lock.close", kind: "library", subject: input.id, changeset: {}, inverse: null });
		return ok(null);
	});
}
