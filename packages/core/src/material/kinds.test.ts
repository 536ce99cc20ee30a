import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Component, formById, property, propertyById } from "../property";
import { statistics } from "../quantity";
import {
	applyEdits,
	asVariant,
	BLANK,
	type Coefficient,
	canonicalJson,
	checkMaterial,
	confirmed,
	decodeMaterial,
	difference,
	fromSimilar,
	type Material,
	type MaterialValue,
	makeCoefficient,
	makeSeries,
	makeValue,
	type NumberValue,
	quantityOf,
	readiness,
	sameNumbers,
	upgradedPlace,
	upgradeMaterial,
	workingValue,
} from "./index";
import { checksOf, material, must, number, series } from "./testing";

/** Values of every kind, typed as people type them. */
const anyValue = (): fc.Arbitrary<MaterialValue> => {
	const digits = fc
		.integer({ min: 1, max: 99_999 })
		.chain((n) => fc.integer({ min: 0, max: 3 }).map((d) => (n / 10 ** d).toFixed(d)));
	const quantity = fc
		.tuple(
			fc.constantFrom("density kg/m^3", "tensile_strength MPa", "thermal_conductivity W/(m·K)", "thermal_expansion 10^-6/K"),
			digits,
			digits,
			fc.constantFrom("a", "a-b", ">= a", "<= a", "a ± b", "5a; 5b; 5a"),
		)
		.map(([spec, a, b, shape]) => {
			const [id = "", unit = ""] = spec.split(" ");
			const [low, high] = Number(a) <= Number(b) ? [a, b] : [b, a];
			const text = shape.replace(/a/g, low).replace(/b/g, high);
			return makeValue(id, `${text} ${unit}`, { decimalMark: "." }, { evidence: "measured", basis: "typical" });
		});
	const cells = fc.array(digits, { minLength: 2, maxLength: 8 });
	const table = fc.tuple(cells, fc.constantFrom("linear" as const, "pchip" as const)).map(([y, interpolation]) =>
		makeSeries(
			{ id: "youngs_modulus", property: "youngs_modulus" },
			{
				kind: "table",
				columns: [
					{ of: "temperature", unit: "°F", cells: y.map((_, i) => String(10 * i)), mark: "." },
					{ of: "value", unit: "ksi", cells: y, mark: "." },
				],
				interpolation,
			},
		),
	);
	const curve = cells.map((y) =>
		makeSeries(
			{ id: "stress_strain", property: "stress_strain" },
			{
				kind: "curve",
				columns: [
					{ of: "temperature", unit: "°C", cells: y.map(() => "20") },
					{ of: "strain", unit: "%", cells: y.map((_, i) => `${i / 100}`), mark: "." },
					{ of: "stress", unit: "psi", cells: y, mark: "." },
				],
				interpolation: "pchip",
				header: { stress: "engineering", strain: "total-engineering", loading: "tension" },
			},
		),
	);
	const set = fc.record({ E1: digits, E2: digits, nu12: fc.constantFrom("0.1", "0.3"), G12: digits }).map((c) => {
		const form = formById("elastic_set");
		const specs = form?.kind === "set" ? form.components : {};
		const read = Object.entries(c).map(
			([n, text]) =>
				[n, makeCoefficient(n.startsWith("nu") ? text : `${text} MPa`, specs[n] as Component, { decimalMark: "." })] as const,
		);
		if (read.some(([, r]) => !r.ok)) return { ok: false as const, issues: [] };
		const components = Object.fromEntries(read.map(([n, r]) => [n, must(r)])) as Record<string, Coefficient>;
		return {
			ok: true as const,
			value: {
				id: "elastic_set",
				property: "elastic_set",
				kind: "set" as const,
				symmetry: "ply",
				axes: ["1", "2", "3"] as const,
				components,
			},
		};
	});
	const mark = fc
		.constantFrom("unknown" as const, "not-applicable" as const)
		.map((kind) => ({ ok: true as const, value: { id: "emissivity", property: "emissivity", kind } }));
	return fc
		.oneof(quantity, table, curve, set, mark)
		.filter((r) => r.ok)
		.map((r) => must(r as never)) as fc.Arbitrary<MaterialValue>;
};

