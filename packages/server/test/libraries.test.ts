import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type Client, newId, type Running, value } from "./harness";
import { edit, make, startTeam } from "./team";

let server: Running;
let ed: Client;
let reader: Client;
let project: string;
let part: string;
beforeAll(async () => {
	({ server, ed, reader, project, part } = await startTeam());
	await server.must("shareProject", { id: project, by: "person", subject: "ed", role: "reader" });
});
afterAll(() => server.stop());

describe("groups", () => {
	const tree = async (): Promise<string[]> => {
		const { groupTree } = await server.must("getLibrary", { id: "own" });
		const path = (id: string | null): string => {
			const g = groupTree.find((x) => x.id === id);
			return g === undefined ? "" : g.parent === null ? g.name : `${path(g.parent)} / ${g.name}`;
		};
		return groupTree.map((g) => path(g.id)).sort();
	};
	const idOf = async (name: string): Promise<string> =>
		(await server.must("getLibrary", { id: "own" })).groupTree.find((g) => g.name === name)?.id ?? "";

	it("are made, renamed, moved and taken away, each with its way back; materials go along", async () => {
		await server.must("openLock", { id: "own", takeOver: true });
		const id = await make(server, "Grouped", "2.7 g/cm3", "Boats / Hull");
		const before = await tree();
		const [boats, hull] = [await idOf("Boats"), await idOf("Hull")];
		const made = newId();
		await server.must("createGroup", { id: "own", group: made, parent: boats, name: "Deck" });
		expect(await server.refused("createGroup", { id: "own", group: newId(), parent: boats, name: "DECK" })).toBe("group-taken");
		expect(await server.refused("changeGroup", { id: boats, parent: hull })).toBe("group-loop");
		const moved = await server.must("changeGroup", { id: hull, parent: made });
		expect((await server.must("getSheet", { id })).row.group).toBe("Boats / Deck / Hull");
		expect((await server.must("findMaterials", { group: "Boats / Deck / Hull" })).total).toBe(1);
		const gone = await server.must("removeGroup", { id: made, to: boats });
		expect((await server.must("getSheet", { id })).row.group).toBe("Boats / Hull");
		await server.must("undo", { event: gone.event });
		expect((await server.must("getSheet", { id })).row.group).toBe("Boats / Deck / Hull");
		await server.must("undo", { event: moved.event });
		const away = await server.must("removeGroup", { id: hull, to: null });
		expect(away.value.moved).toBe(1);
		expect((await server.must("getSheet", { id })).row.group).toBe("");
		await server.must("undo", { event: away.event });
		expect((await server.must("getSheet", { id })).row.group).toBe("Boats / Hull");
		expect((await tree()).filter((p) => p !== "Boats / Deck")).toEqual(before);
	});

	it("are copied with their materials; names that are taken are told", async () => {
		const goal = newId();
		await server.must("createLibrary", { id: goal, name: "Boat yard", description: "" });
		await server.must("openLock", { id: goal });
		const copied = await server.must("copyMany", { ofGroup: await idOf("Boats"), libraryId: goal });
		expect(copied.value).toMatchObject({ copied: 1, proposed: 0, left: [] });
		const rows = await server.must("findMaterials", { library: goal });
		expect(rows.rows.map((r) => [r.name, r.group, r.revision])).toEqual([["Grouped", "Boats / Hull", 1]]);
		expect((await server.must("copyMany", { ofGroup: await idOf("Boats"), libraryId: goal })).value).toMatchObject({
			copied: 0,
			proposed: 0,
			left: ["Grouped"],
		});
		await server.must("undo", { event: copied.event });
		expect((await server.must("findMaterials", { library: goal })).total).toBe(0);
	});
});

describe("many materials at once", () => {
	it("move, go to the bin and come back in one step; what is used is said first", async () => {
		const ids = [await make(server, "Many a"), await make(server, "Many b")];
		const moved = await server.must("manyMaterials", { ids, act: "move", group: "Sorted" });
		expect((await server.must("findMaterials", { group: "Sorted" })).total).toBe(2);
		await server.must("undo", { event: moved.event });
		expect((await server.must("findMaterials", { group: "Sorted" })).total).toBe(0);
		await server.must("assign", { id: project, parts: [part], materialId: ids[0] as string });
		const refused = await server.call("manyMaterials", { ids, act: "remove" });
		expect(refused.ok ? "" : refused.issues[0]).toMatchObject({ code: "in-use", actual: "1 part in 1 project stands on it" });
		const gone = await server.must("manyMaterials", { ids, act: "remove", inUse: true });
		expect((await server.must("findMaterials", { text: "many" })).total).toBe(0);
		// the part keeps what it stands on
		expect((await server.must("getProject", { id: project })).parts.find((p) => p.id === part)?.assignment).toMatchObject({
			material: "Many a",
			removed: true,
		});
		await server.must("undo", { event: gone.event });
		expect((await server.must("findMaterials", { text: "many" })).total).toBe(2);
		expect(await server.refused("manyMaterials", { ids: [ids[0] as string, "bar"], act: "move", group: "x" })).toBe("read-only");
	});

	it("are starred in an order of one's own", async () => {
		const ids = [await make(server, "Star a"), await make(server, "Star b"), await make(server, "Star c")];
		await server.must("starMany", { ids, on: true });
		const order = async (): Promise<string[]> =>
			(await server.must("findMaterials", { starred: "1", sort: "star" })).rows
				.map((r) => r.name)
				.filter((n) => n.startsWith("Star"));
		expect(await order()).toEqual(["Star a", "Star b", "Star c"]);
		await server.must("starMany", { ids: [ids[2], ids[0], ids[1]] as string[], order: true });
		expect(await order()).toEqual(["Star c", "Star a", "Star b"]);
	});
});

