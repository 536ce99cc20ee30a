import { expect, it } from "vitest";
import * as repo from "../../src/repo";
import { dense, onEveryEngine } from "./world";

const FILE = "f".repeat(64);

onEveryEngine("projects", (here) => {
	const stand = (part: string, revision: string | null, draft: string | null = null): repo.AssignmentState => ({
		part,
		revision,
		draft,
		before: null,
		state: "chosen",
	});

	it("hold parts, bodies and places, each number as it was measured", async () => {
		expect((await repo.partsOf(here.db, "p")).map((p) => [p.id, p.quantity, p.colour])).toEqual([
			["drum", 1, null],
			["pin", 2, "#ff0000"],
		]);
		const bodies = await repo.bodiesOf(here.db, "p");
		// to the last bit: these are no numbers of a decimal
		expect(bodies.map((b) => b.volume_m3)).toEqual([0.1 + 0.2, 1e-7 / 3]);
		expect(bodies[1]?.doubt).toBe('{"why":"open"}');
		expect((await repo.occurrencesOf(here.db, "p")).map((o) => o.path)).toEqual(["Top", "Top/Drum", "Top/Pin 1", "Top/Pin 2"]);
		expect((await repo.importsOf(here.db, "p")).map((i) => [i.file, i.geometry_hash])).toEqual([["drum.step", FILE]]);
		expect([await repo.fileOf(here.db, "p", FILE), await repo.fileOf(here.db, "p", "none")]).toEqual(["drum.step", null]);
		expect(await repo.meshOf(here.db, FILE)).toBe("e".repeat(64));
		expect(await repo.countParts(here.db, "p")).toBe(2);
		expect(await repo.partsAmong(here.db, "p", ["pin", "none"])).toEqual(["pin"]);
		expect((await repo.partsOfFile(here.db, "p", FILE)).map((p) => [p.id, p.productId])).toEqual([
			["drum", "D-1"],
			["pin", "P-1"],
		]);
		expect([...(await repo.piecesOf(here.db, ["p"]))]).toEqual([["p", 3]]);
		expect([...(await repo.partsPerProject(here.db, ["p"]))]).toEqual([["p", 2]]);
	});

	it("say what each part stands on, and what it could stand on", async () => {
		const { write, headOf, olderOf } = here.world;
		await write(async (sql) => repo.setAssignments(sql, [stand("drum", await olderOf("a")), stand("pin", await headOf("b"))]));
		const records = new Map((await repo.assignmentsOf(here.db, "p")).map((a) => [a.part_id, a]));
		expect(records.get("drum")).toMatchObject({
			revision_no: 1,
			material: "Ärla 4",
			head_no: 2,
			head_material_id: "a",
			head_library_id: "own",
		});
		expect(repo.parseDocument(records.get("drum")?.bytes as Buffer)).toEqual(dense(8800));
		expect(repo.parseDocument(records.get("drum")?.head_bytes as Buffer)).toEqual(dense(8810));
		expect(await repo.assignmentStates(here.db, ["pin", "drum"])).toEqual([
			stand("pin", await headOf("b")),
			stand("drum", await olderOf("a")),
		]);
		expect(await repo.partsOnMaterial(here.db, "p", "a")).toEqual(["drum"]);
		expect([...(await repo.materialsOfParts(here.db, ["drum"]))]).toEqual([["drum", "Ärla 4"]]);
		expect(await repo.projectsStandingOn(here.db, ["a", "b"])).toEqual([{ id: "p", parts: 3 }]);
		expect(
			(await repo.partsStandingOn(here.db, ["a", "b"])).map((s) => [s.material, s.part, s.quantity, s.no, s.volume]),
		).toEqual([
			["a", "Drum", 1, 1, 0.1 + 0.2],
			["b", "Pin", 2, 1, 1e-7 / 3],
		]);
		expect(await repo.countStandingOn(here.db, ["a", "b"])).toEqual({ materials: 2, projects: 1, parts: 2, frozen: 0 });
		expect((await repo.weighable(here.db, ["p"])).map((w) => [w.pieces, w.volume]).sort()).toEqual([
			[1, 0.1 + 0.2],
			[2, 1e-7 / 3],
		]);
		expect(await repo.revisionInProject(here.db, "p", "a")).toMatchObject({ no: 1, name: "Ärla 4" });
		expect(await repo.followsOf(here.db, "p")).toEqual([{ library: "own", name: "Bench", edition: null }]);
		expect(await repo.unusedIn(here.db, "own", 5)).toEqual([]);
	});

	it("follow a successor, or the edition that was chosen", async () => {
		const { ctx, write, headOf } = here.world;
		await write((sql) => repo.changeMaterialRow(ctx, sql, "a", { retired: 1, successor_id: "b" }));
		const headNow = async () => (await repo.assignmentsOf(here.db, "p")).find((a) => a.part_id === "drum")?.head_material;
		expect(await headNow()).toBe("bolt steel");
		await write(async (sql) => {
			const edition = await repo.insertEditionRow(ctx, sql, { library: "own", note: "" });
			await repo.insertEntries(sql, edition.id, await repo.stateNow(sql, "own"));
			await repo.putFollow(sql, "p", "own", edition.id);
		});
		expect(await headNow()).toBe("Ärla 4");
		await write((sql) => repo.putFollow(sql, "p", "own", null));
		await write((sql) => repo.changeMaterialRow(ctx, sql, "a", { retired: 0, successor_id: null }));
		expect(await repo.forwardable(here.db, [await headOf("a")])).toEqual([]);
		await write(async (sql) => {
			await repo.changeProjectRow(ctx, sql, "p", { forward: "words" });
			await repo.setForwardBy(sql, "p", "mira");
		});
		expect((await repo.forwardable(here.db, [await headOf("a")])).map((f) => [f.part, f.by, f.place, f.forward])).toEqual([
			["drum", "mira", "own", "words"],
		]);
	});

	it("have a default for parts that stand on nothing, and drafts that are tried", async () => {
		const { ctx, write, headOf } = here.world;
		await write(async (sql) => repo.setAssignments(sql, [stand("drum", null), stand("pin", null)]));
		await write(async (sql) => repo.changeProjectRow(ctx, sql, "p", { default_revision_id: await headOf("b") }));
		expect([...(await repo.partsOnDefault(here.db, "p"))].sort()).toEqual(["drum", "pin"]);
		await write((sql) => repo.giveDefault(sql, "p"));
		expect((await repo.assignmentStates(here.db, ["drum"]))[0]).toMatchObject({ revision: await headOf("b"), state: "default" });
		expect(await repo.defaultNamed(here.db, await headOf("b"))).toEqual({ materialId: "b", material: "bolt steel", revision: 1 });
		const draft = await write((sql) => repo.insertDraft(ctx, sql, { material: "a", base: null, edits: [] }));
		await write((sql) => repo.setAssignments(sql, [stand("drum", null, draft)]));
		expect((await repo.assignmentsOnDrafts(here.db, [draft])).map((s) => s.part)).toEqual(["drum"]);
		expect((await repo.partsStandingOn(here.db, ["a"])).map((s) => [s.part, s.draft, s.no])).toEqual([["Drum", draft, null]]);
		expect(await repo.usersOfLibrary(here.db, "own")).toEqual([{ id: "p", name: "Winch", parts: 2 }]);
	});

	it("a file moves out with its parts, assemblies and materials, and back", async () => {
		const { ctx, write } = here.world;
		await write((sql) => repo.ensureAside(ctx, sql, { id: "aside", name: "drum.step" }));
		await write((sql) => repo.ensureAside(ctx, sql, { id: "aside", name: "again" }));
		const key = await repo.searchKey(here.db);
		await write((sql) => repo.moveGeometry(sql, FILE, "p", "aside"));
		expect([(await repo.occurrencesOf(here.db, "p")).length, (await repo.occurrencesOf(here.db, "aside")).length]).toEqual([
			0, 4,
		]);
		expect((await repo.assignmentsOf(here.db, "aside")).length).toBe(2);
		await write((sql) => repo.moveGeometry(sql, FILE, "aside", "p"));
		expect((await repo.partsOf(here.db, "p")).length).toBe(2);
		await write((sql) => repo.changeProjectRow(ctx, sql, "p", { name: "Winch 2" }));
		expect(await repo.searchKey(here.db)).not.toBe(key);
		expect(await repo.projectNames(here.db)).toEqual([{ id: "p", name: "Winch 2" }]);
		expect((await repo.partNames(here.db)).map((p) => p.project)).toEqual(["p", "p"]);
		expect((await repo.projectFor(here.db, "p", "local"))?.role).toBe("owner");
		expect((await repo.projectFor(here.db, "aside", "local"))?.removed_at).not.toBeNull();
		expect((await repo.projectsFor(here.db, "local")).map((p) => p.id)).toEqual(["p"]);
		expect([await repo.hasProject(here.db, "p"), await repo.hasProject(here.db, "none")]).toEqual([true, false]);
		expect((await repo.projectRow(here.db, "p"))?.forward_by).toBe("mira");
	});

	it("projects that use a file are found by the material that names it", async () => {
		expect(await repo.projectsOfFile(here.db, "a", "c".repeat(64))).toEqual([]);
	});
});
