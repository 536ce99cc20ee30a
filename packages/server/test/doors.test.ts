import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newContext } from "../src/index";
import { type Client, fixture, newId, personWith, type Running, startServer, value } from "./harness";
import { densityOf, edit, make, revise } from "./team";

/** Doors beside the front one: undo, copies, approval, following, notices, caches, files. Each asks what the step asks, now. */
let server: Running;
let ed: Client;
let reader: Client;
beforeAll(async () => {
	server = await startServer();
	ed = await personWith(server, "ed", { own: "editor" });
	reader = await personWith(server, "rea", { own: "reader" });
});
afterAll(() => server.stop());

const db = () => server.installation.db;
const lock = (who: Client) => who.must("openLock", { id: "own", takeOver: true });
const unlock = async (): Promise<void> => db().run("DELETE FROM library_lock");
const role = (person: string, kind: string, target: string, to: string | null): Promise<void> =>
	to === null
		? db().run("DELETE FROM access_grant WHERE subject = $person AND kind = $kind AND target = $target", { person, kind, target })
		: db().run(
				`INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ('person', $person, $kind, $target, $to)
				 ON CONFLICT DO UPDATE SET role = $to`,
				{ person, kind, target, to },
			);
const groupsIn = async (library: string) => (await server.must("getLibrary", { id: library })).groupTree;
let count = 0;
const unique = (name: string): string => `${name} ${++count}`;
async function group(by: Client, parent: string | null, library = "own"): Promise<string> {
	const id = newId();
	await by.must("createGroup", { id: library, group: id, parent, name: unique("Group") });
	return id;
}

describe("groups", () => {
	it("creating one is creating: a taken id is refused, whoever asks and wherever it stands", async () => {
		await lock(server);
		const mine = await group(server, null);
		const before = JSON.stringify(await groupsIn("own"));
		expect(await server.refused("createGroup", { id: "own", group: mine, parent: mine, name: "Loop" })).toBe("id-taken");
		// somebody of another library who knows the id renames nothing
		await server.must("createLibrary", { id: "elsewhere", name: "Elsewhere", description: "" });
		const eve = await personWith(server, "eve", { elsewhere: "steward" });
		await eve.must("openLock", { id: "elsewhere", takeOver: true });
		expect(await eve.refused("createGroup", { id: "elsewhere", group: mine, parent: null, name: "Renamed" })).toBe("id-taken");
		expect(JSON.stringify(await groupsIn("own"))).toBe(before);
		const self = newId();
		expect(await server.refused("createGroup", { id: "own", group: self, parent: self, name: "Self" })).toBe("not-found");
	});

	it("no loop comes about by moving, undoing and undoing that", async () => {
		await lock(server);
		const [a, b] = [await group(server, null), await group(server, null)];
		const there = await server.must("changeGroup", { id: a, parent: b });
		const back = await server.must("undo", { event: there.event });
		await server.must("changeGroup", { id: b, parent: a });
		expect(await server.refused("undo", { event: back.event })).toBe("group-loop");
		expect(await server.refused("changeGroup", { id: a, parent: b })).toBe("group-loop");
		expect((await groupsIn("own")).find((g) => g.id === a)?.parent).toBeNull();
	});

	it("are undone only onto a group that is there, and under a name that is free", async () => {
		await lock(server);
		const [above, below] = [await group(server, null), await group(server, null)];
		const moved = await server.must("changeGroup", { id: below, parent: above });
		await server.must("changeGroup", { id: below, parent: null });
		await server.must("removeGroup", { id: above, to: null });
		expect(await server.refused("undo", { event: moved.event })).toBe("newer-change");
		const renamed = await server.must("changeGroup", { id: below, name: unique("New name") });
		const was = (await groupsIn("own")).find((g) => g.id === below)?.name ?? "";
		const undone = await server.must("undo", { event: renamed.event });
		await server.must("createGroup", { id: "own", group: newId(), parent: null, name: was });
		expect(await server.refused("undo", { event: undone.event })).toBe("group-taken");
	});

	it("stand at most so deep, and a loop is impossible in the database too", async () => {
		await lock(server);
		let at: string | null = null;
		const line: string[] = [];
		for (let i = 0; i < 12; i++) {
			at = await group(server, at);
			line.push(at);
		}
		expect(await server.refused("createGroup", { id: "own", group: newId(), parent: at, name: "Deeper" })).toBe("group-deep");
		const tail = await group(server, null);
		await group(server, tail);
		expect(await server.refused("changeGroup", { id: tail, parent: line[10] as string })).toBe("group-deep");
		const put = (id: string, parent: string) =>
			db()
				.run("UPDATE library_group SET parent_id = $parent WHERE id = $id", { id, parent })
				.then(
					() => "ok",
					(cause: { original?: Error }) => cause.original?.message ?? "",
				);
		expect(await put(line[0] as string, line[0] as string)).toContain("group-loop");
		expect(await put(line[0] as string, line[7] as string)).toContain("group-loop");
		await server.must("createLibrary", { id: "third", name: "Third", description: "" });
		await server.must("openLock", { id: "third" });
		const foreign = await group(server, null, "third");
		expect(await put(line[0] as string, foreign)).toContain("group-loop");
	});

	it("a line of successors does not come round by undoing either", async () => {
		const [a, b] = [await make(server, unique("Old")), await make(server, unique("Older"))];
		const one = await server.must("manyMaterials", { ids: [a], act: "retire", successor: b });
		const back = await server.must("undo", { event: one.event });
		await server.must("manyMaterials", { ids: [b], act: "retire", successor: a });
		expect(await server.refused("undo", { event: back.event })).toBe("retired-loop");
		await expect(db().run("UPDATE material SET successor_id = $b WHERE id = $a", { a, b })).rejects.toMatchObject({
			original: { message: expect.stringContaining("retired-loop") },
		});
	});
});

