import { fail, type Issue, ok, type Result } from "../result";
import { type Parameter, parametersOf, partNames, refOf, refsOf } from "./parameters";
import type { Part21 } from "./scan";

/** Prefixes of ISO 10303-41, si_prefix. */
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
	PICO: 1e-12,
	FEMTO: 1e-15,
	ATTO: 1e-18,
};

/**
 * Metres in one length unit of a representation's context. A millimetre that nobody wrote may be an inch.
 * @returns issues `no-length-unit` (the context names none) or `unknown-length-unit`, each with line and entity
 */
export function lengthUnit(file: Part21, context: Parameter | undefined): Result<number> {
	const index = file.byNumber.get(refOf(context));
	const at = (i: number | undefined): Pick<Issue, "line" | "path"> =>
		i === undefined ? {} : { line: file.lines[i] as number, path: `#${file.numbers[i]}` };
	if (index === undefined) return fail({ code: "no-length-unit" });
	for (const unit of refsOf(parametersOf(file, index, "GLOBAL_UNIT_ASSIGNED_CONTEXT")[0])) {
		const of = file.byNumber.get(unit);
		if (of === undefined || !partNames(file, of).includes("LENGTH_UNIT")) continue;
		const metres = metresOf(file, of, 0);
		return typeof metres === "number" ? ok(metres) : fail({ code: "unknown-length-unit", ...at(of), actual: metres.unknown });
	}
	return fail({ code: "no-length-unit", ...at(index) });
}

/** An SI length with its prefix, or one defined by conversion (an inch as 25.4 of a millimetre); what is unknown by its name. */
function metresOf(file: Part21, index: number, depth: number): number | { readonly unknown: string } {
	const [prefix, name] = parametersOf(file, index, "SI_UNIT");
	if (name?.kind === "enum" && name.value === "METRE") {
		if (prefix === undefined || prefix.kind === "unset") return 1;
		if (prefix.kind === "enum" && Object.hasOwn(PREFIX, prefix.value)) return PREFIX[prefix.value] as number;
		return { unknown: `the prefix ${prefix.kind === "enum" ? prefix.value : "of another kind"}` };
	}
	const [label, conversion] = parametersOf(file, index, "CONVERSION_BASED_UNIT");
	const own = { unknown: label?.kind === "text" ? `the unit ${label.value}` : "a unit without a definition" };
	const measure = file.byNumber.get(refOf(conversion));
	if (measure === undefined || depth > 4) return own;
	const part = file.types[measure] === "" ? "MEASURE_WITH_UNIT" : undefined;
	const [value, base] = parametersOf(file, measure, part);
	const inner = value?.kind === "typed" ? value.items[0] : value;
	const below = file.byNumber.get(refOf(base));
	if (below === undefined || inner?.kind !== "number" || !(inner.value > 0)) return own;
	const metres = metresOf(file, below, depth + 1);
	return typeof metres === "number" ? inner.value * metres : metres;
}
