import { Sequelize } from "sequelize";
import sqlite3 from "sqlite3";
import { type Dialect, postgres, sqlite } from "./dialect";

/** How one engine is connected to. */
export type Engine = {
	readonly dialect: Dialect;
	reader(): Sequelize;
	/** One connection, so that what is begun on it goes on on it. */
	writer(): Sequelize;
};

/** @param address a file of SQLite, or `postgres://...` */
export const engineAt = (address: string): Promise<Engine> =>
	/^postgres(ql)?:\/\//.test(address) ? postgresAt(address) : Promise.resolve(sqliteIn(address));

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

function sqliteIn(file: string): Engine {
	const connect = (): Sequelize =>
		new Sequelize({
			dialect: "sqlite",
			storage: file,
			dialectModule: { ...sqlite3, Database: PragmaDatabase },
			logging: false,
		});
	return { dialect: sqlite, reader: connect, writer: connect };
}

/** Oid of int8, which counts are; none here is beyond what a double holds exactly. */
const INT8 = 20;
const READERS = 8;

async function postgresAt(url: string): Promise<Engine> {
	// loaded only where it is used: most installations never need it
	const { default: pg } = await import("pg");
	pg.types.setTypeParser(INT8, Number);
	const connect = (max: number): Sequelize =>
		new Sequelize(url, {
			dialect: "postgres",
			dialectModule: pg,
			logging: false,
			pool: { max, min: 1, idle: 60_000 },
		});
	return { dialect: postgres, reader: () => connect(READERS), writer: () => connect(1) };
}
