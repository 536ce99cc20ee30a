import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newContext } from "../src/index";
import { lowOf, material, newId, type Running, startServer, value } from "./harness";

let server: Running;
beforeAll(async () => {
	server = await startServer();
	await server.installation.db.run(
		"INSERT INTO person (id, name, initials, admin) VALUES ('ann', 'Ann', 'A', 0), ('bob', 'Bob', 'B', 0)",
	);
	for (const person of ["ann", "bob"]) {
		await server.installation.db.run(
			`INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ('person', '${person}', 'library', 'own', 'editor')`,
		);
	}
});
afterAll(() => server.stop());

const as = (person: string) => ({ ...newContext(server.installation.db), actor: { person, admin: false } });

async function make(name: string, group = "Metals / Test"): Promise<string> {
	const id = newId();
	await server.must("createMaterial", { id, libraryId: "own", name, group });
	const { hash } = await server.must("saveDraft", {
		id,
		edits: [{ at: "density", from: null, to: value("density", "2.7 g/cm3") }],
	});
	await server.must("publishDraft", { id, note: "first", hash });
	return id;
}

describe("rows of a library", () => {
	it("change name, code, shop name and group at once, without a revision, each with its way back", async () => {
		const id = await make("Row one");
		const { event } = await server.must("changeMaterial", {
			id,
			name: "Row uno",
			itemCode: "OW-1",
			shopName: "one",
			group: "Metals / New / Deep",
		});
		const { row } = await server.must("getSheet", { id });
		expect([row.name, row.itemCode, row.shopName, row.group, row.revision]).toEqual([
			"Row uno",
			"OW-1",
			"one",
			"Metals / New / Deep",
			1,
		]);
		expect((await server.must("listLibraries", {})).find((l) => l.id === "own")?.groups).toContain("Metals / New / Deep");
		await server.must("undo", { event });
		expect((await server.must("getSheet", { id })).row).toMatchObject({
			name: "Row one",
			itemCode: "",
			shopName: "",
			group: "Metals / Test",
		});
	});

	it("keep item codes unique within the library, and say who has one", async () => {
		const [a, b] = [await make("Code a"), await make("Code b")];
		await server.must("changeMaterial", { id: a, itemCode: "OW-77" });
		const taken = await server.call("changeMaterial", { id: b, itemCode: "OW-77" });
		expect(taken.ok ? null : taken.issues[0]).toMatchObject({ code: "code-taken", actual: "OW-77 is Code a" });
		expect(await server.refused("changeMaterial", { id: b, name: "code A" })).toBe("name-taken");
		expect(await server.refused("changeMaterial", { id: b })).toBe("empty");
	});

	it("an undo that something newer stands in the way of changes nothing, and an undo can be undone", async () => {
		const id = await make("Back and forth");
		const first = await server.must("changeMaterial", { id, shopName: "a" });
		await server.must("changeMaterial", { id, shopName: "b" });
		expect(await server.refused("undo", { event: first.event })).toBe("newer-change");
		const third = await server.must("changeMaterial", { id, shopName: "c" });
		const undone = await server.must("undo", { event: third.event });
		expect((await server.must("getSheet", { id })).row.shopName).toBe("b");
		await server.must("undo", { event: undone.event });
		expect((await server.must("getSheet", { id })).row.shopName).toBe("c");
	});
});

