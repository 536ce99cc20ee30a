/** Points and directions, and 3x3 tensors in rows. */
export type Vec3 = readonly [number, number, number];
export type Mat3 = readonly [Vec3, Vec3, Vec3];
/** A rigid placement in rows: rotation and translation, `x' = R x + t`. Translation in the unit of the context. */
export type Placement = { readonly rotation: Mat3; readonly translation: Vec3 };

export const IDENTITY: Placement = {
	rotation: [
		[1, 0, 0],
		[0, 1, 0],
		[0, 0, 1],
	],
	translation: [0, 0, 0],
};

export function add(a: Vec3, b: Vec3): Vec3 {
	return [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
}

export function rotate(m: Mat3, v: Vec3): Vec3 {
	return [dot(m[0], v), dot(m[1], v), dot(m[2], v)];
}

export function dot(a: Vec3, b: Vec3): number {
	return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

export function apply(p: Placement, v: Vec3): Vec3 {
	return add(rotate(p.rotation, v), p.translation);
}

/** `outer` after `inner`. */
export function compose(outer: Placement, inner: Placement): Placement {
	return { rotation: multiply(outer.rotation, inner.rotation), translation: apply(outer, inner.translation) };
}

/** The inverse of a placement whose rotation is orthogonal. */
export function inverse(p: Placement): Placement {
	const rotation = transpose(p.rotation);
	const t = rotate(rotation, p.translation);
	return { rotation, translation: [-t[0], -t[1], -t[2]] };
}

export function multiply(a: Mat3, b: Mat3): Mat3 {
	const columns = transpose(b);
	const row = (r: Vec3): Vec3 => [dot(r, columns[0]), dot(r, columns[1]), dot(r, columns[2])];
	return [row(a[0]), row(a[1]), row(a[2])];
}

export function transpose(m: Mat3): Mat3 {
	return [
		[m[0][0], m[1][0], m[2][0]],
		[m[0][1], m[1][1], m[2][1]],
		[m[0][2], m[1][2], m[2][2]],
	];
}

export function cross(a: Vec3, b: Vec3): Vec3 {
	return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

/** Second moments of a tensor turned by R: R I R^T. */
export function turn(rotation: Mat3, tensor: Mat3): Mat3 {
	return multiply(multiply(rotation, tensor), transpose(rotation));
}

/** A placement from 12 numbers in rows, rotation and translation, as it goes over the wire. */
export function placementOf(matrix: readonly number[]): Placement {
	const [a = 1, b = 0, c = 0, x = 0, d = 0, e = 1, f = 0, y = 0, g = 0, h = 0, i = 1, z = 0] = matrix;
	return {
		rotation: [
			[a, b, c],
			[d, e, f],
			[g, h, i],
		],
		translation: [x, y, z],
	};
}

/** The 12 numbers of a placement. */
export function matrixOf({ rotation, translation }: Placement): number[] {
	return rotation.flatMap((row, i) => [...row, translation[i] as number]);
}
