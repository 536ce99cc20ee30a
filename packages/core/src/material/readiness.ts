import { instability, statedStretches, USUAL_RANGE } from "../curve";
import { formById, inSentence, isFamily, type OwnProperty, propertyById } from "../property";
import { sameContent } from "./canonical";
import type { Check } from "./checks";
import { elasticSet, isDirectional, missingComponents, setStability } from "./elastic";
import { derivedForms } from "./flow";
import { coefficient } from "./make";
import { type OwnUse, type OwnUseId, ownUseId } from "./ownuse";
import { BLANK, type Material, type MaterialValue, type ModelValue, PLAIN_LOOK, type SeriesValue } from "./types";
import { firstForm, firstValue, temperatureTable, valueLabel, workingOf, workingValue } from "./value";

/** Uses; the first ones stand in the comb, in this fixed order. */
export const USES = [
	{ id: "mass", name: "mass" },
	{ id: "linear_static", name: "linear static" },
	{ id: "strength", name: "strength" },
	{ id: "modal", name: "modal" },
	{ id: "thermal", name: "thermal" },
	{ id: "thermal_stress", name: "thermal stress" },
	{ id: "plasticity", name: "plasticity" },
	{ id: "thermal_transient", name: "thermal transient" },
	{ id: "rubber", name: "large-strain rubber" },
	{ id: "fatigue", name: "fatigue" },
	{ id: "core_loss", name: "core loss" },
	{ id: "magnetostatic", name: "magnetostatic" },
	{ id: "electrical", name: "electrical" },
	{ id: "bolted", name: "bolted joint" },
	{ id: "flow", name: "flow" },
	{ id: "moulding", name: "moulding" },
	{ id: "section", name: "section drawing" },
	{ id: "rendering", name: "rendering" },
] as const;
export type UseId = (typeof USES)[number]["id"];

/** Uses with a tooth in the comb. */
export const COMB_USES: ReadonlySet<string> = new Set(USES.slice(0, 7).map((u) => u.id));

export type Readiness = {
	readonly use: UseId | OwnUseId;
	/** Of a use that a library adds; the built-in ones have theirs in `USES`. */
	readonly name?: string;
	readonly state: "ready" | "doubts" | "not-ready";
	/** Property or form ids, any one of each inner list would do. */
	readonly missing: readonly (readonly string[])[];
	/** Words: `density is carried over`; for what is not ready, why what is there does not do. */
	readonly doubts: readonly string[];
};

type Need = readonly string[];

/** What each use needs: a list of alternatives, of which one must be usable. */
function needs(use: UseId, material: Material): readonly Need[] {
	const elastic = elasticNeed(material, use);
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
			return [["thermal_conductivity", "conductivity_set"]];
		case "thermal_transient":
			return [["thermal_conductivity", "conductivity_set"], ["density"], ["specific_heat"]];
		case "thermal_stress":
			return [...elastic, ["thermal_expansion", "expansion_set"]];
		case "plasticity":
			return [...elastic, ["stress_strain", "plasticity_model"]];
		case "rubber":
			return [["hyperelastic_model"]];
		case "fatigue":
			return [...elastic, ["sn_curve"]];
		case "core_loss":
			return [["core_loss", "core_loss_model"], ...(lossPerMass(material) ? [["density"]] : [])];
		case "magnetostatic":
			return [["bh_curve", "relative_permeability", "permeability_set", "demagnetisation"]];
		case "flow":
			return [["density"], ["viscosity"]];
		case "electrical":
			return [["resistivity"]];
		case "bolted":
			return [["tensile_strength"], ["yield_strength"], ["proof_load_stress"], ["youngs_modulus"], ["friction_coefficient"]];
		case "moulding":
		case "section":
		case "rendering":
			return [];
	}
}

const ELASTIC = ["youngs_modulus", "poissons_ratio", "shear_modulus", "bulk_modulus"] as const;

