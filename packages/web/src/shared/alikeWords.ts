import type { AlikeRow, AlikeView } from "@alvek/contract";
import { property } from "@alvek/core/property";
import { counted } from "../ui/words";

const nameOf = (id: string): string => (id === "composition" ? "Composition" : (property(id)?.name ?? id));
const NAMED = 5;

function names(ids: readonly string[]): string {
	const rest = ids.length - NAMED;
	return rest > 1 ? `${ids.slice(0, NAMED).map(nameOf).join(", ")} and ${rest} more` : ids.map(nameOf).join(", ");
}

/** Why two materials are taken for one, in a line. */
export function whyAlike({ name, shared, differing, knownAs }: AlikeView & Pick<AlikeRow, "knownAs">): string {
	const why: string[] = [];
	if (knownAs !== undefined) why.push(`called so ${knownAs.scope === "" ? "elsewhere" : `by ${knownAs.scope}`}`);
	if (name?.kind === "same") why.push("the same name but for its writing");
	if (name?.kind === "near") why.push("names a slip apart");
	if (name?.kind === "variant") why.push(`names apart by ${name.difference}`);
	if (shared.length > 0) why.push(`${counted(shared.length, "value")} within 1 % (${names(shared)})`);
	if (differing.length > 0) why.push(`${counted(differing.length, "differs", "differ")} (${names(differing)})`);
	return why.join("; ");
}
