import type { Sql } from "../db";
import type { AssignmentState } from "./inverse";

/** Assignments to revisions or drafts of the materials `$ids`; by the indexes of both, where an OR would read all of them. */
const standingOn = (sql: Sql): string => {
	const ids = sql.dialect.list("ids");
	return `SELECT s.part_id, s.project_id, s.revision_id, s.draft_id, r.material_id FROM revision r JOIN assignment s ON s.revision_id = r.id
	 WHERE r.material_id IN ${ids}
	 UNION ALL SELECT s.part_id, s.project_id, s.revision_id, s.draft_id, f.material_id FROM draft f JOIN assignment s ON s.draft_id = f.id
	 WHERE f.material_id IN ${ids}`;
};

const STATE = `part_id AS part, revision_id AS revision, draft_id AS draft, before_draft_revision_id AS "before", state`;

/** What these parts stand on now; a part without a material comes back with nulls. */
export async function assignmentStates(sql: Sql, parts: readonly string[]): Promise<AssignmentState[]> {
	const rows = await sql.all<AssignmentState>(`SELECT ${STATE} FROM assignment WHERE part_id IN ${sql.dialect.list("parts")}`, {
		parts: JSON.stringify(parts),
	});
	const known = new Map(rows.map((r) => [r.part, r]));
	return parts.map((part) => known.get(part) ?? { part, revision: null, draft: null, before: null, state: "chosen" });
}

/** Parts on which these drafts are tried. */
export function assignmentsOnDrafts(sql: Sql, drafts: readonly string[]): Promise<AssignmentState[]> {
	return sql.all<AssignmentState>(`SELECT ${STATE} FROM assignment WHERE draft_id IN ${sql.dialect.list("drafts")}`, {
		drafts: JSON.stringify(drafts),
	});
}

/** Puts parts into these states; all nulls takes the material away. */
export async function setAssignments(sql: Sql, states: readonly AssignmentState[]): Promise<void> {
	if (states.length === 0) return;
	const given = states.filter((s) => s.revision !== null || s.draft !== null);
	const bare = states.filter((s) => s.revision === null && s.draft === null);
	await sql.run(`DELETE FROM assignment WHERE part_id IN ${sql.dialect.list("parts")}`, {
		parts: JSON.stringify(bare.map((s) => s.part)),
	});
	await sql.run(
		`INSERT INTO assignment (part_id, project_id, revision_id, draft_id, before_draft_revision_id, state)
		 SELECT p.id, p.project_id, j.revision, j.draft, j."before", COALESCE(j.state, 'chosen')
		 FROM ${sql.dialect.rows("states", "j", { part: "text", revision: "text", draft: "text", before: "text", state: "text" })}
		 JOIN part p ON p.id = j.part WHERE true
		 ON CONFLICT (part_id) DO UPDATE SET revision_id = excluded.revision_id, draft_id = excluded.draft_id,
		 before_draft_revision_id = excluded.before_draft_revision_id, state = excluded.state`,
		{ states: JSON.stringify(given) },
	);
}

/** Parts that have just come in get the project's default, when it has one. */
export async function giveDefault(sql: Sql, project: string): Promise<void> {
	await sql.run(
		`INSERT INTO assignment (part_id, project_id, revision_id, state)
		 SELECT p.id, p.project_id, j.default_revision_id, 'default' FROM part p JOIN project j ON j.id = p.project_id
		 WHERE p.project_id = $project AND j.default_revision_id IS NOT NULL AND NOT EXISTS (SELECT 1 FROM assignment s WHERE s.part_id = p.id)`,
		{ project },
	);
}

/** Parts of a project that have nothing, or its default that nobody confirmed. */
export async function partsOnDefault(sql: Sql, project: string): Promise<readonly string[]> {
	const rows = await sql.all<{ id: string }>(
		`SELECT p.id FROM part p LEFT JOIN assignment s ON s.part_id = p.id
		 WHERE p.project_id = $project AND (s.part_id IS NULL OR s.state = 'default')`,
		{ project },
	);
	return rows.map((r) => r.id);
}

/** Parts of a project that stand on a material, by whatever revision or draft. */
export async function partsOnMaterial(sql: Sql, project: string, material: string): Promise<readonly string[]> {
	const rows = await sql.all<{ id: string }>(
		`SELECT s.part_id AS id FROM assignment s LEFT JOIN revision r ON r.id = s.revision_id LEFT JOIN draft f ON f.id = s.draft_id
		 WHERE s.project_id = $project AND COALESCE(r.material_id, f.material_id) = $material`,
		{ project, material },
	);
	return rows.map((r) => r.id);
}

/** Names of the materials that parts stand on. */
export async function materialsOfParts(sql: Sql, parts: readonly string[]): Promise<ReadonlyMap<string, string>> {
	const rows = await sql.all<{ id: string; material: string }>(
		`SELECT s.part_id AS id, m.name AS material FROM assignment s
		 LEFT JOIN revision r ON r.id = s.revision_id LEFT JOIN draft d ON d.id = s.draft_id
		 JOIN material m ON m.id = COALESCE(r.material_id, d.material_id) WHERE s.part_id IN ${sql.dialect.list("ids")}`,
		{ ids: JSON.stringify(parts) },
	);
	return new Map(rows.map((m) => [m.id, m.material]));
}

