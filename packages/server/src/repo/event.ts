import { type EventAction, QUIET_ACTIONS, type SubjectKind } from "@alvek/core/event";
import type { Bind, Context, Db, Sql } from "../db";
import type { Inverse } from "./inverse";

export type EventInput = {
	/** A step of the catalogue, or that one taken back. */
	readonly action: EventAction | `undo ${string}`;
	readonly kind: SubjectKind;
	readonly subject: string;
	/** What changed, for history. */
	readonly changeset: unknown;
	/** How to take it back; null when it cannot be. */
	readonly inverse: Inverse | null;
};

/** Appends to the event log, in the transaction of the change itself; its number. */
export async function recordEvent(ctx: Context, sql: Sql, event: EventInput): Promise<number> {
	// begins with WITH, so that it is read as a question, with an answer, on both engines
	const row = await sql.one<{ seq: number }>(
		`WITH one AS (SELECT 1) INSERT INTO event (at, actor, action, subject_kind, subject_id, changeset, inverse)
		 VALUES ($at, $actor, $action, $kind, $subject, $changeset, $inverse) RETURNING seq`,
		{
			at: ctx.now(),
			actor: ctx.actor.person,
			action: event.action,
			kind: event.kind,
			subject: event.subject,
			changeset: JSON.stringify(event.changeset),
			inverse: event.inverse === null ? null : JSON.stringify(event.inverse),
		},
	);
	const seq = row?.seq ?? 0;
	ctx.steps?.add(event.action);
	if (ctx.tab !== undefined) rememberTab(ctx.db, seq, ctx.tab);
	return seq;
}

/** Many steps of one kind at once, none of which can be taken back; what each one changed goes by its subject. */
export async function recordEvents(
	ctx: Context,
	sql: Sql,
	{ action, kind }: { readonly action: EventAction; readonly kind: SubjectKind },
	changes: ReadonlyMap<string, unknown>,
): Promise<void> {
	const rows = [...changes].map(([subject, changeset]) => ({ subject, changeset: JSON.stringify(changeset) }));
	const made = await sql.all<{ seq: number }>(
		`WITH one AS (SELECT 1) INSERT INTO event (at, actor, action, subject_kind, subject_id, changeset)
		 SELECT ${sql.dialect.typed("at", "text")}, $actor, $action, $kind, j.subject, j.changeset
		 FROM ${sql.dialect.rows("rows", "j", { subject: "text", changeset: "text" })} WHERE true RETURNING seq`,
		{ rows: JSON.stringify(rows), at: ctx.now(), actor: ctx.actor.person, action, kind },
	);
	if (made.length > 0) ctx.steps?.add(action);
	if (ctx.tab !== undefined) for (const { seq } of made) rememberTab(ctx.db, seq, ctx.tab);
}

/** Which page asked for the latest events. Of use for seconds only, so it is not stored. */
const tabs = new WeakMap<Db, Map<number, string>>();
const TABS_KEPT = 1000;

function rememberTab(db: Db, seq: number, tab: string): void {
	const known = tabs.get(db) ?? new Map<number, string>();
	tabs.set(db, known.set(seq, tab));
	const [oldest] = known.keys();
	if (known.size > TABS_KEPT && oldest !== undefined) known.delete(oldest);
}

export const tabOf = (db: Db, seq: number): string | null => tabs.get(db)?.get(seq) ?? null;

export async function newestSeq(sql: Sql): Promise<number> {
	return (await sql.one<{ seq: number | null }>("SELECT MAX(seq) AS seq FROM event"))?.seq ?? 0;
}

/**
 * The number of the event that the writing transaction is about to record. Every transaction that writes a draft records
 * one, so a draft's version never repeats, also not after it was thrown away and begun again.
 */
export const nextVersion = async (sql: Sql): Promise<number> => (await newestSeq(sql)) + 1;

export type StoredEvent = {
	readonly seq: number;
	readonly actor: string;
	readonly action: string;
	readonly subject_kind: SubjectKind;
	readonly subject_id: string;
	readonly inverse: string | null;
	readonly undone_by: number | null;
};

