import type { PartView, ProjectView } from "@alvek/contract";
import {
	type DensityRange,
	MASS_UNITS,
	type MassRange,
	type MassTotal,
	massOf,
	placementOf,
	placeSolid,
	type SolidGeometry,
	showComputed,
	sum,
	totalMass,
} from "@alvek/core/mass";
import type { UnitSetId } from "@alvek/core/property";
import { fromSi, typeset, unitOf } from "@alvek/core/quantity";

/** All pieces of these parts where they stand, added up by the core: the same sum as the server's. */
export function totalOf(project: ProjectView, parts: readonly PartView[]): MassTotal {
	const chosen = new Map(parts.map((p) => [p.id, p]));
	const solids = groupBy(project.solids);
	return totalMass(
		project.occurrences.flatMap((o) => {
			const part = o.partId === null ? undefined : chosen.get(o.partId);
			if (part === undefined) return [];
			const density = part.assignment?.density ?? null;
			return (solids.get(part.id) ?? []).map((s) => {
				const solid: SolidGeometry = {
					volume: s.volume_m3,
					area: s.area_m2,
					centroid: s.centroid_m,
					inertia: s.inertia_m5 as unknown as SolidGeometry["inertia"],
				};
				return { solid: placeSolid(solid, placementOf(o.matrix)), density };
			});
		}),
	);
}

function groupBy(solids: ProjectView["solids"]): Map<string, ProjectView["solids"][number][]> {
	const groups = new Map<string, ProjectView["solids"][number][]>();
	for (const s of solids) groups.set(s.partId, [...(groups.get(s.partId) ?? []), s]);
	return groups;
}

/** Mass of all pieces of these parts if they were of this density; parts keep theirs when it is undefined. */
export function massWith(parts: readonly PartView[], density?: DensityRange | null): number | null {
	const masses = parts.map((p) => {
		const own = density === undefined ? (p.assignment?.density ?? null) : density;
		return own === null ? null : massOf(p.volume_m3, own).mass * p.quantity;
	});
	return masses.some((m) => m === null) ? null : sum(masses as number[]);
}

/** A mass in the unit of the set, four digits or to the gram. */
export function massText(kg: number, unitSet: UnitSetId, digits = 4): string {
	return typeset(showComputed(kg, "mass", unitSet, digits));
}

/** Decimals for a column of masses: to the gram, further only where a part would show fewer than two digits. */
export function columnDecimals(parts: readonly PartView[], unitSet: UnitSetId): number {
	const masses = parts.flatMap((p) =>
		p.mass_kg === null ? [] : [fromSi(p.mass_kg.mass * p.quantity, unitOf(MASS_UNITS[unitSet].mass))],
	);
	const smallest = Math.min(...masses.filter((m) => m > 0), 1);
	return Math.min(Math.max(3, 1 - Math.floor(Math.log10(smallest))), 6);
}

/** A mass with so many decimals, so that points stand in line. */
export function massColumnText(kg: number, unitSet: UnitSetId, decimals: number): string {
	return typeset(fromSi(kg, unitOf(MASS_UNITS[unitSet].mass)).toFixed(decimals));
}

/** `18.62 to 18.89` with as many digits as it takes to tell the ends apart; null when the densities are single values. */
export function rangeOf(mass: MassRange, unitSet: UnitSetId): string | null {
	if (mass.low === mass.high) return null;
	if (mass.low === null || mass.high === null) return "open: a density has only one end";
	for (let digits = 4; ; digits++) {
		const [low, middle, high] = [mass.low, mass.mass, mass.high].map((kg) => massText(kg, unitSet, digits));
		if ((low !== middle && middle !== high) || digits === 7) return `${low} to ${high}`;
	}
}
