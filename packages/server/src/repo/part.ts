import type { Sql } from "../db";
import { useBlobs } from "./blob";

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

/** Those of these parts that are in the project. */
export async function partsAmong(sql: Sql, project: string, parts: readonly string[]): Promise<readonly string[]> {
	const rows = await sql.all<{ id: string }>(
		`SELECT id FROM part WHERE project_id = $project AND id IN ${sql.dialect.list("parts")}`,
		{ project, parts: JSON.stringify(parts) },
	);
	return rows.map((r) => r.id);
}

/** Parts of one file, by what a file calls them. */
export function partsOfFile(sql: Sql, project: string, hash: string): Promise<{ id: string; name: string; productId: string }[]> {
	return sql.all(`SELECT id, name, product_id AS "productId" FROM part WHERE project_id = $project AND geometry_hash = $hash`, {
		project,
		hash,
	});
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
		{ project },
	);
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

export type ImportRecord = {
	readonly file: string;
	readonly at: string;
	readonly geometry_hash: string;
	readonly left_out: string;
};

/** Files of a project, in the order they came. */
export function importsOf(sql: Sql, project: string): Promise<ImportRecord[]> {
	return sql.all<ImportRecord>(
		"SELECT file, at, geometry_hash, left_out FROM import WHERE project_id = $project ORDER BY at, file",
		{ project },
	);
}

export async function fileOf(sql: Sql, project: string, hash: string): Promise<string | null> {
	return (await sql.find("import", { project_id: project, geometry_hash: hash }))?.file ?? null;
}

/** The packed triangles that belong to a geometry. */
export async function meshOf(sql: Sql, hash: string): Promise<string | null> {
	return (await sql.find("geometry", { hash }))?.mesh_hash ?? null;
}

export const countParts = (sql: Sql, project: string): Promise<number> => sql.count("part", { project_id: project });

export type NewPart = {
	readonly id: string;
	readonly key: string;
	readonly product: number;
	readonly name: string;
	readonly productId: string;
	readonly colour: string | null;
	readonly ord: number;
};
export type NewBody = {
	readonly part: string;
	readonly n: number;
	readonly name: string;
	readonly volume: number;
	readonly area: number;
	readonly centroid: string;
	readonly inertia: string;
	readonly doubt: string | null;
};
export type NewOccurrence = {
	readonly id: string;
	readonly part: string | null;
	readonly parent: string | null;
	readonly name: string;
	readonly path: string;
	readonly matrix: string;
	readonly ord: number;
};
export type NewGeometry = {
	readonly project: string;
	readonly file: string;
	readonly hash: string;
	readonly size: number;
	readonly meshHash: string;
	readonly meshSize: number;
	readonly leftOut: string;
	readonly at: string;
	readonly parts: readonly NewPart[];
	readonly bodies: readonly NewBody[];
	readonly occurrences: readonly NewOccurrence[];
};

/** All rows that one file brings into a project. */
export async function insertGeometryRows(sql: Sql, geometry: NewGeometry): Promise<void> {
	const { project, hash, at } = geometry;
	await sql.ensure("blob", { hash, size: geometry.size, at });
	await sql.ensure("blob", { hash: geometry.meshHash, size: geometry.meshSize, at });
	await sql.ensure("geometry", { hash, mesh_hash: geometry.meshHash });
	await useBlobs(
		sql,
		[hash, geometry.meshHash].map((blob) => ({ hash: blob, kind: "geometry", owner: hash })),
	);
	await sql.insert("import", { project_id: project, geometry_hash: hash, file: geometry.file, at, left_out: geometry.leftOut });
	const { rows, typed } = sql.dialect;
	const parts = {
		id: "text",
		key: "text",
		product: "integer",
		name: "text",
		productId: "text",
		colour: "text",
		ord: "integer",
	} as const;
	await sql.run(
		`INSERT INTO part (id, project_id, key, geometry_hash, product, name, product_id, colour, ord)
		 SELECT j.id, ${typed("project", "text")}, j.key, ${typed("hash", "text")}, j.product, j.name, j."productId", j.colour, j.ord FROM ${rows("parts", "j", parts)}`,
		{ project, hash, parts: JSON.stringify(geometry.parts) },
	);
	const bodies = {
		part: "text",
		n: "integer",
		name: "text",
		volume: "real",
		area: "real",
		centroid: "text",
		inertia: "text",
		doubt: "text",
	} as const;
	await sql.run(
		`INSERT INTO body (part_id, n, name, volume_m3, area_m2, centroid_m, inertia_m5, doubt)
		 SELECT j.part, j.n, j.name, j.volume, j.area, j.centroid, j.inertia, j.doubt FROM ${rows("bodies", "j", bodies)}`,
		{ bodies: JSON.stringify(geometry.bodies) },
	);
	const occurrences = {
		id: "text",
		part: "text",
		parent: "text",
		name: "text",
		path: "text",
		matrix: "text",
		ord: "integer",
	} as const;
	await sql.run(
		`INSERT INTO occurrence (id, project_id, part_id, parent_id, name, path, matrix, ord)
		 SELECT j.id, ${typed("project", "text")}, j.part, j.parent, j.name, j.path, j.matrix, j.ord FROM ${rows("occurrences", "j", occurrences)}`,
		{ project, occurrences: JSON.stringify(geometry.occurrences) },
	);
}

/** Moves the rows of one file from a project to another: parts with their occurrences and materials. */
export async function moveGeometry(sql: Sql, hash: string, from: string, to: string): Promise<void> {
	const bind = { hash, from, to };
	const ofFile = "SELECT id FROM part WHERE project_id = $from AND geometry_hash = $hash";
	await sql.run(`UPDATE assignment SET project_id = $to WHERE part_id IN (${ofFile})`, bind);
	// assemblies have no part of their own: they go with the file that brought them, which their occurrences below name
	await sql.run(
		`WITH RECURSIVE whole(id) AS (
		 SELECT id FROM occurrence WHERE project_id = $from AND part_id IN (${ofFile})
		 UNION SELECT o.parent_id FROM occurrence o JOIN whole w ON w.id = o.id WHERE o.parent_id IS NOT NULL)
		 UPDATE occurrence SET project_id = $to WHERE id IN (SELECT id FROM whole)`,
		bind,
	);
	await sql.update("part", { project_id: from, geometry_hash: hash }, { project_id: to });
	await sql.update("import", { project_id: from, geometry_hash: hash }, { project_id: to });
}
