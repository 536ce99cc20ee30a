import { BLANK, type Material, type MaterialValue, makeSeries, makeValue } from "@alvek/core/material";
import { describe, expect, it } from "vitest";
import { paperSections, paperTable, sourcesOf } from "./content";

function value(property: string, text: string, extra: Partial<MaterialValue> = {}): MaterialValue {
	const made = makeValue(property, text, {}, extra as never);
	if (!made.ok) throw new Error(`${text}: ${JSON.stringify(made.issues)}`);
	return made.value;
}

function material(values: readonly MaterialValue[], sources: Material["sources"] = {}): Material {
	return { ...BLANK, sources, values: Object.fromEntries(values.map((v) => [v.id, v])) };
}

const source = (title: string) =>
	({ kind: "lab-report", title, text: "", address: "", date: "2026-11-03", conditions: "at 20 °C" }) as never;

function table(temperatures: readonly string[], numbers: readonly string[]) {
	const made = makeSeries(
		{ id: "thermal_conductivity", property: "thermal_conductivity" },
		{
			kind: "table",
			columns: [
				{ of: "temperature", unit: "°C", cells: temperatures },
				{ of: "value", unit: "W/(m K)", cells: numbers },
			],
			interpolation: "linear",
		},
	);
	if (!made.ok) throw new Error(JSON.stringify(made.issues));
	return made.value;
}

describe("a sheet in words", () => {
	it("says value, unit, evidence, basis and what it works with; blank ones are not printed", () => {
		const sections = paperSections(
			material([
				value("density", "8.78-8.91 g/cm3", { evidence: "data-sheet", basis: "typical" }),
				value("yield_strength", ">= 125 MPa", { evidence: "standard", condition: "to 40 mm" }),
				{ id: "hardness", property: "hardness", kind: "unknown" },
			]),
			"engineering",
		);
		const lines = sections.flatMap((s) => s.lines.map((l) => [s.name, l.name, l.value, l.unit, l.about]));
		expect(lines).toEqual([
			["General", "Density", "8.78–8.91", "g/cm³", "data sheet, typical, works with 8.845"],
			["General", "Hardness", "unknown", "", ""],
			["Strength", expect.stringContaining("Yield"), expect.stringMatching(/^≥.?125$/), "MPa", "standard, to 40 mm"],
		]);
	});

	it("marks in words what waits for a confirmation and what follows", () => {
		const base = { name: "Gudgeon bronze 5", uid: "u", revision: 2 };
		const [line, other] = paperSections(
			material([value("density", "8.8 g/cm3", { carried: base }), value("poissons_ratio", "0.33", { follows: base })]),
			"engineering",
		).flatMap((s) => s.lines);
		expect(line?.about).toContain("CARRIED OVER from Gudgeon bronze 5, not confirmed");
		expect(other?.about).toContain("follows Gudgeon bronze 5 rev 2");
	});

	it("numbers its sources once each, in the order of their first use, those in words too", () => {
		const printed = material(
			[
				value("density", "8.8 g/cm3", { sourceId: "lab" }),
				value("poissons_ratio", "0.33", { source: "supplier's page" }),
				value("youngs_modulus", "100 GPa", { sourceId: "lab" }),
				value("specific_heat", "380 J/(kg K)", { sourceId: "gone" }),
			],
			{ lab: source("Pulled bars") },
		);
		expect(sourcesOf(printed)).toEqual(["Pulled bars, 2026-11-03, at 20 °C", "supplier's page"]);
		const numbers = paperSections(printed, "engineering").flatMap((s) => s.lines.map((l) => [l.id, l.source]));
		expect(Object.fromEntries(numbers)).toEqual({ density: 1, poissons_ratio: 2, youngs_modulus: 1, specific_heat: null });
	});

	it("writes a directional set number by number, with its axes", () => {
		const lines = paperSections(
			material([
				{
					id: "elastic_set",
					property: "elastic_set",
					kind: "set",
					symmetry: "ply",
					axes: ["fibre", "across", "through"],
					components: {
						E1: { entered: "135 GPa", low: 135e9, high: 135e9 },
						E2: { entered: "8.6-9 GPa", low: 8.6e9, high: 9e9 },
						nu12: { entered: ">= 0.29", low: 0.29, high: null },
					},
				} as never,
			]),
			"engineering",
		).flatMap((s) => s.lines);
		expect(lines[0]?.value).toContain("1, 2, 3: fibre, across, through");
		expect(lines.slice(1).map((l) => `${l.value} ${l.unit}`.trim())).toEqual(["135 GPa", "8.6–9 GPa", "≥ 0.29"]);
	});
});

describe("a series as a printed table", () => {
	it("stands in the units of the set, ranges with both ends", () => {
		const printed = paperTable(table(["20", "100"], ["58.8-67.5", "70"]), "us");
		expect(printed?.head[0]).toBe("Temperature, °F");
		// 20 °C is 68 °F, 100 °C is 212 °F
		expect(printed?.rows.map((r) => r[0])).toEqual(["68", "212"]);
		expect(printed?.rows[0]?.[1]).toMatch(/^33\.974–39\.001$/);
		expect(printed?.left).toBe(0);
	});

	it("is thinned out evenly when it is long, with both ends kept and the rest counted", () => {
		const long = Array.from({ length: 100 }, (_, i) => String(i));
		const printed = paperTable(
			table(
				long,
				long.map((i) => String(50 + Number(i))),
			),
			"engineering",
		);
		expect(printed?.rows).toHaveLength(24);
		expect(printed?.left).toBe(76);
		expect([printed?.rows[0]?.[0], printed?.rows.at(-1)?.[0]]).toEqual(["0", "99"]);
		expect(new Set(printed?.rows.map((r) => r[0])).size).toBe(24);
	});

	it("is made of series only", () => {
		expect(paperTable(value("density", "8.8 g/cm3"), "engineering")).toBeNull();
	});
});
