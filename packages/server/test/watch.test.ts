import { Writable } from "node:stream";
import { pino } from "pino";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { createApp } from "../src/http/app";
import { client, newId, type Running, startServer, tokenOf } from "./harness";

/** What whoever runs the server sees of it. */
let api: Running;
beforeAll(async () => {
	api = await startServer();
	await api.installation.db.run("INSERT INTO person (id, name, initials, admin) VALUES ('plain', 'Plain', 'P', 0)");
});
afterAll(() => api.stop());

describe("health", () => {
	it("tells everybody in words, administrators in figures", async () => {
		const words = (await (await fetch(`${api.base}/api/health`)).json()) as Record<string, unknown>;
		expect(words).toEqual({ ok: true, version: "test", database: "ok", queue: "ok", disk: "ok", backup: "not scheduled" });
		const health = await api.must("readHealth", {});
		expect(health.disk.free_bytes).toBeGreaterThan(0);
		expect(health.queue.waiting).toBe(0);
		const before = health.database.commits;
		await api.must("createProject", { id: newId(), name: "Counted" });
		expect((await api.must("readHealth", {})).database.commits).toBe(before + 1);
	});
});

describe("metrics", () => {
	it("are for administrators, and count requests by the pattern of their route", async () => {
		expect((await fetch(`${api.base}/api/metrics`)).status).toBe(401);
		const plain = client(api.base, await tokenOf(api.installation, "plain"));
		expect((await plain.raw("/api/metrics")).status).toBe(403);
		await api.call("getSheet", { id: "nowhere-at-all" });
		const response = await api.raw("/api/metrics");
		expect(response.headers.get("content-type")).toContain("text/plain");
		const text = await response.text();
		expect(text).toMatch(/^alvek_requests_total\{method="GET",route="\/api\/v1\/materials\/:id",status="404"\} 1$/m);
		expect(text).not.toContain("nowhere-at-all");
		expect(text).toMatch(/^alvek_database_ok 1$/m);
		expect(text).toMatch(/^alvek_writes_waiting 0$/m);
		// the open format: every sample's name was announced with its type
		const announced = new Set([...text.matchAll(/^# TYPE (\S+)/gm)].map((m) => m[1] as string));
		for (const [, name = ""] of text.matchAll(/^([a-z_:]+)(?:\{[^}]*\})? \S+$/gm))
			expect(announced.has(name) || announced.has(name.replace(/_(bucket|sum|count|total)$/, ""))).toBe(true);
	});
});

describe("the log", () => {
	it("has one line a request with its id, and no secret, name or address in it", async () => {
		const lines: Record<string, unknown>[] = [];
		const out = new Writable({
			write(chunk, _encoding, done) {
				lines.push(JSON.parse(String(chunk)) as Record<string, unknown>);
				done();
			},
		});
		const { db, services, hub, health } = api.installation;
		const app = createApp({ db, services, hub, health, log: pino({ level: "info" }, out), webRoot: null, hostNames: [] });
		const server = app.listen(0, "127.0.0.1");
		await new Promise((r) => server.once("listening", r));
		const base = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
		const who = await tokenOf(api.installation, "local");
		const secret = "S".repeat(43);
		const replies = [
			await fetch(`${base}/api/v1/tickets/${secret}`),
			await fetch(`${base}/api/v1/session`, {
				method: "POST",
				headers: { "Content-Type": "application/json", Origin: base },
				body: JSON.stringify({ login: "local", password: "correct horse" }),
			}),
			await fetch(`${base}/api/v1/materials?text=hush`, { headers: who }),
		];
		for (let n = 0; n < 200 && lines.length < replies.length; n++) await new Promise((r) => setTimeout(r, 25));
		server.close();
		expect(lines.map((l) => l.request)).toEqual(replies.map((r) => r.headers.get("x-request-id")));
		expect(new Set(lines.map((l) => l.request)).size).toBe(3);
		expect(lines[2]).toMatchObject({ method: "GET", route: "/api/v1/materials", status: 200, person: "local" });
		const all = JSON.stringify(lines);
		for (const hidden of [secret, "correct horse", "hush", who.Authorization ?? ""]) expect(all).not.toContain(hidden);
	});
});
