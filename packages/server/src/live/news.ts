import type { LiveEvent, News } from "@alvek/contract";
import { ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { readableLibraries, readableProjects } from "../db/rights";
import { type Context, tabOf } from "../db/write";

type Row = {
	seq: number;
	at: string;
	actor: string;
	by: string;
	action: string;
	kind: LiveEvent["kind"];
	subject: string;
	name: string | null;
	place: string | null;
	published: number;
	revision: number | null;
};

/** More than this at once is told as "a lot happened". */
const MOST = 200;

/** What a person may hear of: places by id, `project:` before projects. */
export type Ears = { readonly person: string; readonly admin: boolean; readonly places: ReadonlySet<string> };

export async function earsOf(ctx: Context): Promise<Ears> {
	const [libraries, projects] = await Promise.all([readableLibraries(ctx, ctx.db), readableProjects(ctx, ctx.db)]);
	const places = new Set([...libraries.map((l) => l.id), ...projects.map((p) => `project:${p.id}`)]);
	return { person: ctx.actor.person, admin: ctx.actor.admin, places };
}

export async function newestSeq(sql: Sql): Promise<number> {
	return (await sql.one<{ seq: number | null }>("SELECT MAX(seq) AS seq FROM event"))?.seq ?? 0;
}

/** Events after `after`, for everybody; `hears` then picks what one person may know. */
export async function eventsAfter(sql: Sql, after: number): Promise<readonly Row[]> {
	return sql.all<Row>(
		`SELECT e.seq, e.at, e.actor, p.name AS "by", e.action, e.subject_kind AS kind, e.subject_id AS subject,
			COALESCE(m.name, l.name, j.name) AS name,
			CASE e.subject_kind WHEN 'material' THEN COALESCE(m.library_id, 'project:' || m.project_id)
				WHEN 'library' THEN l.id WHEN 'project' THEN 'project:' || j.id END AS place,
			e.subject_kind <> 'material' OR EXISTS (SELECT 1 FROM revision r WHERE r.material_id = m.id) AS published,
			json_extract(e.changeset, '$.revision') AS revision
		 FROM event e JOIN person p ON p.id = e.actor
		 LEFT JOIN material m ON e.subject_kind = 'material' AND m.id = e.subject_id
		 LEFT JOIN library l ON e.subject_kind = 'library' AND l.id = e.subject_id
		 LEFT JOIN project j ON e.subject_kind = 'project' AND j.id = e.subject_id
		 WHERE e.seq > $after ORDER BY e.seq LIMIT ${MOST + 1}`,
		{ after },
	);
}

/** A material never published is its author's alone, and so is what happens to it. */
export function hears(ears: Ears, row: Row): boolean {
	if (row.actor === ears.person) return true;
	if (row.place === null) return ears.admin || row.subject === ears.person;
	return ears.places.has(row.place) && row.published === 1;
}

export function toEvent(sql: Context["db"], row: Row): LiveEvent {
	return {
		seq: row.seq,
		at: row.at,
		by: { id: row.actor, name: row.by },
		action: row.action,
		kind: row.kind,
		subject: row.subject,
		name: row.name ?? "",
		place: row.place,
		revision: typeof row.revision === "number" ? row.revision : null,
		tab: tabOf(sql, row.seq),
	};
}

/** What a page that cannot hold a stream open asks for every few seconds, and what a stream begins with. */
export async function readNews(ctx: Context, input: { after: string }): Promise<Result<News>> {
	const after = Number(input.after);
	const seq = await newestSeq(ctx.db);
	// a page from before a restore has seen events that no longer are
	if (after > seq) return ok({ seq, events: [], missed: true });
	const rows = await eventsAfter(ctx.db, after);
	if (rows.length > MOST) return ok({ seq, events: [], missed: true });
	const ears = await earsOf(ctx);
	return ok({ seq, events: rows.filter((r) => hears(ears, r)).map((r) => toEvent(ctx.db, r)), missed: false });
}
