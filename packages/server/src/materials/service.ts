import type { RouteInput } from "@alvek/contract";
import type { Edit } from "@alvek/core/material";
import type { Context } from "../db/write";
import { discardDraft, rebaseDraft, saveDraft, saveDrafts } from "./drafts";
import { findAlike, listDuplicates } from "./duplicates";
import type { Finding } from "./finding";
import { manyMaterials, removeMaterial } from "./many";
import { mergeMaterials, mergePlan } from "./merge";
import { publishPlan } from "./plan";
import { approvePublish, declinePublish, publishDrafts } from "./publish";
import { exportMaterial, findColumns, findMaterials, getMaterials, getRevision, getSheet } from "./reading";
import { changeMaterial, copyMaterial, createMaterial, standOnNewest } from "./rows";
import { starMany } from "./views";

/** Everything about materials that a route or a script may ask for. */
export function materialServices(finding: Finding) {
	return {
		findMaterials: (ctx: Context, input: RouteInput<"findMaterials">) => findMaterials(ctx, finding, input),
		findColumns: (ctx: Context, input: RouteInput<"findColumns">) => findColumns(ctx, finding, input),
		getMaterials: (ctx: Context, input: { ids: string }) => getMaterials(ctx, finding, input),
		getSheet: (ctx: Context, input: { id: string }) => getSheet(ctx, finding, input.id),
		getRevision: (ctx: Context, input: { id: string; no: string }) => getRevision(ctx, input.id, Number(input.no)),
		exportMaterial: (ctx: Context, input: { id: string }) => exportMaterial(ctx, finding, input.id),
		createMaterial: (ctx: Context, input: RouteInput<"createMaterial">) => createMaterial(ctx, finding, input),
		changeMaterial: (ctx: Context, input: RouteInput<"changeMaterial">) => changeMaterial(ctx, finding, input),
		saveDraft: (ctx: Context, input: Omit<RouteInput<"saveDraft">, "edits"> & { edits: readonly Edit[] }) =>
			saveDraft(ctx, finding, input),
		saveDrafts: (ctx: Context, input: { items: readonly { id: string; edits: readonly Edit[] }[] }) =>
			saveDrafts(ctx, finding, input),
		publishPlan,
		findAlike: (ctx: Context, input: RouteInput<"findAlike">) => findAlike(ctx, finding, input),
		listDuplicates: (ctx: Context, input: { id: string }) => listDuplicates(ctx, finding, input),
		mergePlan: (ctx: Context, input: RouteInput<"mergePlan">) => mergePlan(ctx, finding, input),
		mergeMaterials: (ctx: Context, input: RouteInput<"mergeMaterials">) => mergeMaterials(ctx, finding, input),
		rebaseDraft: (ctx: Context, input: RouteInput<"rebaseDraft">) => rebaseDraft(ctx, finding, input),
		approvePublish: (ctx: Context, input: RouteInput<"approvePublish">) => approvePublish(ctx, finding, input),
		declinePublish,
		manyMaterials: (ctx: Context, input: RouteInput<"manyMaterials">) => manyMaterials(ctx, finding, input),
		starMany,
		publishDrafts: (ctx: Context, input: RouteInput<"publishDrafts">) => publishDrafts(ctx, finding, input),
		discardDraft: (ctx: Context, input: { id: string }) => discardDraft(ctx, finding, input.id),
		publishDraft: (ctx: Context, { id, hash, note }: RouteInput<"publishDraft">) =>
			publishDrafts(ctx, finding, { items: [{ id, hash }], note }),
		copyMaterial: (ctx: Context, input: RouteInput<"copyMaterial">) => copyMaterial(ctx, finding, input),
		standOnNewest: (ctx: Context, input: { id: string; revision: number }) => standOnNewest(ctx, finding, input),
		removeMaterial: (ctx: Context, input: RouteInput<"removeMaterial">) => removeMaterial(ctx, finding, input),
	};
}
