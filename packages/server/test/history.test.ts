import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type Client, fixture, newId, personWith, type Running, startServer, value } from "./harness";

/** History with its filters and table, and what people are told of. */
let api: Running;
let okke: Client;
let reader: Client;
beforeAll(async () => {
	api = await startServer();
	okke = await personWith(api, "okke", { own: "editor" });
	reader = await personWith(api, "rhea", { own: "reader" });
});
afterAll(() => api.stop());

async function published(who: Client, name: string, density = "2.7 g/cm3"): Promise<string> {
	const id = newId();
	await who.must("createMaterial", { id, libraryId: "own", name });
	await who.must("saveDraft", { id, edits: [{ at: "density", from: null, to: value("density", density) }] });
	await who.publish([id], `first of ${name}`);
	return id;
}

async function next(who: Client, id: string, density: string, note: string): Promise<void> {
	const { row } = await who.must("getSheet", { id });
	const from = row.document.values.density ?? null;
	await who.must("saveDraft", { id, edits: [{ at: "density", from, to: value("density", density) }] as never });
	await who.publish([id], note);
}

describe("history", () => {
	it("is narrowed by person, kind of step, day and words; a library's holds its materials'", async () => {
		const id = await published(api, "Told plate");
		await api.must("openLock", { id: "own", takeOver: true });
		await api.must("manyMaterials", { ids: [id], act: "retire" });
		await okke.must("openLock", { id: "own", takeOver: true });
		await okke.must("manyMaterials", { ids: [id], act: "revive" });
		const did = async (filter: object): Promise<readonly string[]> =>
			(await api.must("history", { kind: "library", id: "own", ...filter } as never)).rows
				.filter((r) => r.material === id || r.subject === "")
				.map((r) => `${r.by} ${r.did}`);
		expect(await did({ by: "okke" })).toEqual([
			"okke brought back into use",
			"okke took the lock over from You, on this computer",
		]);
		expect(await did({ what: "published" })).toEqual(["You, on this computer published revision 1"]);
		expect((await did({ what: "materials" })).slice(0, 2)).toEqual([
			"okke brought back into use",
			"You, on this computer retired",
		]);
		expect(await did({ what: "rights", by: "okke" })).toEqual(["okke took the lock over from You, on this computer"]);
		expect(await did({ text: "first of Told" })).toEqual(["You, on this computer published revision 1"]);
		expect(await did({ until: "2020-01-01" })).toEqual([]);
		const today = new Date().toISOString().slice(0, 10);
		expect(await did({ from: today, until: today })).toEqual(await did({}));
		expect(await api.refused("history", { kind: "library", id: "own", from: "yesterday" } as never)).toBe("bad-input");
		await api.must("openLock", { id: "own", takeOver: true });
	});

	it("goes on page by page without leaving out or repeating a step", async () => {
		const id = newId();
		await api.must("createProject", { id, name: "Long story" });
		for (let n = 0; n < 450; n++)
			await api.installation.db.run(
				"INSERT INTO event (at, actor, action, subject_kind, subject_id, changeset) VALUES ('2026-01-02T00:00:00.000Z', 'local', 'project.rename', 'project', $id, '{}')",
				{ id },
			);
		const seqs: number[] = [];
		for (let before: number | null | undefined; before !== null; ) {
			const page = await api.must("history", {
				kind: "project",
				id,
				...(before === undefined ? {} : { before: String(before) }),
			});
			seqs.push(...page.rows.map((r) => r.seq));
			before = page.next;
		}
		expect(seqs.length).toBe(451);
		expect(seqs).toEqual([...new Set(seqs)].sort((a, b) => b - a));
	});

	it("a page that holds all of it is the last one, and an empty one has none behind it", async () => {
		const id = newId();
		await api.must("createProject", { id, name: "A page long" });
		// with its beginning as many as one page holds
		for (let n = 0; n < 199; n++)
			await api.installation.db.run(
				"INSERT INTO event (at, actor, action, subject_kind, subject_id, changeset) VALUES ('2026-01-02T00:00:00.000Z', 'local', 'project.rename', 'project', $id, '{}')",
				{ id },
			);
		const page = (input: object) => api.must("history", { kind: "project", id, ...input } as never);
		const whole = await page({});
		expect([whole.rows.length, whole.next]).toEqual([200, null]);
		expect(await page({ until: "2020-01-01" })).toEqual({ rows: [], next: null });
	});

	it("a step that was taken back, and that taken back again, are told apart", async () => {
		const id = newId();
		await api.must("createProject", { id, name: "Back and forth" });
		const { event } = await api.must("renameProject", { id, name: "Forth" });
		const back = await api.must("undo", { event });
		await api.must("undo", { event: back.event });
		const told = (await api.must("history", { kind: "project", id })).rows.map((r) => [r.did, r.undone]);
		expect(told).toHaveLength(4);
		expect(told[0]?.[0]).toMatch(/^took back: took back: /);
		expect(told[1]?.[0]).toMatch(/^took back: (?!took)/);
		expect(told[2]?.[0]).not.toMatch(/took back/);
		expect(told.map(([, undone]) => undone)).toEqual([false, true, true, false]);
	});

	it("is taken away as a table in which no cell is a formula", async () => {
		const id = newId();
		await api.must("createMaterial", { id, libraryId: "own", name: "=HYPERLINK(1)" });
		await api.must("saveDraft", { id, edits: [{ at: "density", from: null, to: value("density", "1 g/cm3") }] });
		await api.publish([id], '@SUM(1), "quoted"');
		const response = await api.raw(`/api/v1/history/material/${id}/table.csv?what=published`);
		expect(response.headers.get("content-type")).toContain("text/csv");
		const lines = (await response.text()).split("\r\n");
		expect(lines[0]).toBe("when (UTC),who,what,on,why,state");
		expect(lines[1]).toMatch(
			/^\d{4}-\d\d-\d\dT[\d:.]+Z,"You, on this computer",published revision 1,'=HYPERLINK\(1\),"'@SUM\(1\), ""quoted""",$/,
		);
		expect(lines.length).toBe(2);
		expect((await reader.raw(`/api/v1/history/project/nowhere/table.csv`)).status).toBe(404);
	});
});

describe("notices", () => {
	const told = async (who: Client): Promise<readonly string[]> =>
		(await who.must("listNotices", {})).notices.map((n) => `${n.fresh ? "* " : ""}${n.subject} ${n.message}`);

	it("tell of revisions of what one's projects use or one starred; not of one's own, not of anything else", async () => {
		const used = await published(api, "Used plate");
		const starred = await published(api, "Starred plate");
		await published(api, "Nobody's plate");
		const project = newId();
		await okke.must("createProject", { id: project, name: "Okke's" });
		await okke.importFile(project, "nested.step", fixture("nested.step"));
		const part = (await okke.must("getProject", { id: project })).parts[0]?.id ?? "";
		await okke.must("assign", { id: project, parts: [part], materialId: used });
		await okke.must("starMaterial", { id: starred, on: true });
		await okke.must("changeNotices", { seen: true });

		await next(api, used, "2.71 g/cm3", "weighed");
		await next(api, starred, "2.72 g/cm3", "again");
		expect((await told(okke)).slice(0, 2)).toEqual([
			"* Starred plate revision 2 is out, by You, on this computer",
			"* Used plate revision 2 is out, by You, on this computer",
		]);
		expect((await told(okke)).join()).not.toContain("Nobody's");
		expect(await told(api)).not.toContainEqual(expect.stringContaining("Used plate"));
		expect((await okke.must("listNotices", {})).fresh).toBe(2);
		await okke.must("changeNotices", { seen: true });
		expect((await okke.must("listNotices", {})).fresh).toBe(0);
		expect((await told(okke))[0]).toBe("Starred plate revision 2 is out, by You, on this computer");
		// one who may only read the project is not its keeper, and hears nothing
		expect(await told(reader)).toEqual([]);

		await okke.must("changeNotices", { off: ["revision"] });
		expect(await told(okke)).toEqual([]);
		await okke.must("changeNotices", { off: [] });
		const { event } = await api.must("manyMaterials", { ids: [used], act: "retire", inUse: true });
		expect((await told(okke))[0]).toBe("* Used plate was retired by You, on this computer");
		await api.must("undo", { event });
		expect((await told(okke))[0]).toContain("Starred plate revision 2");
	});

	it("tell of approvals that wait for me, and of mine that came back", async () => {
		await api.must("changeLibrary", { id: "own", approval: true });
		await okke.must("openLock", { id: "own", takeOver: true });
		const id = newId();
		await okke.must("createMaterial", { id, libraryId: "own", name: "Proposed plate" });
		await okke.must("saveDraft", { id, edits: [{ at: "density", from: null, to: value("density", "2.7 g/cm3") }] });
		await okke.publish([id], "please");
		const [waiting] = (await api.must("listNotices", {})).notices;
		expect(waiting).toMatchObject({ kind: "approval", note: "please", fresh: true, to: "/libraries/own" });
		expect(waiting?.message).toBe("1 material waits for approval, asked by okke");
		expect((await told(okke)).join()).not.toContain("waits for approval");
		expect((await told(reader)).join()).not.toContain("waits for approval");
		const proposal = waiting?.key.replace("publish ", "") ?? "";
		await api.must("openLock", { id: "own", takeOver: true });
		await api.must("declinePublish", { id: proposal, note: "source missing" });
		expect((await told(api)).join()).not.toContain("waits for approval");
		expect((await okke.must("listNotices", {})).notices[0]).toMatchObject({
			message: "what you proposed came back from You, on this computer",
			note: "source missing",
			fresh: true,
		});
		await api.must("changeLibrary", { id: "own", approval: false });
	});

	it("tell of a review date that has passed, to whoever keeps the material", async () => {
		const id = await published(api, "Due plate");
		// on its day a date has not passed yet
		const today = (): string => new Date().toISOString().slice(0, 10);
		const day = today();
		await api.must("changeMaterial", { id, review: day } as never);
		const early = (await told(api)).filter((words) => words.includes("Due plate"));
		// the day may turn between the two
		if (today() === day) expect(early).toEqual([]);
		await api.must("changeMaterial", { id, review: "2020-02-01" } as never);
		expect(await told(api)).toContainEqual(expect.stringContaining("Due plate should have been reviewed by 2020-02-01"));
		expect((await told(okke)).join()).not.toContain("Due plate");
		await api.must("changeNotices", { seen: true });
		expect((await api.must("listNotices", {})).notices.find((n) => n.kind === "review")?.fresh).toBe(false);
	});
});
