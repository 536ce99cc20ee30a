import type { Dialect } from "./types";

/** SQLite, from 3.38 on (`->>`). */
export const sqlite: Dialect = {
	name: "sqlite",
	list: (parameter) => `(SELECT value FROM json_each($${parameter}))`,
	numbered: (parameter, alias) => `(SELECT value, key AS n FROM json_each($${parameter})) ${alias}`,
	rows: (parameter, alias, columns) => {
		const picked = Object.keys(columns).map((name) => `value ->> '${name}' AS "${name}"`);
		return `(SELECT ${picked.join(", ")} FROM json_each($${parameter})) ${alias}`;
	},
	field: (column, key) => `${column} ->> '${key}'`,
	number: (column, key) => `CAST(${column} ->> '${key}' AS INTEGER)`,
	utf8: (text) => `CAST(${text} AS BLOB)`,
	typed: (parameter) => `$${parameter}`,
	// of a cross join SQLite keeps the order
	joinInOrder: "CROSS JOIN",
	begin: ["BEGIN IMMEDIATE"],
	tableNamed: "SELECT 1 AS x FROM sqlite_master WHERE type = 'table' AND name = $name",
	ddl: (statement) => ({ now: [statement], last: [] }),
	trigger: ({ name, table, when, body }) => [`CREATE TRIGGER ${name} AFTER ${when} ON ${table} BEGIN ${body} END`],
	guard: ({ name, table, when, only, wrong, code }) => [
		`CREATE TRIGGER ${name} BEFORE ${when} ON ${table} WHEN ${only} BEGIN SELECT RAISE(ABORT, '${code}') WHERE ${wrong}; END`,
	],
	dropTrigger: (name) => [`DROP TRIGGER ${name}`],
};
