import { type Material, nameKey } from "@alvek/core/material";
import { type Context, type Row, type Some, type Sql, sameOrNull } from "../db";
import { parseDocument } from "./document";
import type { Values } from "./inverse";
import { ownerOf } from "./place";

/** A material's row with its head: the newest published revision. */
export type MaterialRecord = {
	readonly id: string;
	readonly uid: string;
	/** Where it lives: a library's id, or `project:` and a project's id. */
	readonly library_id: string;
	readonly project_id: string | null;
	readonly library: string;
	readonly kind: "own" | "supplied" | "project";
	readonly retired: number;
	readonly successor_id: string | null;
	readonly successor: string | null;
	readonly group_id: string | null;
	readonly name: string;
	readonly item_code: string;
	readonly shop_name: string;
	/** Name links as JSON. */
	readonly known_as: string;
	readonly review_at: string | null;
	readonly offered_for: string;
	readonly changed_at: string;
	readonly removed_at: string | null;
	readonly origin_kind: string | null;
	readonly origin_revision_id: string | null;
	readonly revision_id: string | null;
	readonly revision_no: number | null;
	readonly bytes: Buffer | null;
};

/** The place of a material as one word: a library's id, or `project:` and a project's id. */
export const PLACE = "COALESCE(m.library_id, 'project:' || m.project_id) AS library_id";

const COLUMNS = `m.id, m.uid, ${PLACE}, m.project_id, COALESCE(l.name, j.name) AS library, COALESCE(l.kind, 'project') AS kind,
 m.retired, m.successor_id, n.name AS successor, m.group_id, m.name, m.item_code, m.shop_name, m.known_as, m.review_at, m.offered_for, m.changed_at, m.removed_at,
 m.origin_kind, m.origin_revision_id, r.id AS revision_id, r.no AS revision_no, d.bytes`;

const WITH_HEAD = `FROM material m LEFT JOIN library l ON l.id = m.library_id LEFT JOIN project j ON j.id = m.project_id
 LEFT JOIN material n ON n.id = m.successor_id
 LEFT JOIN revision r ON r.material_id = m.id AND r.no = (SELECT MAX(no) FROM revision WHERE material_id = m.id)
 LEFT JOIN document d ON d.hash = r.document_hash`;

export function materialById(sql: Sql, id: string): Promise<MaterialRecord | null> {
	return sql.one<MaterialRecord>(`SELECT ${COLUMNS} ${WITH_HEAD} WHERE m.id = $id`, { id });
}

/** Materials by id, removed ones too; unknown ones are left out. */
export async function materialsById(sql: Sql, ids: readonly string[]): Promise<ReadonlyMap<string, MaterialRecord>> {
	const rows = await sql.all<MaterialRecord>(`SELECT ${COLUMNS} ${WITH_HEAD} WHERE m.id IN ${sql.dialect.list("ids")}`, {
		ids: JSON.stringify(ids),
	});
	return new Map(rows.map((r) => [r.id, r]));
}

/** The newest published document; null when nothing is published. */
export const headDocument = (material: Pick<MaterialRecord, "bytes">): Material | null =>
	material.bytes === null ? null : parseDocument(material.bytes);

/** A record with the facts of its head and the asker's star. */
export type ListedRecord = MaterialRecord & {
	readonly readiness: string | null;
	readonly star: number | null;
	readonly working: number;
};

/** Materials by id as a list shows them, in no order; unknown and removed ones are left out. */
export function listedMaterials(sql: Sql, ids: readonly string[], person: string): Promise<ListedRecord[]> {
	return sql.all<ListedRecord>(
		`SELECT ${COLUMNS}, f.readiness, s.ord AS star, CASE WHEN w.material_id IS NULL THEN 0 ELSE 1 END AS working ${WITH_HEAD}
		 LEFT JOIN facts f ON f.revision_id = r.id LEFT JOIN star s ON s.material_id = m.id AND s.person_id = $person
		 LEFT JOIN working_list w ON w.material_id = m.id
		 WHERE m.removed_at IS NULL AND m.id IN ${sql.dialect.list("ids")}`,
		{ ids: JSON.stringify(ids), person },
	);
}

export type NewMaterial = {
	readonly id: string;
	/** A library's id, or `project:` and a project's id. */
	readonly place: string;
	readonly group: string | null;
	readonly name: string;
	readonly originKind: Row<"material">["origin_kind"];
	readonly originRevision: string | null;
	readonly uid?: string;
	readonly itemCode?: string;
	readonly shopName?: string;
};

