import { applyEdits, type Edit, type Material } from "@alvek/core/material";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { fixture, lowOf, newId, personWith, type Running, startServer, value } from "./harness";

/** Likely duplicates told, found and merged, over HTTP. */
let api: Running;
beforeAll(async () => {
	api = await startServer();
});
afterAll(() => api.stop());

const NUMBERS = {
	density: "2.70 g/cm3",
	youngs_modulus: "68.9 GPa",
	tensile_strength: "310 MPa",
	yield_strength: "276 MPa",
} as const;

/** A published material of the own library. */
async function published(
	name: string,
	numbers: Readonly<Record<string, string>> = {},
	fields: readonly Edit[] = [],
): Promise<string> {
	const id = newId();
	await api.must("createMaterial", { id, libraryId: "own", name });
	const edits = [
		{ at: "field:family", from: null, to: "metal.aluminium" },
		...fields,
		...Object.entries(numbers).map(([p, text]) => ({ at: p, from: null, to: value(p, text) })),
	];
	await api.must("saveDraft", { id, edits: edits as never });
	await api.publish([id], "first");
	return id;
}

const documentOf = async (id: string): Promise<Material> => (await api.must("getSheet", { id })).row.document;

describe("told before saving", () => {
	it("by a near name while it is typed; names apart by a digit are told with the difference, not as duplicates", async () => {
		const id = await published("Foresail plate 6");
		const near = await api.must("findAlike", { name: "Foresial plate 6" });
		expect(near.map((a) => [a.row.id, a.likely, a.name?.kind])).toEqual([[id, true, "near"]]);
		const digit = await api.must("findAlike", { name: "foresail plate 7" });
		expect(digit.map((a) => [a.row.id, a.likely, a.name])).toEqual([[id, false, { kind: "variant", difference: "7 / 6" }]]);
		expect(await api.must("findAlike", { name: "Nothing of the kind" })).toEqual([]);
	});

	it("by values, with my draft as it stands; a variant of the other is no duplicate", async () => {
		const first = await published("Lee board alloy", NUMBERS);
		const id = newId();
		await api.must("createMaterial", { id, libraryId: "own", name: "Something else" });
		await api.must("saveDraft", {
			id,
			edits: [
				{ at: "field:family", from: null, to: "metal.aluminium" },
				...Object.entries({ ...NUMBERS, yield_strength: "277 MPa" }).map(([p, text]) => ({
					at: p,
					from: null,
					to: value(p, text),
				})),
			] as never,
		});
		expect((await api.must("findAlike", { material: id })).map((a) => [a.row.id, a.likely, a.shared.length])).toEqual([
			[first, true, 4],
		]);
		const variant = newId();
		await api.must("createMaterial", { id: variant, libraryId: "own", name: "Its heat", from: first, as: "variant" });
		expect((await api.must("findAlike", { material: variant })).some((a) => a.row.id === first)).toBe(false);
		await api.must("discardDraft", { id: variant }).catch(() => undefined);
		const reader = await personWith(api, "outsider", {});
		expect(await reader.must("findAlike", { name: "Lee board alloy" })).toEqual([]);
		expect(await reader.refused("findAlike", { material: first })).toBe("not-found");
	});
});

describe("found", () => {
	it("pairs of the library, the near-named first; retired ones and the merely similar are left out", async () => {
		const a = await published("Topmast tube", NUMBERS);
		const b = await published("Topmats tube");
		const c = await published("Quite another", { ...NUMBERS, density: "2.69 g/cm3" });
		await published("Topmast tube 2", { ...NUMBERS, yield_strength: "240 MPa" });
		const { pairs, complete } = await api.must("listDuplicates", { id: "own" });
		expect(complete).toBe(true);
		const found = pairs.map((p) => [p.a.id, p.b.id].sort().join(" "));
		expect(found).toContain([a, b].sort().join(" "));
		expect(found).toContain([a, c].sort().join(" "));
		expect(pairs.every((p) => p.likely)).toBe(true);
		expect(pairs.some((p) => [p.a.name, p.b.name].includes("Topmast tube 2"))).toBe(false);
		await api.must("manyMaterials", { ids: [c], act: "retire" });
		expect((await api.must("listDuplicates", { id: "own" })).pairs.some((p) => p.a.id === c || p.b.id === c)).toBe(false);
	});
});