export function eventBySeq(sql: Sql, seq: number): Promise<StoredEvent | null> {
	return sql.one<StoredEvent>(
		"SELECT seq, actor, action, subject_kind, subject_id, inverse, undone_by FROM event WHERE seq = $seq",
		{ seq },
	);
}

export const markUndone = (sql: Sql, seq: number, by: number): Promise<void> => sql.update("event", { seq }, { undone_by: by });

export type NewsRow = {
	readonly seq: number;
	readonly at: string;
	readonly actor: string;
	readonly by: string;
	readonly action: string;
	readonly kind: SubjectKind;
	readonly subject: string;
	readonly name: string | null;
	readonly place: string | null;
	/** 0: a material that nobody has published yet. */
	readonly published: number;
	readonly revision: number | null;
};

/** Names of what events are about, whatever kind it is. */
const SUBJECTS = `LEFT JOIN material m ON e.subject_kind = 'material' AND m.id = e.subject_id
	LEFT JOIN library l ON e.subject_kind = 'library' AND l.id = e.subject_id
	LEFT JOIN project j ON e.subject_kind = 'project' AND j.id = e.subject_id`;

/** Events after `after`, for everybody, the oldest first. */
export function eventsAfter(sql: Sql, after: number, most: number): Promise<NewsRow[]> {
	return sql.all<NewsRow>(
		`SELECT e.seq, e.at, e.actor, p.name AS "by", e.action, e.subject_kind AS kind, e.subject_id AS subject,
		 COALESCE(m.name, l.name, j.name) AS name,
		 CASE e.subject_kind WHEN 'material' THEN COALESCE(m.library_id, 'project:' || m.project_id)
		  WHEN 'library' THEN l.id WHEN 'project' THEN 'project:' || j.id END AS place,
		 CASE WHEN e.subject_kind <> 'material' OR EXISTS (SELECT 1 FROM revision r WHERE r.material_id = m.id) THEN 1 ELSE 0 END AS published,
		 CASE WHEN e.action = 'material.publish' THEN ${sql.dialect.number("e.changeset", "revision")} END AS revision
		 FROM event e JOIN person p ON p.id = e.actor ${SUBJECTS}
		 WHERE e.seq > $after ORDER BY e.seq LIMIT $most`,
		{ after, most },
	);
}

export type HistoryEvent = {
	readonly seq: number;
	readonly at: string;
	readonly by: string;
	readonly action: string;
	readonly subject_kind: string;
	readonly subject_id: string;
	readonly subject: string;
	readonly changeset: string;
	readonly undone_by: number | null;
	/** 1: the asker's own, with a way back that nobody has gone. */
	readonly may_undo: number;
};

const MAY_UNDO = "CASE WHEN e.actor = $me AND e.inverse IS NOT NULL AND e.undone_by IS NULL THEN 1 ELSE 0 END AS may_undo";

/** A person's latest steps that can be taken back, with the place of each; steps back themselves are not among them. */
export function stepsOf(
	sql: Sql,
	person: string,
	since: string,
	most: number,
): Promise<(HistoryEvent & { readonly place: string | null })[]> {
	return sql.all(
		`SELECT e.seq, e.at, p.name AS "by", e.action, e.subject_kind, e.subject_id, COALESCE(m.name, l.name, j.name, '') AS subject, e.changeset,
		 COALESCE(m.library_id, 'project:' || m.project_id, CASE WHEN l.archived = 0 THEN l.id END,
		  CASE WHEN j.removed_at IS NULL THEN 'project:' || j.id END) AS place, e.undone_by, ${MAY_UNDO}
		 FROM event e JOIN person p ON p.id = e.actor ${SUBJECTS}
		 WHERE e.actor = $me AND e.at > $since AND e.inverse IS NOT NULL AND e.undone_by IS NULL AND e.action NOT LIKE 'undo %'
		 ORDER BY e.seq DESC LIMIT $most`,
		{ me: person, since, most },
	);
}

