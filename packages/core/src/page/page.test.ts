import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { makeValue } from "../material";
import { propertyById } from "../property";
import { PASTE_LIMITS, type Page, readPage } from "./index";

const FIXTURES = new URL("../../../../fixtures/", import.meta.url);
const file = (name: string): string => readFileSync(new URL(name, FIXTURES), "utf8");
function page(text: string): Page {
	const read = readPage(text);
	if (!read.ok) throw new Error(JSON.stringify(read.issues));
	return read.value;
}

type Expected = { property: string; si_low: number | null; si_high: number | null; line: number; scale?: string; kind?: string };

describe("a supplier's page", () => {
	const expected = JSON.parse(file("page-paste.expected.json")) as {
		recognised: Expected[];
		price: object;
		headings: number[];
		left_for_the_user: string[];
	};
	const read = page(file("page-paste.txt"));

	it("gives every value of the expected file, in order and within 1e-9", () => {
		expect(read.taken.map((t) => [t.property, t.line])).toEqual(expected.recognised.map((e) => [e.property, e.line]));
		expected.recognised.forEach((e, i) => {
			const t = read.taken[i];
			for (const [mine, theirs] of [
				[t?.low, e.si_low],
				[t?.high, e.si_high],
			]) {
				if (theirs === null || theirs === undefined) expect(mine).toBeNull();
				else expect(Math.abs((mine ?? Number.NaN) / theirs - 1)).toBeLessThan(1e-9);
			}
			if (e.scale !== undefined) expect(t?.scale).toBe(e.scale);
			if (e.kind !== undefined) expect(t?.qualifier).toBe(e.kind);
		});
	});

	it("takes the heading as the basis, but asks about a minimum alone", () => {
		const yieldStress = read.taken.find((t) => t.property === "yield_strength");
		expect(yieldStress?.basis).toBeUndefined();
		expect(yieldStress?.question).toContain("guaranteed minimum");
		expect(read.taken.filter((t) => t !== yieldStress).every((t) => t.basis === "typical")).toBe(true);
		expect(read.taken.find((t) => t.property === "elongation")?.question).toBe("gauge unspecified");
		expect(read.taken.find((t) => t.property === "thermal_expansion")).toMatchObject({
			qualifier: "secant",
			condition: "20–200 °C",
		});
	});

	it("finds the price and loses no line", () => {
		expect(read.price).toEqual(expected.price);
		expect(read.headings).toEqual(expected.headings);
		expect(read.left.map((n) => read.lines[n - 1])).toEqual(expected.left_for_the_user);
	});

	it("proposes texts that the value fields read to the same numbers", () => {
		for (const t of read.taken) {
			const made = makeValue(t.property, t.text, t.mark === undefined ? {} : { decimalMark: t.mark });
			expect(made.ok && [made.value.low, made.value.high]).toEqual([t.low, t.high]);
		}
	});
});