describe("kept apart", () => {
	it("a pair is told as such in the list, and not at all while naming or publishing, until that is taken back", async () => {
		const a = await published("Keel plate", NUMBERS);
		const b = await published("Keel plaet", NUMBERS);
		const pair = async () =>
			(await api.must("listDuplicates", { id: "own" })).pairs.find(
				(p) => [p.a.id, p.b.id].sort().join() === [a, b].sort().join(),
			);
		const told = async () => (await api.must("findAlike", { material: a })).some((m) => m.row.id === b);
		expect([(await pair())?.apart, await told()]).toEqual([false, true]);
		await api.must("keepApart", { id: b, other: a, on: true });
		await api.must("keepApart", { id: a, other: b, on: true });
		expect([(await pair())?.apart, await told()]).toEqual([true, false]);
		const did = (await api.must("history", { kind: "material", id: a })).rows.map((h) => h.did);
		expect(did).toContain("said that it is not Keel plaet");
		await api.must("keepApart", { id: a, other: b, on: false });
		expect([(await pair())?.apart, await told()]).toEqual([false, true]);
		// nor is the name of a library told to those who may not read it
		const elsewhere = newId();
		await api.must("createLibrary", { id: elsewhere, name: "Closed", description: "" });
		const hidden = newId();
		await api.must("createMaterial", { id: hidden, libraryId: elsewhere, name: "Secret plate" });
		await api.must("saveDraft", {
			id: hidden,
			edits: [{ at: "density", from: null, to: value("density", "2.7 g/cm3") }] as never,
		});
		await api.must("openLock", { id: elsewhere });
		await api.publish([hidden], "first");
		await api.must("keepApart", { id: a, other: hidden, on: true });
		const told2 = (await api.must("history", { kind: "material", id: a })).rows.map((h) => h.did);
		expect(told2).toContain("said that it is not another one");
		expect(told2.join()).not.toContain("Secret");
		// by whoever may change one of them, not by readers
		const reader = await personWith(api, "kim", { own: "reader" });
		expect(await reader.refused("keepApart", { id: a, other: b, on: true })).toBe("forbidden");
		expect(await api.refused("keepApart", { id: a, other: a, on: true })).toBe("merge-itself");
	});
});

