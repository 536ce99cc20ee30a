import { isFamily, plausibleBand, property } from "../property";
import { significant } from "../quantity";
import type { Material, MaterialValue } from "./types";
import { firstValue, workingValue } from "./value";

export type Severity = "wrong" | "doubtful" | "note";

/** What looks wrong: the rule, its figures, a remedy. Never refuses by itself. */
export type Check = {
	readonly code: string;
	readonly severity: Severity;
	readonly title: string;
	/** `{0}`, `{1}` stand for the figures, which are shown in the reader's own units: see `checkText`. */
	readonly detail: string;
	readonly figures: readonly Figure[];
	/** Value ids that it is about. */
	readonly values: readonly string[];
};

/** A number in SI, in the unit of that property. */
export type Figure = { readonly si: number; readonly property: string };

/** The detail with its figures written in. */
export function checkText(check: Check, write: (figure: Figure) => string = siText): string {
	return check.detail.replace(/\{(\d)\}/g, (_, n: string) => {
		const figure = check.figures[Number(n)];
		return figure === undefined ? "" : write(figure);
	});
}

function siText(figure: Figure): string {
	return `${significant(figure.si, 4)} ${property(figure.property).siUnit}`;
}

/** All checks of a material, the gravest first. */
export function checkMaterial(material: Material): readonly Check[] {
	const found = [...elasticChecks(material), ...strengthChecks(material), ...bandChecks(material), ...carriedChecks(material)];
	const rank = { wrong: 0, doubtful: 1, note: 2 };
	return found.sort((a, b) => rank[a.severity] - rank[b.severity]);
}

/** Closed interval of a value, widened by half a unit of its last digit; null when open. */
function interval(value: MaterialValue | null): readonly [number, number] | null {
	if (value === null || value.low === null || value.high === null) return null;
	return [value.low, value.high];
}

/**
 * E = 2 G (1 + nu) and K = E / (3 (1 - 2 nu)) of an isotropic solid, compared through the ranges: the disagreement is
 * the gap between the stated interval and the one that the other two allow, relative to the stated value.
 */
