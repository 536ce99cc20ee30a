import { describe, expect, it } from "vitest";
import { describeIssue } from "./index";

describe("sentences", () => {
	it("are made from the facts, with what to do", () => {
		expect(describeIssue({ code: "out-of-bounds", actual: "-2 kg/m3 = -2 kg/m^3", expected: "above 0", unit: "kg/m^3" })).toBe(
			"-2 kg/m3 = -2 kg/m^3 is impossible here; it must be above 0 kg/m^3.",
		);
		expect(describeIssue({ code: "unknown-unit", actual: "gpa", choices: ["GPa"] })).toContain("did you mean GPa?");
	});

	it("exist for codes that nobody wrote one for, and for names of the prototype", () => {
		expect(describeIssue({ code: "odd-thing", path: "x", actual: 3, expected: "4" })).toBe("x: odd thing (3), expected 4.");
		expect(describeIssue({ code: "constructor" })).toBe("constructor.");
	});
});
