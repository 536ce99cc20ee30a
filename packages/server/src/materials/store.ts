import { createHash } from "node:crypto";
import {
	applyEdits,
	BLANK,
	canonicalJson,
	type Edit,
	filesOf,
	type Material,
	upgradedContent,
	upgradedPlace,
	upgradeMaterial,
} from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import type { Facts } from "@alvek/core/table";
import type { Sql } from "../db/connection";
import { STANDING } from "../db/standing";
import type { Context } from "../db/write";

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
const PLACE = "COALESCE(m.library_id, 'project:' || m.project_id) AS library_id";

const SELECT_MATERIAL = `SELECT m.id, m.uid, ${PLACE}, m.project_id, COALESCE(l.name, j.name) AS library, COALESCE(l.kind, 'project') AS kind,
	m.retired, m.successor_id, n.name AS successor, m.group_id, m.name, m.item_code, m.shop_name, m.known_as, m.review_at, m.offered_for, m.changed_at, m.removed_at,
	m.origin_kind, m.origin_revision_id, r.id AS revision_id, r.no AS revision_no, d.bytes
	FROM material m LEFT JOIN library l ON l.id = m.library_id LEFT JOIN project j ON j.id = m.project_id
	LEFT JOIN material n ON n.id = m.successor_id
	LEFT JOIN revision r ON r.material_id = m.id AND r.no = (SELECT MAX(no) FROM revision WHERE material_id = m.id)
	LEFT JOIN document d ON d.hash = r.document_hash`;

/** A record with the facts of its head and the asker's star. */
export type ListedRecord = MaterialRecord & {
	readonly readiness: string | null;
	readonly star: number | null;
	readonly working: number;
};

/** Materials by id, in no order; unknown and removed ones are left out. */
export function materialsByIds(sql: Sql, ids: readonly string[], person: string): Promise<ListedRecord[]> {
	return sql.all<ListedRecord>(
		`${SELECT_MATERIAL.replace("d.bytes", "d.bytes, f.readiness, s.ord AS star, w.material_id IS NOT NULL AS working")}
		 LEFT JOIN facts f ON f.revision_id = r.id LEFT JOIN star s ON s.material_id = m.id AND s.person_id = $person
		 LEFT JOIN working_list w ON w.material_id = m.id
		 WHERE m.removed_at IS NULL AND m.id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(ids), person },
	);
}

/** What the table keeps of a material: its row, and the facts of its head when they are of today's version. */
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
> & { readonly at: number; readonly revision_id: string; readonly facts: Buffer | null };

/** Published materials in pages by the order they were made; `after` is the `at` of the last one. */
export function factsPage(sql: Sql, version: number, after: number, limit: number): Promise<FactsRecord[]> {
	return sql.all<FactsRecord>(
		`SELECT m.rowid AS at, m.id, m.name, ${PLACE}, m.retired, m.group_id, m.item_code, m.shop_name, m.known_as, m.review_at, m.offered_for, m.changed_at,
			r.id AS revision_id, f.bytes AS facts
		 FROM material m JOIN revision r ON r.material_id = m.id AND r.no = (SELECT MAX(no) FROM revision WHERE material_id = m.id)
		 LEFT JOIN facts f ON f.revision_id = r.id AND f.version = $version
		 WHERE m.removed_at IS NULL AND m.rowid > $after ORDER BY m.rowid LIMIT $limit`,
		{ version, after, limit },
	);
}

/** The same of these materials; unpublished and removed ones are left out. */
export function factsByIds(sql: Sql, version: number, ids: readonly string[]): Promise<FactsRecord[]> {
	return sql.all<FactsRecord>(
		`SELECT m.rowid AS at, m.id, m.name, ${PLACE}, m.retired, m.group_id, m.item_code, m.shop_name, m.known_as, m.review_at, m.offered_for, m.changed_at,
			r.id AS revision_id, f.bytes AS facts
		 FROM material m JOIN revision r ON r.material_id = m.id AND r.no = (SELECT MAX(no) FROM revision WHERE material_id = m.id)
		 LEFT JOIN facts f ON f.revision_id = r.id AND f.version = $version
		 WHERE m.removed_at IS NULL AND m.id IN (SELECT value FROM json_each($ids))`,
		{ version, ids: JSON.stringify(ids) },
	);
}

/** Documents of revisions, by revision id. */
export async function documentsOf(sql: Sql, revisions: readonly string[]): Promise<ReadonlyMap<string, Material>> {
	const rows = await sql.all<{ id: string; bytes: Buffer }>(
		`SELECT r.id, d.bytes FROM revision r JOIN document d ON d.hash = r.document_hash
		 WHERE r.id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(revisions) },
	);
	return new Map(rows.map((r) => [r.id, parseDocument(r.bytes)]));
}

