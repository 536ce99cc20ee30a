import { type Coefficient, type Material, type MaterialValue, makeCoefficient, makeSeries } from "@alvek/core/material";
import { type Component, formById } from "@alvek/core/property";
import { describeIssue, type Result } from "@alvek/core/result";
import { type Coefficients, DEPTH } from "./depth.data";

/** The material with its curves, tables, directional sets and models. */
export function withDepth(name: string, material: Material): Material {
	const depth = DEPTH[name];
	if (depth === undefined) return material;
	const values: Record<string, MaterialValue> = { ...material.values };
	const put = (value: MaterialValue): void => {
		const id = values[value.property] === undefined ? value.property : `${value.property}~2`;
		values[id] = { ...value, id };
	};
	for (const s of depth.series ?? []) {
		const head = { id: s.property, property: s.property, evidence: "measured" } as const;
		put(must(makeSeries(head, { kind: s.kind, columns: s.columns, interpolation: s.interpolation, header: s.header ?? {} })));
	}
	for (const set of depth.sets ?? []) {
		const components = numbers(set, specsOf(set.property, set.shape));
		const axes = set.axes ?? ["1", "2", "3"];
		put({ id: set.property, property: set.property, kind: "set", evidence: "data-sheet", symmetry: set.shape, axes, components });
	}
	for (const model of depth.models ?? []) {
		const coefficients = numbers(model, specsOf(model.property, model.shape));
		put({ id: model.property, property: model.property, kind: "model", evidence: "measured", form: model.shape, coefficients });
	}
	const composition = (depth.composition ?? []).map(([n, min, max]) => ({
		name: n,
		min,
		max,
		...(min === "" && max === "" ? { balance: true } : {}),
	}));
	return { ...material, values, composition, elasticity: depth.directional === true ? "directional" : material.elasticity };
}

function specsOf(property: string, shape: string): Readonly<Record<string, Component>> {
	const form = formById(property);
	if (form?.kind === "set") return form.components;
	return form?.kind === "model" ? (form.forms.find((f) => f.id === shape)?.coefficients ?? {}) : {};
}

function numbers(of: Coefficients, specs: Readonly<Record<string, Component>>): Readonly<Record<string, Coefficient>> {
	return Object.fromEntries(
		Object.entries(of.numbers).map(([name, text]) => [name, must(makeCoefficient(text, specs[name] as Component, {}))]),
	);
}

function must<T>(result: Result<T>): T {
	if (!result.ok) throw new Error(`demo data: ${result.issues.map(describeIssue).join(" ")}`);
	return result.value;
}
