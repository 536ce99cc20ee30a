import type { ProposalView } from "@alvek/contract";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type Client, lowOf, newId, type Running, setRole, value } from "./harness";
import { densityOf, edit, make, revise, startTeam } from "./team";

let server: Running;
let ed: Client;
let reader: Client;
let project: string;
let part: string;
beforeAll(async () => {
	({ server, ed, reader, project, part } = await startTeam());
});
afterAll(() => server.stop());

describe("the lock", () => {
	it("guards publishing, moving and deleting, never drafting", async () => {
		const { values } = (await ed.must("getSheet", { id: "plate" })).row.document;
		const draft = await ed.must("saveDraft", {
			id: "plate",
			edits: [edit("density", values.density, value("density", "2.71 g/cm3"))],
		});
		expect(await ed.refused("publishDraft", { id: "plate", note: "x", hash: draft.hash })).toBe("locked");
		expect(await ed.refused("changeMaterial", { id: "plate", group: "Elsewhere" })).toBe("locked");
		expect(await ed.refused("removeMaterial", { id: "plate" })).toBe("locked");
		expect(await ed.refused("createGroup", { id: "own", group: newId(), parent: null, name: "New" })).toBe("locked");
		expect(await ed.refused("freezeEdition", { id: "own", note: "x" })).toBe("locked");
		expect(await reader.refused("openLock", { id: "own" })).toBe("forbidden");
		await ed.must("openLock", { id: "own" });
		expect((await reader.must("getLibrary", { id: "own" })).lock?.name).toBe("ed");
		await ed.must("publishDraft", { id: "plate", note: "x", hash: draft.hash });
	});

	it("is held by one person, can be taken over, and closes itself", async () => {
		expect(await server.refused("openLock", { id: "own" })).toBe("locked-by");
		await server.must("openLock", { id: "own", takeOver: true });
		expect(await ed.refused("closeLock", { id: "own" })).toBe("locked-by");
		const told = (await server.must("history", { kind: "library", id: "own" })).rows.map((h) => h.did);
		expect(told).toContain("took the lock over from ed");
		const old = new Date(Date.now() - 31 * 60_000).toISOString();
		await server.installation.db.run("UPDATE library_lock SET used_at = $old", { old });
		expect((await server.must("getLibrary", { id: "own" })).lock).toBeNull();
		await ed.must("openLock", { id: "own" });
	});

	it("stays open as long as it is used: publishing, moving and deleting count, looking does not", async () => {
		const lock = async () => {
			const row = await server.installation.db.one<{ used: string }>("SELECT used_at AS used FROM library_lock");
			return Date.now() - Date.parse(row?.used ?? "");
		};
		const unused = async (): Promise<void> => {
			const used = new Date(Date.now() - 20 * 60_000).toISOString();
			await server.installation.db.run("UPDATE library_lock SET used_at = $used", { used });
		};
		const { values } = (await ed.must("getSheet", { id: "plate" })).row.document;
		const draft = await ed.must("saveDraft", {
			id: "plate",
			edits: [edit("density", values.density, value("density", "2.72 g/cm3"))],
		});
		await unused();
		await ed.must("getLibrary", { id: "own" });
		expect(await lock()).toBeGreaterThan(19 * 60_000);
		await ed.must("publishDraft", { id: "plate", note: "x", hash: draft.hash });
		expect(await lock()).toBeLessThan(60_000);
		await unused();
		await ed.must("changeMaterial", { id: "plate", group: "Elsewhere" });
		expect(await lock()).toBeLessThan(60_000);
	});
});