/** Keeps facts beside their revisions; what they say of readiness apart, because only pages of rows read it. */
export async function storeFacts(sql: Sql, version: number, facts: ReadonlyMap<string, Facts>): Promise<void> {
	for (const [revision, { readiness, ...rest }] of facts) {
		await sql.run(
			`INSERT INTO facts (revision_id, version, bytes, readiness) VALUES ($revision, $version, $bytes, $readiness)
			 ON CONFLICT (revision_id) DO UPDATE SET version = $version, bytes = $bytes, readiness = $readiness`,
			{ revision, version, bytes: Buffer.from(JSON.stringify(rest), "utf8"), readiness: JSON.stringify(readiness) },
		);
	}
}

export function materialById(sql: Sql, id: string): Promise<MaterialRecord | null> {
	return sql.one<MaterialRecord>(`${SELECT_MATERIAL} WHERE m.id = $id`, { id });
}

/** A stored document was decoded before it was stored and is hashed, so it is only parsed, and seen as today's schema. */
export function parseDocument(bytes: Buffer): Material {
	return upgradeMaterial(JSON.parse(bytes.toString("utf8")) as Material);
}

/** SHA-256 of a document's canonical bytes (RFC 8785): what is seen, published and approved is told apart by it. */
export const hashOfDocument = (document: Material): string => hashOfBytes(bytesOf(document));

const bytesOf = (document: Material): Buffer => Buffer.from(canonicalJson(document), "utf8");
const hashOfBytes = (bytes: Buffer): string => createHash("sha256").update(bytes).digest("hex");

/** Stores a document by its hash, with the files that it names; a repeated one is kept once. */
export async function storeDocument(sql: Sql, document: Material): Promise<string> {
	const bytes = bytesOf(document);
	const hash = hashOfBytes(bytes);
	await sql.run("INSERT INTO document (hash, bytes) VALUES ($hash, $bytes) ON CONFLICT DO NOTHING", { hash, bytes });
	for (const file of filesOf(document))
		await sql.run("INSERT INTO document_file (document_hash, file_hash) VALUES ($hash, $file) ON CONFLICT DO NOTHING", {
			hash,
			file,
		});
	return hash;
}

/**
 * The number of the event that the writing transaction is about to record. Every transaction that writes a draft records
 * one, so a draft's version never repeats, also not after it was thrown away and begun again.
 */
export async function nextVersion(sql: Sql): Promise<number> {
	return ((await sql.one<{ seq: number | null }>("SELECT MAX(seq) AS seq FROM event"))?.seq ?? 0) + 1;
}

export type DraftRecord = {
	readonly id: string;
	readonly material_id: string;
	readonly person_id: string;
	readonly base_revision_id: string | null;
	readonly edits: string;
	readonly version: number;
	readonly saved_at: string;
	readonly base_bytes: Buffer | null;
};

const SELECT_DRAFT = `SELECT f.id, f.material_id, f.person_id, f.base_revision_id, f.edits, f.version, f.saved_at, d.bytes AS base_bytes
	FROM draft f LEFT JOIN revision r ON r.id = f.base_revision_id LEFT JOIN document d ON d.hash = r.document_hash`;

export function allDrafts(sql: Sql): Promise<DraftRecord[]> {
	return sql.all<DraftRecord>(SELECT_DRAFT);
}

/** Drafts of these materials, whoever wrote them. */
export function draftsOn(sql: Sql, materials: readonly string[]): Promise<DraftRecord[]> {
	return sql.all<DraftRecord>(`${SELECT_DRAFT} WHERE f.material_id IN (SELECT value FROM json_each($ids))`, {
		ids: JSON.stringify(materials),
	});
}

/** A person's drafts of these materials. */
export function draftsOf(sql: Sql, materials: readonly string[], person: string): Promise<DraftRecord[]> {
	return sql.all<DraftRecord>(
		`${SELECT_DRAFT} WHERE f.person_id = $person AND f.material_id IN (SELECT value FROM json_each($ids))`,
		{ person, ids: JSON.stringify(materials) },
	);
}

export function draftOf(sql: Sql, material: string, person: string): Promise<DraftRecord | null> {
	return sql.one<DraftRecord>(`${SELECT_DRAFT} WHERE f.material_id = $material AND f.person_id = $person`, { material, person });
}

export function draftById(sql: Sql, id: string): Promise<DraftRecord | null> {
	return sql.one<DraftRecord>(`${SELECT_DRAFT} WHERE f.id = $id`, { id });
}

/** The material as the draft shows it: its base with the edits. */
export function draftDocument(draft: DraftRecord): Material {
	const base = draft.base_bytes === null ? BLANK : parseDocument(draft.base_bytes);
	const applied = applyEdits(base, draftEdits(draft));
	if (!applied.ok) throw new Error(`draft ${draft.id} does not apply to its base: ${JSON.stringify(applied.issues)}`);
	return applied.value.material;
}

