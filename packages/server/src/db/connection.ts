import type { Issue } from "@alvek/core/result";
import { QueryTypes, type Sequelize } from "sequelize";
import type { Dialect } from "./dialect";
import { type Engine, engineAt } from "./engines";
import { Fault, faultOf } from "./faults";
import { type Report, reportToConsole } from "./report";
import { defineTables, type Models, type NewRow, type Row, type Some, type TableName } from "./tables";

export type Bind = Readonly<Record<string, string | number | boolean | null | Buffer>>;

/** What a statement can be run on: the connection, or a transaction on it. */
export type Sql = {
	readonly dialect: Dialect;
	all<T extends object>(sql: string, bind?: Bind): Promise<T[]>;
	one<T extends object>(sql: string, bind?: Bind): Promise<T | null>;
	run(sql: string, bind?: Bind): Promise<void>;
	/** The row with these values; null when there is none. */
	find<T extends TableName>(table: T, where: Some<T>): Promise<Row<T> | null>;
	has<T extends TableName>(table: T, where: Some<T>): Promise<boolean>;
	count<T extends TableName>(table: T, where: Some<T>): Promise<number>;
	insert<T extends TableName>(table: T, row: NewRow<T>): Promise<void>;
	/** Nothing where the row is there already. */
	ensure<T extends TableName>(table: T, row: NewRow<T>): Promise<void>;
	update<T extends TableName>(table: T, where: Some<T>, set: Some<T>): Promise<void>;
	remove<T extends TableName>(table: T, where: Some<T>): Promise<void>;
};

export type Db = Sql & {
	/** Runs `work` in a transaction, one after the other; rolls back when it throws or answers `false`. */
	transaction<T>(work: (sql: Sql) => Promise<{ commit: boolean; value: T }>): Promise<T>;
	/** Called after every commit with the tables that its statements wrote; ends with what it returns. */
	onCommit(listener: Committed): () => void;
	readonly state: DbState;
	close(): Promise<void>;
};

/** What triggers wrote beside is not among the tables. */
export type Committed = (tables: ReadonlySet<string>) => void;

/** How the database is doing, for health and metrics. */
export type DbState = {
	/** Writes that wait or run. */
	waiting: number;
	commits: number;
	/** Statements asked of the database, for whoever counts what a step costs. */
	statements: number;
	/** Why the latest write was refused by disk or database; null when it was not. */
	refused: Issue | null;
	/** Once a page was found damaged nothing is written any more, so that nothing is made worse. */
	damaged: boolean;
};

/** @param address a file of SQLite, or `postgres://...` */
export async function openDatabase(address: string, report: Report = reportToConsole): Promise<Db> {
	const engine = await engineAt(address);
	const state: DbState = { waiting: 0, commits: 0, statements: 0, refused: null, damaged: false };
	const listeners = new Set<Committed>();
	/** Remembers damage, then lets the failure go on to whoever asked. */
	const watched = (cause: unknown): never => {
		if (faultOf(cause)?.code === "database-damaged") state.damaged = true;
		throw cause;
	};
	const reader = engine.reader();
	try {
		await reader.authenticate();
	} catch (cause) {
		await reader.close().catch(() => undefined);
		throw cause;
	}
	const counted = (): void => void state.statements++;
	const written = new Set<string>();
	const writing = writerOf(engine, watched, (tables) => {
		counted();
		for (const table of tables) written.add(table);
	});
	// one writer at a time: with DEFERRED transactions two readers that turn writers lose one of the updates
	let queue: Promise<unknown> = Promise.resolve();
	return {
		...sqlOn(reader, engine.dialect, watched, counted),
		state,
		onCommit(listener) {
			listeners.add(listener);
			return () => listeners.delete(listener);
		},
		transaction(work) {
			state.waiting++;
			const result = queue.then(async () => {
				if (state.damaged) throw new Fault({ code: "database-damaged" });
				const sql = writing.sql();
				written.clear();
				try {
					for (const statement of engine.dialect.begin) await sql.run(statement);
					const { commit, value } = await work(sql);
					await sql.run(commit ? "COMMIT" : "ROLLBACK");
					if (commit) state.commits++;
					const tables = new Set(written);
					if (commit) for (const listener of listeners) tell(() => listener(tables), report);
					state.refused = null;
					return value;
				} catch (cause) {
					// where the engine has rolled back by itself there is nothing to roll back; a new connection is in no transaction
					await sql.run("ROLLBACK").catch(writing.renew);
					state.refused = faultOf(cause);
					return watched(cause);
				}
			});
			queue = result.catch(() => undefined).finally(() => state.waiting--);
			return result;
		},
		async close() {
			await queue;
			await writing.close();
			await reader.close();
		},
	};
}