function elasticChecks(material: Material): Check[] {
	const checks: Check[] = [];
	const E = interval(firstValue(material, "youngs_modulus"));
	const G = interval(firstValue(material, "shear_modulus"));
	const nu = interval(firstValue(material, "poissons_ratio"));
	const K = interval(firstValue(material, "bulk_modulus"));
	if (E && G && nu) {
		const gap = relativeGap(E, [2 * G[0] * (1 + nu[0]), 2 * G[1] * (1 + nu[1])]);
		if (gap > 0.02) {
			checks.push({
				code: "elastic-disagree",
				severity: gap > 0.1 ? "wrong" : "doubtful",
				title: "E, G and ν disagree",
				detail: `2G(1 + ν) is {0}, ${percent(gap)} away from E. Check which of the three is not of this material.`,
				figures: [{ si: G[0] * (1 + nu[0]) + G[1] * (1 + nu[1]), property: "youngs_modulus" }],
				values: ["youngs_modulus", "shear_modulus", "poissons_ratio"],
			});
		}
	}
	if (E && K && nu && nu[1] < 0.5) {
		const gap = relativeGap(K, [E[0] / (3 * (1 - 2 * nu[0])), E[1] / (3 * (1 - 2 * nu[1]))]);
		if (gap > 0.05) {
			checks.push({
				code: "bulk-disagrees",
				severity: "doubtful",
				title: "K does not follow from E and ν",
				detail: `E/(3(1 − 2ν)) is ${percent(gap)} away from K. Near ν = 0.5 small differences of ν weigh much.`,
				figures: [],
				values: ["bulk_modulus", "youngs_modulus", "poissons_ratio"],
			});
		}
	}
	if (nu && nu[1] === 0.5 && !isFamily(material.family, "elastomer") && !isFamily(material.family, "fluid")) {
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

function strengthChecks(material: Material): Check[] {
	const yieldStress = firstValue(material, "yield_strength");
	const tensile = firstValue(material, "tensile_strength");
	if (yieldStress?.low == null || tensile?.high == null || yieldStress.low <= tensile.high) return [];
	const upper = yieldStress.qualifier === "ReH";
	return [
		{
			code: "yield-above-tensile",
			severity: upper ? "doubtful" : "wrong",
			title: "Yield lies above tensile strength",
			detail: "{0} against {1}. The two may be interchanged, or one has another unit.",
			figures: [
				{ si: yieldStress.low, property: "yield_strength" },
				{ si: tensile.high, property: "tensile_strength" },
			],
			values: ["yield_strength", "tensile_strength"],
		},
	];
}

/** Ratios of common slips of units, named by what was probably typed. Derived from the exact factors of quantity/. */
const SLIPS: readonly { readonly ratio: number; readonly said: string; readonly properties: readonly string[] }[] = [
	{ ratio: 1000, said: "a factor of 1000 (kg/m³ for g/cm³, GPa for MPa)", properties: ["*"] },
	{ ratio: 27679.9, said: "lb/in³ for kg/m³", properties: ["density"] },
	{ ratio: 27.68, said: "lb/in³ for g/cm³", properties: ["density"] },
	{ ratio: 16.018, said: "lb/ft³ for kg/m³", properties: ["density"] },
	{ ratio: 62.43, said: "lb/ft³ for g/cm³", properties: ["density"] },
	{ ratio: 1728, said: "lb/in³ for lb/ft³", properties: ["density"] },
	{ ratio: 6.895, said: "ksi for MPa, or Msi for GPa", properties: ["stress"] },
	{ ratio: 145.04, said: "psi for kPa, or MPa for psi", properties: ["stress"] },
	{ ratio: 9.80665, said: "kgf for N", properties: ["stress"] },
	{ ratio: 1.8, said: "per °F for per K", properties: ["thermal_expansion"] },
	{ ratio: 1.7307, said: "Btu/(h·ft·°F) for W/(m·K)", properties: ["thermal_conductivity"] },
	{ ratio: 12, said: "feet for inches", properties: ["thermal_conductivity"] },
	{ ratio: 1.163, said: "kcal/(m·h·K) for W/(m·K)", properties: ["thermal_conductivity"] },
	{ ratio: 4186.8, said: "kcal/(kg·K) or Btu/(lb·°F) for J/(kg·K)", properties: ["specific_heat"] },
	{ ratio: 100, said: "percent for a ratio", properties: ["elongation", "poissons_ratio"] },
	{ ratio: 31.62, said: "N/mm^1.5 for MPa√m", properties: ["fracture_toughness"] },
];

function bandChecks(material: Material): Check[] {
	const checks: Check[] = [];
	for (const value of Object.values(material.values)) {
		const band = plausibleBand(value.property, material.family);
		const working = workingValue(value);
		if (band === null || working === null || (working >= band.low && working <= band.high)) continue;
		const spec = property(value.property);
		const slip = likelySlip(value.property, spec.siUnit === "Pa", working, band);
		checks.push({
			code: "outside-band",
			severity: "doubtful",
			title: `${spec.name} is unusual for this family`,
			detail: `{0}; expected {1} to {2} (${band.source}).${slip === null ? "" : ` Perhaps ${slip}.`}`,
			figures: [working, band.low, band.high].map((si) => ({ si, property: value.property })),
			values: [value.id],
		});
	}
	return checks;
}

/** The slip that would bring the number into the band, if exactly that explains it; the band's nearest wins. */
function likelySlip(id: string, isStress: boolean, working: number, band: { low: number; high: number }): string | null {
	for (const slip of SLIPS) {
		const applies =
			slip.properties.includes("*") || slip.properties.includes(id) || (isStress && slip.properties.includes("stress"));
		if (!applies) continue;
		for (const repaired of [working * slip.ratio, working / slip.ratio]) {
			if (repaired >= band.low && repaired <= band.high) return slip.said;
		}
	}
	return null;
}

function carriedChecks(material: Material): Check[] {
	const carried = Object.values(material.values).filter((v) => v.carried !== undefined);
	const first = carried[0];
	if (first === undefined) return [];
	const names = carried.map((v) => property(v.property).name);
	const listed = names.length > 4 ? `${names.slice(0, 3).join(", ")} and ${names.length - 3} more` : names.join(", ");
	return [
		{
			code: "carried-over",
			severity: "doubtful",
			title: carried.length === 1 ? "1 carried-over value" : `${carried.length} carried-over values`,
			detail: `${listed} as in ${first.carried?.name}. Confirm or replace each.`,
			figures: [],
			values: carried.map((v) => v.id),
		},
	];
}

/** How far two intervals are apart, relative to the middle of the first; 0 when they touch. */
function relativeGap(a: readonly [number, number], b: readonly [number, number]): number {
	const [b0, b1] = [Math.min(b[0], b[1]), Math.max(b[0], b[1])];
	const gap = Math.max(0, b0 - a[1], a[0] - b1);
	return gap / Math.abs(a[0] / 2 + a[1] / 2);
}

function percent(x: number): string {
	return `${significant(x * 100, 2)} %`;
}