describe("taking a step back takes what the step takes now", () => {
	it("an editor undoes neither a project's beginning nor a demotion", async () => {
		const id = newId();
		const begun = await server.must("createProject", { id, name: unique("Project") });
		await role("ed", "project", id, "owner");
		await server.must("shareProject", { id, by: "person", subject: "rea", role: "owner" });
		const demoted = await server.must("shareProject", { id, by: "person", subject: "ed", role: "editor" });
		expect(await ed.refused("undo", { event: demoted.event })).toBe("forbidden");
		expect(await ed.refused("undo", { event: begun.event })).toBe("forbidden");
		expect(await ed.refused("removeProject", { id })).toBe("forbidden");
		await server.must("undo", { event: begun.event });
		expect(await ed.refused("getProject", { id })).toBe("not-found");
	});

	it("the beginning of a material is not undone over what was published of it, nor past the lock", async () => {
		const id = newId();
		const begun = await ed.must("createMaterial", { id, libraryId: "own", name: unique("Begun") });
		await ed.must("saveDraft", { id, edits: [edit("density", null, value("density", "2.7 g/cm3"))] });
		await lock(server);
		await ed.must("openLock", { id: "own", takeOver: true });
		await ed.publish([id], "out");
		await unlock();
		expect(await ed.refused("undo", { event: begun.event })).toBe("locked");
		expect((await server.must("getSheet", { id })).row.revision).toBe(1);
		// a draft needs no lock, and so does taking its beginning back
		const other = newId();
		const draft = await ed.must("createMaterial", { id: other, libraryId: "own", name: unique("Draft") });
		await ed.must("undo", { event: draft.event });
		expect(await ed.refused("getSheet", { id: other })).toBe("not-found");
	});

	it("a move is not undone behind a closed lock, nor a binning of what parts stand on now", async () => {
		const id = await make(server, unique("Moved"));
		const moved = await server.must("changeMaterial", { id, group: "Elsewhere" });
		await unlock();
		expect(await ed.refused("undo", { event: moved.event })).toBe("locked");
		await lock(ed);
		await ed.must("undo", { event: moved.event });
		await lock(server);
		const copy = newId();
		const copied = await server.must("copyMaterial", { id: "bar", newId: copy, libraryId: "own" });
		const project = newId();
		await server.must("createProject", { id: project, name: unique("Uses") });
		await server.importFile(project, "nested.step", fixture("nested.step"));
		const part = (await server.must("getProject", { id: project })).parts[0]?.id ?? "";
		await server.must("assign", { id: project, parts: [part], materialId: copy });
		expect(await server.refused("undo", { event: copied.event })).toBe("newer-change");
	});

	it("drafts of others stay theirs, and what one may not see is not there in the same words as nothing", async () => {
		const id = await make(server, unique("Drafted"));
		const items = [{ id, edits: [edit("field:notes", "", "mine")] }];
		const step = await ed.must("saveDrafts", { items } as never);
		const stranger = await personWith(server, unique("stranger").replace(" ", ""), {});
		const says = async (who: Client, event: number): Promise<string> => {
			const reply = await who.raw("/api/v1/undo", {
				method: "POST",
				headers: { "Content-Type": "application/json" },
				body: JSON.stringify({ event }),
			});
			return `${reply.status} ${JSON.stringify(((await reply.json()) as { issues: unknown }).issues)}`;
		};
		const nothing = await says(stranger, 99_999_999);
		expect(await says(server, step.event)).toBe(nothing);
		expect(await says(stranger, step.event)).toBe(nothing);
		const moved = await server.must("changeMaterial", { id, itemCode: unique("C") });
		expect(await says(stranger, moved.event)).toBe(nothing);
		for (const name of ["approvePublish", "declinePublish"] as const) {
			const input = name === "approvePublish" ? { items: [{ id, hash: "0".repeat(64) }] } : { note: "x" };
			expect(await stranger.refused(name, { id: newId(), ...input } as never)).toBe("not-found");
		}
		expect((await ed.must("undo", { event: step.event })).event).toBeGreaterThan(0);
	});
});