export async function insertMaterial(ctx: Context, sql: Sql, material: NewMaterial): Promise<void> {
	const { library, project } = ownerOf(material.place);
	await sql.insert("material", {
		id: material.id,
		uid: material.uid ?? ctx.newId(),
		library_id: library,
		project_id: project,
		group_id: material.group,
		name: material.name,
		name_key: nameKey(material.name),
		item_code: material.itemCode ?? "",
		shop_name: material.shopName ?? "",
		owner: ctx.actor.person,
		origin_kind: material.originKind,
		origin_revision_id: material.originRevision,
		changed_at: ctx.now(),
	});
}

export type CopiedRow = {
	readonly id: string;
	readonly uid: string;
	readonly revision: string;
	readonly name: string;
	readonly key: string;
	readonly group: string | null;
	readonly code: string;
	/** The revision that it is a copy of. */
	readonly origin: string;
};

/** Many copies at once. A code that is taken in the library, or by one before it, is left blank: codes are unique there. */
export async function insertCopies(ctx: Context, sql: Sql, library: string, copies: readonly CopiedRow[]): Promise<void> {
	const { typed } = sql.dialect;
	const first = new Map(copies.map((c) => [c.code, c.id] as const).reverse());
	const rows = copies.map((c) => (first.get(c.code) === c.id ? c : { ...c, code: "" }));
	await sql.run(
		`INSERT INTO material (id, uid, library_id, group_id, name, name_key, item_code, owner, origin_kind, origin_revision_id, changed_at)
		 SELECT j.id, j.uid, ${typed("library", "text")}, j."group", j.name, j.key,
		 CASE WHEN EXISTS (SELECT 1 FROM material x WHERE x.library_id = $library AND x.removed_at IS NULL AND x.item_code = j.code)
		  THEN '' ELSE j.code END, ${typed("owner", "text")}, 'copy', j.origin, ${typed("at", "text")}
		 FROM ${sql.dialect.rows("rows", "j", { id: "text", uid: "text", group: "text", name: "text", key: "text", code: "text", origin: "text" })}`,
		{ rows: JSON.stringify(rows), library, owner: ctx.actor.person, at: ctx.now() },
	);
}

/** A row as it is, with every column. */
export const materialRow = (sql: Sql, id: string): Promise<Row<"material"> | null> => sql.find("material", { id });

/** Sets columns of a row, and says that it changed. */
export async function changeMaterialRow(ctx: Context, sql: Sql, id: string, set: Values): Promise<void> {
	// columns are named by services and by our own log of events, never by a request
	await sql.update("material", { id }, { ...(set as Some<"material">), changed_at: ctx.now() });
}

export const setOrigin = (sql: Sql, id: string, revision: string | null): Promise<void> =>
	sql.update("material", { id }, { origin_revision_id: revision });

export const touch = (ctx: Context, sql: Sql, material: string): Promise<void> =>
	sql.update("material", { id: material }, { changed_at: ctx.now() });

export async function removeMaterials(sql: Sql, ids: readonly string[], at: string): Promise<void> {
	await sql.run(`UPDATE material SET removed_at = $at WHERE id IN ${sql.dialect.list("ids")}`, {
		at,
		ids: JSON.stringify(ids),
	});
}

/** Materials `m` of one place. */
export function inPlace(place: string) {
	const { library, project } = ownerOf(place);
	const [a, b] = [sameOrNull("m.library_id", "library", library), sameOrNull("m.project_id", "project", project)];
	return { sql: `${a.sql} AND ${b.sql}`, bind: { ...a.bind, ...b.bind } };
}

/** The name of the material that has this name in a place; null: it is free. */
export async function bearerOfName(sql: Sql, place: string, key: string, except: string): Promise<string | null> {
	const at = inPlace(place);
	const row = await sql.one<{ name: string }>(
		`SELECT m.name FROM material m WHERE ${at.sql} AND m.name_key = $key AND m.removed_at IS NULL AND m.id <> $except`,
		{ ...at.bind, key, except },
	);
	return row?.name ?? null;
}

/** The name of the material that has this code in a library; null: it is free. */
export async function bearerOfCode(sql: Sql, library: string, code: string, except: string): Promise<string | null> {
	if (code === "") return null;
	const row = await sql.one<{ name: string }>(
		"SELECT name FROM material WHERE library_id = $library AND item_code = $code AND removed_at IS NULL AND id <> $except",
		{ library, code, except },
	);
	return row?.name ?? null;
}

/** Everything in a library, published or not, by its name as names are compared. */
export async function bearersIn(sql: Sql, library: string): Promise<ReadonlyMap<string, { id: string; name: string }>> {
	const rows = await sql.all<{ id: string; name: string; key: string }>(
		"SELECT id, name, name_key AS key FROM material WHERE library_id = $library AND removed_at IS NULL",
		{ library },
	);
	return new Map(rows.map(({ key, ...bearer }) => [key, bearer]));
}

