import type { Db } from "../db";
import { blobHashes, dropUnusedBlobs, endUploads, forgottenUploads } from "../repo";
import type { Blobs } from "./blobs";
import { daysFrom } from "./days";

/** An upload that came to nothing is kept so long: whoever left a form open over their holidays finds it again. */
const UPLOAD_DAYS = 90;
/** Each is looked for in every draft and step, so a day takes some of them. */
const UPLOADS_A_DAY = 50;

/**
 * Files that nothing needs any more lose their name, and what had none for an hour already goes from the disk: a name
 * that is taken away now takes its file with it the next time.
 */
export async function removeUnusedFiles(
	db: Db,
	blobs: Blobs,
	now: string,
): Promise<{ readonly names: number; readonly files: number }> {
	const before = daysFrom(now, -UPLOAD_DAYS);
	const uploads = await forgottenUploads(db, before, UPLOADS_A_DAY);
	const unused = await db.transaction(async (sql) => {
		await endUploads(sql, uploads, before);
		return { commit: true, value: await dropUnusedBlobs(sql) };
	});
	for (const hash of unused) await blobs.touch(hash, Date.parse(now));
	return { names: unused.length, files: await blobs.sweep(await blobHashes(db), Date.parse(now)) };
}
