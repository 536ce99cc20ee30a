import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type Client, fixture, newId, personWith, type Running, setRole, startServer, value } from "./harness";
import { densityOf, edit, make } from "./team";

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
	setRole(server, person, kind, target, to);
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
		const copied = await server.must("copyMany", { ids: ["bar"], libraryId: "own" });
		const [copy = ""] = copied.value.ids;
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
		const names = [{ id: "bar", name: unique("Bar again") }];
		const before = await server.must("copyMany", { ids: ["bar"], libraryId: "own", taken: "rename", names });
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
		const first = (await ed.must("copyMany", { ids: [ids[0] as string], libraryId: "own" })).value;
		expect(first).toMatchObject({ copied: 0, proposed: 1 });
		const [one = ""] = first.ids;
		expect((await ed.must("copyMany", { ids: [ids[1] as string], libraryId: "own" })).value).toMatchObject({
			copied: 0,
			proposed: 1,
		});
		const bars = (await groupsIn("from")).find((g) => g.name === "Bars")?.id ?? "";
		const whole = await ed.must("copyMany", { ofGroup: bars, libraryId: "own" });
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
