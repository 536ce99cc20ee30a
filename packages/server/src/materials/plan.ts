import type { PublishEffect, PublishPlan, RouteInput } from "@alvek/contract";
import { judge } from "@alvek/core/judge";
import { massOf } from "@alvek/core/mass";
import { densityOf, difference } from "@alvek/core/material";
import { ok, type Result } from "@alvek/core/result";
import { authoriseProject, readableLibraries } from "../db/rights";
import type { Context } from "../db/write";
import { hiddenStanding, standingParts } from "../parts/assignments";
import { massesOf } from "../parts/mass";
import { authorised } from "./access";
import { baseDocument } from "./drafts";
import { documentToPublish, seenOf } from "./publish";
import { baseToJudge } from "./reading";
import { draftOf, type MaterialRecord, ownPropertiesOf } from "./store";

/** What publishing my drafts would do: the changes of each, and everything that they touch, weighed before and after. */
export async function publishPlan(ctx: Context, input: RouteInput<"publishPlan">): Promise<Result<PublishPlan>> {
	const materials: PublishEffect[] = [];
	for (const id of new Set(input.ids)) {
		const material = await authorised(ctx, ctx.db, id, "library.edit");
		if (!material.ok) return material;
		const effect = await effectOf(ctx, material.value);
		if (effect !== null) materials.push(effect);
	}
	const ids = JSON.stringify(materials.map((m) => m.id));
	return ok({
		materials,
		projects: await projectsOf(ctx, materials),
		hidden: await hiddenStanding(
			ctx,
			materials.map((m) => m.id),
		),
		...(await variantsOf(ctx, ids)),
		editions:
			(
				await ctx.db.one<{ n: number }>(
					`SELECT COUNT(DISTINCT edition_id) AS n FROM edition_entry WHERE material_id IN (SELECT value FROM json_each($ids))`,
					{ ids },
				)
			)?.n ?? 0,
		otherDrafts: await ctx.db.all<PublishPlan["otherDrafts"][number]>(
			`SELECT m.name AS material, p.name, f.saved_at AS savedAt FROM draft f JOIN material m ON m.id = f.material_id
			 JOIN person p ON p.id = f.person_id WHERE f.person_id <> $person AND f.material_id IN (SELECT value FROM json_each($ids)) ORDER BY m.name`,
			{ ids, person: ctx.actor.person },
		),
	});
}

async function effectOf(ctx: Context, head: MaterialRecord): Promise<PublishEffect | null> {
	const draft = await draftOf(ctx.db, head.id, ctx.actor.person);
	if (draft === null) return null;
	const before = baseDocument(head);
	const document = documentToPublish(head, draft);
	const { document: after, hash } = seenOf(head, draft);
	const density = densityOf(after);
	const { checks } = judge(after, { own: await ownPropertiesOf(ctx.db, head.library_id), base: await baseToJudge(ctx, head) });
	return {
		id: head.id,
		name: head.name,
		colour: after.colour,
		libraryId: head.library_id,
		revision: head.revision_no ?? 0,
		hash,
		edits: difference(before, after),
		checks: checks.filter((c) => c.acknowledged === undefined).length,
		issues: document.ok ? [] : document.issues,
		uses: (await standingParts(ctx, head.id)).map((use) => ({
			...use,
			massAfter_kg: density === null ? null : massOf(use.volume_m3, density).mass * use.quantity,
		})),
	};
}

async function projectsOf(ctx: Context, materials: readonly PublishEffect[]): Promise<PublishPlan["projects"]> {
	const uses = new Map<string, PublishEffect["uses"][number][]>();
	for (const use of materials.flatMap((m) => m.uses)) uses.set(use.projectId, [...(uses.get(use.projectId) ?? []), use]);
	const projects: PublishPlan["projects"][number][] = [];
	const masses = await massesOf(ctx.db, [...uses.keys()]);
	for (const [id, list] of uses) {
		const project = await authoriseProject(ctx, ctx.db, id, "project.read");
		if (!project.ok) continue;
		const before = masses.get(id) ?? null;
		const change = list.reduce((sum, use) => sum + (use.massAfter_kg ?? 0) - (use.massBefore_kg ?? 0), 0);
		const follows = await ctx.db.one<{ no: number }>(
			`SELECT e.no FROM follow f JOIN edition e ON e.id = f.edition_id WHERE f.project_id = $id AND f.library_id = $library`,
			{ id, library: materials[0]?.libraryId ?? "" },
		);
		projects.push({
			id,
			name: project.value.name,
			frozen: project.value.frozen === 1,
			edition: follows?.no ?? null,
			parts: list.reduce((n, use) => n + use.quantity, 0),
			massBefore_kg: before,
			massAfter_kg: before === null && change === 0 ? null : (before ?? 0) + change,
		});
	}
	return projects;
}

async function variantsOf(ctx: Context, ids: string): Promise<Pick<PublishPlan, "variants" | "hiddenVariants">> {
	const libraries = new Set((await readableLibraries(ctx, ctx.db)).map((l) => l.id));
	const rows = await ctx.db.all<PublishPlan["variants"][number] & { library: string | null }>(
		`SELECT m.id, m.name, m.origin_kind AS kind, b.name AS "of", m.library_id AS library FROM material m
		 JOIN revision r ON r.id = m.origin_revision_id JOIN material b ON b.id = r.material_id
		 WHERE r.material_id IN (SELECT value FROM json_each($ids)) AND m.removed_at IS NULL AND m.origin_kind IN ('variant', 'copy', 'local', 'layer')
			AND EXISTS (SELECT 1 FROM revision x WHERE x.material_id = m.id)
		 ORDER BY m.name LIMIT 500`,
		{ ids },
	);
	const visible = rows.filter((r) => r.library !== null && libraries.has(r.library));
	return {
		variants: visible.map(({ id, name, kind, of }) => ({ id, name, kind, of })),
		hiddenVariants: rows.length - visible.length,
	};
}
