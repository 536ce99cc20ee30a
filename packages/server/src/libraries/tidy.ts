import type { RouteInput, Undoable, UnusedRow } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseLibrary, authoriseWorkingList } from "../access";
import { type Context, inWrite } from "../db";
import {
	allGroups,
	binnedBefore,
	eraseMaterials,
	groupPath,
	putWorking,
	readLinks,
	recordEvent,
	unusedIn,
	workingToChange,
} from "../repo";
import { daysFrom } from "../runtime";

/** Puts materials on the working list of their library, or takes them off. */
export function setWorking(ctx: Context, input: RouteInput<"setWorking">): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseWorkingList(ctx, sql, input.id);
		if (!library.ok) return library;
		// only those that are not so already, so that undoing leaves the others alone
		const ids = await workingToChange(sql, input.id, input.materials, input.on);
		await putWorking(sql, input.id, ids, input.on);
		const event = await recordEvent(ctx, sql, {
			action: input.on ? "working.on" : "working.off",
			kind: "library",
			subject: input.id,
			changeset: { materials: ids },
			inverse: { kind: "working", library: input.id, materials: ids, on: !input.on },
		});
		return ok({ event, value: null });
	});
}

const MOST_UNUSED = 5000;

/** Published materials that no part stands on or tries, in any project; it only tells, it never deletes. */
export async function listUnused(ctx: Context, input: { id: string }): Promise<Result<readonly UnusedRow[]>> {
	const library = await authoriseLibrary(ctx, ctx.db, input.id, "library.read");
	if (!library.ok) return library;
	const groups = new Map((await allGroups(ctx.db)).map((g) => [g.id, g]));
	const rows = await unusedIn(ctx.db, input.id, MOST_UNUSED);
	return ok(
		rows.map((r) => ({
			id: r.id,
			name: r.name,
			group: groupPath(r.group_id, groups),
			changedAt: r.changed_at,
			retired: r.retired === 1,
			variants: r.variants,
			copies: r.copies,
			links: readLinks(r.known_as).length,
		})),
	);
}

/** Days that something stays in the bin whatever happens. */
const BIN_DAYS = 90;

/**
 * What has lain in the bin for 90 days goes for good, when nothing refers to it: no part, no default, no edition, no
 * material that began from it or follows it, no proposal.
 */
export function emptyBin(ctx: Context, input: { id: string }): Promise<Result<{ gone: number; kept: number }>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.steward");
		if (!library.ok) return library;
		if (library.value.kind === "supplied") return fail({ code: "read-only" });
		const binned = await binnedBefore(sql, input.id, daysFrom(ctx.now(), -BIN_DAYS));
		const gone = binned.filter((b) => b.free === 1);
		await eraseMaterials(
			sql,
			gone.map((g) => g.id),
		);
		await recordEvent(ctx, sql, {
			action: "bin.empty",
			kind: "library",
			subject: input.id,
			changeset: { gone: gone.map((g) => g.name), kept: binned.length - gone.length },
			inverse: null,
		});
		return ok({ gone: gone.length, kept: binned.length - gone.length });
	});
}
