import { describe, expect, it } from "vitest";
import { massTable, type ProjectView } from "./index";

const part = (name: string, quantity: number, density: number | null, extra: object = {}): ProjectView["parts"][number] =>
	({
		id: name,
		name,
		quantity,
		volume_m3: 1e-3,
		assignment:
			density === null
				? null
				: {
						material: `M ${density}`,
						density: { working: density, low: density * 0.9, high: null },
						revision: 3,
						draft: false,
						behind: null,
						densityCarried: false,
						densityRule: null,
						price: { amount: "6.10", currency: "EUR", date: "2026-10-01" },
						carbon: 8,
						...extra,
					},
		mass_kg: density === null ? null : { mass: density * 1e-3, low: density * 0.9e-3, high: null },
	}) as unknown as ProjectView["parts"][number];

const project = (...parts: ProjectView["parts"][number][]): ProjectView =>
	({
		parts,
		// a cube of 100 mm about (1, 2, 3) m: V a^2 / 6 = 1e-3 x 0.01 / 6 m5 about its middle
		solids: [
			{
				partId: "Plate",
				volume_m3: 1e-3,
				area_m2: 0.06,
				centroid_m: [1, 2, 3],
				inertia_m5: [
					[1e-5 / 6, 0, 0],
					[0, 1e-5 / 6, 0],
					[0, 0, 1e-5 / 6],
				],
			},
		],
		money: { currency: "EUR", rates: [] },
		totals: {
			parts: 3,
			partsWithMass: 2,
			volume_m3: 3e-3,
			mass_kg: { mass: 12, low: null, high: null },
			costs: { cost: 32.94, carbon_kg: 43.2 },
			centreOfGravity_m: [0.5, 0, 0],
			inertia_kg_m2: [
				[1, -0.25, 0],
				[-0.25, 2, 0],
				[0, 0, 3],
			],
		},
	}) as unknown as ProjectView;

describe("the mass table", () => {
	it("has units in the header and the revision in the row, quantity multiplied in", () => {
		const [head, row, bare, total, convention] = massTable(
			project(part("Plate", 2, 2700), part("Housing", 1, null)),
			"engineering",
			"\t",
		).split("\r\n");
		expect(head?.split("\t").slice(4, 7)).toEqual(["Volume each [cm^3]", "Mass each [kg]", "Mass [kg]"]);
		expect(row?.split("\t")).toEqual([
			"Plate",
			"2",
			"M 2700",
			"3",
			"1000.00000",
			"2.70000000",
			"5.40000000",
			"4.86000000",
			"",
			// 2 x 2.7 kg at 6.10 EUR/kg and 8 kg/kg
			"32.94",
			"43.2000000",
			// its middle, and 2700 kg/m3 x 1e-5/6 m5 about it
			"1000.00000",
			"2000.00000",
			"3000.00000",
			...["0.00450000000", "0.00450000000", "0.00450000000", "0", "0", "0"],
			"",
		]);
		const cells = (line: string | undefined): readonly string[] => line?.split("\t").slice(11, 20) ?? [];
		expect(cells(head)).toEqual([
			...["x", "y", "z"].map((axis) => `Centre ${axis} [mm]`),
			...["xx", "yy", "zz", "xy", "xz", "yz"].map((axes) => `I${axes} [kg·m^2]`),
		]);
		expect(cells(bare)).toEqual(["", "", "", "", "", "", "", "", ""]);
		// off-diagonals are the negative products, and the line below says so
		expect(cells(total).map(Number)).toEqual([500, 0, 0, 1, 2, 3, -0.25, 0, 0]);
		expect(convention).toContain("Off-diagonals are the negative products");
		expect(bare?.split("\t").at(-1)).toBe("no material, no mass");
		expect(total).toContain("2 of 3 parts");
	});

	it("leaves a cost without a rate blank and says so", () => {
		const dollars = { price: { amount: "5", currency: "USD", date: "2026-10-01" } };
		const row = massTable(project(part("Plate", 1, 2700, dollars)), "engineering", "\t")
			.split("\r\n")[1]
			?.split("\t");
		expect([row?.[9], row?.at(-1)]).toEqual(["", "price in USD without a rate, no cost"]);
	});

	it("follows the unit set: 2.7 kg are 5.9524811 lb", () => {
		const row = massTable(project(part("Plate", 1, 2700)), "us", "\t").split("\r\n")[1];
		// 2.7 / 0.45359237
		expect(row?.split("\t")[5]).toBe("5.95248108");
	});

	it("tells drafts, parts behind and carried-over densities", () => {
		const behind = part("A", 1, 1000, { behind: { revision: 4 }, densityCarried: true });
		const draft = part("B", 1, 1000, { draft: true });
		const rows = massTable(project(behind, draft), "base", "\t").split("\r\n");
		expect(rows[1]?.split("\t").at(-1)).toBe("behind revision 4; density carried over");
		expect([rows[2]?.split("\t")[3], rows[2]?.split("\t").at(-1)]).toEqual(["draft", "draft"]);
	});

	it("quotes what would split a cell and disarms what a spreadsheet would run", () => {
		const rows = massTable(
			project(
				part('Plate, "left"', 1, 1),
				part("=cmd()", 1, 1),
				part("-5 bolt", 1, 1),
				part("+x", 1, 1),
				part("two\nlines", 1, 1),
			),
			"base",
			",",
		).split("\r\n");
		expect(rows[1]).toMatch(/^"Plate, ""left""",1,/);
		expect(rows[2]).toMatch(/^'=cmd\(\),/);
		// only a plain number may begin with a minus
		expect(rows[3]).toMatch(/^'-5 bolt,/);
		expect(rows[4]).toMatch(/^'\+x,/);
		expect(rows[5]).toMatch(/^"two\nlines",/);
		expect(massTable(project(part("two\tcells", 1, 1)), "base", "\t").split("\r\n")[1]).toMatch(/^two cells\t/);
	});
});