describe("a library", () => {
	it("is shared by person, team or everyone, in a set too, and says so in plain words", async () => {
		const id = newId();
		await server.must("createLibrary", { id, name: "Shared library", description: "" });
		expect(await ed.refused("getLibrary", { id })).toBe("not-found");
		const shared = await server.must("shareLibrary", { id, by: "person", subject: "ed", role: "reader" });
		expect((await ed.must("getLibrary", { id })).role).toBe("reader");
		await server.must("undo", { event: shared.event });
		expect(await ed.refused("getLibrary", { id })).toBe("not-found");
		const set = newId();
		await server.must("saveSet", { id: set, name: "Yard set", libraries: [id, "own"] });
		expect(await ed.refused("shareSet", { id: set, by: "everyone", subject: "", role: "steward" })).toBe("not-found");
		await server.must("shareSet", { id: set, by: "everyone", subject: "", role: "editor" });
		expect((await ed.must("getLibrary", { id })).mayEdit).toBe(true);
		expect((await reader.must("getLibrary", { id })).sentence).toBe(
			"Everyone here drafts and publishes. You, on this computer is its steward. You, on this computer keeps it.",
		);
		await server.must("openLock", { id });
		await server.must("openLock", { id: "own", takeOver: true });
		// one of the two is empty: all or none
		expect(await server.refused("freezeSet", { id: set, note: "together" })).toBe("nothing-to-freeze");
		await server.must("removeSet", { id: set });
		expect(await reader.refused("getLibrary", { id })).toBe("not-found");
		expect((await reader.must("getLibrary", { id: "own" })).role).toBe("reader");
	});

	it("is renamed, archived and un-shared without breaking a project that stands on it", async () => {
		const id = newId();
		await server.must("createLibrary", { id, name: "Going away", description: "" });
		await server.must("openLock", { id });
		const material = newId();
		await server.must("createMaterial", { id: material, libraryId: id, name: "Staying" });
		const draft = await server.must("saveDraft", { id: material, edits: [edit("density", null, value("density", "2.5 g/cm3"))] });
		await server.must("publishDraft", { id: material, note: "x", hash: draft.hash });
		await server.must("assign", { id: project, parts: [part], materialId: material });
		const mass = (await server.must("getProject", { id: project })).totals.mass_kg?.mass;
		await server.must("changeLibrary", { id, name: "Gone away" });
		const archived = await server.must("changeLibrary", { id, archived: true });
		expect(await ed.refused("getSheet", { id: material })).toBe("not-found");
		expect((await server.must("findMaterials", { text: "staying" })).total).toBe(0);
		const view = await ed.must("getProject", { id: project });
		expect(view.totals.mass_kg?.mass).toBe(mass);
		expect(view.parts.find((p) => p.id === part)?.assignment).toMatchObject({ material: "Staying", mayOpen: false });
		expect((await ed.must("getProjectRevision", { id: project, material })).document.values.density).toMatchObject({ low: 2500 });
		expect(await reader.refused("getProjectRevision", { id: project, material })).toBe("not-found");
		await server.must("undo", { event: archived.event });
		expect((await server.must("findMaterials", { text: "staying" })).total).toBe(1);
		const users = await server.must("getLibrary", { id });
		expect([users.usedBy.map((p) => [p.name, p.parts]), users.hiddenUsers]).toEqual([[["Winch", 1]], 0]);
	});

	it("tells what nobody uses, and empties its bin only of what is old and free", async () => {
		const [used, free, kept] = [
			await make(server, "Binned, used"),
			await make(server, "Binned, free"),
			await make(server, "Binned, frozen"),
		];
		await server.must("assign", { id: project, parts: [part], materialId: used });
		const unused = (await server.must("listUnused", { id: "own" })).map((u) => u.name);
		expect([unused.includes("Binned, used"), unused.includes("Binned, free")]).toEqual([false, true]);
		await server.must("freezeEdition", { id: "own", note: "with all three" });
		const { db } = server.installation;
		const late = await make(server, "Binned, too late");
		await server.must("manyMaterials", { ids: [used, free, kept, late], act: "remove", inUse: true });
		expect(await server.must("emptyBin", { id: "own" })).toEqual({ gone: 0, kept: 0 });
		const old = new Date(Date.now() - 91 * 86_400_000).toISOString();
		await db.run("UPDATE material SET removed_at = $old WHERE id IN ($a, $b, $c, $d)", {
			old,
			a: used,
			b: free,
			c: kept,
			d: late,
		});
		// the edition holds the first three, a part one of them; only the last is free
		expect(await server.must("emptyBin", { id: "own" })).toEqual({ gone: 1, kept: 3 });
		expect(
			(await server.must("listBin", {}))
				.map((b) => b.name)
				.filter((n) => n.startsWith("Binned"))
				.sort(),
		).toEqual(["Binned, free", "Binned, frozen", "Binned, used"]);
		await server.must("manyMaterials", { ids: [free], act: "restore" });
		expect((await server.must("getSheet", { id: free })).row.name).toBe("Binned, free");
	});

	it("has a working list that choosers put first; updating never touches own values", async () => {
		const { event } = await reader.must("setWorking", { id: "sup", materials: ["bar"], on: true }).catch(() => ({ event: 0 }));
		// the reader may not even see the supplied library
		expect(event).toBe(0);
		const on = await server.must("setWorking", { id: "sup", materials: ["bar"], on: true });
		expect((await server.must("findMaterials", { marks: "working" })).rows.map((r) => r.name)).toEqual(["Bar 7"]);
		await server.must("undo", { event: on.event });
		expect((await server.must("findMaterials", { marks: "working" })).total).toBe(0);
	});
});