describe("two people on one material", () => {
	const services = () => server.installation.services.json;

	it("have a draft each, seen by its author only", async () => {
		const id = await make("Shared");
		const density = (await server.must("getSheet", { id })).row.document.values.density;
		await services().saveDraft(as("ann"), { id, edits: [{ at: "density", from: density, to: value("density", "2.8 g/cm3") }] });
		const seen = async (person: string) => {
			const sheet = await services().getSheet(as(person), { id });
			return sheet.ok ? [lowOf(sheet.value.row.document, "density"), sheet.value.draftAt !== null] : sheet.issues;
		};
		expect(await seen("ann")).toEqual([2800, true]);
		expect(await seen("bob")).toEqual([2700, false]);
	});

	it("the second to publish is merged value by value; a value that both changed is a conflict", async () => {
		const id = await make("Merged");
		const density = (await server.must("getSheet", { id })).row.document.values.density;
		const ann = await services().saveDraft(as("ann"), {
			id,
			edits: [{ at: "density", from: density, to: value("density", "2.8 g/cm3") }],
		});
		const bob = await services().saveDraft(as("bob"), {
			id,
			edits: [{ at: "poissons_ratio", from: null, to: value("poissons_ratio", "0.33") }],
		});
		if (!ann.ok || !bob.ok) throw new Error();
		// the lock is somebody else's, then goes from hand to hand
		const locked = await services().publishDraft(as("ann"), { id, note: "a", hash: ann.value.hash });
		expect(locked.ok ? "ok" : locked.issues[0]).toMatchObject({ code: "locked-by", actual: "You, on this computer" });
		const takeOver = (person: string) => services().openLock(as(person), { id: "own", takeOver: true });
		await takeOver("ann");
		expect((await services().publishDraft(as("ann"), { id, note: "a", hash: ann.value.hash })).ok).toBe(true);
		await takeOver("bob");
		// what would come out now is not what he saw; he looks, and publishes that
		const unseen = await services().publishDraft(as("bob"), { id, note: "b", hash: bob.value.hash });
		expect(unseen.ok ? "ok" : unseen.issues[0]?.code).toBe("not-as-seen");
		const plan = await services().publishPlan(as("bob"), { ids: [id] });
		if (!plan.ok) throw new Error();
		const second = await services().publishDraft(as("bob"), { id, note: "b", hash: plan.value.materials[0]?.hash ?? "" });
		expect(second).toMatchObject({ ok: true, value: { revision: 3 } });
		const { row, revisions } = await server.must("getSheet", { id });
		expect([lowOf(row.document, "density"), lowOf(row.document, "poissons_ratio")]).toEqual([2800, 0.33]);
		expect(revisions.map((r) => [r.no, r.note, r.actor])).toEqual([
			[3, "b", "Bob"],
			[2, "a", "Ann"],
			[1, "first", "You, on this computer"],
		]);

		const now = row.document.values.density;
		const mine = await services().saveDraft(as("ann"), {
			id,
			edits: [{ at: "density", from: now, to: value("density", "2.9 g/cm3") }],
		});
		const theirs = await services().saveDraft(as("bob"), {
			id,
			edits: [{ at: "density", from: now, to: value("density", "3.0 g/cm3") }],
		});
		if (!mine.ok || !theirs.ok) throw new Error();
		await takeOver("ann");
		await services().publishDraft(as("ann"), { id, note: "c", hash: mine.value.hash });
		await takeOver("bob");
		const clash = await services().publishDraft(as("bob"), { id, note: "d", hash: theirs.value.hash });
		expect(clash.ok ? null : clash.issues[0]).toMatchObject({ code: "conflict", path: "density", current: { low: 2900 } });
		// nothing of Bob's is lost: his draft still stands
		const sheet = await services().getSheet(as("bob"), { id });
		expect(sheet.ok && lowOf(sheet.value.row.document, "density")).toBe(3000);
		// nobody else takes a step of his draft back
		const step = await services().saveDrafts(as("bob"), {
			items: [{ id, edits: [{ at: "field:notes", from: "", to: "mine" }] }],
		});
		if (!step.ok) throw new Error();
		const meddled = await services().undo(as("ann"), { event: step.value.event });
		expect(meddled.ok ? "ok" : meddled.issues[0]?.code).toBe("not-found");
		expect((await services().undo(as("bob"), { event: step.value.event })).ok).toBe(true);
		// he chooses a side, and his draft stands on what Ann published
		const open = await services().rebaseDraft(as("bob"), { id, chosen: [] });
		expect(open.ok ? "ok" : open.issues[0]?.code).toBe("conflict");
		const rebased = await services().rebaseDraft(as("bob"), { id, chosen: [{ at: "density", side: "mine" }] });
		if (!rebased.ok) throw new Error(JSON.stringify(rebased.issues));
		const third = await services().publishDraft(as("bob"), { id, note: "d", hash: rebased.value.value.hash });
		expect(third).toMatchObject({ ok: true, value: { revision: 5 } });
		await services().openLock(newContext(server.installation.db), { id: "own", takeOver: true });
	});
});