describe("merged", () => {
	it("value by value: sources and attachments come along, parts show behind with their mass, and it can be taken back", async () => {
		const keep = await published("Rudder bronze", { density: "8.70 g/cm3", youngs_modulus: "110 GPa" });
		const sourced = { ...value("tensile_strength", "500 MPa"), sourceId: "lab-1" };
		const drop = await published("Ruder bronze", { density: "8.80 g/cm3" }, [
			{
				at: "sources:lab-1",
				from: null,
				to: { kind: "lab-report", title: "Pulled bars", text: "", address: "", date: "2026", conditions: "" },
			},
			{ at: "tensile_strength", from: null, to: sourced },
		]);
		await api.must("changeMaterial", { id: drop, itemCode: "RB-7", shopName: "rudder" });
		await api.must("starMaterial", { id: drop, on: true });
		const project = newId();
		await api.must("createProject", { id: project, name: "Rudder" });
		await api.importFile(project, "nested.step", fixture("nested.step"));
		const before = await api.must("getProject", { id: project });
		const part = before.parts[0];
		await api.must("assign", { id: project, parts: [part?.id ?? ""], materialId: drop });
		const held = (await api.must("getProject", { id: project })).parts[0];

		const plan = await api.must("mergePlan", { id: keep, other: drop });
		expect(plan.edits.map((e) => e.at)).toEqual(["sources:lab-1", "density", "tensile_strength", "youngs_modulus"]);
		expect(plan.uses.map((u) => [u.project, u.quantity])).toEqual([["Rudder", part?.quantity]]);
		const merged = await api.must("mergeMaterials", {
			id: keep,
			other: drop,
			take: ["tensile_strength"],
			code: false,
			keepRevision: 1,
			dropRevision: 1,
			note: "entered twice",
		});
		expect([merged.revision, merged.behind]).toEqual([2, 1]);
		// what was chosen, and nothing else
		const document = await documentOf(keep);
		expect([lowOf(document, "density"), lowOf(document, "tensile_strength"), lowOf(document, "youngs_modulus")]).toEqual([
			8700, 500e6, 110e9,
		]);
		expect(document.sources["lab-1"]?.title).toBe("Pulled bars");
		const [survivor, loser] = await api.must("getMaterials", { ids: `${keep},${drop}` });
		expect([survivor?.itemCode, survivor?.shopName, survivor?.starred]).toEqual(["RB-7", "rudder", true]);
		expect([loser?.itemCode, loser?.retired?.successor?.id]).toEqual(["", keep]);
		// nothing is redirected: the part stands where it stood and is behind, with its mass before and after
		const after = (await api.must("getProject", { id: project })).parts[0];
		expect(after?.mass_kg).toEqual(held?.mass_kg);
		expect(after?.assignment?.behind).toMatchObject({ revision: 2 });
		const forward = await api.must("bringForward", { id: project, parts: [part?.id ?? ""] });
		const massOf = (p: typeof after): number => p?.mass_kg?.mass ?? Number.NaN;
		// 8.70 against 8.80 g/cm3
		expect(massOf(forward.value.parts[0]) / massOf(held)).toBeCloseTo(8.7 / 8.8, 12);

		const { rows } = await api.must("history", { kind: "material", id: drop });
		expect(rows[0]).toMatchObject({ did: "merged it into Rudder bronze", note: "entered twice" });
		const undone = await api.must("undo", { event: merged.event });
		const [kept, back] = await api.must("getMaterials", { ids: `${keep},${drop}` });
		expect([kept?.itemCode, kept?.revision, back?.itemCode, back?.retired]).toEqual(["", 2, "RB-7", null]);
		// and taking that back merges again, code included
		await api.must("undo", { event: undone.event });
		const [again, gone] = await api.must("getMaterials", { ids: `${keep},${drop}` });
		expect([again?.itemCode, gone?.retired?.successor?.id]).toEqual(["RB-7", keep]);
	});

	it("an attachment goes along and is read with the survivor", async () => {
		const keep = await published("Tiller ash");
		const drop = await published("Tillre ash");
		const sent = await api.raw(
			`/api/v1/materials/${drop}/files?${new URLSearchParams({ file: "lot 7.txt", as: "attachment" })}`,
			{
				method: "POST",
				headers: { "Content-Type": "application/octet-stream" },
				body: "weighed on 3 October",
			},
		);
		const { value: file } = (await sent.json()) as { value: { name: string; format: string; hash: string; bytes: number } };
		const { name, format, hash, bytes } = file;
		const to = { name, format, hash, bytes, purpose: "other", note: "", version: 1, date: "2026-10-03" };
		await api.must("saveDraft", { id: drop, edits: [{ at: "attachments:lot", from: null, to }] as never });
		await api.publish([drop], "with its lot");
		const reader = await personWith(api, "file-reader", { own: "reader" });
		expect((await reader.raw(`/api/v1/materials/${keep}/files/${hash}`)).status).toBe(404);
		await api.must("mergeMaterials", {
			id: keep,
			other: drop,
			take: ["attachments:lot"],
			code: false,
			keepRevision: 1,
			dropRevision: 2,
			note: "n",
		});
		expect(await (await reader.raw(`/api/v1/materials/${keep}/files/${hash}`)).text()).toBe("weighed on 3 October");
	});

	it("refuses what was not seen, itself, the retired, the unpublished, without a right or a lock; nothing changes then", async () => {
		const keep = await published("Deck screw");
		const drop = await published("Dekc screw", { density: "7.8 g/cm3" });
		const merge = { id: keep, other: drop, take: ["density"], code: false, keepRevision: 1, dropRevision: 1, note: "n" };
		const state = async (): Promise<unknown> =>
			(await api.must("getMaterials", { ids: `${keep},${drop}` })).map((r) => [r.revision, r.retired, r.itemCode]);
		const before = await state();
		expect(await api.refused("mergeMaterials", { ...merge, keepRevision: 3 })).toBe("merge-moved");
		expect(await api.refused("mergeMaterials", { ...merge, take: ["hardness"] })).toBe("merge-moved");
		expect(await api.refused("mergeMaterials", { ...merge, other: keep })).toBe("merge-itself");
		const unpublished = newId();
		await api.must("createMaterial", { id: unpublished, libraryId: "own", name: "Not out yet" });
		expect(await api.refused("mergeMaterials", { ...merge, other: unpublished })).toBe("not-published");
		const editor = await personWith(api, "merger", { own: "editor" });
		expect(await editor.refused("mergeMaterials", merge)).toBe("locked-by");
		const reader = await personWith(api, "merge-reader", { own: "reader" });
		expect(await reader.refused("mergeMaterials", merge)).toBe("forbidden");
		expect(await state()).toEqual(before);
		await api.must("changeLibrary", { id: "own", approval: true });
		expect(await api.refused("mergeMaterials", merge)).toBe("merge-approval");
		await api.must("changeLibrary", { id: "own", approval: false });
		expect(await state()).toEqual(before);
		expect((await api.call("mergeMaterials", merge)).ok).toBe(true);
		expect(await api.refused("mergeMaterials", merge)).toBe("merge-retired");
	});

	it("into one of another library: the own one is retired, the other stays as it is", async () => {
		const [supplied] = (await api.must("findMaterials", { library: "sup" })).rows;
		const drop = await published("Ours of theirs", { density: "1.0 g/cm3" });
		await api.must("changeMaterial", { id: drop, itemCode: "OT-1" });
		const merge = {
			id: supplied?.id ?? "",
			other: drop,
			code: true,
			keepRevision: supplied?.revision ?? 0,
			dropRevision: 1,
			note: "n",
		};
		expect(await api.refused("mergeMaterials", { ...merge, take: ["density"] })).toBe("read-only");
		const done = await api.must("mergeMaterials", { ...merge, take: [] });
		const [theirs, ours] = await api.must("getMaterials", { ids: `${supplied?.id},${drop}` });
		expect([theirs?.revision, theirs?.itemCode, ours?.itemCode, ours?.retired?.successor?.id]).toEqual([
			supplied?.revision,
			supplied?.itemCode,
			"OT-1",
			supplied?.id,
		]);
		await api.must("undo", { event: done.event });
		expect((await api.must("getMaterials", { ids: drop }))[0]?.retired).toBeNull();
	});

	it("what the plan says is what the documents say", async () => {
		const keep = await published("Gaff steel", NUMBERS);
		const drop = await published("Gaff stele", { ...NUMBERS, density: "7.85 g/cm3", hardness: "180 HB" });
		const { edits } = await api.must("mergePlan", { id: keep, other: drop });
		const applied = applyEdits(await documentOf(keep), edits as never);
		expect(applied.ok ? applied.value.material : null).toEqual(await documentOf(drop));
	});
});
