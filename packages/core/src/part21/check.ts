import { fail, type Issue, ok, type Result } from "../result";
import { parametersOf, partNames } from "./parameters";
import type { Part21 } from "./scan";

/**
 * Parameters of the entities that a kernel relies on, counted from the attribute lists of ISO 10303-42 and -41 (each
 * with the name inherited from representation_item). A kernel may crash on a missing one, so it is refused here.
 */
const PARAMETER_COUNTS: Readonly<Record<string, number>> = {
	CARTESIAN_POINT: 2,
	DIRECTION: 2,
	VECTOR: 3,
	AXIS1_PLACEMENT: 3,
	AXIS2_PLACEMENT_2D: 3,
	AXIS2_PLACEMENT_3D: 4,
	LINE: 3,
	CIRCLE: 3,
	ELLIPSE: 4,
	HYPERBOLA: 4,
	PARABOLA: 3,
	PLANE: 2,
	CYLINDRICAL_SURFACE: 3,
	CONICAL_SURFACE: 4,
	SPHERICAL_SURFACE: 3,
	TOROIDAL_SURFACE: 4,
	SURFACE_OF_LINEAR_EXTRUSION: 3,
	SURFACE_OF_REVOLUTION: 3,
	B_SPLINE_CURVE_WITH_KNOTS: 9,
	B_SPLINE_SURFACE_WITH_KNOTS: 13,
	VERTEX_POINT: 2,
	VERTEX_LOOP: 2,
	POLY_LOOP: 2,
	EDGE_CURVE: 5,
	ORIENTED_EDGE: 5,
	EDGE_LOOP: 2,
	FACE_BOUND: 3,
	FACE_OUTER_BOUND: 3,
	ADVANCED_FACE: 4,
	FACE_SURFACE: 4,
	CLOSED_SHELL: 2,
	OPEN_SHELL: 2,
	ORIENTED_CLOSED_SHELL: 4,
	MANIFOLD_SOLID_BREP: 2,
	FACETED_BREP: 2,
	BREP_WITH_VOIDS: 3,
	SHAPE_REPRESENTATION: 3,
	ADVANCED_BREP_SHAPE_REPRESENTATION: 3,
	SHAPE_DEFINITION_REPRESENTATION: 2,
	SHAPE_REPRESENTATION_RELATIONSHIP: 4,
	CONTEXT_DEPENDENT_SHAPE_REPRESENTATION: 2,
	ITEM_DEFINED_TRANSFORMATION: 4,
	NEXT_ASSEMBLY_USAGE_OCCURRENCE: 6,
	MAPPED_ITEM: 3,
	REPRESENTATION_MAP: 2,
	PRODUCT: 4,
	PRODUCT_DEFINITION: 4,
	PRODUCT_DEFINITION_FORMATION: 3,
	PRODUCT_DEFINITION_SHAPE: 3,
	PRODUCT_DEFINITION_CONTEXT: 3,
	PRODUCT_CONTEXT: 3,
	COLOUR_RGB: 4,
	STYLED_ITEM: 3,
	OVER_RIDING_STYLED_ITEM: 4,
	FACETED_BREP_SHAPE_REPRESENTATION: 3,
	PRODUCT_DEFINITION_FORMATION_WITH_SPECIFIED_SOURCE: 4,
	PRODUCT_DEFINITION_WITH_ASSOCIATED_DOCUMENTS: 5,
	CARTESIAN_TRANSFORMATION_OPERATOR_3D: 6,
	MEASURE_WITH_UNIT: 2,
	LENGTH_MEASURE_WITH_UNIT: 2,
};

/** Those that say where something stands: one parameter too many is as wrong as one too few. */
const EXACT = new Set([
	"CARTESIAN_POINT",
	"DIRECTION",
	"AXIS2_PLACEMENT_3D",
	"ITEM_DEFINED_TRANSFORMATION",
	"MAPPED_ITEM",
	"REPRESENTATION_MAP",
	"CONTEXT_DEPENDENT_SHAPE_REPRESENTATION",
	"SHAPE_DEFINITION_REPRESENTATION",
	"CIRCLE",
	"CYLINDRICAL_SURFACE",
]);

