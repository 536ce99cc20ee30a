import { createHash } from "node:crypto";
import { BLANK, canonicalJson, type Edit, type MaterialValue, makeSeries, type SeriesValue } from "@alvek/core/material";
import { unpackColumns } from "@alvek/core/table";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newContext } from "../src/index";
import { newId, type Running, startServer, value } from "./harness";

let server: Running;
beforeAll(async () => {
	server = await startServer();
});
afterAll(() => server.stop());

async function publish(id: string, edits: readonly Edit[], note = "a note"): Promise<void> {
	const { hash } = await server.must("saveDraft", { id, edits: edits as never });
	await server.must("publishDraft", { id, note, hash });
}
async function begin(name: string, values: readonly MaterialValue[]): Promise<string> {
	const id = newId();
	await server.must("createMaterial", { id, libraryId: "own", name });
	await publish(
		id,
		values.map((v) => ({ at: v.id, from: null, to: v })),
	);
	return id;
}
function table(): SeriesValue {
	const made = makeSeries(
		{ id: "youngs_modulus", property: "youngs_modulus" },
		{
			kind: "table",
			columns: [
				{ of: "temperature", unit: "°F", cells: ["-40", "68", "212"] },
				{ of: "value", unit: "Msi", cells: ["15.05", "14.87", "14.42"] },
			],
			interpolation: "pchip",
		},
	);
	if (!made.ok) throw new Error();
	return made.value;
}

describe("values of every kind", () => {
	it("survive save, publish and a restart, byte for byte", async () => {
		const values: MaterialValue[] = [
			value("density", "548-556 lb/ft3", { basis: "typical", sourceId: "page" }),
			value("tensile_strength", "3 specimens: 261 264 258 MPa", { working: { any: "mean" } }),
			value("thermal_expansion", "23 ± 2 10^-6/K", { spread: "expanded" }),
			table(),
			{ id: "emissivity", property: "emissivity", kind: "unknown" },
			{ id: "hardness", property: "hardness", kind: "not-applicable" },
			{
				id: "elastic_set",
				property: "elastic_set",
				kind: "set",
				symmetry: "ply",
				axes: ["fibre", "across", "through"],
				components: { E1: { entered: "135 GPa", low: 135e9, high: 135e9 }, nu12: { entered: "0.29", low: 0.29, high: 0.29 } },
			},
			{
				id: "creep_model",
				property: "creep_model",
				kind: "model",
				form: "norton",
				coefficients: { n: { entered: "4-5", low: 4, high: 5 } },
			},
		];
		const id = newId();
		await server.must("createMaterial", { id, libraryId: "own", name: "All kinds" });
		const source = { kind: "web" as const, title: "Made-up page", date: "2026-11-25" };
		const edits: Edit[] = [
			{ at: "sources:page", from: null, to: source },
			...values.map((v) => ({ at: v.id, from: null, to: v })),
			{ at: "field:composition", from: [], to: [{ name: "Cu", min: "", max: "", balance: true }] },
			{ at: "field:links", from: [], to: ["https://example.invalid/x"] },
			{ at: "field:elasticity", from: "isotropic", to: "directional" },
		];
		await publish(id, edits);
		const expected = {
			...BLANK,
			sources: { page: source },
			composition: [{ name: "Cu", min: "", max: "", balance: true }],
			links: ["https://example.invalid/x"],
			elasticity: "directional",
			values: Object.fromEntries(values.map((v) => [v.id, v])),
		};
		server = await server.restart();
		const stored = await server.must("getRevision", { id, no: "1" });
		expect(stored.document).toEqual(expected);
		expect(createHash("sha256").update(canonicalJson(expected)).digest("hex")).toBe(stored.hash);
	});

	it("bad ones are refused at the boundary and change nothing", async () => {
		const id = await begin("Boundary", [value("density", "2.7 g/cm3")]);
		const bent = { ...table(), columns: [{ ...table().columns[0], si: [1, 2, 3] }, table().columns[1]] };
		const refusals: [Edit, string][] = [
			[{ at: "youngs_modulus", from: null, to: bent }, "si-mismatch"],
			[{ at: "sources:a", from: null, to: { kind: "rumour", title: "x" } }, "unknown-choice"],
			[{ at: "sources:a", from: null, to: { kind: "web", title: " " } }, "name-missing"],
			[{ at: "field:links", from: [], to: ["javascript:alert(1)"] }, "wrong-type"],
			[{ at: "field:composition", from: [], to: [{ name: "Cu", min: "90", max: "80" }] }, "reversed-range"],
			[{ at: "carriedFields:notes", from: null, to: { name: "x", uid: "y", revision: 1 } }, "unknown-key"],
			[{ at: "acknowledged:x", from: null, to: { reason: " ", seen: "" } }, "wrong-type"],
			[{ at: "sources:__proto__", from: null, to: { kind: "web", title: "x" } }, "bad-key"],
		];
		for (const [edit, code] of refusals)
			expect([edit.at, await server.refused("saveDraft", { id, edits: [edit] as never })]).toEqual([edit.at, code]);
		expect((await server.must("getSheet", { id })).row.draftId).toBeNull();
	});

	it("revisions of the first schema are read as today's and keep their bytes", async () => {
		const id = await begin("Old one", [value("density", "2.7 g/cm3")]);
		const old = {
			schema: 1,
			family: null,
			condition: "",
			productForm: "",
			supplier: "",
			designations: [],
			description: "",
			notes: "",
			price: null,
			colour: "#9aa4a8",
			values: { solidus: { id: "solidus", property: "solidus", entered: "588 °C", low: 861.15, high: 861.15 } },
		};
		const bytes = Buffer.from(canonicalJson(old), "utf8");
		const hash = createHash("sha256").update(bytes).digest("hex");
		const { db } = server.installation;
		await db.run("INSERT INTO document (hash, bytes) VALUES ($hash, $bytes)", { hash, bytes });
		await db.run("UPDATE revision SET document_hash = $hash WHERE material_id = $id", { hash, id });
		await server.installation.reload();
		const { row } = await server.must("getSheet", { id });
		expect(row.document.values.solidus_temperature).toMatchObject({ entered: "588 °C" });
		// an edit goes on from there
		await publish(id, [
			{
				at: "solidus_temperature",
				from: row.document.values.solidus_temperature ?? null,
				to: value("solidus_temperature", "590 °C"),
			},
		]);
		expect(
			(await db.one<{ bytes: Buffer }>("SELECT bytes FROM document WHERE hash = $hash", { hash }))?.bytes.equals(bytes),
		).toBe(true);
	});
});

