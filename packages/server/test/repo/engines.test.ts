import { readdirSync, readFileSync } from "node:fs";
import { fail, ok } from "@alvek/core/result";
import { describe, expect, it } from "vitest";
import { type Context, inWrite, migrate, openDatabase } from "../../src/db";
import { TABLES } from "../../src/db/tables";
import * as repo from "../../src/repo";
import { ENGINES, freshDatabase } from "../engines";
import { makeWorld } from "./world";

describe.each(ENGINES)("$name", (engine) => {
	it("has the tables that are declared, column by column", async () => {
		const { db, close } = await freshDatabase(engine);
		for (const [table, columns] of Object.entries(TABLES)) {
			const there =
				db.dialect.name === "sqlite"
					? await db.all<{ name: string; empty: number; key: number }>(
							`SELECT name, "notnull" = 0 AS empty, pk > 0 AS key FROM pragma_table_info('${table}')`,
						)
					: await db.all<{ name: string; empty: number; key: number }>(
							`SELECT column_name AS name, CASE WHEN is_nullable = 'YES' THEN 1 ELSE 0 END AS empty,
							 CASE WHEN EXISTS (SELECT 1 FROM information_schema.key_column_usage k JOIN information_schema.table_constraints t
							  ON t.constraint_name = k.constraint_name WHERE t.constraint_type = 'PRIMARY KEY' AND k.table_name = $table
							  AND k.column_name = c.column_name) THEN 1 ELSE 0 END AS key
							 FROM information_schema.columns c WHERE table_name = $table`,
							{ table },
						);
			// SQLite says of a text key that it may be empty; nothing here ever writes one
			const declared = Object.entries(columns).map(([name, c]) => [name, c.nullable, c.key]);
			expect([table, there.map((c) => [c.name, c.empty === 1 && c.key === 0, c.key === 1]).sort()]).toEqual([
				table,
				declared.sort(),
			]);
		}
		await close();
	});

	it("keeps who needed which file when older data are opened", async () => {
		const place = await engine.place();
		const db = await openDatabase(place.address);
		await migrate(db, "013-marks-and-owners");
		const [sheet, step, mesh] = ["a", "b", "c"].map((c) => c.repeat(64));
		for (const hash of [sheet, step, mesh])
			await db.run("INSERT INTO blob (hash, size, at) VALUES ($hash, 1, '2026')", { hash: hash as string });
		await db.run("INSERT INTO document (hash, bytes) VALUES ('d', $b)", { b: Buffer.from("{}") });
		for (const statement of [
			`INSERT INTO document_file (document_hash, file_hash) VALUES ('d', '${sheet}')`,
			`INSERT INTO file_upload (hash, person_id, at) VALUES ('${sheet}', 'local', '2026-11-25')`,
			`INSERT INTO geometry (hash, mesh_hash) VALUES ('${step}', '${mesh}')`,
		])
			await db.run(statement);
		await migrate(db);
		expect(await db.all("SELECT hash, owner_kind, owner_id, at FROM blob_use ORDER BY hash, owner_kind")).toEqual([
			{ hash: sheet, owner_kind: "document", owner_id: "d", at: "" },
			{ hash: sheet, owner_kind: "upload", owner_id: "local", at: "2026-11-25" },
			{ hash: step, owner_kind: "geometry", owner_id: step, at: "" },
			{ hash: mesh, owner_kind: "geometry", owner_id: step, at: "" },
		]);
		await db.close();
		await place.remove();
	});

	it("loses no update of twenty writers, and numbers events in the order of commits", async () => {
		const { db, close } = await freshDatabase(engine);
		const { ctx } = await makeWorld(db);
		const project = ctx.newId();
		await inWrite(ctx, async (sql) => ok(await repo.insertProject(ctx, sql, { id: project, name: "0" })));
		/** What a follower of the log saw, asking all the while. */
		const followed: number[] = [];
		let writing = true;
		const follower = (async () => {
			for (let after = 0; writing || (await repo.newestSeq(db)) > after; ) {
				const rows = await repo.eventsAfter(db, after, 100);
				for (const { seq } of rows) followed.push(seq);
				after = rows.at(-1)?.seq ?? after;
				await new Promise(setImmediate);
			}
		})();
		const add = (one: Context) =>
			inWrite(one, async (sql) => {
				const name = String(Number((await repo.projectRow(sql, project))?.name) + 1);
				await repo.changeProjectRow(one, sql, project, { name });
				const event = {
					action: "project.rename",
					kind: "project",
					subject: project,
					changeset: { name },
					inverse: null,
				} as const;
				return ok(await repo.recordEvent(one, sql, event));
			});
		await Promise.all(
			Array.from({ length: 20 }, async () => {
				for (let n = 0; n < 5; n++) await add(ctx);
			}),
		);
		writing = false;
		await follower;
		expect((await repo.projectRow(db, project))?.name).toBe("100");
		expect(followed.length).toBe(100);
		await close();
	});

	it("rolls back what is refused, and goes on after a statement that failed", async () => {
		const { db, close } = await freshDatabase(engine);
		const { ctx } = await makeWorld(db);
		const refused = await inWrite(ctx, async (sql) => {
			await repo.insertProject(ctx, sql, { id: "gone", name: "gone" });
			return fail({ code: "nothing-changed" });
		});
		expect([refused.ok, await repo.hasProject(db, "gone")]).toEqual([false, false]);
		await expect(
			inWrite(ctx, async (sql) => ok(await repo.insertProject(ctx, sql, { id: "p", name: "twice" }))),
		).rejects.toThrow();
		await inWrite(ctx, async (sql) => ok(await repo.insertProject(ctx, sql, { id: "next", name: "next" })));
		expect(await repo.hasProject(db, "next")).toBe(true);
		await close();
	});
});

it("every question that a repository answers is asked here, on both engines", () => {
	const folder = new URL(".", import.meta.url);
	const tests = readdirSync(folder)
		.map((file) => readFileSync(new URL(file, folder), "utf8"))
		.join("\n");
	const questions = Object.entries(repo).filter(
		([, value]) => typeof value === "function" && /\bsql\b/.test(String(value).split(")")[0] ?? ""),
	);
	expect(questions.map(([name]) => name).filter((name) => !tests.includes(`repo.${name}(`))).toEqual([]);
});
