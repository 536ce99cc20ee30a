import type { PublishEffect, WhereUsed } from "@alvek/contract";
import { massOf } from "@alvek/core/mass";
import { densityOf } from "@alvek/core/material";
import { readableProjects } from "../access";
import type { Context } from "../db";
import { documentsOf, draftDocument, draftsById, partsStandingOn, projectsStandingOn, type StandingPart } from "../repo";

/** How many projects that the actor may not read stand on these materials, with how many pieces; nothing else of them is told. */
export async function hiddenUses(ctx: Context, materials: readonly string[]): Promise<{ projects: number; parts: number }> {
	const rows = await projectsStandingOn(ctx.db, materials);
	const readable = new Set((await readableProjects(ctx, ctx.db)).map((p) => p.id));
	const hidden = rows.filter((r) => !readable.has(r.id));
	return { projects: hidden.length, parts: hidden.reduce((n, r) => n + r.parts, 0) };
}

async function readableUses(ctx: Context, materials: readonly string[]): Promise<readonly StandingPart[]> {
	const readable = new Set((await readableProjects(ctx, ctx.db)).map((p) => p.id));
	return (await partsStandingOn(ctx.db, materials)).filter((r) => readable.has(r.projectId));
}

export type Use = Omit<PublishEffect["uses"][number], "massAfter_kg">;

/** Parts that stand on these materials in projects that the actor may read, with what all their pieces weigh now. */
export async function usesOf(ctx: Context, materials: readonly string[]): Promise<ReadonlyMap<string, readonly Use[]>> {
	const rows = await readableUses(ctx, materials);
	const documents = await documentsOf(ctx.db, [...new Set(rows.flatMap((r) => r.revision ?? []))]);
	const drafts = await draftsById(ctx.db, [...new Set(rows.flatMap((r) => r.draft ?? []))]);
	const uses = new Map<string, Use[]>(materials.map((id) => [id, []]));
	for (const row of rows) {
		const draft = drafts.get(row.draft ?? "");
		const document = draft === undefined ? documents.get(row.revision ?? "") : draftDocument(draft);
		const density = document === undefined ? null : densityOf(document);
		const volume = row.volume ?? 0;
		uses.get(row.material)?.push({
			projectId: row.projectId,
			project: row.project,
			part: row.part,
			quantity: row.quantity,
			volume_m3: volume,
			tries: row.draft !== null,
			massBefore_kg: density === null ? null : massOf(volume, density).mass * row.quantity,
		});
	}
	return uses;
}

/** The same of one material as its sheet tells it: project by project and revision by revision. */
export async function whereUsed(ctx: Context, material: string, head: number): Promise<readonly WhereUsed[]> {
	const uses = new Map<string, { projectId: string; project: string; parts: string[]; revision: number; behind: boolean }>();
	for (const use of await readableUses(ctx, [material])) {
		const revision = use.no ?? 0;
		const key = `${use.projectId} ${revision}`;
		const known = uses.get(key) ?? {
			projectId: use.projectId,
			project: use.project,
			parts: [],
			revision,
			behind: revision > 0 && revision < head,
		};
		known.parts.push(use.quantity > 1 ? `${use.part} ×${use.quantity}` : use.part);
		uses.set(key, known);
	}
	return [...uses.values()];
}
