import fc from "fast-check";
import { describe, expect, it } from "vitest";
import fixture from "../../../../fixtures/directional.json";
import {
	ELASTIC_IDS,
	type ElasticId,
	elasticSource,
	isDirectional,
	orthotropicStability,
	positiveDefinite,
	solveIsotropic,
} from "./elastic";
import { number, readinessOf } from "./testing";
import { BLANK, type Material, type SetValue } from "./types";

/** Compliance of the normal strains in Voigt order, by its definition. */
function compliance(c: Record<string, number>): number[][] {
	const { E1, E2, E3, nu12, nu13, nu23, G12, G13, G23 } = c as Record<string, number> & { E1: number };
	const S = Array.from({ length: 6 }, () => Array<number>(6).fill(0));
	const put = (i: number, j: number, x: number): void => {
		(S[i] as number[])[j] = x;
		(S[j] as number[])[i] = x;
	};
	put(0, 0, 1 / E1);
	put(1, 1, 1 / (E2 as number));
	put(2, 2, 1 / (E3 as number));
	put(0, 1, -(nu12 as number) / E1);
	put(0, 2, -(nu13 as number) / E1);
	put(1, 2, -(nu23 as number) / (E2 as number));
	put(3, 3, 1 / (G23 as number));
	put(4, 4, 1 / (G13 as number));
	put(5, 5, 1 / (G12 as number));
	return S;
}

describe("isotropic constants", () => {
	it("follow from any two of them (closed forms, all six pairs lead back to the same solid)", () => {
		fc.assert(
			fc.property(fc.double({ min: 1e6, max: 1e12, noNaN: true }), fc.double({ min: -0.9, max: 0.49, noNaN: true }), (E, nu) => {
				const all = solveIsotropic(["youngs_modulus", "poissons_ratio"], E, nu);
				if (all === null) throw new Error();
				const pairs: [ElasticId, ElasticId][] = [
					["youngs_modulus", "bulk_modulus"],
					["shear_modulus", "poissons_ratio"],
					["bulk_modulus", "poissons_ratio"],
					["shear_modulus", "bulk_modulus"],
					["youngs_modulus", "shear_modulus"],
				];
				for (const pair of pairs) {
					const again = solveIsotropic(pair, all[pair[0]], all[pair[1]]);
					if (again === null) throw new Error(`${pair} of ${E} ${nu}`);
					for (const id of ELASTIC_IDS) expect(Math.abs(again[id] - all[id])).toBeLessThan(1e-8 * Math.max(Math.abs(all[id]), 1));
				}
			}),
			{ seed: 2, numRuns: 200 },
		);
	});

	it("allow no solid where nu would leave (-1, 0.5)", () => {
		expect(solveIsotropic(["youngs_modulus", "shear_modulus"], 210e9, 60e9)).toBeNull();
		expect(solveIsotropic(["youngs_modulus", "poissons_ratio"], 3e6, 0.5)).toBeNull();
	});
});

describe("what analyses work with", () => {
	const components = (text: string): SetValue["components"] =>
		Object.fromEntries(
			text.split(" ").map((entry) => {
				const [name = "", n = ""] = entry.split("=");
				const ratio = name.startsWith("nu");
				const si = Number(n) * (ratio ? 1 : 1e9);
				return [name, { entered: ratio ? n : `${n} GPa`, low: si, high: si }];
			}),
		);
	const ply = "E1=120 E2=9 nu12=0.3 G12=5";
	const isotropic = { youngs_modulus: number("youngs_modulus", "70 GPa"), poissons_ratio: number("poissons_ratio", "0.33") };
	const sheet = (text: string, values: Material["values"], elasticity: Material["elasticity"] = "isotropic"): Material => {
		const id = "elastic_set";
		const set: SetValue = { id, property: id, kind: "set", symmetry: "ply", axes: ["1", "2", "3"], components: components(text) };
		return { ...BLANK, elasticity, values: { ...values, [id]: set } };
	};
	const linearStatic = (m: Material) => readinessOf(m).find((r) => r.use === "linear_static");

	it("is the complete set by itself where nothing else describes the solid", () => {
		expect(elasticSource(sheet(ply, {})).from).toBe("set");
		expect(linearStatic(sheet(ply, {}))?.state).not.toBe("not-ready");
		// one constant alone describes no solid
		expect(elasticSource(sheet(ply, { youngs_modulus: isotropic.youngs_modulus })).from).toBe("set");
	});

	it("stays E and nu where they are given, until the set is asked for", () => {
		expect(elasticSource(sheet(ply, isotropic))).toEqual({
			from: "constants",
			missing: [],
			stated: ["youngs_modulus", "poissons_ratio"],
		});
		expect(isDirectional(sheet(ply, isotropic, "directional"))).toBe(true);
	});

	it("waits for what its symmetry still needs", () => {
		const begun = sheet("E1=120 nu12=0.3", {});
		expect(elasticSource(begun)).toEqual({ from: "constants", missing: ["E2", "G12"], stated: [] });
		expect(linearStatic(begun)?.state).toBe("not-ready");
		const asked = linearStatic(sheet("E1=120 nu12=0.3", isotropic, "directional"));
		expect(asked?.doubts.join()).toContain("E2, G12 of the directional set missing");
	});
});

describe("directional sets", () => {
	it.each(fixture.sets)("$name: as its exact minors say", (set) => {
		const constants = set as unknown as Record<string, number>;
		const stability = orthotropicStability(constants as never);
		expect(stability.sound).toBe(set.sound);
		expect(stability.failingPairs.length === 0).toBe(set.pairs_pass);
		// second method: Cholesky of the whole 6x6 compliance
		expect(positiveDefinite(compliance(constants))).toBe(set.sound);
	});

	it("agree with the Cholesky of the whole compliance on random sets", () => {
		const modulus = fc.double({ min: 1, max: 200, noNaN: true });
		const ratio = fc.double({ min: -1.2, max: 1.2, noNaN: true });
		fc.assert(
			fc.property(modulus, modulus, modulus, ratio, ratio, ratio, (E1, E2, E3, nu12, nu13, nu23) => {
				const c = { E1, E2, E3, nu12, nu13, nu23, G12: 5, G13: 5, G23: 5 };
				const { sound, determinant } = orthotropicStability(c);
				fc.pre(Math.abs(determinant) > 1e-9);
				expect(positiveDefinite(compliance(c))).toBe(sound);
			}),
			{ seed: 8, numRuns: 500 },
		);
	});
});
