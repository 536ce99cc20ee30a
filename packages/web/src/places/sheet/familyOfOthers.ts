import type { MaterialRow } from "@alvek/contract";
import { withAbove } from "@alvek/core/table";

/**
 * The family that more than half of a group's other members are of, of those that say one: the closest that they agree
 * on, so that steels of several kinds agree on steel. Null where they agree on none.
 */
export function familyOfOthers(rows: readonly MaterialRow[], id: string): string | null {
	const said = rows.filter((r) => r.id !== id && r.document.family !== null);
	const counts = new Map<string, number>();
	for (const row of said)
		for (const family of withAbove(row.document.family, ".")) counts.set(family, (counts.get(family) ?? 0) + 1);
	const agreed = [...counts].filter(([, count]) => count * 2 > said.length).map(([family]) => family);
	// of those that lie on one way up the tree the longest is the closest
	return agreed.sort((a, b) => b.length - a.length)[0] ?? null;
}
