import { describe, expect, it } from "vitest";
import { cellsOf, isBlankCell, isMarked } from "./cells";
import { readPage } from "./index";
import { readPrice } from "./price";

/** The pieces that a page is read by, each on its own. */

describe("money per something", () => {
	it.each([
		["9.80 EUR/kg", "9.80", "EUR", "kg"],
		["$4.20 per lb", "4.20", "USD", "lb"],
		["price per kg: 41.75 USD", "41.75", "USD", "kg"],
		["Preis je t = € 1.234,50", "1234.50", "EUR", "t"],
		["12,5 CHF pro m³", "12.5", "CHF", "m3"],
		["GBP 7/piece", "7", "GBP", "piece"],
		["1,234,567.8901 NOK per Mg", "1234567.8901", "NOK", "mg"],
		["1234 SEK/t", "1234", "SEK", "t"],
		["0.5 eur/m2", "0.5", "EUR", "m2"],
	])("%s", (text, amount, currency, per) => {
		const read = readPrice(text, 3);
		expect(read?.price).toEqual({ amount, currency, per, line: 3 });
		expect(text.slice(read?.from, read?.to)).toBe(text);
	});

	it.each(["9.80 EUR", "9.80/kg", "12.34567 EUR/kg", "1.2.3.4 EUR/kg", "12.34.567,8 EUR/kg", "9.80 EUR/kgf", "EUR/kg"])(
		"%s is none",
		(text) => expect(readPrice(text, 1)).toBeNull(),
	);

	it("is asked where a mark may part thousands or decimals, and where another number stands beside it", () => {
		expect(readPrice("9.800 EUR/kg", 1)?.price.question).toBe("is 9.800 a number with decimals (9.8) or with thousands (9800)?");
		expect(readPrice("1,250 EUR/t", 1)?.price.question).toBe("is 1,250 a number with decimals (1.25) or with thousands (1250)?");
		// on a page whose other numbers show their mark there is nothing to ask
		expect(readPrice("1,250 EUR/t", 1, ",")?.price).toMatchObject({ amount: "1.250" });
		expect(readPrice("1,250 EUR/t", 1, ".")?.price).toEqual({ amount: "1250", currency: "EUR", per: "t", line: 1 });
		expect(readPrice("9.80 EUR/kg from 500 kg", 1)?.price.question).toMatch(/^another number/);
		expect(readPrice("9.80 EUR/kg, as agreed", 1)?.price.question).toBeUndefined();
	});
});

describe("cells", () => {
	it.each([
		"",
		" ",
		"-",
		"–",
		"—",
		"---",
		"*",
		"..",
		"n/a",
		"N/A",
		"na",
		"n.a.",
		"n. a.",
		"n / a".replace(" / ", "/"),
		"k. A.",
		"k.A.",
		"nd",
		"n.d.",
	])("“%s” says nothing", (text) => expect(isBlankCell(text)).toBe(true));
	it.each(["0", "a", "n", "k A", "kA", "-1", "no", "nda", "an/a", "n/ab", "n-a"])("“%s” says something", (text) =>
		expect(isBlankCell(text)).toBe(false),
	);

	it.each([
		["a\t\tb", ["a", "", "b"], true],
		["| a | | b |", ["a", "", "b"], true],
		["a | b", ["a", "b"], true],
		["|a", ["|a"], false],
		["Density  7.85 g/cm3", ["Density", "7.85 g/cm3"], false],
		["Density .... 7.85", ["Density", "7.85"], false],
		["Density ... 7.85", ["Density ... 7.85"], false],
		["Density ___ 7.85", ["Density", "7.85"], false],
		["Density …… 7.85", ["Density", "7.85"], false],
		["one cell", ["one cell"], false],
	])("%s", (line, texts, marked) => {
		const cells = cellsOf(line);
		expect(cells.map((c) => c.text)).toEqual(texts);
		for (const { text, from, to } of cells) expect(line.slice(from, to)).toBe(text);
		expect(isMarked(line)).toBe(marked);
	});
});

describe("a table that came with one cell on a line", () => {
	const read = (text: string) => {
		const page = readPage(text);
		if (!page.ok) throw new Error();
		return page.value;
	};
	const values = (text: string) =>
		read(text).taken.map((t) => `${t.property} ${t.text}${t.condition === undefined ? "" : ` @ ${t.condition}`}`);
	const PERIODS = ["Density", "g/cm3", "7.85", "Tensile strength", "MPa", "520", "Hardness", "HB", "150"];

	it("is read as label, unit and value; a standard between them is no label", () => {
		expect(values(PERIODS.join("\n"))).toEqual(["density 7.85 g/cm3", "tensile_strength 520 MPa", "hardness 150 HB"]);
		const cited = PERIODS.flatMap((line) => (line === "MPa" ? ["ISO 6892-1", line] : [line]));
		expect(values(cited.join("\n"))).toEqual(["density 7.85 g/cm3", "tensile_strength 520 MPa", "hardness 150 HB"]);
		// labels and units are parts of a value on another line, so they are not shown as left
		expect(read(PERIODS.join("\n")).left).toEqual([]);
		expect(read(PERIODS.join("\n")).parts).toEqual([1, 2, 4, 5, 7, 8]);
	});

	it("is read column by column: all labels, all units, all values, or values before units", () => {
		const [labels, units, numbers] = [0, 1, 2].map((k) => PERIODS.filter((_, i) => i % 3 === k));
		const expected = ["density 7.85 g/cm3", "tensile_strength 520 MPa", "hardness 150 HB"];
		expect(values([...(labels ?? []), ...(units ?? []), ...(numbers ?? [])].join("\n"))).toEqual(expected);
		expect(values([...(labels ?? []), ...(numbers ?? []), ...(units ?? [])].join("\n"))).toEqual(expected);
	});

	it("two of a kind may be chance and stay; a unit that does not fit its label stops all of it", () => {
		expect(values(PERIODS.slice(0, 6).join("\n"))).toEqual([]);
		expect(values(["Density", "Hardness", "Tensile strength", "MPa", "HB", "g/cm3", "520", "150", "7.85"].join("\n"))).toEqual(
			[],
		);
	});

	it("a condition in a label goes with its value", () => {
		const text = ["Density", "g/cm3", "7.85", "Yield strength at 200 °C", "MPa", "355", "Hardness", "HB", "150"].join("\n");
		expect(values(text)).toContain("yield_strength 355 MPa @ 200 °C");
	});
});
