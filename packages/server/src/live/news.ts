import type { LiveEvent, News } from "@alvek/contract";
import { eventRow } from "@alvek/core/event";
import { ok, type Result } from "@alvek/core/result";
import { may, type Resource } from "@alvek/core/rights";
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

/** What a person may see of what happens: places by id, `project:` before projects. */
export type Visibility = {
	readonly person: string;
	readonly admin: boolean;
	readonly readable: ReadonlySet<string>;
	readonly editable: ReadonlySet<string>;
};

/** As rights are now: a stream that was opened by an administrator is no administrator's when they no longer are one. */
export async function visibilityOf(ctx: Context): Promise<Visibility> {
	const row = await ctx.db.one<{ admin: number }>("SELECT admin FROM person WHERE id = $person AND left_at IS NULL", {
		person: ctx.actor.person,
	});
	const { person } = ctx.actor;
	if (row === null) return { person, admin: false, readable: new Set(), editable: new Set() };
	const now: Context = { ...ctx, actor: { ...ctx.actor, admin: row.admin === 1 } };
	const [libraries, projects] = await Promise.all([readableLibraries(now, now.db), readableProjects(now, now.db)]);
	const mayEdit = (resource: Resource): boolean =>
		may(now.actor, resource.kind === "library" ? "library.edit" : "project.edit", resource) === null;
	const places = [
		...libraries.map((l) => ({
			id: l.id,
			edit: mayEdit({ kind: "library", supplied: l.kind === "supplied", role: l.role }),
		})),
		...projects.map((p) => ({ id: `project:${p.id}`, edit: mayEdit({ kind: "project", role: p.role }) })),
	];
	return {
		person,
		admin: now.actor.admin,
		readable: new Set(places.map((p) => p.id)),
		editable: new Set(places.filter((p) => p.edit).map((p) => p.id)),
	};
}

export async function newestSeq(sql: Sql): Promise<number> {
	return (await sql.one<{ seq: number | null }>("SELECT MAX(seq) AS seq FROM event"))?.seq ?? 0;
}

/** Events after `after`, for everybody; `canSee` then picks what one person may know. */
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

/** A material never published is its author's alone, and so is what happens to it; drafts are heard of by who may edit. */
export function canSee(viewer: Visibility, row: Pick<Row, "action" | "actor" | "subject" | "place" | "published">): boolean {
	const mine = row.actor === viewer.person;
	const heard = eventRow(row.action)?.heard ?? "self";
	if (row.place === null) return mine || (heard !== "self" && (viewer.admin || row.subject === viewer.person));
	if (!viewer.readable.has(row.place)) return false;
	if (mine) return true;
	if (heard === "self" || row.published !== 1) return false;
	return heard === "readers" || viewer.editable.has(row.place);
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
	const viewer = await visibilityOf(ctx);
	return ok({ seq, events: rows.filter((r) => canSee(viewer, r)).map((r) => toEvent(ctx.db, r)), missed: false });
}
