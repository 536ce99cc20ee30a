import type { LabelRow } from "./labels.data";
import { isHead, labelRow, symbolOf, wordOf } from "./lexicon";

const TOKEN =
	/\t| {3,}|\.{4,}|_{3,}|(?<!\d|\p{L}\.)\p{L}[\p{L}'’_]*(?:-\p{L}[\p{L}'’]*)*|[,;:()[\]=]|\.(?=\s|$)|[–—](?=\s)|\/|%/gu;

/** Words of a label that stand together: between commas, or in a bracket. */
export type Phrase = { readonly words: string[]; readonly start: number; end: number; readonly bracket: boolean };

/** The phrases of a label, in order; what stands around a bracket is one. */
export function phrasesOf(text: string): Phrase[] {
	const phrases: Phrase[] = [];
	let current: Phrase = { words: [], start: 0, end: 0, bracket: false };
	let depth = 0;
	const close = (at: number, bracket: boolean): void => {
		current.end = at;
		phrases.push(current);
		current = { words: [], start: at, end: at, bracket };
	};
	TOKEN.lastIndex = 0;
	for (let match = TOKEN.exec(text); match !== null; match = TOKEN.exec(text)) {
		const token = match[0];
		if (token === "(" || token === "[") {
			// a bracket belongs to the phrase that it stands in: the phrase goes on behind it
			depth++;
			if (depth === 1) close(match.index, true);
		} else if (token === ")" || token === "]") {
			depth = Math.max(0, depth - 1);
			if (depth === 0) close(match.index, false);
		} else if (/^(?:[,;:.=–—\t]| {3,}|\.{4,}|_{3,})$/.test(token)) {
			// the point of an abbreviation ends no phrase: `Min. tensile strength`
			const isShort = token === "." && (current.words.at(-1)?.length ?? 9) <= 5;
			if (depth === 0 && !isShort) close(match.index, false);
		} else if (!/^[/%]$/.test(token)) current.words.push(token);
	}
	close(text.length, false);
	return mergeAroundBrackets(phrases.filter((p) => p.words.length > 0));
}

/** `Elastic (Young's) modulus`: what stands before and behind a bracket is one phrase where no comma parts it. */
function mergeAroundBrackets(phrases: Phrase[]): Phrase[] {
	const merged: Phrase[] = [];
	for (const phrase of phrases) {
		const before = merged.at(-2);
		const bracket = merged.at(-1);
		if (
			!phrase.bracket &&
			bracket?.bracket === true &&
			before !== undefined &&
			!before.bracket &&
			before.end === bracket.start &&
			bracket.end === phrase.start
		) {
			before.words.push(...phrase.words);
			before.end = phrase.end;
			// the bracket keeps its place, so a further bracket may follow
			bracket.end = phrase.end;
		} else merged.push(phrase);
	}
	return merged;
}

/** The phrase with the last head before the number: an earlier sentence or a name in front does not count. */
export function lastHead(phrases: readonly Phrase[]): number {
	const isNamed = (p: Phrase): boolean =>
		!p.bracket &&
		p.words.some((w) => {
			const word = wordOf(w.toLowerCase().replace(/’/g, "'"));
			return (word.is === "concept" && word.concepts.some(isHead)) || (word.is !== "concept" && symbolOf(w) !== undefined);
		});
	const named = phrases.flatMap((p, i) => (isNamed(p) ? [i] : []));
	if (named.length === 0) return 0;
	// `Tensile strength, ultimate`, `modulus, shear`: a run of phrases may name it together
	const last = named.at(-1) as number;
	let best = last;
	let known = conceptsRow(phrases.slice(last, last + 1)) !== null;
	for (let at = last - 1; named.includes(at); at--) {
		const row = conceptsRow(phrases.slice(at, last + 1));
		if (row === null || (known && row.ask !== undefined)) continue;
		best = at;
		known = true;
	}
	return best;
}

function conceptsRow(phrases: readonly Phrase[]): LabelRow | null {
	const words = phrases.filter((p) => !p.bracket).flatMap((p) => p.words);
	return labelRow(
		new Set(
			words.flatMap((w) => {
				const word = wordOf(w.toLowerCase().replace(/’/g, "'"));
				return word.is === "concept" ? word.concepts : [];
			}),
		),
	);
}
