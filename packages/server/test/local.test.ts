import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newContext } from "../src/index";
import { type Client, fixture, lowOf, newId, personWith, type Running, value } from "./harness";
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
		// its part came along, as one that tries a draft
		const standing = async () => (await server.must("getProject", { id: project })).parts.find((p) => p.id === part)?.assignment;
		expect(await standing()).toMatchObject({ material: "Gudgeon alloy 9", draft: true, density: { working: 2690 } });
		await server.must("openLock", { id: "own", takeOver: true });
		await server.publish([up], "from the winch");
		expect(await standing()).toMatchObject({ material: "Gudgeon alloy 9", own: false, draft: false, revision: 1 });
		// who gives it up sends what still stands on it elsewhere
		await server.must("assign", { id: project, parts: [part], materialId: id });
		await server.must("replaceLocalMaterial", { id: project, material: id, to: up });
		expect(await standing()).toMatchObject({ material: "Gudgeon alloy 9", own: false });
	});

	it("promoting and its way back are one step each, parts and all", async () => {
		const id = newId();
		await server.must("createLocal", { id: project, material: id, line: "Spelter 6 7.1 g/cm3" });
		await server.must("assign", { id: project, parts: [part], materialId: id });
		const standing = async () => (await server.must("getProject", { id: project })).parts.find((p) => p.id === part)?.assignment;
		// what it may be already is looked for in the libraries, though it is in none of them itself
		await make(server, "Spelter 6", "7.10 g/cm3");
		expect((await server.must("findAlike", { name: "Spelter 6", material: id })).map((a) => a.row.name)).toEqual(["Spelter 6"]);
		expect(await reader.refused("findAlike", { name: "Spelter 6", material: id })).toBe("not-found");
		const up = newId();
		const done = await server.must("promoteLocal", {
			id: project,
			material: id,
			libraryId: "own",
			newId: up,
			name: "Spelter 6 c",
		});
		const back = await server.must("undo", { event: done.event });
		expect(await standing()).toMatchObject({ materialId: id, draft: false, revision: 1 });
		expect((await server.must("getLibrary", { id: "own" })).materials).toBeGreaterThan(0);
		await server.must("undo", { event: back.event });
		expect(await standing()).toMatchObject({ materialId: up, draft: true });
		// whoever may no longer change the project takes no step back that reaches into it
		const editor = await personWith(server, "eve", { own: "editor" });
		await server.must("shareProject", { id: project, by: "person", subject: "eve", role: "editor" });
		const other = newId();
		await editor.must("createLocal", { id: project, material: other, line: "Spelter 7 7.2 g/cm3" });
		await editor.must("assign", { id: project, parts: [part], materialId: other });
		const hers = await editor.must("promoteLocal", {
			id: project,
			material: other,
			libraryId: "own",
			newId: newId(),
			name: "Spelter 7",
		});
		await server.must("shareProject", { id: project, by: "person", subject: "eve", role: "reader" });
		expect(await editor.refused("undo", { event: hers.event })).toBe("forbidden");
		await server.must("assign", { id: project, parts: [part], materialId: null });
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

	it("goes back as a draft of the revision after the one it began from, with its parts, and is taken back whole", async () => {
		const base = await make(server, "Origin");
		const id = newId();
		await server.must("createLocal", { id: project, material: id, from: base });
		await server.must("assign", { id: project, parts: [part], materialId: id });
		expect(await server.refused("returnLocal", { id: project, material: id })).toBe("nothing-changed");
		const { values } = (await server.must("getSheet", { id })).row.document;
		const changed = await server.must("saveDraft", {
			id,
			edits: [edit("density", values.density, value("density", "2.61 g/cm3"))],
		});
		await server.must("publishDraft", { id, note: "porous here", hash: changed.hash });
		await server.must("assign", { id: project, parts: [part], materialId: id });
		// an own draft is not overwritten
		await server.must("saveDraft", { id: base, edits: [edit("field:notes", "", "mine")] });
		expect(await server.refused("returnLocal", { id: project, material: id })).toBe("own-draft");
		await server.must("discardDraft", { id: base });
		const done = await server.must("returnLocal", { id: project, material: id });
		expect(done.value.id).toBe(base);
		const standing = async () => (await server.must("getProject", { id: project })).parts.find((p) => p.id === part)?.assignment;
		expect(await standing()).toMatchObject({ material: "Origin", draft: true, density: { working: 2610 } });
		// another editor takes nobody's draft back
		expect(await ed.refused("undo", { event: done.event })).toBe("not-found");
		const back = await server.must("undo", { event: done.event });
		expect(await standing()).toMatchObject({ materialId: id, draft: false, revision: 2 });
		expect((await server.must("getSheet", { id: base })).row.draftId).toBeNull();
		await server.must("undo", { event: back.event });
		expect(await standing()).toMatchObject({ materialId: base, draft: true });
		await server.must("openLock", { id: "own", takeOver: true });
		await server.publish([base], "as the winch found it");
		expect(await standing()).toMatchObject({ materialId: base, draft: false, revision: 2, density: { working: 2610 } });
		// what began from no library has nowhere to go back to
		const line = newId();
		await server.must("createLocal", { id: project, material: line, line: "Loose grade 1.1 g/cm3" });
		expect(await server.refused("returnLocal", { id: project, material: line })).toBe("no-origin");
		// and only who may change the library gives it one
		await server.must("shareProject", { id: project, by: "person", subject: "rea", role: "editor" });
		const hers = newId();
		await reader.must("createLocal", { id: project, material: hers, from: base });
		expect(await reader.refused("returnLocal", { id: project, material: hers })).toBe("forbidden");
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

	it("which a project may begin with; another project's own material is none, by either door", async () => {
		const id = await make(server, "Usual grade");
		const p = newId();
		await server.must("createProject", { id: p, name: "Begun with a default", materialId: id });
		await server.importFile(p, "nested.step", fixture("nested.step"));
		const { parts, default: standard } = await server.must("getProject", { id: p });
		expect([standard?.material, parts.every((x) => x.assignment?.isDefault === true)]).toEqual(["Usual grade", true]);
		const local = newId();
		await server.must("createLocal", { id: p, material: local, line: "Hidden grade 1.2 g/cm3" });
		const other = newId();
		expect(await server.refused("createProject", { id: other, name: "No", materialId: local })).toBe("not-found");
		expect(await server.refused("getProject", { id: other })).toBe("not-found");
		await server.must("createProject", { id: other, name: "Yes" });
		expect(await server.refused("setDefault", { id: other, materialId: local })).toBe("not-found");
		expect((await server.must("setDefault", { id: p, materialId: local })).value.default?.material).toBe("Hidden grade");
		const draft = newId();
		await server.must("createMaterial", { id: draft, libraryId: "own", name: "Only begun" });
		expect(await server.refused("createProject", { id: newId(), name: "No", materialId: draft })).toBe("not-published");
		expect(await server.refused("createProject", { id: newId(), name: "No", materialId: newId() })).toBe("not-found");
	});
});
