import { nameKey } from "@alvek/core/material";
import { expect, it } from "vitest";
import * as repo from "../../src/repo";
import { dense, onEveryEngine, refusalOf } from "./world";

onEveryEngine("materials", (here) => {
	it("are read with their newest revision, whole and byte for byte", async () => {
		const a = await repo.materialById(here.db, "a");
		expect(a).toMatchObject({
			name: "Ärla 4",
			library_id: "own",
			library: "Bench",
			kind: "own",
			revision_no: 2,
			retired: 0,
			removed_at: null,
		});
		expect(repo.headDocument(a as repo.MaterialRecord)).toEqual(dense(8810));
		expect(repo.hashOfDocument(dense(8810))).toBe((await repo.revisionsOf(here.db, "a"))[0]?.hash);
		expect(await repo.materialById(here.db, "none")).toBeNull();
		expect([...(await repo.materialsById(here.db, ["b", "none", "a"])).keys()].sort()).toEqual(["a", "b"]);
		const revisions = await repo.revisionsOf(here.db, "a");
		expect(revisions.map((r) => [r.no, r.note, r.actor, r.approvedBy])).toEqual([
			[2, "second", "You, on this computer", null],
			[1, "first", "You, on this computer", null],
		]);
		expect((await repo.revisionById(here.db, await here.world.headOf("a")))?.no).toBe(2);
		expect(await repo.siblingOf(here.db, await here.world.headOf("a"), 1)).toEqual({
			id: await here.world.olderOf("a"),
			place: "own",
		});
		expect((await repo.originsOf(here.db, [await here.world.headOf("b")])).get(await here.world.headOf("b"))).toMatchObject({
			name: "bolt steel",
			place: "own",
		});
		expect((await repo.documentsOf(here.db, [await here.world.olderOf("a")])).get(await here.world.olderOf("a"))).toEqual(
			dense(8800),
		);
		const older = await here.world.olderOf("a");
		expect((await repo.hashesOf(here.db, [older])).get(older)).toBe(repo.hashOfDocument(dense(8800)));
	});

	it("have names and codes of their own in a place, and links that stand for one of them", async () => {
		const { ctx, write } = here.world;
		expect(await repo.bearerOfName(here.db, "own", nameKey("BOLT steel"), "")).toBe("bolt steel");
		expect(await repo.bearerOfName(here.db, "own", nameKey("bolt steel"), "b")).toBeNull();
		expect(await repo.bearerOfName(here.db, repo.projectPlace("p"), nameKey("bolt steel"), "")).toBeNull();
		expect(await repo.bearerOfCode(here.db, "own", "C-1", "")).toBe("Ärla 4");
		expect(await repo.bearerOfCode(here.db, "own", "", "")).toBeNull();
		expect([...(await repo.bearersIn(here.db, "own")).keys()].sort()).toEqual([nameKey("bolt steel"), nameKey("Ärla 4")].sort());
		const links = repo.storeLinks([
			{ scope: "ERP", name: " 4711 " },
			{ scope: "erp", name: "4711" },
		]);
		expect(repo.readLinks(links)).toEqual([{ scope: "ERP", name: "4711" }]);
		await write((sql) => repo.changeMaterialRow(ctx, sql, "a", { known_as: links }));
		expect(await repo.linkedTo(here.db, "4711")).toEqual(["a"]);
		expect(await repo.bearersOfLinks(here.db, "own", links, "")).toEqual([{ scope: "ERP", name: "4711", material: "Ärla 4" }]);
		expect(await repo.bearersOfLinks(here.db, "own", links, "a")).toEqual([]);
		await expect(
			write((sql) =>
				repo.insertMaterial(ctx, sql, {
					id: "twin",
					place: "own",
					group: null,
					name: "Bolt Steel",
					originKind: null,
					originRevision: null,
				}),
			),
		).rejects.toThrow();
		// a refused statement leaves nothing behind, and the next write goes on
		expect(await repo.materialById(here.db, "twin")).toBeNull();
		expect((await repo.materialRow(here.db, "a"))?.known_as).toBe(links);
	});

	it("are marked for the index by whatever changes them", async () => {
		const { ctx, write } = here.world;
		const from = await repo.newestMark(here.db);
		await write((sql) => repo.touch(ctx, sql, "b"));
		await write((sql) => repo.putWorking(sql, "own", ["a"], true));
		expect([...(await repo.markedSince(here.db, from)).ids].sort()).toEqual(["a", "b"]);
		const later = await repo.newestMark(here.db);
		// a group is renamed: what stands in it and below it stands under another path
		const [metals] = (await repo.groupsOf(here.db, "own")).filter((g) => g.parent === null);
		await write((sql) => repo.setGroup(sql, metals as repo.GroupState, { ...(metals as repo.GroupState), name: "Alloys" }));
		expect((await repo.markedSince(here.db, later)).ids).toEqual(["a"]);
		const seq = await repo.newestMark(here.db);
		await write((sql) => repo.putImage(sql, { stamp: "s", seq, version: 1 }));
		expect(await repo.markedSince(here.db, 0)).toEqual({ ids: [], newest: 0 });
		expect(await repo.newestMark(here.db)).toBe(seq);
		expect(await repo.imageRecord(here.db)).toMatchObject({ stamp: "s", seq, version: 1 });
		await write((sql) => repo.touch(ctx, sql, "a"));
		expect(await repo.newestMark(here.db)).toBeGreaterThan(seq);
	});

	it("keep facts beside their revisions, which own properties take away", async () => {
		const { write } = here.world;
		const facts = { readiness: [{ use: "mass" }], words: "x" } as never;
		await write(async (sql) => repo.storeFacts(sql, 7, new Map([[await here.world.headOf("a"), facts]])));
		const page = await repo.factsPage(here.db, 7, "", 10);
		expect(page.map((r) => [r.id, r.facts?.toString("utf8") ?? null])).toEqual([
			["a", '{"words":"x"}'],
			["b", null],
		]);
		expect((await repo.factsPage(here.db, 7, "a", 10)).map((r) => r.id)).toEqual(["b"]);
		expect((await repo.factsByIds(here.db, 8, ["a"])).map((r) => r.facts)).toEqual([null]);
		expect(await repo.countFacts(here.db)).toBe(1);
		const stamp = await repo.ownStamp(here.db);
		await write((sql) =>
			repo.putRecord(sql, "property", { id: "gloss", version: 1, content: '{"uid":"gloss"}', library: "own", at: "2026" }),
		);
		expect(await repo.ownStamp(here.db)).not.toBe(stamp);
		expect(await repo.countFacts(here.db)).toBe(0);
		expect(await repo.ownPropertiesOf(here.db, "own")).toEqual([{ uid: "gloss" }]);
		const before = await repo.ownStamp(here.db);
		await write((sql) =>
			repo.putRecord(sql, "use", { id: "wear", version: 1, content: '{"uid":"wear"}', library: "own", at: "2026" }),
		);
		expect(await repo.ownStamp(here.db)).not.toBe(before);
		expect(await repo.ownUsesOf(here.db, "own")).toEqual([{ uid: "wear" }]);
		expect((await repo.ownByLibrary(here.db)).get("own")).toEqual({ properties: [{ uid: "gloss" }], uses: [{ uid: "wear" }] });
		await write((sql) => repo.removeDerived(sql));
		expect(await repo.imageRecord(here.db)).toBeNull();
		expect(await repo.countMaterials(here.db)).toBe(2);
	});

	it("list with what a person has marked, and are copied many at once", async () => {
		const { ctx, write } = here.world;
		await write((sql) => repo.addStars(sql, "local", ["b", "a"]));
		await write((sql) => repo.addStars(sql, "local", ["a"]));
		expect([...(await repo.starsOf(here.db, "local"))].sort()).toEqual([
			["a", 2],
			["b", 1],
		]);
		await write((sql) => repo.orderStars(sql, "local", ["a", "b"]));
		expect([...(await repo.starsOf(here.db, "local"))].sort()).toEqual([
			["a", 1],
			["b", 2],
		]);
		await write((sql) => repo.removeStars(sql, "local", ["b"]));
		expect(await repo.countStars(here.db, "local")).toBe(1);
		const listed = await repo.listedMaterials(here.db, ["a", "b"], "local");
		expect(new Map(listed.map((m) => [m.id, [m.star, m.working]]))).toEqual(
			new Map([
				["a", [1, 1]],
				["b", [null, 0]],
			]),
		);
		expect([...(await repo.workingMaterials(here.db))]).toEqual(["a"]);
		await write((sql) => repo.copyMarks(sql, "a", "b"));
		expect([...(await repo.workingMaterials(here.db))].sort()).toEqual(["a", "b"]);

		await write((sql) => repo.insertLibrary(ctx, sql, { id: "copy", name: "Copies", kind: "own" }, "steward"));
		const origin = await here.world.headOf("a");
		const rows = ["x", "y"].map((id) => ({
			id,
			uid: `u${id}`,
			revision: `r${id}`,
			name: `Copy ${id}`,
			key: nameKey(`Copy ${id}`),
			group: null,
			code: "C-1",
			origin,
		}));
		await write(async (sql) => {
			await repo.insertCopies(ctx, sql, "copy", rows.slice(0, 1));
			await repo.insertCopies(ctx, sql, "copy", rows.slice(1));
			await repo.insertCopiedRevisions(sql, await repo.openPublish(ctx, sql, { place: "copy", note: "copies" }), rows);
		});
		// a code stands once in a library
		expect([(await repo.materialById(here.db, "x"))?.item_code, (await repo.materialById(here.db, "y"))?.item_code]).toEqual([
			"C-1",
			"",
		]);
		expect((await repo.materialById(here.db, "y"))?.revision_no).toBe(1);
		expect(
			(await repo.derivedFrom(here.db, ["a"], "local", 10)).map((d) => [d.id, d.kind, d.of, d.revision, d.seen, d.published]),
		).toEqual([
			["x", "copy", "Ärla 4", 2, 1, 1],
			["y", "copy", "Ärla 4", 2, 1, 1],
		]);
		expect(await repo.originsAmong(here.db, ["x", "a"])).toEqual([{ id: "x", base: "a" }]);
		expect([...(await repo.idsByUid(here.db, "copy"))].sort()).toEqual([
			["ux", "x"],
			["uy", "y"],
		]);
	});

	it("that look alike are kept apart, and are not any more", async () => {
		const { ctx, write } = here.world;
		await write((sql) => repo.putApart(ctx, sql, ["b", "a"], true));
		await write((sql) => repo.putApart(ctx, sql, ["a", "b"], true));
		expect(await repo.apartFrom(here.db, ["b"])).toEqual([{ a: "a", b: "b" }]);
		expect(await repo.apartFrom(here.db, ["a", "b", "x"])).toEqual([{ a: "a", b: "b" }]);
		expect(await repo.apartFrom(here.db, ["x"])).toEqual([]);
		await write((sql) => repo.putApart(ctx, sql, ["b", "a"], false));
		expect(await repo.apartFrom(here.db, ["a"])).toEqual([]);
	});

	it("go to the bin, come from elsewhere, and go for good", async () => {
		const { ctx, write } = here.world;
		await write((sql) => repo.removeMaterials(sql, ["y"], "2026-01-01T00:00:00.000Z"));
		expect((await repo.binOf(here.db, ["copy"], "local", 10)).map((b) => [b.id, b.library, b.by])).toEqual([["y", "Copies", ""]]);
		expect((await repo.binnedBefore(here.db, "copy", "2026-02-01")).map((b) => [b.id, b.free])).toEqual([["y", 1]]);
		await write((sql) => repo.eraseMaterials(sql, ["y"]));
		expect(await repo.materialById(here.db, "y")).toBeNull();
		const taken = { id: "t", uid: "ut", library: "copy", group: null, name: "Taken", code: "", retired: false };
		await write((sql) => repo.putTaken(ctx, sql, taken));
		await write((sql) => repo.putTaken(ctx, sql, { ...taken, name: "Taken anew", retired: true }));
		expect(await repo.materialById(here.db, "t")).toMatchObject({ name: "Taken anew", retired: 1 });
		await write((sql) => repo.changeMaterialRow(ctx, sql, "t", { successor_id: "x" }));
		expect([await repo.leadsTo(here.db, "t", "x"), await repo.leadsTo(here.db, "x", "t")]).toEqual([true, false]);
		// a line of successors never comes back to itself, by whatever way
		expect(await refusalOf(write((sql) => repo.changeMaterialRow(ctx, sql, "x", { successor_id: "t" })))).toContain(
			"retired-loop",
		);
		await write(async (sql) => repo.setOrigin(sql, "t", await here.world.olderOf("a")));
		expect((await repo.unusedIn(here.db, "own", 10)).map((m) => [m.id, m.copies, m.variants]).sort()).toEqual([
			["a", 1, 0],
			["b", 0, 0],
		]);
	});
});
