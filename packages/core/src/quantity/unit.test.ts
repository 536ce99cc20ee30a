import { describe, expect, it } from "vitest";
import { dimension, dimensionText } from "./dimension";
import { fromSi, readUnit, toSi, unitOf } from "./unit";
import { UNITS } from "./units.data";

const DENSITY = dimension(1, -3);
const STRESS = dimension(1, -1, -2);
const any = (text: string) => {
	const read = readUnit(text, []);
	return read === null ? null : dimensionText(read.unit.dimension);
};

describe("dimensions", () => {
	it("are one integer that adds when units multiply, halves included", () => {
		expect(dimensionText(dimension(1, -0.5, -2))).toBe("kg·m^-0.5·s^-2");
		expect(dimension(1, -3) + dimension(0, 3)).toBe(dimension(1));
		expect(-dimension(0, 0, 0, 1)).toBe(dimension(0, 0, 0, -1));
		expect(dimensionText(dimension(0))).toBe("1");
	});
});

describe("the grammar of units", () => {
	it.each([
		["kg/m^3", "kg·m^-3"],
		["kg m^-3", "kg·m^-3"],
		["lbf s2/in4", "kg·m^-3"],
		["W/(m·K)", "kg·m·s^-3·K^-1"],
		["W/m/K", "kg·m·s^-3·K^-1"],
		["1/K", "K^-1"],
		["10^-6/K", "K^-1"],
		["MPa√m", "kg·m^-0.5·s^-2"],
		["MPa·m^1/2", "kg·m^-0.5·s^-2"],
		["N per mm^2", "kg·m^-1·s^-2"],
		["J/(kg·K)", "m^2·s^-2·K^-1"],
		["μΩ·cm", "kg·m^3·s^-3·A^-2"],
		["%", "1"],
	])("%s is %s", (text, expected) => {
		expect(any(text)).toBe(expected);
	});

	it.each(["kgm3", "((m", "m)", "m^", "^2", "furlong", "MPa√", "m^13", "N//m"])("%s is no unit", (text) => {
		expect(readUnit(text, [])).toBeNull();
	});

	it("reads shorthand only where nothing else fits", () => {
		// lb/in3 of a density is a mass, lb/in2 of a stress a force
		expect(readUnit("lb/in3", [DENSITY])?.unit.approximate).toBeCloseTo(27679.9, 1);
		expect(readUnit("lb/in2", [STRESS])?.unit.approximate).toBeCloseTo(6894.757, 3);
		expect(readUnit("kg/mm2", [STRESS])?.unit.approximate).toBeCloseTo(9.80665e6, 3);
		expect(readUnit("lb/in2", [DENSITY])?.fits).toBe(false);
	});

	it("has one meaning for each name and prefix", () => {
		const names = UNITS.flatMap((row) => row.names.flatMap((n) => [n, ...(row.prefixes?.split(" ") ?? []).map((p) => p + n)]));
		const twice = names.filter((n, i) => names.indexOf(n) !== i);
		expect(twice).toEqual([]);
	});
});

describe("conversion", () => {
	it("goes to SI exactly and back for display", () => {
		const [celsius, fahrenheit] = [unitOf("°C"), unitOf("°F")];
		expect(toSi({ n: 25n, d: 1n }, celsius)).toBe(298.15);
		expect(toSi({ n: 25n, d: 1n }, celsius, "difference")).toBe(25);
		expect(toSi({ n: 212n, d: 1n }, fahrenheit)).toBe(373.15);
		expect(fromSi(373.15, fahrenheit)).toBeCloseTo(212, 9);
		expect(fromSi(10, fahrenheit, "difference")).toBeCloseTo(18, 12);
	});

	it("shows 2710 kg/m3 as 2.71 g/cm3, not 2.7100000000000004", () => {
		for (const si of [2710, 8940, 1180, 7850, 998.2]) expect(String(fromSi(si, unitOf("g/cm^3")))).toBe(String(si / 1000));
		expect(fromSi(2.25e-5, unitOf("10^-6/K"))).toBeCloseTo(22.5, 12);
	});

	it("a unit of our own tables that cannot be read is a bug, told at once", () => {
		expect(() => unitOf("parsec")).toThrow("unknown unit: parsec");
	});
});