/** Parameters of the parts of complex instances that the reader or the kernel relies on. */
const PART_COUNTS: Readonly<Record<string, number>> = {
	REPRESENTATION_RELATIONSHIP: 4,
	REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION: 1,
	GLOBAL_UNIT_ASSIGNED_CONTEXT: 1,
	SI_UNIT: 2,
	CONVERSION_BASED_UNIT: 2,
	MEASURE_WITH_UNIT: 2,
	CARTESIAN_TRANSFORMATION_OPERATOR: 4,
	CARTESIAN_TRANSFORMATION_OPERATOR_3D: 1,
	B_SPLINE_CURVE: 5,
	B_SPLINE_CURVE_WITH_KNOTS: 3,
	RATIONAL_B_SPLINE_CURVE: 1,
	B_SPLINE_SURFACE: 7,
	B_SPLINE_SURFACE_WITH_KNOTS: 5,
	RATIONAL_B_SPLINE_SURFACE: 1,
};

/** Radii that have to be above zero: entity -> which parameter. */
const RADII: Readonly<Record<string, number>> = { CIRCLE: 2, CYLINDRICAL_SURFACE: 2, SPHERICAL_SURFACE: 2 };

/** Every reference leads somewhere and every entity that the kernel reads has its parameters. */
export function checkReferences(file: Part21): Result<null> {
	for (let index = 0; index < file.types.length; index++) {
		const type = file.types[index] as string;
		const line = file.lines[index] as number;
		const name = `#${file.numbers[index]}${type === "" ? "" : ` ${type}`}`;
		const expected = Object.hasOwn(PARAMETER_COUNTS, type) ? PARAMETER_COUNTS[type] : undefined;
		const count = file.counts[index] as number;
		if (expected !== undefined && (count < expected || (EXACT.has(type) && count !== expected))) {
			return fail({
				code: "missing-parameter",
				line,
				path: name,
				actual: file.counts[index] as number,
				expected: String(expected),
			});
		}
		const wrong = (type === "" ? wrongPart(file, index) : null) ?? badRadius(file, index, type);
		if (wrong !== null) return fail({ ...wrong, line, path: name });
		for (let r = file.refStarts[index] as number; r < (file.refStarts[index + 1] as number); r++) {
			const target = file.refs[r] as number;
			if (!file.byNumber.has(target)) return fail({ code: "dangling-reference", line, path: name, actual: `#${target}` });
		}
	}
	return ok(null);
}

/** The first part of a complex instance with too few parameters. */
function wrongPart(file: Part21, index: number): Issue | null {
	for (const part of partNames(file, index)) {
		const expected = Object.hasOwn(PART_COUNTS, part) ? PART_COUNTS[part] : undefined;
		const actual = expected === undefined ? 0 : parametersOf(file, index, part).length;
		if (expected !== undefined && actual !== expected) return { code: "missing-parameter", actual, expected: String(expected) };
	}
	return null;
}

function badRadius(file: Part21, index: number, type: string): Issue | null {
	const at = Object.hasOwn(RADII, type) ? RADII[type] : undefined;
	if (at === undefined) return null;
	const radius = parametersOf(file, index)[at];
	const value = radius?.kind === "typed" ? radius.items[0] : radius;
	if (value?.kind === "number" && value.value > 0) return null;
	return { code: "bad-radius", actual: value?.kind === "number" ? value.value : "nothing", expected: "above zero" };
}

/**
 * Walks everything that `roots` refer to, without recursion.
 * @returns the indices met; issue `reference-loop` when an entity reaches itself, which would overflow the kernel's stack
 */
export function reachable(file: Part21, roots: readonly number[]): Result<ReadonlySet<number>> {
	const done = new Set<number>();
	const open = new Set<number>();
	const stack: { index: number; next: number }[] = [];
	for (const root of roots) {
		if (done.has(root)) continue;
		stack.push({ index: root, next: file.refStarts[root] as number });
		open.add(root);
		while (stack.length > 0) {
			const top = stack[stack.length - 1] as { index: number; next: number };
			if (top.next >= (file.refStarts[top.index + 1] as number)) {
				stack.pop();
				open.delete(top.index);
				done.add(top.index);
				continue;
			}
			const target = file.byNumber.get(file.refs[top.next++] as number);
			if (target === undefined || done.has(target)) continue;
			if (open.has(target)) {
				return fail({
					code: "reference-loop",
					line: file.lines[target] as number,
					path: `#${file.numbers[target]}`,
					expected: "an entity that does not contain itself",
				});
			}
			open.add(target);
			stack.push({ index: target, next: file.refStarts[target] as number });
		}
	}
	return ok(done);
}
