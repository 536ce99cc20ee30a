import { PATHS } from "@alvek/contract";
import { describe, expect, it } from "vitest";
import { isAffected } from "./mutate";

const questions = Object.entries(PATHS)
	.filter(([name, route]) => route.method === "GET" || /Plan$/.test(name))
	.map(([name]) => name);
const asked = (name: keyof typeof PATHS, ...steps: readonly string[]): readonly string[] =>
	questions.filter((question) => isAffected(name, steps, question)).sort();

describe("what a change asks for again", () => {
	it("a saved draft: what shows drafts", () => {
		expect(asked("saveDraft", "draft.save")).toEqual([
			"findAlike",
			"findColumns",
			"findMaterials",
			"getLibrary",
			"getMaterials",
			"getProject",
			"getSheet",
			"listSteps",
			"publishPlan",
			"search",
		]);
	});

	it("a star or a view is nobody else's, and in no log: only what shows it", () => {
		expect(asked("starMaterial")).toEqual(["findColumns", "findMaterials", "getMaterials", "getSheet", "search"]);
		expect(asked("saveView")).toEqual(["listViews"]);
	});

	it("a request that recorded nothing changed nothing", () => {
		expect(asked("publishDrafts")).toEqual([]);
		expect(asked("assign")).toEqual([]);
	});

	it("several steps together change what any of them does", () => {
		const both = asked("assign", "draft.save", "parts.assign");
		for (const question of [...asked("assign", "draft.save"), ...asked("assign", "parts.assign")])
			expect(both).toContain(question);
		expect(both).not.toContain("listPeople");
	});
});
