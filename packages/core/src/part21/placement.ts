import { cross, dot, type Placement, type Vec3 } from "../mass";
import { fail, type Issue, ok, type Result } from "../result";
import { numbersOf, type Parameter, parametersOf, partNames } from "./parameters";
import type { Part21 } from "./scan";

/** What cannot be read is refused with its place: a placement that is guessed puts a part where it is not. */
function refused(
	file: Part21,
	index: number | undefined,
	actual: string,
	expected: string,
): { ok: false; issues: readonly Issue[] } {
	const at = index === undefined ? {} : { line: file.lines[index] as number, path: nameOf(file, index) };
	return fail({ code: "bad-placement", ...at, actual, expected });
}

const nameOf = (file: Part21, index: number): string => `#${file.numbers[index]} ${partNames(file, index).join(" ")}`.trim();

/** AXIS2_PLACEMENT_3D as a placement: z is the axis, x the reference direction made square to it (ISO 10303-42, build_axes). */
export function axisPlacement(file: Part21, reference: Parameter | undefined, lengthToMetre: number): Result<Placement> {
	const index = target(file, reference);
	if (index === undefined || file.types[index] !== "AXIS2_PLACEMENT_3D")
		return refused(file, index, index === undefined ? "nothing" : nameOf(file, index), "an AXIS2_PLACEMENT_3D");
	const [, point, axis, along] = parametersOf(file, index);
	const origin = pointAt(file, index, point);
	if (!origin.ok) return origin;
	const z = optionalDirection(file, index, axis, [0, 0, 1]);
	if (!z.ok) return z;
	const wanted = optionalDirection(file, index, along, Math.abs(z.value[0]) < 1 - PARALLEL ? [1, 0, 0] : [0, 1, 0]);
	if (!wanted.ok) return wanted;
	const x = squareTo(wanted.value, z.value);
	if (x === null) return refused(file, index, "two parallel directions", "an axis and a direction across it");
	return ok(fromAxes(x, cross(z.value, x), z.value, scale(origin.value, lengthToMetre)));
}

/**
 * CARTESIAN_TRANSFORMATION_OPERATOR_3D, which may mirror (ISO 10303-42, base_axis): z is axis 3, x axis 1 made square to
 * it, y axis 2 made square to both. A simple instance carries one or two names (and a description) in front.
 * @returns issues `bad-placement`, or `scaled-placement` when it scales: a scaled part has another mass
 */
export function operatorPlacement(file: Part21, index: number, lengthToMetre: number): Result<Placement> {
	const parts = operatorParameters(file, index);
	if (parts === null) return refused(file, index, `${file.counts[index]} parameters`, "its axes, origin and scale");
	const [axis1, axis2, local, factor, axis3] = parts;
	if (factor !== undefined && factor.kind !== "unset") {
		if (factor.kind !== "number") return refused(file, index, "a scale that is no number", "1");
		if (Math.abs(factor.value - 1) > 1e-12)
			return fail({ code: "scaled-placement", line: file.lines[index] as number, expected: "a placement without scale" });
	}
	const origin = pointAt(file, index, local);
	if (!origin.ok) return origin;
	const z = optionalDirection(file, index, axis3, [0, 0, 1]);
	if (!z.ok) return z;
	const first = optionalDirection(file, index, axis1, Math.abs(z.value[0]) < 1 - PARALLEL ? [1, 0, 0] : [0, 1, 0]);
	if (!first.ok) return first;
	const x = squareTo(first.value, z.value);
	const second = optionalDirection(file, index, axis2, x === null ? [0, 1, 0] : cross(z.value, x));
	if (!second.ok) return second;
	const y = x === null ? null : squareTo(second.value, z.value, x);
	if (x === null || y === null) return refused(file, index, "parallel directions", "three directions across each other");
	return ok(fromAxes(x, y, z.value, scale(origin.value, lengthToMetre)));
}

const OPERATOR = "CARTESIAN_TRANSFORMATION_OPERATOR";

/** Axis 1, axis 2, origin, scale, axis 3; null where there are more or fewer parameters than the entity has. */
function operatorParameters(file: Part21, index: number): readonly (Parameter | undefined)[] | null {
	if (file.types[index] === "") {
		const own = parametersOf(file, index, OPERATOR);
		const third = parametersOf(file, index, `${OPERATOR}_3D`);
		return own.length === 4 && third.length === 1 ? [...own, third[0]] : null;
	}
	const all = parametersOf(file, index);
	// name; or name, name, description: writers differ in how much of what is inherited they repeat
	return all.length >= 6 && all.length <= 8 ? all.slice(-5) : null;
}

/** Is this a transformation operator, of one instance or of parts? */
export const isOperator = (file: Part21, index: number): boolean => partNames(file, index).includes(`${OPERATOR}_3D`);

/** How close to parallel two directions may be, as the sine of the angle between them. */
const PARALLEL = 1e-9;

/** `v` without what of it lies along the others, of length one; null when nothing is left. */
function squareTo(v: Vec3, ...others: readonly Vec3[]): Vec3 | null {
	let [x, y, z] = v;
	for (const other of others) {
		const along = dot([x, y, z], other);
		[x, y, z] = [x - along * other[0], y - along * other[1], z - along * other[2]];
	}
	const length = Math.hypot(x, y, z);
	return length < PARALLEL ? null : [x / length, y / length, z / length];
}

function fromAxes(x: Vec3, y: Vec3, z: Vec3, translation: Vec3): Placement {
	return {
		rotation: [
			[x[0], y[0], z[0]],
			[x[1], y[1], z[1]],
			[x[2], y[2], z[2]],
		],
		translation,
	};
}

function target(file: Part21, reference: Parameter | undefined): number | undefined {
	return reference?.kind === "ref" ? file.byNumber.get(reference.value) : undefined;
}

/** A direction of length one; the standard's own where it is left out. */
function optionalDirection(file: Part21, of: number, reference: Parameter | undefined, standard: Vec3): Result<Vec3> {
	if (reference === undefined || reference.kind === "unset") return ok(standard);
	const index = target(file, reference);
	if (index === undefined || file.types[index] !== "DIRECTION")
		return refused(file, of, index === undefined ? "nothing" : nameOf(file, index), "a DIRECTION");
	const v = threeNumbers(file, index);
	if (!v.ok) return v;
	const length = Math.hypot(...v.value);
	if (!(length > 0)) return refused(file, index, "a direction of length zero", "a direction");
	return ok([v.value[0] / length, v.value[1] / length, v.value[2] / length]);
}

function pointAt(file: Part21, of: number, reference: Parameter | undefined): Result<Vec3> {
	const index = target(file, reference);
	if (index === undefined || file.types[index] !== "CARTESIAN_POINT")
		return refused(file, of, index === undefined ? "nothing" : nameOf(file, index), "a CARTESIAN_POINT");
	return threeNumbers(file, index);
}

function threeNumbers(file: Part21, index: number): Result<Vec3> {
	const list = parametersOf(file, index)[1];
	const numbers = numbersOf(list);
	const [x, y, z] = numbers;
	if (
		list?.kind !== "list" ||
		list.items.length !== 3 ||
		numbers.length !== 3 ||
		x === undefined ||
		y === undefined ||
		z === undefined
	)
		return refused(file, index, `${list?.kind === "list" ? list.items.length : 0} coordinates`, "three numbers");
	return ok([x, y, z]);
}

function scale(v: Vec3, by: number): Vec3 {
	return [v[0] * by, v[1] * by, v[2] * by];
}
