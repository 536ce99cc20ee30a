import type { NameLink } from "@alvek/contract";
import { nameKey } from "@alvek/core/material";
import type { Sql } from "../db";
import { inPlace } from "./material";

/** As a material's row holds them: `key` is what a name is looked up by. */
type StoredLink = NameLink & { readonly key: string };

export function readLinks(stored: string): readonly NameLink[] {
	return (JSON.parse(stored) as StoredLink[]).map(({ scope, name }) => ({ scope, name }));
}

export const isSameLink = (a: NameLink, b: NameLink): boolean =>
	nameKey(a.scope) === nameKey(b.scope) && nameKey(a.name) === nameKey(b.name);

/** All of these, each once, as they are stored. */
export function storeLinks(links: readonly NameLink[]): string {
	const cleaned = links
		.map((l) => ({ scope: l.scope.trim().normalize("NFC"), name: l.name.trim().normalize("NFC") }))
		.filter((l) => l.name !== "");
	const once = cleaned.filter((l, i) => cleaned.findIndex((other) => isSameLink(l, other)) === i);
	return JSON.stringify(once.map((l): StoredLink => ({ ...l, key: nameKey(l.name) })));
}

/** Materials of a place, but one, that these links name: where each stands and whose it is. */
export function bearersOfLinks(
	sql: Sql,
	place: string,
	stored: string,
	except: string,
): Promise<{ scope: string; name: string; material: string }[]> {
	const at = inPlace(place);
	return sql.all(
		`SELECT k.scope, k.external AS name, m.name AS material FROM name_link k JOIN material m ON m.id = k.material_id
		 WHERE k.key IN (SELECT j.key FROM ${sql.dialect.rows("stored", "j", { key: "text" })})
		 AND ${at.sql} AND m.removed_at IS NULL AND m.id <> $except`,
		{ ...at.bind, stored, except },
	);
}

/** Materials that somebody elsewhere calls exactly this. */
export async function linkedTo(sql: Sql, name: string): Promise<readonly string[]> {
	const rows = await sql.all<{ id: string }>("SELECT DISTINCT material_id AS id FROM name_link WHERE key = $key", {
		key: nameKey(name),
	});
	return rows.map((r) => r.id);
}
