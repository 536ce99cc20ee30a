import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
	applyEdits,
	BLANK,
	canonicalJson,
	checkText,
	classify,
	cleanName,
	confirmed,
	contentAt,
	decodeMaterial,
	difference,
	type Edit,
	firstValue,
	freshValueId,
	fromSimilar,
	type Material,
	type MaterialValue,
	makeValue,
	mergeEdits,
	type NumberValue,
	sameContent,
	workingValue,
} from "./index";
import { checksOf, readinessOf } from "./testing";

function value(property: string, text: string, extra: Partial<NumberValue> = {}): NumberValue {
	const made = makeValue(property, text, {}, { evidence: "measured", ...extra });
	if (!made.ok) throw new Error(JSON.stringify(made.issues));
	return { ...made.value, ...extra } as NumberValue;
}

function material(family: string | null, ...values: MaterialValue[]): Material {
	return { ...BLANK, family, values: Object.fromEntries(values.map((v) => [v.id, v])) };
}

const STEEL = material(
	"metal.steel",
	value("density", "7.85 g/cm3"),
	value("youngs_modulus", "207 GPa"),
	value("poissons_ratio", "0.29"),
);

describe("canonical bytes", () => {
	it("sorts keys by code units and writes numbers as ECMAScript does, the rule of RFC 8785", () => {
		const sorted = canonicalJson({
			"\u20ac": "Euro Sign",
			"\r": "Carriage Return",
			"1": "One",
			"\u0080": "Control",
			"\ud83d\ude00": "Smiley",
			"\u00f6": "o",
		});
		expect(sorted).toBe(
			'{"\\r":"Carriage Return","1":"One","\u0080":"Control","\u00f6":"o","\u20ac":"Euro Sign","\ud83d\ude00":"Smiley"}',
		);
		expect(canonicalJson([1e30, 4.5, 0.002, 1e-27, -0])).toBe("[1e+30,4.5,0.002,1e-27,0]");
		expect(() => canonicalJson(Number.NaN)).toThrow();
	});

	it("gives equal text for equal content whatever the order", () => {
		fc.assert(
			fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (object) => {
				const turned = Object.fromEntries(Object.entries(object).reverse());
				expect(canonicalJson(object)).toBe(canonicalJson(turned));
				expect(sameContent(JSON.parse(canonicalJson(object)), object)).toBe(true);
			}),
			{ seed: 5 },
		);
	});
});

describe("decoding a document", () => {
	it("takes what it made itself, and blank", () => {
		expect(decodeMaterial(JSON.parse(JSON.stringify(STEEL)))).toEqual({ ok: true, value: STEEL });
		expect(decodeMaterial(JSON.parse(JSON.stringify(BLANK))).ok).toBe(true);
	});

	it.each([
		[
			"an SI number that the text does not give",
			{ ...STEEL, values: { density: { ...STEEL.values.density, low: 1, high: 1 } } },
			"si-mismatch",
		],
		["a key of the prototype", JSON.parse('{"schema":2,"__proto__":{}}'), "unknown-key"],
		["a value under a prototype key", { ...BLANK, values: JSON.parse('{"__proto__":{}}') }, "unknown-key"],
		[
			"an unknown property",
			{ ...BLANK, values: { colour: { id: "colour", property: "colour", entered: "1" } } },
			"unknown-property",
		],
		["another schema", { ...BLANK, schema: 4 }, "unknown-schema"],
		["an older schema without values", { schema: 1, values: null }, "wrong-type"],
		["a description beyond the limit", { ...BLANK, description: "x".repeat(20_001) }, "too-long"],
		["an unknown family", { ...BLANK, family: "metal.unobtainium" }, "unknown-choice"],
		["no object at all", null, "wrong-type"],
	])("refuses %s", (_, input, code) => {
		const result = decodeMaterial(input);
		expect(result.ok ? "ok" : result.issues[0]?.code).toBe(code);
	});

	it("never throws on anything that JSON can hold", () => {
		fc.assert(
			fc.property(fc.jsonValue(), (input) => {
				expect(decodeMaterial(input)).toHaveProperty("ok");
				expect(decodeMaterial({ ...BLANK, values: input })).toHaveProperty("ok");
			}),
			{ seed: 9, numRuns: 300 },
		);
	});

	it("keeps names as they are meant: NFC, trimmed, 1 to 200 characters", () => {
		expect(cleanName("  Gude\u0301  5 ")).toEqual({ ok: true, value: "Gudé 5" });
		expect(cleanName(" ").ok).toBe(false);
		const long = cleanName("x".repeat(10_000));
		expect(long.ok ? null : long.issues[0]).toMatchObject({ code: "too-long", actual: 10_000 });
	});
});

