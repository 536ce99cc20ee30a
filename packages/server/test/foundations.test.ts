import { ROUTES, type RouteName } from "@alvek/contract";
import { fail, ok } from "@alvek/core/result";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { inWrite } from "../src/db/write";
import { newContext } from "../src/index";
import { fixture, newId, type Running, startServer } from "./harness";

let server: Running;
let project: string;
let part: string;
beforeAll(async () => {
	server = await startServer();
	project = newId();
	await server.must("createProject", { id: project, name: "Secret" });
	await server.importFile(project, "nested.step", fixture("nested.step"));
	part = (await server.must("getProject", { id: project })).parts[0]?.id ?? "";
	await server.installation.db.run(
		"INSERT INTO person (id, name, initials, admin) VALUES ('stranger', 'Stranger', 'S', 0), ('reader', 'Reader', 'R', 0)",
	);
	await server.installation.db.run(
		`INSERT INTO access_grant (subject, kind, target, role) VALUES ('reader', 'library', 'own', 'reader'), ('reader', 'project', '${project}', 'reader')`,
	);
});
afterAll(() => server.stop());

const context = (person: string) => ({ ...newContext(server.installation.db), actor: { person, admin: false } });

describe("rights, for every route of the table", () => {
	const inputs = (): Record<string, unknown> => ({
		getSession: {},
		listLibraries: {},
		findMaterials: {},
		getSheet: { id: "plate" },
		getRevision: { id: "plate", no: "1" },
		createMaterial: { id: newId(), libraryId: "own", name: "Intruder" },
		changeMaterial: { id: "plate", name: "Renamed" },
		saveDraft: { id: "plate", edits: [{ at: "field:notes", from: "", to: "x" }] },
		discardDraft: { id: "plate" },
		publishDraft: { id: "plate", note: "x", version: 1 },
		copyMaterial: { id: "plate", newId: newId(), libraryId: "own" },
		removeMaterial: { id: "plate" },
		listBin: {},
		undo: { event: 1 },
		listProjects: {},
		createProject: { id: newId(), name: "Own project" },
		renameProject: { id: project, name: "Taken" },
		removeProject: { id: project },
		getProject: { id: project },
		assign: { id: project, parts: [part], materialId: "plate" },
		bringForward: { id: project, parts: [part] },
		getJob: { id: "job" },
		cancelJob: { id: "job" },
	});
	/** What a stranger and a reader get: a code, or how many things they see. */
	const table: Record<string, [stranger: string | number, reader: string | number]> = {
		getSession: ["ok", "ok"],
		listLibraries: [0, 1],
		findMaterials: [0, 1],
		getSheet: ["not-found", "ok"],
		getRevision: ["not-found", "ok"],
		createMaterial: ["not-found", "forbidden"],
		changeMaterial: ["not-found", "forbidden"],
		saveDraft: ["not-found", "forbidden"],
		discardDraft: ["not-found", "forbidden"],
		publishDraft: ["not-found", "forbidden"],
		copyMaterial: ["not-found", "forbidden"],
		removeMaterial: ["not-found", "forbidden"],
		listBin: [0, 0],
		undo: ["not-found", "not-found"],
		listProjects: [0, 1],
		createProject: ["ok", "ok"],
		renameProject: ["not-found", "forbidden"],
		removeProject: ["not-found", "forbidden"],
		getProject: ["not-found", "ok"],
		assign: ["not-found", "forbidden"],
		bringForward: ["not-found", "forbidden"],
		getJob: ["not-found", "not-found"],
		cancelJob: ["not-found", "not-found"],
	};
	const RAW = ["exportMaterial", "getMesh", "massTable", "importGeometry"];

	it("covers the whole table", () => {
		expect([...Object.keys(table), ...RAW].sort()).toEqual(Object.keys(ROUTES).sort());
	});

	it.each(["stranger", "reader"] as const)("%s", async (person) => {
		for (const [name, expected] of Object.entries(table)) {
			const handler = server.installation.services.json[name as Exclude<RouteName, never> as never] as (
				c: unknown,
				i: unknown,
			) => Promise<{ ok: boolean; value?: unknown; issues?: { code: string }[] }>;
			const result = await handler(context(person), inputs()[name]);
			const value = result.value as { total?: number; length?: number } | undefined;
			const seen = result.ok
				? typeof expected[0] === "number"
					? (value?.total ?? value?.length)
					: "ok"
				: result.issues?.[0]?.code;
			expect([name, seen]).toEqual([name, expected[person === "stranger" ? 0 : 1]]);
		}
	});

	it("the routes of bytes too", async () => {
		const { raw } = server.installation.services;
		const ctx = context("stranger");
		const hash = "0".repeat(64);
		for (const result of [
			await raw.exportMaterial(ctx, { id: "plate" }),
			await raw.getMesh(ctx, { id: project, hash }),
			await raw.massTable(ctx, { id: project }),
			await raw.importGeometry(ctx, { id: project, file: "x", job: newId() }, { stream: null as never, length: 1 }),
		]) {
			expect(result.ok ? "ok" : result.issues[0]?.code).toBe("not-found");
		}
	});
});

describe("writing", () => {
	it("rolls back when the Result is not ok, and when something throws", async () => {
		const ctx = newContext(server.installation.db);
		const count = async (): Promise<number> => (await ctx.db.one<{ n: number }>("SELECT COUNT(*) AS n FROM project"))?.n ?? 0;
		const before = await count();
		const insert = "INSERT INTO project (id, name, changed_at) VALUES ($id, 'planted', '')";
		const refused = await inWrite(ctx, async (sql) => {
			await sql.run(insert, { id: newId() });
			return fail({ code: "planted" });
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