describe("where the lock guards nothing", () => {
	it("a library that nobody else reads has none, until somebody else may read it", async () => {
		const library = newId();
		await ed.must("createLibrary", { id: library, name: "Ed's own", description: "" });
		expect((await ed.must("getLibrary", { id: library })).alone).toBe(true);
		// a second person could never come, so nothing waits for one
		await ed.must("changeLibrary", { id: library, approval: true });
		const id = newId();
		await ed.must("createMaterial", { id, libraryId: library, name: "Mine" });
		await ed.must("saveDraft", { id, edits: [edit("density", null, value("density", "1.20 g/cm3"))] });
		await ed.publish([id], "at once");
		expect((await ed.must("getSheet", { id })).row.revision).toBe(1);
		await ed.must("removeMaterial", { id });
		await ed.must("changeLibrary", { id: library, approval: false });
		await setRole(server, "rea", "library", library, "reader");
		expect((await ed.must("getLibrary", { id: library })).alone).toBe(false);
		const other = newId();
		await ed.must("createMaterial", { id: other, libraryId: library, name: "Shared" });
		const draft = await ed.must("saveDraft", { id: other, edits: [edit("density", null, value("density", "1.30 g/cm3"))] });
		expect(await ed.refused("publishDraft", { id: other, note: "x", hash: draft.hash })).toBe("locked");
		// an administrator who is not among its readers keeps the lock in other people's libraries
		expect((await server.must("listLibraries", {})).find((l) => l.id === library)?.alone).toBe(false);
	});

	it("what was never published and nobody else drafts is thrown away, and brought back, without it", async () => {
		await server.must("openLock", { id: "own", takeOver: true });
		await server.must("closeLock", { id: "own" });
		const id = newId();
		await ed.must("createMaterial", { id, libraryId: "own", name: "Begun in vain" });
		// a colleague's draft is thrown away by nobody but under the lock
		expect(await server.refused("removeMaterial", { id })).toBe("locked");
		const gone = await ed.must("removeMaterial", { id });
		await ed.must("undo", { event: gone.event });
		await ed.must("manyMaterials", { ids: [id], act: "remove" });
		await ed.must("manyMaterials", { ids: [id], act: "restore" });
		// together with a published one it is guarded as that one is
		expect(await ed.refused("manyMaterials", { ids: [id, "plate"], act: "remove" })).toBe("locked");
		const again = await ed.must("removeMaterial", { id });
		await ed.must("undo", { event: again.event });
		await ed.must("openLock", { id: "own" });
		await ed.publish([id], "now it is out");
		await ed.must("closeLock", { id: "own" });
		expect(await ed.refused("removeMaterial", { id })).toBe("locked");
	});
});

/** What somebody who looks at a proposal sends back when they approve it. */
const seenIn = (proposal: ProposalView | undefined) => ({
	id: proposal?.id ?? "",
	items: (proposal?.materials ?? []).map(({ id, hash }) => ({ id, hash })),
});

describe("approval by a second person", () => {
	it("keeps what was proposed out until somebody else lets it through, exactly as it was proposed", async () => {
		const id = await make(ed, "Approved");
		await server.must("changeLibrary", { id: "own", approval: true });
		const { values } = (await ed.must("getSheet", { id })).row.document;
		const draft = await ed.must("saveDraft", { id, edits: [edit("density", values.density, value("density", "2.80 g/cm3"))] });
		const asked = await ed.must("publishDraft", { id, note: "please", hash: draft.hash });
		expect(asked).toMatchObject({ published: 0, proposed: 1 });
		expect(await densityOf(server, id)).toBe(2700);
		const [proposal] = (await server.must("getLibrary", { id: "own" })).proposals;
		expect(proposal).toMatchObject({ by: "ed", mine: false, note: "please", materials: [{ name: "Approved", stale: false }] });
		// the second person sees what they let through; a reader sees nothing of a draft
		expect(proposal?.materials[0]?.edits.map((e) => e.at)).toEqual(["density"]);
		expect((await reader.must("getLibrary", { id: "own" })).proposals).toEqual([]);
		const publish = { id: proposal?.id ?? "", items: [{ id, hash: proposal?.materials[0]?.hash ?? "" }] };
		expect(await ed.refused("approvePublish", publish)).toBe("own-approval");
		// a draft that was changed since has to be proposed again
		await ed.must("saveDraft", { id, edits: [edit("field:notes", "", "one more word")] });
		expect(await server.refused("approvePublish", publish)).toBe("proposal-stale");
		// whoever holds the lock, and be it nobody: what waits changes nothing that is published
		await ed.must("openLock", { id: "own", takeOver: true });
		await ed.must("closeLock", { id: "own" });
		await ed.publish([id], "again");
		await ed.must("openLock", { id: "own" });
		const proposals = (await server.must("getLibrary", { id: "own" })).proposals;
		// one's own is withdrawn without a word; a colleague says why
		const second = newId();
		await ed.must("createMaterial", { id: second, libraryId: "own", name: "Withdrawn" });
		await ed.must("saveDraft", { id: second, edits: [edit("density", null, value("density", "2.90 g/cm3"))] });
		await ed.publish([second], "too early");
		const own = (await ed.must("getLibrary", { id: "own" })).proposals.find((p) => p.note === "too early");
		await ed.must("declinePublish", { id: own?.id ?? "", note: "" });
		expect((await ed.must("getLibrary", { id: "own" })).proposals.map((p) => p.note)).toEqual(["again"]);
		expect(proposals.map((p) => p.note)).toEqual(["again"]);
		expect(await server.refused("declinePublish", { id: proposals[0]?.id ?? "", note: " " })).toBe("note-missing");
		expect(await server.must("approvePublish", seenIn(proposals[0]))).toEqual({ published: 1, movedParts: 0 });
		const sheet = await server.must("getSheet", { id });
		expect(sheet.revisions[0]).toMatchObject({ no: 2, actor: "ed", approvedBy: "You, on this computer" });
		expect(lowOf(sheet.row.document, "density")).toBe(2800);
		await server.must("changeLibrary", { id: "own", approval: false });
	});
});

