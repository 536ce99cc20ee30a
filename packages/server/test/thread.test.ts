import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { fixture, newId, type Running, startServer, value } from "./harness";

let server: Running;
beforeAll(async () => {
	server = await startServer();
});
afterAll(() => server.stop());

const EXPECTED = JSON.parse(fixture("mount.expected.json").toString()) as { parts: { name: string; volume_mm3: number }[] };

describe("from a typed value to the mass of an assembly", () => {
	it("type, publish, assign, weigh; and the same after a restart", async () => {
		const id = newId();
		await server.must("createMaterial", { id, libraryId: "own", name: "Fork alloy 3", group: "Metals / Aluminium" });
		const density = value("density", "2,66-2,69 g/cm³");
		const saved = await server.must("saveDraft", { id, edits: [{ at: "density", from: null, to: density }] });
		expect(await server.refused("assign", { id: "nowhere", parts: ["x"], materialId: id })).toBe("not-found");
		const published = await server.must("publishDraft", { id, note: "from the sheet", hash: saved.hash });
		expect(published).toMatchObject({ revision: 1, movedParts: 0 });

		const project = newId();
		await server.must("createProject", { id: project, name: "Mount" });
		expect((await server.importFile(project, "mount.step", fixture("mount.step"))).state).toBe("done");
		const empty = await server.must("getProject", { id: project });
		expect(empty.parts.map((p) => p.name)).toEqual(EXPECTED.parts.map((p) => p.name));
		expect(empty.totals).toMatchObject({ mass_kg: null, parts: 9, partsWithMass: 0 });
		expect(empty.parts[0]?.mass_kg).toBeNull();

		const fork = empty.parts.find((p) => p.name === "Fork arm");
		const { value: weighed } = await server.must("assign", { id: project, parts: [fork?.id ?? ""], materialId: id });
		const volume = (EXPECTED.parts[2]?.volume_mm3 ?? 0) * 1e-9;
		const mass = weighed.totals.mass_kg;
		expect(Math.abs((mass?.mass ?? 0) / (2675 * volume) - 1)).toBeLessThan(1e-9);
		expect(Math.abs((mass?.low ?? 0) / (2660 * volume) - 1)).toBeLessThan(1e-9);
		expect(Math.abs((mass?.high ?? 0) / (2690 * volume) - 1)).toBeLessThan(1e-9);
		expect(weighed.totals.partsWithMass).toBe(1);

		server = await server.restart();
		const again = await server.must("getProject", { id: project });
		expect(again.totals).toEqual(weighed.totals);
		const sheet = await server.must("getSheet", { id });
		expect(sheet.row.document.values.density).toEqual(density);
		expect(sheet.whereUsed).toMatchObject([{ project: "Mount", parts: ["Fork arm"], revision: 1, behind: false }]);
	});

	it("keeps digits and SI double from typing to the exported file", async () => {
		const id = newId();
		await server.must("createMaterial", { id, libraryId: "own", name: "Digits" });
		const typed = value("density", "0.2620 lb/in^3");
		await server.must("saveDraft", { id, edits: [{ at: "density", from: null, to: typed }] });
		const response = await server.raw(`/api/v1/materials/${id}/export.json`);
		expect(response.headers.get("content-disposition")).toContain('filename="Digits.json"');
		const exported = (await response.json()) as { document: { values: { density: unknown } } };
		expect(exported.document.values.density).toMatchObject({ entered: "0.2620 lb/in^3", low: typed.low, high: typed.low });
	});

	it("publishing marks parts behind and changes no mass until they are brought forward", async () => {
		const project = newId();
		await server.must("createProject", { id: project, name: "Behind" });
		await server.importFile(project, "nested.step", fixture("nested.step"));
		const { parts } = await server.must("getProject", { id: project });
		const { value: before } = await server.must("assign", { id: project, parts: parts.map((p) => p.id), materialId: "plate" });
		const old = (await server.must("getSheet", { id: "plate" })).row.document.values.density;
		const draft = await server.must("saveDraft", {
			id: "plate",
			edits: [{ at: "density", from: old, to: value("density", "2.80 g/cm3") }],
		});

		const { value: trying, event } = await server.must("assign", {
			id: project,
			parts: [parts[0]?.id ?? ""],
			materialId: "plate",
			draft: true,
		});
		expect(trying.parts[0]?.assignment).toMatchObject({ draft: true, density: { working: 2800 } });
		await server.must("undo", { event });

		await server.must("publishDraft", { id: "plate", note: "weighed", hash: draft.hash });
		const after = await server.must("getProject", { id: project });
		expect(after.totals.mass_kg).toEqual(before.totals.mass_kg);
		expect(after.totals.behind).toBe(9);
		expect(after.parts[0]?.assignment?.behind).toMatchObject({ revision: 2, density: { working: 2800 } });

		const moved = await server.must("bringForward", { id: project, parts: parts.map((p) => p.id) });
		expect((moved.value.totals.mass_kg?.mass ?? 0) / (before.totals.mass_kg?.mass ?? 1)).toBeCloseTo(2800 / 2700, 12);
		expect(moved.value.totals.behind).toBe(0);
		expect(await server.refused("bringForward", { id: project, parts: parts.map((p) => p.id) })).toBe("nothing-behind");
		await server.must("undo", { event: moved.event });
		expect((await server.must("getProject", { id: project })).totals.behind).toBe(9);
	});

	it("totals are the sum of density x volume for a hundred seeded assignments with ranges, gaps and drafts", async () => {
		const project = newId();
		await server.must("createProject", { id: project, name: "Seeded" });
		await server.importFile(project, "nested.step", fixture("nested.step"));
		const { parts } = await server.must("getProject", { id: project });
		/** Materials with single densities, ranges, ranges by other units, and one that is only a draft. */
		const choices: { id: string; low: number; high: number; draft: boolean }[] = [];
		for (const [i, text] of ["2710 kg/m3", "8.78-8.91 g/cm3", "506-519 lb/ft3", "80 ± 6 kg/m3", "1,36 g/cm3"].entries()) {
			const id = newId();
			await server.must("createMaterial", { id, libraryId: "own", name: `Seeded ${i}` });
			const density = value("density", text);
			const { hash } = await server.must("saveDraft", { id, edits: [{ at: "density", from: null, to: density }] });
			const draft = i === 4;
			if (!draft) await server.must("publishDraft", { id, note: "seed", hash });
			choices.push({ id, low: density.low ?? 0, high: density.high ?? 0, draft });
		}
		let state = 20261125;
		const random = (n: number): number => {
			state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
			return state % n;
		};
		const standing = new Map<string, (typeof choices)[number] | null>(parts.map((p) => [p.id, null]));
		for (let round = 0; round < 100; round++) {
			const part = parts[random(parts.length)]?.id ?? "";
			const choice = random(4) === 0 ? null : (choices[random(choices.length)] ?? null);
			standing.set(part, choice);
			const { value: view } = await server.must("assign", {
				id: project,
				parts: [part],
				materialId: choice?.id ?? null,
				draft: choice?.draft === true,
			});
			const sum = (of: (c: (typeof choices)[number]) => number): number =>
				parts.reduce((total, p) => {
					const c = standing.get(p.id) ?? null;
					return total + (c === null ? 0 : of(c) * p.volume_m3 * p.quantity);
				}, 0);
			const mass = view.totals.mass_kg;
			const weighed = parts.filter((p) => standing.get(p.id) !== null).reduce((n, p) => n + p.quantity, 0);
			expect(view.totals.partsWithMass, `round ${round}`).toBe(weighed);
			if (weighed === 0) expect(mass).toBeNull();
			else {
				for (const [got, want] of [
					[mass?.mass, sum((c) => (c.low + c.high) / 2)],
					[mass?.low, sum((c) => c.low)],
					[mass?.high, sum((c) => c.high)],
				] as const) {
					expect(Math.abs((got ?? 0) / want - 1), `round ${round}`).toBeLessThan(1e-12);
				}
			}
		}
	});

	it("writes the mass table with units, revisions and states, and no formulas", async () => {
		const project = newId();
		await server.must("createProject", { id: project, name: "=1+1" });
		const step = fixture("nested.step").toString().replace("'PB-2','Pin'", "'PB-2','=HYPERLINK(1)'");
		await server.importFile(project, "n.step", Buffer.from(step));
		const response = await server.raw(`/api/v1/projects/${project}/mass.csv?units=us`);
		const rows = (await response.text()).split("\r\n");
		expect(rows[0]).toContain("Mass [lb]");
		expect(rows.find((r) => r.includes("HYPERLINK"))).toMatch(/^'=HYPERLINK/);
		expect(rows.at(-2)).toMatch(/^Total,9,.*0 of 9 parts$/);
		// how the moments are meant stands below them
		expect(rows.at(-1)).toContain("Ixy = -integral of x y dm");
		expect(rows[0]).toContain("Ixx [lb·in^2]");
		expect(rows[1]).toContain("no material");
	});
});

describe("materials", () => {
	it("from a similar one: every value carried over, another name required", async () => {
		expect(await server.refused("createMaterial", { id: newId(), libraryId: "own", name: "plate 21", from: "plate" })).toBe(
			"name-taken",
		);
		expect(await server.refused("createMaterial", { id: newId(), libraryId: "own", name: "Bar 7", from: "bar" })).toBe(
			"same-name-as-base",
		);
		const id = newId();
		await server.must("createMaterial", { id, libraryId: "own", name: "Plate 22", from: "plate" });
		const { row, base } = await server.must("getSheet", { id });
		expect(Object.values(row.document.values).every((v) => v.carried?.name === "Plate 21")).toBe(true);
		expect([row.revision, base?.name, row.readiness[0]?.state]).toEqual([0, "Plate 21", "doubts"]);
	});

	it("copies a supplied row in one act, evidence kept, and can take it back", async () => {
		const { event, value } = await server.must("copyMany", { ids: ["bar"], libraryId: "own" });
		const [newOne = ""] = value.ids;
		const copy = await server.must("getSheet", { id: newOne });
		expect(copy.row.document.values.density).toMatchObject({ evidence: "measured" });
		expect(copy.row.document.values.density?.carried).toBeUndefined();
		await server.must("undo", { event });
		expect(await server.refused("getSheet", { id: newOne })).toBe("not-found");
	});

	it("nobody edits what is supplied", async () => {
		const edits = [{ at: "density", from: null, to: null }];
		for (const code of [
			await server.refused("saveDraft", { id: "bar", edits }),
			await server.refused("removeMaterial", { id: "bar" }),
			await server.refused("changeMaterial", { id: "bar", name: "Mine" }),
			await server.refused("createMaterial", { id: newId(), libraryId: "sup", name: "New" }),
		]) {
			expect(code).toBe("read-only");
		}
	});

	it("deleting goes to the bin; undo brings it back, unless its name was given away", async () => {
		const id = newId();
		await server.must("createMaterial", { id, libraryId: "own", name: "Short lived" });
		const draft = await server.must("saveDraft", { id, edits: [{ at: "density", from: null, to: value("density", "1 g/cm3") }] });
		await server.must("publishDraft", { id, note: "x", hash: draft.hash });
		const { event } = await server.must("removeMaterial", { id });
		expect((await server.must("listBin", {})).map((b) => b.id)[0]).toBe(id);
		expect((await server.must("findMaterials", { text: "short lived" })).total).toBe(0);
		const other = newId();
		await server.must("createMaterial", { id: other, libraryId: "own", name: "SHORT LIVED" });
		expect(await server.refused("undo", { event })).toBe("name-taken");
		await server.must("changeMaterial", { id: other, name: "Long lived" });
		await server.must("undo", { event });
		expect((await server.must("findMaterials", { text: "short lived" })).total).toBe(1);
		expect(await server.refused("undo", { event })).toBe("newer-change");
	});

	it("finds by text, library and readiness, with counts, and sorts blanks last", async () => {
		const page = await server.must("findMaterials", { ready: "linear_static", sort: "density", dir: "desc" });
		expect(page.rows.every((r) => r.readiness[1]?.state !== "not-ready")).toBe(true);
		expect(page.facets.library.find((f) => f.key === "sup")?.count ?? 0).toBe(0);
		const all = await server.must("findMaterials", { sort: "youngs_modulus" });
		expect(all.rows.at(-1)?.document.values.youngs_modulus).toBeUndefined();
		expect((await server.must("findMaterials", { text: "aluminium bar" })).rows.map((r) => r.name)).toEqual(["Bar 7"]);
	});

	it("two windows on one value: the second sees both versions and loses nothing", async () => {
		const id = newId();
		await server.must("createMaterial", { id, libraryId: "own", name: "Twice" });
		const first = value("density", "2.70 g/cm3");
		await server.must("saveDraft", { id, edits: [{ at: "density", from: null, to: first }] });
		const second = await server.call("saveDraft", {
			id,
			edits: [{ at: "density", from: null, to: value("density", "2.80 g/cm3") }],
		});
		expect(second.ok ? null : second.issues[0]).toMatchObject({ code: "conflict", path: "density", current: first });
		// another value goes through at the same time
		expect(
			(await server.call("saveDraft", { id, edits: [{ at: "poissons_ratio", from: null, to: value("poissons_ratio", "0.3") }] }))
				.ok,
		).toBe(true);
		const { row } = await server.must("getSheet", { id });
		expect(Object.keys(row.document.values)).toEqual(["density", "poissons_ratio"]);
	});

	it("a draft thrown away gives tried parts back what they stood on; undo brings both back", async () => {
		const project = newId();
		await server.must("createProject", { id: project, name: "Trying" });
		await server.importFile(project, "nested.step", fixture("nested.step"));
		const { parts } = await server.must("getProject", { id: project });
		const part = parts[0]?.id ?? "";
		await server.must("assign", { id: project, parts: [part], materialId: "plate" });
		const now = (await server.must("getSheet", { id: "plate" })).row.document.values.density;
		await server.must("saveDraft", { id: "plate", edits: [{ at: "density", from: now, to: value("density", "3 g/cm3") }] });
		await server.must("assign", { id: project, parts: [part], materialId: "plate", draft: true });
		const { event } = await server.must("discardDraft", { id: "plate" });
		const standing = async () => (await server.must("getProject", { id: project })).parts[0]?.assignment;
		expect(await standing()).toMatchObject({ draft: false });
		await server.must("undo", { event });
		expect(await standing()).toMatchObject({ draft: true, density: { working: 3000 } });
		await server.must("discardDraft", { id: "plate" });
	});
});