describe("sources and own properties of a library", () => {
	it("are kept with a version; who saw an older one is told", async () => {
		const id = newId();
		const content = { kind: "lab-report" as const, title: "Bars of November", date: "2026-11-12" };
		expect(await server.must("saveSource", { id: "own", source: id, version: 0, content })).toEqual({ id, version: 1, content });
		// a retry of the same is one
		expect((await server.must("saveSource", { id: "own", source: id, version: 0, content })).version).toBe(1);
		const changed = { ...content, title: "Bars of November, second reading" };
		expect((await server.must("saveSource", { id: "own", source: id, version: 1, content: changed })).version).toBe(2);
		const stale = await server.call("saveSource", { id: "own", source: id, version: 1, content: { ...content, title: "third" } });
		expect(stale.ok ? null : stale.issues[0]).toMatchObject({ code: "conflict", current: changed });
		expect(
			await server.refused("saveSource", {
				id: "own",
				source: newId(),
				version: 0,
				content: { kind: "web", title: "x", date: "soon" },
			}),
		).toBe("wrong-type");
		expect((await server.must("listSources", { id: "own" })).find((s) => s.id === id)?.content.title).toBe(changed.title);
		expect(await server.refused("saveSource", { id: "sup", source: newId(), version: 0, content })).toBe("read-only");
	});

	it("an own property is offered with the library, found by span and sorted by", async () => {
		const own = { uid: "wear-1", name: "Wear", symbol: "w", siUnit: "m^2", unit: "mm^3/m", low: 0, high: null, explanation: "" };
		await server.must("saveOwnProperty", { id: "own", version: 0, content: own });
		expect((await server.must("listLibraries", {})).find((l) => l.id === "own")?.ownProperties).toEqual([own]);
		const worn = (text: string, si: number): MaterialValue => ({
			id: "own_wear-1",
			property: "own:wear-1",
			own,
			entered: text,
			low: si,
			high: si,
		});
		await begin("Worn much", [worn("30 mm^3/m", 30e-9)]);
		await begin("Worn little", [worn("3 mm^3/m", 3e-9)]);
		const names = async (where: string, dir: "asc" | "desc" = "asc") =>
			(await server.must("findMaterials", { where, sort: "own:wear-1", dir } as never)).rows.map((r) => r.name);
		expect(await names("own:wear-1:..1e-8")).toEqual(["Worn little"]);
		expect(await names("own:wear-1:0..", "desc")).toEqual(["Worn much", "Worn little"]);
		// a use may need it: the index knows at once
		const ready = async (): Promise<number> => (await server.must("findMaterials", { ready: "mass" } as never)).total;
		const before = await ready();
		await server.must("saveOwnProperty", { id: "own", version: 1, content: { ...own, neededFor: ["mass"] } });
		expect(await ready()).toBeLessThan(before);
		await server.must("saveOwnProperty", { id: "own", version: 2, content: own });
		expect(await ready()).toBe(before);
		expect(
			await server.refused("saveOwnProperty", { id: "own", version: 0, content: { ...own, uid: "wear-2", name: "WEAR" } }),
		).toBe("own-taken");
		// another unit of the same kind may be shown; another kind would make other numbers of those that stand there
		await server.must("saveOwnProperty", { id: "own", version: 3, content: { ...own, unit: "mm^2" } });
		const other = await server.call("saveOwnProperty", { id: "own", version: 4, content: { ...own, siUnit: "kg", unit: "g" } });
		expect(other.ok ? "" : other.issues[0]).toMatchObject({ code: "own-unit", actual: "g", expected: "mm^2" });
		expect(
			await server.refused("saveOwnProperty", { id: "own", version: 0, content: { ...own, uid: "x", unit: "furlong" } }),
		).toBe("unknown-unit");
	});

	it("spans find by what a value works with, and by what it may reach when asked", async () => {
		await begin("Overlapping", [value("tensile_strength", "480-520 MPa")]);
		const names = async (where: string) => (await server.must("findMaterials", { where } as never)).rows.map((r) => r.name);
		expect(await names("tensile_strength:475e6..485e6")).toEqual(["Overlapping"]);
		expect(await names("tensile_strength:515e6..600e6")).toEqual([]);
		expect(await names("tensile_strength:515e6..600e6~")).toEqual(["Overlapping"]);
		expect((await server.must("findMaterials", { where: "tensile_strength:521e6..600e6" } as never)).total).toBe(0);
	});
});