/** Materials of a library, removed ones too, by the id that they bear wherever they are taken. */
export async function idsByUid(sql: Sql, library: string): Promise<ReadonlyMap<string, string>> {
	const rows = await sql.all<{ id: string; uid: string }>("SELECT id, uid FROM material WHERE library_id = $library", {
		library,
	});
	return new Map(rows.map((r) => [r.uid, r.id]));
}

export type TakenRow = {
	readonly id: string;
	readonly uid: string;
	readonly library: string;
	readonly group: string | null;
	readonly name: string;
	readonly code: string;
	readonly retired: boolean;
};

/** A row as an edition from elsewhere has it; one that is here already becomes so. */
export async function putTaken(ctx: Context, sql: Sql, row: TakenRow): Promise<void> {
	await sql.run(
		`INSERT INTO material (id, uid, library_id, group_id, name, name_key, item_code, retired, owner, changed_at)
		 VALUES ($id, $uid, $library, $group, $name, $key, $code, $retired, $owner, $at)
		 ON CONFLICT (id) DO UPDATE SET group_id = excluded.group_id, name = excluded.name, name_key = excluded.name_key,
		 item_code = excluded.item_code, retired = excluded.retired, removed_at = NULL, changed_at = excluded.changed_at`,
		{
			id: row.id,
			uid: row.uid,
			library: row.library,
			group: row.group,
			name: row.name,
			key: nameKey(row.name),
			code: row.code,
			retired: row.retired ? 1 : 0,
			owner: ctx.actor.person,
			at: ctx.now(),
		},
	);
}

/** Of these materials, pairs of one that was made from the other on purpose. */
export function originsAmong(sql: Sql, ids: readonly string[]): Promise<{ id: string; base: string }[]> {
	return sql.all(
		`SELECT m.id, r.material_id AS base FROM material m JOIN revision r ON r.id = m.origin_revision_id
		 WHERE m.origin_kind IN ('variant', 'layer', 'local', 'copy') AND m.id IN ${sql.dialect.list("ids")}`,
		{ ids: JSON.stringify(ids) },
	);
}

export type DerivedRow = {
	readonly id: string;
	readonly name: string;
	readonly kind: NonNullable<Row<"material">["origin_kind"]>;
	/** Number of the base's revision that it began from. */
	readonly revision: number;
	readonly of: string;
	/** Null: a project's own. */
	readonly library: string | null;
	/** 1: published, or the asker has a draft of it. */
	readonly seen: number;
	readonly published: number;
};

/** Materials that began from a revision of these. */
export function derivedFrom(sql: Sql, ids: readonly string[], person: string, most: number): Promise<DerivedRow[]> {
	return sql.all<DerivedRow>(
		`SELECT v.*, CASE WHEN v.published = 1 OR EXISTS (SELECT 1 FROM draft f WHERE f.material_id = v.id AND f.person_id = $person) THEN 1 ELSE 0 END AS seen
		 FROM (SELECT m.id, m.name, m.origin_kind AS kind, r.no AS revision, b.name AS "of", m.library_id AS library,
		  CASE WHEN EXISTS (SELECT 1 FROM revision x WHERE x.material_id = m.id) THEN 1 ELSE 0 END AS published
		  FROM material m JOIN revision r ON r.id = m.origin_revision_id JOIN material b ON b.id = r.material_id
		  WHERE r.material_id IN ${sql.dialect.list("ids")} AND m.removed_at IS NULL) v ORDER BY v.name LIMIT $most`,
		{ ids: JSON.stringify(ids), person, most },
	);
}

/** What is in the bin of these libraries, the last one first, with who put each there. */
export function binOf(sql: Sql, libraries: readonly string[], person: string, most: number) {
	return sql.all<{ id: string; name: string; libraryId: string; library: string; removedAt: string; by: string }>(
		`SELECT m.id, m.name, m.library_id AS "libraryId", l.name AS library, m.removed_at AS "removedAt",
		 COALESCE((SELECT p.name FROM event e JOIN person p ON p.id = e.actor
		  WHERE e.at = m.removed_at AND (e.subject_id = m.id OR e.subject_id = m.library_id) LIMIT 1), '') AS "by"
		 FROM material m JOIN library l ON l.id = m.library_id
		 WHERE m.removed_at IS NOT NULL AND m.library_id IN ${sql.dialect.list("libraries")}
		 -- what was never published is its author's alone
		 AND (EXISTS (SELECT 1 FROM revision r WHERE r.material_id = m.id)
		  OR EXISTS (SELECT 1 FROM draft f WHERE f.material_id = m.id AND f.person_id = $person)) ORDER BY m.removed_at DESC LIMIT $most`,
		{ libraries: JSON.stringify(libraries), person, most },
	);
}

