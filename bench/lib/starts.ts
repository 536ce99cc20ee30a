import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { openInstallation } from "@alvek/server";
import sqlite3 from "sqlite3";
import { serverProcess } from "./process";
import { quantile } from "./team";

/** What a start has to read anew after a kill: so many changes are left for the next one at most. */
const CHANGED = 200;

/**
 * Starts on the data of a folder that nothing holds, p95 in ms: data opened and ready to answer, after a stop and after
 * a kill; the whole process, until it listens; and once with the index made anew.
 */
export async function startsOn(dataDir: string, rounds: number): Promise<Readonly<Record<string, number>>> {
	const opened = async (): Promise<number> => {
		const began = performance.now();
		const installation = await openInstallation({
			dataDir,
			kernelWorker: pathToFileURL(join(process.cwd(), "packages/kernel/dist/worker.js")),
			version: "bench",
		});
		const ms = performance.now() - began;
		await installation.close();
		return ms;
	};
	const server = await serverProcess(dataDir, "packages/server/dist/main.js");
	const listened = async (): Promise<number> => {
		const began = performance.now();
		await server.start();
		const ms = performance.now() - began;
		await server.stop();
		return ms;
	};
	const p95 = async (start: () => Promise<number>): Promise<number> => {
		const ms: number[] = [];
		for (let i = 0; i < rounds; i++) ms.push(await start());
		return Math.round(quantile(ms, 0.95));
	};
	await opened();
	const figures = {
		open_after_stop: await p95(opened),
		open_after_kill: await p95(async () => {
			await write(dataDir, `INSERT INTO index_mark (material_id) SELECT id FROM material ORDER BY random() LIMIT ${CHANGED}`);
			return opened();
		}),
		process_until_it_listens_ms: await p95(listened),
	};
	await write(dataDir, "DELETE FROM index_image");
	return { ...figures, open_with_index_made_anew_ms: Math.round(await opened()) };
}

function write(dataDir: string, statement: string): Promise<void> {
	return new Promise((resolve, reject) => {
		const db = new sqlite3.Database(join(dataDir, "alvek.sqlite"));
		db.exec(statement, (cause) => db.close(() => (cause === null ? resolve() : reject(cause))));
	});
}
