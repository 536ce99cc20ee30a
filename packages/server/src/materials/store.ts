import { createHash } from "node:crypto";
import { applyEdits, BLANK, canonicalJson, type Edit, type Material } from "@alvek/core/material";
import type { Sql } from "../db/connection";
import type { Context } from "../db/write";

/** A material's row with its head: the newest published revision. */
export type MaterialRecord = {
	readonly id: string;
	readonly uid: string;
	readonly library_id: string;
	readonly library: string;
	readonly kind: "own" | "supplied";
	readonly group_id: string | null;
	readonly name: string;
	readonly item_code: string;
	readonly shop_name: string;
	readonly changed_at: string;
	readonly removed_at: string | null;
	readonly origin_kind: string | null;
	readonly origin_revision_id: string | null;
	readonly revision_id: string | null;
	readonly revision_no: number | null;
	readonly bytes: Buffer | null;
};

const SELECT_MATERIAL = `SELECT m.id, m.uid, m.library_id, l.name AS library, l.kind, m.group_id, m.name, m.item_code, m.shop_name, m.changed_at, m.removed_at,
	m.origin_kind, m.origin_revision_id, r.id AS revision_id, r.no AS revision_no, d.bytes
	FROM material m JOIN library l ON l.id = m.library_id
	LEFT JOIN revision r ON r.material_id = m.id AND r.no = (SELECT MAX(no) FROM revision WHERE material_id = m.id)
	LEFT JOIN document d ON d.hash = r.document_hash`;

export function allMaterials(sql: Sql): Promise<MaterialRecord[]> {
	return sql.all<MaterialRecord>(`${SELECT_MATERIAL} WHERE m.removed_at IS NULL`);
}

export function materialById(sql: Sql, id: string): Promise<MaterialRecord | null> {
	return sql.one<MaterialRecord>(`${SELECT_MATERIAL} WHERE m.id = $id`, { id });
}

/** A stored document was decoded before it was stored and is hashed, so it is only parsed. */
export function parseDocument(bytes: Buffer): Material {
	return JSON.parse(bytes.toString("utf8")) as Material;
}

/** Stores a document by the hash of its canonical bytes; a repeated one is kept once. */
export async function storeDocument(sql: Sql, document: Material): Promise<string> {
	const bytes = Buffer.from(canonicalJson(document), "utf8");
	const hash = createHash("sha256").update(bytes).digest("hex");
	await sql.run("INSERT INTO document (hash, bytes) VALUES ($hash, $bytes) ON CONFLICT DO NOTHING", { hash, bytes });
	return hash;
}

export type DraftRecord = {
	readonly id: string;
	readonly material_id: string;
	readonly base_revision_id: string | null;
	readonly edits: string;
	readonly version: number;
	readonly saved_at: string;
	readonly base_bytes: Buffer | null;
};

const SELECT_DRAFT = `SELECT f.id, f.material_id, f.base_revision_id, f.edits, f.version, f.saved_at, d.bytes AS base_bytes
	FROM draft f LEFT JOIN revision r ON r.id = f.base_revision_id LEFT JOIN document d ON d.hash = r.document_hash`;

export function draftsOf(sql: Sql, person: string): Promise<DraftRecord[]> {
	return sql.all<DraftRecord>(`${SELECT_DRAFT} WHERE f.person_id = $person`, { person });
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
	const applied = applyEdits(base, JSON.parse(draft.edits) as Edit[]);
	if (!applied.ok) throw new Error(`draft ${draft.id} does not apply to its base: ${JSON.stringify(applied.issues)}`);
	return applied.value.material;
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
	readonly hash: string;
};

export function revisionsOf(sql: Sql, material: string): Promise<RevisionRecord[]> {
	return sql.all<RevisionRecord>(
		`SELECT r.id, r.no, p.note, p.at, w.name AS actor, r.document_hash AS hash FROM revision r
		 JOIN publish p ON p.id = r.publish_id JOIN person w ON w.id = p.actor WHERE r.material_id = $material ORDER BY r.no DESC`,
		{ material },
	);
}

/** One publish of one material: its document becomes the next revision. */
export async function insertRevision(
	ctx: Context,
	sql: Sql,
	input: { material: string; library: string; note: string; document: Material },
): Promise<{ id: string; no: number }> {
	const hash = await storeDocument(sql, input.document);
	const last = await sql.one<{ no: number | null }>("SELECT MAX(no) AS no FROM revision WHERE material_id = $id", {
		id: input.material,
	});
	const no = (last?.no ?? 0) + 1;
	const publish = ctx.newId();
	const id = ctx.newId();
	await sql.run("INSERT INTO publish (id, place, actor, note, at, state) VALUES ($id, $place, $actor, $note, $at, 'done')", {
		id: publish,
		place: input.library,
		actor: ctx.actor.person,
		note: input.note,
		at: ctx.now(),
	});
	await sql.run(
		"INSERT INTO revision (id, material_id, no, publish_id, document_hash) VALUES ($id, $material, $no, $publish, $hash)",
		{
			id,
			material: input.material,
			no,
			publish,
			hash,
		},
	);
	await sql.run("INSERT INTO publish_item (publish_id, material_id, revision_id) VALUES ($publish, $material, $id)", {
		publish,
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
		 FROM assignment s JOIN part a ON a.id = s.part_id JOIN project p ON p.id = s.project_id
		 LEFT JOIN revision r ON r.id = s.revision_id LEFT JOIN draft d ON d.id = s.draft_id
		 WHERE (r.material_id = $material OR d.material_id = $material) AND p.removed_at IS NULL ORDER BY p.name, a.ord`,
		{ material },
	);
}
