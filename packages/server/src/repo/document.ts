import { createHash } from "node:crypto";
import { canonicalJson, filesOf, type Material, upgradeMaterial } from "@alvek/core/material";
import type { Sql } from "../db";
import { useBlobs } from "./blob";

/** A stored document was decoded before it was stored and is hashed, so it is only parsed, and seen as today's schema. */
export function parseDocument(bytes: Buffer): Material {
	return upgradeMaterial(JSON.parse(bytes.toString("utf8")) as Material);
}

/** SHA-256 of a document's canonical bytes (RFC 8785): what is seen, published and approved is told apart by it. */
export const hashOfDocument = (document: Material): string => hashOfBytes(bytesOf(document));

const bytesOf = (document: Material): Buffer => Buffer.from(canonicalJson(document), "utf8");
const hashOfBytes = (bytes: Buffer): string => createHash("sha256").update(bytes).digest("hex");

/** A document as it is stored: its canonical bytes under their hash. */
export type Canonical = { readonly document: Material; readonly bytes: Buffer; readonly hash: string };

export function canonical(document: Material): Canonical {
	const bytes = bytesOf(document);
	return { document, bytes, hash: hashOfBytes(bytes) };
}

/** Documents in one statement; a parameter each for hash and bytes. */
const AT_ONCE = 50;

/** Stores a document by its hash, with the files that it names; a repeated one is kept once. */
export async function storeDocument(sql: Sql, document: Material): Promise<string> {
	const stored = canonical(document);
	await storeCanonical(sql, [stored]);
	return stored.hash;
}

/** The same of many whose bytes are there already. */
export async function storeCanonical(sql: Sql, documents: readonly Canonical[]): Promise<void> {
	for (let from = 0; from < documents.length; from += AT_ONCE) {
		const some = documents.slice(from, from + AT_ONCE);
		const bind = Object.fromEntries(
			some.flatMap(({ hash, bytes }, n) => [
				[`h${n}`, hash],
				[`b${n}`, bytes],
			]),
		);
		const rows = some.map((_, n) => `($h${n}, $b${n})`).join(", ");
		await sql.run(`INSERT INTO document (hash, bytes) VALUES ${rows} ON CONFLICT DO NOTHING`, bind);
	}
	const files = documents.flatMap(({ hash, document }) => filesOf(document).map((file) => ({ hash, file })));
	if (files.length === 0) return;
	await useBlobs(
		sql,
		files.map(({ hash, file }) => ({ hash: file, kind: "document", owner: hash })),
	);
}

/** Documents of revisions, by revision id. */
export async function documentsOf(sql: Sql, revisions: readonly string[]): Promise<ReadonlyMap<string, Material>> {
	const rows = await sql.all<{ id: string; bytes: Buffer }>(
		`SELECT r.id, d.bytes FROM revision r JOIN document d ON d.hash = r.document_hash WHERE r.id IN ${sql.dialect.list("ids")}`,
		{ ids: JSON.stringify(revisions) },
	);
	return new Map(rows.map((r) => [r.id, parseDocument(r.bytes)]));
}

/** Checksums of the documents of revisions, by revision id. */
export async function hashesOf(sql: Sql, revisions: readonly string[]): Promise<ReadonlyMap<string, string>> {
	const rows = await sql.all<{ id: string; hash: string }>(
		`SELECT id, document_hash AS hash FROM revision WHERE id IN ${sql.dialect.list("ids")}`,
		{ ids: JSON.stringify(revisions) },
	);
	return new Map(rows.map((r) => [r.id, r.hash]));
}

/** Which of these files some revision of the material names. */
export async function isFileOfMaterial(sql: Sql, material: string, file: string): Promise<boolean> {
	const found = await sql.one(
		`SELECT 1 AS x FROM revision r JOIN blob_use n ON n.owner_kind = 'document' AND n.owner_id = r.document_hash
		 WHERE r.material_id = $material AND n.hash = $file LIMIT 1`,
		{ material, file },
	);
	return found !== null;
}

/** The material of this revision, where its document names the file. */
export async function materialOfFile(sql: Sql, revision: string, file: string): Promise<string | null> {
	const found = await sql.one<{ id: string }>(
		`SELECT r.material_id AS id FROM revision r JOIN blob_use n ON n.owner_kind = 'document' AND n.owner_id = r.document_hash
		 WHERE r.id = $revision AND n.hash = $file`,
		{ revision, file },
	);
	return found?.id ?? null;
}

/** Newest documents of materials in use, of these libraries, that name a picture; those changed last come first. */
export function picturedIn(
	sql: Sql,
	libraries: readonly string[],
	most: number,
): Promise<{ id: string; name: string; library: string; bytes: Buffer }[]> {
	return sql.all(
		`SELECT m.id, m.name, l.name AS library, d.bytes FROM material m JOIN library l ON l.id = m.library_id
		 JOIN revision r ON r.material_id = m.id AND r.no = (SELECT MAX(no) FROM revision WHERE material_id = m.id)
		 JOIN document d ON d.hash = r.document_hash
		 WHERE m.library_id IN ${sql.dialect.list("libraries")} AND m.removed_at IS NULL AND m.retired = 0
		 AND EXISTS (SELECT 1 FROM blob_use u WHERE u.owner_kind = 'document' AND u.owner_id = r.document_hash)
		 AND d.bytes LIKE ${sql.dialect.utf8("$picture")} ORDER BY m.changed_at DESC, m.id LIMIT $most`,
		{ libraries: JSON.stringify(libraries), picture: '%"kind":"picture"%', most },
	);
}

/** Projects whose parts stand on a revision of the material that names the file. */
export async function projectsOfFile(sql: Sql, material: string, file: string): Promise<readonly string[]> {
	const rows = await sql.all<{ id: string }>(
		`SELECT DISTINCT p.project_id AS id FROM assignment a JOIN part p ON p.id = a.part_id
		 JOIN revision r ON r.id = a.revision_id JOIN blob_use n ON n.owner_kind = 'document' AND n.owner_id = r.document_hash
		 WHERE r.material_id = $material AND n.hash = $file`,
		{ material, file },
	);
	return rows.map((r) => r.id);
}
