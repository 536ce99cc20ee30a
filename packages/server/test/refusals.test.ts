import { readdirSync } from "node:fs";
import { request } from "node:http";
import { describeIssue } from "@alvek/core/result";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { fixture, newId, type Running, startServer, tokenOf } from "./harness";

let server: Running;
let project: string;
beforeAll(async () => {
	server = await startServer();
	project = newId();
	await server.must("createProject", { id: project, name: "Refusals" });
});
afterAll(() => server.stop());

const nested = (): string => fixture("nested.step").toString();

describe("files that are refused", () => {
	it.each([
		["a text file named .step", () => Buffer.from("hello"), "not-step"],
		["a truncated file", () => fixture("mount.step").subarray(0, 60_000), "truncated"],
		["no content", () => Buffer.alloc(0), "empty-file"],
		["no solids", () => Buffer.from(nested().replaceAll("MANIFOLD_SOLID_BREP", "SHELL_BASED_SURFACE_MODEL")), "no-solids"],
		[
			"one of nine solids with a NaN",
			() => Buffer.from(fixture("mount.step").toString().replace("(-60.,-90.,0.)", "(-60.,NaN,0.)")),
			"not-finite-coordinate",
		],
		[
			"a dangling reference",
			() => Buffer.from(nested().replace("#15=CARTESIAN_POINT('',(0.,0.,0.));", "")),
			"dangling-reference",
		],
		["a missing parameter", () => Buffer.from(nested().replace("VECTOR('',#39,60.)", "VECTOR('',#39)")), "missing-parameter"],
		[
			"an assembly in itself",
			() => Buffer.from(nested().replace("'PB-20-1','Sheave:1','',#555,#413,$", "'PB-20-1','Sheave:1','',#555,#593,$")),
			"assembly-loop",
		],
		// one face of the cheek is taken out of its shell: the kernel would still tell a volume
		["an open shell", () => Buffer.from(nested().replace(/(#\d+=CLOSED_SHELL\('',\()#\d+,/, "$1")), "open-shell"],
	])("%s: its own message within 10 s, nothing imported", async (_, bytes, code) => {
		const started = Date.now();
		const done = await server.importFile(project, "bad.step", bytes());
		expect(done.issues.map((i) => i.code)).toEqual([code]);
		expect(describeIssue(done.issues[0] as never)).not.toContain("undefined");
		expect(Date.now() - started).toBeLessThan(10_000);
		expect((await server.must("getProject", { id: project })).parts).toEqual([]);
	});

	let who: { Authorization: string };
	beforeAll(async () => {
		who = await tokenOf(server.installation, "local");
	});

	it("300 MB are refused by their announced length, before they are sent", async () => {
		const status = await new Promise<number>((resolve, reject) => {
			const req = request(
				`${server.base}/api/v1/projects/${project}/geometry?file=big.step&job=${newId()}`,
				{ method: "POST", headers: { ...who, "Content-Type": "application/octet-stream", "Content-Length": 300 * 1024 * 1024 } },
				(res) => resolve(res.statusCode ?? 0),
			);
			req.on("error", reject);
			req.write("ISO-10303-21;");
		});
		expect(status).toBe(413);
	});

	it("and by what really comes, when no length is announced", async () => {
		const chunk = Buffer.alloc(1024 * 1024, 32);
		const code = await new Promise<string>((resolve, reject) => {
			const req = request(
				`${server.base}/api/v1/projects/${project}/geometry?file=big.step&job=${newId()}`,
				{ method: "POST", headers: { ...who, "Content-Type": "application/octet-stream", "Transfer-Encoding": "chunked" } },
				(res) => {
					let text = "";
					res.on("data", (d) => (text += d));
					res.on("end", () => resolve((JSON.parse(text) as { issues: { code: string }[] }).issues[0]?.code ?? ""));
				},
			);
			req.on("error", (e) => ((e as { code?: string }).code === "EPIPE" ? undefined : reject(e)));
			let sent = 0;
			const more = (): void => {
				while (sent++ < 210) if (!req.write(chunk)) return void req.once("drain", more);
				req.end();
			};
			more();
		});
		expect(code).toBe("upload-too-large");
	});

	it("and nothing of what was refused stays on the disk", async () => {
		const files = (): string[] =>
			readdirSync(`${server.dataDir}/blobs`, { recursive: true, encoding: "utf8" }).filter((f) => /[0-9a-f]{64}$/.test(f));
		expect(files()).toEqual([]);
		server = await server.restart();
		expect(files()).toEqual([]);
	});

	it("a cancelled import leaves nothing", async () => {
		const sent = await server.upload(project, "mount.step", fixture("mount.step"));
		if (!sent.ok) throw new Error();
		const job = await server.must("cancelJob", { id: (sent.value as { id: string }).id });
		expect(job.state).toBe("cancelled");
		expect((await server.must("getProject", { id: project })).parts).toEqual([]);
		// and the next import works
		expect((await server.importFile(project, "mount.step", fixture("mount.step"))).state).toBe("done");
		expect((await server.importFile(project, "mount.step", fixture("mount.step"))).issues[0]?.code).toBe("already-imported");
	});
});

describe("requests that are refused", () => {
	const post = (path: string, body: string, headers: Record<string, string> = {}): Promise<Response> =>
		server.raw(`/api/v1${path}`, { method: "POST", headers: { "Content-Type": "application/json", ...headers }, body });
	const codeOf = async (response: Response): Promise<[number, string]> => [
		response.status,
		((await response.json()) as { issues: { code: string }[] }).issues[0]?.code ?? "",
	];

	it("keys of the prototype, wherever they stand", async () => {
		expect(await codeOf(await post("/projects", '{"__proto__":{"admin":true},"id":"x","name":"y"}'))).toEqual([422, "bad-input"]);
		const edit = '{"edits":[{"at":"density","from":null,"to":{"constructor":{}}}]}';
		const response = await server.raw("/api/v1/materials/plate/draft", {
			method: "PATCH",
			headers: { "Content-Type": "application/json" },
			body: edit,
		});
		expect(await codeOf(response)).toEqual([422, "bad-input"]);
		const at = await server.call("saveDraft", { id: "plate", edits: [{ at: "__proto__", from: null, to: { id: "__proto__" } }] });
		expect(at.ok ? "ok" : at.issues[0]?.code).toBe("bad-key");
	});

	it("unknown fields, wrong types, broken JSON", async () => {
		expect(await codeOf(await post("/projects", '{"id":"x","name":"y","extra":1}'))).toEqual([422, "bad-input"]);
		expect(await codeOf(await post("/projects", '{"id":"x","name":5}'))).toEqual([422, "bad-input"]);
		expect(await codeOf(await post("/projects", "{"))).toEqual([422, "bad-input"]);
		expect(await codeOf(await post("/projects", "[]"))).toEqual([422, "wrong-type"]);
		expect((await server.raw("/api/v1/nothing")).status).toBe(404);
	});

	it("a name of 10,000 characters, an impossible density, an SI number that was not typed", async () => {
		const long = await server.call("createMaterial", { id: newId(), libraryId: "own", name: "x".repeat(10_000) });
		expect(long.ok ? null : long.issues[0]).toMatchObject({ code: "too-long", expected: "a name of at most 200 characters" });
		const to = { id: "density", property: "density", entered: "-2 kg/m3", low: -2, high: -2 };
		const impossible = await server.call("saveDraft", {
			id: "plate",
			edits: [{ at: "poissons_ratio~2", from: null, to: { ...to, id: "poissons_ratio~2" } }],
		});
		expect(impossible.ok ? null : impossible.issues[0]?.code).toBe("out-of-bounds");
		const forged = await server.call("saveDraft", {
			id: "plate",
			edits: [{ at: "density~2", from: null, to: { ...to, id: "density~2", entered: "2.7 g/cm3", low: 1, high: 1 } }],
		});
		expect(forged.ok ? null : forged.issues[0]?.code).toBe("si-mismatch");
	});

	it("another host name (a rebound address) and a page of another origin", async () => {
		const withHost = await new Promise<number>((resolve) => {
			request(`${server.base}/api/v1/projects`, { headers: { Host: "evil.example" } }, (res) =>
				resolve(res.statusCode ?? 0),
			).end();
		});
		expect(withHost).toBe(403);
		expect(await codeOf(await post("/projects", '{"id":"z","name":"z"}', { Origin: "http://evil.example" }))).toEqual([
			403,
			"bad-host",
		]);
		expect((await server.raw("/api/health")).status).toBe(200);
	});
});

describe("hostile words and paths", () => {
	it.each([
		"%",
		"_",
		"%%plate",
		"pl_te",
		"'; DROP TABLE material; --",
		'"plate" OR "bar"',
		"plate*",
		"NEAR(plate bar)",
		"name:plate",
		"\\",
	])("%s is only text: nothing is found by it that does not hold it", async (text) => {
		const found = await server.must("findMaterials", { text });
		expect(found.rows.filter((r) => !r.name.toLowerCase().includes(text.toLowerCase().trim()))).toEqual([]);
		expect((await server.call("search", { text })).ok).toBe(true);
		// everything is still there
		expect((await server.must("findMaterials", { text: "plate" })).total).toBeGreaterThan(0);
	});

	it.each([
		"/api/v1/materials/..%2f..%2fetc%2fpasswd",
		"/api/v1/projects/%2e%2e/mass.csv",
		`/api/v1/materials/plate/files/${"a".repeat(64)}`,
	])("%s leads nowhere", async (path) => {
		const reply = await server.raw(path);
		expect([404, 422]).toContain(reply.status);
		expect(await reply.text()).not.toContain("root:");
	});
});
