import { unpackFound, writeList } from "@alvek/contract";
import { BLANK, blockEdits, cellEdit, type Edit, firstValue, type Material, readCells } from "@alvek/core/material";
import { unpackColumns } from "@alvek/core/table";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newContext } from "../src/index";
import { fixture, lowOf, newId, personWith, type Running, setRole, startServer, value } from "./harness";

let server: Running;
beforeAll(async () => {
	server = await startServer();
});
afterAll(() => server.stop());

async function make(name: string, text = "2.7 g/cm3", group = "Metals / Many"): Promise<string> {
	const id = newId();
	await server.must("createMaterial", { id, libraryId: "own", name, group });
	const { hash } = await server.must("saveDraft", { id, edits: [{ at: "density", from: null, to: value("density", text) }] });
	await server.must("publishDraft", { id, note: "first", hash });
	return id;
}

const documentOf = async (id: string): Promise<Material> => (await server.must("getSheet", { id })).row.document;
const density = (material: Material, text: string): Edit => {
	const edit = cellEdit(material, { property: "density", unit: "g/cm^3" }, text);
	if (!edit.ok || edit.value === null) throw new Error(text);
	return edit.value;
};

describe("finding", () => {
	it("counts each facet with all other choices, and pages through the rows in order", async () => {
		for (let i = 0; i < 7; i++) await make(`Paged ${i}`, `${i + 1} g/cm3`, i < 3 ? "Metals / Paged" : "Polymers / Paged");
		const first = await server.must("findMaterials", { text: "paged", sort: "density", limit: "3" });
		const second = await server.must("findMaterials", { text: "paged", sort: "density", limit: "3", offset: "3" });
		expect([first.total, ...first.rows, ...second.rows].map((r) => (typeof r === "number" ? r : r.name))).toEqual([
			7,
			...[0, 1, 2, 3, 4, 5].map((i) => `Paged ${i}`),
		]);
		const narrowed = await server.must("findMaterials", { text: "paged", group: "Metals", where: "density:0..2500" });
		expect(narrowed.total).toBe(2);
		expect(narrowed.groups).toEqual([{ path: "Metals / Paged", count: 2 }]);
		// a word is counted as if its facet alone asked for it: none of the other group lies in the span
		expect(narrowed.facets.group.find((g) => g.key === "Polymers / Paged")).toBeUndefined();
		expect(narrowed.facets.group.find((g) => g.key === "Metals")?.count).toBe(2);
		expect(narrowed.facets.ready.find((u) => u.key === "mass")?.count).toBe(2);
	});

	it("answers rows with the values that were asked for only", async () => {
		const id = await make("Slim one");
		const [row] = (await server.must("findMaterials", { text: "slim one", values: "youngs_modulus" })).rows;
		expect([row?.id, Object.keys(row?.document.values ?? { x: 1 })]).toEqual([id, []]);
		const [whole] = await server.must("getMaterials", { ids: writeList([id, "absent"]) });
		expect(Object.keys(whole?.document.values ?? {})).toEqual(["density"]);
	});

	it("filters by kinds of data, evidence, what is open, stars and review", async () => {
		const id = await make("Marked one");
		const only = async (input: object): Promise<string[]> =>
			(await server.must("findMaterials", { text: "marked one", ...input })).rows.map((r) => r.name);
		expect(await only({ evidence: "measured" })).toEqual(["Marked one"]);
		expect(await only({ evidence: "standard" })).toEqual([]);
		expect(await only({ open: "no_source" })).toEqual(["Marked one"]);
		expect(await only({ open: "draft" })).toEqual([]);
		expect(await only({ carries: "price" })).toEqual([]);
		await server.must("saveDraft", {
			id,
			edits: [{ at: "field:price", from: null, to: { amount: "3.10", currency: "EUR", date: "2026-05-01" } }],
		});
		expect(await only({ carries: "price", open: "draft" })).toEqual(["Marked one"]);
		await server.must("discardDraft", { id });
		expect(await only({ carries: "price" })).toEqual([]);

		expect(await only({ starred: "1" })).toEqual([]);
		await server.must("starMaterial", { id, on: true });
		expect(await only({ starred: "1" })).toEqual(["Marked one"]);
		expect((await server.must("findMaterials", { text: "marked" })).starred).toBe(1);
		expect((await server.must("getMaterials", { ids: id }))[0]).toMatchObject({ starred: true, group: "Metals / Many" });
		await server.must("starMaterial", { id, on: false });
		expect(await only({ starred: "1" })).toEqual([]);

		await server.must("changeMaterial", { id, review: "2020-01-01", offeredFor: ["spring", "seal"] });
		expect(await only({ review: "passed" })).toEqual(["Marked one"]);
		expect((await server.must("findMaterials", { text: "marked" })).reviewPassed).toBe(1);
		expect(await only({ offered: "seal" })).toEqual(["Marked one"]);
		await server.must("changeMaterial", { id, review: "2999-01-01" });
		expect(await only({ review: "passed" })).toEqual([]);
	});

	it("finds the same again after a restart, from facts that were kept and facts that were lost", async () => {
		const ask = { text: "paged", ready: "mass", where: "density:1500..5500" };
		const before = await server.must("findMaterials", ask);
		await server.installation.db.run("DELETE FROM facts WHERE rowid % 2 = 0");
		await server.installation.db.run("UPDATE facts SET version = 0 WHERE rowid % 3 = 0");
		server = await server.restart();
		const after = await server.must("findMaterials", ask);
		expect({ ...after, version: "" }).toEqual({ ...before, version: "" });
	});

	it("packs columns, and answers an unchanged question with nothing", async () => {
		const path = "/api/v1/materials-columns?text=paged&properties=density";
		const reply = await server.raw(path);
		const unpacked = unpackColumns(await reply.arrayBuffer());
		if (!unpacked.ok) throw new Error("does not unpack");
		expect([unpacked.value.total, [...(unpacked.value.columns.get("density")?.working ?? [])].sort()]).toEqual([
			7,
			[1000, 2000, 3000, 4000, 5000, 6000, 7000],
		]);
		const tag = reply.headers.get("etag") ?? "";
		expect((await server.raw(path, { headers: { "If-None-Match": tag } })).status).toBe(304);
		await make("Something new");
		expect((await server.raw(path, { headers: { "If-None-Match": tag } })).status).toBe(200);
	});
});

