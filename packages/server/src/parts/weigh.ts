import type { AssignmentView, PartView, ProjectView, TotalsView } from "@alvek/contract";
import { costedPart, type Money, rollUpCosts } from "@alvek/core/cost";
import { type MassItem, massOf, placementOf, placeSolid, type SolidGeometry, sum, totalMass, type Vec3 } from "@alvek/core/mass";
import {
	classify,
	densityOf,
	difference,
	firstValue,
	type Material,
	type NumberValue,
	workingOf,
	workingRule,
} from "@alvek/core/material";
import type { LeftOut } from "@alvek/core/part21";
import { may } from "@alvek/core/rights";
import { readableLibraries } from "../access";
import type { Context, Sql } from "../db";
import {
	type AssignmentRecord,
	assignmentsOf,
	type BodyRecord,
	bodiesOf,
	type DraftRecord,
	defaultNamed,
	draftDocument,
	draftsById,
	editionNos,
	followsOf,
	importsOf,
	namedGrants,
	occurrencesOf,
	type PartRecord,
	type ProjectRecord,
	parseDocument,
	partsOf,
} from "../repo";

/** The whole project, weighed. Nothing of it is stored: masses follow assignments and cannot go stale. */
export async function weighProject(ctx: Context, sql: Sql, project: ProjectRecord): Promise<ProjectView> {
	const money = JSON.parse(project.money) as Money;
	const [parts, bodies, occurrences, assignments, imports, follows, grants] = await Promise.all([
		partsOf(sql, project.id),
		bodiesOf(sql, project.id),
		occurrencesOf(sql, project.id),
		assignmentsOf(sql, project.id),
		importsOf(sql, project.id),
		followsOf(sql, project.id),
		namedGrants(sql, "project", project.id),
	]);
	const readable = new Set((await readableLibraries(ctx, sql)).map((l) => l.id));
	const read = new Documents();
	const solidsOf = groupBy(bodies, (b) => b.part_id);
	const given = new Map<string, AssignmentView>();
	const drafts = await draftsById(sql, [...new Set(assignments.flatMap((a) => a.draft_id ?? []))]);
	const editions = await editionNos(
		sql,
		follows.map((f) => f.library),
	);
	for (const record of assignments)
		given.set(record.part_id, assignmentView(record, { frozen: project.frozen === 1, readable, read, drafts }));
	const views = parts.map((part) => partView(part, solidsOf.get(part.id) ?? [], given.get(part.id) ?? null));
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
		mayEdit: may(ctx.actor, "project.edit", { kind: "project", role: project.role }) === null,
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
			doubt: b.doubt === null ? null : (JSON.parse(b.doubt) as ProjectView["solids"][number]["doubt"]),
		})),
		totals: totalsView(items, views, money),
		money,
		imports: imports.map(({ file, at, geometry_hash, left_out }) => ({
			file,
			at,
			hash: geometry_hash,
			leftOut: JSON.parse(left_out) as LeftOut[],
		})),
		mayShare: may(ctx.actor, "project.share", { kind: "project", role: project.role }) === null,
		frozen: project.frozen === 1,
		follows: follows.map(({ library, name, edition }) => {
			const numbers = readable.has(library) ? (editions.get(library) ?? []) : edition === null ? [] : [edition];
			return { library, name, edition, newest: numbers[0] ?? 0, editions: numbers };
		}),
		forward: project.forward,
		default: project.default_revision_id === null ? null : await defaultNamed(sql, project.default_revision_id),
		grants,
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

/** Documents by hash, parsed once in one weighing: many parts stand on few of them. */
class Documents {
	private readonly parsed = new Map<string, Material>();
	of(revision: string, bytes: Buffer): Material {
		const known = this.parsed.get(revision) ?? parseDocument(bytes);
		this.parsed.set(revision, known);
		return known;
	}
}

function assignmentView(
	record: AssignmentRecord,
	project: {
		readonly frozen: boolean;
		readonly readable: ReadonlySet<string>;
		readonly read: Documents;
		readonly drafts: ReadonlyMap<string, DraftRecord>;
	},
): AssignmentView {
	const document =
		record.bytes !== null
			? project.read.of(record.revision_id as string, record.bytes)
			: triedDocument(record, project.drafts.get(record.draft_id ?? ""));
	const value = firstValue(document, "density");
	return {
		materialId: record.material_id,
		material: record.material,
		colour: document.colour,
		revision: record.revision_no ?? 0,
		draft: record.draft_id !== null,
		isDefault: record.state === "default",
		own: record.project_id !== null,
		mayOpen: record.removed_at === null && (record.library_id === null || project.readable.has(record.library_id)),
		removed: record.removed_at !== null,
		density: densityOf(document),
		densityCarried: value?.carried !== undefined,
		densityRule: value === null ? null : chosenRule(value),
		look: document.look,
		price: document.price,
		carbon: workingOf(document, "embodied_carbon"),
		behind: project.frozen || !mayReadHead(record, project.readable) ? null : behindOf(record, document, project.read),
	};
}

/** After a right is taken away nothing newer is read: such a part stands where it stood. */
export const mayReadHead = (record: Pick<AssignmentRecord, "head_library_id">, readable: ReadonlySet<string>): boolean =>
	record.head_library_id === null || readable.has(record.head_library_id);

function behindOf(record: AssignmentRecord, document: Material, read: Documents): AssignmentView["behind"] {
	const { revision_id, head_id, head_bytes } = record;
	if (revision_id === null || head_id === null || head_bytes === null || head_id === revision_id) return null;
	const head = read.of(head_id, head_bytes);
	const edits = difference(document, head);
	return {
		materialId: record.head_material_id ?? record.material_id,
		material: record.head_material ?? record.material,
		revision: record.head_no ?? 0,
		density: densityOf(head),
		class: classify(edits),
		edits,
	};
}

function chosenRule(value: NumberValue): string | null {
	const { rule, chosen } = workingRule(value, "mass");
	if (!chosen) return value.factor === undefined ? null : `times ${value.factor.by}, ${value.factor.reason}`;
	return rule === "low" || rule === "high" ? `the ${rule} end` : rule === "middle" || rule === "mean" ? `the ${rule}` : rule;
}

function triedDocument(record: AssignmentRecord, draft: DraftRecord | undefined): Material {
	if (draft === undefined) throw new Error(`assignment of ${record.part_id} stands on a draft that is gone`);
	return draftDocument(draft);
}

/** Geometry of one solid in its part's coordinates. */
function solidOf(body: BodyRecord): SolidGeometry {
	return {
		volume: body.volume_m3,
		area: body.area_m2,
		centroid: JSON.parse(body.centroid_m) as Vec3,
		inertia: JSON.parse(body.inertia_m5) as SolidGeometry["inertia"],
	};
}

function totalsView(items: readonly MassItem[], parts: readonly PartView[], money: Money): TotalsView {
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
		costs: rollUpCosts(parts.map(costedPart), money),
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
