import { cleanName, type Material, nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { type Context, inWrite, recordEvent } from "../db/write";
import { ensureGroup, insertRevision, openPublish } from "../materials/store";

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
		await sql.run("INSERT INTO library (id, uid, name, kind) VALUES ($id, $uid, $name, $kind)", {
			id: library.id,
			uid: ctx.newId(),
			name: library.name,
			kind: library.kind,
		});
		await sql.run(
			"INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ('person', $person, 'library', $id, $role)",
			{
				person: ctx.actor.person,
				id: library.id,
				role: library.kind === "supplied" ? "reader" : "steward",
			},
		);
		for (const material of library.materials) {
			const name = cleanName(material.name);
			if (!name.ok) return name;
			const origin = await sql.one<{ id: string }>("SELECT id FROM revision WHERE material_id = $id ORDER BY no DESC LIMIT 1", {
				id: material.origin?.materialId ?? "",
			});
			if (material.origin !== null && origin === null) return fail({ code: "not-found", path: material.origin.materialId });
			await sql.run(
				`INSERT INTO material (id, uid, library_id, group_id, name, name_key, item_code, shop_name, owner, origin_kind, origin_revision_id, changed_at)
				 VALUES ($id, $uid, $library, $group, $name, $key, $code, $shop, $owner, $originKind, $origin, $at)`,
				{
					id: material.id,
					uid: ctx.newId(),
					library: library.id,
					group: await ensureGroup(ctx, sql, library.id, material.group),
					name: name.value,
					key: nameKey(name.value),
					code: material.itemCode,
					shop: material.shopName,
					owner: ctx.actor.person,
					originKind: material.origin?.kind ?? null,
					origin: origin?.id ?? null,
					at: ctx.now(),
				},
			);
			for (const { note, document } of material.revisions) {
				const publish = await openPublish(ctx, sql, library.id, note);
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
