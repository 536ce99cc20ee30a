import type { PartView, ProjectView } from "@alvek/contract";
import { MASS_UNITS } from "@alvek/core/mass";
import type { UnitSetId } from "@alvek/core/property";
import { massText } from "../../shared/massFigures";

type Weighed = Pick<ProjectView, "parts" | "totals">;

/** What a change of materials did, for its news: to which parts, from what to what, and the mass before and after. */
export type ChangeWords = { readonly pieces: number; readonly what: string; readonly text: string };

/** @param verb what was done, where it is not giving a material */
export function changeWords(before: Weighed, after: Weighed, verb: string | null, unitSet: UnitSetId): ChangeWords {
	const old = new Map(before.parts.map((p) => [p.id, p.assignment]));
	const changed = after.parts.filter((p) => {
		const was = old.get(p.id);
		return (
			was?.materialId !== p.assignment?.materialId ||
			was?.revision !== p.assignment?.revision ||
			was?.draft !== p.assignment?.draft
		);
	});
	const pieces = changed.reduce((n, p) => n + p.quantity, 0);
	const [first] = changed;
	const parts = pieces === 1 ? (first?.name ?? "1 part") : `${pieces} parts`;
	const given = `${first?.assignment?.material ?? ""}${first?.assignment?.draft === true ? " (draft)" : ""}`;
	const what = `${parts}: ${verb ?? `${given}${insteadOf(changed, old)}`}`;
	return {
		pieces,
		what,
		text: `${what}. ${massWords(before, unitSet)} → ${massWords(after, unitSet)}${coverage(before, after)}`,
	};
}

/** The material that stood there; several are counted, none is no replacement. */
function insteadOf(changed: readonly PartView[], old: ReadonlyMap<string, PartView["assignment"]>): string {
	const names = [...new Set(changed.flatMap((p) => old.get(p.id)?.material ?? []))];
	const others = names.filter((name) => changed.some((p) => p.assignment?.material !== name));
	if (others.length === 0) return "";
	return `, instead of ${others.length === 1 ? others[0] : `${others.length} others`}`;
}

function massWords({ totals }: Weighed, unitSet: UnitSetId): string {
	return totals.mass_kg === null ? "no mass" : `${massText(totals.mass_kg.mass, unitSet)} ${MASS_UNITS[unitSet].mass}`;
}

/** Two masses of unlike coverage are no comparison: said where more or fewer parts count. */
function coverage({ totals: a }: Weighed, { totals: b }: Weighed): string {
	return a.partsWithMass === b.partsWithMass ? "" : `, now ${b.partsWithMass} of ${b.parts} parts, before ${a.partsWithMass}`;
}
