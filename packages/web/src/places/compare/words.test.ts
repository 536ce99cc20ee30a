import { compareRows } from "@alvek/core/compare";
import { ALONE, judge } from "@alvek/core/judge";
import { BLANK, type Material, type MaterialValue, makeSeries, makeValue } from "@alvek/core/material";
import { describe, expect, it } from "vitest";
import type { Column } from "./useCompared";
import { axisOf, compareTable, differenceText, entryText, trustSentences, unitText } from "./words";

const NO_MONEY = { currency: null, rates: [] } as never;

function value(property: string, text: string, extra: Partial<MaterialValue> = {}): MaterialValue {
	const made = makeValue(property, text, {}, { evidence: "measured", ...extra } as never);
	if (!made.ok) throw new Error(`${text}: ${JSON.stringify(made.issues)}`);
	return made.value;
}

function material(...values: MaterialValue[]): Material {
	return { ...BLANK, values: Object.fromEntries(values.map((v) => [v.id, v])) };
}

function columns(...sides: readonly (readonly [name: string, document: Material])[]): readonly Column[] {
	return sides.map(([name, document], i) => ({
		key: `k${i}`,
		materialId: `m${i}`,
		name,
		revision: i + 1,
		draft: false,
		material: document,
		readiness: judge(document, ALONE).readiness,
		present: i === 0,
	}));
}

function compared(...sides: readonly (readonly [name: string, document: Material])[]) {
	const all = columns(...sides);
	const rows = compareRows(
		all.map((c) => ({ id: c.key, name: c.name, material: c.material })),
		[],
		NO_MONEY,
	);
	const row = (id: string) => {
		const found = rows.find((r) => r.id === id);
		if (found === undefined) throw new Error(id);
		return found;
	};
	return { all, rows, row };
}

const BRONZE = material(
	value("density", "8.80 g/cm3"),
	value("youngs_modulus", "98-107 GPa"),
	value("tensile_strength", ">= 262 MPa", { basis: "guaranteed-minimum" }),
	value("solidus_temperature", "900 °C"),
);
const ply = (E2: string): MaterialValue => {
	const number = (text: string) => {
		const made = makeValue("youngs_modulus", text);
		if (!made.ok) throw new Error(text);
		const { entered, low, high } = made.value;
		return { entered, low, high };
	};
	const components = { E1: number("135 GPa"), E2: number(E2) };
	return {
		id: "elastic_set",
		property: "elastic_set",
		kind: "set",
		symmetry: "orthotropic",
		axes: ["1", "2", "3"],
		components,
	} as never;
};
const ALLOY = material(
	value("density", "2.70 g/cm3", { basis: "typical" }),
	value("youngs_modulus", "70 GPa", { evidence: "estimated" }),
	value("tensile_strength", "310 MPa", { basis: "typical" }),
	value("solidus_temperature", "640 °C"),
);

describe("what a comparison says", () => {
	const { all, rows, row } = compared(["Bronze", BRONZE], ["Alloy", ALLOY]);
	const said = (id: string, of = "present"): string => {
		const r = row(id);
		return differenceText([r.entries[1] as never, r.entries[0]], r, of, "engineering");
	};

	it("shows what was typed, in the unit of the set, with open ends", () => {
		const shown = (id: string) => row(id).entries.map((e) => entryText(e, row(id), "engineering"));
		expect(shown("density")).toEqual(["8.80", "2.70"]);
		expect(shown("youngs_modulus")).toEqual(["98–107", "70"]);
		expect(shown("tensile_strength")[0]).toMatch(/^≥.?262$/);
		expect(unitText(row("density"), "engineering")).toBe("g/cm³");
	});

	it("tells by how much in the words of the property", () => {
		// 2.70 / 8.80 = 0.3068: 69 % less
		expect(said("density")).toBe("69 % lighter");
		// 70 / 102.5 = 0.683
		expect(said("youngs_modulus")).toBe("32 % less stiff");
		// a share of a temperature means nothing, so it is told in degrees
		expect(said("solidus_temperature")).toBe("−260 °C");
	});

	it("names what can be trusted less, and bases that do not go together", () => {
		const sentences = trustSentences(all, rows);
		expect(sentences).toContain("Alloy: E estimated.");
		expect(sentences.find((s) => s.startsWith("Tensile strength:"))).toBe(
			"Tensile strength: guaranteed minimum for Bronze, typical for Alloy.",
		);
	});

	it("goes into a spreadsheet with both ends, plain digits and the unit", () => {
		const table = compareTable(all, rows, "engineering");
		expect(table[0]?.slice(0, 4)).toEqual(["Property", "Unit", "Bronze, rev 1: low", "Bronze, rev 1: high"]);
		const line = (name: string) => table.find((l) => l[0] === name);
		expect(line("Young’s modulus")?.slice(1, 5)).toEqual(["GPa", "98", "107", "102.5"]);
		expect(line("Tensile strength")?.slice(2, 4)).toEqual(["262", ""]);
		for (const l of table) expect(l).toHaveLength(table[0]?.length ?? 0);
		// nothing that a spreadsheet would not take for a number
		for (const l of table.slice(1))
			for (const cell of [...l.slice(2, 5), ...l.slice(7, 10)]) expect(cell).not.toMatch(/[\u2009\u2212]/);
	});

	it("places numbers between zero and the largest, in step with them", () => {
		const { at, low, high } = axisOf(row("density"), "engineering");
		expect(low).toBe(0);
		expect(high).toBeCloseTo(8.8 * 1.08, 9);
		expect(at(8800) / at(2700)).toBeCloseTo(8.8 / 2.7, 9);
		expect([at(-1), at(1e6)]).toEqual([0, 1]);
	});
});

