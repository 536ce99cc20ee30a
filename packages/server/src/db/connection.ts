import { QueryTypes, Sequelize, Transaction } from "sequelize";
import sqlite3 from "sqlite3";

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
	close(): Promise<void>;
};

/** Sequelize never calls `afterConnect` for SQLite, so every connection sets its own pragmas when it opens. */
class PragmaDatabase extends sqlite3.Database {
	constructor(filename: string, mode?: number | ((e: Error | null) => void), callback?: (e: Error | null) => void) {
		super(filename, mode as number, callback as (e: Error | null) => void);
		this.exec("PRAGMA journal_mode=WAL; PRAGMA foreign_keys=ON; PRAGMA busy_timeout=10000; PRAGMA synchronous=FULL;");
	}
}

export async function openDatabase(file: string): Promise<Db> {
	const sequelize = new Sequelize({
		dialect: "sqlite",
		storage: file,
		dialectModule: { ...sqlite3, Database: PragmaDatabase },
		logging: false,
	});
	await sequelize.authenticate();
	// one writer at a time: with DEFERRED transactions two readers that turn writers lose one of the updates
	let queue: Promise<unknown> = Promise.resolve();
	return {
		...sqlOn(sequelize, null),
		transaction(work) {
			const result = queue.then(async () => {
				const transaction = await sequelize.transaction({ type: Transaction.TYPES.IMMEDIATE });
				try {
					const { commit, value } = await work(sqlOn(sequelize, transaction));
					await (commit ? transaction.commit() : transaction.rollback());
					return value;
				} catch (cause) {
					await transaction.rollback();
					throw cause;
				}
			});
			queue = result.catch(() => undefined);
			return result;
		},
		async close() {
			await queue;
			await sequelize.close();
		},
	};
}

function sqlOn(sequelize: Sequelize, transaction: Transaction | null): Sql {
	const all = <T extends object>(sql: string, bind: Bind = {}): Promise<T[]> =>
		sequelize.query<T>(sql, { bind: bind as Record<string, unknown>, type: QueryTypes.SELECT, transaction });
	return {
		all,
		one: async <T extends object>(sql: string, bind: Bind = {}) => (await all<T>(sql, bind))[0] ?? null,
		run: async (sql, bind = {}) => {
			await sequelize.query(sql, { bind: bind as Record<string, unknown>, type: QueryTypes.RAW, transaction });
		},
	};
}
