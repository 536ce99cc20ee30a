import { matrixOf, placeSolid, type SolidGeometry, type Vec3 } from "@alvek/core/mass";
import { occurrences, type StepOccurrence } from "@alvek/core/part21";
import type { StepGeometry } from "@alvek/kernel";
import type { Sql } from "../db/connection";
import type { Context } from "../db/write";

export type PartRecord = {
	readonly id: string;
	readonly name: string;
	readonly product_id: string;
	readonly product: number;
	readonly geometry_hash: string;
	readonly colour: string | null;
	readonly quantity: number;
};

export function partsOf(sql: Sql, project: string): Promise<PartRecord[]> {
	return sql.all<PartRecord>(
		`SELECT p.id, p.name, p.product_id, p.product, p.geometry_hash, p.colour,
			(SELECT COUNT(*) FROM occurrence o WHERE o.part_id = p.id) AS quantity
		 FROM part p WHERE p.project_id = $project ORDER BY p.ord`,
		{ project },
	);
}

export type BodyRecord = {
	readonly part_id: string;
	readonly n: number;
	readonly name: string;
	readonly volume_m3: number;
	readonly area_m2: number;
	readonly centroid_m: string;
	readonly inertia_m5: string;
	/** Why its volume may not be what was drawn, as JSON; null: nothing speaks against it. */
	readonly doubt: string | null;
};

export function bodiesOf(sql: Sql, project: string): Promise<BodyRecord[]> {
	return sql.all<BodyRecord>(
		"SELECT b.* FROM body b JOIN part p ON p.id = b.part_id WHERE p.project_id = $project ORDER BY p.ord, b.n",
		{
			project,
		},
	);
}

/** Geometry of one solid in its part's coordinates. */
export function solidOf(body: BodyRecord): SolidGeometry {
	return {
		volume: body.volume_m3,
		area: body.area_m2,
		centroid: JSON.parse(body.centroid_m) as Vec3,
		inertia: JSON.parse(body.inertia_m5) as SolidGeometry["inertia"],
	};
}

export type OccurrenceRecord = {
	readonly id: string;
	readonly part_id: string | null;
	readonly parent_id: string | null;
	readonly name: string;
	readonly path: string;
	readonly matrix: string;
};

export function occurrencesOf(sql: Sql, project: string): Promise<OccurrenceRecord[]> {
	return sql.all<OccurrenceRecord>(
		"SELECT id, part_id, parent_id, name, path, matrix FROM occurrence WHERE project_id = $project ORDER BY ord",
		{ project },
	);
}

export type AssignmentRecord = {
	readonly part_id: string;
	readonly revision_id: string | null;
	readonly revision_no: number | null;
	readonly draft_id: string | null;
	readonly state: "chosen" | "default";
	readonly material_id: string;
	readonly material: string;
	readonly library_id: string | null;
	readonly project_id: string | null;
	readonly removed_at: string | null;
	readonly bytes: Buffer | null;
	/** What the part would be brought forward to: the followed edition's entry, or the newest revision of the material or its successor. */
	readonly head_id: string | null;
	readonly head_no: number | null;
	readonly head_bytes: Buffer | null;
	readonly head_material_id: string | null;
	readonly head_material: string | null;
	/** The library that the head stands in; null for a project's own. */
	readonly head_library_id: string | null;
};

/** Assignments with the document that each stands on and the head that it is compared with. */
export function assignmentsOf(sql: Sql, project: string): Promise<AssignmentRecord[]> {
	return sql.all<AssignmentRecord>(
		`WITH RECURSIVE standing AS (
			SELECT s.part_id, s.revision_id, s.draft_id, s.state, COALESCE(r.material_id, f.material_id) AS material_id, r.no, r.document_hash
			FROM assignment s LEFT JOIN revision r ON r.id = s.revision_id LEFT JOIN draft f ON f.id = s.draft_id WHERE s.project_id = $project),
		 line(start, id, depth) AS (
			SELECT DISTINCT material_id, material_id, 0 FROM standing
			UNION ALL SELECT line.start, m.successor_id, line.depth + 1 FROM line JOIN material m ON m.id = line.id
				WHERE m.retired = 1 AND m.successor_id IS NOT NULL AND line.depth < 20),
		 last(start, id) AS (SELECT start, id FROM line WHERE depth = (SELECT MAX(depth) FROM line l WHERE l.start = line.start))
		 SELECT s.part_id, s.revision_id, s.no AS revision_no, s.draft_id, s.state, m.id AS material_id, m.name AS material,
			m.library_id, m.project_id, m.removed_at, d.bytes,
			h.id AS head_id, h.no AS head_no, hd.bytes AS head_bytes, hm.id AS head_material_id, hm.name AS head_material, hm.library_id AS head_library_id
		 FROM standing s JOIN material m ON m.id = s.material_id LEFT JOIN document d ON d.hash = s.document_hash
		 LEFT JOIN last ON last.start = m.id
		 LEFT JOIN follow fo ON fo.project_id = $project AND fo.library_id = m.library_id
		 LEFT JOIN edition_entry en ON en.edition_id = fo.edition_id AND en.material_id = m.id
		 LEFT JOIN revision h ON h.id = CASE WHEN fo.edition_id IS NOT NULL THEN en.revision_id
			ELSE (SELECT id FROM revision WHERE material_id = last.id ORDER BY no DESC LIMIT 1) END
		 LEFT JOIN material hm ON hm.id = h.material_id LEFT JOIN document hd ON hd.hash = h.document_hash`,
		{ project },
	);
}

