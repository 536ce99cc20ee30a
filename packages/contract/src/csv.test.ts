import { describe, expect, it } from "vitest";
import { csvText } from "./csv";

describe("cells for a spreadsheet", () => {
	it.each([
		["=1+1", "'=1+1"],
		["+1", "'+1"],
		["@SUM(1)", "'@SUM(1)"],
		["-2+3+cmd|' /C calc'!A0", "'-2+3+cmd|' /C calc'!A0"],
		["-A1", "'-A1"],
		[";=1+1", "';=1+1"],
		["  =1+1", "'  =1+1"],
		["＝1+1", "'＝1+1"],
		["＋1", "'＋1"],
		["－1+1", "'－1+1"],
		["＠x", "'＠x"],
	])("%s is text", (cell, text) => expect(csvText([[cell]], "\t")).toBe(text));

	it.each(["-2", "-2.5", "-2,5", "-1e-6", "-1 234.5", "-.5", "2+3", "Rp0.2", "−40 °C", ""])("%s stays what it is", (cell) =>
		expect(csvText([[cell]], "\t")).toBe(cell),
	);

	it("cells are quoted where they would be split", () => expect(csvText([["a,b", 'c"d', "e"]], ",")).toBe('"a,b","c""d",e'));
});