describe("rows with the columns of strips", () => {
	it("are the same rows and the same columns in one reply; spans narrow the rows alone", async () => {
		const ask = { text: "paged", where: "density:1500..5500", sort: "name", dir: "desc", values: "density" } as const;
		const reply = await server.raw(`/api/v1/materials-with-columns?${new URLSearchParams({ ...ask, properties: "density" })}`);
		const found = unpackFound(await reply.arrayBuffer(), (utf8) => new TextDecoder().decode(utf8));
		if (!found.ok) throw new Error("does not unpack");
		expect(found.value.page).toEqual(await server.must("findMaterials", ask));
		expect(found.value.page.total).toBe(4);
		expect([found.value.columns.total, found.value.columns.columns.get("density")?.working.length]).toEqual([7, 7]);
	});

	it("are nobody's who may not read them, nor any longer after the right was taken away", async () => {
		const reader = await personWith(server, "columns-reader", { own: "reader" });
		const seen = async (): Promise<readonly number[]> => {
			const reply = await reader.raw("/api/v1/materials-with-columns?text=paged&properties=density");
			const found = unpackFound(await reply.arrayBuffer(), (utf8) => new TextDecoder().decode(utf8));
			return found.ok
				? [found.value.page.total, found.value.page.rows.length, found.value.columns.total, found.value.columns.rows]
				: [];
		};
		expect(await seen()).toEqual([7, 7, 7, 7]);
		await setRole(server, "columns-reader", "library", "own", null);
		expect(await seen()).toEqual([0, 0, 0, 0]);
		const stranger = await server.raw("/api/v1/materials-with-columns?properties=density", {
			headers: { Authorization: "Bearer x" },
		});
		expect(stranger.status).toBe(401);
	});

	it("cost no more for a question that asks for everything a thousand times", async () => {
		const properties = Array.from({ length: 200 }, (_, i) => `p${i}`).join(",");
		const reply = await server.raw(`/api/v1/materials-with-columns?limit=9999&properties=density,${properties}`);
		const found = unpackFound(await reply.arrayBuffer(), (utf8) => new TextDecoder().decode(utf8));
		expect(found.ok && found.value.columns.columns.size).toBe(12);
		expect((await server.raw(`/api/v1/materials-with-columns?properties=${"x".repeat(3000)}`)).status).toBe(422);
	});

	it("refuse what rows refuse", async () => {
		const ask = async (query: string) => (await server.raw(`/api/v1/materials-with-columns?${query}`)).status;
		expect([await ask("text=paged"), await ask("properties=density&where=nonsense")]).toEqual([422, 422]);
	});
});

