export type ColumnType = "text" | "integer" | "real" | "bytes";

/** A trigger that runs statements which both engines understand, row by row, after a change. */
export type TableTrigger = {
	readonly name: string;
	readonly table: string;
	/** `INSERT`, `UPDATE OF a, b` and so on. */
	readonly when: string;
	/** Whole statements, each with its semicolon; NEW and OLD are the rows. */
	readonly body: string;
};

/** A trigger that refuses a row before it is written. */
export type Guard = {
	readonly name: string;
	readonly table: string;
	readonly when: string;
	/** What has to hold for the row to be looked at. */
	readonly only: string;
	/** What may not be. */
	readonly wrong: string;
	/** The code that the statement fails with. */
	readonly code: string;
};

/** A piece of a statement with what it binds. */
export type Condition = { readonly sql: string; readonly bind: Readonly<Record<string, string>> };

/**
 * What the two engines say differently, as facts and as pieces of SQL. Whoever writes a statement asks for the piece, never
 * which engine it is. A parameter is named without its `$`.
 */
export type Dialect = {
	readonly name: "sqlite" | "postgres";
	/** A list of texts, bound as JSON: `id IN ${list("ids")}`. */
	list(parameter: string): string;
	/** The same with each one's place, from 0, as columns `value` and `n`: something to select from. */
	numbered(parameter: string, alias: string): string;
	/** Rows bound as a JSON array of objects, as something to select from. */
	rows(parameter: string, alias: string, columns: Readonly<Record<string, ColumnType>>): string;
	/** A field of a JSON text column, as text. */
	field(column: string, key: string): string;
	/** A whole number in a field of a JSON text column. */
	number(column: string, key: string): string;
	/** The bytes of a text, in UTF-8. */
	utf8(text: string): string;
	/** A parameter that stands alone, where nothing else tells its type. */
	typed(parameter: string, type: ColumnType): string;
	/** Joins a small table to a large one in this order, where the planner can be told. */
	readonly joinInOrder: string;
	/** Statements that begin a transaction in which nobody else writes. */
	readonly begin: readonly string[];
	/** Finds a row when the table `$name` is there. */
	readonly tableNamed: string;
	/** A statement of a migration, written for SQLite, as this engine takes it; several where it has to be told apart. */
	ddl(statement: string): { readonly now: readonly string[]; readonly last: readonly string[] };
	trigger(trigger: TableTrigger): readonly string[];
	guard(guard: Guard): readonly string[];
	dropTrigger(name: string, table: string): readonly string[];
};

/** Both engines take it; IS is SQLite's alone, and PostgreSQL asks no index for IS NOT DISTINCT FROM. */
export const sameOrNull = (column: string, parameter: string, value: string | null): Condition =>
	value === null ? { sql: `${column} IS NULL`, bind: {} } : { sql: `${column} = $${parameter}`, bind: { [parameter]: value } };