/** What each page gives, short: property, SI low, SI high. */
const OWN: Readonly<Record<string, { taken: string[]; asks?: number[]; left: number[] }>> = {
	"01-pa-german": {
		taken: [
			"density 1360",
			"youngs_modulus 9.8e9",
			"stress_at_break 185e6",
			"elongation 0.035",
			"flexural_modulus 8.7e9",
			"charpy_impact 13e3",
			"heat_deflection 483.15",
			"thermal_conductivity 0.34",
			"thermal_expansion 24e-6",
			"specific_heat 1500",
			"dielectric_strength 34e6",
			"water_absorption 0.062 0.068",
			"service_temperature_min 233.15",
			"service_temperature_max 393.15",
		],
		left: [17],
	},
	"02-steel-german": {
		taken: [
			"yield_strength 355e6 -",
			"tensile_strength 470e6 630e6",
			"elongation 0.22 -",
			"impact_energy 27",
			"youngs_modulus 210e9",
			"poissons_ratio 0.3",
			"density 7850",
			"hardness - 190",
		],
		left: [10],
	},
	"03-polymer-leaders": {
		taken: [
			"youngs_modulus 2.9e9",
			"yield_strength 62e6",
			"yield_strain 0.042",
			"density 1410",
			"hardness 82",
			"friction_coefficient 0.2",
			"thermal_expansion 110e-6",
			"melting_temperature 439.15",
			"service_temperature_max 373.15",
			"heat_deflection 369.15",
		],
		left: [13],
	},
	"04-us-sheet": {
		// lb/in3, ksi, Msi, Btu and degF by their exact factors, worked out apart: 0.284 x 27679.9047 and so on
		taken: [
			"density 7861.0929377",
			"tensile_strength 1020424079.4",
			"yield_strength 903213205.4",
			"elongation 0.17",
			"reduction_of_area 0.52",
			"youngs_modulus 204774291607",
			"poissons_ratio 0.29",
			"shear_modulus 79979184601",
			"hardness 302",
			"specific_heat 477.2952",
			"thermal_conductivity 42.691455",
			"thermal_expansion 12.204e-6",
			"resistivity 2.48e-7",
		],
		left: [15],
	},
	// every other number of that page has a decimal point, so its comma parts thousands
	"05-ask": { taken: ["tensile_strength 1234e6"], asks: [2, 3, 4, 5], left: [7] },
	"06-temperature-columns": { taken: [], left: [] },
	"07-magnet": {
		taken: [
			"remanence 1.22 1.26",
			"coercivity_b 899e3 -",
			"coercivity_j 955e3 -",
			"energy_product 287e3 310e3",
			"recoil_permeability 1.05",
			"density 7500",
			"service_temperature_max - 353.15",
			"resistivity 1.5e-6",
		],
		left: [],
	},
	"08-composite": {
		taken: [
			"youngs_modulus 128e9",
			"tensile_strength 1950e6",
			"interlaminar_shear 82e6",
			"flexural_modulus 115e9",
			"glass_transition 458.15",
			"density 1560",
		],
		left: [7, 8],
	},
	"09-ceramic": {
		taken: [
			"density 3720 3780",
			"flexural_strength 310e6 -",
			"compressive_strength 2000e6 -",
			"youngs_modulus 330e9",
			"hardness 1450",
			"fracture_toughness 3.5e6 4e6",
			"thermal_conductivity 24",
			"thermal_expansion 8.1e-6",
			"dielectric_strength 17e6",
			"relative_permittivity 9.6",
		],
		left: [1, 12],
	},
	"10-fastener": {
		taken: [
			"tensile_strength 980e6 -",
			"yield_strength 840e6",
			"proof_load_stress 760e6",
			"elongation 0.09 -",
			"reduction_of_area 0.46 -",
			"hardness 31 38",
			"impact_energy 28 -",
		],
		left: [9],
	},
};

describe("pages of our own", () => {
	it("are all here", () => {
		expect(
			readdirSync(new URL("pages/", FIXTURES))
				.map((f) => f.replace(".txt", ""))
				.sort(),
		).toEqual(Object.keys(OWN).sort());
	});

	it.each(Object.entries(OWN))("%s", (name, { taken, asks = [], left }) => {
		const read = page(file(`pages/${name}.txt`));
		expect(read.taken.map((t) => t.property)).toEqual(taken.map((t) => t.split(" ")[0]));
		read.taken.forEach((t, i) => {
			const [, low, high = low] = (taken[i] ?? "").split(" ");
			const wanted = (text: string | undefined): number | null => (text === "-" ? null : Number(text));
			for (const [mine, theirs] of [
				[t.low, wanted(low)],
				[t.high, wanted(high)],
			] as const) {
				if (theirs === null) expect(mine, `${t.property} ${taken[i]}`).toBeNull();
				else expect(Math.abs((mine ?? Number.NaN) / theirs - 1), `${t.property}: ${mine} for ${theirs}`).toBeLessThan(1e-6);
			}
		});
		expect(read.asks.map((a) => a.line)).toEqual(asks);
		expect(read.left).toEqual(left);
	});

	it("keep conditions, qualifiers and a typical number inside its range", () => {
		expect(page(file("pages/01-pa-german.txt")).taken.map((t) => t.condition ?? "")).toEqual([
			"",
			"",
			"",
			"",
			"",
			"23 °C",
			"1,8 MPa",
			"",
			"längs",
			"",
			"",
			"23 °C",
			"",
			"",
		]);
		expect(page(file("pages/02-steel-german.txt")).taken.map((t) => t.qualifier ?? "")).toEqual([
			"ReH",
			"",
			"A",
			"",
			"",
			"",
			"",
			"",
		]);
		const magnet = page(file("pages/07-magnet.txt")).taken[0];
		expect(magnet).toMatchObject({ working: "1.24 T" });
		expect(page(file("pages/07-magnet.txt")).taken[1]).toMatchObject({ text: ">= 899 kA/m", working: "923 kA/m" });
		expect(page(file("pages/02-steel-german.txt")).basis).toBe("guaranteed-minimum");
	});

	it("reads temperatures over the columns as tables", () => {
		const { tables } = page(file("pages/06-temperature-columns.txt"));
		expect(tables.map((t) => [t.property, t.axis, t.points.map((p) => [p.at, p.low])])).toEqual([
			[
				"youngs_modulus",
				"temperature",
				[
					["20 °C", 207e9],
					["100 °C", 203e9],
					["200 °C", 196e9],
				],
			],
			[
				"yield_strength",
				"temperature",
				[
					["20 °C", 355e6],
					["100 °C", 310e6],
					["200 °C", 265e6],
				],
			],
			[
				"thermal_conductivity",
				"temperature",
				[
					["20 °C", 52.1],
					["100 °C", 51],
					["200 °C", 48.6],
				],
			],
		]);
	});

	it("ask with readings to pick from", () => {
		const asks = page(file("pages/05-ask.txt")).asks;
		expect(asks.map((a) => a.choices.map((c) => `${c.property} ${c.text}`))).toEqual([
			["density 8.8 g/cm^3"],
			["density 8800.15 kg/m^3"],
			["youngs_modulus 3.1 GPa", "flexural_modulus 3.1 GPa"],
			["thermal_expansion 23 10^-6/K"],
		]);
		expect(page("Tensile strength 1,234 MPa").asks[0]?.choices.map((c) => c.text)).toEqual(["1.234 MPa", "1234 MPa"]);
	});
});

