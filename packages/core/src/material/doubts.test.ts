import { describe, expect, it } from "vitest";
import { headerTemperature, isWarm } from "./flow";
import { BLANK, type Check, checkText, type Material, type MaterialValue, type SeriesValue } from "./index";
import { checksOf, material, number, readinessOf, series } from "./testing";

describe("the temperature that a header says", () => {
	const said = (temperature: string | undefined): number | null =>
		headerTemperature({ header: temperature === undefined ? {} : { temperature } } as SeriesValue);

	it.each([
		["23 °C", 296.15],
		["room temperature, 23°C", 296.15],
		["20,5 °C", 293.65],
		["-40 °C", 233.15],
		["−40 °C", 233.15],
		["293 K", 293],
		["68 °F", 293.15],
		["-459.67 °F", 0],
		["tested at 150.25 °C in air", 423.4],
		// the dash of a range is no sign: its middle
		["23-25 °C", 297.15],
		["23 °C - 25 °C", 297.15],
		["-10 to 10 °C", 273.15],
		["-20 - -10 °C", 258.15],
		["−20…−10 °C", 258.15],
		["18–28 °C", 296.15],
	])("%s", (text, kelvin) => expect(said(text)).toBeCloseTo(kelvin, 9));

	it.each([undefined, "", "room temperature", "23", "23 C", "5 Kelvins"])("%s says none", (text) =>
		expect(said(text)).toBeNull(),
	);

	it("is warm beyond 15 K from 20 °C, either way", () => {
		expect([278.15, 308.15, 278.1, 308.2].map(isWarm)).toEqual([false, false, true, true]);
	});
});

describe("what leaves a use in doubt", () => {
	const doubts = (use: string, ...values: MaterialValue[]): readonly string[] => doubtsOf(material(...values), use);
	const doubtsOf = (m: Material, use: string): readonly string[] =>
		readinessOf(m).find((r) => r.use === use)?.doubts ?? ["no such use"];
	const elastic = [number("youngs_modulus", "210 GPa"), number("poissons_ratio", "0.3")];
	const proof = (details: object) =>
		number("yield_strength", "355 MPa", { qualifier: "Rp0.2", basis: "guaranteed-minimum", ...details });

	it("for a strength: a typical value, one without basis or of an unknown one; a minimum leaves none", () => {
		expect(doubts("strength", ...elastic, proof({}))).toEqual([]);
		expect(doubts("strength", ...elastic, proof({ basis: "typical" }))).toEqual(["yield or proof stress is a typical value"]);
		for (const basis of [undefined, "unknown"])
			expect(doubts("strength", ...elastic, proof({ basis }))).toEqual(["yield or proof stress says no basis"]);
		// a stiffness has no basis to say, and a strength none for other uses
		expect(doubts("linear_static", ...elastic, proof({ basis: "typical" }))).toEqual([]);
		const typical = elastic.map((v) => ({ ...v, basis: "typical" as const }));
		expect(doubts("strength", ...typical, proof({}))).toEqual([]);
	});

	it("for a polymer's or a rubber's strength: that it says no temperature and duration", () => {
		const of = (family: string | null, condition?: string) =>
			doubtsOf({ ...material(...elastic, proof(condition === undefined ? {} : { condition })), family }, "strength");
		for (const family of ["polymer", "elastomer"]) {
			expect(of(family)).toContain("yield or proof stress says no temperature and duration");
			expect(of(family, "23 °C, 1 h")).not.toContain("yield or proof stress says no temperature and duration");
		}
		expect(of("metal.steel")).toEqual([]);
		expect(of(null)).toEqual([]);
	});

	it("a value that was carried over, guessed, or has no evidence", () => {
		const density = (details: object) => doubts("mass", number("density", "7.85 g/cm3", details));
		expect(density({})).toEqual([]);
		expect(density({ evidence: undefined })).toEqual(["density has no evidence"]);
		expect(density({ evidence: "estimated" })).toEqual(["density is estimated"]);
		expect(density({ carried: { name: "B", uid: "u", revision: 1 } })).toEqual(["density is carried over"]);
	});

	it("an open check about a value it relies on, in the words of the check; a symbol keeps its capital", () => {
		const m = material(...elastic, number("shear_modulus", "60 GPa"), number("density", "7.85 g/cm3"));
		const check = checksOf(m).find((c) => c.code === "elastic-disagree") as Check;
		// 2G(1 + nu) of the ends that rounding leaves: 59.5 (1 + 0.25) + 60.5 (1 + 0.35) GPa
		expect(check.figures[0]?.si).toBeCloseTo(156.05e9, 0);
		expect(checkText(check)).toContain("156100000000 Pa");
		expect(doubtsOf(m, "linear_static")).toContain("E, G and ν disagree");
		expect(doubtsOf(m, "mass")).toEqual([]);
		const light = material(number("density", "0.785 g/cm3"));
		const odd = { ...light, family: "metal.steel" };
		const [title] = checksOf(odd).map((c) => c.title);
		expect(doubtsOf(odd, "mass")).toContain(`${title?.charAt(0).toLowerCase()}${title?.slice(1)}`);
	});

	it("nothing of a blank material: it is not ready, and says what is missing", () => {
		const mass = readinessOf(BLANK).find((r) => r.use === "mass");
		expect(mass).toMatchObject({ state: "not-ready", missing: [["density"]], doubts: [] });
	});
});

describe("a value below one that it cannot be below", () => {
	const order = (below: string, above: string) =>
		checksOf(material(number("solidus_temperature", below), number("liquidus_temperature", above))).filter(
			(c) => c.code.includes("solidus") || c.title.includes("olidus"),
		);

	it("of temperatures is no slip of units, however near one would bring them", () => {
		const [check] = order("1500 K", "150 K");
		expect(check).toBeDefined();
		expect(check?.slip).toBeUndefined();
		expect(order("1500 K", "1510 K")).toEqual([]);
	});

	it("of strengths names the slip that would explain it", () => {
		const slipped = checksOf(material(number("yield_strength", "355 MPa"), number("tensile_strength", "510 kPa")));
		expect(slipped.find((c) => c.code === "yield-above-tensile")?.slip).toEqual({
			ratio: 1000,
			said: expect.stringMatching(/kPa|MPa/),
		});
	});
});

it("a table of a strength over temperature has doubts of its own", () => {
	const table = series("yield_strength", "table", [
		["temperature", "°C", "20 100"],
		["value", "MPa", "300 250"],
	]);
	const m = material(number("youngs_modulus", "210 GPa"), number("poissons_ratio", "0.3"), table);
	expect(readinessOf(m).find((r) => r.use === "strength")?.doubts).toContain("yield or proof stress says no basis");
});
