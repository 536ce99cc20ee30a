import type { Issue } from "@alvek/core/result";
import { QueryTypes, Sequelize } from "sequelize";
import sqlite3 from "sqlite3";
import { type Report, reportToConsole } from "../runtime/report";
import { Fault, faultOf } from "./faults";

/** What a statement can be run on: the connection, or a transaction on it. SQLite's dialect lives in db/ and store.ts only. */
export type Sql = {
	all<T extends object>(sql: string, bind?: Bind): Promise<T[]>;
	one<T extends object>(sql: string, bind?: Bind): Promise<T | null>;
	run(sql: string, bind?: Bind): Promise<void>;
};
export type Bind = Readonly<Record<string, string | number | boolean | null | Buffer>>;

export type Db = Sql & {
	/** Runs `work` in an IMMEDIATE transaction, one after the other; rolls back when it throws or answers `false`. */
	transaction<T>(work: (sql: Sql) => Promise<{ commit: boolean; value: T }>): Promise<T>;
	/** Called after every commit; ends with what it returns. */
	onCommit(listener: () => void): () => void;
	/** Runs what follows a commit. It is waited for, and its failure is reported: what was stored stays stored. */
	afterCommit(work: () => Promise<void> | void): Promise<void>;
	readonly state: DbState;
	close(): Promise<void>;
};

/** How the database is doing, for health and metrics. */
export type DbState = {
	/** Writes that wait or run. */
	waiting: number;
	commits: number;
	/** Why the latest write was refused by disk or database; null when it was not. */
	refused: Issue | null;
	/** Once a page was found damaged nothing is written any more, so that nothing is made worse. */
	damaged: boolean;
};

/** Sequelize never calls `afterConnect` for SQLite, so every connection sets its own pragmas when it opens. */
class PragmaDatabase extends sqlite3.Database {
	constructor(filename: string, mode?: number | ((e: Error | null) => void), callback?: (e: Error | null) => void) {
		super(filename, mode as number, callback as (e: Error | null) => void);
		// what is wrong with the file is told by the first statement that somebody waits for
		this.exec(
			"PRAGMA journal_mode=WAL; PRAGMA foreign_keys=ON; PRAGMA busy_timeout=10000; PRAGMA synchronous=FULL;",
			() => undefined,
		);
	}
}

function connect(file: string): Sequelize {
	return new Sequelize({
		dialect: "sqlite",
		storage: file,
		dialectModule: { ...sqlite3, Database: PragmaDatabase },
		logging: false,
	});
}

export async function openDatabase(file: string, report: Report = reportToConsole): Promise<Db> {
	const state: DbState = { waiting: 0, commits: 0, refused: null, damaged: false };
	const listeners = new Set<() => void>();
	/** Remembers damage, then lets the failure go on to whoever asked. */
	const watched = (cause: unknown): never => {
		if (faultOf(cause)?.code === "database-damaged") state.damaged = true;
		throw cause;
	};
	const reader = connect(file);
	try {
		await reader.authenticate();
	} catch (cause) {
		await reader.close().catch(() => undefined);
		throw cause;
	}
	// a connection of its own for writing, kept open: one for each transaction, as Sequelize makes them, reads the schema
	// and fills its cache anew every time, which costs more than the writing
	let writer = connect(file);
	const renew = async (): Promise<void> => {
		await writer.close().catch(() => undefined);
		writer = connect(file);
	};
	// one writer at a time: with DEFERRED transactions two readers that turn writers lose one of the updates
	let queue: Promise<unknown> = Promise.resolve();
	return {
		...sqlOn(reader, watched),
		state,
		onCommit(listener) {
			listeners.add(listener);
			return () => listeners.delete(listener);
		},
		async afterCommit(work) {
			try {
				await work();
			} catch (cause) {
				report("work after a commit failed", cause);
			}
		},
		transaction(work) {
			state.waiting++;
			const result = queue.then(async () => {
				if (state.damaged) throw new Fault({ code: "database-damaged" });
				const sql = sqlOn(writer, watched);
				try {
					await sql.run("BEGIN IMMEDIATE");
					const { commit, value } = await work(sql);
					await sql.run(commit ? "COMMIT" : "ROLLBACK");
					if (commit) state.commits++;
					if (commit) for (const listener of listeners) listener();
					state.refused = null;
					return value;
				} catch (cause) {
					// where SQLite has rolled back by itself there is nothing to roll back; a new connection is in no transaction
					await sql.run("ROLLBACK").catch(renew);
					state.refused = faultOf(cause);
					return watched(cause);
				}
			});
			queue = result.catch(() => undefined).finally(() => state.waiting--);
			return result;
		},
		async close() {
			await queue;
			await writer.close();
			await reader.close();
		},
	};
}

function sqlOn(sequelize: Sequelize, failed: (cause: unknown) => never): Sql {
	const all = <T extends object>(sql: string, bind: Bind = {}): Promise<T[]> =>
		sequelize.query<T>(sql, { bind: bind as Record<string, unknown>, type: QueryTypes.SELECT }).catch(failed);
	return {
		all,
		one: async <T extends object>(sql: string, bind: Bind = {}) => (await all<T>(sql, bind))[0] ?? null,
		run: async (sql, bind = {}) => {
			await sequelize.query(sql, { bind: bind as Record<string, unknown>, type: QueryTypes.RAW }).catch(failed);
		},
	};
}
