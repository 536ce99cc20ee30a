import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Likened, likeness, nameLikeness } from "./likeness";
import { BLANK } from "./types";

describe("names", () => {
	it.each([
		["Gudgeon bronze 5", "gudgeon  Bronze-5", "same"],
		["Aluminium 6061-T6", "6061 T6 aluminium", "same"],
		["Bronze à canon", "bronze a canon", "same"],
		["Gudgeon bronze", "Gugdeon bronze", "near"],
		["Tolvane steel", "Tolvan steel", "near"],
		["Aluminium sheet", "Aluminum sheet", "near"],
	])("%s and %s are %s", (a, b, kind) => expect(nameLikeness(a, b)?.kind).toBe(kind));

	it.each([
		["Aluminium 6061-T6", "Aluminium 6061-T651", "T6 / T651"],
		["Steel S355JR", "Steel S355J2", "S355JR / S355J2"],
		["Gudgeon bronze 5", "Gudgeon bronze 6", "5 / 6"],
		["Hull plate", "Hull plate T6", "NOTHING / T6"],
	])("%s and %s are told apart by %s", (a, b, difference) => {
		const found = nameLikeness(a, b);
		expect(found?.kind).toBe("variant");
		expect(found?.kind === "variant" ? found.difference.toUpperCase() : "").toBe(difference);
	});

	it.each([
		["Gudgeon bronze", "Tolvane bronze"],
		["Gudgeon bronze 5", "Gugdeon bronze 6"],
		["PA 6", "PE 6"],
		["304", "316"],
		["", "Bronze"],
		["Bronze", "Brass"],
	])("%s and %s are not alike", (a, b) => {
		const found = nameLikeness(a, b);
		expect(found === null || found.kind === "variant").toBe(true);
		expect(found?.kind).not.toBe("near");
	});

	it("is the same both ways round, and every name is the same as itself in capitals", () => {
		const name = fc.array(fc.constantFrom("steel", "stele", "plate", "S355", "JR", "T6", "T651", "304", "x"), {
			minLength: 1,
			maxLength: 4,
		});
		fc.assert(
			fc.property(name, name, (a, b) => {
				const [x, y] = [a.join(" "), b.join("-")];
				expect(nameLikeness(x, y)?.kind).toBe(nameLikeness(y, x)?.kind);
				expect(nameLikeness(x, x.toUpperCase())?.kind).toBe("same");
			}),
		);
	});
});

const sheet = (name: string, numbers: Record<string, number>, more: Partial<Likened["material"]> = {}): Likened => ({
	name,
	material: { family: "metal.aluminium", condition: "T6", composition: [], ...more },
	numbers: new Map(Object.entries(numbers)),
});

// the four of the rule, two of them telling
const VALUES = { density: 2700, youngs_modulus: 68.9e9, tensile_strength: 310e6, yield_strength: 276e6 };

describe("the rule", () => {
	it("four shared values within 1 %, two of them telling, in one family and condition", () => {
		const a = sheet("Plate one", VALUES);
		expect(likeness(a, sheet("Other", { ...VALUES, yield_strength: 278.7e6 }))).toMatchObject({
			likely: true,
			name: null,
			shared: ["density", "youngs_modulus", "tensile_strength", "yield_strength"],
			differing: [],
		});
		// 1 % of the larger is the limit: 276 / 0.99 = 278.79
		expect(likeness(a, sheet("Other", { ...VALUES, yield_strength: 278.8e6 }))).toMatchObject({
			likely: false,
			differing: ["yield_strength"],
		});
		expect(likeness(a, sheet("Other", VALUES, { condition: "annealed" })).likely).toBe(false);
		expect(likeness(a, sheet("Other", VALUES, { condition: " t-6 " })).likely).toBe(true);
		expect(likeness(a, sheet("Other", VALUES, { family: "metal.copper" })).likely).toBe(false);
	});

	it("three, or only one that tells, are not enough", () => {
		const { yield_strength: _, ...three } = VALUES;
		expect(likeness(sheet("One", three), sheet("Other", three)).likely).toBe(false);
		const dull = { ...three, poissons_ratio: 0.33 };
		expect(likeness(sheet("One", dull), sheet("Other", dull)).likely).toBe(false);
		expect(likeness(sheet("One", { ...dull, hardness: 95 }), sheet("Other", { ...dull, hardness: 95 })).likely).toBe(true);
	});

	it("a composition is one of the telling ones", () => {
		const { yield_strength: _, ...three } = VALUES;
		const composition = [
			{ name: "Al", min: "", max: "", balance: true },
			{ name: "Mg", min: "0.8", max: "1.2" },
		];
		const turned = [
			{ name: "mg", min: "0.80", max: "1,2" },
			{ name: "AL", min: "", max: "", balance: true },
		];
		expect(likeness(sheet("One", three, { composition }), sheet("Other", three, { composition: turned }))).toMatchObject({
			likely: true,
			shared: ["density", "youngs_modulus", "tensile_strength", "composition"],
		});
		const other = [composition[0] as (typeof composition)[0], { name: "Mg", min: "0.8", max: "1.5" }];
		expect(likeness(sheet("One", three, { composition }), sheet("Other", three, { composition: other })).differing).toEqual([
			"composition",
		]);
	});

	it("a near name is enough, a name apart by its temper never is", () => {
		expect(likeness(sheet("Gudgeon bronze", {}), sheet("Gugdeon bronze", {})).likely).toBe(true);
		expect(likeness(sheet("Alu 6061-T6", {}), sheet("Alu 6061-T651", {}))).toMatchObject({
			likely: false,
			name: { kind: "variant" },
		});
		expect(likeness(sheet("Alu 6061-T6", VALUES), sheet("Alu 6061-T651", VALUES)).likely).toBe(true);
	});

	it("nothing is like nothing", () => {
		const blank: Likened = { name: "a", material: BLANK, numbers: new Map() };
		expect(likeness(blank, { ...blank, name: "b" })).toEqual({ likely: false, name: null, shared: [], differing: [] });
	});
});
