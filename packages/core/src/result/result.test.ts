import { describe, expect, it } from "vitest";
import { describeIssue, type Issue } from "./index";
import { SENTENCES } from "./sentences.data";

describe("sentences", () => {
	it("are made from the facts, with what to do", () => {
		expect(describeIssue({ code: "out-of-bounds", actual: "-2 kg/m3 = -2 kg/m^3", expected: "above 0", unit: "kg/m^3" })).toBe(
			"-2 kg/m3 = -2 kg/m^3 is impossible here; it must be above 0 kg/m^3.",
		);
		expect(describeIssue({ code: "unknown-unit", actual: "gpa", choices: ["GPa"] })).toContain("did you mean GPa?");
	});

	it("are said of codes that only a newer server knows, and of names of the prototype", () => {
		const told = (issue: object): string => describeIssue(issue as Issue);
		expect(told({ code: "odd-thing", path: "x", actual: 3, expected: "4" })).toBe("x: odd thing (3), expected 4.");
		expect(told({ code: "constructor" })).toBe("constructor.");
	});

	it("are whole for every code, with all of its facts and with none", () => {
		const facts = { path: "where", line: 7, actual: "what", expected: "wanted", unit: "kg", choices: ["one", "two"] };
		for (const [code, say] of Object.entries(SENTENCES)) {
			for (const given of [facts, {}]) {
				const sentence = (say as (given: object) => string)(given);
				expect(sentence, code).toMatch(/^[\p{L}“].*[.?]$/su);
				expect(sentence, code).not.toContain("[object");
			}
			expect((say as (given: object) => string)(facts), code).not.toContain("undefined");
		}
	});
});
