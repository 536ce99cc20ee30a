import { describeIssue } from "@alvek/core/result";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newContext } from "../src/index";
import { createImports } from "../src/parts";
import { hashPassword, passwordFits } from "../src/people/password";
import { builtWorkers, createJobs, createWorkers } from "../src/runtime";
import { client, newId, personWith, type Running, startServer, tokenOf, value } from "./harness";
import { edit, make } from "./team";

/** What a hostile or hurried caller sends, and what fails after it was stored. */
let server: Running;
beforeAll(async () => {
	server = await startServer();
});
afterAll(() => server.stop());

const json = (headers: Record<string, string> = {}): Record<string, string> => ({
	"Content-Type": "application/json",
	Origin: server.base,
	...headers,
});
async function signIn(body: unknown, headers: Record<string, string> = {}): Promise<[number, string]> {
	const text = typeof body === "string" ? body : JSON.stringify(body);
	const reply = await fetch(`${server.base}/api/v1/session/sign-in`, { method: "POST", headers: json(headers), body: text });
	const answer = (await reply.json()) as { issues?: { code: string }[] };
	return [reply.status, answer.issues?.[0]?.code ?? "ok"];
}
async function withPassword(login: string, password: string): Promise<void> {
	await server.installation.db.run(
		"INSERT INTO person (id, name, initials, login, secret) VALUES ($login, $login, 'X', $login, $secret)",
		{
			login,
			secret: await hashPassword(password),
		},
	);
}
const PASSWORD = "nine cleats and a fairlead";

describe("after a commit", () => {
	it("what fails is reported and never told as a failure; what was stored is found again", async () => {
		const { db } = server.installation;
		const told: string[] = [];
		const original = console.error;
		console.error = (line: string) => void told.push(line);
		const all = db.all;
		const id = newId();
		try {
			let broken = true;
			// the index reads what changed with this question
			Object.assign(db, {
				all: (sql: string, bind: never) =>
					broken && sql.includes("f.bytes AS facts") ? Promise.reject(new Error("index broke")) : all(sql, bind),
			});
			const made = await server.call("createMaterial", { id, libraryId: "own", name: "Stored all the same" });
			expect(made.ok).toBe(true);
			const saved = await server.call("saveDraft", { id, edits: [edit("density", null, value("density", "2.7 g/cm3"))] });
			expect(saved.ok).toBe(true);
			broken = false;
		} finally {
			Object.assign(db, { all });
			console.error = original;
		}
		expect(told.some((line) => line.includes("index broke"))).toBe(true);
		// the table makes good what it owes at the next question
		expect((await server.must("findMaterials", { text: "Stored all the same" })).rows.map((r) => r.id)).toEqual([id]);
	});

	it("an import whose end cannot be written is told as what it is, and ends nothing else", async () => {
		const { db } = server.installation;
		const reported: string[] = [];
		const kernel = { read: async () => Promise.reject(new Error("kernel broke")), close: async () => undefined };
		const blobs = {
			receive: async () => ({ ok: true, value: { hash: "a".repeat(64), size: 3 } }),
			read: async () => Buffer.from("abc"),
			begin: async () => Buffer.from("abc"),
			discard: async () => undefined,
		};
		let refuse = false;
		const full = new Proxy(db, {
			get: (target, key) =>
				key === "update" && refuse
					? async () => Promise.reject(Object.assign(new Error("full"), { code: "SQLITE_FULL" }))
					: Reflect.get(target, key),
		});
		const jobs = createJobs(full, (what) => void reported.push(what));
		const workers = createWorkers(builtWorkers(new URL("../../../", import.meta.url)));
		const imports = createImports({ blobs: blobs as never, kernel: kernel as never, workers, jobs });
		const project = newId();
		await server.must("createProject", { id: project, name: "Ends" });
		refuse = true;
		const ctx = newContext(db);
		const job = newId();
		const begun = await imports.importGeometry(ctx, { id: project, file: "x.step", job }, { stream: null as never, length: 3 });
		expect(begun.ok).toBe(true);
		await jobs.idle();
		const seen = await jobs.getJob(ctx, { id: job });
		expect(seen.ok && [seen.value.state, seen.value.issues[0]?.code]).toEqual(["failed", "internal"]);
		expect(reported).toContain("the end of a job could not be written");
		// written as soon as it can be
		refuse = false;
		await jobs.getJob(ctx, { id: job });
		expect((await db.one<{ state: string }>("SELECT state FROM job WHERE id = $job", { job }))?.state).toBe("failed");
	});
});