/** What is stored is stored: whoever listens never makes it a failure. */
function tell(listener: () => void, report: Report): void {
	try {
		listener();
	} catch (cause) {
		report("work after a commit failed", cause);
	}
}

/**
 * A connection of its own for writing, kept open: one for each transaction, as Sequelize makes them, reads the schema and
 * fills its cache anew every time, which costs more than the writing.
 */
function writerOf(engine: Engine, watched: (cause: unknown) => never, counted: Counted) {
	let sequelize = engine.writer();
	let sql = sqlOn(sequelize, engine.dialect, watched, counted);
	return {
		sql: () => sql,
		close: () => sequelize.close(),
		async renew(): Promise<void> {
			await sequelize.close().catch(() => undefined);
			sequelize = engine.writer();
			sql = sqlOn(sequelize, engine.dialect, watched, counted);
		},
	};
}

/** Called with each statement and the tables that it may write. */
type Counted = (tables: readonly string[]) => void;

/** Tables that a statement names as those it writes; `DO UPDATE SET` names none. */
export function tablesWritten(statement: string): readonly string[] {
	return [...statement.matchAll(/\b(?:INTO|UPDATE(?!\s+SET\b)|DELETE\s+FROM)\s+"?(\w+)/gi)].map((m) => m[1] as string);
}

/** What a model is asked for, of whatever table. */
type AnyModel = {
	findOne(options: object): Promise<unknown>;
	count(options: object): Promise<number>;
	create(row: object, options: object): Promise<unknown>;
	bulkCreate(rows: readonly object[], options: object): Promise<unknown>;
	update(set: object, options: object): Promise<unknown>;
	destroy(options: object): Promise<unknown>;
};

function sqlOn(sequelize: Sequelize, dialect: Dialect, failed: (cause: unknown) => never, counted: Counted): Sql {
	const models: Models = defineTables(sequelize);
	const model = (table: TableName): AnyModel => {
		counted([table]);
		// which columns there are is known by the types of whoever asks; here it is any table
		return models[table] as unknown as AnyModel;
	};
	/** Without values nothing in a statement is one: a body of a function may hold dollar signs. */
	const bound = (bind: Bind | undefined) => (bind === undefined ? {} : { bind: bind as Record<string, unknown> });
	const all = <T extends object>(sql: string, bind?: Bind): Promise<T[]> => {
		counted(tablesWritten(sql));
		return sequelize.query<T>(sql, { ...bound(bind), type: QueryTypes.SELECT }).catch(failed);
	};
	const quick = { hooks: false, validate: false, returning: false };
	return {
		dialect,
		all,
		one: async <T extends object>(sql: string, bind?: Bind) => (await all<T>(sql, bind))[0] ?? null,
		async run(sql, bind) {
			counted(tablesWritten(sql));
			await sequelize.query(sql, { ...bound(bind), type: QueryTypes.RAW }).catch(failed);
		},
		find: <T extends TableName>(table: T, where: Some<T>) =>
			model(table).findOne({ where, raw: true, hooks: false }).catch(failed) as Promise<Row<T> | null>,
		has: async (table, where) => (await model(table).findOne({ where, raw: true, hooks: false }).catch(failed)) !== null,
		count: (table, where) => model(table).count({ where }).catch(failed),
		async insert(table, row) {
			await model(table)
				.create(row, { ...quick, raw: true })
				.catch(failed);
		},
		async ensure(table, row) {
			await model(table)
				.bulkCreate([row], { ...quick, ignoreDuplicates: true })
				.catch(failed);
		},
		async update(table, where, set) {
			await model(table)
				.update(set, { ...quick, where })
				.catch(failed);
		},
		async remove(table, where) {
			await model(table).destroy({ where, hooks: false }).catch(failed);
		},
	};
}