describe("the finder", () => {
	it("puts exact names first, then starts, then words, and forgives slips", async () => {
		for (const name of ["Brine", "Brine bronze", "Bronze brine plate", "Old brine"]) await make(name);
		const names = async (text: string): Promise<string[]> =>
			(await server.must("search", { text })).flatMap((f) => (f.kind === "material" ? [f.row.name] : []));
		expect(await names("brine")).toEqual(["Brine", "Brine bronze", "Old brine", "Bronze brine plate"]);
		expect((await names("brinne bronz"))[0]).toBe("Brine bronze");
		expect(await names("zzzz")).toEqual([]);
		await server.must("changeMaterial", {
			id: (await server.must("findMaterials", { text: "old brine" })).rows[0]?.id ?? "",
			itemCode: "QX-77",
		});
		expect(await names("qx-77")).toEqual(["Old brine"]);
	});

	it("finds projects too", async () => {
		const id = newId();
		await server.must("createProject", { id, name: "Foghorn stand" });
		expect((await server.must("search", { text: "foghrn" })).map((f) => f.kind)).toEqual(["project"]);
	});
});

describe("views", () => {
	it("are kept under a name, mine or for everyone, and changed by who made them only", async () => {
		const id = newId();
		await server.must("saveView", { id, name: "Stiff ones", address: "where=youngs_modulus:1e11..", shared: true });
		expect(await server.refused("saveView", { id: newId(), name: "  ", address: "", shared: false })).toBe("name-missing");
		await server.installation.db.run("INSERT INTO person (id, name, initials, admin) VALUES ('eve', 'Eve', 'E', 0)");
		const eve = { ...newContext(server.installation.db), actor: { person: "eve", admin: false } };
		const { json } = server.installation.services;
		const seen = await json.listViews(eve, {});
		expect(seen.ok && seen.value).toMatchObject([{ name: "Stiff ones", shared: true, mine: false }]);
		const stolen = await json.saveView(eve, { id, name: "Hers", address: "", shared: true });
		const removed = await json.removeView(eve, { id });
		expect([stolen, removed].map((r) => (r.ok ? "ok" : r.issues[0]?.code))).toEqual(["forbidden", "forbidden"]);
		await server.must("saveView", { id, name: "Stiff ones", address: "x=1", shared: false });
		const hidden = await json.listViews(eve, {});
		expect(hidden.ok && hidden.value).toEqual([]);
		const gone = await json.removeView(eve, { id });
		expect(gone.ok ? "ok" : gone.issues[0]?.code).toBe("not-found");
		await server.must("removeView", { id });
		expect(await server.must("listViews", {})).toEqual([]);
	});
});