describe("finding by price, evidence and words", () => {
	it("prices are compared in their own currency, evidence is that of the property asked for", async () => {
		const cheap = await begin("Priced low", [
			value("density", "2.70 g/cm3", { evidence: "estimated" }),
			value("tensile_strength", "300 MPa", { evidence: "measured" }),
		]);
		const dear = await begin("Priced high", [value("density", "2.71 g/cm3", { evidence: "measured" })]);
		for (const [id, amount, currency] of [
			[cheap, "4.35", "EUR"],
			[dear, "4.10", "USD"],
		] as const)
			await publish(id, [{ at: "field:price", from: null, to: { amount, currency, date: "2026-11-01" } }]);
		await server.must("changeMaterial", { id: cheap, itemCode: "B-10", review: "2027-03-01", offeredFor: ["seal"] });
		await server.must("changeMaterial", { id: dear, itemCode: "b-9" });
		const find = async (input: object) => (await server.must("findMaterials", { text: "priced", ...input } as never)).rows;
		const names = async (input: object) => (await find(input)).map((r) => r.name);
		expect(await names({ where: "price:EUR:..5" })).toEqual(["Priced low"]);
		expect(await names({ where: "price:USD:..4" })).toEqual([]);
		expect(await names({ where: "density:2600..2800!measured.standard" })).toEqual(["Priced high"]);
		expect(await names({ where: "density:..!estimated" })).toEqual(["Priced low"]);
		expect(await names({ sort: "code" })).toEqual(["Priced high", "Priced low"]);
		expect(await names({ sort: "review", dir: "desc" })).toEqual(["Priced low", "Priced high"]);
		expect((await find({ where: "price:EUR:..5" }))[0]).toMatchObject({ reviewAt: "2027-03-01", offeredFor: ["seal"] });
		expect(await server.refused("findMaterials", { where: "price:euro:..5" } as never)).toBe("unknown-property");
		// the strips are drawn of the same values
		const columns = async (where: string) => {
			const reply = await server.raw(`/api/v1/materials-columns?text=priced&properties=density&where=${where}`);
			const unpacked = unpackColumns(await reply.arrayBuffer());
			return unpacked.ok ? [...(unpacked.value.columns.get("density")?.working ?? [])] : unpacked.issues;
		};
		expect(await columns("density:..!measured")).toEqual([2710]);
		expect((await columns("")).length).toBe(2);
	});

	it("names a few slips away stand in for a text that nothing says, when asked", async () => {
		await begin("Gudgeon bronze", [value("density", "8.8 g/cm3")]);
		const find = (input: object) => server.must("findMaterials", { text: "gudegon", ...input } as never);
		expect(await find({})).toMatchObject({ total: 0, near: false });
		const page = await find({ near: "show" });
		expect([page.near, page.rows.map((r) => r.name)]).toEqual([true, ["Gudgeon bronze"]]);
		expect((await find({ near: "show", text: "gudgeon" })).near).toBe(false);
	});
});

