import { isFamily, property } from "../property";
import { type Check, checkMaterial } from "./checks";
import type { Material, MaterialValue } from "./types";
import { firstValue, workingValue } from "./value";

/** Uses in the fixed order of the comb. */
export const USES = [
	{ id: "mass", name: "mass" },
	{ id: "linear_static", name: "linear static" },
	{ id: "strength", name: "strength" },
	{ id: "modal", name: "modal" },
	{ id: "thermal", name: "thermal" },
] as const;
export type UseId = (typeof USES)[number]["id"];

export type Readiness = {
	readonly use: UseId;
	readonly state: "ready" | "doubts" | "not-ready";
	/** Property ids, any one of each inner list would do. */
	readonly missing: readonly (readonly string[])[];
	/** Words: `density is carried over`. */
	readonly doubts: readonly string[];
};

/** What each use needs: a list of alternatives, of which one must be complete; see the design of readiness. */
function needs(use: UseId, material: Material): readonly (readonly string[])[] {
	const elastic = elasticNeed(material);
	switch (use) {
		case "mass":
			return [["density"]];
		case "linear_static":
			return elastic;
		case "strength":
			return [...elastic, ...strengthNeed(material)];
		case "modal":
			return [...elastic, ["density"]];
		case "thermal":
			return [["thermal_conductivity"]];
	}
}

const ELASTIC = ["youngs_modulus", "poissons_ratio", "shear_modulus", "bulk_modulus"] as const;

/** Any two of E, nu, G, K describe an isotropic solid. */
function elasticNeed(material: Material): readonly (readonly string[])[] {
	const present = ELASTIC.filter((id) => usable(material, id));
	if (present.length >= 2) return present.slice(0, 2).map((id) => [id]);
	const absent = ELASTIC.filter((id) => !usable(material, id));
	// with one there, any other completes it; E and nu are what people look for first
	return present.length === 1
		? [[present[0] as string], absent]
		: [["youngs_modulus"], ["poissons_ratio", "shear_modulus", "bulk_modulus"]];
}

/** Metals: yield. Brittle materials: tensile and compressive. Polymers: yield or tensile. Composites: the ply set. */
function strengthNeed(material: Material): readonly (readonly string[])[] {
	const { family } = material;
	if (
		isFamily(family, "ceramic") ||
		isFamily(family, "glass") ||
		isFamily(family, "mineral") ||
		isFamily(family, "metal.cast_iron")
	) {
		return [["tensile_strength"], ["compressive_strength"]];
	}
	if (isFamily(family, "polymer") || isFamily(family, "elastomer") || isFamily(family, "foam") || isFamily(family, "wood")) {
		return [["yield_strength", "tensile_strength"]];
	}
	if (isFamily(family, "composite")) return ["ply_Xt", "ply_Xc", "ply_Yt", "ply_Yc", "ply_S"].map((id) => [id]);
	return [["yield_strength"]];
}

function usable(material: Material, id: string): boolean {
	const value = firstValue(material, id);
	return value !== null && workingValue(value) !== null;
}

/** For each use: ready, ready with doubts (named), or not ready (what is missing). */
export function readiness(material: Material, checks: readonly Check[] = checkMaterial(material)): readonly Readiness[] {
	return USES.map(({ id }) => readinessFor(id, material, checks));
}

function readinessFor(use: UseId, material: Material, checks: readonly Check[]): Readiness {
	const wanted = needs(use, material);
	const missing = wanted.filter((alternatives) => !alternatives.some((id) => usable(material, id)));
	if (use !== "mass" && use !== "thermal" && incompressible(material)) {
		return { use, state: "not-ready", missing: [], doubts: ["ν = 0.5 is incompressible; linear elasticity cannot use it"] };
	}
	if (missing.length > 0) return { use, state: "not-ready", missing, doubts: [] };
	const relied = wanted.map((alternatives) => alternatives.find((id) => usable(material, id)) as string);
	const values = relied.map((id) => firstValue(material, id) as MaterialValue);
	const doubts = [...values.flatMap((v) => valueDoubts(v, use, material)), ...checkDoubts(checks, values)];
	return { use, state: doubts.length > 0 ? "doubts" : "ready", missing: [], doubts };
}

function incompressible(material: Material): boolean {
	return firstValue(material, "poissons_ratio")?.high === 0.5;
}

function valueDoubts(value: MaterialValue, use: UseId, material: Material): string[] {
	const name = property(value.property).name.toLowerCase().replace("young", "Young").replace("poisson", "Poisson");
	const doubts: string[] = [];
	if (value.carried !== undefined) doubts.push(`${name} is carried over`);
	if (value.evidence === undefined) doubts.push(`${name} has no evidence`);
	if (value.evidence === "estimated") doubts.push(`${name} is estimated`);
	const isStrength = property(value.property).section === "strength";
	if (use === "strength" && isStrength && value.basis === "typical") doubts.push(`${name} is a typical value`);
	if (use === "strength" && isStrength && (value.basis === undefined || value.basis === "unknown"))
		doubts.push(`${name} says no basis`);
	const plastic = isFamily(material.family, "polymer") || isFamily(material.family, "elastomer");
	if (use === "strength" && isStrength && plastic && value.condition === undefined)
		doubts.push(`${name} says no temperature and duration`);
	return doubts;
}

/** Open checks about the values relied on; carried-over is already said value by value. */
function checkDoubts(checks: readonly Check[], values: readonly MaterialValue[]): string[] {
	const ids = new Set(values.map((v) => v.id));
	return checks
		.filter((c) => c.code !== "carried-over" && c.severity !== "note" && c.values.some((id) => ids.has(id)))
		.map((c) => c.title.charAt(0).toLowerCase() + c.title.slice(1).replace("e, G", "E, G"));
}
