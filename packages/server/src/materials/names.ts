import { linkText, type NameLink } from "@alvek/contract";
import { cleanName, nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db";
import { bearerOfName, bearersOfLinks, isSameLink, readLinks, storeLinks } from "../repo";

/** A name as it may stand in this place; `except` is the material that is being renamed. */
export async function ensureNameAvailable(sql: Sql, place: string, input: string, except: string): Promise<Result<string>> {
	const name = cleanName(input);
	if (!name.ok) return name;
	const bearer = await bearerOfName(sql, place, nameKey(name.value), except);
	return bearer === null ? name : fail({ code: "name-taken", path: "name", actual: name.value });
}

/**
 * Name links as they are stored. Within a place an external name stands for one material: otherwise it would not say which.
 * @param except the material that they are for
 */
export async function ensureLinksAvailable(
	sql: Sql,
	place: string,
	links: readonly NameLink[],
	except: string,
): Promise<Result<string>> {
	const stored = storeLinks(links);
	const others = await bearersOfLinks(sql, place, stored, except);
	for (const link of readLinks(stored)) {
		const taken = others.find((o) => isSameLink(o, link));
		if (taken !== undefined)
			return fail({ code: "link-taken", path: "also known as", actual: taken.material, expected: linkText(link) });
	}
	return ok(stored);
}
