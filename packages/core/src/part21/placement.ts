import { cross, dot, IDENTITY, type Placement, type Vec3 } from "../mass";
import { numbersOf, parametersOf, refOf } from "./parameters";
import type { Part21 } from "./scan";

/** AXIS2_PLACEMENT_3D as a placement: z is the axis, x the reference direction made square to it (ISO 10303-42). */
export function axisPlacement(file: Part21, entity: number, lengthToMetre: number): Placement {
	const index = file.byNumber.get(entity);
	if (index === undefined || file.types[index] !== "AXIS2_PLACEMENT_3D") return IDENTITY;
	const [, point, axis, reference] = parametersOf(file, index);
	const z = unit(direction(file, refOf(axis)) ?? [0, 0, 1]);
	const wanted = direction(file, refOf(reference)) ?? (Math.abs(z[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0]);
	const along = dot(wanted, z);
	const x = unit([wanted[0] - along * z[0], wanted[1] - along * z[1], wanted[2] - along * z[2]]);
	const y = cross(z, x);
	return fromAxes(x, y, z, scale(pointAt(file, refOf(point)), lengthToMetre));
}

/**
 * CARTESIAN_TRANSFORMATION_OPERATOR_3D, which may mirror. Its directions may be left out, so they are told from the
 * origin by type and from each other by order.
 * @returns null when it scales: a scaled part has another mass
 */
export function operatorPlacement(file: Part21, entity: number, lengthToMetre: number): Placement | null {
	const index = file.byNumber.get(entity) as number;
	const all = parametersOf(file, index).slice(-5);
	const [axis1, axis2, origin, factor, axis3] = all;
	if (factor?.kind === "number" && Math.abs(factor.value - 1) > 1e-12) return null;
	const z = direction(file, refOf(axis3));
	const x = unit(direction(file, refOf(axis1)) ?? [1, 0, 0]);
	const y = unit(direction(file, refOf(axis2)) ?? (z === null ? [0, 1, 0] : cross(unit(z), x)));
	return fromAxes(x, y, z === null ? cross(x, y) : unit(z), scale(pointAt(file, refOf(origin)), lengthToMetre));
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

function direction(file: Part21, entity: number): Vec3 | null {
	const index = file.byNumber.get(entity);
	if (index === undefined || file.types[index] !== "DIRECTION") return null;
	const [x = 0, y = 0, z = 0] = numbersOf(parametersOf(file, index)[1]);
	return x === 0 && y === 0 && z === 0 ? null : [x, y, z];
}

function pointAt(file: Part21, entity: number): Vec3 {
	const index = file.byNumber.get(entity);
	if (index === undefined || file.types[index] !== "CARTESIAN_POINT") return [0, 0, 0];
	const [x = 0, y = 0, z = 0] = numbersOf(parametersOf(file, index)[1]);
	return [x, y, z];
}

function unit(v: Vec3): Vec3 {
	const length = Math.hypot(v[0], v[1], v[2]);
	return length === 0 ? [1, 0, 0] : [v[0] / length, v[1] / length, v[2] / length];
}

function scale(v: Vec3, by: number): Vec3 {
	return [v[0] * by, v[1] * by, v[2] * by];
}
