import { increasing, interpolate, resample } from "../curve";
import { type JudgeContext, judge } from "../judge";
import {
	elasticOf,
	firstForm,
	firstValue,
	flowMembers,
	isDirectional,
	isElasticId,
	isNumber,
	type Material,
	type ModelValue,
	modelNumbers,
	orthotropic,
	REFERENCE_TEMPERATURE,
	type Readiness,
	readTable,
	rowPoints,
	type SeriesValue,
	setConstants,
	specOf,
	temperatureTable,
	type UseId,
	valueLabel,
	workingOf,
	workingRule,
	workingValue,
} from "../material";
import { axisById, formById, PROPERTIES, type PropertyRow, property } from "../property";
import { inSet, type SolverSet, unitInSet } from "./sets";

/** Uses that a solver asks for, by the names of the command line. */
export const SOLVER_USES = [
	"linear-static",
	"strength",
	"modal",
	"thermal",
	"thermal-stress",
	"plasticity",
	"rubber",
	"all",
] as const;
export type SolverUse = (typeof SOLVER_USES)[number];

const READINESS_OF: Readonly<Record<Exclude<SolverUse, "all">, UseId>> = {
	"linear-static": "linear_static",
	strength: "strength",
	modal: "modal",
	thermal: "thermal",
	"thermal-stress": "thermal_stress",
	plasticity: "plasticity",
	rubber: "rubber",
};

const ELASTIC_PAIR = ["youngs_modulus", "poissons_ratio"] as const;
const NUMBERS: Readonly<Record<Exclude<SolverUse, "all">, readonly string[]>> = {
	"linear-static": [...ELASTIC_PAIR, "density"],
	strength: [...ELASTIC_PAIR, "density", "yield_strength", "tensile_strength", "compressive_strength"],
	modal: [...ELASTIC_PAIR, "density"],
	thermal: ["thermal_conductivity", "specific_heat", "density"],
	"thermal-stress": [...ELASTIC_PAIR, "thermal_expansion", "density"],
	plasticity: [...ELASTIC_PAIR, "density", "yield_strength"],
	rubber: ["density"],
};

/** One number for the solver, with the rule that chose it. */
export type SolverNumber = {
	readonly property: string;
	readonly name: string;
	readonly value: number;
	readonly unit: string;
	/** `middle of 8780–8910`, `low end`, `derived from E and ν`, `as given`. */
	readonly rule: string;
};

/** A block of columns of one length: temperatures aligned, or stress over plastic strain. */
export type SolverTable = {
	readonly name: string;
	/** Conditions that hold for the whole block, in words with units. */
	readonly at: string;
	readonly columns: readonly { readonly name: string; readonly unit: string; readonly values: readonly number[] }[];
	readonly note: string;
};

export type SolverMaterial = {
	readonly name: string;
	readonly numbers: readonly SolverNumber[];
	readonly tables: readonly SolverTable[];
	readonly doubts: readonly string[];
};

/** PCHIP curves are written with this share of their span as the largest error of straight lines between points. */
export const RESAMPLE_TOLERANCE = 1e-3;

/** What one use needs of a material, in one consistent set of units. Never a number without its unit. */
export function solverMaterial(
	{ name, material }: { readonly name: string; readonly material: Material },
	use: SolverUse,
	set: SolverSet,
	context: JudgeContext,
): SolverMaterial {
	const ids = use === "all" ? allNumbers(material) : NUMBERS[use];
	const readinessUse = use === "all" ? "any" : READINESS_OF[use];
	const directional = isDirectional(material);
	const numbers = ids
		.filter((id) => !(directional && use !== "all" && isElasticId(id)))
		.flatMap((id) => number(material, id, readinessUse, set) ?? []);
	const own = use === "all" ? ownNumbers(material, set) : [];
	const wantsElastic = use !== "thermal" && use !== "rubber";
	const elasticSet = wantsElastic && (directional || use === "all") ? ["elastic_set"] : [];
	const sets = [...elasticSet, ...(SETS_OF[use] ?? [])].flatMap((id) => directionalNumbers(material, id, set));
	const tables = [
		...temperatureTables(material, ids, set),
		...(use === "plasticity" || use === "all" ? flowTables(material, set) : []),
	];
	const models = use === "plasticity" || use === "rubber" || use === "all" ? modelCoefficients(material, use, set) : [];
	return { name, numbers: [...numbers, ...own, ...sets, ...models], tables, doubts: doubtsOf(material, use, context) };
}

function allNumbers(material: Material): readonly string[] {
	const elastic = elasticOf(material);
	return PROPERTIES.filter((p) => p.scales !== true)
		.map((p) => p.id)
		.filter((id) => workingOf(material, id) !== null || (isElasticId(id) && (elastic?.derived.has(id) ?? false)));
}

