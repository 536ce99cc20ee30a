import type { Sql } from "../db";

/** Files that lie in the data folder, by hash. */
export async function blobHashes(sql: Sql): Promise<ReadonlySet<string>> {
	return new Set((await sql.all<{ hash: string }>("SELECT hash FROM blob")).map((b) => b.hash));
}

export const isBlobNamed = (sql: Sql, hash: string): Promise<boolean> => sql.has("blob", { hash });

export const nameBlob = (sql: Sql, blob: { hash: string; size: number; at: string }): Promise<void> => sql.ensure("blob", blob);

/** Who may name a file in a draft before any revision does. */
export async function noteUpload(sql: Sql, upload: { hash: string; person: string; at: string }): Promise<void> {
	await sql.ensure("file_upload", { hash: upload.hash, person_id: upload.person, at: upload.at });
}

export const isUploadOf = (sql: Sql, hash: string, person: string): Promise<boolean> =>
	sql.has("file_upload", { hash, person_id: person });