/** Projects that stand on these materials, each with how many of its pieces do. */
export function projectsStandingOn(sql: Sql, materials: readonly string[]): Promise<{ id: string; parts: number }[]> {
	return sql.all(
		`SELECT p.id, CAST(SUM((SELECT COUNT(*) FROM occurrence o WHERE o.part_id = s.part_id)) AS INTEGER) AS parts FROM (${standingOn(sql)}) s
		 JOIN project p ON p.id = s.project_id WHERE p.removed_at IS NULL GROUP BY p.id`,
		{ ids: JSON.stringify(materials) },
	);
}

export type StandingPart = {
	readonly material: string;
	readonly projectId: string;
	readonly project: string;
	readonly part: string;
	readonly quantity: number;
	/** Of one piece, m3; null: it has no solids. */
	readonly volume: number | null;
	readonly draft: string | null;
	readonly revision: string | null;
	/** Number of the revision; null: a draft is tried. */
	readonly no: number | null;
};

/** Parts that stand on these materials, project by project. */
export function partsStandingOn(sql: Sql, materials: readonly string[]): Promise<StandingPart[]> {
	return sql.all<StandingPart>(
		`SELECT s.material_id AS material, p.id AS "projectId", p.name AS project, a.name AS part, s.draft_id AS draft, s.revision_id AS revision, r.no,
		 (SELECT COUNT(*) FROM occurrence o WHERE o.part_id = a.id) AS quantity,
		 (SELECT SUM(b.volume_m3) FROM body b WHERE b.part_id = a.id) AS volume
		 FROM (${standingOn(sql)}) s JOIN part a ON a.id = s.part_id JOIN project p ON p.id = s.project_id
		 LEFT JOIN revision r ON r.id = s.revision_id WHERE p.removed_at IS NULL ORDER BY p.name, a.ord`,
		{ ids: JSON.stringify(materials) },
	);
}

/** How much stands on revisions of these materials, in projects that are there. */
export async function countStandingOn(
	sql: Sql,
	materials: readonly string[],
): Promise<{ readonly materials: number; readonly projects: number; readonly parts: number; readonly frozen: number }> {
	const row = await sql.one<{ materials: number; projects: number; parts: number; frozen: number }>(
		`SELECT COUNT(DISTINCT r.material_id) AS materials, COUNT(DISTINCT s.project_id) AS projects, COUNT(*) AS parts,
		 CAST(COALESCE(SUM(p.frozen), 0) AS INTEGER) AS frozen
		 FROM assignment s JOIN revision r ON r.id = s.revision_id JOIN project p ON p.id = s.project_id
		 WHERE p.removed_at IS NULL AND r.material_id IN ${sql.dialect.list("ids")}`,
		{ ids: JSON.stringify(materials) },
	);
	return row ?? { materials: 0, projects: 0, parts: 0, frozen: 0 };
}

/** Volume, pieces and what they stand on, of every part of these projects that has a material. */
export function weighable(
	sql: Sql,
	projects: readonly string[],
): Promise<{ project: string; volume: number | null; pieces: number; revision: string | null; draft: string | null }[]> {
	return sql.all(
		`SELECT s.project_id AS project, s.revision_id AS revision, s.draft_id AS draft,
		 (SELECT SUM(b.volume_m3) FROM body b WHERE b.part_id = s.part_id) AS volume,
		 (SELECT COUNT(*) FROM occurrence o WHERE o.part_id = s.part_id) AS pieces
		 FROM assignment s WHERE s.project_id IN ${sql.dialect.list("projects")}`,
		{ projects: JSON.stringify(projects) },
	);
}

/** The newest revision of a material that parts of a project stand on, with its document. */
export function revisionInProject(
	sql: Sql,
	project: string,
	material: string,
): Promise<{ no: number; name: string; bytes: Buffer; hash: string } | null> {
	return sql.one(
		`SELECT r.no, m.name, d.bytes, d.hash FROM assignment s JOIN revision r ON r.id = s.revision_id JOIN material m ON m.id = r.material_id
		 JOIN document d ON d.hash = r.document_hash WHERE s.project_id = $project AND m.id = $material ORDER BY r.no DESC LIMIT 1`,
		{ project, material },
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

export type ForwardRow = {
	readonly part: string;
	readonly project: string;
	readonly material: string;
	readonly revision: string;
	readonly forward: "words" | "values-added";
	/** Whose right the rule acts by. */
	readonly by: string | null;
	readonly place: string;
};

/** Parts on older revisions of these materials, in projects that let some changes go forward by themselves. */
export function forwardable(sql: Sql, revisions: readonly string[]): Promise<ForwardRow[]> {
	return sql.all<ForwardRow>(
		`SELECT s.part_id AS part, s.project_id AS project, r.material_id AS material, s.revision_id AS revision, p.forward, p.forward_by AS "by",
		 COALESCE(m.library_id, 'project:' || m.project_id) AS place FROM assignment s
		 JOIN revision r ON r.id = s.revision_id JOIN project p ON p.id = s.project_id JOIN material m ON m.id = r.material_id
		 WHERE r.material_id IN (SELECT material_id FROM revision WHERE id IN ${sql.dialect.list("revisions")})
		 AND s.revision_id NOT IN ${sql.dialect.list("revisions")} AND p.removed_at IS NULL AND p.frozen = 0 AND p.forward <> 'none'
		 AND NOT EXISTS (SELECT 1 FROM follow f WHERE f.project_id = p.id AND f.library_id = m.library_id)`,
		{ revisions: JSON.stringify(revisions) },
	);
}
