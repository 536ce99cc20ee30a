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
					// three rows of three, which JSON does not say
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

/** Two masses with as many digits as it takes to tell them apart. */
export function massPair(before: number | null, after: number | null, unitSet: UnitSetId): readonly [string, string] {
	for (let digits = 4; ; digits++) {
		const texts = [before, after].map((kg) => (kg === null ? "no mass" : massText(kg, unitSet, digits))) as [string, string];
		if (texts[0] !== texts[1] || before === after || digits === 7) return texts;
	}
}

/** A difference of masses with its sign and unit: `+0.002 kg`; nothing changes in words. */
export function signedMass(kg: number, unitSet: UnitSetId): string {
	if (kg === 0) return "mass stays";
	return `${kg > 0 ? "+" : ""}${massText(kg, unitSet, 3)} ${MASS_UNITS[unitSet].mass}`;
}

type AssemblyChange = { readonly id: string; readonly name: string; readonly before: number; readonly after: number };

/**
 * Assemblies that hold one of these parts, with their mass as it is and as it would be when the parts were brought
 * forward. Parts without a mass count as nothing on both sides; the whole project is left to its own line.
 */
export function assembliesWith(project: ProjectView, parts: readonly PartView[]): readonly AssemblyChange[] {
	const chosen = new Set(parts.map((p) => p.id));
	const byId = new Map(project.parts.map((p) => [p.id, p]));
	const parent = new Map(project.occurrences.map((o) => [o.id, o.parentId]));
	const sums = new Map<string, { before: number; after: number; touched: boolean }>();
	for (const { id, partId } of project.occurrences) {
		const part = partId === null ? undefined : byId.get(partId);
		if (part === undefined) continue;
		const a = part.assignment;
		const before = part.mass_kg?.mass ?? 0;
		const then = chosen.has(part.id) ? (a?.behind?.density ?? null) : null;
		const after = then === null ? before : massOf(part.volume_m3, then).mass;
		for (let at = parent.get(id) ?? null; at !== null; at = parent.get(at) ?? null) {
			const sum = sums.get(at) ?? { before: 0, after: 0, touched: false };
			sums.set(at, { before: sum.before + before, after: sum.after + after, touched: sum.touched || chosen.has(part.id) });
		}
	}
	return project.occurrences.flatMap(({ id, name, parentId }) => {
		const sum = sums.get(id);
		// the topmost one is the project itself
		return sum?.touched === true && parentId !== null ? [{ id, name, before: sum.before, after: sum.after }] : [];
	});
}
