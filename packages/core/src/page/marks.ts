import type { LabelSymbol } from "./lexicon";
import type { Fate } from "./types";

/**
 * Digits of a line that are no values: standards, dates, the index of a symbol (Rp0.2, A5, KV2), the gauge of an
 * elongation, names (W42, PA-30, Al2O3). A number never begins inside a mark.
 */
export type Mark = {
	readonly from: number;
	readonly to: number;
	readonly fate: Fate;
	readonly symbol?: LabelSymbol;
	/** A gauge or the offset of a yield stress, without being a name by itself. */
	readonly qualifier?: string;
	/** A scale with its load, written out. */
	readonly scale?: string;
	/** A size that the value holds for: `t ≤ 16 mm`. */
	readonly condition?: string;
	/** A symbol of a property whose definition we do not know: Rp0.1. */
	readonly unknown?: true;
};

type Rule = readonly [RegExp, (match: RegExpExecArray) => Omit<Mark, "from" | "to"> | null];

const LETTER = "\\p{L}\\d_";
const yieldSymbol = (share: string): Omit<Mark, "from" | "to"> => {
	const plain = share.replace(",", ".");
	const qualifier = plain === "0.2" || plain === "02" ? "Rp0.2" : plain === "1.0" || plain === "1" ? "Rp1.0" : null;
	return qualifier === null
		? { fate: "name", unknown: true, symbol: { property: "yield_strength" } }
		: { fate: "name", symbol: { property: "yield_strength", qualifier } };
};
const GAUGES: Readonly<Record<string, string>> = {
	"5": "A",
	"5.65": "A",
	"10": "A11.3",
	"11.3": "A11.3",
	"50": "A50mm",
	"80": "A80mm",
};
const gauge = (text: string): string | undefined => GAUGES[text.replace(",", ".")];

