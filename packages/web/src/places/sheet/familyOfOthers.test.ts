import type { MaterialRow } from "@alvek/contract";
import { describe, expect, it } from "vitest";
import { familyOfOthers } from "./familyOfOthers";

const row = (id: string, family: string | null) => ({ id, document: { family } }) as unknown as MaterialRow;

describe("the family of a group's other members", () => {
	it("is what more than half of those that say one agree on", () => {
		const rows = [row("me", "glass"), row("a", "metal.steel"), row("b", "metal.steel"), row("c", "metal.copper"), row("d", null)];
		expect(familyOfOthers(rows, "me")).toBe("metal.steel");
		const steels = ["metal.steel", "metal.steel", "metal.steel.electrical.oriented", "metal.stainless"];
		expect(
			familyOfOthers(
				steels.map((f, i) => row(`s${i}`, f)),
				"me",
			),
		).toBe("metal.steel");
		expect(familyOfOthers([row("a", "metal.steel"), row("b", "metal.copper")], "me")).toBe("metal");
	});

	it("is none where they disagree, or nobody says one", () => {
		expect(familyOfOthers([row("a", "metal.steel"), row("b", "wood")], "me")).toBeNull();
		expect(familyOfOthers([row("me", "metal.steel"), row("d", null)], "me")).toBeNull();
		expect(familyOfOthers([], "me")).toBeNull();
	});
});
