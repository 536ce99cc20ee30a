import { matrixOf, placeSolid } from "@alvek/core/mass";
import { occurrences, type StepOccurrence } from "@alvek/core/part21";
import type { StepGeometry } from "@alvek/kernel";
import type { Context, Sql } from "../db";
import { changeProjectRow, countParts, insertGeometryRows, type NewBody, type NewOccurrence, type NewPart } from "../repo";

/** Bodies that are named as left out; a file of more is told by its first ones. */
const MOST_LEFT_OUT = 2000;

/** Everything that a STEP file brings into a project, in one go inside the caller's transaction. */
export async function insertGeometry(
	ctx: Context,
	sql: Sql,
	input: {
		project: string;
		file: string;
		hash: string;
		size: number;
		meshHash: string;
		meshSize: number;
		geometry: StepGeometry;
	},
): Promise<number> {
	const { project, hash } = input;
	const { model, solids } = input.geometry;
	const measured = new Map(solids.map((s) => [s.entity, s]));
	const first = await countParts(sql, project);
	const all = occurrences(model);
	const appears = new Set(all.map((o) => o.product));
	const partIds = new Map<number, string>();
	const parts = model.products
		.filter((p) => p.solids.length > 0 && appears.has(p.index))
		.map((p, i): NewPart => {
			const id = ctx.newId();
			partIds.set(p.index, id);
			const colours = new Set(p.solids.map((s) => s.colour));
			return {
				id,
				key: `${hash}:${p.index}`,
				product: p.index,
				name: p.name,
				productId: p.id,
				colour: colours.size === 1 ? ([...colours][0] ?? null) : null,
				ord: first + i,
			};
		});
	const bodies = model.products.flatMap((p) =>
		(partIds.has(p.index) ? p.solids : []).map((s, n): NewBody => {
			const { geometry, doubt } = measured.get(s.entity) as (typeof solids)[number];
			const placed = placeSolid(geometry, s.placement);
			return {
				part: partIds.get(p.index) as string,
				n,
				name: s.name,
				volume: placed.volume,
				area: placed.area,
				centroid: JSON.stringify(placed.centroid),
				inertia: JSON.stringify(placed.inertia),
				doubt: doubt === null ? null : JSON.stringify(doubt),
			};
		}),
	);
	await insertGeometryRows(sql, {
		project,
		file: input.file,
		hash,
		size: input.size,
		meshHash: input.meshHash,
		meshSize: input.meshSize,
		leftOut: JSON.stringify(model.leftOut.slice(0, MOST_LEFT_OUT)),
		at: ctx.now(),
		parts,
		bodies,
		occurrences: occurrenceRows(ctx, all, partIds),
	});
	await changeProjectRow(ctx, sql, project, {});
	return parts.length;
}

function occurrenceRows(
	ctx: Context,
	all: readonly StepOccurrence[],
	partIds: ReadonlyMap<number, string>,
): readonly NewOccurrence[] {
	const ids = all.map(() => ctx.newId());
	return all.map((o, i) => ({
		id: ids[i] as string,
		part: partIds.get(o.product) ?? null,
		parent: o.parent === null ? null : (ids[o.parent] as string),
		name: o.name,
		path: o.path,
		matrix: JSON.stringify(matrixOf(o.placement)),
		ord: i,
	}));
}