/** Every pattern runs once over a line and none repeats inside a repetition. */
const RULES: readonly Rule[] = [
	[
		/(?<![\p{L}\d])(?:(?:DIN|EN|ISO|ASTM|IEC|JIS|UL|VDE|BS|NF|AMS|SAE|VDI|MIL|GB)[ /-]{0,2}){1,3}(?:[A-Z]{1,3}[ -]?)?\d[\d./:A-Za-z-]{0,24}/gu,
		() => ({ fate: "standard" }),
	],
	[
		/(?<![\d.,])\d{1,2}[./]\d{1,2}[./](?:19|20)\d\d(?!\d)|(?<![\d.,])(?:0?[1-9]|1[0-2])\/(?:19|20)\d\d(?!\d)/g,
		() => ({ fate: "name" }),
	],
	[/(?<![\d.,:])\d{1,2}:\d\d(?![\d:])|\+\d{1,3}(?: \d{2,4}){2,5}(?!\d)|https?:\S+/g, () => ({ fate: "name" })],
	[
		/(?:(?<![\d.,])\d+(?:[.,]\d+)? ?[<≤] ?)?(?<![\p{L}])[tdsØø] ?[<≤>≥=] ?\d+(?:[.,]\d+)?(?: ?(?:mm|in|")(?![\p{L}]))?/gu,
		(m) => ({ fate: "condition", condition: m[0].trim() }),
	],
	[new RegExp(`(?<![${LETTER}])R_?p ?(0[.,]?\\d{1,2}|1(?:[.,]0)?)(?![\\d])`, "gu"), (m) => yieldSymbol(m[1] as string)],
	[
		/(?<![\d.,])(0[.,]\d|1(?:[.,]0)?) ?-?% ?-?(?=\s*(?:offset|proof|yield|YS\b|dehn|streck))/gi,
		(m) => ({ fate: "name", qualifier: yieldSymbol(m[1] as string).symbol?.qualifier ?? "?" }),
	],
	[
		/(?<=(?:yield|proof|dehngrenze|streckgrenze|élasticité)[^\d]{0,26})(?:at |à |bei )?\(?(?:offset )?(0[.,]\d|1[.,]0) ?%(?: ?offset)?\)?/gi,
		(m) => ({ fate: "name", qualifier: yieldSymbol(m[1] as string).symbol?.qualifier ?? "?" }),
	],
	[
		new RegExp(`(?<![${LETTER}])A_?(5[.,]65|11[.,]3|5|10|50|80) ?(?:mm)?(?![\\p{L}\\d]|[.,]\\d)`, "gu"),
		(m) => ({ fate: "name", symbol: { property: "elongation", qualifier: gauge(m[1] as string) as string } }),
	],
	[
		/(?:\bin|\bon|\bover|\bL0 ?=|\bA) ?(?:2 ?in\.? ?\(?(?:50 ?mm)?\)?|(?:50|50\.8) ?mm(?: ?\(2 ?in\.?\))?)/g,
		() => ({ fate: "name", qualifier: "A50mm" }),
	],
	[/(?:\bin|\bon|\bL0 ?=|\bA) ?80 ?mm/g, () => ({ fate: "name", qualifier: "A80mm" })],
	[/(?<![\p{L}\d])A_?4[dD](?![\p{L}\d])/gu, () => ({ fate: "name", symbol: { property: "elongation", qualifier: "A4D" } })],
	[/(?:\bin|\bA)? ?\b4 ?[dD]\b(?! ?[.\d])/g, () => ({ fate: "name", qualifier: "A4D" })],
	[/(?:\bin|\bA)? ?\b5 ?[dD]\b(?! ?[.\d])/g, () => ({ fate: "name", qualifier: "A" })],
	[
		new RegExp(`(?<![${LETTER}])(K[VU]) ?_?2(?!\\d|[.,]\\d)`, "gu"),
		() => ({ fate: "name", symbol: { property: "impact_energy" } }),
	],
	[
		new RegExp(
			`(?<![${LETTER}])(HBW|HBS|HB|HV)(?:\\d+(?:[.,]\\d+)?(?:/\\d+(?:[.,]\\d+)?){0,2}| ?\\d+(?:[.,]\\d+)?/\\d+(?:[.,]\\d+)?)(?!\\d|[.,]\\d)`,
			"gu",
		),
		(m) => ({ fate: "name", scale: m[1] as string, symbol: { property: "hardness" } }),
	],
	[/(?<![\p{L}.])R\. ?A\.?(?![\p{L}])/gu, () => ({ fate: "name", symbol: { property: "reduction_of_area" } })],
	[/\(BH\) ?_?max/g, () => ({ fate: "name", symbol: { property: "energy_product" } })],
	[/\btan ?_?δ/g, () => ({ fate: "name", symbol: { property: "loss_tangent" } })],
	[
		// a run of letters with digits in it is a name, but for powers of ten (x10, E-4)
		/(?<![\d.,])(?![xX×·*] ?10)(?![eE][-+–−]?\d)\p{L}[\p{L}_]{0,30}-?\d[\p{L}\d_-]{0,30}/gu,
		() => ({ fate: "name" }),
	],
];

/** Letters with digits that are units when they stand behind a number: `mm2`, `cm3`. */
const UNIT_LIKE = /^(?:[munkcdM]?m|in|ft|s|cm)\d$/;

/** The marks of a line in order, none over another; earlier rules win. */
export function marksOf(line: string): readonly Mark[] {
	if (!/\d|δ|\(BH|R\. ?A/.test(line)) return [];
	const marks: Mark[] = [];
	const hasPercent = line.includes("%");
	for (const [pattern, make] of RULES) {
		if (!hasPercent && pattern.source.includes("%")) continue;
		pattern.lastIndex = 0;
		for (let match = pattern.exec(line); match !== null; match = pattern.exec(line)) {
			const [from, to] = [match.index, match.index + match[0].length];
			if (match[0].length === 0) {
				pattern.lastIndex++;
				continue;
			}
			if (UNIT_LIKE.test(match[0]) || marks.some((m) => m.from < to && from < m.to)) continue;
			const made = make(match);
			if (made !== null) marks.push({ from, to, ...made });
		}
	}
	return marks.sort((a, b) => a.from - b.from);
}