function number(material: Material, id: string, use: string, set: SolverSet): SolverNumber | null {
	const spec = property(id);
	const working = workingOf(material, id, use);
	if (working !== null) return shown(spec, working, ruleText(material, id, use, set), set);
	if (!isElasticId(id)) return null;
	const elastic = elasticOf(material, use);
	if (elastic === null) return null;
	const names = elastic.from.map((from) => property(from).symbol).join(" and ");
	const caution = id === "poissons_ratio" && elastic.illConditioned ? ", ill-conditioned" : "";
	return shown(spec, elastic.constants[id], `derived from ${names}${caution}`, set);
}

function shown(spec: PropertyRow, si: number, rule: string, set: SolverSet): SolverNumber {
	return { property: spec.id, name: spec.name, value: inSet(si, spec, set), unit: unitInSet(spec, set), rule };
}

function ruleText(material: Material, id: string, use: string, set: SolverSet): string {
	const value = firstValue(material, id);
	if (value === null || workingValue(value, use) === null) return tableRule(material, id);
	const times = value.factor === undefined ? "" : `, times ${value.factor.by} (${value.factor.reason})`;
	if (value.low === value.high && value.working === undefined) return `as given${times}`;
	const spec = specOf(value);
	const { rule, chosen } = workingRule(value, use);
	const end = (si: number | null): string => (si === null ? "open" : String(Number(inSet(si, spec, set).toPrecision(6))));
	const words = ruleWords(
		rule,
		value.low === null || value.high === null ? "the end given" : `${end(value.low)}–${end(value.high)}`,
	);
	return `${words}${chosen ? ", chosen" : ""}${times}`;
}

/** A table gives its number at 20 degC, inside or by its end value. */
function tableRule(material: Material, id: string): string {
	const table = temperatureTable(material, id);
	const reading = table === null ? null : readTable(table, REFERENCE_TEMPERATURE);
	return reading?.side === "inside" ? "table at 20 °C" : "table at 20 °C, its end value held";
}

/** `low end of 250–270`; for an open range there is only one end. */
function ruleWords(rule: string, span: string): string {
	if (rule === "mean") return "mean of the readings";
	if (!["low", "middle", "high"].includes(rule)) return `set to ${rule}`;
	if (span === "the end given") return span;
	return rule === "middle" ? `middle of ${span}` : `${rule} end of ${span}`;
}

function ownNumbers(material: Material, set: SolverSet): readonly SolverNumber[] {
	return Object.values(material.values).flatMap((value) => {
		if (!isNumber(value) || value.own === undefined) return [];
		const working = workingValue(value);
		return working === null ? [] : [shown(specOf(value), working, "as given", set)];
	});
}

/** Directional sets that a use takes beside the elastic one. */
const SETS_OF: Readonly<Partial<Record<SolverUse, readonly string[]>>> = {
	thermal: ["conductivity_set"],
	"thermal-stress": ["expansion_set"],
	all: ["conductivity_set", "expansion_set", "permeability_set"],
};

/** Directional constants in their stated order; an elastic set of a lower symmetry as its nine. */
function directionalNumbers(material: Material, formId: string, set: SolverSet): readonly SolverNumber[] {
	const value = firstForm(material, formId, "set");
	const form = formById(formId);
	if (value?.kind !== "set" || form?.kind !== "set") return [];
	const stated = setConstants(value);
	const constants: Readonly<Record<string, number>> = orthotropic(value) ?? stated;
	return Object.entries(form.components).flatMap(([name, spec]): readonly SolverNumber[] => {
		const si = constants[name];
		if (si === undefined) return [];
		const rule = stated[name] === undefined ? "follows from the symmetry" : "as given";
		return [{ property: name, name: spec.name, value: inSet(si, spec, set), unit: unitInSet(spec, set), rule }];
	});
}