type UnusedRecord = {
	readonly id: string;
	readonly name: string;
	readonly group_id: string | null;
	readonly changed_at: string;
	readonly retired: number;
	/** Names elsewhere, JSON. */
	readonly known_as: string;
	/** How many variants and layers follow it, and how many copies and local changes began from it. */
	readonly variants: number;
	readonly copies: number;
};

/** Published materials of a library that no part stands on or tries, in any project. */
export function unusedIn(sql: Sql, library: string, most: number) {
	return sql.all<UnusedRecord>(
		`SELECT m.id, m.name, m.group_id, m.changed_at, m.retired, m.known_as,
		 (SELECT COUNT(*) FROM material o JOIN revision r ON r.id = o.origin_revision_id
		  WHERE r.material_id = m.id AND o.removed_at IS NULL AND o.origin_kind IN ('variant', 'layer')) AS variants,
		 (SELECT COUNT(*) FROM material o JOIN revision r ON r.id = o.origin_revision_id
		  WHERE r.material_id = m.id AND o.removed_at IS NULL AND o.origin_kind IN ('local', 'copy')) AS copies FROM material m
		 WHERE m.library_id = $library AND m.removed_at IS NULL AND EXISTS (SELECT 1 FROM revision r WHERE r.material_id = m.id)
		 AND NOT EXISTS (SELECT 1 FROM assignment s JOIN revision r ON r.id = s.revision_id JOIN project p ON p.id = s.project_id
		 WHERE r.material_id = m.id AND p.removed_at IS NULL)
		 AND NOT EXISTS (SELECT 1 FROM assignment s JOIN draft f ON f.id = s.draft_id WHERE f.material_id = m.id)
		 AND NOT EXISTS (SELECT 1 FROM project p JOIN revision r ON r.id = p.default_revision_id WHERE r.material_id = m.id AND p.removed_at IS NULL)
		 ORDER BY m.changed_at LIMIT $most`,
		{ library, most },
	);
}

/** What has lain in a library's bin since before a time; `free`: 1 where nothing refers to it. */
export function binnedBefore(sql: Sql, library: string, before: string) {
	return sql.all<{ id: string; name: string; free: number }>(
		`SELECT m.id, m.name, CASE WHEN
		 NOT EXISTS (SELECT 1 FROM revision r WHERE r.material_id = m.id AND (
		  EXISTS (SELECT 1 FROM assignment s WHERE s.revision_id = r.id OR s.before_draft_revision_id = r.id)
		  OR EXISTS (SELECT 1 FROM project p WHERE p.default_revision_id = r.id)
		  OR EXISTS (SELECT 1 FROM edition_entry e WHERE e.revision_id = r.id)
		  OR EXISTS (SELECT 1 FROM material o WHERE o.origin_revision_id = r.id)))
		 AND NOT EXISTS (SELECT 1 FROM material o WHERE o.successor_id = m.id)
		 AND NOT EXISTS (SELECT 1 FROM assignment s JOIN draft f ON f.id = s.draft_id WHERE f.material_id = m.id) THEN 1 ELSE 0 END AS free
		 FROM material m WHERE m.library_id = $library AND m.removed_at IS NOT NULL AND m.removed_at < $before`,
		{ library, before },
	);
}

/** Takes materials away for good, with all that is theirs alone. Whoever asks has made sure that nothing refers to them. */
export async function eraseMaterials(sql: Sql, ids: readonly string[]): Promise<void> {
	const list = sql.dialect.list("ids");
	for (const statement of [
		`DELETE FROM facts WHERE revision_id IN (SELECT id FROM revision WHERE material_id IN ${list})`,
		`DELETE FROM publish_item WHERE material_id IN ${list}`,
		`DELETE FROM draft WHERE material_id IN ${list}`,
		`DELETE FROM star WHERE material_id IN ${list}`,
		`DELETE FROM working_list WHERE material_id IN ${list}`,
		`DELETE FROM revision WHERE material_id IN ${list}`,
		`DELETE FROM material WHERE id IN ${list}`,
	])
		await sql.run(statement, { ids: JSON.stringify(ids) });
}

/** Retired materials one after the other, at the most: more is a circle that somebody else closed. */
const MOST_SUCCESSORS = 1000;

/** Does the way from a material along successors come to another one, or is it that one? */
export async function leadsTo(sql: Sql, from: string | null, to: string): Promise<boolean> {
	let at = from;
	for (let steps = 0; at !== null && steps < MOST_SUCCESSORS; steps++) {
		if (at === to) return true;
		const row = await sql.one<{ next: string | null }>("SELECT successor_id AS next FROM material WHERE id = $at", { at });
		at = row?.next ?? null;
	}
	return false;
}
