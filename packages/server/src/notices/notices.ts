import type { Health, Notice, NoticeKind, Notices, RouteInput } from "@alvek/contract";
import { actionsWhere, eventRow } from "@alvek/core/event";
import { ok, type Result } from "@alvek/core/result";
import { may } from "@alvek/core/rights";
import { readableLibraries, visibilityOf } from "../access";
import { type Context, inWrite } from "../db";
import {
	type Asked,
	declinedOf,
	newestSeq,
	noticeState,
	proposalsOfOthers,
	putNoticeState,
	reviewsPassed,
	stepsOnUsed,
} from "../repo";
import { daysFrom } from "../runtime";

/** Older news are history, not notices. */
const DAYS = 60;
const MOST = 100;

type State = { readonly seen_seq: number; readonly seen_day: string; readonly off: readonly NoticeKind[] };

async function stateOf(ctx: Context): Promise<State> {
	const row = await noticeState(ctx.db, ctx.actor.person);
	return row === null ? { seen_seq: 0, seen_day: "", off: [] } : { ...row, off: JSON.parse(row.off) as NoticeKind[] };
}

/**
 * Notices are read from what happened, not stored: nothing has to be delivered, and what was taken back is gone by
 * itself. Only what a person has seen, and wants nothing of, is kept.
 */
export async function listNotices(ctx: Context, health: () => Promise<Health>): Promise<Result<Notices>> {
	const state = await stateOf(ctx);
	const wanted = (kind: NoticeKind): boolean => !state.off.includes(kind);
	const notices: Notice[] = [];
	if (wanted("revision") || wanted("retired")) notices.push(...(await ofMaterials(ctx, state)).filter((n) => wanted(n.kind)));
	if (wanted("approval")) notices.push(...(await ofApprovals(ctx, state)));
	if (wanted("review")) notices.push(...(await ofReviews(ctx, state)));
	if (wanted("upkeep") && ctx.actor.admin) notices.push(...(await ofUpkeep(ctx, health)));
	notices.sort((a, b) => (a.at < b.at ? 1 : -1));
	return ok({ notices: notices.slice(0, MOST), fresh: notices.filter((n) => n.fresh).length, off: state.off });
}

/** Steps of which people who use a material are told. */
const TOLD = actionsWhere((row) => row.notice === "revision" || row.notice === "retired");

/** Where I may read now: what happened elsewhere, also before, is told no more. */
async function askedBy(ctx: Context): Promise<Asked> {
	const { readable } = await visibilityOf(ctx);
	return { person: ctx.actor.person, since: daysFrom(ctx.now(), -DAYS), places: [...readable], most: MOST };
}

async function ofMaterials(ctx: Context, state: State): Promise<readonly Notice[]> {
	const rows = await stepsOnUsed(ctx.db, await askedBy(ctx), TOLD);
	return rows.map((row) => ({
		key: `event ${row.seq}`,
		kind: eventRow(row.action)?.notice ?? "revision",
		at: row.at,
		message:
			row.action === "material.publish"
				? `revision ${row.revision} is out, by ${row.by}`
				: row.into === null
					? `was retired by ${row.by}`
					: `was merged into ${row.into} by ${row.by}`,
		subject: row.name,
		to: `/materials/${row.id}`,
		note: row.note ?? "",
		fresh: row.seq > state.seen_seq,
	}));
}

/** What waits for me to approve, and what colleagues sent back of mine. */
async function ofApprovals(ctx: Context, state: State): Promise<readonly Notice[]> {
	const mine = new Map(
		(await readableLibraries(ctx, ctx.db))
			.filter(
				(l) => may(ctx.actor, "library.publish", { kind: "library", supplied: l.kind === "supplied", role: l.role }) === null,
			)
			.map((l) => [l.id, l.name]),
	);
	const asked = await proposalsOfOthers(ctx.db, ctx.actor.person, MOST);
	const declined = await declinedOf(ctx.db, await askedBy(ctx));
	return [
		...asked
			.filter((a) => mine.has(a.place))
			.map(
				(a): Notice => ({
					key: `publish ${a.id}`,
					kind: "approval",
					at: a.at,
					message: `${a.n === 1 ? "1 material waits" : `${a.n} materials wait`} for approval, asked by ${a.by}`,
					subject: mine.get(a.place) as string,
					to: `/libraries/${a.place}`,
					note: a.note,
					fresh: (a.seq ?? 0) > state.seen_seq,
				}),
			),
		...declined.map(
			(d): Notice => ({
				key: `event ${d.seq}`,
				kind: "approval",
				at: d.at,
				message: `what you proposed came back from ${d.by}`,
				subject: d.name,
				to: `/libraries/${d.library}`,
				note: d.note ?? "",
				fresh: d.seq > state.seen_seq,
			}),
		),
	];
}

async function ofReviews(ctx: Context, state: State): Promise<readonly Notice[]> {
	const rows = await reviewsPassed(ctx.db, await askedBy(ctx), ctx.now().slice(0, 10));
	return rows.map((row) => ({
		key: `review ${row.id} ${row.review}`,
		kind: "review",
		at: `${row.review}T00:00:00.000Z`,
		message: `should have been reviewed by ${row.review}`,
		subject: row.name,
		to: `/materials/${row.id}`,
		note: "",
		// it passed on the day after its date
		fresh: row.review >= state.seen_day,
	}));
}

async function ofUpkeep(ctx: Context, health: () => Promise<Health>): Promise<readonly Notice[]> {
	const { backup } = await health();
	if (backup === null || backup.failed === null) return [];
	return [
		{
			key: "backup",
			kind: "upkeep",
			at: ctx.now(),
			message: "failed the last time it was tried",
			subject: "The scheduled backup",
			to: "/people",
			note: backup.failed,
			fresh: true,
		},
	];
}

export function changeNotices(ctx: Context, input: RouteInput<"changeNotices">): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		const now = await stateOf(ctx);
		await putNoticeState(sql, ctx.actor.person, {
			seen_seq: input.seen === true ? await newestSeq(sql) : now.seen_seq,
			seen_day: input.seen === true ? ctx.now().slice(0, 10) : now.seen_day,
			off: JSON.stringify(input.off ?? now.off),
		});
		return ok(null);
	});
}
