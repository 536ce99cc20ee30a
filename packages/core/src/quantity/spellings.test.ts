import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { PROPERTIES, property } from "../property";
import { parseQuantity, parseReadings, showQuantity } from "./index";
import { seeded } from "./testing";
import { UNITS } from "./units.data";

const read = (text: string, id: string, fieldUnit?: string) =>
	parseQuantity(text, property(id), fieldUnit === undefined ? {} : { fieldUnit });
const ends = (text: string, id: string, fieldUnit?: string) => {
	const result = read(text, id, fieldUnit);
	return result.ok ? [result.value.low, result.value.high] : result.issues[0]?.code;
};

/** Equal to 1e-12 of its size: factors written here apart from the unit table. */
function expectClose(got: unknown, want: readonly (number | null)[]): void {
	expect(Array.isArray(got), JSON.stringify(got)).toBe(true);
	for (const [i, x] of want.entries()) {
		const g = (got as (number | null)[])[i] as number | null;
		if (x === null || g === null) expect(g).toBe(x);
		else expect(Math.abs(g - x)).toBeLessThanOrEqual(1e-12 * Math.abs(x));
	}
}

describe("each number has its own unit", () => {
	it.each([
		["180 °C ± 5 K", "melting_temperature", [448.15, 458.15]],
		["180 °C ± 9 °F", "melting_temperature", [448.15, 458.15]],
		["180 °C ± 5", "melting_temperature", [448.15, 458.15]],
		["210 GPa ± 4000 MPa", "youngs_modulus", [206e9, 214e9]],
		["30 ksi ± 5 MPa", "yield_strength", [30e3 * 6894.757293168361 - 5e6, 30e3 * 6894.757293168361 + 5e6]],
		["2.71 g/cm3 ± 2 %", "density", [2710 * 0.98, 2710 * 1.02]],
		["9.7 ± 2 %", "relative_permittivity", [9.7 * 0.98, 9.7 * 1.02]],
		["12 ± 2 %", "elongation", [0.1, 0.14]],
		["12 % ± 2 %", "elongation", [0.1, 0.14]],
		["98 GPa to 107000 MPa", "youngs_modulus", [98e9, 107e9]],
		["46.5 MS/m ± 2 %", "resistivity", [1 / (46.5e6 * 1.02), 1 / (46.5e6 * 0.98)]],
	])("%s", (text, id, want) => expectClose(ends(text, id), want));

	it("shows each end in another unit from the unit that it was typed in", () => {
		const range = read("98 GPa to 107000 MPa", "youngs_modulus");
		if (!range.ok) throw new Error();
		expect(showQuantity(range.value, "GPa")).toMatchObject({ low: "98", high: "107" });
		expect(showQuantity(range.value, "MPa")).toMatchObject({ low: "98000", high: "107000" });
	});

	it("refuses a half-width below zero", () => expect(ends("180 ± -5 °C", "melting_temperature")).toBe("reversed-range"));
});

describe("signs, marks and powers of ten", () => {
	it.each([
		["−30 °C", "service_temperature_min", [243.15, 243.15]],
		["–30 °C", "service_temperature_min", [243.15, 243.15]],
		["−50 bis +100 °C", "service_temperature_min", [223.15, 373.15]],
		["-40 … +130 °C", "service_temperature_min", [233.15, 403.15]],
		["22…32 MPa", "flexural_strength", [22e6, 32e6]],
		["12 10⁻⁶1/K", "thermal_expansion", [12e-6, 12e-6]],
		["12 × 10⁻⁶ 1/K", "thermal_expansion", [12e-6, 12e-6]],
		["8.1 x 10–6 /K", "thermal_expansion", [8.1e-6, 8.1e-6]],
		["20-30e-6 /K", "thermal_expansion", [20e-6, 30e-6]],
		["> 10⁴ Ω·cm", "resistivity", [100, null]],
		["10^13 Ω·cm", "resistivity", [1e11, 1e11]],
		["5. GPa", "youngs_modulus", [5e9, 5e9]],
		["1.7E+07 V/m", "dielectric_strength", [1.7e7, 1.7e7]],
		["from 20 to 30 MPa", "tensile_strength", [20e6, 30e6]],
		["zwischen 20 und 30 MPa", "tensile_strength", [20e6, 30e6]],
		["250 à 380 MPa", "tensile_strength", [250e6, 380e6]],
		["min 827, max 1034 N/mm2", "tensile_strength", [827e6, 1034e6]],
		[">= 235 <= 355 MPa", "yield_strength", [235e6, 355e6]],
		["355 min MPa", "yield_strength", [355e6, null]],
		["at most 410 MPa", "tensile_strength", [null, 410e6]],
	])("%s", (text, id, want) => expectClose(ends(text, id), want));

	it("asks where a power of ten or a mark has two readings", () => {
		for (const [text, code, id, choices] of [
			["29,000 × 10³ psi", "ambiguous-number", "youngs_modulus", ["29.000e3 psi", "29000e3 psi"]],
			["1-2e3 MPa", "unclear-number", "tensile_strength", ["1e3 – 2e3 MPa", "1 MPa – 2e3 MPa"]],
		] as const) {
			const result = read(text, id);
			expect(result.ok ? result.value : result.issues[0]).toMatchObject({ code, choices });
			for (const choice of choices) expect(read(choice, id).ok, choice).toBe(true);
		}
	});

	it("reads minutes as minutes", () => {
		const time = { dimension: UNITS.find((u) => u.names.includes("s"))?.dimension as number, siUnit: "s" };
		expect(parseQuantity("5 min", time, { fieldUnit: "h" })).toMatchObject({ ok: true, value: { low: 300, high: 300 } });
	});
});

