import type { JobView, LiveEvent, News, StreamMessage } from "@alvek/contract";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { client, fixture, newId, type Running, startServer, tokenOf, value } from "./harness";

/** Server-sent events and the news for pages that poll, as two browsers see them. */
let api: Running;
beforeAll(async () => {
	api = await startServer();
	await api.installation.db.run(
		"INSERT INTO person (id, name, initials, admin) VALUES ('reader', 'Rhea', 'R', 0), ('stranger', 'Sven', 'S', 0)",
	);
	await api.installation.db.run(
		"INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ('person', 'reader', 'library', 'own', 'reader')",
	);
});
afterAll(() => api.stop());

type Told = { readonly id: number; readonly event: string; readonly data: LiveEvent | News | StreamMessage };

/** An open stream of one person; what it was told so far. */
async function listen(person: string, from: Record<string, string> = {}) {
	const who = await tokenOf(api.installation, person);
	const control = new AbortController();
	const response = await fetch(`${api.base}/api/v1/live`, { headers: { ...who, ...from }, signal: control.signal });
	const told: Told[] = [];
	let ended = false;
	const reading = (async () => {
		let text = "";
		for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
			text += Buffer.from(chunk).toString("utf8");
			for (let at = text.indexOf("\n\n"); at !== -1; at = text.indexOf("\n\n")) {
				const fields = new Map(
					text
						.slice(0, at)
						.split("\n")
						.map((l) => l.split(/: (.*)/s, 2) as [string, string]),
				);
				text = text.slice(at + 2);
				if (fields.get("event") !== "beat" && fields.has("data"))
					told.push({
						id: Number(fields.get("id")),
						event: fields.get("event") ?? "",
						data: JSON.parse(fields.get("data") ?? ""),
					});
			}
		}
	})()
		.catch(() => undefined)
		.finally(() => {
			ended = true;
		});
	const until = async (done: () => boolean): Promise<void> => {
		for (let n = 0; !done() && n < 500; n++) await new Promise((r) => setTimeout(r, 10));
		expect(done()).toBe(true);
	};
	await until(() => told.length > 0);
	return {
		told,
		response,
		until,
		hasEnded: () => ended,
		happened: () => told.filter((t) => t.event === "happened").map((t) => t.data as LiveEvent),
		async close() {
			control.abort();
			await reading;
		},
	};
}

async function publishOne(name: string): Promise<string> {
	const id = newId();
	await api.must("createMaterial", { id, libraryId: "own", name });
	await api.must("saveDraft", { id, edits: [{ at: "density", from: null, to: value("density", "2.71 g/cm3") }] });
	await api.publish([id], "out");
	return id;
}

