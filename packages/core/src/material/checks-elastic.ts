import { isFamily } from "../property";
import { significant } from "../quantity";
import type { Check } from "./checks";
import { elasticSet, elasticSource, setStability } from "./elastic";
import { coefficient } from "./make";
import type { Material, NumberValue, SetValue } from "./types";
import { firstValue, quantityOf } from "./value";

type Interval = readonly [number, number];

/** Closed interval of a value, widened by half a unit of its last typed digit; null when open. */
function interval(value: NumberValue | null): Interval | null {
	if (value === null || value.low === null || value.high === null) return null;
	const quantity = quantityOf(value);
	const half = (si: number, digits: string | undefined): number => {
		const decimals = digits?.split(".")[1]?.length ?? 0;
		const typed = Math.abs(Number(digits));
		return digits === undefined || !(typed > 0) ? 0 : (Math.abs(si) * 0.5 * 10 ** -decimals) / typed;
	};
	return [value.low - half(value.low, quantity.digits[0]), value.high + half(value.high, quantity.digits.at(-1))];
}

/** How far E, G and nu of an isotropic solid are apart, as a share; 0 when they agree through ranges and digits; null unless all three are there. */
export function elasticGap(material: Material): number | null {
	const [E, G, nu] = ["youngs_modulus", "shear_modulus", "poissons_ratio"].map((id) => interval(firstValue(material, id)));
	if (!E || !G || !nu) return null;
	return relativeGap(E, [2 * G[0] * (1 + nu[0]), 2 * G[1] * (1 + nu[1])]);
}

/**
 * E = 2 G (1 + nu) and K = E / (3 (1 - 2 nu)) of an isotropic solid, compared through the ranges and the digits given:
 * the disagreement is the gap between the stated interval and the one that the other two allow, relative to the stated
 * value. Directional sets: the whole compliance has to be positive definite.
 */
export function elasticChecks(material: Material): Check[] {
	return [...isotropicChecks(material), ...directionalChecks(material)];
}

function isotropicChecks(material: Material): Check[] {
	const checks: Check[] = [];
	const E = interval(firstValue(material, "youngs_modulus"));
	const G = interval(firstValue(material, "shear_modulus"));
	const nu = interval(firstValue(material, "poissons_ratio"));
	const K = interval(firstValue(material, "bulk_modulus"));
	const gap = elasticGap(material);
	if (E && G && nu && gap !== null && gap > 0.02) {
		checks.push({
			code: "elastic-disagree",
			severity: gap > 0.1 ? "wrong" : "doubtful",
			title: "E, G and ν disagree",
			detail: `2G(1 + ν) is {0}, ${percent(gap)} away from E. Check which of the three is not of this material.`,
			figures: [{ si: G[0] * (1 + nu[0]) + G[1] * (1 + nu[1]), property: "youngs_modulus" }],
			values: ["youngs_modulus", "shear_modulus", "poissons_ratio"],
		});
	}
	if (E && K && nu && nu[1] < 0.5) {
		const apart = relativeGap(K, [E[0] / (3 * (1 - 2 * nu[0])), E[1] / (3 * (1 - 2 * nu[1]))]);
		if (apart > 0.05) {
			checks.push({
				code: "bulk-disagrees",
				severity: "doubtful",
				title: "K does not follow from E and ν",
				detail: `E/(3(1 − 2ν)) is ${percent(apart)} away from K. Near ν = 0.5 small differences of ν weigh much.`,
				figures: [],
				values: ["bulk_modulus", "youngs_modulus", "poissons_ratio"],
			});
		}
	}
	const stated = firstValue(material, "poissons_ratio");
	if (stated?.high === 0.5 && !isFamily(material.family, "elastomer") && !isFamily(material.family, "fluid")) {
		checks.push({
			code: "incompressible",
			severity: "doubtful",
			title: "ν = 0.5 is incompressible",
			detail: "A linear static analysis cannot use it. Only elastomers come so close.",
			figures: [],
			values: ["poissons_ratio"],
		});
	}
	return checks;
}

function directionalChecks(material: Material): Check[] {
	const set = elasticSet(material);
	if (set === null) return [];
	const stability = setStability(set);
	if (stability === null) {
		const wanted = elasticSource(material).missing.map((name) => name.replace("nu", "ν"));
		return wanted.length === 0
			? []
			: [
					{
						code: "set-incomplete",
						severity: "note",
						title: "The directional set is not complete",
						detail: `Missing for its symmetry: ${wanted.length > 9 ? `${wanted.length} of its constants` : wanted.join(", ")}.`,
						figures: [],
						values: [set.id],
					},
				];
	}
	if (stability.sound) return minorRatioChecks(set);
	const pairs = stability.failingPairs;
	const why =
		pairs.length > 0
			? `|ν_${pairs[0]}| has to be below √(E_${pairs[0]?.[0]}/E_${pairs[0]?.[1]}).`
			: set.symmetry === "anisotropic"
				? "The 6 × 6 stiffness is not positive definite."
				: `Each pair passes, but 1 − Σr² − 2·r₁₂r₁₃r₂₃ is ${significant(stability.determinant, 3)}; it has to be above 0.`;
	return [
		{
			code: "compliance-not-positive",
			severity: "wrong",
			title: "This directional set cannot exist",
			detail: `${why} Some strain would give energy away. Check the ratios: ν_ij belongs to tension along i.`,
			figures: [],
			values: [set.id],
		},
	];
}

/**
 * The minor ratio typed as the major one: of a strongly directional ply nu12 is far below what every ply has, and
 * nu12 E1/E2 is what they have. Spans: engineering judgement.
 */
function minorRatioChecks(set: SetValue): Check[] {
	const [E1, E2, nu] = ["E1", "E2", "nu12"].map((name) => coefficient(set.components[name]));
	if (E1 == null || E2 == null || nu == null || E1 / E2 < 3) return [];
	const major = (nu * E1) / E2;
	if (nu >= 0.12 || major < 0.15 || major > 0.5) return [];
	return [
		{
			code: "minor-ratio",
			severity: "doubtful",
			title: "ν₁₂ may be the minor ratio ν₂₁",
			detail: `ν₁₂·E₁/E₂ is ${significant(major, 3)}, as a major ratio usually is. ν_ij belongs to tension along i.`,
			figures: [],
			values: [set.id],
			slip: { ratio: E1 / E2, said: "ν₁₂ and ν₂₁" },
		},
	];
}

/** How far two intervals are apart, relative to the middle of the first; 0 when they touch. */
function relativeGap(a: Interval, b: Interval): number {
	const [b0, b1] = [Math.min(b[0], b[1]), Math.max(b[0], b[1])];
	const gap = Math.max(0, b0 - a[1], a[0] - b1);
	return gap / Math.abs(a[0] / 2 + a[1] / 2);
}

function percent(x: number): string {
	return `${significant(x * 100, 2)} %`;
}
