import type { PartView, ProjectView } from "@alvek/contract";
import { describe, expect, it } from "vitest";
import { changeWords } from "./changeWords";

type Standing = readonly [id: string, material: string | null, revision?: number, quantity?: number];
const project = (mass: number | null, withMass: number, ...parts: readonly Standing[]) =>
	({
		parts: parts.map(
			([id, material, revision = 1, quantity = 1]) =>
				({
					id,
					name: `Part ${id}`,
					quantity,
					assignment: material === null ? null : { materialId: material, material, revision, draft: false },
				}) as unknown as PartView,
		),
		totals: { mass_kg: mass === null ? null : { mass }, parts: 3, partsWithMass: withMass },
	}) as unknown as Pick<ProjectView, "parts" | "totals">;
const words = (before: ReturnType<typeof project>, after: ReturnType<typeof project>, verb: string | null = null) =>
	changeWords(before, after, verb, "engineering");

describe("the news of a change of materials", () => {
	it("names the part, what it got and what that replaced, with the mass before and after", () => {
		const before = project(1, 2, ["a", "Bronze"], ["b", "Steel"]);
		const { text, pieces, what } = words(before, project(2, 2, ["a", "Iron"], ["b", "Steel"]));
		expect(text).toBe("Part a: Iron, instead of Bronze. 1.000 kg → 2.000 kg");
		expect([pieces, what]).toEqual([1, "Part a: Iron, instead of Bronze"]);
	});

	it("counts several materials that were replaced, and says nothing of parts that had none", () => {
		const before = project(1, 3, ["a", "Bronze", 1, 4], ["b", "Steel"]);
		expect(words(before, project(2, 3, ["a", "Iron", 1, 4], ["b", "Iron"])).text).toContain(
			"5 parts: Iron, instead of 2 others.",
		);
		expect(words(project(1, 3, ["a", null]), project(2, 3, ["a", "Iron"])).text).toContain("Part a: Iron. ");
		// another revision of the same material replaces nothing
		expect(words(project(1, 3, ["a", "Iron", 1]), project(2, 3, ["a", "Iron", 2])).text).toContain("Part a: Iron. ");
	});

	it("says when the two masses do not count the same parts", () => {
		const { text } = words(project(null, 0, ["a", null]), project(2, 1, ["a", "Iron"]));
		expect(text).toBe("Part a: Iron. no mass → 2.000 kg, now 1 of 3 parts, before 0");
		expect(words(project(2, 1, ["a", "Iron"]), project(null, 0, ["a", null]), "material removed").text).toBe(
			"Part a: material removed. 2.000 kg → no mass, now 0 of 3 parts, before 1",
		);
	});

	it("is none where nothing changed", () => {
		const same = project(1, 1, ["a", "Iron"]);
		expect(words(same, same).pieces).toBe(0);
	});
});
