import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type Client, newId, type Running } from "./harness";
import { densityOf, edit, make, revise, startTeam } from "./team";

let server: Running;
let ed: Client;
let goal: string;
let steel: string;
beforeAll(async () => {
	({ server, ed } = await startTeam());
	goal = newId();
	await server.must("createLibrary", { id: goal, name: "Yard", description: "" });
	await server.must("openLock", { id: "own", takeOver: true });
	await server.must("openLock", { id: goal });
	steel = await make(server, "Copy steel", "7.85 g/cm3", "Steels / Bars");
	await server.must("changeMaterial", {
		id: steel,
		itemCode: "C-17",
		shopName: "grey bar",
		knownAs: [{ scope: "stores", name: "ST 17" }],
		offeredFor: ["pins"],
	});
});
afterAll(() => server.stop());

const rowsOf = async (library: string) => (await server.must("findMaterials", { library })).rows;

describe("copying to another library", () => {
	it("goes to its own group, or to the one that was named; a blank one is no group", async () => {
		for (const [input, group] of [
			[{}, "Steels / Bars"],
			[{ group: "Stock" }, "Stock"],
			[{ group: "" }, ""],
		] as const) {
			const { event, value } = await server.must("copyMany", { ids: [steel], libraryId: goal, ...input });
			expect((await rowsOf(goal)).map((r) => [r.id, r.group, r.itemCode])).toEqual([[value.ids[0], group, "C-17"]]);
			await server.must("undo", { event });
		}
	});

	it("says before which names are taken, by what, and whether it says the same there", async () => {
		await server.must("copyMany", { ids: [steel], libraryId: goal });
		const plan = await server.must("copyPlan", { ids: [steel], libraryId: goal });
		expect(plan).toMatchObject({ fresh: 0, groups: ["Steels / Bars"], unpublished: [], proposed: false });
		expect(plan.taken[0]).toMatchObject({ id: steel, same: true, free: "Copy steel (2)", there: { revision: 1 } });
		await revise(server, steel, "7.86 g/cm3");
		const later = await server.must("copyPlan", { ids: [steel], libraryId: goal });
		expect(later.taken[0]?.same).toBe(false);
		expect(later.seen).not.toBe(plan.seen);
	});

	it("puts it onto what bears its name as the next revision, only onto what was seen", async () => {
		const [there] = await rowsOf(goal);
		const stale = await server.must("copyPlan", { ids: [steel], libraryId: goal });
		await revise(server, there?.id ?? "", "7.5 g/cm3");
		const over = { ids: [steel], libraryId: goal, taken: "revise" as const };
		expect(await server.refused("copyMany", { ...over, seen: stale.seen })).toBe("copy-moved");
		expect(await server.refused("copyMany", over)).toBe("copy-moved");
		const { seen } = await server.must("copyPlan", { ids: [steel], libraryId: goal });
		const done = await server.must("copyMany", { ...over, seen });
		expect(done.value).toMatchObject({ copied: 0, revised: 1, left: [], ids: [there?.id] });
		const sheet = await server.must("getSheet", { id: there?.id ?? "" });
		expect([sheet.row.revision, await densityOf(server, sheet.row.id)]).toEqual([3, 7860]);
		// a revision stays, so there is nothing that could be taken back
		expect(done.event).toBe(0);
		// the same again says nothing new
		const again = await server.must("copyPlan", { ids: [steel], libraryId: goal });
		expect((await server.must("copyMany", { ...over, seen: again.seen })).value).toMatchObject({ revised: 0, copied: 0 });
		expect((await server.must("getSheet", { id: sheet.row.id })).row.revision).toBe(3);
	});

	it("never runs over a draft of mine, nor over what is retired", async () => {
		await revise(server, steel, "7.87 g/cm3");
		const [there] = await rowsOf(goal);
		const id = there?.id ?? "";
		await server.must("saveDraft", { id, edits: [edit("field:notes", "", "mine")] });
		const { seen } = await server.must("copyPlan", { ids: [steel], libraryId: goal });
		const over = { ids: [steel], libraryId: goal, taken: "revise" as const, seen };
		expect((await server.must("copyMany", over)).value).toMatchObject({ revised: 0, left: ["Copy steel"] });
		await server.must("discardDraft", { id });
		const retired = await server.must("manyMaterials", { ids: [id], act: "retire" });
		expect((await server.must("copyMany", over)).value).toMatchObject({ revised: 0, left: ["Copy steel"] });
		await server.must("undo", { event: retired.event });
	});

	it("takes another name where one was given, and refuses one that is taken", async () => {
		const under = (name: string) => ({
			ids: [steel],
			libraryId: goal,
			taken: "rename" as const,
			names: [{ id: steel, name }],
		});
		expect(await server.refused("copyMany", under("copy STEEL"))).toBe("name-taken");
		const done = await server.must("copyMany", under("Copy steel, stock"));
		expect((await rowsOf(goal)).map((r) => r.name).sort()).toEqual(["Copy steel", "Copy steel, stock"]);
		// a code stands once in a library
		expect((await rowsOf(goal)).map((r) => r.itemCode).sort()).toEqual(["", "C-17"]);
		await server.must("undo", { event: done.event });
	});

	it("copies two of one name from two libraries: the second one asks like any other taken name", async () => {
		const other = newId();
		await server.must("createLibrary", { id: other, name: "Third yard", description: "" });
		await server.must("openLock", { id: other });
		const twin = await server.must("copyMany", { ids: [steel], libraryId: other });
		const both = [steel, twin.value.ids[0] as string];
		const last = newId();
		await server.must("createLibrary", { id: last, name: "Fourth yard", description: "" });
		await server.must("openLock", { id: last });
		const plan = await server.must("copyPlan", { ids: both, libraryId: last });
		expect([plan.fresh, plan.taken.map((t) => [t.there, t.free])]).toEqual([1, [[null, "Copy steel (2)"]]]);
		expect((await server.must("copyMany", { ids: both, libraryId: last })).value).toMatchObject({
			copied: 1,
			left: ["Copy steel"],
		});
	});

	it("of two tabs that saw the same, the second one is told instead of putting its own over the first", async () => {
		await revise(server, steel, "7.88 g/cm3");
		const { seen } = await server.must("copyPlan", { ids: [steel], libraryId: goal });
		const over = { ids: [steel], libraryId: goal, taken: "revise" as const, seen };
		const both = await Promise.all([server.call("copyMany", over), server.call("copyMany", over)]);
		expect(both.map((r) => (r.ok ? "ok" : r.issues[0]?.code)).sort()).toEqual(["copy-moved", "ok"]);
	});

	it("puts one of two of one name onto what bears it, and tells of the other", async () => {
		const [one, two] = [newId(), newId()];
		for (const [id, name] of [
			[one, "Fifth yard"],
			[two, "Sixth yard"],
		] as const) {
			await server.must("createLibrary", { id, name, description: "" });
			await server.must("openLock", { id });
		}
		const first = (await server.must("copyMany", { ids: [steel], libraryId: one })).value.ids[0] ?? "";
		const second = (await server.must("copyMany", { ids: [steel], libraryId: two })).value.ids[0] ?? "";
		await revise(server, first, "7.81 g/cm3");
		await revise(server, second, "7.82 g/cm3");
		const ids = [first, second];
		const { seen } = await server.must("copyPlan", { ids, libraryId: goal });
		const done = await server.must("copyMany", { ids, libraryId: goal, taken: "revise", seen });
		expect(done.value).toMatchObject({ revised: 1, left: ["Copy steel"] });
		expect(await densityOf(server, done.value.ids[0] ?? "")).toBe(7810);
	});

	it("asks the right and the lock of the target, and tells nothing of what one may not read", async () => {
		expect(await ed.refused("copyPlan", { ids: [steel], libraryId: goal })).toBe("not-found");
		expect(await ed.refused("copyMany", { ids: [steel], libraryId: goal })).toBe("not-found");
		expect(await server.refused("copyPlan", { libraryId: goal })).toBe("empty");
		const hidden = await make(server, "Only mine", "1 g/cm3");
		await server.must("copyMany", { ids: [hidden], libraryId: goal });
		const secret = (await rowsOf(goal)).find((r) => r.name === "Only mine")?.id ?? "";
		expect(await ed.refused("copyPlan", { ids: [secret], libraryId: "own" })).toBe("not-found");
	});
});

