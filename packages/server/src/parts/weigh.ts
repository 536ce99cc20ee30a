import type { AssignmentView, PartView, ProjectView, TotalsView } from "@alvek/contract";
import { type MassItem, massOf, placementOf, placeSolid, sum, totalMass, type Vec3 } from "@alvek/core/mass";
import { densityOf, firstValue, type Material } from "@alvek/core/material";
import type { Sql } from "../db/connection";
import { draftById, draftDocument, parseDocument } from "../materials/store";
import {
	type AssignmentRecord,
	assignmentsOf,
	type BodyRecord,
	bodiesOf,
	importsOf,
	occurrencesOf,
	type PartRecord,
	partsOf,
	solidOf,
} from "./store";

/** The whole project, weighed. Nothing of it is stored: masses follow assignments and cannot go stale. */
export async function weighProject(sql: Sql, project: { id: string; name: string }, mayEdit: boolean): Promise<ProjectView> {
	const [parts, bodies, occurrences, assignments, imports] = await Promise.all([
		partsOf(sql, project.id),
		bodiesOf(sql, project.id),
		occurrencesOf(sql, project.id),
		assignmentsOf(sql, project.id),
		importsOf(sql, project.id),
	]);
	const solidsOf = groupBy(bodies, (b) => b.part_id);
	const standing = new Map<string, AssignmentView>();
	for (const record of assignments) standing.set(record.part_id, await assignmentView(sql, record));
	const views = parts.map((part) => partView(part, solidsOf.get(part.id) ?? [], standing.get(part.id) ?? null));
	const byId = new Map(views.map((v) => [v.id, v]));
	const places = occurrences.map((o) => ({ ...o, numbers: JSON.parse(o.matrix) as number[] }));
	const items = places.flatMap((place): MassItem[] => {
		if (place.part_id === null) return [];
		const density = byId.get(place.part_id)?.assignment?.density ?? null;
		const placement = placementOf(place.numbers);
		return (solidsOf.get(place.part_id) ?? []).map((body) => ({ solid: placeSolid(solidOf(body), placement), density }));
	});
	return {
		id: project.id,
		name: project.name,
		mayEdit,
		parts: views,
		occurrences: places.map((o) => ({
			id: o.id,
			partId: o.part_id,
			parentId: o.parent_id,
			name: o.name,
			path: o.path,
			matrix: o.numbers,
		})),
		solids: bodies.map((b) => ({
			partId: b.part_id,
			n: b.n,
			name: b.name,
			volume_m3: b.volume_m3,
			area_m2: b.area_m2,
			centroid_m: JSON.parse(b.centroid_m) as Vec3,
			inertia_m5: JSON.parse(b.inertia_m5) as Vec3[],
		})),
		totals: totalsView(items, views),
		imports: imports.map(({ file, at }) => ({ file, at })),
	};
}

function partView(part: PartRecord, bodies: readonly BodyRecord[], assignment: AssignmentView | null): PartView {
	const one = totalMass(bodies.map((b) => ({ solid: solidOf(b), density: null })));
	const density = assignment?.density ?? null;
	return {
		id: part.id,
		name: part.name,
		productId: part.product_id,
		key: `${part.geometry_hash}:${part.product}`,
		quantity: part.quantity,
		geometryHash: part.geometry_hash,
		bodies: bodies.map((b) => b.n),
		volume_m3: one.volume,
		area_m2: one.area,
		centroid_m: one.centroid ?? [0, 0, 0],
		fileColour: part.colour,
		assignment,
		mass_kg: density === null ? null : massOf(one.volume, density),
	};
}

async function assignmentView(sql: Sql, record: AssignmentRecord): Promise<AssignmentView> {
	const document = await documentOf(sql, record);
	const isBehind = record.revision_id !== null && record.head_id !== null && record.head_id !== record.revision_id;
	const value = firstValue(document, "density");
	return {
		materialId: record.material_id,
		material: record.material,
		colour: document.colour,
		revision: record.revision_no ?? 0,
		draft: record.draft_id !== null,
		removed: record.removed_at !== null,
		density: densityOf(document),
		densityCarried: value?.carried !== undefined,
		behind: isBehind ? { revision: record.head_no ?? 0, density: densityOf(parseDocument(record.head_bytes as Buffer)) } : null,
	};
}

async function documentOf(sql: Sql, record: AssignmentRecord): Promise<Material> {
	if (record.bytes !== null) return parseDocument(record.bytes);
	const draft = await draftById(sql, record.draft_id as string);
	if (draft === null) throw new Error(`assignment of ${record.part_id} stands on a draft that is gone`);
	return draftDocument(draft);
}

function totalsView(items: readonly MassItem[], parts: readonly PartView[]): TotalsView {
	const total = totalMass(items);
	const pieces = (test: (p: PartView) => boolean): number => sum(parts.filter(test).map((p) => p.quantity));
	return {
		mass_kg: total.mass,
		centreOfGravity_m: total.centreOfGravity,
		inertia_kg_m2: total.inertia,
		volume_m3: total.volume,
		area_m2: total.area,
		parts: pieces(() => true),
		partsWithMass: pieces((p) => p.mass_kg !== null),
		volumeWithMass_m3: total.volumeWithMass,
		behind: pieces((p) => p.assignment?.behind != null),
		carriedOver: pieces((p) => p.assignment?.densityCarried === true),
	};
}

function groupBy<T>(list: readonly T[], key: (item: T) => string): Map<string, T[]> {
	const groups = new Map<string, T[]>();
	for (const item of list) {
		const group = groups.get(key(item));
		if (group === undefined) groups.set(key(item), [item]);
		else group.push(item);
	}
	return groups;
}
