import type { Facts } from "@alvek/core/table";
import type { Sql } from "../db";
import { type MaterialRecord, PLACE } from "./material";

/** What the index keeps of a material: its row, and the facts of its head when they are of today's version. */
export type FactsRecord = Pick<
	MaterialRecord,
	| "id"
	| "name"
	| "library_id"
	| "group_id"
	| "retired"
	| "item_code"
	| "shop_name"
	| "known_as"
	| "review_at"
	| "offered_for"
	| "changed_at"
> & { readonly revision_id: string; readonly facts: Buffer | null };

const SELECT_FACTS = `SELECT m.id, m.name, ${PLACE}, m.retired, m.group_id, m.item_code, m.shop_name, m.known_as, m.review_at, m.offered_for, m.changed_at,
 r.id AS revision_id, f.bytes AS facts
 FROM material m JOIN revision r ON r.material_id = m.id AND r.no = (SELECT MAX(no) FROM revision WHERE material_id = m.id)
 LEFT JOIN facts f ON f.revision_id = r.id AND f.version = $version WHERE m.removed_at IS NULL`;

/** Published materials in pages by id; `after` is the last one's. */
export function factsPage(sql: Sql, version: number, after: string, most: number): Promise<FactsRecord[]> {
	return sql.all<FactsRecord>(`${SELECT_FACTS} AND m.id > $after ORDER BY m.id LIMIT $most`, { version, after, most });
}

/** The same of these materials; unpublished and removed ones are left out. */
export function factsByIds(sql: Sql, version: number, ids: readonly string[]): Promise<FactsRecord[]> {
	return sql.all<FactsRecord>(`${SELECT_FACTS} AND m.id IN ${sql.dialect.list("ids")}`, { version, ids: JSON.stringify(ids) });
}

/** Keeps facts beside their revisions, where those are still there; what they say of readiness apart, because only pages of rows read it. */
export async function storeFacts(sql: Sql, version: number, facts: ReadonlyMap<string, Facts>): Promise<void> {
	const rows = [...facts].map(([revision, { readiness, ...rest }]) => ({
		revision,
		bytes: JSON.stringify(rest),
		readiness: JSON.stringify(readiness),
	}));
	await sql.run(
		`INSERT INTO facts (revision_id, version, bytes, readiness)
		 SELECT j.revision, ${sql.dialect.typed("version", "integer")}, ${sql.dialect.utf8("j.bytes")}, j.readiness
		 FROM ${sql.dialect.rows("rows", "j", { revision: "text", bytes: "text", readiness: "text" })}
		 WHERE EXISTS (SELECT 1 FROM revision r WHERE r.id = j.revision)
		 ON CONFLICT (revision_id) DO UPDATE SET version = excluded.version, bytes = excluded.bytes, readiness = excluded.readiness`,
		{ version, rows: JSON.stringify(rows) },
	);
}

export const countFacts = (sql: Sql): Promise<number> => sql.count("facts", {});

/** Takes all that is derived away, so that it is made anew. */
export async function removeDerived(sql: Sql): Promise<void> {
	await sql.run("DELETE FROM facts");
	// the index that a start stands on is derived too
	await sql.run("DELETE FROM index_image");
}

export const countMaterials = (sql: Sql): Promise<number> => sql.count("material", { removed_at: null });

/** Which image of the index belongs to these data, and up to which note it knows of changes. */
export type ImageRecord = { readonly stamp: string; readonly seq: number; readonly version: number };

export const imageRecord = (sql: Sql): Promise<ImageRecord | null> => sql.find("index_image", { id: 1 });

/** An image stands for all notes up to its number, which are taken away. */
export async function putImage(sql: Sql, image: ImageRecord): Promise<void> {
	await sql.run(
		`INSERT INTO index_image (id, stamp, seq, version) VALUES (1, $stamp, $seq, $version)
		 ON CONFLICT (id) DO UPDATE SET stamp = excluded.stamp, seq = excluded.seq, version = excluded.version`,
		image,
	);
	await sql.run("DELETE FROM index_mark WHERE seq <= $seq", { seq: image.seq });
}

/** The number of the newest note of a change. Numbers go on when notes are taken away. */
export async function newestMark(sql: Sql): Promise<number> {
	const row = await sql.one<{ seq: number }>(
		"SELECT COALESCE((SELECT MAX(seq) FROM index_mark), (SELECT MAX(seq) FROM index_image), 0) AS seq",
	);
	return row?.seq ?? 0;
}

/** Materials that changed after a note, and the last note of them; the note itself where nothing changed. */
export async function markedSince(sql: Sql, seq: number): Promise<{ readonly ids: readonly string[]; readonly newest: number }> {
	const rows = await sql.all<{ id: string; last: number }>(
		"SELECT material_id AS id, MAX(seq) AS last FROM index_mark WHERE seq > $seq GROUP BY material_id",
		{ seq },
	);
	return { ids: rows.map((m) => m.id), newest: rows.reduce((newest, m) => Math.max(newest, m.last), seq) };
}
