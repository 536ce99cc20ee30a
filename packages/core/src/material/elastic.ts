import { formById } from "../property";
import { coefficient } from "./make";
import type { Material, SetValue } from "./types";
import { firstForm, workingOf } from "./value";

export const ELASTIC_IDS = ["youngs_modulus", "poissons_ratio", "shear_modulus", "bulk_modulus"] as const;
export type ElasticId = (typeof ELASTIC_IDS)[number];
const IDS: ReadonlySet<string> = new Set(ELASTIC_IDS);
export const isElasticId = (id: string): id is ElasticId => IDS.has(id);

/** The four constants of an isotropic solid, SI. */
export type Isotropic = Readonly<Record<ElasticId, number>>;

/** What a material gives of them: stated numbers, and the ones that follow from two of those. */
export type Elastic = {
	readonly constants: Isotropic;
	/** The two that the others follow from. */
	readonly from: readonly [ElasticId, ElasticId];
	readonly derived: ReadonlySet<ElasticId>;
	/** nu from E and G loses digits: a percent of E is several percent of nu. */
	readonly illConditioned: boolean;
};

/** Two of them, in the order of preference: E and nu are what people measure and look up. */
const PAIRS: readonly (readonly [ElasticId, ElasticId])[] = [
	["youngs_modulus", "poissons_ratio"],
	["youngs_modulus", "bulk_modulus"],
	["shear_modulus", "poissons_ratio"],
	["bulk_modulus", "poissons_ratio"],
	["shear_modulus", "bulk_modulus"],
	["youngs_modulus", "shear_modulus"],
];

/**
 * E, nu, G, K from any two (working values): E = 2 G (1 + nu) and E = 3 K (1 - 2 nu), solved for the others.
 * @returns null with fewer than two, or where the two allow no isotropic solid (nu outside (-1, 0.5))
 */
export function elasticOf(material: Material, use = "linear_static"): Elastic | null {
	const stated = new Map<ElasticId, number>();
	for (const id of ELASTIC_IDS) {
		const working = workingOf(material, id, use);
		if (working !== null) stated.set(id, working);
	}
	const from = PAIRS.find(([a, b]) => stated.has(a) && stated.has(b));
	if (from === undefined) return null;
	const solved = solveIsotropic(from, stated.get(from[0]) as number, stated.get(from[1]) as number);
	if (solved === null) return null;
	const constants = { ...solved, ...Object.fromEntries(stated) };
	const derived = new Set(ELASTIC_IDS.filter((id) => !stated.has(id)));
	const illConditioned = derived.has("poissons_ratio") && from.includes("youngs_modulus") && from.includes("shear_modulus");
	return { constants, from, derived, illConditioned };
}

/** The four constants from a named pair; null where nu would leave (-1, 0.5) or a modulus would not be positive. */
export function solveIsotropic(pair: readonly [ElasticId, ElasticId], a: number, b: number): Isotropic | null {
	const E_nu = enu(pair, a, b);
	if (E_nu === null) return null;
	const [E, nu] = E_nu;
	if (!(E > 0) || !(nu > -1 && nu < 0.5)) return null;
	const given = { [pair[0]]: a, [pair[1]]: b };
	return {
		youngs_modulus: E,
		poissons_ratio: nu,
		shear_modulus: E / (2 * (1 + nu)),
		bulk_modulus: E / (3 * (1 - 2 * nu)),
		...given,
	};
}

function enu([first, second]: readonly [ElasticId, ElasticId], a: number, b: number): readonly [number, number] | null {
	const key = `${first} ${second}`;
	switch (key) {
		case "youngs_modulus poissons_ratio":
			return [a, b];
		case "youngs_modulus bulk_modulus":
			return [a, (3 * b - a) / (6 * b)];
		case "shear_modulus poissons_ratio":
			return [2 * a * (1 + b), b];
		case "bulk_modulus poissons_ratio":
			return [3 * a * (1 - 2 * b), b];
		case "shear_modulus bulk_modulus":
			return [(9 * b * a) / (3 * b + a), (3 * b - 2 * a) / (2 * (3 * b + a))];
		case "youngs_modulus shear_modulus":
			return [a, a / (2 * b) - 1];
		default:
			return null;
	}
}

