import type { LiveEvent, News } from "@alvek/contract";
import { ok, type Result } from "@alvek/core/result";
import { canSee, visibilityOf } from "../access";
import type { Context, Db } from "../db";
import { eventsAfter, type NewsRow, newestSeq, tabOf } from "../repo";

/** More than this at once is told as "a lot happened". */
const MOST = 200;
/** Events that are read at once. */
export const MOST_NEWS = MOST + 1;

export function toEvent(db: Db, row: NewsRow): LiveEvent {
	return {
		seq: row.seq,
		at: row.at,
		by: { id: row.actor, name: row.by },
		action: row.action,
		kind: row.kind,
		subject: row.subject,
		name: row.name ?? "",
		place: row.place,
		revision: row.revision,
		tab: tabOf(db, row.seq),
	};
}

/** What a page that cannot hold a stream open asks for every few seconds, and what a stream begins with. */
export async function readNews(ctx: Context, input: { after: string }): Promise<Result<News>> {
	const after = Number(input.after);
	const seq = await newestSeq(ctx.db);
	// a page from before a restore has seen events that no longer are
	if (after > seq) return ok({ seq, events: [], missed: true });
	const rows = await eventsAfter(ctx.db, after, MOST_NEWS);
	if (rows.length > MOST) return ok({ seq, events: [], missed: true });
	const viewer = await visibilityOf(ctx);
	return ok({ seq, events: rows.filter((r) => canSee(viewer, r)).map((r) => toEvent(ctx.db, r)), missed: false });
}
