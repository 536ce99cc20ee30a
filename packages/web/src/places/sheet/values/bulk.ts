import type { Sheet } from "@alvek/contract";
import { type Material, type MaterialValue, sameNumbers } from "@alvek/core/material";
import { FORMS, PROPERTIES, propertyById, SECTIONS } from "@alvek/core/property";

/**
 * Strength and hardness hang on temper and condition: where those differ from the base's, a carried-over one is
 * confirmed on its own line only.
 */
export function needsOwnLook(value: MaterialValue, sheet: Sheet, material: Material): boolean {
	const sensitive = propertyById(value.property)?.section === "strength" || value.property === "hardness";
	const base = sheet.base?.document;
	if (!sensitive || value.carried === undefined) return false;
	// a base that one cannot read could be in any condition
	return base == null || base.condition.trim().toLowerCase() !== material.condition.trim().toLowerCase();
}

/** Where a property stands in the catalogue: its section, numbers before forms. */
const ORDER: ReadonlyMap<string, number> = new Map(
	SECTIONS.flatMap((s) => [...PROPERTIES, ...FORMS].filter((p) => p.section === s.id)).map((p, i) => [p.id, i]),
);

export type ValueState = "own" | "carried" | "follows" | "behind" | "missing";

export const STATE_WORD: Readonly<Record<ValueState, string>> = {
	own: "own",
	carried: "carried over",
	follows: "follows",
	behind: "behind",
	missing: "only in the base",
};

/** One line of the comparison: what stands here, what the base says, and how the two relate. */
export type ComparedLine = {
	readonly id: string;
	readonly own: MaterialValue | null;
	readonly base: MaterialValue | null;
	readonly state: ValueState;
	readonly same: boolean;
};

/** Values of the material beside those of its base's newest revision, in the order of the catalogue. */
export function compared(material: Material, base: Sheet["base"]): readonly ComparedLine[] {
	const head = base?.head ?? null;
	const place = (id: string): number => {
		const at = ORDER.get((material.values[id] ?? head?.values[id])?.property ?? "");
		return at ?? ORDER.size;
	};
	const all = new Set([...Object.keys(material.values), ...Object.keys(head?.values ?? {})]);
	const ids = [...all].sort((a, b) => place(a) - place(b) || (a < b ? -1 : 1));
	return ids.map((id) => {
		const own = material.values[id] ?? null;
		const theirs = head?.values[id] ?? null;
		const same = sameNumbers(own, theirs);
		return { id, own, base: theirs, same, state: stateOf(own, same, base) };
	});
}

function stateOf(own: MaterialValue | null, same: boolean, base: Sheet["base"]): ValueState {
	if (own === null) return "missing";
	if (own.carried !== undefined) return "carried";
	if (own.follows === undefined) return "own";
	return base !== null && own.follows.revision < base.headRevision && !same ? "behind" : "follows";
}
