import type { BlobOwner, Sql } from "../db";

/** Files that lie in the data folder, by hash. */
export async function blobHashes(sql: Sql): Promise<ReadonlySet<string>> {
	return new Set((await sql.all<{ hash: string }>("SELECT hash FROM blob")).map((b) => b.hash));
}

export const isBlobNamed = (sql: Sql, hash: string): Promise<boolean> => sql.has("blob", { hash });

export const nameBlob = (sql: Sql, blob: { hash: string; size: number; at: string }): Promise<void> => sql.ensure("blob", blob);

/** That something needs a file; as long as one use is there, the file stays. */
export type BlobUse = { readonly hash: string; readonly kind: BlobOwner; readonly owner: string; readonly at?: string };

export async function useBlobs(sql: Sql, uses: readonly BlobUse[]): Promise<void> {
	await sql.run(
		`INSERT INTO blob_use (hash, owner_kind, owner_id, at) SELECT DISTINCT j.hash, j.kind, j.owner, j.at
		 FROM ${sql.dialect.rows("uses", "j", { hash: "text", kind: "text", owner: "text", at: "text" })} WHERE true
		 ON CONFLICT (hash, owner_kind, owner_id) DO UPDATE SET at = excluded.at`,
		{ uses: JSON.stringify(uses.map((u) => ({ at: "", ...u }))) },
	);
}

/** Who may name a file in a draft before any revision does. */
export const noteUpload = (sql: Sql, upload: { hash: string; person: string; at: string }): Promise<void> =>
	useBlobs(sql, [{ hash: upload.hash, kind: "upload", owner: upload.person, at: upload.at }]);

export const isUploadOf = (sql: Sql, hash: string, person: string): Promise<boolean> =>
	sql.has("blob_use", { hash, owner_kind: "upload", owner_id: person });

const IN_NO_DRAFT = "NOT EXISTS (SELECT 1 FROM draft d WHERE d.edits LIKE '%' || blob_use.hash || '%')";

/** Uploads from before a time that no draft names, and no step that could be undone: nothing can bring them back. */
export function forgottenUploads(sql: Sql, before: string, most: number): Promise<{ hash: string; owner: string }[]> {
	return sql.all(
		`SELECT hash, owner_id AS owner FROM blob_use WHERE owner_kind = 'upload' AND at < $before AND ${IN_NO_DRAFT}
		 AND NOT EXISTS (SELECT 1 FROM event e WHERE e.undone_by IS NULL AND e.inverse LIKE '%' || blob_use.hash || '%')
		 ORDER BY at LIMIT $most`,
		{ before, most },
	);
}

/** Ends these, but for one that was brought in again or named since they were looked for. */
export async function endUploads(sql: Sql, uploads: readonly { hash: string; owner: string }[], before: string): Promise<void> {
	for (const { hash, owner } of uploads)
		await sql.run(
			`DELETE FROM blob_use WHERE hash = $hash AND owner_kind = 'upload' AND owner_id = $owner AND at < $before AND ${IN_NO_DRAFT}`,
			{ hash, owner, before },
		);
}

/** Takes the names of files away that nothing needs; which ones. */
export async function dropUnusedBlobs(sql: Sql): Promise<readonly string[]> {
	const unused = await sql.all<{ hash: string }>(
		"SELECT b.hash FROM blob b WHERE NOT EXISTS (SELECT 1 FROM blob_use u WHERE u.hash = b.hash)",
	);
	const hashes = unused.map((b) => b.hash);
	if (hashes.length > 0)
		await sql.run(`DELETE FROM blob WHERE hash IN ${sql.dialect.list("hashes")}`, { hashes: JSON.stringify(hashes) });
	return hashes;
}