describe("many drafts at once", () => {
	it("takes a block of 200 x 10 cells with mixed units, and gives all of it back in one step", async () => {
		const properties = [
			["density", "g/cm^3", ["2.7", "7850 kg/m3", "0.28 lb/in^3"]],
			["youngs_modulus", "GPa", ["69,5 GPa", "210", "10 Mpsi"]],
			["poissons_ratio", "1", ["0.33", "0.3", "soft"]],
			["shear_modulus", "GPa", ["26", "80 GPa", ""]],
			["yield_strength", "MPa", [">= 262", "36 ksi", "-5"]],
			["tensile_strength", "MPa", ["300-320", "400 N/mm2", "58000 psi"]],
			["thermal_conductivity", "W/(m·K)", ["151", "16.2 W/(m K)", "9.4 Btu/(h·ft·°F)"]],
			["specific_heat", "J/(kg·K)", ["900", "0.5 kJ/(kg·K)", "0.12 Btu/(lb·°F)"]],
			["thermal_expansion", "10^-6/K", ["23.2", "12e-6 /K", "6.7 10^-6/°F"]],
			["elongation", "%", ["12", "0.2", "many"]],
		] as const;
		const ids: string[] = [];
		for (let i = 0; i < 200; i++) {
			const id = newId();
			await server.must("createMaterial", { id, libraryId: "own", name: `Block ${i}`, group: "Metals / Block" });
			ids.push(id);
		}
		const text = ids.map((_, i) => properties.map(([, , texts], c) => texts[(i + c) % 3]).join("\t")).join("\n");
		const block = readCells(text);
		if (!block.ok) throw new Error("the block does not read");
		const columns = properties.map(([property, unit]) => ({ property, unit }));
		const { edits, changed, refused } = blockEdits(
			ids.map(() => BLANK),
			columns,
			block.value,
		);
		// every cell is right or refused: the three kinds of nonsense, each with its reason
		const reasons = new Set(refused.map((r) => `${r.text} ${r.issues[0]?.code}`));
		expect(reasons).toEqual(new Set(["soft not-a-number", "-5 out-of-bounds", "many not-a-number"]));
		const blanks = text.split(/[\t\n]/).filter((c) => c === "").length;
		expect(changed + refused.length + blanks).toBe(2000);
		const items = ids.flatMap((id, i) => ((edits[i] ?? []).length === 0 ? [] : [{ id, edits: edits[i] as Edit[] }]));
		const { event, value } = await server.must("saveDrafts", { items: items as never });
		expect(value.drafts).toBe(200);
		// independent of the reader: the SI numbers by the definitions of the units
		const psi = 4.4482216152605 / 0.0254 ** 2;
		const expected: Record<string, readonly (number | null)[]> = {
			density: [2700, 7850, (0.28 * 0.45359237) / 0.0254 ** 3],
			youngs_modulus: [69.5e9, 210e9, 10e6 * psi],
			yield_strength: [262e6, 36e3 * psi, null],
			tensile_strength: [300e6, 400e6, 58e3 * psi],
			specific_heat: [900, 500, (0.12 * 1055.05585262 * 1.8) / 0.45359237],
			thermal_expansion: [23.2e-6, 12e-6, 6.7e-6 * 1.8],
		};
		for (const i of [0, 1, 2, 99, 199]) {
			const document = await documentOf(ids[i] as string);
			for (const [property, numbers] of Object.entries(expected)) {
				const c = properties.findIndex((p) => p[0] === property);
				const wanted = numbers[(i + c) % 3] ?? null;
				const got = firstValue(document, property)?.low ?? null;
				if (wanted === null) expect(got).toBeNull();
				else expect((got as number) / wanted).toBeCloseTo(1, 12);
			}
		}
		await server.must("undo", { event });
		for (const i of [0, 57, 199]) expect((await documentOf(ids[i] as string)).values).toEqual({});
	}, 120_000);

	it("saves all or none, and says whose edit stood in the way", async () => {
		const [a, b] = [await make("Pair a"), await make("Pair b")];
		const good = density(await documentOf(a), "2.8");
		const stale = { ...density(await documentOf(b), "2.8"), from: value("density", "9 g/cm3") };
		const result = await server.call("saveDrafts", {
			items: [
				{ id: a, edits: [good] },
				{ id: b, edits: [stale] },
			] as never,
		});
		expect(!result.ok && [result.issues[0]?.code, result.issues[0]?.path]).toEqual(["conflict", `${b}: density`]);
		expect((await server.must("getSheet", { id: a })).row.draftId).toBeNull();
	});

	it("undoes over drafts that were there before, can be done again, and gives way to newer changes", async () => {
		const id = await make("Back and forth");
		await server.must("saveDraft", { id, edits: [density(await documentOf(id), "2.75")] });
		const { event } = await server.must("saveDrafts", {
			items: [{ id, edits: [density(await documentOf(id), "2.9")] }] as never,
		});
		const undone = await server.must("undo", { event });
		expect(lowOf(await documentOf(id), "density")).toBe(2750);
		const again = await server.must("undo", { event: undone.event });
		expect(lowOf(await documentOf(id), "density")).toBe(2900);
		await server.must("saveDraft", { id, edits: [density(await documentOf(id), "3")] });
		expect(await server.refused("undo", { event: again.event })).toBe("newer-change");
		expect(lowOf(await documentOf(id), "density")).toBe(3000);
	});

	it("publishes all in one publish, after saying what that would do", async () => {
		const ids = [await make("Joint a"), await make("Joint b")];
		for (const id of ids) await server.must("saveDraft", { id, edits: [density(await documentOf(id), "2.8")] });
		const effects = await server.must("publishPlan", { ids });
		expect(effects.materials.map((e) => [e.name, e.revision, e.edits.length, e.issues])).toEqual([
			["Joint a", 1, 1, []],
			["Joint b", 1, 1, []],
		]);
		const items = effects.materials.map((e) => ({ id: e.id, hash: e.hash }));
		const stale = [items[0], { ...items[1], hash: "7".repeat(64) }] as typeof items;
		expect(await server.refused("publishDrafts", { items: stale, note: "both" })).toBe("not-as-seen");
		expect((await server.must("getSheet", { id: ids[0] as string })).row.revision).toBe(1);
		expect(await server.must("publishDrafts", { items, note: "both" })).toMatchObject({
			published: 2,
			proposed: 0,
			movedParts: 0,
		});
		const publishes = await server.installation.db.all<{ n: number }>(
			"SELECT COUNT(*) AS n FROM publish_item i JOIN publish p ON p.id = i.publish_id WHERE p.note = 'both' GROUP BY p.id",
		);
		expect(publishes).toEqual([{ n: 2 }]);
		for (const id of ids) {
			const sheet = await server.must("getSheet", { id });
			expect([sheet.row.revision, sheet.row.draftId, lowOf(sheet.row.document, "density")]).toEqual([2, null, 2800]);
		}
	});
});