describe("a library that asks for a second person", () => {
	it("asks it of copies too: one material, many, a group; and of bringing a copy back", async () => {
		await lock(server);
		const before = await server.must("copyMany", { ids: ["bar"], libraryId: "own" });
		const taken = await server.must("undo", { event: before.event });
		await server.must("changeLibrary", { id: "own", approval: true });
		// it was taken away again; bringing it back would publish it without anybody having looked
		expect(await server.refused("undo", { event: taken.event })).toBe("undo-approval");
		const sources = ["One", "Two", "Three"].map((n) => unique(n));
		await server.must("createLibrary", { id: "from", name: "From", description: "" });
		await server.must("openLock", { id: "from" });
		const ids: string[] = [];
		for (const name of sources) {
			const id = newId();
			await server.must("createMaterial", { id, libraryId: "from", name, group: "Bars" });
			await server.must("saveDraft", { id, edits: [edit("density", null, value("density", "7.8 g/cm3"))] });
			await server.publish([id], "first");
			ids.push(id);
		}
		await role("ed", "library", "from", "reader");
		await lock(ed);
		const one = newId();
		expect((await ed.must("copyMaterial", { id: ids[0] as string, newId: one, libraryId: "own" })).value).toEqual({
			id: one,
			proposed: true,
		});
		expect((await ed.must("copyMany", { ids: [ids[1] as string], libraryId: "own" })).value).toMatchObject({
			copied: 0,
			proposed: 1,
		});
		const bars = (await groupsIn("from")).find((g) => g.name === "Bars")?.id ?? "";
		const whole = await ed.must("copyGroup", { id: bars, libraryId: "own" });
		expect(whole.value).toMatchObject({ copied: 0, proposed: 1 });
		// nobody else sees any of it before a second person has let it through
		expect(await reader.refused("getSheet", { id: one })).toBe("not-found");
		const { proposals } = await server.must("getLibrary", { id: "own" });
		expect(proposals.flatMap((p) => p.materials.map((m) => m.name)).sort()).toEqual([...sources].sort());
		// whose sheet is nobody's but its author's yet
		expect(proposals.every((p) => p.materials.every((m) => m.isNew))).toBe(true);
		await lock(server);
		for (const p of proposals) {
			const items = p.materials.map(({ id, hash }) => ({ id, hash }));
			await server.must("approvePublish", { id: p.id, items });
		}
		expect(await densityOf(reader, one)).toBe(7800);
		expect((await reader.must("getSheet", { id: one })).revisions[0]).toMatchObject({
			no: 1,
			actor: "ed",
			approvedBy: "You, on this computer",
		});
		await server.must("changeLibrary", { id: "own", approval: false });
	});

	it("lets through what was seen: not what was typed after it was thrown away, nor on another page", async () => {
		const id = await make(server, unique("Seen"), "2.7 g/cm3");
		const type = async (text: string) => {
			const { values } = (await ed.must("getSheet", { id })).row.document;
			return ed.must("saveDraft", { id, edits: [edit("density", values.density, value("density", text))] });
		};
		// without approval: two pages, one of them stale
		await lock(ed);
		const seen = await type("3.0 g/cm3");
		await ed.must("discardDraft", { id });
		const second = await type("6.66 g/cm3");
		expect(second.version).toBeGreaterThan(seen.version);
		expect(await ed.refused("publishDraft", { id, note: "as seen", hash: seen.hash })).toBe("not-as-seen");
		await ed.must("discardDraft", { id });
		// with it: proposed, thrown away, typed anew
		await server.must("changeLibrary", { id: "own", approval: true });
		const asked = await type("3.0 g/cm3");
		await ed.must("publishDraft", { id, note: "please", hash: asked.hash });
		const [proposal] = (await server.must("getLibrary", { id: "own" })).proposals;
		expect(proposal?.materials[0]?.isNew).toBe(false);
		const approve = { id: proposal?.id ?? "", items: [{ id, hash: proposal?.materials[0]?.hash ?? "" }] };
		expect(approve.items[0]?.hash).toBe(asked.hash);
		await ed.must("discardDraft", { id });
		await type("6.66 g/cm3");
		await lock(server);
		expect(await server.refused("approvePublish", approve)).toBe("proposal-stale");
		// nor what comes of it when the published one has moved on meanwhile
		await ed.must("discardDraft", { id });
		await type("3.0 g/cm3");
		await server.must("saveDraft", { id, edits: [edit("field:notes", "", "moved on")] });
		await server.must("changeLibrary", { id: "own", approval: false });
		await server.publish([id], "notes");
		await server.must("changeLibrary", { id: "own", approval: true });
		expect(await server.refused("approvePublish", approve)).toBe("proposal-stale");
		const [fresh] = (await server.must("getLibrary", { id: "own" })).proposals;
		await server.must("approvePublish", { id: fresh?.id ?? "", items: [{ id, hash: fresh?.materials[0]?.hash ?? "" }] });
		expect(await densityOf(server, id)).toBe(3000);
		expect((await server.must("getSheet", { id })).row.document.notes).toBe("moved on");
		await server.must("changeLibrary", { id: "own", approval: false });
	});
});

