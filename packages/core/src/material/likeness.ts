import type { Constituent, Material } from "./types";

/** How two names are alike: the same but for case, marks and order; a slip apart; or apart in a digit or a suffix only. */
export type NameLikeness =
	| { readonly kind: "same" | "near" }
	/** `T6 / T651`: two materials that are named on purpose alike. Never a duplicate by itself. */
	| { readonly kind: "variant"; readonly difference: string };

/** Properties that tell materials of one family apart; density, E and nu hardly do. Composition is one more. */
export const DISCRIMINATING: ReadonlySet<string> = new Set([
	"yield_strength",
	"tensile_strength",
	"compressive_strength",
	"shear_strength",
	"flexural_strength",
	"hardness",
	"thermal_conductivity",
]);

/** Values this close, as a share of the larger, are the same value. */
export const NEAR = 0.01;
const LEAST_SHARED = 4;
const LEAST_DISCRIMINATING = 2;

/** Are two numbers within 1 % of the larger one? Exact zeros are near each other. */
export function isNear(a: number, b: number): boolean {
	return Math.abs(a - b) <= NEAR * Math.max(Math.abs(a), Math.abs(b));
}

/** A name in words without case and accents; digits are split from the letters before them: `S355JR` is `s 355 jr`. */
export function wordsOfName(name: string): readonly string[] {
	const folded = name.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase();
	return folded.match(/\d+(?:[.,]\d+)*|\p{L}+/gu) ?? [];
}

/** Words that mean something by each letter: numbers, and suffixes such as `jr`, `t` or `hb`. */
const isCode = (word: string): boolean => word.length < 4 || /\d/.test(word);

/** How alike two names are; null: not alike. Words may stand in another order. */
export function nameLikeness(a: string, b: string): NameLikeness | null {
	const alike = wordsLikeness(wordsOfName(a), wordsOfName(b));
	if (alike?.kind !== "variant") return alike;
	// said in whole pieces of the names, `T6 / T651` and not `6 / 651`
	const [ofA, ofB] = [piecesOf(a), piecesOf(b)];
	const [restA, restB] = withoutCommon(ofA.map(low), ofB.map(low));
	return { kind: "variant", difference: `${shown(ofA, restA)} / ${shown(ofB, restB)}` };
}

const low = (text: string): string => text.toLowerCase();

const piecesOf = (name: string): readonly string[] => name.normalize("NFKC").match(/[\p{L}\p{N}.,]+/gu) ?? [];

/** As `nameLikeness`, for names that were split before. */
export function wordsLikeness(a: readonly string[], b: readonly string[]): NameLikeness | null {
	if (a.length === 0 || b.length === 0) return null;
	const [restA, restB] = withoutCommon(a, b);
	if (restA.length === 0 && restB.length === 0) return { kind: "same" };
	const [codesA, plainA] = split(restA);
	const [codesB, plainB] = split(restB);
	if (plainA.length !== plainB.length || plainA.length > 1) return null;
	const slips = plainA.length === 0 ? 0 : slipsBetween(plainA[0] as string, plainB[0] as string);
	if (slips > 1) return null;
	if (codesA.length === 0 && codesB.length === 0) return { kind: "near" };
	// both a slip and another code is another name; and something has to be left that they share
	if (slips > 0 || restA.length === a.length || restB.length === b.length) return null;
	return { kind: "variant", difference: `${codesA.join(" ")} / ${codesB.join(" ")}` };
}

/** Pieces as they are typed, of which these are left when what both have is taken away. */
const shown = (pieces: readonly string[], rest: readonly string[]): string =>
	rest.length === 0 ? "nothing" : pieces.filter((p) => rest.includes(low(p))).join(" ");

function split(words: readonly string[]): [codes: string[], plain: string[]] {
	return [words.filter(isCode), words.filter((w) => !isCode(w))];
}

/** What each has that the other has not, counted. */
function withoutCommon(a: readonly string[], b: readonly string[]): [string[], string[]] {
	const restB = [...b];
	const restA = a.filter((word) => {
		const at = restB.indexOf(word);
		if (at >= 0) restB.splice(at, 1);
		return at < 0;
	});
	return [restA, restB];
}

/** 0, 1 or 2 (more than one): inserted, left out, replaced letters or swapped neighbours between two words. */
function slipsBetween(a: string, b: string): 0 | 1 | 2 {
	if (a === b) return 0;
	if (Math.abs(a.length - b.length) > 1) return 2;
	let from = 0;
	while (from < a.length && a[from] === b[from]) from++;
	let [endA, endB] = [a.length, b.length];
	while (endA > from && endB > from && a[endA - 1] === b[endB - 1]) {
		endA--;
		endB--;
	}
	const [x, y] = [a.slice(from, endA), b.slice(from, endB)];
	if (x.length <= 1 && y.length <= 1) return 1;
	return x.length === 2 && y.length === 2 && x[0] === y[1] && x[1] === y[0] ? 1 : 2;
}

/** What is asked of a material to tell whether it is another one's duplicate. */
export type Likened = {
	readonly name: string;
	readonly material: Pick<Material, "family" | "condition" | "composition">;
	/** The number that each property works with, SI. */
	readonly numbers: ReadonlyMap<string, number>;
};

export type Likeness = {
	/** Likely the same material entered twice. */
	readonly likely: boolean;
	readonly name: NameLikeness | null;
	/** Properties whose numbers are within 1 % of each other, and `composition`. */
	readonly shared: readonly string[];
	/** Properties that both have and that differ by more. */
	readonly differing: readonly string[];
};

/**
 * The rule: a near-equal name; or the same family and condition with at least four shared values within 1 %, two of
 * them discriminating. Names apart in a digit or a suffix only are never matched by themselves.
 */
export function likeness(a: Likened, b: Likened): Likeness {
	const shared: string[] = [];
	const differing: string[] = [];
	for (const [property, number] of a.numbers) {
		const other = b.numbers.get(property);
		if (other === undefined) continue;
		(isNear(number, other) ? shared : differing).push(property);
	}
	if (a.material.composition.length > 0 && b.material.composition.length > 0)
		(sameComposition(a.material.composition, b.material.composition) ? shared : differing).push("composition");
	const name = nameLikeness(a.name, b.name);
	const alikeByName = name !== null && name.kind !== "variant";
	const sameKind = a.material.family === b.material.family && fold(a.material.condition) === fold(b.material.condition);
	const telling = shared.filter((p) => p === "composition" || DISCRIMINATING.has(p)).length;
	const alikeByValues = sameKind && shared.length >= LEAST_SHARED && telling >= LEAST_DISCRIMINATING;
	return { likely: alikeByName || alikeByValues, name, shared, differing };
}

const fold = (text: string): string => wordsOfName(text).join(" ");

/** The same constituents with shares within 1 %; the order does not matter. */
function sameComposition(a: readonly Constituent[], b: readonly Constituent[]): boolean {
	if (a.length !== b.length) return false;
	const others = new Map(b.map((c) => [c.name.toLowerCase(), c]));
	return a.every((c) => {
		const other = others.get(c.name.toLowerCase());
		if (other === undefined || (c.balance ?? false) !== (other.balance ?? false)) return false;
		return sameShare(c.min, other.min) && sameShare(c.max, other.max);
	});
}

/** Shares as typed; a blank one is only like a blank one. */
function sameShare(a: string, b: string): boolean {
	if (a.trim() === "" || b.trim() === "") return a.trim() === b.trim();
	return isNear(Number(a.replace(",", ".")), Number(b.replace(",", ".")));
}
