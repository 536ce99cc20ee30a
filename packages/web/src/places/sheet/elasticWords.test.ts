import { describe, expect, it } from "vitest";
import { elasticInWords } from "./elasticWords";

describe("what analyses take the elasticity from", () => {
	it("is said with its reason and, where there is a choice, with the way to it", () => {
		const alone = { from: "set", missing: [], stated: [] } as const;
		expect(elasticInWords(alone, true)).toBe("Analyses work with this set.");
		expect(elasticInWords(alone, false)).toContain("by itself, as it is complete and none of E, ν, G, K is given");
		const beside = { from: "constants", missing: [], stated: ["youngs_modulus", "poissons_ratio"] } as const;
		expect(elasticInWords(beside, false)).toBe("Analyses work with E and ν; tick here to use the set instead.");
		const begun = { from: "constants", missing: ["E3", "nu23"], stated: [] } as const;
		expect(elasticInWords(begun, false)).toBe(
			"Missing for its symmetry: E3, ν23. Once it is complete, analyses work with it by itself.",
		);
		expect(elasticInWords({ ...begun, from: "set" }, true)).toContain("Analyses wait for it.");
	});
});
