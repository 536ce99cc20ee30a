import type { RouteInput } from "@alvek/contract";
import type { Edit } from "@alvek/core/material";
import type { Context } from "../db/write";
import { discardDraft, publishDraft, saveDraft } from "./drafts";
import type { Finding } from "./finding";
import { exportMaterial, findMaterials, getRevision, getSheet } from "./reading";
import { changeMaterial, copyMaterial, createMaterial, removeMaterial } from "./rows";

/** Everything about materials that a route or a script may ask for. */
export function materialServices(finding: Finding) {
	return {
		findMaterials: (ctx: Context, input: RouteInput<"findMaterials">) => findMaterials(ctx, finding, input),
		getSheet: (ctx: Context, input: { id: string }) => getSheet(ctx, finding, input.id),
		getRevision: (ctx: Context, input: { id: string; no: string }) => getRevision(ctx, input.id, Number(input.no)),
		exportMaterial: (ctx: Context, input: { id: string }) => exportMaterial(ctx, finding, input.id),
		createMaterial: (ctx: Context, input: RouteInput<"createMaterial">) => createMaterial(ctx, input),
		changeMaterial: (ctx: Context, input: RouteInput<"changeMaterial">) => changeMaterial(ctx, finding, input),
		saveDraft: (ctx: Context, input: { id: string; edits: readonly Edit[] }) => saveDraft(ctx, input),
		discardDraft: (ctx: Context, input: { id: string }) => discardDraft(ctx, input.id),
		publishDraft: (ctx: Context, input: RouteInput<"publishDraft">) => publishDraft(ctx, finding, input),
		copyMaterial: (ctx: Context, input: RouteInput<"copyMaterial">) => copyMaterial(ctx, finding, input),
		removeMaterial: (ctx: Context, input: { id: string }) => removeMaterial(ctx, finding, input.id),
	};
}