describe("publishing", () => {
	it("asks for the version that was seen, and for a change", async () => {
		const id = await make("Versions");
		const density = (await server.must("getSheet", { id })).row.document.values.density;
		const other = value("density", "2.75 g/cm3");
		await server.must("saveDraft", { id, edits: [{ at: "density", from: density, to: other }] });
		expect(await server.refused("publishDraft", { id, note: "x", hash: "0".repeat(64) })).toBe("not-as-seen");
		const back = await server.must("saveDraft", { id, edits: [{ at: "density", from: other, to: density }] });
		expect(await server.refused("publishDraft", { id, note: "x", hash: back.hash })).toBe("nothing-changed");
		expect(await server.refused("publishDraft", { id: "bar", note: "x", hash: "0".repeat(64) })).toBe("read-only");
	});

	it("keeps every revision readable, byte for byte under its hash", async () => {
		const id = await make("History");
		const density = (await server.must("getSheet", { id })).row.document.values.density;
		const { hash } = await server.must("saveDraft", {
			id,
			edits: [{ at: "density", from: density, to: value("density", "2.9 g/cm3") }],
		});
		await server.must("publishDraft", { id, note: "second", hash });
		const [one, two] = [await server.must("getRevision", { id, no: "1" }), await server.must("getRevision", { id, no: "2" })];
		expect([lowOf(one.document, "density"), lowOf(two.document, "density")]).toEqual([2700, 2900]);
		expect(one.hash).toMatch(/^[0-9a-f]{64}$/);
		expect(one.hash).not.toBe(two.hash);
		expect(await server.refused("getRevision", { id, no: "9" })).toBe("not-found");
		// the same content again is the same document
		const copy = newId();
		await server.must("createMaterial", { id: copy, libraryId: "own", name: "History again" });
		const again = await server.must("saveDraft", {
			id: copy,
			edits: [{ at: "density", from: null, to: one.document.values.density }],
		});
		await server.must("publishDraft", { id: copy, note: "same", hash: again.hash });
		expect((await server.must("getRevision", { id: copy, no: "1" })).hash).toBe(one.hash);
	});
});

describe("finding", () => {
	it("narrows by groups below a group, and by several uses at once", async () => {
		await make("Deep one", "Polymers / Filled / Glass");
		const page = await server.must("findMaterials", { group: "Polymers" });
		expect(page.rows.map((r) => r.name)).toEqual(["Deep one"]);
		expect(page.facets.group.find((g) => g.key === "Polymers / Filled / Glass")?.count).toBe(1);
		const both = await server.must("findMaterials", { ready: "mass,linear_static" });
		expect(both.rows.map((r) => r.name)).toEqual(["Plate 21"]);
	});

	it("sorts names as people do, newest first when asked, and pages", async () => {
		await make("Grade 10");
		await make("Grade 9");
		const names = (await server.must("findMaterials", { text: "grade", sort: "name" })).rows.map((r) => r.name);
		expect(names).toEqual(["Grade 9", "Grade 10"]);
		const newest = await server.must("findMaterials", { sort: "changed", dir: "desc", limit: "1" });
		expect(newest.rows[0]?.name).toBe("Grade 9");
		const second = await server.must("findMaterials", { text: "grade", sort: "name", offset: "1", limit: "1" });
		expect([second.total, second.rows.map((r) => r.name)]).toEqual([2, ["Grade 10"]]);
	});

	it("shows a published density beside a draft's, and hides what only others have begun", async () => {
		const id = newId();
		const created = await server.installation.services.json.createMaterial(as("ann"), {
			id,
			libraryId: "own",
			name: "Ann's secret",
		} as never);
		expect(created.ok).toBe(true);
		expect((await server.must("findMaterials", { text: "secret" })).total).toBe(0);
		expect(await server.refused("getSheet", { id })).toBe("not-found");
		const row = (await server.must("findMaterials", { text: "Plate 21" })).rows[0];
		expect(row?.publishedDensity).toEqual({ working: 2700, low: 2700, high: 2700 });
		expect(material().values).toEqual({});
	});
});