describe("what publishing touches", () => {
	it("names projects with their masses, and only counts what the publisher may not see", async () => {
		const id = await make(server, "Touching");
		await server.must("assign", { id: project, parts: [part], materialId: id });
		const { values } = (await ed.must("getSheet", { id })).row.document;
		await ed.must("saveDraft", { id, edits: [edit("density", values.density, value("density", "5.40 g/cm3"))] });
		const blind = await ed.must("publishPlan", { ids: [id] });
		expect([blind.projects, blind.hidden.projects]).toEqual([[], 1]);
		expect(blind.hidden.parts).toBeGreaterThan(0);
		expect(blind.materials[0]?.uses).toEqual([]);
		expect((await ed.must("getSheet", { id })).whereUsed).toEqual([]);
		await server.must("shareProject", { id: project, by: "person", subject: "ed", role: "reader" });
		const plan = await ed.must("publishPlan", { ids: [id] });
		expect(plan.hidden.projects).toBe(0);
		const [seen] = plan.projects;
		// twice the density is twice the mass: the only part with one
		expect(seen?.massAfter_kg).toBeCloseTo((seen?.massBefore_kg ?? 0) * 2, 12);
		expect((await server.must("getSheet", { id })).otherDrafts.map((d) => d.name)).toEqual(["ed"]);
	});
});