describe("values of every kind", () => {
	it("come back from canonical bytes as they went in, byte for byte", () => {
		fc.assert(
			fc.property(anyValue(), (value) => {
				const document = material(value);
				const bytes = canonicalJson(document);
				const back = must(decodeMaterial(JSON.parse(bytes)));
				expect(canonicalJson(back)).toBe(bytes);
				// as an edit, and back again
				const edits = difference(BLANK, document);
				const applied = must(applyEdits(BLANK, edits));
				expect(canonicalJson(applied.material)).toBe(bytes);
				expect(must(applyEdits(applied.material, applied.inverse)).material).toEqual(BLANK);
			}),
			{ seed: 21, numRuns: 400 },
		);
	});

	it("are refused when a number is not what its text says, in every kind", () => {
		const table = series("youngs_modulus", "table", [
			["temperature", "°C", "20 100"],
			["value", "GPa", "210 206"],
		]);
		const bent = { ...table, columns: [table.columns[0], { ...table.columns[1], si: [210e9, 207e9] }] };
		const cut = { ...table, columns: [table.columns[0], { ...table.columns[1], cells: ["210"], si: [210e9] }] };
		const readings = number("tensile_strength", "261; 264; 258 MPa");
		for (const bad of [
			bent,
			cut,
			{ ...readings, readings: [261e6, 264e6] },
			{ ...readings, high: 1 },
			{ ...table, kind: "spline" },
			{ ...table, extra: 1 },
		]) {
			const id = (bad as { id: string }).id;
			expect(decodeMaterial({ ...BLANK, values: { [id]: bad } }).ok).toBe(false);
		}
	});

	it("never throw while decoding, whatever comes", () => {
		fc.assert(
			fc.property(
				fc.constantFrom("table", "curve", "set", "model", "readings", "unknown", "x"),
				fc.jsonValue(),
				fc.jsonValue(),
				(kind, a, b) => {
					const value = {
						id: "density",
						property: "density",
						kind,
						columns: a,
						components: b,
						coefficients: a,
						readings: b,
						form: "hollomon",
						symmetry: "ply",
						axes: ["1", "2", "3"],
						header: {},
						interpolation: "linear",
					};
					expect(decodeMaterial({ ...BLANK, values: { density: value } })).toHaveProperty("ok");
					expect(decodeMaterial({ ...BLANK, sources: a, carriedFields: b, acknowledged: a })).toHaveProperty("ok");
				},
			),
			{ seed: 5, numRuns: 300 },
		);
	});
});

describe("readings", () => {
	it("give mean, s and n; the strength works with the lowest, the density with the mean", () => {
		const strength = number("tensile_strength", "5 specimens: 261 264 258 266 262 MPa");
		if (strength.kind !== "readings") throw new Error();
		// by hand: mean 262.2; deviations -1.2 1.8 -4.2 3.8 -0.2, squares 1.44 3.24 17.64 14.44 0.04, sum 36.8, s = sqrt(36.8/4)
		const { mean, s, n } = statistics(strength.readings);
		expect([mean / 1e6, n]).toEqual([262.2, 5]);
		expect(Math.abs((s ?? 0) / 1e6 - Math.sqrt(9.2))).toBeLessThan(1e-9);
		expect(workingValue(strength)).toBe(258e6);
		const density = number("density", "readings 8.80 8.82 8.87 g/cm3");
		expect(workingValue(density as never)).toBeCloseTo(8830, 9);
		expect(workingValue({ ...strength, working: { fatigue: "high", any: "250 MPa" } }, "fatigue")).toBe(266e6);
		expect(workingValue({ ...strength, working: { fatigue: "high", any: "250 MPa" } }, "strength")).toBe(250e6);
	});

	it("say when the head counts other than the list", () => {
		const wrong = makeValue("tensile_strength", "4 specimens: 261 264 258 MPa");
		expect(wrong.ok ? "" : wrong.issues[0]?.code).toBe("wrong-count");
	});
});

