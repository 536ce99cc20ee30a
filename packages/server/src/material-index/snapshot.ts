import { FACTS_VERSION, type MaterialTable, type StoredTable } from "@alvek/core/table";
import type { Db } from "../db";
import { imageRecord, markedSince, putImage } from "../repo";
import { readImage, writeImage } from "./image";

/**
 * Keeps the index in a file beside the database, so that a start need not make it anew. Triggers note in `index_mark`
 * every material that the index would say something else of; an image stands for all notes up to its number. The database
 * names the image that belongs to it, so one from another time is never taken.
 */
export type IndexSnapshot = {
	/** The kept table and the note up to which it knows of changes; null when there is none that belongs to these data. */
	take(): Promise<{ readonly table: StoredTable; readonly seq: number } | null>;
	/** How many changes the image does not know of; null: there is none that could be taken. */
	behind(): Promise<number | null>;
	/** Writes the table, which knows of all changes up to a note. Nothing may change it until this is done. */
	keep(table: MaterialTable, seq: number): Promise<void>;
};

/** @param path where the image lies */
export function snapshotIn(db: Db, path: string): IndexSnapshot {
	/** Whether the image that belongs to these data can be read. */
	let readable = false;
	return {
		async take() {
			const known = await imageRecord(db);
			if (known === null || known.version !== FACTS_VERSION) return null;
			const table = await readImage(path, known.stamp);
			readable = table !== null;
			return table === null ? null : { table, seq: known.seq };
		},
		async behind() {
			const known = await imageRecord(db);
			return known === null || !readable ? null : (await markedSince(db, known.seq)).ids.length;
		},
		async keep(table, seq) {
			const stamp = `${Date.now().toString(36)}.${crypto.randomUUID()}`;
			await writeImage(path, stamp, table.image());
			await db.transaction(async (sql) => {
				await putImage(sql, { stamp, seq, version: FACTS_VERSION });
				return { commit: true, value: null };
			});
			readable = true;
		},
	};
}