describe("edits", () => {
	const density = (text: string): MaterialValue => value("density", text);

	it("apply, and their inverse brings back the same document", () => {
		const edits: Edit[] = [
			{ at: "density", from: STEEL.values.density, to: density("7.83-7.87 g/cm3") },
			{ at: "field:condition", from: "", to: "quenched" },
			{ at: "poissons_ratio", from: STEEL.values.poissons_ratio, to: null },
		];
		const applied = applyEdits(STEEL, edits);
		if (!applied.ok) throw new Error();
		expect(contentAt(applied.value.material, "density")).toMatchObject({ low: 7830, high: 7870 });
		const back = applyEdits(applied.value.material, applied.value.inverse);
		expect(back.ok && back.value.material).toEqual(STEEL);
		expect(difference(STEEL, applied.value.material).map((e) => e.at)).toEqual(["field:condition", "density", "poissons_ratio"]);
	});

	it("refuse what somebody has not seen, and name the content that stands there", () => {
		const stale = applyEdits(STEEL, [{ at: "density", from: density("7.9 g/cm3"), to: density("8 g/cm3") }]);
		expect(stale.ok ? null : stale.issues[0]).toMatchObject({ code: "conflict", path: "density", current: STEEL.values.density });
		expect(applyEdits(STEEL, [{ at: "field:secret", from: null, to: "x" }]).ok).toBe(false);
		expect(applyEdits(STEEL, [{ at: "__proto__", from: null, to: { polluted: true } }]).ok).toBe(false);
	});

	it("merge value by value, and clash only where both changed the same place differently", () => {
		const theirs = applyEdits(STEEL, [{ at: "density", from: STEEL.values.density, to: density("7.84 g/cm3") }]);
		if (!theirs.ok) throw new Error();
		const other: Edit = { at: "youngs_modulus", from: STEEL.values.youngs_modulus, to: value("youngs_modulus", "210 GPa") };
		const merged = mergeEdits(STEEL, [other], theirs.value.material);
		expect(merged.ok && [firstValue(merged.value, "density")?.low, firstValue(merged.value, "youngs_modulus")?.low]).toEqual([
			7840, 210e9,
		]);
		const clash = mergeEdits(
			STEEL,
			[{ at: "density", from: STEEL.values.density, to: density("7.8 g/cm3") }],
			theirs.value.material,
		);
		expect(clash.ok ? null : clash.issues[0]?.code).toBe("conflict");
		const same = mergeEdits(
			STEEL,
			[{ at: "density", from: STEEL.values.density, to: density("7.84 g/cm3") }],
			theirs.value.material,
		);
		expect(same.ok).toBe(true);
	});

	it("are classed by what they change", () => {
		expect(classify([{ at: "field:notes", from: "", to: "x" }])).toBe("words");
		expect(classify([{ at: "density", from: null, to: density("1 g/cm3") }])).toBe("values-added");
		expect(classify([{ at: "density", from: density("1 g/cm3"), to: density("2 g/cm3") }])).toBe("values-changed");
		expect(classify([{ at: "density", from: density("1 g/cm3"), to: { ...density("1 g/cm3"), source: "page 3" } }])).toBe(
			"words",
		);
	});
});

describe("working values", () => {
	it("are the low end of a strength, the middle of a density, nothing from a lone upper limit", () => {
		expect(workingValue(value("yield_strength", "260-310 MPa"))).toBe(260e6);
		expect(workingValue(value("density", "8.78-8.91 g/cm3"))).toBeCloseTo(8845, 9);
		expect(workingValue(value("tensile_strength", "max. 410 MPa"))).toBeNull();
		expect(workingValue(value("yield_strength", ">= 118 MPa"))).toBe(118e6);
		// the middle of what was typed, a conductivity: 30 %IACS, not the middle of the resistivities
		expect(workingValue(value("resistivity", "20-40 %IACS"))).toBeCloseTo(1 / (0.3 * 58e6), 20);
	});
});

describe("from a similar one", () => {
	it("marks every value carried over until it is confirmed, and keeps the first origin", () => {
		const origin = { name: "Base", uid: "u1", revision: 2 };
		const copy = fromSimilar(STEEL, origin);
		expect(Object.values(copy.values).every((v) => v.carried === origin)).toBe(true);
		expect(confirmed(copy.values.density as MaterialValue)).toEqual(STEEL.values.density);
		expect(fromSimilar(copy, { name: "Second", uid: "u2", revision: 1 }).values.density?.carried).toBe(origin);
		expect(freshValueId(STEEL, "density")).toBe("density~2");
		expect(checksOf(copy).find((c) => c.code === "carried-over")?.values.length).toBe(3);
		expect(readinessOf(copy)[0]).toMatchObject({ state: "doubts", doubts: ["density is carried over"] });
	});
});

