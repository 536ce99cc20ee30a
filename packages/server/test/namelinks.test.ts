import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { client, newId, type Running, startServer, tokenOf, value } from "./harness";

let api: Running;
beforeAll(async () => {
	api = await startServer();
});
afterAll(() => api.stop());

async function published(name: string, libraryId = "own"): Promise<string> {
	const id = newId();
	await api.must("createMaterial", { id, libraryId, name });
	const { hash } = await api.must("saveDraft", {
		id,
		edits: [{ at: "density", from: null, to: value("density", "8.7 g/cm3") }] as never,
	});
	await api.must("publishDraft", { id, note: "first", hash });
	return id;
}
const linksOf = async (id: string): Promise<string[]> => {
	const [row] = await api.must("getMaterials", { ids: id });
	return row?.knownAs.map((l) => `${l.scope}|${l.name}`) ?? [];
};
const found = async (text: string): Promise<string[]> =>
	(await api.must("search", { text })).flatMap((f) => (f.kind === "material" ? [f.row.name] : []));

describe("names elsewhere", () => {
	it("are kept with the material, found by the finder and the list, and taken back", async () => {
		const id = await published("Keel bronze");
		const { event } = await api.must("changeMaterial", {
			id,
			knownAs: [
				{ scope: " drawing office ", name: "BZ-5 keel" },
				{ scope: "", name: "4471" },
				// said twice, written otherwise
				{ scope: "Drawing Office", name: "bz-5 KEEL" },
				{ scope: "purchasing", name: "  " },
			],
		});
		expect(await linksOf(id)).toEqual(["drawing office|BZ-5 keel", "|4471"]);
		expect(await found("4471")).toEqual(["Keel bronze"]);
		expect(await found("bz-5 keel")).toContain("Keel bronze");
		expect((await api.must("findMaterials", { text: "bz-5 keel" })).rows.map((r) => r.name)).toEqual(["Keel bronze"]);
		const { rows } = await api.must("history", { kind: "material", id });
		expect(rows[0]?.did).toBe("changed names elsewhere");
		await api.must("undo", { event });
		expect(await linksOf(id)).toEqual([]);
		expect(await found("4471")).toEqual([]);
		await api.must("undo", { event: event + 1 });
		expect(await linksOf(id)).toEqual(["drawing office|BZ-5 keel", "|4471"]);
	});

	it("stand for one material of a library; elsewhere, and under another place, they are free", async () => {
		const other = await published("Frame bronze");
		const refused = await api.call("changeMaterial", { id: other, knownAs: [{ scope: "DRAWING office", name: "bz-5 keel" }] });
		expect(refused.ok ? "" : refused.issues[0]).toMatchObject({
			code: "link-taken",
			message:
				"“DRAWING office: bz-5 keel” stands for “Keel bronze” already. A name elsewhere stands for one material of a library.",
		});
		expect(await linksOf(other)).toEqual([]);
		await api.must("changeMaterial", { id: other, knownAs: [{ scope: "purchasing", name: "BZ-5 keel" }] });
		await api.must("createLibrary", { id: "second", name: "Second", description: "" });
		const far = await published("Keel bronze", "second");
		await api.must("changeMaterial", { id: far, knownAs: [{ scope: "drawing office", name: "BZ-5 keel" }] });
		expect(await linksOf(far)).toEqual(["drawing office|BZ-5 keel"]);
		// whoever takes the name while the other is in the bin keeps it
		const [a, b] = [await published("Binned"), await published("Took it")];
		await api.must("changeMaterial", { id: a, knownAs: [{ scope: "", name: "ZZ 9" }] });
		await api.must("removeMaterial", { id: a });
		await api.must("changeMaterial", { id: b, knownAs: [{ scope: "", name: "zz 9" }] });
		expect(await api.refused("manyMaterials", { ids: [a], act: "restore" })).toBe("link-taken");
		await api.must("changeMaterial", { id: b, knownAs: [] });
		await api.must("manyMaterials", { ids: [a], act: "restore" });
		expect(await found("zz 9")).toEqual(["Binned"]);
	});

	it("are told when somebody is about to enter the material once more", async () => {
		const alike = await api.must("findAlike", { name: "bz-5 KEEL" });
		const first = alike.find((a) => a.row.name === "Keel bronze" && a.row.libraryId === "own");
		expect(first).toMatchObject({ likely: true, knownAs: { scope: "drawing office", name: "BZ-5 keel" } });
		// not to whoever may not see it
		const { db } = api.installation;
		await db.run("INSERT INTO person (id, name, initials) VALUES ('far', 'Far', 'F')");
		const stranger = client(api.base, await tokenOf(api.installation, "far"));
		expect(await stranger.must("findAlike", { name: "BZ-5 keel" })).toEqual([]);
	});

	it("go along with a merge, and come back with it", async () => {
		const [keep, drop] = [await published("Skeg bronze"), await published("Skeg bronzze")];
		await api.must("changeMaterial", { id: keep, knownAs: [{ scope: "purchasing", name: "77" }] });
		await api.must("changeMaterial", {
			id: drop,
			knownAs: [
				{ scope: "drawing office", name: "SK" },
				{ scope: "", name: "78" },
			],
		});
		const merged = await api.must("mergeMaterials", {
			id: keep,
			other: drop,
			take: [],
			code: false,
			keepRevision: 1,
			dropRevision: 1,
			note: "one material",
		});
		expect([await linksOf(keep), await linksOf(drop)]).toEqual([["purchasing|77", "drawing office|SK", "|78"], []]);
		expect(await found("78")).toEqual(["Skeg bronze"]);
		const undone = await api.must("undo", { event: merged.event });
		expect([await linksOf(keep), await linksOf(drop)]).toEqual([["purchasing|77"], ["drawing office|SK", "|78"]]);
		await api.must("undo", { event: undone.event });
		expect(await linksOf(keep)).toEqual(["purchasing|77", "drawing office|SK", "|78"]);
	});

	it("are still there after a restart", async () => {
		api = await api.restart();
		expect(await found("78")).toEqual(["Skeg bronze"]);
		expect((await api.must("findAlike", { name: "SK" })).map((a) => a.row.name)).toContain("Skeg bronze");
	});
});
