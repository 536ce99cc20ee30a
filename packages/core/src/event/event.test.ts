import { describe, expect, it } from "vitest";
import { ACTIONS } from "../rights";
import { actionsOf, changesAnswer, EVENT_ACTIONS, EVENTS, eventRow, needsOfUndo, QUIET_ACTIONS, stepOf } from "./index";

describe("the catalogue of steps", () => {
	it("every row names a right that exists, and says itself without facts", () => {
		for (const action of EVENT_ACTIONS) {
			const row = eventRow(action);
			expect(ACTIONS, action).toContain(row?.needs.right);
			expect(row?.say({}, new Map()), action).not.toBe("");
		}
	});

	it("an own right never asks less of the way back than of the way there, where both are about what is published", () => {
		// a copy that waits for a second person was never published: its author takes it away without the lock
		for (const action of EVENT_ACTIONS.filter((a) => eventRow(a)?.needs.lock === "always"))
			expect([action, needsOfUndo(action)?.lock]).toEqual([action, /\.copy$/.test(action) ? "placed" : "always"]);
	});

	it("taking back is told apart from doing again, however often", () => {
		expect(stepOf("undo undo material.copy")).toEqual({ step: "material.copy", times: 2 });
		// taking a copy away needs no second person; bringing it back does
		expect(needsOfUndo("material.copy")?.approval).toBe(false);
		expect(needsOfUndo("undo material.copy")?.approval).toBe(true);
		expect(needsOfUndo("undo undo material.copy")?.approval).toBe(false);
		// deleting a project is its owner's, beginning one is everybody's
		expect(needsOfUndo("project.create")?.right).toBe("project.remove");
	});

	it("roles are given back only by who may give them", () => {
		for (const action of EVENT_ACTIONS.filter((a) => /^(library|set)\.(un)?share$/.test(a)))
			expect([action, needsOfUndo(action)?.right]).toEqual([action, "library.steward"]);
		for (const action of ["project.share", "project.unshare"])
			expect([action, needsOfUndo(action)?.right]).toEqual([action, "project.share"]);
	});

	it("a step that no row knows has nothing", () => {
		for (const name of ["", "constructor", "toString", "material.unknown", "undo "]) expect(eventRow(name)).toBeNull();
	});

	it("drafts are heard by editors, are nobody else's to take back, and stay out of lists", () => {
		for (const action of ["draft.save", "drafts.save", "draft.discard", "draft.rebase"] as const)
			expect([EVENTS[action].heard, EVENTS[action].own]).toEqual(["editors", true]);
		expect(QUIET_ACTIONS).toEqual(["draft.save", "drafts.save", "lock.close"]);
		expect(actionsOf("rights")).toContain("lock.open");
	});

	it("what a step may have changed is asked again, and nothing else; what no row knows changes everything", () => {
		const asked = (action: string): readonly string[] =>
			["findMaterials", "getSheet", "getProject", "listLibraries", "history", "listNotices", "listPeople", "listViews"].filter(
				(question) => changesAnswer(action, question),
			);
		expect(asked("draft.save")).toEqual(["findMaterials", "getSheet", "getProject"]);
		expect(asked("undo parts.assign")).toEqual(["getSheet", "getProject", "history"]);
		expect(asked("material.publish")).toEqual([
			"findMaterials",
			"getSheet",
			"getProject",
			"listLibraries",
			"history",
			"listNotices",
		]);
		// a role that was given changes what may be seen anywhere
		expect(asked("library.share")).toHaveLength(8);
		expect(asked("material.unknown")).toHaveLength(8);
	});
});