/** Libraries that a project's parts stand on, with what of each it follows. */
export function followsOf(
	sql: Sql,
	project: string,
): Promise<{ library: string; name: string; edition: number | null; editions: string }[]> {
	return sql.all(
		`SELECT l.id AS library, l.name, e.no AS edition,
			(SELECT json_group_array(x.no) FROM (SELECT no FROM edition WHERE library_id = l.id ORDER BY no DESC) x) AS editions
		 FROM library l LEFT JOIN follow f ON f.project_id = $project AND f.library_id = l.id LEFT JOIN edition e ON e.id = f.edition_id
		 WHERE l.id IN (SELECT m.library_id FROM assignment s JOIN revision r ON r.id = s.revision_id JOIN material m ON m.id = r.material_id
			WHERE s.project_id = $project) ORDER BY l.name`,
		{ project },
	);
}

export type ImportRecord = {
	readonly file: string;
	readonly at: string;
	readonly geometry_hash: string;
	readonly left_out: string;
};

export function importsOf(sql: Sql, project: string): Promise<ImportRecord[]> {
	return sql.all("SELECT file, at, geometry_hash, left_out FROM import WHERE project_id = $project ORDER BY at, rowid", {
		project,
	});
}

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
	const at = ctx.now();
	for (const [blob, size] of [
		[hash, input.size],
		[input.meshHash, input.meshSize],
	] as const) {
		await sql.run("INSERT INTO blob (hash, size, at) VALUES ($blob, $size, $at) ON CONFLICT DO NOTHING", { blob, size, at });
	}
	await sql.run("INSERT INTO geometry (hash, mesh_hash) VALUES ($hash, $mesh) ON CONFLICT DO NOTHING", {
		hash,
		mesh: input.meshHash,
	});
	await sql.run(
		"INSERT INTO import (project_id, geometry_hash, file, at, left_out) VALUES ($project, $hash, $file, $at, $leftOut)",
		{
			leftOut: JSON.stringify(input.geometry.model.leftOut.slice(0, MOST_LEFT_OUT)),
			project,
			hash,
			file: input.file,
			at,
		},
	);
	const { model, solids } = input.geometry;
	const measured = new Map(solids.map((s) => [s.entity, s]));
	const first = (await sql.one<{ n: number }>("SELECT COUNT(*) AS n FROM part WHERE project_id = $project", { project }))?.n ?? 0;
	const all = occurrences(model);
	const appears = new Set(all.map((o) => o.product));
	const partIds = new Map<number, string>();
	const parts = model.products
		.filter((p) => p.solids.length > 0 && appears.has(p.index))
		.map((p, i) => {
			const id = ctx.newId();
			partIds.set(p.index, id);
			const colours = new Set(p.solids.map((s) => s.colour));
			return {
				id,
				key: `${hash}:${p.index}`,
				product: p.index,
				name: p.name,
				productId: p.id,
				colour: colours.size === 1 ? [...colours][0] : null,
				ord: first + i,
			};
		});
	await sql.run(
		`INSERT INTO part (id, project_id, key, geometry_hash, product, name, product_id, colour, ord)
		 SELECT value ->> 'id', $project, value ->> 'key', $hash, value ->> 'product', value ->> 'name', value ->> 'productId', value ->> 'colour', value ->> 'ord'
		 FROM json_each($parts)`,
		{ project, hash, parts: JSON.stringify(parts) },
	);
	const bodies = model.products.flatMap((p) =>
		(partIds.has(p.index) ? p.solids : []).map((s, n) => {
			const { geometry, doubt } = measured.get(s.entity) as (typeof solids)[number];
			const placed = placeSolid(geometry, s.placement);
			return {
				part: partIds.get(p.index),
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
	await sql.run(
		`INSERT INTO body (part_id, n, name, volume_m3, area_m2, centroid_m, inertia_m5, doubt)
		 SELECT value ->> 'part', value ->> 'n', value ->> 'name', value ->> 'volume', value ->> 'area', value ->> 'centroid', value ->> 'inertia', value ->> 'doubt'
		 FROM json_each($bodies)`,
		{ bodies: JSON.stringify(bodies) },
	);
	await insertOccurrences(ctx, sql, project, all, partIds);
	await sql.run("UPDATE project SET changed_at = $at WHERE id = $project", { at, project });
	return parts.length;
}

async function insertOccurrences(
	ctx: Context,
	sql: Sql,
	project: string,
	all: readonly StepOccurrence[],
	partIds: ReadonlyMap<number, string>,
): Promise<void> {
	const ids = all.map(() => ctx.newId());
	const rows = all.map((o, i) => ({
		id: ids[i],
		part: partIds.get(o.product) ?? null,
		parent: o.parent === null ? null : ids[o.parent],
		name: o.name,
		path: o.path,
		matrix: JSON.stringify(matrixOf(o.placement)),
		ord: i,
	}));
	await sql.run(
		`INSERT INTO occurrence (id, project_id, part_id, parent_id, name, path, matrix, ord)
		 SELECT value ->> 'id', $project, value ->> 'part', value ->> 'parent', value ->> 'name', value ->> 'path', value ->> 'matrix', value ->> 'ord'
		 FROM json_each($rows)`,
		{ project, rows: JSON.stringify(rows) },
	);
}
