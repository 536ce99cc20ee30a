import { join } from "node:path";
import sqlite3 from "sqlite3";
import { serverProcess } from "./process";
import { quantile } from "./team";

/** What a start has to read anew after a kill: so many changes are left for the next one at most. */
const CHANGED = 200;

type Start = { readonly process: number; readonly open: number; readonly index: number };

/**
 * Starts of the server on the data of a folder that nothing holds, p95 in ms: data opened and ready to answer, the index
 * of materials ready, after a stop and after a kill, and once made anew; and the whole process with Node and its modules,
 * until it listens.
 */
export async function startsOn(dataDir: string, rounds: number): Promise<Readonly<Record<string, number>>> {
	const server = await serverProcess(dataDir, "packages/server/dist/main.js");
	const started = async (): Promise<Start> => {
		const began = performance.now();
		await server.start();
		const process = performance.now() - began;
		const said = await server.says("Index of materials ready");
		await server.stop();
		const ms = (what: RegExp): number => Number(what.exec(said)?.[1]) * 1000;
		return { process, open: ms(/Data opened in ([\d.]+) s/), index: ms(/ready after ([\d.]+) s/) };
	};
	const many = async (before: string | null): Promise<Start> => {
		const starts: Start[] = [];
		for (let i = 0; i < rounds; i++) {
			if (before !== null) await write(dataDir, before);
			starts.push(await started());
		}
		const p95 = (of: keyof Start): number =>
			Math.round(
				quantile(
					starts.map((s) => s[of]),
					0.95,
				),
			);
		return { process: p95("process"), open: p95("open"), index: p95("index") };
	};
	// whatever the data were made with, the next start finds them as a server leaves them
	await started();
	const stopped = await many(null);
	const killed = await many(`INSERT INTO index_mark (material_id) SELECT id FROM material ORDER BY random() LIMIT ${CHANGED}`);
	await write(dataDir, "DELETE FROM index_image");
	return {
		start_after_stop: stopped.open,
		start_after_kill: killed.open,
		index_ready_after_stop_ms: stopped.index,
		index_ready_after_kill_ms: killed.index,
		index_made_anew_ms: Math.round((await started()).index),
		process_until_it_listens_ms: stopped.process,
	};
}

function write(dataDir: string, statement: string): Promise<void> {
	return new Promise((resolve, reject) => {
		const db = new sqlite3.Database(join(dataDir, "alvek.sqlite"));
		db.exec(statement, (cause) => db.close(() => (cause === null ? resolve() : reject(cause))));
	});
}
