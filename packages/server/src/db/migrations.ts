import { Umzug } from "umzug";
import type { Db, Sql } from "./connection";
import type { Dialect } from "./dialect";
import { Fault } from "./faults";
import { MIGRATIONS, type Step } from "./migrations.data";

/** Statements of a migration on this engine: keys to tables that come later stand at its end. */
function statementsOf(steps: readonly Step[], dialect: Dialect): readonly string[] {
	const last: string[] = [];
	const now = steps.flatMap((step) => {
		if (typeof step !== "string") return step(dialect);
		const told = dialect.ddl(step);
		last.push(...told.last);
		return told.now;
	});
	return [...now, ...last];
}

/** The newest migration that this program knows. */
export const NEWEST = MIGRATIONS.at(-1)?.name as string;

/**
 * Brings the database up to date. A migration and its log entry share one transaction: umzug's own storage writes the
 * log after `up`, so a kill in between would run the migration twice.
 * @param upTo the last one to run, for data that are only looked at
 */
export async function migrate(db: Db, upTo: string = NEWEST): Promise<void> {
	await refuseNewer(db);
	await db.run("CREATE TABLE IF NOT EXISTS migration (name TEXT PRIMARY KEY)");
	const umzug = new Umzug({
		migrations: MIGRATIONS.filter((m) => m.name <= upTo).map(({ name, steps }) => ({
			name,
			up: () =>
				db.transaction(async (sql: Sql) => {
					for (const statement of statementsOf(steps, db.dialect)) await sql.run(statement);
					await sql.run("INSERT INTO migration (name) VALUES ($name)", { name });
					return { commit: true, value: undefined };
				}),
		})),
		storage: {
			// the transaction above has written the entry already
			logMigration: async () => undefined,
			unlogMigration: async () => undefined,
			executed: async () => (await db.all<{ name: string }>("SELECT name FROM migration ORDER BY name")).map((r) => r.name),
		},
		logger: undefined,
	});
	await umzug.up();
}

/**
 * Data that a newer program has written are left alone: what it added would be lost by one that does not know it.
 * @throws Fault `data-newer`
 */
export async function refuseNewer(sql: Sql): Promise<void> {
	const begun = await sql.one(sql.dialect.tableNamed, { name: "migration" });
	if (begun === null) return;
	const known = JSON.stringify(MIGRATIONS.map((m) => m.name));
	const newer = await sql.one<{ name: string }>(
		`SELECT name FROM migration WHERE name NOT IN ${sql.dialect.list("known")} ORDER BY name DESC LIMIT 1`,
		{ known },
	);
	if (newer !== null) throw new Fault({ code: "data-newer", actual: newer.name, expected: NEWEST });
}
