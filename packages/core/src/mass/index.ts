import { apply, type Mat3, type Placement, turn, type Vec3 } from "./vector";

export { MASS_UNITS, type MassQuantity, showComputed } from "./units";
export {
	apply,
	compose,
	cross,
	dot,
	IDENTITY,
	inverse,
	type Mat3,
	matrixOf,
	type Placement,
	placementOf,
	turn,
	type Vec3,
} from "./vector";

/** Geometry of one solid in SI: m3, m2, m, and second moments about its centroid for density 1 (m5). */
export type SolidGeometry = {
	readonly volume: number;
	readonly area: number;
	readonly centroid: Vec3;
	/** 3x3 about the centroid; off-diagonals are the negative products. */
	readonly inertia: Mat3;
};

/** A density in kg/m3: the working one and the ends of its range (null when open). */
export type DensityRange = { readonly working: number; readonly low: number | null; readonly high: number | null };

/** A mass in kg with the ends that the density's range gives; open ends stay null. */
export type MassRange = { readonly mass: number; readonly low: number | null; readonly high: number | null };

/** m = rho V, at the working density and at both ends. */
export function massOf(volume: number, density: DensityRange): MassRange {
	return {
		mass: density.working * volume,
		low: density.low === null ? null : density.low * volume,
		high: density.high === null ? null : density.high * volume,
	};
}

/** A solid where its occurrence puts it. A rigid motion changes neither volume nor area. */
export function placeSolid(solid: SolidGeometry, placement: Placement): SolidGeometry {
	return { ...solid, centroid: apply(placement, solid.centroid), inertia: turn(placement.rotation, solid.inertia) };
}

/** One body of the assembly, in assembly coordinates; `density` null: no material, so no mass. */
export type MassItem = { readonly solid: SolidGeometry; readonly density: DensityRange | null };

/** What a set of bodies weighs, and how much of it that covers. */
export type MassTotal = {
	/** Null when no body has a material: no material, no mass. */
	readonly mass: MassRange | null;
	/** Of the bodies that have a material, m. */
	readonly centreOfGravity: Vec3 | null;
	/** Of those bodies about their centre of gravity, kg m2; off-diagonals are the negative products. */
	readonly inertia: Mat3 | null;
	readonly volume: number;
	readonly area: number;
	/** Centroid of all volume, m. */
	readonly centroid: Vec3 | null;
	readonly bodies: number;
	readonly bodiesWithMass: number;
	readonly volumeWithMass: number;
};

/**
 * Adds up bodies: m = sum rho_i V_i; r = sum m_i r_i / m; I = sum [rho_i J_i + m_i (|d|^2 1 - d d^T)], d = r_i - r
 * (the parallel-axis theorem). Sums are compensated (Neumaier), so the order of bodies does not show.
 */
export function totalMass(items: readonly MassItem[]): MassTotal {
	const weighed = items.filter((item): item is MassItem & { density: DensityRange } => item.density !== null);
	const volume = sum(items.map((i) => i.solid.volume));
	const mass = sum(weighed.map((i) => i.density.working * i.solid.volume));
	const end = (pick: (d: DensityRange) => number | null): number | null =>
		weighed.some((i) => pick(i.density) === null) ? null : sum(weighed.map((i) => (pick(i.density) as number) * i.solid.volume));
	const weightOf = (i: MassItem): number => (i.density === null ? 0 : i.density.working * i.solid.volume);
	const centreOfGravity = mass > 0 ? weightedMean(weighed, weightOf) : null;
	return {
		mass: weighed.length === 0 ? null : { mass, low: end((d) => d.low), high: end((d) => d.high) },
		centreOfGravity,
		inertia: centreOfGravity === null ? null : inertiaAbout(weighed, centreOfGravity, (i) => (i.density as DensityRange).working),
		volume,
		area: sum(items.map((i) => i.solid.area)),
		centroid: volume > 0 ? weightedMean(items, (i) => i.solid.volume) : null,
		bodies: items.length,
		bodiesWithMass: weighed.length,
		volumeWithMass: sum(weighed.map((i) => i.solid.volume)),
	};
}

function weightedMean(items: readonly MassItem[], weight: (item: MassItem) => number): Vec3 {
	const whole = sum(items.map(weight));
	// about the first one: far from the origin the differences keep their digits
	const first = (items[0] as MassItem).solid.centroid;
	const at = (axis: 0 | 1 | 2): number =>
		first[axis] + sum(items.map((i) => weight(i) * (i.solid.centroid[axis] - first[axis]))) / whole;
	return [at(0), at(1), at(2)];
}

function inertiaAbout(items: readonly MassItem[], about: Vec3, density: (item: MassItem) => number): Mat3 {
	const entry = (r: 0 | 1 | 2, c: 0 | 1 | 2): number =>
		sum(
			items.map((item) => {
				const rho = density(item);
				const m = rho * item.solid.volume;
				const [x, y, z] = item.solid.centroid;
				const d = [x - about[0], y - about[1], z - about[2]] as const;
				const square = d[0] * d[0] + d[1] * d[1] + d[2] * d[2];
				return rho * item.solid.inertia[r][c] + m * ((r === c ? square : 0) - d[r] * d[c]);
			}),
		);
	return [
		[entry(0, 0), entry(0, 1), entry(0, 2)],
		[entry(1, 0), entry(1, 1), entry(1, 2)],
		[entry(2, 0), entry(2, 1), entry(2, 2)],
	];
}

/** Neumaier's compensated sum. */
export function sum(terms: readonly number[]): number {
	let total = 0;
	let lost = 0;
	for (const term of terms) {
		const next = total + term;
		lost += Math.abs(total) >= Math.abs(term) ? total - next + term : term - next + total;
		total = next;
	}
	return total + lost;
}
