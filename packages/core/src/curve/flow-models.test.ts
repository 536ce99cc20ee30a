import { describe, expect, it } from "vitest";
import { formById } from "../property";
import { flowStress } from "./index";

const MPa = 1e6;

describe("flow stress by a model", () => {
	it("bilinear: the tangent over total strain and the hardening modulus say the same line", () => {
		const [e, et] = [200e9, 2e9];
		// a second route: strains added up along the line, σ = σ0 + Et (ε − σ0/E) and ε_p = ε − σ/E
		for (const total of [0.002, 0.01, 0.05]) {
			const stress = 250 * MPa + et * (total - (250 * MPa) / e);
			const plastic = total - stress / e;
			expect(flowStress("bilinear-tangent", { sigma0: 250 * MPa, Et: et }, plastic, e)).toBeCloseTo(stress, 3);
			const h = (e * et) / (e - et);
			expect(flowStress("bilinear-hardening", { sigma0: 250 * MPa, H: h }, plastic, null)).toBeCloseTo(stress, 3);
		}
		expect(flowStress("bilinear-tangent", { sigma0: 250 * MPa, Et: et }, 0.01, null)).toBeNull();
		expect(flowStress("bilinear-tangent", { sigma0: 250 * MPa, Et: et }, 0.01, et)).toBeNull();
	});

	it("Ramberg-Osgood: the 0.2 % proof stress at 0.2 % plastic strain, and back by its own expression", () => {
		const c = { sigma02: 300 * MPa, n: 12 };
		expect(flowStress("ramberg-osgood", c, 0.002, null)).toBeCloseTo(300 * MPa, 3);
		const stress = flowStress("ramberg-osgood", c, 0.03, null) ?? 0;
		expect(0.002 * (stress / (300 * MPa)) ** 12).toBeCloseTo(0.03, 12);
	});

	it("Hollomon, Ludwik, Swift: powers that agree where their extra coefficients vanish, and by logarithms", () => {
		const strain = 0.08;
		const hollomon = flowStress("hollomon", { K: 600 * MPa, n: 0.2 }, strain, null) ?? 0;
		expect(Math.log(hollomon / (600 * MPa)) / Math.log(strain)).toBeCloseTo(0.2, 12);
		expect(flowStress("ludwik", { sigma0: 0, K: 600 * MPa, n: 0.2 }, strain, null)).toBe(hollomon);
		expect(flowStress("swift", { K: 600 * MPa, eps0: 0, n: 0.2 }, strain, null)).toBe(hollomon);
		expect(flowStress("ludwik", { sigma0: 200 * MPa, K: 600 * MPa, n: 0.2 }, 0, null)).toBe(200 * MPa);
	});

	it("Voce: begins at the yield stress, comes half way at ε_c ln 2, and saturates", () => {
		const c = { sigma0: 200 * MPa, sigmas: 400 * MPa, epsc: 0.05 };
		expect(flowStress("voce", c, 0, null)).toBeCloseTo(200 * MPa, 3);
		expect(flowStress("voce", c, 0.05 * Math.LN2, null)).toBeCloseTo(300 * MPa, 3);
		expect(flowStress("voce", c, 10, null)).toBeCloseTo(400 * MPa, 3);
	});

	it("knows every form of the catalogue, and says none where a coefficient is missing or the form is unknown", () => {
		const form = formById("plasticity_model");
		if (form?.kind !== "model") throw new Error("the plasticity model is gone");
		for (const { id, coefficients } of form.forms) {
			const ones = Object.fromEntries(Object.keys(coefficients).map((name) => [name, 1]));
			expect(flowStress(id, ones, 0.1, 1e9), id).not.toBeNull();
			expect(flowStress(id, {}, 0.1, 1e9), id).toBeNull();
		}
		expect(flowStress("none", { K: 1 }, 0.1, null)).toBeNull();
	});
});
