import { fail, ok } from "@alvek/core/result";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { inWrite } from "../src/db";
import { newContext } from "../src/index";
import { fixture, newId, type Running, startServer } from "./harness";

let server: Running;
let project: string;
beforeAll(async () => {
	server = await startServer();
	project = newId();
	await server.must("createProject", { id: project, name: "Written" });
	await server.importFile(project, "nested.step", fixture("nested.step"));
});
afterAll(() => server.stop());

describe("writing", () => {
	it("rolls back when the Result is not ok, and when something throws", async () => {
		const ctx = newContext(server.installation.db);
		const count = async (): Promise<number> => (await ctx.db.one<{ n: number }>("SELECT COUNT(*) AS n FROM project"))?.n ?? 0;
		const before = await count();
		const insert = "INSERT INTO project (id, name, changed_at) VALUES ($id, 'planted', '')";
		const refused = await inWrite(ctx, async (sql) => {
			await sql.run(insert, { id: newId() });
			return fail({ code: "nothing-changed" });
		});
		expect(refused.ok).toBe(false);
		await expect(
			inWrite(ctx, async (sql) => {
				await sql.run(insert, { id: newId() });
				throw new Error("planted");
			}),
		).rejects.toThrow("planted");
		expect(await count()).toBe(before);
	});

	it("lets twenty writers read and modify one row without losing an update", async () => {
		const ctx = newContext(server.installation.db);
		await ctx.db.run("INSERT INTO project (id, name, changed_at) VALUES ('counter', '0', '')");
		const add = () =>
			inWrite(ctx, async (sql) => {
				const row = await sql.one<{ name: string }>("SELECT name FROM project WHERE id = 'counter'");
				await sql.run("UPDATE project SET name = $n WHERE id = 'counter'", { n: String(Number(row?.name) + 1) });
				return ok(null);
			});
		await Promise.all(Array.from({ length: 100 }, add));
		expect((await ctx.db.one<{ name: string }>("SELECT name FROM project WHERE id = 'counter'"))?.name).toBe("100");
		await ctx.db.run("DELETE FROM project WHERE id = 'counter'");
	});

	it("tells after a commit what was written, and nothing after one that was taken back", async () => {
		const { db } = server.installation;
		const told: string[][] = [];
		const stop = db.onCommit((tables) => told.push([...tables].sort()));
		const write = (commit: boolean) =>
			db.transaction(async (sql) => {
				await sql.insert("team", { id: newId(), name: "Planted" });
				await sql.run("UPDATE project SET name = '1' WHERE id = 'counter'");
				await sql.all("SELECT name FROM library WHERE id = 'nowhere'");
				await sql.run("DELETE FROM working_list WHERE material_id = 'nowhere'");
				await sql.run(
					"INSERT INTO star (person_id, material_id, ord) SELECT id, id, 1 FROM person WHERE id = 'nowhere' ON CONFLICT (person_id, material_id) DO UPDATE SET ord = 2",
				);
				return { commit, value: null };
			});
		await write(false);
		await write(true);
		stop();
		expect(told).toEqual([["project", "star", "team", "working_list"]]);
	});

	it("keeps a log: every change has its event, in the same transaction", async () => {
		const events = await server.installation.db.all<{ action: string }>(
			"SELECT action FROM event WHERE subject_id = $project ORDER BY seq",
			{ project },
		);
		expect(events.map((e) => e.action).slice(0, 2)).toEqual(["project.create", "project.import"]);
	});

	it("opens its connections as it must", async () => {
		const { db } = server.installation;
		const pragma = async (name: string) => Object.values((await db.one<Record<string, unknown>>(`PRAGMA ${name}`)) ?? {})[0];
		expect([await pragma("journal_mode"), await pragma("foreign_keys"), await pragma("synchronous")]).toEqual(["wal", 1, 2]);
	});
});
