import { describe, expect, it } from "vitest";
import type { OwnProperty } from "../property";
import { factsOf } from "../table";
import { BLANK, decodeOwnUse, type Material, makeValue, type OwnUse, readiness } from "./index";
import { material, must, number } from "./testing";

const WEAR: OwnUse = { uid: "wear", name: "wear on sand", needs: ["density", "hardness"], file: null, off: false };
const INDEX: OwnProperty = {
	uid: "abrasion",
	name: "Abrasion index",
	symbol: "I",
	siUnit: "m^2",
	unit: "mm^3/m",
	low: 0,
	high: null,
	explanation: "",
};
const stateOf = (m: Material, use: OwnUse, own: readonly OwnProperty[] = []) =>
	readiness(m, [], own, [use]).find((r) => r.use === `own:${use.uid}`);
const withFile = (m: Material, name: string, purpose: "test-report" | "other"): Material => ({
	...m,
	attachments: {
		a: { name, purpose, note: "", format: "PDF", hash: "0".repeat(64), bytes: 1, version: 1, date: "2026-12-01" },
	},
});

describe("a use of a library's own", () => {
	it("is ready where each of its entries is usable, with the doubts of what it relies on", () => {
		const both = material(number("density", "7.8 g/cm3"), number("hardness", "200 HB"));
		expect(stateOf(both, WEAR)).toEqual({ use: "own:wear", name: "wear on sand", state: "ready", missing: [], doubts: [] });
		expect(stateOf(material(number("density", "7.8 g/cm3")), WEAR)).toMatchObject({
			state: "not-ready",
			missing: [["hardness"]],
		});
		const guessed = material(number("density", "7.8 g/cm3", { evidence: "estimated" }), number("hardness", "200 HB"));
		expect(stateOf(guessed, WEAR)).toMatchObject({ state: "doubts", doubts: ["density is estimated"] });
	});

	it("asks for a property of the library by its name, and for curves and models like the built-in ones", () => {
		const use = { ...WEAR, needs: ["own:abrasion", "creep_model"] };
		expect(stateOf(BLANK, use, [INDEX])).toMatchObject({
			state: "not-ready",
			missing: [["creep_model"]],
			doubts: ["Abrasion index is missing"],
		});
		const value = must(makeValue("own:abrasion", "0.4 mm^3/m", {}, { evidence: "measured", own: INDEX }));
		expect(stateOf(material(value), { ...use, needs: ["own:abrasion"] }, [INDEX])?.state).toBe("ready");
	});

	it("asks for a file by its purpose and the ending of its name, whatever its case", () => {
		const use: OwnUse = { ...WEAR, needs: [], file: { purpose: "test-report", ending: "pdf" } };
		expect(stateOf(BLANK, use)).toMatchObject({
			state: "not-ready",
			doubts: ["no test report that ends in .pdf is attached"],
		});
		expect(stateOf(withFile(BLANK, "Wear 12.PDF", "test-report"), use)?.state).toBe("ready");
		for (const [name, purpose] of [
			["wear.csv", "test-report"],
			["wear.pdf", "other"],
			["wearpdf", "test-report"],
		] as const)
			expect(stateOf(withFile(BLANK, name, purpose), use)?.state).toBe("not-ready");
		const any = { ...use, file: { purpose: "test-report", ending: "" } } as const;
		expect(stateOf(withFile(BLANK, "wear.csv", "test-report"), any)?.state).toBe("ready");
	});

	it("comes after the built-in ones, is counted by the filter, and is left out once it is put away", () => {
		const both = material(number("density", "7.8 g/cm3"), number("hardness", "200 HB"));
		expect(
			readiness(both, [], [], [WEAR])
				.map((r) => r.use)
				.at(-1),
		).toBe("own:wear");
		expect(factsOf(both, [], [WEAR]).ready).toContain("own:wear");
		expect(factsOf(BLANK, [], [WEAR]).ready).not.toContain("own:wear");
		expect(stateOf(both, { ...WEAR, off: true })).toBeUndefined();
	});
});

describe("the content of an own use", () => {
	it("is kept as it is, cleaned", () => {
		const input = { uid: "a", name: " wear ", needs: ["density", "density"], file: { purpose: "drawing", ending: "DXF" } };
		expect(must(decodeOwnUse(input))).toEqual({
			uid: "a",
			name: "wear",
			needs: ["density"],
			file: { purpose: "drawing", ending: "dxf" },
			off: false,
		});
	});

	it.each([
		[{ ...WEAR, uid: "../x" }, "bad-key"],
		[{ ...WEAR, name: " " }, "name-missing"],
		[{ ...WEAR, name: "x".repeat(61) }, "name-missing"],
		[{ ...WEAR, needs: [] }, "empty"],
		[{ ...WEAR, needs: ["densty"] }, "unknown-choice"],
		[{ ...WEAR, needs: [7] }, "wrong-type"],
		[{ ...WEAR, needs: Array(41).fill("density") }, "wrong-type"],
		[{ ...WEAR, file: { purpose: "virus", ending: "" } }, "unknown-choice"],
		[{ ...WEAR, file: { purpose: "drawing", ending: "../x" } }, "wrong-type"],
		[{ ...WEAR, more: 1 }, "unknown-key"],
		[{ ...WEAR, off: "yes" }, "wrong-type"],
		[null, "wrong-type"],
	])("%o is refused", (input, code) => {
		const read = decodeOwnUse(input);
		expect(read.ok ? "ok" : read.issues[0]?.code).toBe(code);
	});
});