describe("moving to another library", () => {
	it("copies, retires the original with the copy as successor, takes along what no document says; one step back", async () => {
		const id = await make(server, "Mover", "2.7 g/cm3");
		const says = { itemCode: "M-1", shopName: "mv", knownAs: [{ scope: "stores", name: "MV 1" }], offeredFor: ["covers"] };
		await server.must("changeMaterial", { id, ...says });
		await server.must("starMaterial", { id, on: true });
		const { event, value } = await server.must("copyMany", { ids: [id], libraryId: goal, move: true });
		expect(value).toMatchObject({ copied: 1, moved: 1, left: [] });
		const [copy = ""] = value.ids;
		expect((await server.must("getSheet", { id: copy })).row).toMatchObject({
			...says,
			starred: true,
			revision: 1,
			retired: null,
		});
		expect((await server.must("getSheet", { id })).row.retired).toMatchObject({ successor: { id: copy } });
		const back = await server.must("undo", { event });
		expect((await server.must("getSheet", { id })).row.retired).toBeNull();
		expect(await server.refused("getSheet", { id: copy })).toBe("not-found");
		await server.must("undo", { event: back.event });
		expect((await server.must("getSheet", { id })).row.retired).toMatchObject({ successor: { id: copy } });
	});

	it("never makes a material its own successor, by whatever way", async () => {
		const id = await make(server, "Round and round", "2.7 g/cm3");
		const there = (await server.must("copyMany", { ids: [id], libraryId: goal })).value.ids[0] ?? "";
		await server.must("manyMaterials", { ids: [there], act: "retire", successor: id });
		expect(await server.refused("copyMany", { ids: [id], libraryId: goal, move: true })).toBe("retired-loop");
		expect((await server.must("getSheet", { id })).row.retired).toBeNull();
	});

	it("takes the right and the lock where it leaves, also to be taken back", async () => {
		await server.must("shareLibrary", { id: goal, by: "person", subject: "ed", role: "editor" });
		await server.must("shareLibrary", { id: "own", by: "person", subject: "ed", role: "reader" });
		const id = await make(server, "Held here", "2.7 g/cm3");
		await ed.must("openLock", { id: goal, takeOver: true });
		expect(await ed.refused("copyMany", { ids: [id], libraryId: goal, move: true })).toBe("forbidden");
		expect((await rowsOf(goal)).some((r) => r.name === "Held here")).toBe(false);
		await server.must("shareLibrary", { id: "own", by: "person", subject: "ed", role: "editor" });
		expect(await ed.refused("copyMany", { ids: [id], libraryId: goal, move: true })).toBe("locked-by");
		await ed.must("openLock", { id: "own", takeOver: true });
		const moved = await ed.must("copyMany", { ids: [id], libraryId: goal, move: true });
		await server.must("shareLibrary", { id: "own", by: "person", subject: "ed", role: "reader" });
		expect(await ed.refused("undo", { event: moved.event })).toBe("forbidden");
	});

	it("waits for nobody: where a second person approves it is copied and retired in two steps", async () => {
		await server.must("changeLibrary", { id: goal, approval: true });
		expect(await server.refused("copyMany", { ids: [steel], libraryId: goal, move: true })).toBe("move-waits");
		const { seen } = await server.must("copyPlan", { ids: [steel], libraryId: goal });
		const done = await server.must("copyMany", { ids: [steel], libraryId: goal, taken: "revise", seen });
		expect(done.value).toMatchObject({ copied: 0, revised: 0, proposed: 1 });
		const [id = ""] = done.value.ids;
		const { proposals } = await server.must("getLibrary", { id: goal });
		expect(proposals.flatMap((p) => p.materials.map((m) => [m.id, m.isNew]))).toEqual([[id, false]]);
		// what was published stays as it is until somebody approves
		expect(await densityOf(ed, id)).toBe(7810);
	});
});