describe("units as suppliers write them", () => {
	const btu = 1055.05585262;
	it.each([
		["460 J/kgK", "specific_heat", 460],
		["0.46 kJ/kgK", "specific_heat", 460],
		["0.46 J/gK", "specific_heat", 460],
		["0,83 kJ kg⁻¹ K⁻¹", "specific_heat", 830],
		["0.09 cal/(g °C)", "specific_heat", 376.56],
		["52 µΩcm", "resistivity", 5.2e-7],
		["52 µΩ-cm", "resistivity", 5.2e-7],
		["17 nΩm", "resistivity", 17e-9],
		["1.29 x 10-6 ohm m", "resistivity", 1.29e-6],
		["45 m/(Ω·mm²)", "resistivity", 1 / 45e6],
		["28 m/Ωmm²", "resistivity", 1 / 28e6],
		["0.73 Ωmm²/m", "resistivity", 7.3e-7],
		["57800 PSI", "yield_strength", 57800 * 6894.757293168361],
		["9.8 W/m.K", "thermal_conductivity", 9.8],
		["9.8 W.m-1.K-1", "thermal_conductivity", 9.8],
		["1,2 W m⁻¹ K⁻¹", "thermal_conductivity", 1.2],
		["3.2 W/cm·K", "thermal_conductivity", 320],
		["1480 Btu-in/hr-ft2-F", "thermal_conductivity", (1480 * btu * 0.0254) / (3600 * 0.3048 ** 2 * (5 / 9))],
		["23 1e-6/°C", "thermal_expansion", 23e-6],
		["0.21 E-4/°C", "thermal_expansion", 21e-6],
		["23 E-6/K", "thermal_expansion", 23e-6],
		["5.17 µin/in-°F", "thermal_expansion", 5.17e-6 * 1.8],
		["12 x 10^-6 / K", "thermal_expansion", 12e-6],
		["355 N/(mm²)", "yield_strength", 355e6],
		["64 kN/mm²", "youngs_modulus", 64e9],
		["60 kpsi", "yield_strength", 60e3 * 6894.757293168361],
		["5e9 dyn/cm2", "yield_strength", 5e8],
		["7.85 g/ccm", "density", 7850],
		["490 pcf", "density", (490 * 0.45359237) / 0.3048 ** 3],
		["0,75 MN/m^1,5", "fracture_toughness", 0.75e6],
		["4.1 MPa·m½", "fracture_toughness", 4.1e6],
		["60 ksi√in", "fracture_toughness", 60e3 * 6894.757293168361 * Math.sqrt(0.0254)],
		["21 deg C", "melting_temperature", 294.15],
		["7.86 g/cm³ (7860 kg/m³)", "density", 7860],
		["0.163 lb/in³ (4.51 g/cm³)", "density", (0.163 * 0.45359237) / 0.0254 ** 3],
	])("%s", (text, id, si) => expectClose(ends(text, id), [si, si]));

	it.each([
		["HRC 58", 58, "HRC"],
		["HV10 168", 168, "HV"],
		["168 HV10", 168, "HV"],
		["168 HV 10", 168, "HV"],
		["42 HBW 2,5/62,5", 42, "HBW"],
		["HBW 2.5/62.5 42", 42, "HBW"],
		["150 HB", 150, "HBW"],
		["70 Shore A", 70, "Shore A"],
		["Shore A 70", 70, "Shore A"],
	])("hardness %s", (text, low, scale) => {
		expect(read(text, "hardness")).toMatchObject({ ok: true, value: { low, high: low, unit: scale } });
	});

	it("asks where two numbers of one value disagree", () => {
		expect(read("80 ksi (455 MPa)", "shear_strength")).toMatchObject({
			ok: false,
			issues: [{ code: "unclear-number", choices: ["80 ksi", "455 MPa"] }],
		});
	});
});

