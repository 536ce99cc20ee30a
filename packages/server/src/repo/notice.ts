import type { Sql } from "../db";

export type NoticeState = { readonly seen_seq: number; readonly seen_day: string; readonly off: string };

export function noticeState(sql: Sql, person: string): Promise<NoticeState | null> {
	return sql.find("notice_state", { person_id: person });
}

export async function putNoticeState(sql: Sql, person: string, state: NoticeState): Promise<void> {
	await sql.run(
		`INSERT INTO notice_state (person_id, seen_seq, seen_day, off) VALUES ($person, $seq, $day, $off)
		 ON CONFLICT (person_id) DO UPDATE SET seen_seq = excluded.seen_seq, seen_day = excluded.seen_day, off = excluded.off`,
		{ person, seq: state.seen_seq, day: state.seen_day, off: state.off },
	);
}

/** Materials that parts of a person's projects stand on, or that they starred. */
const USED = `SELECT r.material_id FROM assignment s JOIN revision r ON r.id = s.revision_id
 WHERE s.project_id IN (SELECT target FROM reach WHERE person_id = $person AND kind = 'project' AND role IN ('editor', 'owner'))
 UNION SELECT t.material_id FROM star t WHERE t.person_id = $person`;

/** Whose notices, from when on, and where they may read now: what happened elsewhere, also before, is told no more. */
export type Asked = {
	readonly person: string;
	readonly since: string;
	readonly places: readonly string[];
	readonly most: number;
};

const bound = ({ person, since, places, most }: Asked) => ({ person, since, places: JSON.stringify(places), most });

/** What others did, by these steps, to materials that a person uses. A first revision is news to nobody. */
export function stepsOnUsed(sql: Sql, asked: Asked, actions: readonly string[]) {
	const { dialect } = sql;
	return sql.all<{
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
		`SELECT e.seq, e.at, p.name AS "by", e.action, m.id, m.name, ${dialect.number("e.changeset", "revision")} AS revision,
		 ${dialect.field("e.changeset", "into")} AS "into", ${dialect.field("e.changeset", "note")} AS note
		 FROM event e JOIN person p ON p.id = e.actor JOIN material m ON m.id = e.subject_id
		 WHERE e.action IN ${dialect.list("told")} AND e.at > $since AND e.actor <> $person
		 AND e.undone_by IS NULL AND COALESCE(${dialect.number("e.changeset", "revision")}, 2) > 1 AND e.subject_id IN (${USED})
		 AND COALESCE(m.library_id, 'project:' || m.project_id) IN ${dialect.list("places")} ORDER BY e.seq DESC LIMIT $most`,
		{ ...bound(asked), told: JSON.stringify(actions) },
	);
}

/** Proposals of others, with how many materials each is about and the number of the event that asked. */
export function proposalsOfOthers(sql: Sql, person: string, most: number) {
	return sql.all<{ id: string; place: string; at: string; by: string; note: string; n: number; seq: number | null }>(
		`SELECT b.id, b.place, b.at, p.name AS "by", b.note, (SELECT COUNT(*) FROM publish_item i WHERE i.publish_id = b.id) AS n,
		 (SELECT MAX(e.seq) FROM event e WHERE e.action = 'publish.propose' AND ${sql.dialect.field("e.changeset", "publish")} = b.id) AS seq
		 FROM publish b JOIN person p ON p.id = b.actor WHERE b.state = 'proposed' AND b.actor <> $person ORDER BY b.at DESC LIMIT $most`,
		{ person, most },
	);
}

/** What a person proposed and others sent back. */
export function declinedOf(sql: Sql, asked: Asked) {
	const { dialect } = sql;
	return sql.all<{ seq: number; at: string; by: string; library: string; name: string; note: string | null }>(
		`SELECT e.seq, e.at, p.name AS "by", l.id AS library, l.name, ${dialect.field("e.changeset", "note")} AS note
		 FROM event e JOIN person p ON p.id = e.actor JOIN library l ON l.id = e.subject_id
		 WHERE e.action = 'publish.decline' AND e.at > $since AND ${dialect.field("e.changeset", "of")} = $person
		 AND l.id IN ${dialect.list("places")} ORDER BY e.seq DESC LIMIT $most`,
		bound(asked),
	);
}

/** Materials that a person answers for, whose review date lies before a day. */
export function reviewsPassed(sql: Sql, asked: Omit<Asked, "since">, day: string) {
	return sql.all<{ id: string; name: string; review: string }>(
		`SELECT id, name, review_at AS review FROM material WHERE owner = $person AND review_at < $day AND removed_at IS NULL AND retired = 0
		 AND COALESCE(library_id, 'project:' || project_id) IN ${sql.dialect.list("places")}
		 ORDER BY review_at DESC LIMIT $most`,
		{ person: asked.person, places: JSON.stringify(asked.places), most: asked.most, day },
	);
}
