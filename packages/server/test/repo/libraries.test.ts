import { expect, it } from "vitest";
import { NEWEST } from "../../src/db";
import * as repo from "../../src/repo";
import { onEveryEngine, refusalOf } from "./world";

onEveryEngine("libraries", (here) => {
	it("come with the strongest role that grants add up to, whatever way they come", async () => {
		const { write } = here.world;
		const roleOf = async (id: string) => (await repo.libraryFor(here.db, id, "mira"))?.role ?? null;
		expect(await roleOf("own")).toBeNull();
		await write((sql) => repo.setGrants(sql, "library", "own", [{ by: "everyone", subject: "", role: "reader" }]));
		expect(await roleOf("own")).toBe("reader");
		await write((sql) => repo.putSet(sql, { id: "s", name: "Both" }, ["own", "sup"]));
		await write((sql) => repo.setGrants(sql, "set", "s", [{ by: "team", subject: "winch", role: "editor" }]));
		expect([await roleOf("own"), await roleOf("sup")]).toEqual(["editor", "editor"]);
		expect((await repo.librariesFor(here.db, "mira")).map((l) => [l.name, l.role])).toEqual([
			["Bench", "editor"],
			["aft supplies", "editor"],
		]);
		expect((await repo.namedGrants(here.db, "library", "own")).map((g) => [g.by, g.name, g.role, g.through])).toEqual([
			["team", "Winch team", "editor", "Both"],
			["everyone", "everyone here", "reader", null],
		]);
		expect(await repo.grantsOn(here.db, "set", "s")).toEqual([{ by: "team", subject: "winch", role: "editor" }]);
		expect(await repo.allSets(here.db)).toEqual([{ id: "s", name: "Both", edition: 0 }]);
		expect(await repo.setsOfLibrary(here.db, "own")).toEqual([{ id: "s", name: "Both" }]);
		expect([...(await repo.librariesOfSet(here.db, "s"))].sort()).toEqual(["own", "sup"]);
		const [counts] = await repo.libraryCounts(here.db, ["own"], "mira");
		expect(counts).toEqual({ id: "own", materials: 2, waiting: 0, edition: 0, hidden: 0, everyone: 1, people: 2 });
		await write((sql) => repo.putHidden(sql, "own", "mira", true));
		await write((sql) => repo.putHidden(sql, "own", "mira", true));
		expect((await repo.libraryCounts(here.db, ["own"], "mira"))[0]?.hidden).toBe(1);
		// several read it; of one whom a single person reaches, by whatever ways, it is that person
		expect(await repo.onlyReader(here.db, "own")).toBeNull();
		expect(await repo.onlyReader(here.db, "nowhere")).toBeNull();
		await write((sql) => repo.insertLibrary(here.world.ctx, sql, { id: "mine", name: "Mine", kind: "own" }, "steward"));
		expect(await repo.onlyReader(here.db, "mine")).toBe("local");
		await write((sql) => repo.putHidden(sql, "own", "mira", false));
		await write((sql) => repo.removeSetRow(sql, "s"));
		expect(await roleOf("sup")).toBeNull();
	});

	it("a role that is handed on is never the weaker one", async () => {
		const { write } = here.world;
		await write((sql) => repo.setGrants(sql, "library", "own", [{ by: "person", subject: "mira", role: "editor" }]));
		await write((sql) => repo.strengthenGrant(sql, "mira", { kind: "library", target: "own", role: "reader" }));
		expect((await repo.grantsOf(here.db, "mira")).map((g) => g.role)).toEqual(["editor"]);
		await write((sql) => repo.strengthenGrant(sql, "mira", { kind: "library", target: "own", role: "steward" }));
		await write((sql) => repo.strengthenGrant(sql, "mira", { kind: "project", target: "p", role: "reader" }));
		expect((await repo.grantsOf(here.db, "mira")).map((g) => `${g.kind} ${g.role}`).sort()).toEqual([
			"library steward",
			"project reader",
		]);
		await write((sql) => repo.removeGrantsOf(sql, "person", "mira"));
		expect(await repo.grantsOf(here.db, "mira")).toEqual([]);
	});

	it("groups form a tree, whoever writes, and are told by their paths", async () => {
		const { ctx, write } = here.world;
		const bronze = await write((sql) => repo.ensureGroup(ctx, sql, "own", "metals/BRONZE"));
		expect(bronze).toBe((await repo.materialById(here.db, "a"))?.group_id);
		expect(await repo.pathOfGroup(here.db, bronze)).toBe("Metals / Bronze");
		const groups = new Map((await repo.allGroups(here.db)).map((g) => [g.id, g]));
		expect(repo.groupPath(bronze, groups)).toBe("Metals / Bronze");
		expect((await repo.groupTree(here.db, "own")).map((g) => [g.name, g.materials])).toEqual([
			["Metals", 0],
			["Bronze", 1],
		]);
		const [metals] = (await repo.groupsOf(here.db, "own")).filter((g) => g.parent === null) as [repo.GroupState];
		expect(await repo.isGroupNameTaken(here.db, { library: "own", parent: null, name: "METALS", except: "" })).toBe(true);
		expect(await repo.isGroupNameTaken(here.db, { library: "own", parent: null, name: "METALS", except: metals.id })).toBe(false);
		expect(await refusalOf(write((sql) => repo.setGroup(sql, metals, { ...metals, parent: bronze })))).toContain("group-loop");
		expect(await repo.groupById(here.db, metals.id)).toEqual(metals);
		expect(await repo.materialsInGroup(here.db, bronze ?? "")).toEqual(["a"]);
		await write((sql) => repo.moveIfIn(sql, "a", metals.id, null));
		expect((await repo.materialById(here.db, "a"))?.group_id).toBe(bronze);
		await write((sql) => repo.moveAllOfGroup(sql, bronze ?? "", null));
		expect([await repo.isGroupEmpty(here.db, bronze ?? ""), await repo.isGroupEmpty(here.db, metals.id)]).toEqual([true, false]);
		await write((sql) => repo.moveIfIn(sql, "a", null, bronze));
		expect(await repo.loopedGroups(here.db)).toEqual([]);
		const empty = await write((sql) => repo.ensureGroup(ctx, sql, "own", "Spare"));
		const spare = (await repo.groupById(here.db, empty ?? "")) as repo.GroupState;
		await write((sql) => repo.setGroup(sql, spare, null));
		expect(await repo.groupById(here.db, spare.id)).toBeNull();
		await write((sql) => repo.putGroupsAtTop(sql, [bronze ?? ""]));
		expect((await repo.groupById(here.db, bronze ?? ""))?.parent).toBeNull();
		await write((sql) =>
			repo.setGroup(sql, null, { id: bronze ?? "", library: "own", parent: metals.id, name: "Bronze", ord: 2 }),
		);
	});

	it("a lock stays open since its holder opened it, and is another's from when they took it", async () => {
		const { write } = here.world;
		expect(await repo.lockOf(here.db, "own")).toBeNull();
		await write((sql) => repo.putLock(sql, "own", "local", "t1"));
		await write((sql) => repo.putLock(sql, "own", "local", "t2"));
		expect(await repo.lockOf(here.db, "own")).toEqual({
			opened_by: "local",
			since: "t1",
			used_at: "t2",
			name: "You, on this computer",
		});
		await write((sql) => repo.putLock(sql, "own", "mira", "t3"));
		await write((sql) => repo.useLock(sql, "own", "t4"));
		expect(await repo.lockOf(here.db, "own")).toEqual({ opened_by: "mira", since: "t3", used_at: "t4", name: "Mira Sund" });
		await write((sql) => repo.removeLock(sql, "own"));
		expect(await repo.lockOf(here.db, "own")).toBeNull();
	});

	it("editions hold a state by name, group and revision", async () => {
		const { ctx, write } = here.world;
		const now = await repo.stateNow(here.db, "own");
		expect([...now.values()].map((e) => [e.name, e.group, e.no, e.retired])).toEqual([
			["bolt steel", "", 1, 0],
			["Ärla 4", "Metals / Bronze", 2, 0],
		]);
		const one = await write(async (sql) => {
			const made = await repo.insertEditionRow(ctx, sql, { library: "own", note: "first" });
			await repo.insertEntries(sql, made.id, now);
			return made;
		});
		expect(await repo.stateIn(here.db, one.id)).toEqual(now);
		expect(await repo.editionByNo(here.db, "own", 1)).toMatchObject({ id: one.id, note: "first" });
		await write((sql) => repo.insertEditionRow(ctx, sql, { library: "own", note: "", no: 7 }));
		expect((await repo.newestEdition(here.db, "own"))?.no).toBe(7);
		expect((await repo.editionNos(here.db, ["own", "sup"])).get("own")).toEqual([7, 1]);
		const set = await write(async (sql) => {
			await repo.putSet(sql, { id: "s2", name: "Frozen together" }, ["own"]);
			const made = await repo.insertEditionRow(ctx, sql, { set: "s2", note: "" });
			await repo.addToSetEdition(sql, made.id, one.id);
			return made;
		});
		expect(set.no).toBe(1);
		expect(await repo.editionsOfSet(here.db, "s2")).toEqual([{ no: 1, note: "", library: "own", edition: 1, id: one.id }]);
		expect((await repo.editionRows(here.db, "own")).map((e) => [e.no, e.by, e.materials, e.set])).toEqual([
			[7, "You, on this computer", 0, null],
			[1, "You, on this computer", 2, "Frozen together"],
		]);
		expect(await repo.editionsHolding(here.db, ["a", "b"])).toBe(1);
		expect(await repo.editionsOfMaterial(here.db, "a", 5)).toEqual([{ no: 1, revision: 2 }]);
		await write((sql) => repo.putFollow(sql, "p", "own", one.id));
		expect(await repo.followersOf(here.db, "own")).toEqual([{ edition: one.id, id: "p", name: "Winch" }]);
		expect(await repo.followedEdition(here.db, "p", "own")).toBe(one.id);
		expect(await repo.editionsFollowed(here.db, ["p"])).toEqual([{ project: "p", library: "own", no: 1 }]);
		await write((sql) => repo.putFollow(sql, "p", "own", null));
		expect(await repo.followedEdition(here.db, "p", "own")).toBeNull();
		expect(await repo.libraryByUid(here.db, "U-1")).toEqual({ id: "sup", kind: "supplied", edition: 0 });
		expect(await repo.uidOfLibrary(here.db, "sup")).toBe("U-1");
	});

	it("records beside materials have versions; sources are copied under ids of their own", async () => {
		const { ctx, write } = here.world;
		const source = { id: "src", version: 1, content: "{}", library: "own", at: "2026-01-01" };
		await write((sql) => repo.putRecord(sql, "source", source));
		await write((sql) => repo.putRecord(sql, "source", { ...source, version: 2, at: "2026-01-02" }));
		expect(await repo.recordsOf(here.db, "source", "own", 10)).toEqual([{ id: "src", version: 2, content: "{}" }]);
		expect((await repo.recordById(here.db, "source", "src"))?.library_id).toBe("own");
		await write((sql) => repo.copySources(sql, "own", "sup", ctx.newId));
		expect((await repo.recordsOf(here.db, "source", "sup", 10)).map((r) => r.version)).toEqual([2]);
		await write((sql) => repo.changeLibraryRow(sql, "own", { approval: 1, name: "Bench 2" }));
		expect(await repo.libraryFor(here.db, "own", "local")).toMatchObject({ approval: 1, name: "Bench 2", role: null });
		expect((await repo.placeNames(here.db)).get("project:p")).toBe("Winch, its own");
		expect(await repo.workingToChange(here.db, "own", ["a", "b", "none"], true).then((l) => l.sort())).toEqual(["a", "b"]);
		await write((sql) => repo.putWorking(sql, "own", ["a"], true));
		expect(await repo.workingToChange(here.db, "own", ["a", "b"], true)).toEqual(["b"]);
		expect(await repo.workingToChange(here.db, "own", ["a", "b"], false)).toEqual(["a"]);
		expect([await repo.hasMigration(here.db, NEWEST), await repo.newestMigration(here.db)]).toEqual([true, NEWEST]);
	});
});