describe("signing in", () => {
	it("a name of megabytes, an object, a deep list: refused as what they are, quickly", async () => {
		expect(await signIn({ login: "x".repeat(2_000_000), password: "y" })).toEqual([413, "body-too-large"]);
		expect((await signIn({ login: { toString: 1 }, password: "y" }))[0]).toBe(422);
		expect((await signIn(`{"login":${"[".repeat(9_000)}${"]".repeat(9_000)},"password":"y"}`))[0]).toBe(422);
		expect((await signIn("{not json"))[0]).toBe(422);
		const asset = await fetch(`${server.base}/api/v1/%E0%A4%A`);
		expect(asset.status).toBeGreaterThanOrEqual(400);
		expect(asset.status).toBeLessThan(500);
	});

	it("ten guesses for a name, however it is typed; the same network of IPv6 is one", async () => {
		await withPassword("bo.sun", PASSWORD);
		const names = ["bo.sun", "bo.sun ", " BO.SUN", "bo.sun\t", "Bo.Sun"];
		for (let i = 0; i < 10; i++)
			expect((await signIn({ login: names[i % 5], password: "wrong guess no 1" }))[1]).toBe("wrong-sign-in");
		expect(await signIn({ login: "bo.sun   ", password: PASSWORD })).toEqual([429, "too-many-tries"]);
		const { addressOf } = await import("../src/http/limits");
		const at = (ip: string): string => addressOf({ ip } as never);
		expect(at("2001:db8:1:2::1")).toBe(at("2001:db8:1:2:ffff:1::9"));
		expect(at("2001:db8:1:2::1")).not.toBe(at("2001:db8:1:3::1"));
		expect(at("::ffff:192.0.2.1")).toBe("192.0.2.1");
	});

	it("the old password cannot be guessed while changing it; a new one ends tokens and other sessions", async () => {
		await withPassword("cora", PASSWORD);
		const enter = async (): Promise<Record<string, string>> => {
			const reply = await fetch(`${server.base}/api/v1/session/sign-in`, {
				method: "POST",
				headers: json(),
				body: JSON.stringify({ login: "cora", password: PASSWORD }),
			});
			return { Cookie: reply.headers.get("set-cookie")?.split(";")[0] ?? "", Origin: server.base };
		};
		const [here, elsewhere] = [client(server.base, await enter()), client(server.base, await enter())];
		const script = client(server.base, await tokenOf(server.installation, "cora"));
		expect((await script.call("listProjects", {})).ok).toBe(true);
		await here.must("changeMe", { password: "twelve blocks and a tackle", oldPassword: PASSWORD });
		expect(await script.refused("listProjects", {})).toBe("signed-out");
		expect(await elsewhere.refused("listProjects", {})).toBe("signed-out");
		expect((await here.call("listProjects", {})).ok).toBe(true);
		const codes: string[] = [];
		for (let i = 0; i < 11; i++)
			codes.push(await here.refused("changeMe", { password: "another long one", oldPassword: `guess ${i}` }));
		expect([codes[0], codes.at(-1)]).toEqual(["wrong-password", "too-many-tries"]);
	});

	it("keys are derived two at a time; whoever comes when many wait is asked to come again", async () => {
		const many = await Promise.allSettled(Array.from({ length: 40 }, () => passwordFits("x", null)));
		const refused = many.filter((m) => m.status === "rejected");
		expect(refused).toHaveLength(18);
		expect(describeIssue((refused[0] as PromiseRejectedResult).reason.issue)).toContain("Try again");
		expect(await passwordFits("x", null)).toBe(false);
	});

	it("a page over another scheme is another page", async () => {
		const https = server.base.replace("http:", "https:");
		expect((await signIn({ login: "nobody", password: "guess" }, { Origin: https }))[1]).toBe("bad-host");
	});

	it("one person holds so many open pages and no more", async () => {
		await personWith(server, "streamer", {});
		const headers = await tokenOf(server.installation, "streamer");
		const open = await Promise.all(Array.from({ length: 30 }, () => fetch(`${server.base}/api/v1/live`, { headers })));
		expect(open.every((r) => r.status === 200)).toBe(true);
		for (let i = 0; i < 50 && server.installation.hub.sizeOf("streamer") < 30; i++) await new Promise((r) => setTimeout(r, 20));
		const more = await fetch(`${server.base}/api/v1/live`, { headers });
		expect(((await more.json()) as { issues: { code: string }[] }).issues[0]?.code).toBe("too-many");
		await Promise.all(open.map((r) => r.body?.cancel()));
	});
});