describe("cost and carbon of a project", () => {
	it("rolls up with coverage, in a currency and at rates that somebody gave, and is undone", async () => {
		const project = newId();
		await server.must("createProject", { id: project, name: "Costed" });
		await server.importFile(project, "mount.step", fixture("mount.step"));
		const { parts } = await server.must("getProject", { id: project });
		const id = await make("Dear one", "2 g/cm3");
		const edits: Edit[] = [
			{ at: "field:price", from: null, to: { amount: "5", currency: "USD", date: "2026-10-01" } },
			{ at: "embodied_carbon", from: null, to: value("embodied_carbon", "8.2") },
		];
		const { hash } = await server.must("saveDraft", { id, edits });
		await server.must("publishDraft", { id, note: "price and carbon", hash });
		const first = parts[0] as (typeof parts)[number];
		await server.must("assign", { id: project, parts: [first.id], materialId: id });
		const before = (await server.must("getProject", { id: project })).totals.costs;
		const kilograms = 2000 * first.volume_m3 * first.quantity;
		expect([before.cost, before.ratesMissing, before.piecesWithCarbon]).toEqual([null, ["USD"], first.quantity]);
		expect(before.carbon_kg).toBeCloseTo(8.2 * kilograms, 9);

		const rates = [{ currency: "USD", rate: "0.92", date: "2026-11-02" }];
		const { event } = await server.must("setMoney", { id: project, currency: "EUR", rates });
		const after = (await server.must("getProject", { id: project })).totals.costs;
		expect(after.cost).toBeCloseTo(5 * 0.92 * kilograms, 9);
		expect(await server.refused("setMoney", { id: project, currency: "euros", rates: [] })).toBe("bad-input");
		expect(await server.refused("setMoney", { id: project, currency: "eur", rates: [] })).toBe("not-a-currency");
		await server.must("undo", { event });
		expect((await server.must("getProject", { id: project })).money.rates).toEqual([]);
	});
});