describe("hostile paste", () => {
	it.each([
		["too long", "x".repeat(PASTE_LIMITS.characters + 1)],
		["too many lines", "a\n".repeat(PASTE_LIMITS.lines + 1)],
	])("is refused with its limit: %s", (_, text) => {
		const read = readPage(text);
		expect(read.ok ? "" : read.issues[0]?.code).toBe("paste-too-large");
	});

	it("reads formulas, HTML and control characters as the text that they are", () => {
		const read = page('=HYPERLINK("http://x","E 70 GPa")\n<script>alert(1)</script>\nDensity\u0000 2.7\u0007 g/cm3\n');
		expect(read.taken.map((t) => [t.property, t.low])).toEqual([["density", 2700]]);
		expect(read.left).toEqual([1, 2]);
	});

	it("asks only about properties of the catalogue", () => {
		const asks = [
			...page("Service temperature 1,234 °C").asks,
			...page("\nDensity 2.7\nTensile strength 300-200 MPa\nPoisson's ratio 0.71").asks,
		];
		expect(asks.map((a) => [a.line, propertyById(a.property)?.id])).toEqual([
			[1, "service_temperature_max"],
			[2, "density"],
			[3, "tensile_strength"],
			[4, "poissons_ratio"],
		]);
	});

	it("never throws, stays fast, and every line ends up somewhere", () => {
		const piece = fc.constantFrom(
			"Density",
			"E",
			"\t",
			" ",
			"1,234",
			"2.7",
			"g/cm³",
			"GPa",
			"-",
			"±",
			"(",
			")",
			"20 °C",
			"\n",
			"min",
			"|",
			"%",
			"x10^",
			"10⁻⁶",
			"Rm",
			"Modulus",
			"°F",
		);
		fc.assert(
			fc.property(
				fc.oneof(
					fc.array(piece, { maxLength: 60 }).map((p) => p.join(" ")),
					fc.string({ unit: "binary", maxLength: 300 }),
				),
				(text) => {
					const read = readPage(text);
					if (!read.ok) return;
					const { taken, tables, curves, asks, headings, left, parts, price, lines } = read.value;
					const seen = new Set([
						...taken.map((t) => t.line),
						...parts,
						...tables.flatMap((t) => t.points.map((p) => p.line)),
						...curves.flatMap((c) => c.rows.map((r) => r.line)),
						...asks.map((a) => a.line),
						...headings,
						...left,
						...(price === null ? [] : [price.line]),
					]);
					for (const [i, l] of lines.entries()) expect(seen.has(i + 1)).toBe(l.trim() !== "");
				},
			),
			{ seed: 6, numRuns: 250 },
		);
	}, 20_000);
});
