import type { FollowView, SetView } from "@alvek/contract";

/**
 * The edition of a set that a project follows, as far as its parts tell: "0" where all its libraries are followed at their
 * latest, "" where they go each its own way.
 */
export function followedOf(set: Pick<SetView, "libraries" | "editions">, follows: readonly FollowView[]): string {
	const inSet = follows.filter((f) => set.libraries.some((l) => l.id === f.library));
	if (inSet.every((f) => f.edition === null)) return "0";
	const held = (e: SetView["editions"][number]): boolean =>
		inSet.every((f) => e.libraries.some((l) => l.library === f.library && l.edition === f.edition));
	const found = set.editions.find(held);
	return found === undefined ? "" : String(found.no);
}