/** Engineering constants of an orthotropic solid, Pa and ratios. */
export type Orthotropic = Readonly<Record<"E1" | "E2" | "E3" | "nu12" | "nu13" | "nu23" | "G12" | "G13" | "G23", number>>;

/** Constants of a set, SI; a missing component is absent. */
export function setConstants(set: SetValue): Readonly<Record<string, number>> {
	return Object.fromEntries(
		Object.entries(set.components).flatMap(([name, c]) => {
			const x = coefficient(c);
			return x === null ? [] : [[name, x] as const];
		}),
	);
}

/** Components that the symmetry needs and the set does not have. */
export function missingComponents(set: SetValue, wanted: readonly string[]): readonly string[] {
	const have = setConstants(set);
	return wanted.filter((name) => have[name] === undefined);
}

/** The nine constants of an orthotropic or transversely isotropic set; null for others and incomplete ones. */
export function orthotropic(set: SetValue): Orthotropic | null {
	const c = setConstants(set);
	if (set.symmetry === "transverse") {
		const { E1, E2, nu12, nu23, G12 } = c;
		if (E1 === undefined || E2 === undefined || nu12 === undefined || nu23 === undefined || G12 === undefined) return null;
		return { E1, E2, E3: E2, nu12, nu13: nu12, nu23, G12, G13: G12, G23: E2 / (2 * (1 + nu23)) };
	}
	const { E1, E2, E3, nu12, nu13, nu23, G12, G13, G23 } = c;
	if (set.symmetry !== "orthotropic" || E1 === undefined || E2 === undefined || E3 === undefined) return null;
	if (nu12 === undefined || nu13 === undefined || nu23 === undefined) return null;
	if (G12 === undefined || G13 === undefined || G23 === undefined) return null;
	return { E1, E2, E3, nu12, nu13, nu23, G12, G13, G23 };
}

export type Stability = {
	readonly sound: boolean;
	/** Pairs that break |nu_ij| < sqrt(Ei/Ej): necessary, not enough. */
	readonly failingPairs: readonly string[];
	/** Determinant of the scaled compliance of the normal strains; 1 for no coupling, 0 at the edge. */
	readonly determinant: number;
};

/**
 * Is the elastic energy positive for every strain? The compliance, scaled to ones on its diagonal, has off-diagonals
 * -r_ij with r_ij = nu_ij sqrt(Ej/Ei); it is positive definite when every |r_ij| < 1 and
 * 1 - r12^2 - r13^2 - r23^2 - 2 r12 r13 r23 > 0 (its minors), with positive moduli.
 */
export function orthotropicStability(c: Orthotropic): Stability {
	const r12 = c.nu12 * Math.sqrt(c.E2 / c.E1);
	const r13 = c.nu13 * Math.sqrt(c.E3 / c.E1);
	const r23 = c.nu23 * Math.sqrt(c.E3 / c.E2);
	const failingPairs = [
		["12", r12],
		["13", r13],
		["23", r23],
	].flatMap(([pair, r]) => (Math.abs(r as number) < 1 ? [] : [pair as string]));
	const determinant = 1 - r12 * r12 - r13 * r13 - r23 * r23 - 2 * r12 * r13 * r23;
	const positive = [c.E1, c.E2, c.E3, c.G12, c.G13, c.G23].every((m) => m > 0);
	return { sound: positive && failingPairs.length === 0 && determinant > 0, failingPairs, determinant };
}