describe("sizes", () => {
	it("a plan of a thousand materials is asked for like one", async () => {
		const ids = Array.from({ length: 1_000 }, newId);
		expect(await server.refused("publishPlan", { ids })).toBe("not-found");
		const reply = await server.raw("/api/v1/drafts/plan", {
			method: "POST",
			headers: { "Content-Type": "application/json" },
			body: JSON.stringify({ ids }),
		});
		expect(reply.status).toBe(404);
	});

	it("one person's rapid script is held back, others are answered", async () => {
		const { listen } = await import("../src/index");
		const tight = await listen(server.installation, {
			port: 0,
			host: "127.0.0.1",
			webRoot: null,
			hostNames: [],
			log: "silent",
			fairShare: 20,
		});
		const base = `http://127.0.0.1:${tight.port}`;
		await personWith(server, "rapid", {});
		await personWith(server, "calm", {});
		const [rapid, calm] = [
			client(base, await tokenOf(server.installation, "rapid")),
			client(base, await tokenOf(server.installation, "calm")),
		];
		const codes = await Promise.all(Array.from({ length: 40 }, () => rapid.refused("listProjects", {})));
		expect([codes.filter((c) => c === "ok").length, codes.filter((c) => c === "too-many-requests").length]).toEqual([20, 20]);
		expect(await calm.refused("listProjects", {})).toBe("ok");
		tight.server.close();
		tight.server.closeAllConnections();
	});

	it("names of every object are no ids, and sources lead to the web or nowhere", async () => {
		const id = await make(server, "Odd keys");
		for (const key of ["constructor", "toString", "hasOwnProperty", "__proto__", "valueOf"]) {
			const to = { ...(value("density", "2.7 g/cm3") as object), id: key };
			expect([key, await server.refused("saveDraft", { id, edits: [edit(key, null, to)] })]).toEqual([
				key,
				key === "__proto__" ? "bad-key" : expect.stringMatching(/bad-key|bad-input/),
			]);
		}
		const source = (address: string) => ({ kind: "document", title: "t", text: "", address, date: "2026", conditions: "" });
		for (const address of ["javascript:alert(1)", "file:///etc/passwd", "data:text/html,x", "http://", "ftp://x.y"])
			expect([address, await server.refused("saveDraft", { id, edits: [edit("sources:s", null, source(address))] })]).toEqual([
				address,
				"not-an-address",
			]);
		await server.must("saveDraft", { id, edits: [edit("sources:s", null, source("https://example.org/a?b=c"))] });
		expect(
			await server.refused("saveSource", { id: "own", source: newId(), version: 0, content: source("javascript:x") } as never),
		).toBe("not-an-address");
	});
});