describe("after a right was taken away", () => {
	it("nothing newer is read: not by bringing forward, by a rule, in the project, by notices, steps or the bin", async () => {
		const library = newId();
		await server.must("createLibrary", { id: library, name: unique("Lent"), description: "" });
		await server.must("openLock", { id: library });
		const id = newId();
		await server.must("createMaterial", { id, libraryId: library, name: unique("Lent") });
		await server.must("saveDraft", { id, edits: [edit("density", null, value("density", "2.7 g/cm3"))] });
		await server.publish([id], "first");
		const guest = await personWith(server, unique("guest").replace(" ", ""), { [library]: "reader" });
		const project = newId();
		await guest.must("createProject", { id: project, name: unique("Guest's") });
		await guest.importFile(project, "nested.step", fixture("nested.step"));
		const part = (await guest.must("getProject", { id: project })).parts[0]?.id ?? "";
		await guest.must("assign", { id: project, parts: [part], materialId: id });
		await guest.must("setFollowing", { id: project, forward: "values-added" });
		await guest.must("starMaterial", { id, on: true } as never);
		const { person } = await guest.must("getSession", {});
		await role(person?.id ?? "", "library", library, null);
		// a revision that only adds a value: the rule would take it
		await server.must("saveDraft", { id, edits: [edit("poissons_ratio", null, value("poissons_ratio", "0.33"))] });
		await server.publish([id], "SECRET NOTE");
		const view = await guest.must("getProject", { id: project });
		expect(view.parts[0]?.assignment).toMatchObject({ revision: 1, behind: null });
		expect(await guest.refused("bringForward", { id: project, parts: [part] })).toBe("nothing-behind");
		const told = JSON.stringify([
			await guest.must("listNotices", {}),
			await guest.must("readNews", { after: "0" }),
			await guest.must("listBin", {}),
			await guest.must("history", { kind: "project", id: project }),
		]);
		expect(told).not.toContain("SECRET NOTE");
		expect(told).not.toContain("revision 2");
		expect(await guest.refused("history", { kind: "material", id })).toBe("not-found");
		// what its parts stand on stays readable to the project
		expect((await guest.must("getProjectRevision", { id: project, material: id })).no).toBe(1);
		// with the right back, the rule goes on with the next revision
		await role(person?.id ?? "", "library", library, "reader");
		await server.must("saveDraft", { id, edits: [edit("youngs_modulus", null, value("youngs_modulus", "70 GPa"))] });
		await server.publish([id], "third");
		expect((await guest.must("getProject", { id: project })).parts[0]?.assignment?.revision).toBe(3);
	});

	it("an administrator's open stream hears no more than the person may who is none any more", async () => {
		const { body } = await (async () => {
			await db().run("INSERT INTO person (id, name, initials, admin) VALUES ('boss', 'Boss', 'B', 1)");
			const { tokenOf } = await import("./harness");
			const headers = await tokenOf(server.installation, "boss");
			return fetch(`${server.base}/api/v1/live`, { headers });
		})();
		const stream = (body as ReadableStream<Uint8Array>).getReader();
		let heard = "";
		const reading = (async () => {
			for (;;) {
				const { done, value: chunk } = await stream.read();
				if (done) return;
				heard += new TextDecoder().decode(chunk);
			}
		})();
		await server.must("createMaterial", { id: newId(), libraryId: "own", name: unique("Before") });
		const first = await make(server, unique("Heard"));
		const wait = async (text: string): Promise<void> => {
			for (let i = 0; i < 100 && !heard.includes(text); i++) await new Promise((r) => setTimeout(r, 30));
		};
		await wait(first);
		expect(heard).toContain(first);
		await db().run("UPDATE person SET admin = 0 WHERE id = 'boss'");
		const changed = await server.installation.services.json.changePerson(newContext(db()), { id: "boss", name: "Boss no more" });
		expect(changed.ok).toBe(true);
		const second = await make(server, unique("Unheard"));
		await server.must("createProject", { id: newId(), name: unique("Marker") });
		await new Promise((r) => setTimeout(r, 300));
		expect(heard).not.toContain(second);
		await stream.cancel();
		await reading.catch(() => undefined);
	});

	it("readers hear no drafts and see no names of what was never published, in news, history and bin", async () => {
		const secret = unique("Never published");
		const id = newId();
		await ed.must("createMaterial", { id, libraryId: "own", name: secret });
		await ed.must("saveDraft", { id, edits: [edit("field:notes", "", "x")] });
		const out = await make(server, unique("Out"));
		await ed.must("saveDraft", { id: out, edits: [edit("field:notes", "", "drafted")] });
		await lock(ed);
		await ed.must("removeMaterial", { id });
		const actions = (await reader.must("readNews", { after: "0" })).events.filter((e) => e.subject === out).map((e) => e.action);
		expect(actions).toContain("material.publish");
		expect(actions).not.toContain("draft.save");
		const editors = (await server.must("readNews", { after: "0" })).events.filter((e) => e.subject === out).map((e) => e.action);
		expect(editors).toContain("draft.save");
		const seen = async (who: Client): Promise<string> =>
			JSON.stringify([
				await who.must("readNews", { after: "0" }),
				await who.must("history", { kind: "library", id: "own" }),
				await who.must("listBin", {}),
			]);
		expect(await seen(reader)).not.toContain(secret);
		expect(await seen(ed)).toContain(secret);
	});

	it("how many parts stand on something is told to nobody who may not delete it", async () => {
		const stranger = await personWith(server, unique("nobody").replace(" ", ""), {});
		const id = await make(server, unique("Used"));
		const project = newId();
		await server.must("createProject", { id: project, name: unique("Users") });
		await server.importFile(project, "nested.step", fixture("nested.step"));
		const part = (await server.must("getProject", { id: project })).parts[0]?.id ?? "";
		await server.must("assign", { id: project, parts: [part], materialId: id });
		expect(await stranger.refused("removeMaterial", { id })).toBe("not-found");
		expect(await reader.refused("manyMaterials", { ids: [id], act: "retire" })).toBe("forbidden");
		expect(await server.refused("removeMaterial", { id })).toBe("in-use");
	});

	it("whether a stranger's library bears a name is not told", async () => {
		const stranger = await personWith(server, unique("namer").replace(" ", ""), {});
		await stranger.must("createLibrary", { id: newId(), name: "Own", description: "" });
		expect(await server.refused("createLibrary", { id: newId(), name: "own", description: "" })).toBe("library-taken");
	});
});