/** Is a symmetric matrix (rows) positive definite? By Cholesky of the matrix scaled to ones on its diagonal. */
export function positiveDefinite(rows: readonly (readonly number[])[]): boolean {
	const n = rows.length;
	const scale = rows.map((row, i) => row[i] as number);
	if (scale.some((d) => !(d > 0))) return false;
	const L: number[][] = [];
	for (let i = 0; i < n; i++) {
		const line: number[] = [];
		for (let j = 0; j <= i; j++) {
			let sum = (rows[i]?.[j] as number) / Math.sqrt((scale[i] as number) * (scale[j] as number));
			for (let k = 0; k < j; k++) sum -= (line[k] as number) * ((j === i ? line : (L[j] as number[]))[k] as number);
			if (j === i) {
				// below this the smallest eigenvalue cannot be told from rounding
				if (sum <= n * 1e-15) return false;
				line.push(Math.sqrt(sum));
			} else line.push(sum / ((L[j] as number[])[j] as number));
		}
		L.push(line);
	}
	return true;
}

/** The 6x6 stiffness of an anisotropic set, order 11 22 33 23 13 12; null while a component is missing. */
export function stiffnessMatrix(set: SetValue): readonly (readonly number[])[] | null {
	const c = setConstants(set);
	const rows = [1, 2, 3, 4, 5, 6].map((i) => [1, 2, 3, 4, 5, 6].map((j) => c[`C${Math.min(i, j)}${Math.max(i, j)}`]));
	return rows.some((row) => row.some((x) => x === undefined)) ? null : (rows as number[][]);
}

/** Whether a set is sound; null while it is incomplete. */
export function setStability(set: SetValue): Stability | null {
	if (set.property !== "elastic_set") return null;
	if (set.symmetry === "anisotropic") {
		const C = stiffnessMatrix(set);
		return C === null ? null : { sound: positiveDefinite(C), failingPairs: [], determinant: Number.NaN };
	}
	if (set.symmetry === "ply") {
		const { E1, E2, nu12, G12 } = setConstants(set);
		if (E1 === undefined || E2 === undefined || nu12 === undefined || G12 === undefined) return null;
		const r = nu12 * Math.sqrt(E2 / E1);
		const sound = Math.abs(r) < 1 && E1 > 0 && E2 > 0 && G12 > 0;
		return { sound, failingPairs: Math.abs(r) < 1 ? [] : ["12"], determinant: 1 - r * r };
	}
	const c = orthotropic(set);
	return c === null ? null : orthotropicStability(c);
}

/** The material's directional elasticity. */
export function elasticSet(material: Material): SetValue | null {
	return firstForm(material, "elastic_set", "set") as SetValue | null;
}

/** What analyses take the elasticity of a material from. */
export type ElasticSource = {
	readonly from: "set" | "constants";
	/** Constants that the symmetry of the set still needs; all of them count as missing without a set. */
	readonly missing: readonly string[];
	/** Those of E, nu, G, K with a number of their own. */
	readonly stated: readonly ElasticId[];
};

/**
 * Analyses work with the directional set where the user says so, and by itself where it has all constants of its
 * symmetry and no two of E, nu, G, K describe an isotropic solid; otherwise with those.
 */
export function elasticSource(material: Material): ElasticSource {
	const set = elasticSet(material);
	const form = formById("elastic_set");
	const symmetries = form?.kind === "set" ? form.symmetries : [];
	const symmetry = symmetries.find((s) => s.id === set?.symmetry) ?? symmetries[0];
	const wanted = symmetry?.components ?? [];
	const missing = set === null ? wanted : missingComponents(set, wanted);
	const stated = ELASTIC_IDS.filter((id) => workingOf(material, id) !== null);
	const from = material.elasticity === "directional" || (missing.length === 0 && stated.length < 2) ? "set" : "constants";
	return { from, missing, stated };
}

/** Do analyses work with the directional set? */
export function isDirectional(material: Material): boolean {
	if (material.elasticity === "directional") return true;
	// asked for every use of every material that is judged, of which few have a set
	return elasticSet(material) !== null && elasticSource(material).from === "set";
}
