import { describe, expect, it } from "vitest";
import { tableText } from "./copyTable";
import { columnOf, rowWith } from "./testing";
import { wordColumns } from "./wordColumns";

describe("rows on the clipboard", () => {
	const words = wordColumns([
		{ id: "code", unit: null, width: null },
		{ id: "density", unit: null, width: null },
		{ id: "price", unit: null, width: 140 },
		{ id: "review", unit: null, width: null },
	]);
	const plain = rowWith("a", { density: "2.70 g/cm3", youngs_modulus: "68-71 GPa" });
	const priced = {
		...rowWith("b", { density: "7850 kg/m3" }),
		name: "Two\nlines\tand a tab",
		itemCode: "ORS-7",
		reviewAt: "2027-03-01",
	};
	const { document } = priced;
	const rows = [plain, { ...priced, document: { ...document, price: { amount: "4.20", currency: "EUR", date: "2026-11-01" } } }];

	it("hold no cell that a spreadsheet would take for a formula", () => {
		const hostile = { ...plain, name: '=HYPERLINK("http://x")', itemCode: "@SUM(1)" };
		expect(tableText([hostile], words, []).split("\r\n")[1]?.split("\t").slice(0, 3)).toEqual([
			'\'=HYPERLINK("http://x")',
			"own",
			"'@SUM(1)",
		]);
	});

	it("have names, words and units, the digits that were typed, and one line each", () => {
		expect(words.map((w) => [w.id, w.width])).toEqual([
			["code", 104],
			["price", 140],
			["review", 96],
		]);
		const text = tableText(rows, words, [columnOf("density", "g/cm^3"), columnOf("youngs_modulus", "GPa")]);
		expect(text.split("\r\n").map((line) => line.split("\t"))).toEqual([
			["Material", "Library", "Item code", "Price", "Review due", "Density [g/cm^3]", "Young’s modulus [GPa]"],
			["Material a", "own", "", "", "", "2.70", "68 – 71"],
			["Two lines and a tab", "own", "ORS-7", "4.20 EUR/kg", "2027-03-01", "7.85", ""],
		]);
	});
});