/** Temperature tables of the wanted properties, aligned on all their temperatures; ends held and named. */
function temperatureTables(material: Material, ids: readonly string[], set: SolverSet): readonly SolverTable[] {
	const found = ids.flatMap((id) => {
		const value = Object.values(material.values).find(
			(v): v is SeriesValue =>
				v.kind === "table" && v.property === id && v.columns.length === 2 && v.columns[0]?.of === "temperature",
		);
		return value === undefined ? [] : [{ id, value, spec: specOf(value) }];
	});
	if (found.length === 0) return [];
	const points = found.map(({ value, spec }) => {
		const raw = rowPoints(value, spec.safeEnd);
		return value.interpolation === "pchip" ? resample(raw, RESAMPLE_TOLERANCE) : raw;
	});
	const temperatures = [...new Set(points.flatMap((p) => p.x))].sort((a, b) => a - b);
	const axis = axisById("temperature") as NonNullable<ReturnType<typeof axisById>>;
	const held: string[] = [];
	const columns = found.map(({ value, spec }, i) => {
		const readings = temperatures.map((t) => interpolate(points[i] as { x: number[]; y: number[] }, t, "linear"));
		if (readings.some((r) => r?.side !== "inside")) held.push(valueLabel(value).name);
		return { name: spec.id, unit: unitInSet(spec, set), values: readings.map((r) => inSet(r?.y ?? 0, spec, set)) };
	});
	const resampled = found.filter(({ value }) => value.interpolation === "pchip").map(({ value }) => valueLabel(value).name);
	const reference = found.find(({ id, value }) => id === "thermal_expansion" && value.header.reference)?.value.header.reference;
	const notes = [
		reference === undefined ? "" : `thermal_expansion counted from ${reference}`,
		held.length > 0 ? `end values of ${held.join(", ")} held outside their own temperatures` : "",
		resampled.length > 0 ? `${resampled.join(", ")} resampled from PCHIP to 0.1 % of its span` : "",
	];
	return [
		{
			name: "over temperature",
			at: "",
			columns: [
				{ name: "temperature", unit: set.temperatureUnit, values: temperatures.map((t) => inSet(t, axis, set)) },
				...columns,
			],
			note: notes.filter((n) => n !== "").join("; "),
		},
	];
}

function flowTables(material: Material, set: SolverSet): readonly SolverTable[] {
	const value = firstForm(material, "stress_strain", "curve") as SeriesValue | null;
	if (value === null) return [];
	const conditions = value.columns.slice(0, -2);
	const stress = axisById("stress") as NonNullable<ReturnType<typeof axisById>>;
	return flowMembers(material, value).map(({ member, points }) => {
		const fine = value.interpolation === "pchip" ? resample(increasing(points.x, points.y), RESAMPLE_TOLERANCE) : points;
		const at = conditions.map((c, i) => {
			const axis = axisById(c.of) as NonNullable<ReturnType<typeof axisById>>;
			return `${axis.name.toLowerCase()} ${Number(inSet(member.at[i] as number, axis, set).toPrecision(8))} ${unitInSet(axis, set)}`;
		});
		return {
			name: "true stress over plastic strain",
			at: at.join(", ") || (value.header.temperature === undefined ? "" : `temperature ${value.header.temperature}`),
			columns: [
				{ name: "plastic_strain", unit: "1", values: [...fine.x] },
				{ name: "true_stress", unit: unitInSet(stress, set), values: fine.y.map((y) => inSet(y, stress, set)) },
			],
			note:
				value.interpolation === "pchip"
					? "resampled from PCHIP to 0.1 % of its span; ends at the last point"
					: "ends at the last point",
		};
	});
}

function modelCoefficients(material: Material, use: SolverUse, set: SolverSet): readonly SolverNumber[] {
	const ids =
		use === "rubber"
			? ["hyperelastic_model"]
			: use === "plasticity"
				? ["plasticity_model"]
				: ["plasticity_model", "hyperelastic_model", "creep_model", "core_loss_model"];
	return ids.flatMap((id) => {
		const model = firstForm(material, id, "model") as ModelValue | null;
		const form = formById(id);
		if (model === null || form?.kind !== "model") return [];
		const shape = form.forms.find((f) => f.id === model.form);
		return Object.entries(modelNumbers(model)).flatMap(([name, si]) => {
			const spec = shape?.coefficients[name];
			if (spec === undefined) return [];
			return [
				{
					property: `${model.form}.${name}`,
					name: `${shape?.name}: ${spec.symbol}`,
					value: inSet(si, spec, set),
					unit: unitInSet(spec, set),
					rule: shape?.expression ?? "",
				},
			];
		});
	});
}

/** Why a use is not ready or ready with doubts, one sentence each. */
function doubtsOf(material: Material, use: SolverUse, context: JudgeContext): readonly string[] {
	const { checks, readiness: all } = judge(material, context);
	if (use === "all") {
		return checks.filter((c) => c.severity !== "note" && c.acknowledged === undefined).map((c) => c.title);
	}
	const own = all.find((r) => r.use === READINESS_OF[use]) as Readiness;
	const missing = own.missing.map(
		(any) => `missing: ${[...new Set(any)].map((id) => formById(id)?.name ?? property(id).name).join(" or ")}`,
	);
	return [...missing, ...own.doubts];
}
