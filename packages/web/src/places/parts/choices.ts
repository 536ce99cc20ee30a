import type { MaterialRow, PartView, ProjectView } from "@alvek/contract";
import type { DensityRange } from "@alvek/core/mass";
import { densityOf } from "@alvek/core/material";

export type Choice = {
	readonly key: string;
	readonly row: MaterialRow;
	readonly draft: boolean;
	readonly used: boolean;
	readonly density: DensityRange | null;
};

/** Words of a text, lower case; a code such as OW-0211 is two. */
function wordsOf(text: string): string[] {
	return text
		.toLowerCase()
		.split(/[^\p{L}\p{N}.]+/u)
		.filter((w) => w !== "");
}

/** Materials in which every typed word begins a word; those of this project first, my draft of one as a choice of its own. */
export function choicesOf(rows: readonly MaterialRow[], project: ProjectView, text: string): readonly Choice[] {
	const used = new Set(project.parts.flatMap((p) => p.assignment?.materialId ?? []));
	const typed = wordsOf(text);
	const fits = (haystack: string): boolean => {
		const words = wordsOf(haystack);
		return typed.every((t) => words.some((w) => w.startsWith(t)));
	};
	const distinct = [...new Map(rows.map((r) => [r.id, r])).values()];
	const found = distinct
		.filter((r) =>
			fits(
				[
					r.name,
					r.group,
					r.itemCode,
					r.shopName,
					...r.document.designations.map((d) => d.text),
					...r.knownAs.map((l) => l.name),
				].join(" "),
			),
		)
		.flatMap((row): Choice[] => {
			const isUsed = used.has(row.id);
			const published: Choice = { key: row.id, row, draft: false, used: isUsed, density: row.publishedDensity };
			if (row.draftId === null) return [published];
			const draft: Choice = { key: `${row.id}-draft`, row, draft: true, used: isUsed, density: densityOf(row.document) };
			if (row.revision === 0) return [draft];
			return [published, draft];
		});
	// a match in the name comes before one in the group or a code
	const rank = ({ used: isUsed, row }: Choice): number =>
		isUsed ? 0 : row.starred ? 1 : row.working ? 2 : row.retired === null ? 3 : 4;
	return found.sort((a, b) => rank(a) - rank(b) || Number(fits(b.row.name)) - Number(fits(a.row.name)));
}

/**
 * What is offered for a purpose, then what says nothing of purposes and so fits any; the rest is left out. "": everything,
 * and so is what somebody typed the name of, where only that answers.
 */
export function forPurpose(choices: readonly Choice[], purpose: string): readonly Choice[] {
	if (purpose === "") return choices;
	const offered = choices.filter((c) => c.row.offeredFor.includes(purpose));
	const fitting = [...offered, ...choices.filter((c) => c.row.offeredFor.length === 0)];
	return fitting.length === 0 ? choices : fitting;
}

/** Purposes that some choice is offered for, in their order. */
export function purposesOf(choices: readonly Choice[]): readonly string[] {
	return [...new Set(choices.flatMap((c) => c.row.offeredFor))].sort();
}

/** What parts are for, as far as what they are made of now says it: a purpose that all of those materials share; "" where none is. */
export function purposeOf(parts: readonly PartView[], used: readonly MaterialRow[]): string {
	const now = [...new Set(parts.map((p) => p.assignment?.materialId))];
	const rows = now.map((id) => used.find((row) => row.id === id));
	const [first, ...others] = rows;
	return first?.offeredFor.find((purpose) => others.every((r) => r?.offeredFor.includes(purpose) === true)) ?? "";
}
