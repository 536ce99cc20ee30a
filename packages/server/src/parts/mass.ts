import { type DensityRange, massOf } from "@alvek/core/mass";
import { densityOf } from "@alvek/core/material";
import type { Sql } from "../db/connection";
import { documentsOf, draftById, draftDocument } from "../materials/store";

/** Densities of revisions, which never change; a few numbers each, so many are kept. */
const known = new Map<string, DensityRange | null>();
const MOST_KEPT = 200_000;

async function densitiesOf(sql: Sql, revisions: readonly string[]): Promise<void> {
	const missing = revisions.filter((id) => !known.has(id));
	if (missing.length === 0) return;
	if (known.size + missing.length > MOST_KEPT) known.clear();
	const documents = await documentsOf(sql, [...new Set(missing)]);
	for (const [id, document] of documents) known.set(id, densityOf(document));
}

/**
 * What each of these projects weighs now, kg, without reading anything else of it; null where no part has a mass. The same
 * sum as weighing the whole project: volume of a part x its pieces x density.
 */
export async function massesOf(sql: Sql, projects: readonly string[]): Promise<ReadonlyMap<string, number | null>> {
	const rows = await sql.all<{ project: string; volume: number; pieces: number; revision: string | null; draft: string | null }>(
		`SELECT s.project_id AS project, s.revision_id AS revision, s.draft_id AS draft,
			(SELECT SUM(b.volume_m3) FROM body b WHERE b.part_id = s.part_id) AS volume,
			(SELECT COUNT(*) FROM occurrence o WHERE o.part_id = s.part_id) AS pieces
		 FROM assignment s WHERE s.project_id IN (SELECT value FROM json_each($projects))`,
		{ projects: JSON.stringify(projects) },
	);
	await densitiesOf(
		sql,
		rows.flatMap((r) => r.revision ?? []),
	);
	const masses = new Map<string, number | null>(projects.map((p) => [p, null]));
	for (const row of rows) {
		const density = row.revision === null ? await densityOfDraft(sql, row.draft) : (known.get(row.revision) ?? null);
		if (density === null || row.volume === null) continue;
		masses.set(row.project, (masses.get(row.project) ?? 0) + massOf(row.volume, density).mass * row.pieces);
	}
	return masses;
}

async function densityOfDraft(sql: Sql, id: string | null): Promise<DensityRange | null> {
	const draft = id === null ? null : await draftById(sql, id);
	return draft === null ? null : densityOf(draftDocument(draft));
}