/** The edits of a draft; those saved under an older schema are seen as today's. */
export function draftEdits(draft: Pick<DraftRecord, "edits">): readonly Edit[] {
	return (JSON.parse(draft.edits) as Edit[]).map(({ at, from, to }) => ({
		at: upgradedPlace(at),
		from: upgradedContent(from),
		to: upgradedContent(to),
	}));
}

export function draftBase(draft: DraftRecord): Material {
	return draft.base_bytes === null ? BLANK : parseDocument(draft.base_bytes);
}

export type RevisionRecord = {
	readonly id: string;
	readonly no: number;
	readonly note: string;
	readonly at: string;
	readonly actor: string;
	readonly approvedBy: string | null;
	readonly hash: string;
};

export function revisionsOf(sql: Sql, material: string): Promise<RevisionRecord[]> {
	return sql.all<RevisionRecord>(
		`SELECT r.id, r.no, p.note, p.at, w.name AS actor, a.name AS approvedBy, r.document_hash AS hash FROM revision r
		 JOIN publish p ON p.id = r.publish_id JOIN person w ON w.id = p.actor LEFT JOIN person a ON a.id = p.approved_by WHERE r.material_id = $material ORDER BY r.no DESC`,
		{ material },
	);
}

/** Opens a publish in a library; revisions are added to it as its items. */
export async function openPublish(
	ctx: Context,
	sql: Sql,
	library: string,
	note: string,
	state: "done" | "proposed" = "done",
): Promise<string> {
	const id = ctx.newId();
	await sql.run("INSERT INTO publish (id, place, actor, note, at, state) VALUES ($id, $place, $actor, $note, $at, $state)", {
		state,
		id,
		place: library,
		actor: ctx.actor.person,
		note: note.trim(),
		at: ctx.now(),
	});
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
	await sql.run(
		"INSERT INTO revision (id, material_id, no, publish_id, document_hash) VALUES ($id, $material, $no, $publish, $hash)",
		{ id, material: input.material, no, publish: input.publish, hash },
	);
	await sql.run("INSERT INTO publish_item (publish_id, material_id, revision_id) VALUES ($publish, $material, $id)", {
		publish: input.publish,
		material: input.material,
		id,
	});
	await touch(ctx, sql, input.material);
	return { id, no };
}

export async function touch(ctx: Context, sql: Sql, material: string): Promise<void> {
	await sql.run("UPDATE material SET changed_at = $at WHERE id = $id", { at: ctx.now(), id: material });
}

export type GroupRecord = {
	readonly id: string;
	readonly library_id: string;
	readonly parent_id: string | null;
	readonly name: string;
	readonly ord: number;
};

export function allGroups(sql: Sql): Promise<GroupRecord[]> {
	return sql.all<GroupRecord>("SELECT id, library_id, parent_id, name, ord FROM library_group ORDER BY ord, name");
}

/** `Metals / Bronze` -> the id of its row, making the missing ones; null for "". */
export async function ensureGroup(ctx: Context, sql: Sql, library: string, path: string): Promise<string | null> {
	const names = path
		.split("/")
		.map((n) => n.trim())
		.filter((n) => n !== "")
		.slice(0, 6);
	let parent: string | null = null;
	for (const name of names) {
		const found: { id: string } | null = await sql.one<{ id: string }>(
			"SELECT id FROM library_group WHERE library_id = $library AND parent_id IS $parent AND lower(name) = lower($name)",
			{ library, parent, name },
		);
		const id: string = found?.id ?? ctx.newId();
		if (found === null) {
			await sql.run(
				`INSERT INTO library_group (id, library_id, parent_id, name, ord)
				 VALUES ($id, $library, $parent, $name, (SELECT COALESCE(MAX(ord), 0) + 1 FROM library_group WHERE library_id = $library))`,
				{ id, library, parent, name },
			);
		}
		parent = id;
	}
	return parent;
}

/** Where a material's revisions stand in projects, newest projects first. */
export function usesOf(
	sql: Sql,
	material: string,
): Promise<
	{ project_id: string; project: string; role: string | null; part: string; revision_no: number | null; quantity: number }[]
> {
	return sql.all(
		`SELECT p.id AS project_id, p.name AS project, NULL AS role, a.name AS part, r.no AS revision_no,
			(SELECT COUNT(*) FROM occurrence o WHERE o.part_id = a.id) AS quantity
		 FROM (${STANDING}) s JOIN part a ON a.id = s.part_id JOIN project p ON p.id = s.project_id
		 LEFT JOIN revision r ON r.id = s.revision_id WHERE p.removed_at IS NULL ORDER BY p.name, a.ord`,
		{ ids: JSON.stringify([material]) },
	);
}

/** Own properties that a library adds to the catalogue; a project adds none. */
export async function ownPropertiesOf(sql: Sql, library: string): Promise<readonly OwnProperty[]> {
	const rows = await sql.all<{ content: string }>("SELECT content FROM own_property WHERE library_id = $library ORDER BY uid", {
		library,
	});
	return rows.map((r) => JSON.parse(r.content) as OwnProperty);
}