/** Any two of E, nu, G, K describe an isotropic solid; a directional one has its set. */
function elasticNeed(material: Material, use: UseId): readonly Need[] {
	if (isDirectional(material)) return [["elastic_set"]];
	const present = ELASTIC.filter((id) => workingOf(material, id, use) !== null);
	if (present.length >= 2) return present.slice(0, 2).map((id) => [id]);
	const absent = ELASTIC.filter((id) => !present.includes(id));
	// with one there, any other completes it; E and nu are what people look for first
	return present.length === 1
		? [[present[0] as string], absent]
		: [["youngs_modulus"], ["poissons_ratio", "shear_modulus", "bulk_modulus"]];
}

/** Metals: yield. Brittle materials: tensile and compressive. Polymers: yield or tensile. Composites: the ply set. */
function strengthNeed(material: Material): readonly Need[] {
	const { family } = material;
	const is = (...families: string[]): boolean => families.some((f) => isFamily(family, f));
	if (is("ceramic", "glass", "mineral", "magnet", "metal.cast_iron")) return [["tensile_strength"], ["compressive_strength"]];
	if (is("polymer", "elastomer", "foam", "wood")) return [["yield_strength", "tensile_strength"]];
	if (is("composite")) return ["ply_Xt", "ply_Xc", "ply_Yt", "ply_Yc", "ply_S"].map((id) => [id]);
	return [["yield_strength"]];
}

function lossPerMass(material: Material): boolean {
	const loss = firstForm(material, "core_loss", "curve");
	// the models are per mass
	return loss === null ? firstForm(material, "core_loss_model", "model") !== null : loss.columns.at(-1)?.of === "loss_per_mass";
}

/** Why what stands there does not do for a use; null when it does, `absent` when nothing stands there. */
function obstacle(material: Material, id: string, use: string): string | null {
	const form = formById(id);
	if (form === undefined) return numberObstacle(material, id, use);
	if (form.kind === "set") return setObstacle(material, id);
	if (form.kind === "model") return modelObstacle(material, id);
	return curveObstacle(material, id);
}

function numberObstacle(material: Material, id: string, use: string): string | null {
	if (workingOf(material, id, use) === null) return "absent";
	const table = firstValue(material, id) === null ? temperatureTable(material, id) : null;
	return table !== null && id === "thermal_expansion" && !table.header.reference
		? "the table of thermal expansion does not say its reference temperature"
		: null;
}

function setObstacle(material: Material, id: string): string | null {
	const set = id === "elastic_set" ? elasticSet(material) : firstForm(material, id, "set");
	if (set === null || set.kind !== "set") return "absent";
	const form = formById(id);
	const symmetry = form?.kind === "set" ? form.symmetries.find((s) => s.id === set.symmetry) : undefined;
	const missing = missingComponents(set, symmetry?.components ?? []);
	if (missing.length > 0) return `${missing.join(", ")} of the directional set missing`;
	if (id !== "elastic_set" || setStability(set)?.sound === true) return null;
	return "the directional set is not positive definite";
}

function modelObstacle(material: Material, id: string): string | null {
	const model = firstForm(material, id, "model") as ModelValue | null;
	if (model === null) return "absent";
	const form = formById(id);
	const shape = form?.kind === "model" ? form.forms.find((f) => f.id === model.form) : undefined;
	const wanted = Object.keys(shape?.coefficients ?? {}).filter((c) => !shape?.optional?.includes(c));
	const numbers = modelNumbers(model);
	const missing = wanted.filter((c) => numbers[c] === undefined);
	if (missing.length > 0) return `${missing.join(", ")} of the model missing`;
	const range = statedStretches(model.validity ?? "") ?? USUAL_RANGE;
	const fails = id === "hyperelastic_model" ? instability(model.form, numbers, range) : null;
	return fails === null ? null : `the model is not stable from a stretch of ${fails.stretch.toFixed(2)} on (${fails.mode})`;
}

/** Coefficients of a model in SI, the blank ones absent. */
export function modelNumbers(model: ModelValue): Readonly<Record<string, number>> {
	return Object.fromEntries(
		Object.entries(model.coefficients).flatMap(([name, c]) => {
			const x = coefficient(c);
			return x === null ? [] : [[name, x] as const];
		}),
	);
}

