import { familyName, formById, propertyById } from "../property";
import { fail, type Issue, ok, type Result } from "../result";
import { makeCoefficient, makeValue } from "./make";
import { BLANK, type Coefficient, type Material, type MaterialValue } from "./types";

/** A material as scripts give it: values as texts with their units, by the id of their property; bare numbers are SI. */
export type TypedMaterial = {
	readonly family?: string | null;
	readonly values: Readonly<Record<string, unknown>>;
	/** Which definition a value has: `{ "yield_strength": "Rp0.2" }`. */
	readonly kinds?: Readonly<Record<string, string>>;
	/** A directional set: `symmetry` and its components as texts. */
	readonly elastic_set?: Readonly<Record<string, string>>;
};

/**
 * Makes a material of typed texts; every one of them goes through the same reader as a value field.
 * @returns all issues, each with its path
 */
export function typedMaterial(typed: TypedMaterial, path: string): Result<Material> {
	const values: Record<string, MaterialValue> = {};
	const issues: Issue[] = [];
	for (const [id, given] of Object.entries(typed.values)) {
		const spec = propertyById(id);
		if (spec === undefined) {
			issues.push({ code: "unknown-property", path: `${path}.${id}`, actual: id });
			continue;
		}
		const text = typeof given === "number" ? `${given}${spec.siUnit === "1" ? "" : ` ${spec.siUnit}`}` : String(given);
		const qualifier = typed.kinds?.[id];
		const details = qualifier === undefined ? {} : { qualifier };
		const made = makeValue(id, text, typeof given === "number" ? { decimalMark: "." } : {}, details);
		if (made.ok) values[id] = made.value;
		else issues.push(...made.issues.map((i) => ({ ...i, path: `${path}.${id}` })));
	}
	const set = typed.elastic_set === undefined ? null : typedSet(typed.elastic_set, path);
	if (set?.ok === true) values.elastic_set = set.value;
	else if (set !== null && !set.ok) issues.push(...set.issues);
	const family = typed.family ?? null;
	if (family !== null && family !== "" && familyName(family) === undefined)
		issues.push({ code: "bad-input", path: `${path}.family`, actual: family });
	if (issues.length > 0) return fail(...issues);
	const elasticity = set === null ? BLANK.elasticity : "directional";
	return ok({ ...BLANK, family: family === "" ? null : family, elasticity, values });
}

function typedSet(typed: Readonly<Record<string, string>>, path: string): Result<MaterialValue> {
	const form = formById("elastic_set");
	const components: Record<string, Coefficient> = {};
	const issues: Issue[] = [];
	for (const [name, text] of Object.entries(typed)) {
		if (name === "symmetry") continue;
		const spec = form?.kind === "set" && Object.hasOwn(form.components, name) ? form.components[name] : undefined;
		const made =
			spec === undefined ? fail({ code: "unknown-property", actual: name }) : makeCoefficient(text, spec, { decimalMark: "." });
		if (made.ok) components[name] = made.value;
		else issues.push(...made.issues.map((i) => ({ ...i, path: `${path}.elastic_set.${name}` })));
	}
	if (issues.length > 0) return fail(...issues);
	return ok({
		id: "elastic_set",
		property: "elastic_set",
		kind: "set",
		symmetry: typed.symmetry ?? "orthotropic",
		axes: ["1", "2", "3"],
		components,
	});
}
