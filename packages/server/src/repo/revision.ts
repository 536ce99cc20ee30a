import type { Material } from "@alvek/core/material";
import type { Context, Row, Sql } from "../db";
import { storeDocument } from "./document";
import { type CopiedRow, touch } from "./material";

export type RevisionRecord = {
	readonly id: string;
	readonly no: number;
	readonly note: string;
	readonly at: string;
	readonly actor: string;
	readonly approvedBy: string | null;
	readonly hash: string;
};

/** Revisions of a material, the newest first. */
export function revisionsOf(sql: Sql, material: string): Promise<RevisionRecord[]> {
	return sql.all<RevisionRecord>(
		`SELECT r.id, r.no, p.note, p.at, w.name AS actor, a.name AS "approvedBy", r.document_hash AS hash FROM revision r
		 JOIN publish p ON p.id = r.publish_id JOIN person w ON w.id = p.actor LEFT JOIN person a ON a.id = p.approved_by
		 WHERE r.material_id = $material ORDER BY r.no DESC`,
		{ material },
	);
}

type Stored = {
	readonly id: string;
	readonly material: string;
	readonly no: number;
	readonly bytes: Buffer;
	readonly hash: string;
};

const SELECT_STORED =
	"SELECT r.id, r.material_id AS material, r.no, d.bytes, d.hash FROM revision r JOIN document d ON d.hash = r.document_hash";

export const revisionById = (sql: Sql, id: string): Promise<Stored | null> =>
	sql.one<Stored>(`${SELECT_STORED} WHERE r.id = $id`, { id });

export const revisionNo = (sql: Sql, material: string, no: number): Promise<Stored | null> =>
	sql.one<Stored>(`${SELECT_STORED} WHERE r.material_id = $material AND r.no = $no`, { material, no });

/** Revisions with the material of each: its name, and the place where it lives. */
export async function originsOf(
	sql: Sql,
	revisions: readonly string[],
): Promise<ReadonlyMap<string, { readonly name: string; readonly place: string; readonly bytes: Buffer }>> {
	const rows = await sql.all<{ id: string; name: string; place: string; bytes: Buffer }>(
		`SELECT r.id, m.name, COALESCE(m.library_id, 'project:' || m.project_id) AS place, d.bytes FROM revision r
		 JOIN material m ON m.id = r.material_id JOIN document d ON d.hash = r.document_hash WHERE r.id IN ${sql.dialect.list("ids")}`,
		{ ids: JSON.stringify(revisions) },
	);
	return new Map(rows.map((r) => [r.id, r]));
}

/** The newest revision's id; null when nothing is published. */
export async function headOf(sql: Sql, material: string): Promise<string | null> {
	const row = await sql.one<{ id: string }>("SELECT id FROM revision WHERE material_id = $material ORDER BY no DESC LIMIT 1", {
		material,
	});
	return row?.id ?? null;
}

/** Of the material that a revision belongs to, the one of this number, with the place where it lives. */
export function siblingOf(sql: Sql, revision: string | null, no: number): Promise<{ id: string; place: string } | null> {
	return sql.one(
		`SELECT n.id, COALESCE(m.library_id, 'project:' || m.project_id) AS place FROM revision o JOIN revision n ON n.material_id = o.material_id
		 JOIN material m ON m.id = o.material_id WHERE o.id = $revision AND n.no = $no`,
		{ revision, no },
	);
}

/** Opens a publish in a place; revisions are added to it as its items. */
export async function openPublish(
	ctx: Context,
	sql: Sql,
	publish: { readonly place: string; readonly note: string; readonly state?: Row<"publish">["state"] },
): Promise<string> {
	const id = ctx.newId();
	const { place, note, state = "done" } = publish;
	await sql.insert("publish", { id, place, actor: ctx.actor.person, note: note.trim(), at: ctx.now(), state });
	return id;
}

/** The document becomes the next revision of the material, as an item of a publish. */
export async function insertRevision(
	ctx: Context,
	sql: Sql,
	input: { material: string; publish: string; document: Material },
): Promise<{ id: string; no: number }> {
	const hash = await storeDocument(sql, input.document);
	const last = await sql.one<{ no: number | null }>("SELECT MAX(no) AS no FROM revision WHERE material_id = $id", {
		id: input.material,
	});
	const no = (last?.no ?? 0) + 1;
	const id = ctx.newId();
	await sql.insert("revision", { id, material_id: input.material, no, publish_id: input.publish, document_hash: hash });
	await sql.insert("publish_item", { publish_id: input.publish, material_id: input.material, revision_id: id });
	await touch(ctx, sql, input.material);
	return { id, no };
}

export type NextRevision = {
	readonly id: string;
	readonly material: string;
	readonly no: number;
	readonly publish: string;
	readonly hash: string;
};

/** Many revisions at once, whose documents are stored already. */
export async function insertRevisions(ctx: Context, sql: Sql, rows: readonly NextRevision[]): Promise<void> {
	const bind = { rows: JSON.stringify(rows) };
	const from = sql.dialect.rows("rows", "j", {
		id: "text",
		material: "text",
		no: "integer",
		publish: "text",
		hash: "text",
	});
	await sql.run(
		`INSERT INTO revision (id, material_id, no, publish_id, document_hash) SELECT j.id, j.material, j.no, j.publish, j.hash FROM ${from}`,
		bind,
	);
	await sql.run(
		`INSERT INTO publish_item (publish_id, material_id, revision_id) SELECT j.publish, j.material, j.id FROM ${from}`,
		bind,
	);
	await sql.run(`UPDATE material SET changed_at = $at WHERE id IN (SELECT j.material FROM ${from})`, { ...bind, at: ctx.now() });
}

/** First revisions of copies: their documents, and what is known of them, are those of their origins. */
export async function insertCopiedRevisions(sql: Sql, publish: string, copies: readonly CopiedRow[]): Promise<void> {
	const from = sql.dialect.rows("rows", "j", { id: "text", revision: "text", origin: "text" });
	const bind = { rows: JSON.stringify(copies), publish };
	const into = sql.dialect.typed("publish", "text");
	await sql.run(
		`INSERT INTO revision (id, material_id, no, publish_id, document_hash)
		 SELECT j.revision, j.id, 1, ${into}, r.document_hash FROM ${from} JOIN revision r ON r.id = j.origin`,
		bind,
	);
	await sql.run(
		`INSERT INTO publish_item (publish_id, material_id, revision_id) SELECT ${into}, j.id, j.revision FROM ${from}`,
		bind,
	);
	await sql.run(
		`INSERT INTO facts (revision_id, version, bytes, readiness)
		 SELECT j.revision, f.version, f.bytes, f.readiness FROM ${from} JOIN facts f ON f.revision_id = j.origin`,
		{ rows: bind.rows },
	);
}
