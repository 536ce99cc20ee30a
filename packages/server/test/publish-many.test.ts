import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newId, type Running, startServer, value } from "./harness";
import { edit } from "./team";

let server: Running;
beforeAll(async () => {
	server = await startServer();
});
afterAll(() => server.stop());

/** Drafts on new materials, each of its own content. */
async function drafts(count: number): Promise<string[]> {
	const ids = Array.from({ length: count }, newId);
	for (const [n, id] of ids.entries()) {
		await server.must("createMaterial", { id, libraryId: "own", name: `Many ${id}` });
		await server.must("saveDraft", { id, edits: [edit("density", null, value("density", `${2000 + n} kg/m3`))] });
	}
	return ids;
}

/** How many statements a step asks of the database. */
async function statements(step: () => Promise<unknown>): Promise<number> {
	const { state } = server.installation.db;
	// the index and the streams have looked at what came before
	await server.must("findMaterials", {});
	await new Promise((resolve) => setTimeout(resolve, 50));
	const before = state.statements;
	await step();
	return state.statements - before;
}

describe("publishing many", () => {
	it("asks for all of them together, whatever their number", async () => {
		const cost = async (count: number) => {
			const ids = await drafts(count);
			let items: { id: string; hash: string }[] = [];
			const plan = await statements(async () => {
				items = (await server.must("publishPlan", { ids })).materials.map(({ id, hash }) => ({ id, hash }));
			});
			expect(items).toHaveLength(count);
			const publish = await statements(async () => {
				const done = await server.must("publishDrafts", { items, note: "all at once" });
				expect(done).toMatchObject({ published: count, proposed: 0 });
			});
			return { plan, publish };
		};
		const [few, many] = [await cost(3), await cost(43)];
		expect(many.plan - few.plan).toBeLessThanOrEqual(2);
		// documents go by fifty; the index may look once more after the commit
		expect(many.publish - few.publish).toBeLessThanOrEqual(10);
		expect(few.publish).toBeLessThan(60);
	});

	it("tells each one's history, in their order, and publishes nothing where one is refused", async () => {
		const ids = await drafts(4);
		const plan = await server.must("publishPlan", { ids });
		const items = plan.materials.map(({ id, hash }) => ({ id, hash }));
		const [first] = items;
		const stale = await server.call("publishDrafts", {
			items: [...items.slice(1), { id: first?.id ?? "", hash: "0".repeat(64) }],
			note: "x",
		});
		expect(stale.ok ? [] : stale.issues.map((i) => [i.code, i.path?.startsWith("Many ")])).toEqual([["not-as-seen", true]]);
		for (const id of ids) expect((await server.must("getSheet", { id })).row.revision).toBe(0);
		await server.must("publishDrafts", { items, note: "together" });
		const { rows } = await server.must("history", { kind: "library", id: "own" });
		expect(rows.slice(0, 4).map((r) => [r.material, r.note])).toEqual([...ids].reverse().map((id) => [id, "together"]));
		// a draft that was published is no draft any more
		expect((await server.must("getSheet", { id: ids[0] as string })).row.draftId).toBeNull();
	});
});