describe("base, variant, behind", () => {
	it("a variant follows the published base, is behind when it moves on, and stands on the newest when brought forward", async () => {
		const base = await begin("Mother", [value("density", "8.8 g/cm3")]);
		const id = newId();
		await server.must("createMaterial", { id, libraryId: "own", name: "Daughter", from: base, as: "variant" });
		const first = await server.must("getSheet", { id });
		expect(first.base).toMatchObject({ kind: "variant", revision: 1, headRevision: 1, name: "Mother" });
		expect(first.row.document.values.density?.follows).toMatchObject({ name: "Mother", revision: 1 });
		await publish(base, [{ at: "density", from: value("density", "8.8 g/cm3"), to: value("density", "8.9 g/cm3") }]);
		const behind = await server.must("getSheet", { id });
		expect(behind.base).toMatchObject({ revision: 1, headRevision: 2 });
		expect(behind.base?.head?.values.density).toMatchObject({ entered: "8.9 g/cm3" });
		expect((await server.must("getSheet", { id: base })).variants).toEqual([
			{ id, name: "Daughter", kind: "variant", revision: 1 },
		]);
		const { event } = await server.must("standOnNewest", { id, revision: 2 });
		expect((await server.must("getSheet", { id })).base?.revision).toBe(2);
		await server.must("undo", { event });
		expect((await server.must("getSheet", { id })).base?.revision).toBe(1);
		expect(await server.refused("standOnNewest", { id, revision: 9 })).toBe("not-found");
	});

	it("what was never published cannot be followed; a base that one may not read keeps its content to itself", async () => {
		const draft = newId();
		await server.must("createMaterial", { id: draft, libraryId: "own", name: "Only a draft" });
		expect(
			await server.refused("createMaterial", { id: newId(), libraryId: "own", name: "Too early", from: draft, as: "variant" }),
		).toBe("not-published");
		const { db, services } = server.installation;
		await db.run("INSERT INTO person (id, name, initials, admin) VALUES ('eve', 'Eve', 'E', 0)");
		await db.run(
			"INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ('person', 'eve', 'library', 'own', 'reader')",
		);
		const id = await begin("Stands on supplied", []).catch(() => null);
		expect(id).toBeNull();
		const copy = newId();
		await server.must("createMaterial", { id: copy, libraryId: "own", name: "From the supplier", from: "bar" });
		const { hash } = await server.must("saveDraft", { id: copy, edits: [{ at: "field:notes", from: "", to: "x" }] as never });
		await server.must("publishDraft", { id: copy, note: "first", hash });
		const seen = await services.json.getSheet({ ...newContext(db), actor: { person: "eve", admin: false } }, { id: copy });
		expect(seen.ok && seen.value.base).toMatchObject({ name: "Bar 7", document: null, head: null });
	});

	it("review date and purposes change at once, with their way back", async () => {
		const id = await begin("Reviewed", [value("density", "2.7 g/cm3")]);
		const { event } = await server.must("changeMaterial", {
			id,
			review: "2027-03-01",
			offeredFor: ["fastener", "fastener", "structure"],
		});
		expect(await server.must("getSheet", { id })).toMatchObject({ review: "2027-03-01", offeredFor: ["fastener", "structure"] });
		expect(await server.refused("changeMaterial", { id, review: "next spring" })).not.toBe("ok");
		await server.must("undo", { event });
		expect(await server.must("getSheet", { id })).toMatchObject({ review: null, offeredFor: [] });
	});
});

