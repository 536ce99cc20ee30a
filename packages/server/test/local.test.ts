import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newContext } from "../src/index";
import { type Client, fixture, lowOf, newId, type Running, value } from "./harness";
import { densityOf, edit, make, startTeam } from "./team";

let server: Running;
let ed: Client;
let reader: Client;
let project: string;
let part: string;
beforeAll(async () => {
	({ server, ed, reader, project, part } = await startTeam());
	await server.must("shareProject", { id: project, by: "person", subject: "ed", role: "reader" });
});
afterAll(() => server.stop());

describe("materials of a project only", () => {
	it("come from one line, are used like any other, and are found in no library", async () => {
		const id = newId();
		expect(await server.refused("createLocal", { id: project, material: id, line: "Gudgeon alloy" })).toBe("density-missing");
		await server.must("createLocal", { id: project, material: id, line: "Gudgeon alloy 2.68 g/cm3; E 69 GPa" });
		await server.must("assign", { id: project, parts: [part], materialId: id });
		const a = (await server.must("getProject", { id: project })).parts.find((p) => p.id === part)?.assignment;
		expect(a).toMatchObject({ material: "Gudgeon alloy", own: true, revision: 1, density: { working: 2680 } });
		expect((await server.must("findMaterials", { text: "gudgeon alloy" })).total).toBe(0);
		expect((await server.must("findMaterials", { text: "gudgeon alloy", project })).total).toBe(1);
		expect(await reader.refused("getSheet", { id })).toBe("not-found");
		expect((await ed.must("getSheet", { id })).mayEdit).toBe(false);
		const other = newId();
		await server.must("createProject", { id: other, name: "Another" });
		await server.importFile(other, "nested.step", fixture("nested.step"));
		const foreign = (await server.must("getProject", { id: other })).parts[0]?.id ?? "";
		expect(await server.refused("assign", { id: other, parts: [foreign], materialId: id })).toBe("not-found");
		// it needs no lock
		const { values } = (await server.must("getSheet", { id })).row.document;
		const draft = await server.must("saveDraft", {
			id,
			edits: [edit("density", values.density, value("density", "2.69 g/cm3"))],
		});
		expect((await server.must("publishDraft", { id, note: "weighed", hash: draft.hash })).revision).toBe(2);
		// into a library: a draft, complete, with its origin
		const up = newId();
		await server.must("promoteLocal", { id: project, material: id, libraryId: "own", newId: up, name: "Gudgeon alloy 9" });
		const promoted = await server.must("getSheet", { id: up });
		expect([promoted.row.revision, lowOf(promoted.row.document, "density"), promoted.base?.name]).toEqual([
			0,
			2690,
			"Gudgeon alloy",
		]);
		await server.must("openLock", { id: "own", takeOver: true });
		await server.publish([up], "from the winch");
		await server.must("replaceLocalMaterial", { id: project, material: id, to: up });
		const after = (await server.must("getProject", { id: project })).parts.find((p) => p.id === part)?.assignment;
		expect(after).toMatchObject({ material: "Gudgeon alloy 9", own: false });
	});

	it("may be a local change of a library's, which stays untouched", async () => {
		const base = await make(server, "Base of a change");
		const id = newId();
		await server.must("createLocal", { id: project, material: id, from: base });
		const { values } = (await server.must("getSheet", { id })).row.document;
		const draft = await server.must("saveDraft", {
			id,
			edits: [edit("density", values.density, value("density", "2.60 g/cm3"))],
		});
		await server.must("publishDraft", { id, note: "porous here", hash: draft.hash });
		const sheet = await server.must("getSheet", { id });
		expect(sheet.base).toMatchObject({ kind: "local", name: "Base of a change" });
		expect([lowOf(sheet.row.document, "density"), await densityOf(server, base)]).toEqual([2600, 2700]);
	});

	it("and the default of a project says that nobody has confirmed it", async () => {
		const id = await make(server, "Default grade");
		const p = newId();
		await server.must("createProject", { id: p, name: "With default" });
		await server.importFile(p, "nested.step", fixture("nested.step"));
		const parts = (await server.must("getProject", { id: p })).parts;
		const first = parts[0]?.id ?? "";
		await server.must("assign", { id: p, parts: [first], materialId: "plate" });
		const given = await server.must("setDefault", { id: p, materialId: id });
		expect(given.value.parts.filter((x) => x.assignment?.isDefault).length).toBe(parts.length - 1);
		expect(given.value.parts.find((x) => x.id === first)?.assignment?.material).toBe("Plate 21");
		await server.must("confirmDefault", { id: p, parts: [parts[1]?.id ?? ""] });
		const none = await server.must("setDefault", { id: p, materialId: null });
		expect(
			none.value.parts
				.map((x) => x.assignment?.material ?? null)
				.filter((m) => m !== null)
				.sort(),
		).toEqual(["Default grade", "Plate 21"]);
		await server.must("undo", { event: none.event });
		const back = await server.must("getProject", { id: p });
		expect([back.default?.material, back.parts.every((x) => x.assignment !== null)]).toEqual(["Default grade", true]);
		expect(newContext(server.installation.db).actor.person).toBe("local");
	});
});