export type HistoryFilter = {
	readonly by?: string | undefined;
	/** Times, UTC ISO: at or after, and before. */
	readonly from?: string | undefined;
	readonly until?: string | undefined;
	readonly text?: string | undefined;
	/** Steps by name; a step taken back counts with the step. */
	readonly actions?: readonly string[] | undefined;
};

/**
 * What happened to a material that was never published is its authors' alone: those who have a draft of it, and whoever
 * did the step. `m` is the material of the event.
 */
const SEEN = `(e.subject_kind <> 'material' OR e.actor = $me OR EXISTS (SELECT 1 FROM revision r WHERE r.material_id = e.subject_id)
 OR EXISTS (SELECT 1 FROM draft f WHERE f.material_id = e.subject_id AND f.person_id = $me))`;

/** What happened to a material, a library with its materials, or a project, as one person may know it; the newest first. */
export function historyOf(
	sql: Sql,
	subject: { readonly kind: string; readonly id: string; readonly viewer: string },
	filter: HistoryFilter,
	page: { readonly before: number; readonly most: number },
): Promise<HistoryEvent[]> {
	const { dialect } = sql;
	// each side by its own index: with OR the whole log would be read
	const mine =
		subject.kind === "library"
			? `SELECT seq FROM event WHERE subject_kind = 'library' AND subject_id = $id
			   UNION ALL SELECT v.seq FROM material x JOIN event v ON v.subject_kind = 'material' AND v.subject_id = x.id WHERE x.library_id = $id`
			: "SELECT seq FROM event WHERE subject_kind = $kind AND subject_id = $id";
	const bind: Record<string, string | number> = {
		id: subject.id,
		quiet: JSON.stringify(QUIET_ACTIONS),
		before: page.before,
		most: page.most,
		me: subject.viewer,
	};
	if (subject.kind !== "library") bind.kind = subject.kind;
	const where = ["e.seq < $before", `e.action NOT IN ${dialect.list("quiet")}`, SEEN];
	const narrow = (condition: string, name: string, value: string | undefined): void => {
		if (value === undefined || value === "") return;
		where.push(condition);
		bind[name] = value;
	};
	narrow("e.actor = $by", "by", filter.by);
	narrow("e.at >= $from", "from", filter.from);
	narrow("e.at < $until", "until", filter.until);
	narrow(
		"(lower(m.name) LIKE '%' || lower($text) || '%' OR lower(e.changeset) LIKE '%' || lower($text) || '%')",
		"text",
		filter.text,
	);
	narrow(
		`replace(e.action, 'undo ', '') IN ${dialect.list("what")}`,
		"what",
		filter.actions === undefined ? undefined : JSON.stringify(filter.actions),
	);
	return sql.all<HistoryEvent>(
		`SELECT e.seq, e.at, p.name AS "by", e.action, e.subject_kind, e.subject_id, COALESCE(m.name, '') AS subject, e.changeset, e.undone_by,
		 ${MAY_UNDO}
		 FROM event e JOIN person p ON p.id = e.actor LEFT JOIN material m ON e.subject_kind = 'material' AND m.id = e.subject_id
		 WHERE e.seq IN (${mine}) AND ${where.join(" AND ")} ORDER BY e.seq DESC LIMIT $most`,
		bind as Bind,
	);
}

/** Names by id: of parts, and of revisions with their materials. */
export async function namesOfPartsAndRevisions(sql: Sql, ids: readonly string[]): Promise<ReadonlyMap<string, string>> {
	const list = sql.dialect.list("ids");
	const found = await sql.all<{ id: string; name: string }>(
		`SELECT id, name FROM part WHERE id IN ${list}
		 UNION ALL SELECT r.id, m.name || ' rev ' || r.no FROM revision r JOIN material m ON m.id = r.material_id WHERE r.id IN ${list}`,
		{ ids: JSON.stringify(ids) },
	);
	return new Map(found.map((f) => [f.id, f.name]));
}