/** Lines of a curve's header without which its use cannot rely on it. */
const NEEDED_HEADERS: Readonly<Record<string, readonly string[]>> = {
	sn_curve: ["stress", "ratio", "loading"],
	core_loss: ["thickness"],
};

function curveObstacle(material: Material, id: string): string | null {
	const curve = firstForm(material, id, "curve") as SeriesValue | null;
	if (curve === null) return "absent";
	if (id === "stress_strain") return derivedForms(material, curve).find((d) => d.missing !== null)?.missing ?? null;
	const form = formById(id);
	const unsaid = (NEEDED_HEADERS[id] ?? []).filter((h) => !curve.header[h]);
	// a stress ratio per row says R as well as the header does
	const open = unsaid.filter((h) => !(h === "ratio" && curve.columns.some((c) => c.of === "stress_ratio")));
	const names =
		form?.kind === "curve"
			? form.headers.filter((h) => open.includes(h.id)).map((h) => (/^[A-Z] /.test(h.name) ? h.name : h.name.toLowerCase()))
			: [];
	return names.length === 0 ? null : `the ${form?.name ?? id} does not say ${names.join(", ")}`;
}

/**
 * For each use: ready, ready with doubts (named), or not ready (what is missing).
 * @param checks what `checkMaterial` found, with the same context
 * @param own properties that the library adds to the catalogue; a use may need some of them
 * @param ownUses uses that the library adds to the built-in ones; they come last
 */
export function readiness(
	material: Material,
	checks: readonly Check[],
	own: readonly OwnProperty[],
	ownUses: readonly OwnUse[] = [],
): readonly Readiness[] {
	const beside = { material, checks, own };
	const added = ownUses.filter((u) => !u.off).map((u) => ownReadiness(u, beside));
	return [...USES.map(({ id }) => readinessFor(id, beside)), ...added];
}

/** What readiness is judged by. */
type Beside = { readonly material: Material; readonly checks: readonly Check[]; readonly own: readonly OwnProperty[] };

/** Everything that the use names has to be usable; a missing file is said in words. */
function ownReadiness(use: OwnUse, beside: Beside): Readiness {
	const { material, own } = beside;
	const { file, needs: ids } = use;
	const lost = ids.flatMap((id) => {
		const property = own.find((p) => id === `own:${p.uid}`);
		return property !== undefined && obstacle(material, id, "any") !== null ? [property.name] : [];
	});
	const wanted = ids.filter((id) => !own.some((p) => id === `own:${p.uid}` && lost.includes(p.name)));
	const held =
		file === null ||
		Object.values(material.attachments).some(
			(a) => a.purpose === file.purpose && (file.ending === "" || a.name.toLowerCase().endsWith(`.${file.ending}`)),
		);
	const reasons = [
		...lost.map((name) => `${name} is missing`),
		...(held
			? []
			: [`no ${file.purpose.replace("-", " ")}${file.ending === "" ? "" : ` that ends in .${file.ending}`} is attached`]),
	];
	const judged = judgeNeeds(
		ownUseId(use.uid),
		wanted.map((id) => [id]),
		beside,
		reasons,
	);
	return { ...judged, name: use.name };
}

/** A section needs a hatch (that of the family does, with a doubt), a picture needs a look beyond the undecided colour. */
function lookReadiness(use: "section" | "rendering", material: Material): Readiness {
	const { family, look, colour, carriedFields } = material;
	const undecided = sameContent(look, PLAIN_LOOK);
	const carried = carriedFields.look === undefined ? [] : ["the look is carried over"];
	const missing = use === "section" ? look.hatch === null && family === null : undecided && colour === BLANK.colour;
	if (missing) return { use, state: "not-ready", missing: [[use === "section" ? "hatch" : "look"]], doubts: [] };
	const own =
		use === "section"
			? look.hatch === null
				? ["the hatch is that of the family"]
				: []
			: undecided
				? ["only its colour was chosen"]
				: [];
	const doubts = [...own, ...carried];
	return { use, state: doubts.length > 0 ? "doubts" : "ready", missing: [], doubts };
}