describe("older documents", () => {
	it("read as today's, with renamed properties, and stay as they are stored", () => {
		const old = {
			schema: 1,
			family: null,
			condition: "",
			productForm: "",
			supplier: "",
			designations: [],
			description: "",
			notes: "",
			price: null,
			colour: "#9aa4a8",
			values: { solidus: { id: "solidus", property: "solidus", entered: "588 °C", low: 861.15, high: 861.15 } },
		};
		const bytes = JSON.stringify(old);
		const seen = upgradeMaterial(old as never);
		expect(JSON.stringify(old)).toBe(bytes);
		expect(must(decodeMaterial(seen)).values.solidus_temperature).toMatchObject({
			property: "solidus_temperature",
			entered: "588 °C",
		});
		expect(upgradedPlace("solidus~2")).toBe("solidus_temperature~2");
		expect(upgradedPlace("field:notes")).toBe("field:notes");
	});

	it("keep the numbers that they hold where their text reads otherwise today, and say so", () => {
		// once the second unit was read for both numbers: 180 K instead of 180 °C
		const melting = { id: "melting_temperature", property: "melting_temperature", entered: "180 °C ± 5 K", low: 175, high: 185 };
		const doubled = { id: "shear_strength", property: "shear_strength", entered: "1-2e3 MPa", low: 1e6, high: 2e9 };
		const old = { ...BLANK, schema: 2, values: { melting_temperature: melting, shear_strength: doubled } };
		const bytes = canonicalJson(old);
		const seen = must(decodeMaterial(old));
		expect(canonicalJson(old)).toBe(bytes);
		expect(seen.schema).toBe(3);
		for (const value of Object.values(seen.values) as NumberValue[]) {
			const { low, high } = quantityOf(value);
			expect([low, high]).toEqual([value.low, value.high]);
		}
		expect(
			checksOf(seen)
				.filter((c) => c.code === "text-disagrees")
				.map((c) => c.values),
		).toEqual([["melting_temperature"], ["shear_strength"]]);
		// what is written today has to read as what it holds
		expect(decodeMaterial({ ...old, schema: 3 })).toMatchObject({
			ok: false,
			issues: [{ code: "si-mismatch" }, { code: "unclear-number" }],
		});
	});
});

describe("what the third schema adds", () => {
	const decoded = (value: object) => decodeMaterial({ ...BLANK, values: { [(value as { id: string }).id]: value } });
	const tensile = { id: "tensile_strength", property: "tensile_strength", entered: ">= 650 MPa", low: 650e6, high: null };

	it("a basis for each end and for the working number", () => {
		expect(
			decoded({ ...tensile, basis: "guaranteed-minimum", bases: { working: "typical" }, working: { any: "690 MPa" } }).ok,
		).toBe(true);
		expect(decoded({ ...tensile, bases: { middle: "typical" } })).toMatchObject({ ok: false, issues: [{ code: "unknown-key" }] });
		expect(decoded({ ...tensile, bases: { low: "sure" } })).toMatchObject({ ok: false, issues: [{ code: "unknown-choice" }] });
	});

	it("a factor with its reason, on the number that is worked with", () => {
		const reduced = { ...tensile, factor: { by: "0.9", reason: "castings" } };
		const read = must(decoded(reduced)).values.tensile_strength as NumberValue;
		expect(workingValue(read)).toBeCloseTo(0.9 * 650e6, 3);
		expect(sameNumbers(read, tensile as never)).toBe(false);
		for (const factor of [
			{ by: "0", reason: "x" },
			{ by: "-1", reason: "x" },
			{ by: "1e3", reason: "x" },
			{ by: "0.9" },
			{ by: "0.9", reason: " " },
		])
			expect(decoded({ ...tensile, factor }).ok, JSON.stringify(factor)).toBe(false);
	});

	it("labels of readings, one for each", () => {
		const made = must(makeValue("tensile_strength", "624; 631; 618 MPa"));
		expect(decoded({ ...made, labels: ["H1 1", "H1 2", ""] }).ok).toBe(true);
		expect(decoded({ ...made, labels: ["H1"] })).toMatchObject({ ok: false, issues: [{ code: "wrong-type" }] });
	});

	it("a text where no number is", () => {
		const text = { id: "hardness", property: "hardness", kind: "text", text: "see sheet 4" };
		expect(must(decoded(text)).values.hardness).toEqual(text);
		expect(decoded({ ...text, text: " " })).toMatchObject({ ok: false, issues: [{ code: "empty" }] });
	});
});

