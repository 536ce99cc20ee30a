import { join } from "node:path";
import sqlite3 from "sqlite3";
import { Fault, faultOf } from "./faults";

/** Keeps a data folder for one process. */
export type DataFolderLock = { release(): Promise<void> };

/**
 * Takes the data folder for this process alone. The lock is the operating system's, on a small file of its own, so it
 * ends with the process however that ends; nothing is left that would have to be cleaned up.
 * @throws Fault `folder-in-use` while another process holds it, `folder-read-only` or `disk-full` where it cannot be taken
 */
export function holdFolder(dataDir: string): Promise<DataFolderLock> {
	return new Promise((resolve, reject) => {
		const refuse = (cause: Error): void => {
			const issue = faultOf(cause);
			if (issue === null) return reject(cause);
			reject(
				new Fault(issue.code === "database-busy" ? { code: "folder-in-use", actual: dataDir } : { ...issue, path: dataDir }),
			);
		};
		const db = new sqlite3.Database(join(dataDir, "alvek.hold"), (opening) => {
			if (opening !== null) return refuse(opening);
			db.exec("PRAGMA busy_timeout=0; PRAGMA journal_mode=DELETE; BEGIN EXCLUSIVE; PRAGMA user_version=1;", (locking) => {
				if (locking !== null) return db.close(() => refuse(locking));
				resolve({ release: () => new Promise((done) => db.close(() => done())) });
			});
		});
	});
}
