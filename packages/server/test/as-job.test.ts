import { JOB_HEADER, type JobView } from "@alvek/contract";
import type { Result } from "@alvek/core/result";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newContext } from "../src/index";
import { createJobs } from "../src/runtime";
import { newId, personWith, type Running } from "./harness";
import { make, startTeam } from "./team";

let server: Running;
beforeAll(async () => {
	({ server } = await startTeam());
	await server.must("openLock", { id: "own", takeOver: true });
	for (const name of ["Job steel", "Job stele"]) await make(server, name, "7.85 g/cm3");
});
afterAll(() => server.stop());

async function asJob(path: string, method: string, body: object | null, job = newId()): Promise<Result<JobView>> {
	const reply = await server.raw(`/api/v1${path}`, {
		method,
		headers: { "Content-Type": "application/json", [JOB_HEADER]: job },
		...(body === null ? {} : { body: JSON.stringify(body) }),
	});
	return (await reply.json()) as Result<JobView>;
}

async function ended(job: Result<JobView>): Promise<JobView> {
	if (!job.ok) throw new Error(JSON.stringify(job.issues));
	for (;;) {
		const now = await server.must("getJob", { id: job.value.id });
		if (now.state !== "running") return now;
		await new Promise((resolve) => setTimeout(resolve, 20));
	}
}

describe("a request that is run as a job", () => {
	it("answers at once with the job, then with what it would have answered", async () => {
		const job = await asJob("/libraries/own/editions", "POST", { note: "as a job" });
		const end = await ended(job);
		expect([end.kind, end.state]).toEqual(["request", "done"]);
		expect(await server.must("getJobResult", { id: end.id })).toMatchObject({ no: 1 });
		expect((await server.must("getLibrary", { id: "own" })).edition).toBe(1);
		// the same id is the same job, never a second one
		expect((await asJob("/libraries/own/editions", "POST", { note: "again" }, end.id)).ok).toBe(false);
	});

	it("refuses like the request itself, with its sentences; an id that is none runs nothing", async () => {
		const end = await ended(await asJob("/libraries/own/editions", "POST", { note: "unchanged" }));
		expect([end.state, end.issues[0]?.code]).toEqual(["failed", "same-as-edition"]);
		expect(await server.refused("getJobResult", { id: end.id })).toBe("not-found");
		const bad = await asJob("/libraries/own/editions", "POST", { note: "no id" }, "../..");
		expect(bad.ok ? "" : bad.issues[0]?.code).toBe("bad-input");
	});

	it("is its asker's alone", async () => {
		const end = await ended(await asJob("/libraries/own/duplicates", "GET", null));
		const found = (await server.must("getJobResult", { id: end.id })) as { pairs: { a: { name: string } }[] };
		expect(found.pairs.some((p) => p.a.name.startsWith("Job ste"))).toBe(true);
		const other = await personWith(server, "jobber", { own: "reader" });
		expect(await other.refused("getJobResult", { id: end.id })).toBe("not-found");
	});

	it("runs beside a few others of the same person, not beside any number", async () => {
		const jobs = createJobs(server.installation.db);
		const ctx = newContext(server.installation.db);
		let free: () => void = () => undefined;
		const held = new Promise<void>((resolve) => {
			free = resolve;
		});
		const begin = () =>
			jobs.run(ctx, { id: newId(), kind: "request", owner: null }, async () => {
				await held;
				return { ok: true, value: 1 };
			});
		for (let i = 0; i < 8; i++) expect((await begin()).ok).toBe(true);
		const ninth = await begin();
		expect(ninth.ok ? "" : ninth.issues[0]?.code).toBe("too-many-requests");
		free();
		await jobs.idle();
		expect((await begin()).ok).toBe(true);
		await jobs.idle();
	});

	it("that is stopped leaves nothing, whether it waited for its turn or was at work", async () => {
		const { installation } = server;
		const there = async (): Promise<boolean> =>
			(await server.must("listLibraries", {})).some((l) => l.name.startsWith("Never there"));
		const copy = (stop: AbortController, stage: string) => {
			const work = { signal: stop.signal, tell: (_: number, at: string) => void (at === stage && stop.abort()) };
			const ctx = { ...newContext(installation.db), work };
			return installation.services.json.copyLibrary(ctx, { id: "own", newId: newId(), name: `Never there, ${stage}` });
		};
		const before = new AbortController();
		before.abort();
		for (const done of [await copy(before, "none"), await copy(new AbortController(), "publishing")])
			expect(done.ok ? "ok" : done.issues[0]?.code).toBe("cancelled");
		expect(await there()).toBe(false);
		expect((await copy(new AbortController(), "never")).ok).toBe(true);
		expect(await there()).toBe(true);
		const looking = new AbortController();
		looking.abort();
		const work = { signal: looking.signal, tell: () => undefined };
		const found = await installation.services.json.listDuplicates({ ...newContext(installation.db), work }, { id: "own" });
		expect(found.ok ? "ok" : found.issues[0]?.code).toBe("cancelled");
	});
});