describe("base and variant", () => {
	const base: Material = {
		...material(number("density", "8.8 g/cm3"), number("hardness", "80 HBW"), number("tensile_strength", "260 MPa")),
		designations: [{ text: "BZ-5" }],
		supplier: "Tolvane",
		colour: "#c08a48",
	};
	const origin = { name: "Base", uid: "u", revision: 2 };

	it("a similar one carries over values and name-like words; confirming takes the mark away", () => {
		const similar = fromSimilar(base, origin);
		expect(Object.values(similar.values).every((v) => v.carried?.revision === 2)).toBe(true);
		expect(Object.keys(similar.carriedFields)).toEqual(["designations", "supplier", "colour"]);
		expect(checksOf(similar).map((c) => c.title)).toContain("Designation still the base’s");
		expect(confirmed(similar.values.density as MaterialValue).carried).toBeUndefined();
	});

	it("a variant follows and is not carried over; a renamed twin of its base is told", () => {
		const variant = asVariant(base, origin);
		expect(Object.values(variant.values).every((v) => v.follows?.revision === 2 && v.carried === undefined)).toBe(true);
		const context = { own: [], base: { name: "Base", document: base } };
		expect(checkMaterial(variant, context).map((c) => c.code)).not.toContain("same-as-base");
		const twin = { ...base, carriedFields: {} };
		expect(checkMaterial(twin, context).map((c) => c.code)).toContain("same-as-base");
	});
});

describe("own properties", () => {
	const own = {
		uid: "abc",
		name: "Abrasion index",
		symbol: "I",
		siUnit: "m^2",
		unit: "mm^3/m",
		low: 0,
		high: 1e-3,
		explanation: "",
	};

	it("read, bound and travel with the value", () => {
		const value = must(makeValue({ id: "own_abc", property: "own:abc" }, "12-14", { fieldUnit: own.unit }, { own }));
		expect([value.low, value.high]).toEqual([12e-9, 14e-9]);
		expect(must(decodeMaterial(JSON.parse(canonicalJson(material(value))))).values.own_abc).toEqual(value);
		expect(makeValue({ id: "own_abc", property: "own:abc" }, "-1", { fieldUnit: own.unit }, { own }).ok).toBe(false);
		for (const bad of [
			{ ...own, unit: "kg" },
			{ ...own, siUnit: "mm^2" },
			{ ...own, name: "" },
			{ ...own, uid: "../x" },
			{ ...own, low: 5 },
		])
			expect(decodeMaterial({ ...BLANK, values: { own_abc: { ...value, own: bad } } }).ok).toBe(false);
		const asked = { ...own, neededFor: ["strength"], likelyLow: 1e-9, likelyHigh: 10e-9 };
		const strength = (m: Material): string[] => [
			...(readiness(m, checksOf(m), [asked]).find((r) => r.use === "strength")?.doubts ?? []),
		];
		expect(strength(BLANK)).toContain("Abrasion index, which the library asks for, is missing");
		const unusual = material(
			must(makeValue({ id: "own_abc", property: "own:abc" }, "13", { fieldUnit: own.unit }, { own: asked })),
		);
		expect(strength(unusual)).not.toContain("Abrasion index, which the library asks for, is missing");
		expect(checksOf(unusual).map((c) => [c.title, c.detail])).toEqual([
			["Abrasion index is unusual", "13.00 mm^3/m; the library expects 1.000 mm^3/m to 10.00 mm^3/m."],
		]);
		// what the library says today counts; a record of the same name with another dimension is another property
		const wider = { ...asked, likelyHigh: 20e-9 };
		expect(checkMaterial(unusual, { base: null, own: [wider] })).toEqual([]);
		expect(checkMaterial(unusual, { base: null, own: [{ ...wider, siUnit: "kg", unit: "g" }] })).toHaveLength(1);
		expect([propertyById("own:abc"), property("density").id]).toEqual([undefined, "density"]);
	});
});
