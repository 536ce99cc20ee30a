import { cleanName, type Material } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { type Context, inWrite } from "../db";
import { ensureGroup, headOf, insertLibrary, insertMaterial, insertRevision, openPublish, recordEvent } from "../repo";

export type InstalledMaterial = {
	readonly id: string;
	readonly name: string;
	readonly group: string;
	readonly itemCode: string;
	readonly shopName: string;
	readonly origin: { readonly kind: "similar" | "copy"; readonly materialId: string } | null;
	/** Documents of its revisions, oldest first, each with its note. */
	readonly revisions: readonly { readonly note: string; readonly document: Material }[];
};

export type InstalledLibrary = {
	readonly id: string;
	readonly name: string;
	readonly kind: "own" | "supplied";
	readonly materials: readonly InstalledMaterial[];
};

/** Takes in a whole library, all or nothing. The actor becomes its steward, or a reader of a supplied one. */
export function installLibrary(ctx: Context, library: InstalledLibrary): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		const { id: place, name: title, kind } = library;
		await insertLibrary(ctx, sql, { id: place, name: title, kind, owner: null }, kind === "supplied" ? "reader" : "steward");
		for (const material of library.materials) {
			const name = cleanName(material.name);
			if (!name.ok) return name;
			const origin = material.origin === null ? null : await headOf(sql, material.origin.materialId);
			if (material.origin !== null && origin === null) return fail({ code: "not-found", path: material.origin.materialId });
			await insertMaterial(ctx, sql, {
				id: material.id,
				place,
				group: await ensureGroup(ctx, sql, place, material.group),
				name: name.value,
				itemCode: material.itemCode,
				shopName: material.shopName,
				originKind: material.origin?.kind ?? null,
				originRevision: origin,
			});
			for (const { note, document } of material.revisions) {
				const publish = await openPublish(ctx, sql, { place, note });
				await insertRevision(ctx, sql, { material: material.id, publish, document });
			}
		}
		await recordEvent(ctx, sql, {
			action: "library.install",
			kind: "library",
			subject: library.id,
			changeset: { materials: library.materials.length },
			inverse: null,
		});
		return ok(null);
	});
}
