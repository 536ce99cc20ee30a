import { fail, ok, type Result } from "../result";
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
};

/** Every reference leads somewhere and every entity that the kernel reads has its parameters. */
export function checkReferences(file: Part21): Result<null> {
	for (let index = 0; index < file.types.length; index++) {
		const type = file.types[index] as string;
		const line = file.lines[index] as number;
		const name = `#${file.numbers[index]}${type === "" ? "" : ` ${type}`}`;
		const expected = Object.hasOwn(PARAMETER_COUNTS, type) ? PARAMETER_COUNTS[type] : undefined;
		if (expected !== undefined && (file.counts[index] as number) < expected) {
			return fail({
				code: "missing-parameter",
				line,
				path: name,
				actual: file.counts[index] as number,
				expected: String(expected),
			});
		}
		for (let r = file.refStarts[index] as number; r < (file.refStarts[index + 1] as number); r++) {
			const target = file.refs[r] as number;
			if (!file.byNumber.has(target)) return fail({ code: "dangling-reference", line, path: name, actual: `#${target}` });
		}
	}
	return ok(null);
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
