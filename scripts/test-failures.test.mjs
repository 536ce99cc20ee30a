import { describe, expect, it } from "vitest";
import { browserFailures, describeFailures, unitFailures } from "./test-failures.mjs";

describe("what went wrong in a run", () => {
	it("names failed tests of Vitest, and a file that failed outside its tests", () => {
		const passed = { status: "passed", fullName: "fine", failureMessages: [] };
		const failed = { status: "failed", fullName: "adds up", failureMessages: ["expected 1 to be 2"] };
		const report = {
			testResults: [
				{ name: "/a", status: "passed", assertionResults: [passed] },
				{ name: "/b", status: "failed", assertionResults: [passed, failed] },
				{ name: "/c", status: "failed", message: "cannot be read", assertionResults: [passed] },
			],
		};
		expect(unitFailures(report)).toEqual([
			{ file: "/b", name: "adds up", message: "expected 1 to be 2" },
			{ file: "/c", name: "(the file itself)", message: "cannot be read" },
		]);
	});

	it("names failed tests of Playwright in every group, and tells those that passed when tried again", () => {
		const spec = (title, status) => ({ title, tests: [{ status, results: [{ error: { message: `${title}!` } }, {}] }] });
		const suites = [
			{
				file: "x.spec.ts",
				specs: [spec("one", "unexpected"), spec("two", "expected")],
				suites: [{ file: "x.spec.ts", specs: [spec("three", "flaky")] }],
			},
		];
		expect(browserFailures(suites)).toEqual([
			{ file: "x.spec.ts", name: "one", message: "one!", again: false },
			{ file: "x.spec.ts", name: "three", message: "three!", again: true },
		]);
	});

	it("says first what stays failed, only the beginning of a message, and no colours", () => {
		const long = Array.from({ length: 30 }, (_, i) => `line ${i}.`).join("\n");
		const text = describeFailures([
			{ file: "b", name: "second", message: "", again: true },
			{ file: "a", name: "first", message: `\u001b[31m${long}\u001b[39m`, again: false },
		]);
		expect(text.indexOf("a > first")).toBeLessThan(text.indexOf("needed a second try"));
		expect(text.indexOf("b > second")).toBeGreaterThan(text.indexOf("needed a second try"));
		expect(text).toContain("      line 11.");
		expect(text).not.toContain("line 12.");
		expect(text).not.toContain("\u001b");
		expect(describeFailures([])).toBe("");
	});
});
