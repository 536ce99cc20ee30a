import { fail, ok, type Result } from "@alvek/core/result";
import { authorisedAll, requireOpenLock } from "../access";
import type { Context, Sql } from "../db";
import { ensureLinksAvailable } from "../materials";
import { changeMaterialRow, copyMarks, leadsTo, type MaterialRecord, type RowChange, readLinks } from "../repo";
import type { Made } from "./copies";

type Moved = {
	/** Copies, which take over what is not in the document. */
	readonly made: readonly Made[];
	/** What stood there already and stands for the original from now on. */
	readonly onto: readonly Made[];
};

/**
 * Originals of copies are retired, each with what stands in the other library as its successor; parts stay where they are
 * and show behind. Names elsewhere, shop name, purposes, review date and stars go along to what was made.
 * @returns how the rows of the originals were and are
 */
export async function moveTo(
	ctx: Context,
	sql: Sql,
	library: string,
	{ made, onto }: Moved,
): Promise<Result<readonly RowChange[]>> {
	const successors = new Map([...onto, ...made].map((m) => [m.of.id, m.id]));
	const originals = await authorisedAll(ctx, sql, [...successors.keys()], "library.publish");
	if (!originals.ok) return originals;
	const leaving = originals.value.filter((m) => m.library_id !== library);
	for (const place of new Set(leaving.map((m) => m.library_id))) {
		const open = await requireOpenLock(ctx, sql, place);
		if (!open.ok) return open;
	}
	const fresh = new Set(made.map((m) => m.of.id));
	const rows: RowChange[] = [];
	for (const original of leaving) {
		const successor = successors.get(original.id) as string;
		if (await leadsTo(sql, successor, original.id)) return fail({ code: "retired-loop" });
		const set = { retired: 1, successor_id: successor };
		rows.push({ id: original.id, expect: set, set: { retired: original.retired, successor_id: original.successor_id } });
		await changeMaterialRow(ctx, sql, original.id, set);
		await copyMarks(sql, original.id, successor);
		if (fresh.has(original.id)) await takeAlong(ctx, sql, library, { original, successor });
	}
	return ok(rows);
}

/** What a row says beside its document. Names elsewhere that another one bears there stay with the original. */
async function takeAlong(
	ctx: Context,
	sql: Sql,
	library: string,
	{ original, successor }: { readonly original: MaterialRecord; readonly successor: string },
): Promise<void> {
	const { known_as, shop_name, review_at, offered_for } = original;
	const links = await ensureLinksAvailable(sql, library, readLinks(known_as), successor);
	await changeMaterialRow(ctx, sql, successor, {
		shop_name,
		review_at,
		offered_for,
		...(links.ok ? { known_as: links.value } : {}),
	});
}