describe("caches and files", () => {
	const columns = async (who: Client, tag?: string, query = "") => {
		const reply = await who.raw(
			`/api/v1/materials-columns?properties=density${query}`,
			tag === undefined ? {} : { headers: { "If-None-Match": tag } },
		);
		return { status: reply.status, tag: reply.headers.get("etag") ?? "", kept: reply.headers.get("cache-control") ?? "" };
	};
	it("columns of one person are no answer for the next, nor for the same one with other rights, drafts or stars", async () => {
		const id = await make(server, unique("Column"));
		const mine = await columns(server);
		expect([mine.status, mine.kept]).toEqual([200, "private, no-cache"]);
		expect((await columns(server, mine.tag)).status).toBe(304);
		expect((await columns(reader, mine.tag)).status).toBe(200);
		const theirs = await columns(reader);
		await role("rea", "library", "sup", "reader");
		expect((await columns(reader, theirs.tag)).status).toBe(200);
		const starred = await columns(server, undefined, "&starred=1");
		await server.must("starMaterial", { id, on: true } as never);
		expect((await columns(server, starred.tag, "&starred=1")).status).toBe(200);
	});

	it("answers with data are nobody's to keep", async () => {
		const reply = await server.raw("/api/v1/libraries");
		expect(reply.headers.get("cache-control")).toBe("no-store");
	});

	it("hidden rows never pass, however many spans are asked for; unknown and repeated ones are refused", async () => {
		const secret = newId();
		await ed.must("createMaterial", { id: secret, libraryId: "own", name: unique("Hidden draft") });
		const spans = Array.from({ length: 128 }, () => "density:1e9..2e9").join(",");
		expect(await reader.refused("findMaterials", { where: spans })).toBe("too-many");
		const twice = "density:1e9..2e9,density:1e9..2e9";
		expect(await reader.refused("findMaterials", { where: twice })).toBe("bad-input");
		expect(await reader.refused("findMaterials", { where: "no_such_thing:1..2" })).toBe("unknown-property");
		const { libraries } = { libraries: (await reader.must("listLibraries", {})).map((l) => l.id) };
		const page = await reader.must("findMaterials", { limit: "1000" });
		expect(page.rows.every((r) => libraries.includes(r.libraryId) && r.id !== secret)).toBe(true);
	});

	it("a checksum in one's own words opens no file of anybody else's", async () => {
		const id = await make(server, unique("With file"));
		const reply = await server.raw(`/api/v1/materials/${id}/files?file=report.txt&as=attachment`, {
			method: "POST",
			headers: { "Content-Type": "application/octet-stream" },
			body: "the secret report",
		});
		const { hash } = ((await reply.json()) as { value: { hash: string } }).value;
		const thief = await personWith(server, unique("thief").replace(" ", ""), {});
		const own = newId();
		await thief.must("createLibrary", { id: own, name: unique("Thief's"), description: "" });
		await thief.must("openLock", { id: own });
		const material = newId();
		await thief.must("createMaterial", { id: material, libraryId: own, name: "Mine" });
		const open = async (): Promise<number> => (await thief.raw(`/api/v1/materials/${material}/files/${hash}`)).status;
		await thief.must("saveDraft", {
			id: material,
			edits: [edit("field:notes", "", hash), edit("density", null, value("density", "1 g/cm3"))],
		});
		expect(await open()).toBe(404);
		await thief.publish([material], hash);
		expect(await open()).toBe(404);
		const entry = { name: "x", format: "text", hash, bytes: 17, purpose: "other", note: "", version: 1, date: "2026-11-29" };
		expect(await thief.refused("saveDraft", { id: material, edits: [edit("attachments:a", null, entry)] })).not.toBe("ok");
		// nor does an edition that names it without bringing it along
		const document = (await thief.must("getSheet", { id: material })).row.document;
		const file = {
			format: "alvek-edition",
			version: 1,
			library: { uid: newId(), name: unique("Crafted"), description: "" },
			edition: { no: 1, note: "" },
			materials: [
				{
					uid: newId(),
					name: "Crafted",
					group: "",
					itemCode: "",
					retired: false,
					document: { ...document, attachments: { a: entry } },
				},
			],
			files: {},
		};
		const taken = await thief.raw("/api/v1/libraries/taken", {
			method: "POST",
			headers: { "Content-Type": "application/octet-stream" },
			body: JSON.stringify(file),
		});
		expect(((await taken.json()) as { issues: { code: string }[] }).issues[0]?.code).toBe("damaged-file");
		expect(await revise(server, id, "2.8 g/cm3")).toBe(2);
	});
});
