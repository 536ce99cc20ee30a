import { readFileSync } from "node:fs";
import fc from "fast-check";
import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import { property } from "../property";
import { parseQuantity } from "./index";

type Row = { text: string; property: string; si_low: string; si_high: string; error: string };
const FILE = new URL("../../../../fixtures/quantities.csv", import.meta.url);
const rows = Papa.parse<Row>(readFileSync(FILE, "utf8"), { header: true, skipEmptyLines: true }).data;

describe("what people type into a value field", () => {
	it.each(rows)("reads or refuses `$text` as $property", (row) => {
		const result = parseQuantity(row.text, property(row.property));
		if (row.error) {
			expect(result.ok ? result.value : result.issues[0]?.code).toBe(row.error);
			return;
		}
		if (!result.ok) throw new Error(JSON.stringify(result.issues));
		// the expected figures are decimal doubles; one unit in the last place is allowed for their own rounding
		for (const [got, want] of [
			[result.value.low, row.si_low],
			[result.value.high, row.si_high],
		] as const) {
			if (want === "") expect(got).toBeNull();
			else expect(Math.abs((got as number) / Number(want) - 1)).toBeLessThanOrEqual(2.3e-16);
		}
	});
});

describe("parseQuantity", () => {
	const low = (text: string, id: string, options = {}) => {
		const result = parseQuantity(text, property(id), options);
		if (!result.ok) throw new Error(JSON.stringify(result.issues));
		return result.value.low;
	};
	const code = (text: string, id: string) => {
		const result = parseQuantity(text, property(id));
		return result.ok ? "ok" : result.issues[0]?.code;
	};

	it("takes the only reading inside the bounds, and the known decimal mark", () => {
		expect(low("2,710 g/cm3", "density")).toBe(2710);
		expect(low("1,234 MPa", "youngs_modulus", { decimalMark: "," })).toBe(1.234e6);
		expect(low("1,234 MPa", "youngs_modulus", { decimalMark: "." })).toBe(1.234e9);
		expect(low("0,340", "poissons_ratio")).toBe(0.34);
		expect(low("1.234,5 kg/m3", "density")).toBe(1234.5);
		expect(low("1,234,567 psi", "youngs_modulus")).toBeCloseTo(1234567 * 6894.757293168361, 3);
	});

	it("offers both readings when both are possible", () => {
		const result = parseQuantity("1,234 MPa", property("youngs_modulus"));
		expect(result.ok ? null : result.issues[0]?.choices).toEqual(["1.234 MPa", "1234 MPa"]);
	});

	it("reads shorthand by the dimension that is needed", () => {
		expect(low("0.0975 lb/in3", "density")).toBeCloseTo(2698.79, 1);
		expect(low("25 kg/mm2", "yield_strength")).toBe(25 * 9.80665e6);
		expect(low("0.2 kcal/(m h K)", "thermal_conductivity")).toBeCloseTo(0.2 * 1.163, 12);
		expect(low("22.5 10-6/K", "thermal_expansion")).toBe(22.5e-6);
		expect(low("30 MPa m^0.5", "fracture_toughness")).toBe(30e6);
		expect(low("58 MS/m", "resistivity")).toBe(1 / 58e6);
		expect(low("20 °C to 100 °C", "melting_temperature")).toBe(293.15);
		expect(low("75-90 HBW", "hardness")).toBe(75);
		expect(low("15 ft·lbf", "impact_energy")).toBeCloseTo(20.337269, 6);
	});

	it.each([
		["23e-6 1/K", "thermal_expansion", 23e-6],
		["12 µm/m°C", "thermal_expansion", 12e-6],
		["6.5e-6 in/in/°F", "thermal_expansion", 11.7e-6],
		["50 W/mK", "thermal_conductivity", 50],
		["50 W m-1 K-1", "thermal_conductivity", 50],
		["12 BTU/hr-ft-F", "thermal_conductivity", (12 * 1055.05585262) / (3600 * 0.3048 * (5 / 9))],
		["0.2 kcal/kg °C", "specific_heat", 836.8],
		["80 ft-lb", "impact_energy", 80 * 0.3048 * 4.4482216152605],
		["60 MPa sqrt(m)", "fracture_toughness", 60e6],
		["60 MPa·m^1/2", "fracture_toughness", 60e6],
		["210'000 MPa", "youngs_modulus", 210e9],
		["7.85 kg/dm³", "density", 7850],
		["8.2 kg CO2e/kg", "embodied_carbon", 8.2],
		["8.2 kg CO₂-eq per kg", "embodied_carbon", 8.2],
		["8,2 kgCO2/kg", "embodied_carbon", 8.2],
		["8.2 kg CO₂/kg", "embodied_carbon", 8.2],
		["0.9 lb CO2e/lb", "embodied_carbon", 0.9],
		["1.2 kg/l", "density", 1200],
		["0.0172 Ω mm²/m", "resistivity", 1.72e-8],
		["500 V/mil", "dielectric_strength", 500 / 25.4e-6],
		["5 kg/mm²", "yield_strength", 5 * 9.80665e6],
		["235 MPa min", "yield_strength", 235e6],
	])("reads %s as data sheets write it", (text, id, si) => {
		// factors: 1 Btu/(h ft degF) = 1055.05585262 / (3600 x 0.3048 x 5/9) W/(m K); 1 ft lbf = 0.3048 x 4.4482216152605 J
		expect(low(text, id)).toBeCloseTo(si, 12 - Math.ceil(Math.log10(Math.abs(si))));
	});

	it("takes a power of ten behind a range for both of its ends", () => {
		const ends = (text: string, id: string) => {
			const result = parseQuantity(text, property(id));
			return result.ok ? [result.value.low, result.value.high] : result.issues[0]?.code;
		};
		expect(ends("1,02-1,06·10^5 N/mm²", "youngs_modulus")).toEqual([1.02e11, 1.06e11]);
		expect(ends("23 ± 2 x 10^-6 /K", "thermal_expansion")).toEqual([21e-6, 25e-6]);
		expect(ends("9.8·10^4 - 1.07·10^5 MPa", "youngs_modulus")).toEqual([98e9, 107e9]);
	});

	it("treats what follows ± on a temperature as a difference", () => {
		const result = parseQuantity("100 ± 5 °C", property("melting_temperature"));
		expect(result.ok && [result.value.low, result.value.high]).toEqual([368.15, 378.15]);
	});

	it("swaps the ends of a range that a conversion turns over", () => {
		const result = parseQuantity("20-40 %IACS", property("resistivity"));
		expect(result.ok && (result.value.low as number) < (result.value.high as number)).toBe(true);
	});

	it("writes the field's unit beside a bare number, and never guesses one", () => {
		const result = parseQuantity("8940", property("density"), { fieldUnit: "kg/m^3" });
		expect(result.ok && [result.value.low, result.value.entered]).toEqual([8940, "8940 kg/m^3"]);
		expect(code("8940", "density")).toBe("unit-missing");
		expect(code("12", "elongation")).toBe("unit-missing");
	});

	it("refuses with a code of its own", () => {
		expect(code("abc", "density")).toBe("not-a-number");
		expect(code("1e400 kg/m3", "density")).toBe("not-finite");
		expect(code("1e999999999 kg/m3", "density")).toBe("not-finite");
		expect(code("2.7 GPA", "youngs_modulus")).toBe("unknown-unit");
		expect(code("9".repeat(500), "density")).toBe("not-a-number");
		expect(code("__proto__", "density")).toBe("not-a-number");
		expect(code("5 ((((m", "density")).toBe("unknown-unit");
	});

	it("never throws and never returns a number outside the bounds", () => {
		const spec = property("density");
		fc.assert(
			fc.property(fc.oneof(fc.string(), fc.stringMatching(/^[-+0-9., eE/^()kgmlbinft±–<>~%]{0,24}$/)), (text) => {
				const result = parseQuantity(text, spec);
				if (!result.ok) return;
				for (const si of [result.value.low, result.value.high]) {
					if (si !== null) expect(si > 0 && si <= 30000).toBe(true);
				}
			}),
			{ numRuns: 2000, seed: 20261125 },
		);
	});

	it("rounds to the nearest double: neither neighbour is closer to the exact fraction", () => {
		// the factors as exact fractions, written here apart from the unit table
		const factors: [string, bigint, bigint][] = [
			["kg/m3", 1n, 1n],
			["g/cm3", 1000n, 1n],
			["lb/ft3", 45359237n * 10n ** 4n, 28316846592n],
			["lb/in3", 45359237n * 10n ** 4n, 16387064n],
		];
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 999999 }),
				fc.integer({ min: 0, max: 3 }),
				fc.constantFrom(...factors),
				(n, decimals, [unit, a, b]) => {
					const text = `${(n / 10 ** decimals).toFixed(decimals)}`;
					const result = parseQuantity(`${text} ${unit}`, property("density"), { decimalMark: "." });
					if (!result.ok) return;
					const truth = { n: BigInt(n) * a, d: b * 10n ** BigInt(decimals) };
					const got = result.value.low as number;
					const error = distance(got, truth);
					for (const neighbour of neighbours(got)) expect(distance(neighbour, truth) >= error).toBe(true);
				},
			),
			{ numRuns: 500, seed: 7 },
		);
	});
});

/** The doubles just below and above a positive x. */
function neighbours(x: number): number[] {
	const view = new BigUint64Array(new Float64Array([x]).buffer);
	const at = (step: bigint) => new Float64Array(new BigUint64Array([(view[0] as bigint) + step]).buffer)[0] as number;
	return [at(-1n), at(1n)];
}

/** |x - n/d| times d * 2^1074, exactly: a double is a whole multiple of 2^-1074. */
function distance(x: number, truth: { n: bigint; d: bigint }): bigint {
	const word = new BigUint64Array(new Float64Array([x]).buffer)[0] as bigint;
	const exponent = (word >> 52n) & 0x7ffn;
	const mantissa = (word & 0xfffffffffffffn) | 0x10000000000000n;
	const difference = mantissa * 2n ** (exponent - 1n) * truth.d - truth.n * 2n ** 1074n;
	return difference < 0n ? -difference : difference;
}
