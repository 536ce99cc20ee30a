import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { sheetsIn } from "../../../../fixtures/sheets";
import { makeValue } from "../material";
import { formById, property } from "../property";
import { readEntry, readPage } from "./index";
import { brokenPromise, type ExpectedPage, scorePage } from "./testing";

const SHEETS = sheetsIn("sheets", "sheets-new", "sheets-later", "sheets-last", "sheets-unseen");

/** Heads in capitals with a quantity in one of them: nothing of it is taken, and nothing wrongly. */
const LEFT_WHOLE = "g4-cert-us.txt";

describe("pages of suppliers", () => {
	it.each(SHEETS)("$name: nothing wrong, lost or invented", ({ name, text, answers }) => {
		const read = readPage(text);
		if (!read.ok) throw new Error();
		const expected = JSON.parse(readFileSync(answers, "utf8")) as ExpectedPage;
		const { score, notes } = scorePage(read.value, expected);
		expect([score.wrong, score.lost, score.invented], notes.join("\n")).toEqual([0, 0, 0]);
		if (name !== LEFT_WHOLE) expect(score.right + score.asked, notes.join("\n")).toBeGreaterThanOrEqual(0.85 * score.values);
		expect(brokenPromise(read.value)).toBeNull();
	});

	it("every value that is proposed is read the same by its field", () => {
		for (const { name, text } of SHEETS) {
			const read = readPage(text);
			if (!read.ok) throw new Error();
			for (const t of read.value.taken) {
				const made = makeValue(t.property, t.text, t.mark === undefined ? {} : { decimalMark: t.mark });
				expect(made.ok && [made.value.low, made.value.high], `${name} line ${t.line} ${t.text}`).toEqual([t.low, t.high]);
				if (t.working !== undefined)
					expect(makeValue(t.property, t.working, { decimalMark: t.mark ?? "." }).ok, t.working).toBe(true);
			}
			for (const c of read.value.curves) expect(formById(c.property)?.kind).toBe("curve");
			for (const t of read.value.tables) expect(property(t.property).id).toBe(t.property);
		}
	});
});

describe("no number of a line disappears", () => {
	it("a second value, a minimum or a neighbour's condition is taken, asked or left in sight", () => {
		const fates = (text: string): readonly string[] => {
			const read = readPage(text);
			if (!read.ok) throw new Error();
			return read.value.numbers.map((n) => `${read.value.lines[n.line - 1]?.slice(n.from, n.to)} ${n.fate}`);
		};
		expect(fates("Tensile strength 520 MPa 680 MPa")).toEqual(["520 asked", "680 asked"]);
		expect(fates("Property\tMin\tTyp\tUnit\nTensile strength\t520\t600\tMPa")).toEqual(["520 value", "600 value"]);
		expect(fates("Density 7.85 g/cm3   Yield strength at 200 °C 355 MPa")).toEqual([
			"7 value",
			"85 value",
			"3 value",
			"200 condition",
			"355 value",
		]);
		const neighbours = readPage("Density 7.85 g/cm3   Yield strength at 200 °C 355 MPa");
		expect(neighbours.ok && neighbours.value.taken.map((t) => t.condition)).toEqual([undefined, "200 °C"]);
		const price = readPage("Price 9.80 EUR/kg from 500 kg, 8.90 EUR/kg from 2000 kg");
		expect(price.ok && price.value.price).toMatchObject({ amount: "9.80", question: expect.any(String) });
	});
});