describe("what a project follows", () => {
	it("is the latest, an edition, or nothing when it is frozen", async () => {
		const id = await make(server, "Followed");
		await server.must("assign", { id: project, parts: [part], materialId: id });
		const edition = await server.must("freezeEdition", { id: "own", note: "for the winch" });
		const behind = async (): Promise<number | null> => {
			const view = await server.must("getProject", { id: project });
			return view.parts.find((p) => p.id === part)?.assignment?.behind?.revision ?? null;
		};
		await revise(server, id, "2.75 g/cm3");
		expect(await behind()).toBe(2);
		await server.must("setFollowing", { id: project, library: "own", edition: edition.no });
		expect(await behind()).toBeNull();
		const { event } = await server.must("setFollowing", { id: project, library: "own", edition: 0 });
		expect(await behind()).toBe(2);
		await server.must("undo", { event });
		expect(await behind()).toBeNull();
		await server.must("setFollowing", { id: project, library: "own", edition: 0 });
		await server.must("setFollowing", { id: project, frozen: true });
		expect([await behind(), (await server.must("getProject", { id: project })).totals.behind]).toEqual([null, 0]);
		await server.must("setFollowing", { id: project, frozen: false });
		// bringing forward onto an edition stands on the edition's entry, not on the newest
		await server.must("freezeEdition", { id: "own", note: "second" });
		await revise(server, id, "2.79 g/cm3");
		await server.must("setFollowing", { id: project, library: "own", edition: edition.no + 1 });
		expect(await behind()).toBe(2);
		await server.must("bringForward", { id: project, parts: [part] });
		const view = await server.must("getProject", { id: project });
		expect(view.parts.find((p) => p.id === part)?.assignment).toMatchObject({ revision: 2, behind: null });
		await server.must("setFollowing", { id: project, library: "own", edition: 0 });
	});

	it("is an edition of a set: every library of it in the edition that was frozen together, in one step", async () => {
		const other = newId();
		await server.must("createLibrary", { id: other, name: "Beside", description: "" });
		await server.must("openLock", { id: other });
		const beside = newId();
		await server.must("createMaterial", { id: beside, libraryId: other, name: "Beside it" });
		await server.must("saveDraft", { id: beside, edits: [edit("density", null, value("density", "1 g/cm3"))] });
		await server.publish([beside], "first");
		const set = newId();
		await server.must("saveSet", { id: set, name: "Both", libraries: ["own", other] });
		const id = await make(server, "In a set");
		await server.must("assign", { id: project, parts: [part], materialId: id });
		await server.must("freezeSet", { id: set, note: "for the winch" });
		await revise(server, id, "2.75 g/cm3");
		const [view] = (await server.must("listSets", {})).filter((s) => s.id === set);
		expect(view?.editions.map((e) => [e.no, e.note, e.libraries.length])).toEqual([[1, "for the winch", 2]]);
		const behind = async (): Promise<number | null> => {
			const { parts } = await server.must("getProject", { id: project });
			return parts.find((p) => p.id === part)?.assignment?.behind?.revision ?? null;
		};
		expect(await behind()).toBe(2);
		const { event } = await server.must("setFollowing", { id: project, set, edition: 1 });
		expect(await behind()).toBeNull();
		const rows = await server.installation.db.all("SELECT library_id FROM follow WHERE project_id = $project", { project });
		expect(rows).toHaveLength(2);
		expect((await server.must("setFollowing", { id: project, set, edition: 1 })).event).toBe(0);
		await server.must("undo", { event });
		expect(await behind()).toBe(2);
		for (const bad of [
			{ set, edition: 9 },
			{ set: newId(), edition: 1 },
			{ set: newId(), edition: 0 },
		])
			expect(await server.refused("setFollowing", { id: project, ...bad })).toBe("not-found");
		// whoever may not read one of the libraries neither sees the edition nor follows it
		await server.must("shareProject", { id: project, by: "person", subject: "ed", role: "editor" });
		expect((await ed.must("listSets", {})).find((s) => s.id === set)?.editions).toEqual([]);
		expect(await ed.refused("setFollowing", { id: project, set, edition: 1 })).toBe("not-found");
		await server.must("setFollowing", { id: project, set, edition: 1 });
		await server.must("setFollowing", { id: project, set, edition: 0 });
		expect(await behind()).toBe(2);
		await server.must("removeSet", { id: set });
	});

	it("lets words, and added values, go forward by themselves where it says so", async () => {
		const id = await make(server, "Forwarded");
		await server.must("assign", { id: project, parts: [part], materialId: id });
		const standing = async (): Promise<number | undefined> =>
			(await server.must("getProject", { id: project })).parts.find((p) => p.id === part)?.assignment?.revision;
		const publish = async (edits: never[]): Promise<void> => {
			const draft = await server.must("saveDraft", { id, edits });
			await server.must("openLock", { id: "own", takeOver: true });
			await server.must("publishDraft", { id, note: "n", hash: draft.hash });
		};
		await server.must("setFollowing", { id: project, forward: "words" });
		await publish([edit("field:notes", "", "words only")]);
		expect(await standing()).toBe(2);
		await publish([edit("youngs_modulus", null, value("youngs_modulus", "70 GPa"))]);
		expect(await standing()).toBe(2);
		await server.must("setFollowing", { id: project, forward: "values-added" });
		await publish([edit("poissons_ratio", null, value("poissons_ratio", "0.33"))]);
		// from revision 2 on, two values were added
		expect(await standing()).toBe(4);
		await revise(server, id, "2.9 g/cm3");
		expect(await standing()).toBe(4);
		// a frozen project stays where it is, whatever its rule says, and whoever publishes is told
		await server.must("bringForward", { id: project, parts: [part] });
		await server.must("setFollowing", { id: project, frozen: true });
		await server.must("saveDraft", { id, edits: [edit("field:condition", "", "as cast")] });
		const told = async () => (await server.must("publishPlan", { ids: [id] })).projects.map((p) => [p.id, p.frozen]);
		expect(await told()).toEqual([[project, true]]);
		await publish([edit("field:notes", "words only", "other words")]);
		expect(await standing()).toBe(5);
		await server.must("setFollowing", { id: project, frozen: false });
		await server.must("saveDraft", { id, edits: [edit("field:condition", "as cast", "annealed")] });
		expect(await told()).toEqual([[project, false]]);
		await server.must("discardDraft", { id });
		await server.must("setFollowing", { id: project, forward: "none" });
	});

	it("shows a retired material behind its successor, and goes forward to that", async () => {
		const [old, next] = [await make(server, "Old grade"), await make(server, "New grade", "3.00 g/cm3")];
		await server.must("assign", { id: project, parts: [part], materialId: old });
		expect(await server.refused("manyMaterials", { ids: [old], act: "retire", successor: next })).toBe("in-use");
		const done = await server.must("manyMaterials", { ids: [old], act: "retire", successor: next, inUse: true });
		expect(await server.refused("manyMaterials", { ids: [next], act: "retire", successor: old, inUse: true })).toBe(
			"retired-loop",
		);
		const a = (await server.must("getProject", { id: project })).parts.find((p) => p.id === part)?.assignment;
		expect(a?.behind).toMatchObject({ material: "New grade", revision: 1 });
		await server.must("bringForward", { id: project, parts: [part] });
		const after = (await server.must("getProject", { id: project })).parts.find((p) => p.id === part)?.assignment;
		expect([after?.material, after?.density?.working]).toEqual(["New grade", 3000]);
		await server.must("undo", { event: done.event });
		expect((await server.must("getSheet", { id: old })).row.retired).toBeNull();
	});
});
