import type { LiveEvent } from "@alvek/contract";
import { describe, expect, it } from "vitest";
import { concerns, inWords, isQuiet, type OnScreen } from "./about";

const event = (action: string, more: Partial<LiveEvent> = {}): LiveEvent => ({
	seq: 1,
	at: "2026-11-26T00:00:00.000Z",
	by: { id: "okke", name: "Okke Brandt" },
	action,
	kind: action.startsWith("project") || action.startsWith("parts") ? "project" : "material",
	subject: "m1",
	name: "Gudgeon bronze 5",
	place: "orrisay",
	revision: null,
	tab: null,
	...more,
});
const shown = (name: string, input: Record<string, unknown>, data: unknown = null): OnScreen => ({ name, input, data });

describe("what happened, in one line", () => {
	it.each([
		[event("material.publish", { revision: 5 }), "Revision 5 of Gudgeon bronze 5 is out (Okke Brandt)."],
		[event("draft.save"), "Okke Brandt is drafting Gudgeon bronze 5 too."],
		[event("undo material.retire"), "A step on Gudgeon bronze 5 was taken back (Okke Brandt)."],
		[event("parts.assign", { name: "Winch" }), "Parts of Winch got other materials (Okke Brandt)."],
		[event("material.change"), "Gudgeon bronze 5 was changed (Okke Brandt)."],
	])("%#", (happened, words) => expect(inWords(happened, "maren")).toBe(words));

	it("one's own other window is not called by one's name", () =>
		expect(inWords(event("draft.save"), "okke")).toBe("Another window of yours is drafting Gudgeon bronze 5 too."));
});

describe("what on screen it concerns", () => {
	const publish = event("material.publish");
	it.each([
		["its own sheet", shown("getSheet", { id: "m1" }), true],
		["another sheet", shown("getSheet", { id: "m2" }), false],
		["a list of materials", shown("findMaterials", {}), true],
		["a comparison with it", shown("getMaterials", { ids: "m0,m1" }), true],
		["a comparison without", shown("getMaterials", { ids: "m0,m2" }), false],
		["a project whose parts stand on it", shown("getProject", { id: "p" }, { parts: [{ material: { id: "m1" } }] }), true],
		["a project that does not know it", shown("getProject", { id: "p" }, { parts: [] }), false],
		["people", shown("listPeople", {}), false],
	])("a publish: %s", (_what, on, expected) => expect(concerns(publish, on)).toBe(expected));

	it("a step concerns only what is of its kind, and a project those who look at it", () => {
		const on = (happened: ReturnType<typeof event>, name: string, id: string) => concerns(happened, shown(name, { id }));
		const assigned = event("parts.assign", { subject: "p1" });
		expect([on(assigned, "getProject", "p1"), on(assigned, "getProject", "p2"), on(assigned, "getSheet", "p1")]).toEqual([
			true,
			false,
			false,
		]);
		expect([
			on(assigned, "getProjectRevision", "p1"),
			on(publish, "getRevision", "m1"),
			on(publish, "getRevision", "m2"),
		]).toEqual([true, true, false]);
		const frozen = event("library.freeze", { kind: "library", subject: "orrisay" });
		expect(concerns(frozen, shown("findMaterials", {}))).toBe(true);
		expect(concerns(assigned, shown("findMaterials", {}))).toBe(false);
		expect([on(publish, "compareEditions", "orrisay"), on(publish, "compareEditions", "tolvane")]).toEqual([true, false]);
		expect(concerns(event("draft.save"), shown("getProject", { id: "m1" }))).toBe(false);
	});

	it("somebody's draft concerns the sheet, and no list", () => {
		expect(concerns(event("draft.save"), shown("getSheet", { id: "m1" }))).toBe(true);
		expect(concerns(event("draft.save"), shown("findMaterials", {}))).toBe(false);
		expect(concerns(event("draft.save"), shown("getMaterials", { ids: "m1" }))).toBe(false);
	});

	it("locks, roles and groups change no number; publishes, assignments and retirings do", () => {
		for (const action of ["lock.open", "undo library.share", "group.move", "publish.propose", "project.share", "working.on"])
			expect([action, isQuiet(event(action))]).toEqual([action, true]);
		for (const action of [
			"material.publish",
			"undo parts.assign",
			"materials.retire",
			"project.import",
			"library.take",
			"draft.save",
		])
			expect([action, isQuiet(event(action))]).toEqual([action, false]);
	});
});
