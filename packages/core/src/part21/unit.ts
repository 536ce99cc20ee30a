import { parametersOf, partNames, refOf, refsOf } from "./parameters";
import type { Part21 } from "./scan";

const PREFIX: Readonly<Record<string, number>> = {
	EXA: 1e18,
	PETA: 1e15,
	TERA: 1e12,
	GIGA: 1e9,
	MEGA: 1e6,
	KILO: 1e3,
	HECTO: 1e2,
	DECA: 1e1,
	DECI: 1e-1,
	CENTI: 1e-2,
	MILLI: 1e-3,
	MICRO: 1e-6,
	NANO: 1e-9,
};

/** Metres in one length unit of a representation's context; null when the context names none. */
export function lengthUnit(file: Part21, context: number): number | null {
	const index = file.byNumber.get(context);
	if (index === undefined) return null;
	for (const unit of refsOf(parametersOf(file, index, "GLOBAL_UNIT_ASSIGNED_CONTEXT")[0])) {
		const metres = metresOf(file, unit, 0);
		if (metres !== null) return metres;
	}
	return null;
}

/** An SI length with its prefix, or one defined by conversion (an inch as 25.4 of a millimetre). */
function metresOf(file: Part21, entity: number, depth: number): number | null {
	const index = file.byNumber.get(entity);
	if (index === undefined || depth > 4 || !partNames(file, index).includes("LENGTH_UNIT")) return null;
	const [prefix, name] = parametersOf(file, index, "SI_UNIT");
	if (name?.kind === "enum" && name.value === "METRE") {
		return prefix?.kind === "enum" ? (PREFIX[prefix.value] ?? null) : 1;
	}
	const measure = file.byNumber.get(refOf(parametersOf(file, index, "CONVERSION_BASED_UNIT")[1]));
	if (measure === undefined) return null;
	const part = file.types[measure] === "" ? "MEASURE_WITH_UNIT" : undefined;
	const [value, base] = parametersOf(file, measure, part);
	const inner = value?.kind === "typed" ? value.items[0] : value;
	const metres = metresOf(file, refOf(base), depth + 1);
	return inner?.kind === "number" && metres !== null ? inner.value * metres : null;
}