describe("readings", () => {
	const list = (text: string, id = "tensile_strength") => {
		const result = parseReadings(text, property(id), {});
		if (result === null) return null;
		return result.ok ? result.value.readings : result.issues[0]?.choices;
	};
	it.each([
		["261 264 258 MPa", [261e6, 264e6, 258e6]],
		["1041, 1052, 1060 MPa", [1041e6, 1052e6, 1060e6]],
		["1041; 1052; 1060 MPa", [1041e6, 1052e6, 1060e6]],
		["1041 MPa\n1052 MPa\n1060 MPa", [1041e6, 1052e6, 1060e6]],
		["261.5 264.0 MPa", [261.5e6, 264e6]],
	])("%s", (text, want) => expect(list(text)).toEqual(want));

	it("leaves one number with thousands alone, and a range", () => {
		expect(list("210 000 MPa", "youngs_modulus")).toBeNull();
		expect(list("1,234,567 psi", "youngs_modulus")).toBeNull();
		expect(list("1 234 567 psi", "youngs_modulus")).toBeNull();
		expect(list("20 - 30 MPa")).toBeNull();
		expect(list("1 6 8 0 MPa")).toBeNull();
	});

	it("asks where a comma could be a decimal one", () => {
		expect(list("1041,1052 MPa")).toEqual(["1041; 1052 MPa", "1041,1052 MPa"]);
	});
});

describe("what is stored reads back", () => {
	const specs = PROPERTIES.filter((p) => p.scales !== true);
	const number = fc.oneof(
		fc.double({ min: 1e-9, max: 1e6, noNaN: true }).map((x) => String(Number(x.toPrecision(4)))),
		fc.stringMatching(/^-?\d{1,4}([.,]\d{1,3})?([eE]-?\d)?$/),
	);
	const text = fc.oneof(
		number,
		fc
			.tuple(fc.constantFrom("min ", "max. ", ">= ", "~", "ca. ", "", ""), number, fc.constantFrom("", " min", " max.", " min."))
			.map((x) => x.join("")),
		fc
			.tuple(number, fc.constantFrom("-", " – ", " to ", "..", " ± ", " +/- "), number, fc.constantFrom("", " %"))
			.map((x) => x.join("")),
		fc.tuple(fc.constantFrom("min "), number, fc.constantFrom(" max ", ", max "), number).map((x) => x.join("")),
	);
	it("for every property, in every unit that it is shown in", () => {
		let readOk = 0;
		fc.assert(
			fc.property(fc.constantFrom(...specs), fc.nat(2), text, (spec, set, typed) => {
				const fieldUnit = Object.values(spec.units)[set] as string;
				const first = parseQuantity(typed, spec, fieldUnit === "1" ? {} : { fieldUnit });
				if (!first.ok) return;
				readOk++;
				const mark = first.value.mark;
				const again = parseQuantity(first.value.entered, spec, mark === null ? {} : { decimalMark: mark });
				expect(again.ok && { ...again.value }, first.value.entered).toEqual({ ...first.value });
			}),
			{ numRuns: 5000, seed: 12 },
		);
		expect(readOk).toBeGreaterThan(1000);
	});

	it("for numbers written with every unit of the table", () => {
		const next = seeded(3);
		for (const row of UNITS) {
			for (const name of row.names) {
				const spec = {
					dimension: row.dimension,
					siUnit: name,
					...(row.offset === undefined ? {} : { absoluteTemperature: true }),
				};
				const digits = (1 + Math.floor(next() * 9998)) / 100;
				const result = parseQuantity(`${digits} ${name}`, spec);
				if (!result.ok) throw new Error(`${name}: ${JSON.stringify(result.issues)}`);
				const [factor, ...by] = row.factor.split("/").map(Number);
				const want = (digits + Number(row.offset ?? 0)) * by.reduce((x, d) => x / d, factor as number);
				expectClose([result.value.low], [want]);
			}
		}
	});
});