describe("live news", () => {
	it("a publish reaches whoever reads the library, at once and with its revision; nobody else hears of it", async () => {
		const reader = await listen("reader");
		const stranger = await listen("stranger");
		expect(reader.response.headers.get("content-type")).toContain("text/event-stream");
		expect(reader.response.headers.get("content-encoding")).toBeNull();
		const id = await publishOne("Told of");
		await reader.until(() => reader.happened().some((e) => e.action === "material.publish"));
		// its draft was its author's own as long as nothing was published
		expect(
			reader.happened().filter((e) => e.action === "draft.save" && e.seq < (reader.happened().at(-1)?.seq ?? 0)).length,
		).toBe(0);
		expect(reader.happened().at(-1)).toMatchObject({
			subject: id,
			name: "Told of",
			place: "own",
			revision: 1,
			by: { id: "local" },
		});
		await api.must("openLock", { id: "own" });
		await reader.until(() => reader.happened().some((e) => e.action.startsWith("lock.")));
		expect(stranger.happened()).toEqual([]);
		await reader.close();
		await stranger.close();
	});

	it("a stream that broke off is told what it missed, in order and once", async () => {
		const first = await listen("reader");
		await publishOne("Before the break");
		await first.until(() => first.happened().length > 0);
		const seen = first.told.at(-1)?.id as number;
		await first.close();
		const ids = [await publishOne("Missed 1"), await publishOne("Missed 2")];
		const second = await listen("reader", { "Last-Event-ID": String(seen) });
		const caughtUp = second.told[0]?.data as News;
		expect(caughtUp.missed).toBe(false);
		expect(caughtUp.events.filter((e) => e.action === "material.publish").map((e) => e.subject)).toEqual(ids);
		expect(caughtUp.events.every((e) => e.seq > seen)).toBe(true);
		const next = await publishOne("Afterwards");
		await second.until(() => second.happened().some((e) => e.subject === next));
		const seqs = [...caughtUp.events, ...second.happened()].map((e) => e.seq);
		expect(seqs).toEqual([...new Set(seqs)].sort((a, b) => a - b));
		await second.close();
	});

	it("says which page asked, so that it is not told its own news", async () => {
		const who = { ...(await tokenOf(api.installation, "local")), "X-Alvek-Tab": "tab-7" };
		const page = client(api.base, who);
		const stream = await listen("local");
		await page.must("createProject", { id: newId(), name: "By a page" });
		await stream.until(() => stream.happened().some((e) => e.action === "project.create"));
		expect(stream.happened().at(-1)).toMatchObject({ name: "By a page", tab: "tab-7" });
		await stream.close();
	});

	it("too much at once, or events that no longer are, is told as missed", async () => {
		const { seq } = await api.must("readNews", { after: "0" });
		for (let n = 0; n < 210; n++)
			await api.installation.db.run(
				"INSERT INTO event (at, actor, action, subject_kind, subject_id, changeset) VALUES ('2026-01-01', 'local', 'lock.open', 'library', 'own', '{}')",
			);
		expect(await api.must("readNews", { after: String(seq) })).toEqual({ seq: seq + 210, events: [], missed: true });
		expect(await api.must("readNews", { after: String(seq + 205) })).toMatchObject({ missed: false, events: { length: 5 } });
		expect(await api.must("readNews", { after: "99999999" })).toMatchObject({ missed: true });
		expect(await api.refused("readNews", { after: "-1; DROP" })).toBe("bad-input");
		expect((await fetch(`${api.base}/api/v1/live`)).status).toBe(401);
	});

	it("a job is told to its own person only, up to its end", async () => {
		const mine = await listen("local");
		const reader = await listen("reader");
		const project = newId();
		await api.must("createProject", { id: project, name: "Told jobs" });
		expect(await api.importFile(project, "nested.step", fixture("nested.step"))).toMatchObject({ state: "done" });
		const views = (): readonly JobView[] => mine.told.filter((t) => t.event === "job").map((t) => (t.data as StreamMessage).data);
		await mine.until(() => views().some((v) => v.state !== "running"));
		expect(new Set(views().map((v) => v.id)).size).toBe(1);
		expect(views().at(-1)?.state).toBe("done");
		expect(reader.told.filter((t) => t.event === "job")).toEqual([]);
		// whoever knows its number neither reads nor ends it, nor takes the number for work of their own
		const rhea = client(api.base, await tokenOf(api.installation, "reader"));
		const id = views()[0]?.id ?? "";
		expect([await rhea.refused("getJob", { id }), await rhea.refused("cancelJob", { id })]).toEqual(["not-found", "not-found"]);
		const hers = newId();
		await rhea.must("createProject", { id: hers, name: "Another's job" });
		const path = `/api/v1/projects/${hers}/geometry?${new URLSearchParams({ file: "nested.step", job: id })}`;
		const headers = { "Content-Type": "application/octet-stream" };
		const taken = await rhea.raw(path, { method: "POST", headers, body: fixture("nested.step") as never });
		expect(((await taken.json()) as { issues: { code: string }[] }).issues[0]?.code).toBe("id-taken");
		await mine.close();
		await reader.close();
	});

	it("a reply names the steps that its own request recorded; a reading, a refusal or nothing new names none", async () => {
		const id = newId();
		await api.must("createMaterial", { id, libraryId: "own", name: "Steps named" });
		const headers = { "Content-Type": "application/json" };
		const edits = [{ at: "density", from: null, to: value("density", "2.71 g/cm3") }];
		const save = async (body: object): Promise<string | null> =>
			(await api.raw(`/api/v1/materials/${id}/draft`, { method: "PATCH", headers, body: JSON.stringify(body) })).headers.get(
				"x-alvek-steps",
			);
		expect(await save({ edits, client: "tab-of-steps", step: 1 })).toBe("draft.save");
		// the same again, because the reply was lost
		expect(await save({ edits, client: "tab-of-steps", step: 1 })).toBeNull();
		expect(await save({ edits: [{ at: "density", from: null, to: null }] })).toBeNull();
		expect((await api.raw(`/api/v1/materials/${id}`)).headers.get("x-alvek-steps")).toBeNull();
	});

	it("streams end with the server, which does not wait for them", async () => {
		const other = await startServer();
		const who = await tokenOf(other.installation, "local");
		const response = await fetch(`${other.base}/api/v1/live`, { headers: who });
		const reader = (response.body as ReadableStream<Uint8Array>).getReader();
		await reader.read();
		const began = Date.now();
		await other.drain();
		for (;;) if ((await reader.read()).done) break;
		expect(Date.now() - began).toBeLessThan(5000);
		await other.stop();
	});
});
