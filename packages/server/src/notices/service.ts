import type { Health, Notice, NoticeKind, Notices, RouteInput } from "@alvek/contract";
import { actionsWhere, eventRow } from "@alvek/core/event";
import { ok, type Result } from "@alvek/core/result";
import { may } from "@alvek/core/rights";
import { readableLibraries } from "../db/rights";
import { type Context, inWrite } from "../db/write";
import { newestSeq, visibilityOf } from "../live/news";

/** Older news are history, not notices. */
const DAYS = 60;
const MOST = 100;

type State = { readonly seen_seq: number; readonly seen_day: string; readonly off: readonly NoticeKind[] };

async function stateOf(ctx: Context): Promise<State> {
	const row = await ctx.db.one<{ seen_seq: number; seen_day: string; off: string }>(
		"SELECT seen_seq, seen_day, off FROM notice_state WHERE person_id = $person",
		{ person: ctx.actor.person },
	);
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

/** Materials that parts of my projects stand on, or that I starred. */
const USED = `SELECT r.material_id FROM assignment s JOIN revision r ON r.id = s.revision_id
	WHERE s.project_id IN (SELECT target FROM reach WHERE person_id = $person AND kind = 'project' AND role IN ('editor', 'owner'))
	UNION SELECT t.material_id FROM star t WHERE t.person_id = $person`;

/** Steps of which people who use a material are told, as a list of SQL. */
const TOLD = actionsWhere((row) => row.notice === "revision" || row.notice === "retired");

/** Where I may read now: what happened elsewhere, also before, is told no more. */
async function placesOf(ctx: Context): Promise<string> {
	const { readable } = await visibilityOf(ctx);
	return JSON.stringify([...readable]);
}

async function ofMaterials(ctx: Context, state: State): Promise<readonly Notice[]> {
	const rows = await ctx.db.all<{
		seq: number;
		at: string;
		by: string;
		action: string;
		id: string;
		name: string;
		revision: number | null;
		into: string | null;
		note: string | null;
	}>(
		`SELECT e.seq, e.at, p.name AS "by", e.action, m.id, m.name, json_extract(e.changeset, '$.revision') AS revision,
			json_extract(e.changeset, '$.into') AS "into", json_extract(e.changeset, '$.note') AS note
		 FROM event e JOIN person p ON p.id = e.actor JOIN material m ON m.id = e.subject_id
		 WHERE e.action IN (SELECT value FROM json_each($told)) AND e.at > $since AND e.actor <> $person
			AND e.undone_by IS NULL AND COALESCE(json_extract(e.changeset, '$.revision'), 2) > 1 AND e.subject_id IN (${USED})
			AND COALESCE(m.library_id, 'project:' || m.project_id) IN (SELECT value FROM json_each($places)) ORDER BY e.seq DESC LIMIT ${MOST}`,
		{ person: ctx.actor.person, places: await placesOf(ctx), told: JSON.stringify(TOLD), since: daysAgo(ctx, DAYS) },
	);
	return rows.map((row) => ({
		key: `event ${row.seq}`,
		kind: eventRow(row.action)?.notice ?? "revision",
		at: row.at,
		says:
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
	const asked = await ctx.db.all<{
		id: string;
		place: string;
		at: string;
		by: string;
		note: string;
		n: number;
		seq: number | null;
	}>(
		`SELECT b.id, b.place, b.at, p.name AS "by", b.note, (SELECT COUNT(*) FROM publish_item i WHERE i.publish_id = b.id) AS n,
			(SELECT MAX(e.seq) FROM event e WHERE e.action = 'publish.propose' AND json_extract(e.changeset, '$.publish') = b.id) AS seq
		 FROM publish b JOIN person p ON p.id = b.actor WHERE b.state = 'proposed' AND b.actor <> $person ORDER BY b.at DESC LIMIT ${MOST}`,
		{ person: ctx.actor.person },
	);
	const declined = await ctx.db.all<{ seq: number; at: string; by: string; library: string; name: string; note: string | null }>(
		`SELECT e.seq, e.at, p.name AS "by", l.id AS library, l.name, json_extract(e.changeset, '$.note') AS note
		 FROM event e JOIN person p ON p.id = e.actor JOIN library l ON l.id = e.subject_id
		 WHERE e.action = 'publish.decline' AND e.at > $since AND json_extract(e.changeset, '$.of') = $person
			AND l.id IN (SELECT value FROM json_each($places)) ORDER BY e.seq DESC LIMIT ${MOST}`,
		{ person: ctx.actor.person, places: await placesOf(ctx), since: daysAgo(ctx, DAYS) },
	);
	return [
		...asked
			.filter((a) => mine.has(a.place))
			.map(
				(a): Notice => ({
					key: `publish ${a.id}`,
					kind: "approval",
					at: a.at,
					says: `${a.n === 1 ? "1 material waits" : `${a.n} materials wait`} for approval, asked by ${a.by}`,
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
				says: `what you proposed came back from ${d.by}`,
				subject: d.name,
				to: `/libraries/${d.library}`,
				note: d.note ?? "",
				fresh: d.seq > state.seen_seq,
			}),
		),
	];
}

async function ofReviews(ctx: Context, state: State): Promise<readonly Notice[]> {
	const today = ctx.now().slice(0, 10);
	const rows = await ctx.db.all<{ id: string; name: string; review: string }>(
		`SELECT id, name, review_at AS review FROM material WHERE owner = $person AND review_at < $today AND removed_at IS NULL AND retired = 0
			AND COALESCE(library_id, 'project:' || project_id) IN (SELECT value FROM json_each($places))
		 ORDER BY review_at DESC LIMIT ${MOST}`,
		{ person: ctx.actor.person, today, places: await placesOf(ctx) },
	);
	return rows.map((row) => ({
		key: `review ${row.id} ${row.review}`,
		kind: "review",
		at: `${row.review}T00:00:00.000Z`,
		says: `should have been reviewed by ${row.review}`,
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
			says: "failed the last time it was tried",
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
		const next = {
			person: ctx.actor.person,
			seq: input.seen === true ? await newestSeq(sql) : now.seen_seq,
			day: input.seen === true ? ctx.now().slice(0, 10) : now.seen_day,
			off: JSON.stringify(input.off ?? now.off),
		};
		await sql.run(
			`INSERT INTO notice_state (person_id, seen_seq, seen_day, off) VALUES ($person, $seq, $day, $off)
			 ON CONFLICT (person_id) DO UPDATE SET seen_seq = $seq, seen_day = $day, off = $off`,
			next,
		);
		return ok(null);
	});
}

function daysAgo(ctx: Context, days: number): string {
	return new Date(Date.parse(ctx.now()) - days * 86_400_000).toISOString();
}
