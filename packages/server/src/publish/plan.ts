import type { PublishEffect, PublishPlan, RouteInput } from "@alvek/contract";
import { judge } from "@alvek/core/judge";
import { massOf } from "@alvek/core/mass";
import { densityOf, difference } from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import { ok, type Result } from "@alvek/core/result";
import { authorisedAll, readableLibraries, readableProjects } from "../access";
import type { Context } from "../db";
import { baseDocument, basesToJudge, hiddenUses, type JudgedBase, seenOf, standsOnHead, type Use, usesOf } from "../materials";
import { massesOf } from "../parts";
import {
	type DraftRecord,
	derivedFrom,
	draftEdits,
	draftsOf,
	draftsOfOthers,
	editionsFollowed,
	editionsHolding,
	type MaterialRecord,
	NOTHING_OWN,
	ownByLibrary,
} from "../repo";

/** Materials that began from those that are published, at the most. */
const MOST_VARIANTS = 500;

/**
 * What publishing my drafts would do: the changes of each, and everything that they touch, weighed before and after. What
 * is asked of the database does not grow with their number.
 */
export async function publishPlan(ctx: Context, input: RouteInput<"publishPlan">): Promise<Result<PublishPlan>> {
	const found = await authorisedAll(ctx, ctx.db, input.ids, "library.edit");
	if (!found.ok) return found;
	const drafts = new Map((await draftsOf(ctx.db, input.ids, ctx.actor.person)).map((d) => [d.material_id, d]));
	const heads = found.value.filter((m) => drafts.has(m.id));
	const ids = heads.map((m) => m.id);
	const [uses, own, bases] = await Promise.all([usesOf(ctx, ids), ownByLibrary(ctx.db), basesToJudge(ctx, heads)]);
	const materials: PublishEffect[] = [];
	for (const [n, head] of heads.entries()) {
		// others are answered in between
		if (n % 50 === 49) await new Promise(setImmediate);
		materials.push(
			effectOf(head, drafts.get(head.id) as DraftRecord, {
				uses: uses.get(head.id) ?? [],
				own: (own.get(head.library_id) ?? NOTHING_OWN).properties,
				base: bases.get(head.id) ?? null,
			}),
		);
	}
	return ok({
		materials,
		projects: await projectsOf(ctx, materials),
		hidden: await hiddenUses(ctx, ids),
		...(await variantsOf(ctx, ids)),
		editions: await editionsHolding(ctx.db, ids),
		otherDrafts: await draftsOfOthers(ctx.db, ids, ctx.actor.person),
	});
}

function effectOf(
	head: MaterialRecord,
	draft: DraftRecord,
	beside: { readonly uses: readonly Use[]; readonly own: readonly OwnProperty[]; readonly base: JudgedBase },
): PublishEffect {
	const { document: after, hash, issues } = seenOf(head, draft);
	const density = densityOf(after);
	const { checks } = judge(after, { own: beside.own, base: beside.base });
	return {
		id: head.id,
		name: head.name,
		colour: after.colour,
		libraryId: head.library_id,
		revision: head.revision_no ?? 0,
		hash,
		edits: standsOnHead(head, draft) ? draftEdits(draft) : difference(baseDocument(head), after),
		checks: checks.filter((c) => c.acknowledged === undefined).length,
		issues,
		uses: beside.uses.map((use) => ({
			...use,
			massAfter_kg: density === null ? null : massOf(use.volume_m3, density).mass * use.quantity,
		})),
	};
}

/** Projects whose parts stand on what is published; each follows an edition of its library, or its latest. */
async function projectsOf(ctx: Context, materials: readonly PublishEffect[]): Promise<PublishPlan["projects"]> {
	const uses = new Map<string, { library: string; use: PublishEffect["uses"][number] }[]>();
	for (const { libraryId, uses: list } of materials)
		for (const use of list) uses.set(use.projectId, [...(uses.get(use.projectId) ?? []), { library: libraryId, use }]);
	const ids = [...uses.keys()];
	const [masses, follows, readable] = await Promise.all([
		massesOf(ctx.db, ids),
		editionsFollowed(ctx.db, ids),
		readableProjects(ctx, ctx.db),
	]);
	return readable.flatMap(({ id, name, frozen }): PublishPlan["projects"][number][] => {
		const list = uses.get(id);
		if (list === undefined) return [];
		const before = masses.get(id) ?? null;
		const change = list.reduce((sum, { use }) => sum + (use.massAfter_kg ?? 0) - (use.massBefore_kg ?? 0), 0);
		// of several libraries the first one that it follows by edition
		const edition = follows.find((f) => f.project === id && list.some((l) => l.library === f.library));
		return [
			{
				id,
				name,
				frozen: frozen === 1,
				edition: edition?.no ?? null,
				parts: list.reduce((n, { use }) => n + use.quantity, 0),
				massBefore_kg: before,
				massAfter_kg: before === null && change === 0 ? null : (before ?? 0) + change,
			},
		];
	});
}

async function variantsOf(ctx: Context, ids: readonly string[]): Promise<Pick<PublishPlan, "variants" | "hiddenVariants">> {
	const libraries = new Set((await readableLibraries(ctx, ctx.db)).map((l) => l.id));
	const rows = (await derivedFrom(ctx.db, ids, ctx.actor.person, MOST_VARIANTS)).filter(
		(r) => r.kind !== "similar" && r.published === 1,
	);
	const visible = rows.filter((r) => r.library !== null && libraries.has(r.library));
	return {
		variants: visible.map(({ id, name, kind, of }) => ({ id, name, kind, of })),
		hiddenVariants: rows.length - visible.length,
	};
}