describe("numbers that only some hold", () => {
	it("are blank for the others; marks are words; a table gives its number at 20 °C", () => {
		const made = makeSeries(
			{ id: "youngs_modulus", property: "youngs_modulus", evidence: "measured" },
			{
				kind: "table",
				columns: [
					{ of: "temperature", unit: "°C", cells: ["0", "40"] },
					{ of: "value", unit: "GPa", cells: ["100", "90"] },
				],
				interpolation: "linear",
			},
		);
		if (!made.ok) throw new Error();
		const { row, all, rows } = compared(
			["Table", material(made.value)],
			["Mark", material({ id: "youngs_modulus", property: "youngs_modulus", kind: "unknown" })],
			["Blank", BLANK],
		);
		// the middle of 0 and 40 °C
		expect(row("youngs_modulus").entries.map((e) => entryText(e, row("youngs_modulus"), "engineering"))).toEqual([
			"95",
			"unknown",
			"blank",
		]);
		const line = compareTable(all, rows, "engineering").find((l) => l[0] === "Young’s modulus");
		expect(line?.[5]).toBe("measured, at 20 °C");
	});

	it("of a directional set stand along and across, an open one by its end", () => {
		const texts = (E2: string): readonly (string | undefined)[] => {
			const { row, all, rows } = compared(["Ply", material(ply(E2))], ["Blank", BLANK]);
			const lines = compareTable(all, rows, "engineering").filter((l) => l[0]?.startsWith("Young’s modulus"));
			return [
				entryText(row("youngs_modulus").entries[0] as never, row("youngs_modulus"), "engineering"),
				...lines.map((l) => l[4]),
			];
		};
		expect(texts("8.6 GPa")).toEqual(["135 along, 8.6 across", "135", "8.6"]);
		expect(texts(">= 8 GPa")[0]).toBe("135 along, 8 across");
	});

	it("of two revisions of one material are told apart by their number", () => {
		const estimated = material(value("density", "2.7 g/cm3", { evidence: "estimated" }));
		const { all, rows } = compared(["Same", estimated], ["Same", BRONZE]);
		expect(trustSentences(all, rows)).toContain("Same (rev 1): ρ estimated.");
	});
});

describe("more than two, and other kinds of rows", () => {
	const times = (text: string, other: string): string => {
		const { row } = compared(["A", material(value("youngs_modulus", text))], ["B", material(value("youngs_modulus", other))]);
		const r = row("youngs_modulus");
		return differenceText([r.entries[1] as never, r.entries[0]], r, "present", "engineering");
	};

	it("differences are shares, multiples, nothing, or ranges that meet", () => {
		expect([times("100 GPa", "250 GPa"), times("100 GPa", "100 GPa"), times("95-110 GPa", "100-115 GPa")]).toEqual([
			"2.5 × present",
			"the same",
			"ranges meet",
		]);
		expect(times("100 GPa", "100.4 GPa")).toMatch(/^0\.4 % /);
		expect(times("100 GPa", "130 GPa")).toMatch(/^30 % /);
	});

	it("beside a blank there is no difference", () => {
		const { row } = compared(["A", BRONZE], ["B", BLANK]);
		const r = row("density");
		expect(differenceText([r.entries[1] as never, r.entries[0]], r, "present", "engineering")).toBe("");
		expect(differenceText([r.entries[0] as never, r.entries[1]], r, "present", "engineering")).toBe("");
		expect(differenceText([r.entries[0] as never, undefined], r, "present", "engineering")).toBe("");
	});

	it("what is carried over and what has no evidence is named, at most six by name", () => {
		const bare = (property: string, text: string) => value(property, text, { evidence: undefined });
		const many = material(
			bare("density", "2.7 g/cm3"),
			bare("youngs_modulus", "70 GPa"),
			bare("poissons_ratio", "0.33"),
			bare("yield_strength", "200 MPa"),
			bare("tensile_strength", "260 MPa"),
			bare("thermal_conductivity", "150 W/(m K)"),
			bare("specific_heat", "900 J/(kg K)"),
		);
		const { all, rows } = compared(["A", BRONZE], ["Bare", many]);
		const said = trustSentences(all, rows).find((s) => s.startsWith("Bare:") && s.endsWith("without evidence."));
		expect(said).toMatch(/ and 2 more without evidence\.$/);
		const carried = material(
			value("density", "2.7 g/cm3", { carried: { name: "Base", revision: 1 } as never, evidence: undefined }),
		);
		const two = compared(["A", BRONZE], ["B", carried]);
		expect(trustSentences(two.all, two.rows)).toContain("B: ρ carried over.");
	});

	it("an axis reaches below zero where a number does", () => {
		const { row } = compared(
			["A", material(value("solidus_temperature", "-20 °C"))],
			["B", material(value("solidus_temperature", "100 °C"))],
		);
		const { low, high, at } = axisOf(row("solidus_temperature"), "engineering");
		expect([low, high]).toEqual([-20, expect.closeTo(108, 9)]);
		// 0 °C lies 20 of 128 from the left end
		expect(at(273.15)).toBeCloseTo(20 / 128, 6);
	});
});
