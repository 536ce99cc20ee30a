import type { MaterialRow } from "@alvek/contract";

/** The family that more than half of a group's other members say, of those that say one; null where they disagree. */
export function familyOfOthers(rows: readonly MaterialRow[], id: string): string | null {
	const families = rows.flatMap((r) => (r.id === id || r.document.family === null ? [] : [r.document.family]));
	const counts = new Map<string, number>();
	for (const family of families) counts.set(family, (counts.get(family) ?? 0) + 1);
	const [best] = [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
	return best !== undefined && best[1] * 2 > families.length ? best[0] : null;
}
