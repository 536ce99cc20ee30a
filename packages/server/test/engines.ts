import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { inject } from "vitest";
import { type Db, migrate, openDatabase } from "../src/db";

/** A database of its own: where it is, and how it goes again. */
export type Place = { readonly address: string; remove(): Promise<void> };

/** An engine that tests run on. */
export type TestEngine = { readonly name: string; place(): Promise<Place> };

const sqlite: TestEngine = {
	name: "SQLite",
	async place() {
		const folder = mkdtempSync(join(tmpdir(), "alvek-repo-"));
		return {
			address: join(folder, "test.sqlite"),
			async remove() {
				rmSync(folder, { recursive: true, force: true });
			},
		};
	},
};

const postgresAt = (url: string): TestEngine => ({
	name: "PostgreSQL",
	async place() {
		const name = `t${crypto.randomUUID().replaceAll("-", "")}`;
		const administrate = async (statement: string): Promise<void> => {
			const db = await openDatabase(url);
			await db.run(statement);
			await db.close();
		};
		await administrate(`CREATE DATABASE ${name}`);
		return { address: url.replace(/[^/]+$/, name), remove: () => administrate(`DROP DATABASE ${name} WITH (FORCE)`) };
	},
});

/** SQLite, and PostgreSQL where it is installed. */
export const ENGINES: readonly TestEngine[] = [
	sqlite,
	...[inject("postgres")].flatMap((url) => (url === null ? [] : [postgresAt(url)])),
];

/** An open database with all tables, and what closes and removes it. */
export async function freshDatabase(engine: TestEngine): Promise<{ db: Db; close(): Promise<void> }> {
	const place = await engine.place();
	const db = await openDatabase(place.address);
	await migrate(db);
	return {
		db,
		async close() {
			await db.close();
			await place.remove();
		},
	};
}