describe("a sign, a unit or a limit is never lost", () => {
	it.each([
		["Lowest service temperature −30 °C", "service_temperature_min", 243.15, 243.15],
		["Bending strength 22…32 MPa", "flexural_strength", 22e6, 32e6],
		["Thermal expansion 12 10⁻⁶1/K", "thermal_expansion", 12e-6, 12e-6],
		["Melting point 180 °C ± 5 K", "melting_temperature", 448.15, 458.15],
		["Young's modulus 210 GPa ± 4000 MPa", "youngs_modulus", 206e9, 214e9],
		["Density (ISO 1183) 1.05 g/cm3", "density", 1050, 1050],
		["Maximum energy product 287 kJ/m³", "energy_product", 287e3, 287e3],
	])("%s", (text, id, low, high) => {
		const read = readPage(text);
		if (!read.ok) throw new Error();
		const [t] = read.value.taken;
		expect([t?.property, t?.low, t?.high]).toEqual([id, expect.closeTo(low, 9), expect.closeTo(high, 9)]);
	});

	it("a dash and a blank before a number that may be negative is asked", () => {
		const read = readPage("Lowest service temperature: – 30 °C\nDensity – 7.85 g/cm³");
		expect(read.ok && read.value.asks.map((a) => a.choices.map((c) => c.text))).toEqual([["-30 °C", "30 °C"]]);
		expect(read.ok && read.value.taken.map((t) => t.low)).toEqual([7850]);
	});

	it("words that no property knows veto the bare head", () => {
		for (const text of [
			"Tear strength 8.1 N/mm²",
			"Compressive modulus 90 MPa",
			"Module à 100 % : 3,9 MPa",
			"Kugeldruckhärte 145 N/mm²",
			"Softening temperature 151 °C",
			"Densità: 1,13 g/cm³",
			"Change of tensile strength 12 %",
			"Initial permeability 20000",
			"Max. permeability 80 000",
		]) {
			const read = readPage(text);
			expect(read.ok && [read.value.taken, read.value.asks], text).toEqual([[], []]);
		}
	});
});

describe("the one-line entry", () => {
	it("knows every symbol that the sheet shows", async () => {
		const { PROPERTIES } = await import("../property");
		const unknown: string[] = [];
		for (const spec of PROPERTIES) {
			for (const symbol of new Set([spec.symbol, ...(spec.qualifiers ?? []).map((q) => q.symbol)])) {
				if (symbol === "" || spec.scales === true) continue;
				for (const written of [symbol, symbol.replace("_", "")]) {
					const digits =
						spec.max !== undefined && spec.max < 1
							? String(spec.max / 10)
							: spec.min !== undefined && spec.min >= 1
								? "2"
								: "0.5";
					const { taken } = readEntry(
						`${written} ${digits} ${spec.units.base === "1" ? "" : spec.units.base}`,
						(id) => property(id).units.base,
					);
					if (!taken.some((t) => t.property === spec.id || spec.symbol === property(t.property).symbol))
						unknown.push(`${spec.id}: ${written}`);
				}
			}
		}
		expect(unknown).toEqual([]);
	});

	it("tells a viscosity from a loss factor by its dimension", () => {
		const first = (text: string) => {
			const { taken } = readEntry(text, (id) => property(id).units.base);
			return [taken[0]?.property, taken[0]?.text];
		};
		expect(first("η 0.02")).toEqual(["loss_factor", "0.02"]);
		expect(first("η 1.0016 mPa s")).toEqual(["viscosity", "1.0016 mPa s"]);
		expect(first("dynamic viscosity 32 cP")).toEqual(["viscosity", "32 cP"]);
		// another quantity of the same name: nothing is taken for it
		for (const text of ["kinematic viscosity 32 mm2/s", "viscosity number 150 ml/g"]) {
			expect(readEntry(text, (id) => property(id).units.base).taken, text).toEqual([]);
		}
	});

	it("says per refused piece what was not understood, and keeps the rest; takes a price", () => {
		const entry = readEntry(
			"rho 2.71 g/cm3; E 5 kg; colour red; A80 14 %; 4.20 EUR/kg; Rm 1041, 1052, 1060 MPa",
			() => undefined,
		);
		expect(entry.taken.map((t) => [t.property, t.qualifier])).toEqual([
			["density", undefined],
			["elongation", "A80mm"],
			["tensile_strength", undefined],
		]);
		expect(entry.taken[2]?.readings?.map((r) => r.si)).toEqual([1041e6, 1052e6, 1060e6]);
		expect(entry.left.map((l) => l.why)).toEqual(["“kg” is no unit of it", "no property of this name"]);
		expect(entry.prices).toEqual([{ amount: "4.20", currency: "EUR" }]);
	});

	it("asks a bare number whose size only fits the base unit, as the field does", () => {
		const entry = readEntry("alpha 18e-6", () => "10^-6/K");
		expect(entry.taken).toEqual([]);
		expect(entry.asks[0]?.choices.map((c) => c.text)).toEqual(["18e-6 10^-6/K", "18e-6 /K"]);
	});
});
