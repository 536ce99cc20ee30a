import { linkText, type NameLink } from "@alvek/contract";
import { nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { placeOf } from "./access";

/** As a material's row holds them: `key` is what a name is looked up by. */
type StoredLink = NameLink & { readonly key: string };

export function readLinks(stored: string): readonly NameLink[] {
	return (JSON.parse(stored) as StoredLink[]).map(({ scope, name }) => ({ scope, name }));
}

const sameLink = (a: NameLink, b: NameLink): boolean =>
	nameKey(a.scope) === nameKey(b.scope) && nameKey(a.name) === nameKey(b.name);

/** All of these, each once, as they are stored. */
export function storeLinks(links: readonly NameLink[]): string {
	const cleaned = links
		.map((l) => ({ scope: l.scope.trim().normalize("NFC"), name: l.name.trim().normalize("NFC") }))
		.filter((l) => l.name !== "");
	const once = cleaned.filter((l, i) => cleaned.findIndex((other) => sameLink(l, other)) === i);
	return JSON.stringify(once.map((l): StoredLink => ({ ...l, key: nameKey(l.name) })));
}

/**
 * Within a library an external name stands for one material: otherwise it would not say which.
 * @param except the material that they are for
 */
export async function freeLinks(sql: Sql, place: string, links: readonly NameLink[], except: string): Promise<Result<string>> {
	const stored = storeLinks(links);
	const others = await sql.all<NameLink & { material: string }>(
		`SELECT k.scope, k.external AS name, m.name AS material FROM name_link k JOIN material m ON m.id = k.material_id
		 WHERE k.key IN (SELECT value->>'key' FROM json_each($stored)) AND m.library_id IS $library AND m.project_id IS $project
			AND m.removed_at IS NULL AND m.id <> $except`,
		{ stored, ...placeOf(place), except },
	);
	for (const link of readLinks(stored)) {
		const taken = others.find((o) => sameLink(o, link));
		if (taken !== undefined)
			return fail({ code: "link-taken", path: "also known as", actual: taken.material, expected: linkText(link) });
	}
	return ok(stored);
}

/** Materials that somebody elsewhere calls exactly this. */
export async function linkedTo(sql: Sql, name: string): Promise<readonly string[]> {
	const rows = await sql.all<{ id: string }>("SELECT DISTINCT material_id AS id FROM name_link WHERE key = $key", {
		key: nameKey(name),
	});
	return rows.map((r) => r.id);
}
