import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import type { Server } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { listen } from "../src/index";
import { type Running, startServer } from "./harness";

/** The server with a folder of built files in the place of the interface. */
const web = mkdtempSync(join(tmpdir(), "alvek-web-"));
let running: Running;
let server: Server;
let base: string;
beforeAll(async () => {
	mkdirSync(join(web, "assets"));
	writeFileSync(join(web, "index.html"), "<!doctype html><title>Alvek</title>");
	writeFileSync(join(web, "assets", "app-1.js"), "console.log(1)".repeat(200));
	writeFileSync(join(web, "..", "secret.txt"), "secret");
	running = await startServer();
	const started = await listen(running.installation, {
		port: 0,
		host: "127.0.0.1",
		webRoot: web,
		hostNames: ["alvek.works"],
		log: "silent",
	});
	server = started.server;
	base = `http://127.0.0.1:${started.port}`;
});
afterAll(async () => {
	server.close();
	server.closeAllConnections();
	await running.stop();
	rmSync(web, { recursive: true, force: true });
});

describe("serving the interface", () => {
	it("answers every place with the page, so that an address can be sent to a colleague", async () => {
		for (const path of ["/", "/materials?text=x", "/parts/winch", "/materials/a/b/c"]) {
			const response = await fetch(base + path);
			expect([response.status, await response.text()]).toEqual([200, "<!doctype html><title>Alvek</title>"]);
			expect(response.headers.get("cache-control")).toBe("no-cache");
		}
	});

	it("keeps assets for ever by their name, compressed, and has no page in the place of a missing one", async () => {
		const asset = await fetch(`${base}/assets/app-1.js`, { headers: { "Accept-Encoding": "gzip" } });
		expect(asset.headers.get("cache-control")).toContain("immutable");
		expect(asset.headers.get("content-encoding")).toBe("gzip");
		expect((await fetch(`${base}/assets/none.js`)).status).toBe(404);
	});

	it("lets no path out of the folder", async () => {
		for (const path of ["/assets/..%2f..%2fsecret.txt", "/..%2fsecret.txt", "/assets/%2e%2e/%2e%2e/secret.txt"]) {
			const response = await fetch(base + path);
			expect(await response.text()).not.toContain("secret");
		}
	});

	it("sends a policy that lets nothing in from outside, and none that breaks plain http", async () => {
		const { headers } = await fetch(`${base}/`);
		const policy = headers.get("content-security-policy") ?? "";
		expect(policy).toContain("default-src 'self'");
		expect(policy).toContain("script-src 'self'");
		expect(policy).not.toContain("upgrade-insecure-requests");
		expect(headers.get("strict-transport-security")).toBeNull();
		expect(headers.get("x-powered-by")).toBeNull();
		expect(headers.get("x-content-type-options")).toBe("nosniff");
	});

	it("answers the API's unknown routes as the API does", async () => {
		const response = await fetch(`${base}/api/v1/nothing`);
		expect([response.status, ((await response.json()) as { ok: boolean }).ok]).toEqual([404, false]);
	});

	it("a busy port is told by its code", async () => {
		const port = Number(new URL(base).port);
		await expect(
			listen(running.installation, { port, host: "127.0.0.1", webRoot: null, hostNames: [], log: "silent" }),
		).rejects.toMatchObject({ code: "EADDRINUSE" });
	});
});
