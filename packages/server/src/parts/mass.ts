import { type DensityRange, massOf } from "@alvek/core/mass";
import { densityOf } from "@alvek/core/material";
import type { Sql } from "../db";
import { documentsOf, draftDocument, draftsById, weighable } from "../repo";

/** Densities of revisions, which never change; a few numbers each, so many are kept. */
const known = new Map<string, DensityRange | null>();
const MOST_KEPT = 200_000;

async function readDensities(sql: Sql, revisions: readonly string[]): Promise<void> {
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
	const rows = await weighable(sql, projects);
	await readDensities(
		sql,
		rows.flatMap((r) => r.revision ?? []),
	);
	const drafts = await draftsById(sql, [...new Set(rows.flatMap((r) => r.draft ?? []))]);
	const masses = new Map<string, number | null>(projects.map((p) => [p, null]));
	for (const row of rows) {
		const draft = drafts.get(row.draft ?? "");
		const density = draft === undefined ? (known.get(row.revision ?? "") ?? null) : densityOf(draftDocument(draft));
		if (density === null || row.volume === null) continue;
		masses.set(row.project, (masses.get(row.project) ?? 0) + massOf(row.volume, density).mass * row.pieces);
	}
	return masses;
}
