import { FACTS_VERSION, type MaterialTable, type StoredTable } from "@alvek/core/table";
import type { Db } from "../db/connection";
import { readImage, writeImage } from "./image";

/**
 * Keeps the table of materials in a file beside the database, so that a start need not make it anew. Triggers note in
 * `index_mark` every material that the table would say something else of; an image stands for all notes up to its
 * number. The database names the image that belongs to it, so one from another time is never taken.
 */
export type Keeper = {
	/** The kept table and the materials that changed since; null when there is none that belongs to these data. */
	take(): Promise<{ readonly table: StoredTable; readonly changed: readonly string[] } | null>;
	/** The table is about to be made anew, from the data as they are from here on. */
	begin(): Promise<void>;
	/** How many changes the image does not know of; null: there is none that could be taken. */
	behind(): Promise<number | null>;
	/** Writes the table. Nothing may change it until this is done. @param refresh reads these materials anew first */
	keep(table: MaterialTable, refresh: (ids: readonly string[]) => Promise<void>): Promise<void>;
};

/** @param path where the image lies */
export function imageKeeper(db: Db, path: string): Keeper {
	/** Changes up to this one are surely in the table. */
	let upTo = 0;
	/** Whether the image that belongs to these data can be read. */
	let readable = false;
	const standing = (): Promise<{ stamp: string; seq: number; version: number } | null> =>
		db.one("SELECT stamp, seq, version FROM index_image");
	const newest = async (): Promise<number> =>
		// the sequence goes on when the notes are taken away
		(await db.one<{ seq: number }>("SELECT seq FROM sqlite_sequence WHERE name = 'index_mark'"))?.seq ?? 0;
	const changedSince = async (seq: number): Promise<string[]> =>
		(await db.all<{ id: string }>("SELECT DISTINCT material_id AS id FROM index_mark WHERE seq > $seq", { seq })).map(
			(m) => m.id,
		);
	return {
		async take() {
			const known = await standing();
			if (known === null || known.version !== FACTS_VERSION) return null;
			upTo = await newest();
			const changed = await changedSince(known.seq);
			const table = await readImage(path, known.stamp);
			readable = table !== null;
			return table === null ? null : { table, changed };
		},
		async begin() {
			upTo = await newest();
		},
		async behind() {
			const known = await standing();
			return known === null || !readable ? null : (await changedSince(known.seq)).length;
		},
		async keep(table, refresh) {
			const seq = await newest();
			await refresh(await changedSince(upTo));
			upTo = seq;
			const stamp = `${Date.now().toString(36)}.${crypto.randomUUID()}`;
			await writeImage(path, stamp, table.image());
			await db.transaction(async (sql) => {
				await sql.run(
					`INSERT INTO index_image (id, stamp, seq, version) VALUES (1, $stamp, $seq, $version)
					 ON CONFLICT (id) DO UPDATE SET stamp = $stamp, seq = $seq, version = $version`,
					{ stamp, seq, version: FACTS_VERSION },
				);
				await sql.run("DELETE FROM index_mark WHERE seq <= $seq", { seq });
				return { commit: true, value: null };
			});
			readable = true;
		},
	};
}