describe("merging across libraries", () => {
	it("gives code, shop name and names elsewhere to the survivor; what is taken there stays; the retired one keeps its own", async () => {
		const [one, two] = [newId(), newId()];
		for (const [id, name] of [
			[one, "From here"],
			[two, "To there"],
		] as const) {
			await server.must("createLibrary", { id, name, description: "" });
			await server.must("openLock", { id });
		}
		const into = async (library: string, name: string, more: object): Promise<string> => {
			const id = newId();
			await server.must("createMaterial", { id, libraryId: library, name });
			await server.must("saveDraft", { id, edits: [edit("field:notes", "", name)] });
			await server.publish([id], "first");
			await server.must("changeMaterial", { id, ...more });
			return id;
		};
		const link = (name: string) => ({ scope: "stores", name });
		const drop = await into(one, "Gone", { itemCode: "G-1", shopName: "gg", knownAs: [link("GO 1"), link("GO 2")] });
		const keep = await into(two, "Kept", { knownAs: [link("KE 1")] });
		await into(two, "Beside", { knownAs: [link("GO 2")] });
		const input = { id: keep, other: drop, take: [], code: false, keepRevision: 1, dropRevision: 1, note: "one of two" };
		const done = await server.must("mergeMaterials", input);
		const rows = async () => server.must("getMaterials", { ids: `${keep},${drop}` });
		const said = (await rows()).map((r) => [r.itemCode, r.shopName, r.knownAs.map((k) => k.name)]);
		expect(said).toEqual([
			["G-1", "gg", ["KE 1", "GO 1"]],
			["G-1", "gg", ["GO 1", "GO 2"]],
		]);
		await server.must("undo", { event: done.event });
		expect((await rows()).map((r) => [r.itemCode, r.knownAs.length])).toEqual([
			["", 1],
			["G-1", 2],
		]);
	});
});