describe("readiness", () => {
	const states = (m: Material): string =>
		readinessOf(m)
			.map((r) => ({ ready: "R", doubts: "d", "not-ready": "-" })[r.state])
			.join("");

	it("names what is missing for each use in its fixed order", () => {
		expect(states(BLANK)).toBe("------------------");
		expect(states(STEEL)).toBe("RR-R------------d-");
		expect(readinessOf(STEEL)[2]?.missing).toEqual([["yield_strength"]]);
		expect(readinessOf(BLANK)[1]?.missing).toEqual([["youngs_modulus"], ["poissons_ratio", "shear_modulus", "bulk_modulus"]]);
	});

	it("takes any two of E, nu, G, K", () => {
		expect(states(material(null, value("shear_modulus", "26 GPa"), value("bulk_modulus", "70 GPa")))).toBe("-R----------------");
	});

	it("asks by family: compressive of a ceramic, the ply set of a composite", () => {
		const ceramic = material(
			"ceramic",
			value("youngs_modulus", "330 GPa"),
			value("poissons_ratio", "0.22"),
			value("tensile_strength", "205 MPa"),
		);
		expect(readinessOf(ceramic)[2]?.missing).toEqual([["compressive_strength"]]);
		const ply = material("composite", value("youngs_modulus", "50 GPa"), value("poissons_ratio", "0.3"));
		expect(readinessOf(ply)[2]?.missing.flat()).toEqual(["ply_Xt", "ply_Xc", "ply_Yt", "ply_Yc", "ply_S"]);
	});

	it("doubts a typical strength, missing evidence and an estimate", () => {
		const typical = material(
			"metal.steel",
			...Object.values(STEEL.values),
			value("yield_strength", "640 MPa", { basis: "typical" }),
		);
		expect(readinessOf(typical)[2]).toMatchObject({ state: "doubts", doubts: ["yield or proof stress is a typical value"] });
		const bare = material("metal.steel", { ...value("density", "7.85 g/cm3"), evidence: undefined as never });
		expect(readinessOf(bare)[0]?.doubts).toEqual(["density has no evidence"]);
	});

	it("lets an incompressible elastomer weigh, but not into linear statics", () => {
		const rubber = material(
			"elastomer",
			value("density", "1.1 g/cm3"),
			value("youngs_modulus", "3 MPa"),
			value("poissons_ratio", "0.5"),
		);
		// its family lends the hatch
		expect(states(rubber)).toBe("R---------------d-");
	});
});

describe("checks", () => {
	const codes = (m: Material): string[] => checksOf(m).map((c) => c.code);

	it("compare E, G and nu through their ranges: E = 2G(1 + nu)", () => {
		const consistent = material(
			"metal.steel",
			value("youngs_modulus", "207 GPa"),
			value("shear_modulus", "80.2 GPa"),
			value("poissons_ratio", "0.29"),
		);
		expect(codes(consistent)).toEqual([]);
		const ranges = material(
			"metal.copper",
			value("youngs_modulus", "98-107 GPa"),
			value("shear_modulus", "36.8-40.1 GPa"),
			value("poissons_ratio", "0.32-0.35"),
		);
		expect(codes(ranges)).toEqual([]);
		const off = material(
			"metal.steel",
			value("youngs_modulus", "207 GPa"),
			value("shear_modulus", "76 GPa"),
			value("poissons_ratio", "0.29"),
		);
		expect(checksOf(off)[0]).toMatchObject({ code: "elastic-disagree", severity: "doubtful" });
		const wrong = material(
			"metal.steel",
			value("youngs_modulus", "207 GPa"),
			value("shear_modulus", "60 GPa"),
			value("poissons_ratio", "0.29"),
		);
		expect(checksOf(wrong)[0]).toMatchObject({ code: "elastic-disagree", severity: "wrong" });
	});

	it("find a yield above the tensile strength; an upper yield is only doubtful", () => {
		const swapped = material("metal.steel", value("yield_strength", "510 MPa"), value("tensile_strength", "360 MPa"));
		expect(checksOf(swapped)[0]).toMatchObject({ code: "yield-above-tensile", severity: "wrong" });
		const upper = material(
			"metal.steel",
			value("yield_strength", "510 MPa", { qualifier: "ReH" }),
			value("tensile_strength", "360 MPa"),
		);
		expect(checksOf(upper)[0]?.severity).toBe("doubtful");
	});

	it("write their figures in the units of the reader", () => {
		const [check] = checksOf(material("metal.steel", value("yield_strength", "510 MPa"), value("tensile_strength", "360 MPa")));
		if (check === undefined) throw new Error();
		expect(checkText(check)).toBe("510000000 Pa against 360000000 Pa. The two may be interchanged, or one has another unit.");
		expect(checkText(check, (f) => `${f.si / 1e6} MPa`)).toContain("510 MPa against 360 MPa");
	});

	it("name the slip of a unit behind an implausible number", () => {
		const thousand = material("metal.steel", value("youngs_modulus", "207 MPa"));
		expect(checksOf(thousand)[0]?.detail).toContain("GPa and MPa");
		const ksi = material("metal.aluminium", value("youngs_modulus", "10.1 GPa"));
		expect(checksOf(ksi)[0]?.detail).toContain("Msi and GPa");
		const kcal = material("metal.aluminium", value("specific_heat", "0.214 J/(kg·K)"));
		expect(checksOf(kcal)[0]?.detail).toContain("Btu/(lb·°F)");
		// without a family it is still compared with what any family has
		expect(codes(material(null, value("density", "1 kg/m3")))).toEqual(["outside-band"]);
		expect(codes(material(null, value("density", "30 kg/m3")))).toEqual([]);
	});
});