describe("uses of a library's own", () => {
	it("stand in readiness and filter of its materials alone, change with it, and are put away", async () => {
		const id = newId();
		await server.must("createMaterial", { id, libraryId: "own", name: "Worn" });
		await server.must("saveDraft", { id, edits: [{ at: "density", from: null, to: value("density", "7.8 g/cm3") }] as never });
		await server.publish([id], "first");
		const wear = { uid: "sand", name: "wear on sand", needs: ["density", "hardness"], file: null, off: false };
		await server.must("saveOwnUse", { id: "own", version: 0, content: wear });
		const use = async (of: string): Promise<string | undefined> =>
			(await server.must("getMaterials", { ids: of }))[0]?.readiness.find((r) => r.use === "own:sand")?.state;
		const found = async (): Promise<string[]> =>
			(await server.must("findMaterials", { ready: "own:sand" })).rows.map((r) => r.name);
		expect([await use(id), await found()]).toEqual(["not-ready", []]);
		expect(await use("bar")).toBeUndefined();
		// my draft counts for me
		await server.must("saveDraft", { id, edits: [{ at: "hardness", from: null, to: value("hardness", "200 HB") }] as never });
		expect(await use(id)).toBe("ready");
		await server.must("discardDraft", { id });
		await server.must("saveOwnUse", { id: "own", version: 1, content: { ...wear, needs: ["density"] } });
		expect(await use(id)).toBe("ready");
		expect(await found()).toContain("Worn");
		const ready = (await server.must("findMaterials", {})).facets.ready.find((f) => f.key === "own:sand");
		expect(ready?.count).toBe((await found()).length);
		expect((await server.must("listLibraries", {})).find((l) => l.id === "own")?.ownUses.map((u) => u.name)).toEqual([
			"wear on sand",
		]);
		// it survives a restart, with what was worked out before
		server = await server.restart();
		expect(await found()).toContain("Worn");
		for (const [content, code] of [
			[{ ...wear, uid: "other", name: "Wear on SAND" }, "use-taken"],
			[{ ...wear, uid: "other", name: "modal" }, "use-taken"],
			[{ ...wear, uid: "other", name: "new", needs: [] }, "empty"],
		] as const)
			expect(await server.refused("saveOwnUse", { id: "own", version: 0, content })).toBe(code);
		expect(await server.refused("saveOwnUse", { id: "own", version: 1, content: { ...wear, needs: ["hardness"] } })).toBe(
			"conflict",
		);
		// the id of another library's use opens nothing here
		const beside = newId();
		await server.must("createLibrary", { id: beside, name: "Beside uses", description: "" });
		const stolen = { ...wear, name: "stolen", off: true };
		expect(await server.refused("saveOwnUse", { id: beside, version: 1, content: stolen })).toBe("id-taken");
		expect(await server.refused("saveOwnUse", { id: "sup", version: 0, content: { ...wear, uid: "x" } })).toBe("read-only");
		await server.must("saveOwnUse", { id: "own", version: 2, content: { ...wear, needs: ["density"], off: true } });
		expect([await use(id), await found()]).toEqual([undefined, []]);
	});
});