/** Moulding is simulated from the file that the maker of a grade gives out for it. */
function mouldingReadiness(material: Material): Readiness {
	const held = Object.values(material.attachments).some((a) => a.purpose === "solver-file");
	return { use: "moulding", state: held ? "ready" : "not-ready", missing: held ? [] : [["solver_file"]], doubts: [] };
}

function readinessFor(use: UseId, beside: Beside): Readiness {
	const { material, own } = beside;
	if (use === "section" || use === "rendering") return lookReadiness(use, material);
	if (use === "moulding") return mouldingReadiness(material);
	const wanted = needs(use, material);
	const lacking = own.filter((p) => p.neededFor?.includes(use) === true && !isUsable(material, p, use));
	const asked = own.filter((p) => p.neededFor?.includes(use) === true && !lacking.includes(p));
	const reasons = lacking.map((p) => `${p.name}, which the library asks for, is missing`);
	const solid = wanted.some((n) => n.includes("youngs_modulus")) && !isDirectional(material);
	if (solid && use !== "bolted" && firstValue(material, "poissons_ratio")?.high === 0.5)
		reasons.push("ν = 0.5 is incompressible; linear elasticity cannot use it");
	return judgeNeeds(use, [...wanted, ...asked.map((p) => [`own:${p.uid}`])], beside, reasons);
}

function isUsable(material: Material, property: OwnProperty, use: string): boolean {
	const value = firstValue(material, `own:${property.uid}`);
	return value !== null && workingValue(value, use) !== null;
}

/**
 * @param wanted lists of alternatives, of which one each must be usable
 * @param against why it is not ready, whatever stands there
 */
function judgeNeeds(
	use: Readiness["use"],
	wanted: readonly Need[],
	{ material, checks }: Beside,
	against: readonly string[],
): Readiness {
	const relied: string[] = [];
	const missing: Need[] = [];
	const reasons: string[] = [];
	for (const alternatives of wanted) {
		const obstacles = alternatives.map((id) => obstacle(material, id, use));
		const found = alternatives.find((_, i) => obstacles[i] === null);
		if (found !== undefined) {
			relied.push(found);
			continue;
		}
		const why = obstacles.find((o) => o !== null && o !== "absent");
		if (why == null) missing.push(alternatives);
		else reasons.push(why);
	}
	reasons.push(...against);
	if (missing.length > 0 || reasons.length > 0) return { use, state: "not-ready", missing, doubts: reasons };
	const values = relied.flatMap((id) => reliedValue(material, id) ?? []);
	const doubts = [...values.flatMap((v) => valueDoubts(v, use, material)), ...checkDoubts(checks, values)];
	return { use, state: doubts.length > 0 ? "doubts" : "ready", missing: [], doubts };
}

function reliedValue(material: Material, id: string): MaterialValue | null {
	const form = formById(id);
	if (form !== undefined) return firstForm(material, id, form.kind);
	return firstValue(material, id) ?? temperatureTable(material, id);
}

function valueDoubts(value: MaterialValue, use: string, material: Material): string[] {
	const name = inSentence(valueLabel(value).name);
	const doubts: string[] = [];
	if (value.carried !== undefined) doubts.push(`${name} is carried over`);
	if (value.evidence === undefined) doubts.push(`${name} has no evidence`);
	if (value.evidence === "estimated") doubts.push(`${name} is estimated`);
	const isStrength = propertyById(value.property)?.section === "strength";
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
	return (
		checks
			.filter((c) => c.code !== "carried-over" && c.severity !== "note" && c.acknowledged === undefined)
			.filter((c) => c.values.some((id) => ids.has(id)))
			// a title that begins with a symbol (E, G and ν) keeps its capital
			.map((c) => (/^[A-Z][a-z]/.test(c.title) ? c.title.charAt(0).toLowerCase() + c.title.slice(1) : c.title))
	);
}
