import { AXES, formById, type PropertyRow, property, propertyById } from "../property";
import { commonMark, type DecimalMark, normaliseText, parseQuantity, type QuantitySpec, readUnit } from "../quantity";
import { fail, ok, type Result } from "../result";
import { catalogueId } from "./evaluate";
import { readLabel } from "./label";
import { marksOf } from "./marks";
import { cleanPaste, plainText } from "./text";

/** The most that a block holds; more is refused at once. A curve keeps fewer points: a long block is thinned to them. */
export const BLOCK_LIMITS = { characters: 6_000_000, rows: 100_000, columns: 30 } as const;

/** A column of a pasted block before anybody says what it is. */
export type BlockColumn = {
	readonly header: string;
	/** What it probably is: an axis id, a property id, or nothing that we know. */
	readonly guess: string | null;
	readonly unit: string | null;
	readonly cells: readonly string[];
};

export type Block = {
	readonly columns: readonly BlockColumn[];
	readonly mark: DecimalMark;
	/** The mark could be either; the user has to say. */
	readonly ambiguous: boolean;
	/** Header words that say true or engineering, tension or compression. */
	readonly header: Readonly<Record<string, string>>;
	/** Rows that are no numbers, with their line in the paste. */
	readonly dropped: readonly { readonly line: number; readonly text: string }[];
	/** Lines of the paste that the rows came from. */
	readonly lines: readonly number[];
};

/** What a column may be called, beside the names of properties. Upper and lower case matter for the short ones. */
const AXIS_WORDS: readonly (readonly [string, RegExp])[] = [
	["temperature", /^(?:temp(?:erature|eratur|\.)?|T|ϑ|θ|Temp)\b/i],
	["strain_rate", /^(?:strain ?rate|dehnrate|dehngeschwindigkeit|ε̇|rate)\b/i],
	[
		"strain",
		/^(?:(?:plastic |true |engineering |total |eng\.? )*strain|(?:plastische |wahre |technische )*dehnung|umformgrad|stauchung|ε|eps(?:ilon)?|e)\b/iu,
	],
	[
		"stress",
		/^(?:(?:true |engineering |flow |eng\.? )*stress|(?:wahre |technische |fließ)*spannung|fließspannung|σ|sigma|kf|s|amplitude|spannungsamplitude)\b/iu,
	],
	["cycles", /^(?:cycles|n|lastwechsel|schwingspiele|zyklen)\b/i],
	["field", /^(?:field(?: strength)?|h|feldstärke|magnetische feldstärke)\b/i],
	["flux_density", /^(?:(?:peak )?flux density|induction|polari[sz]ation|b|j|bmax|flussdichte|induktion|polarisation)\b/i],
	["loss_per_mass", /^(?:(?:core |specific |iron )?loss|p|ps|ummagnetisierungsverlust|verlust)\b/i],
	["frequency", /^(?:freq(?:uency|uenz|\.)?|f)\b/i],
	["thickness", /^(?:thickness|dicke|t)\b/],
	["diameter", /^(?:diameter|durchmesser|d)\b/i],
	["moisture", /^(?:moisture|humidity|feuchte)\b/i],
	["time", /^(?:time|zeit)\b/i],
	["stress_ratio", /^(?:stress ratio|spannungsverhältnis|r)\b/i],
];

/**
 * Reads a block copied from a spreadsheet: tabs, semicolons or blanks between the cells, decimal commas or points, a
 * header row with units and perhaps a row of units under it. Nothing is converted here; each column keeps its cells.
 * @param want axes or properties that the asker expects, the likeliest first: they win over other guesses
 * @returns issues `paste-too-large`, `no-numbers`
 */
export function readBlock(pasted: string, want: readonly string[] = []): Result<Block> {
	if (pasted.length > BLOCK_LIMITS.characters)
		return fail({
			code: "paste-too-large",
			actual: `${pasted.length} characters`,
			expected: `at most ${BLOCK_LIMITS.characters}`,
		});
	const lines = cleanPaste(pasted).split("\n");
	const filled = lines.map((text, i) => ({ text, line: i + 1 })).filter((l) => l.text.trim() !== "");
	if (filled.length > BLOCK_LIMITS.rows + 10)
		return fail({ code: "paste-too-large", actual: `${filled.length} rows`, expected: `at most ${BLOCK_LIMITS.rows}` });
	const split = separator(filled.map((l) => l.text));
	const rows = filled.map(({ text, line }) => {
		const cells = split(text)
			.slice(0, BLOCK_LIMITS.columns)
			.map((c) => c.trim());
		return { text, line, cells, numbers: isNumberRow(cells) };
	});
	const first = rows.findIndex((r) => r.numbers);
	if (first < 0) return fail({ code: "no-numbers", expected: "rows of numbers, perhaps under a row of headings" });
	const width = rows.slice(first).reduce((most, r) => (r.numbers ? Math.max(most, r.cells.length) : most), 0);
	// a heading holds no numbers; a row with some is one that does not read whole
	const heads = rows.slice(0, first).filter((r) => (r.cells.length >= 2 || width === 1) && !r.cells.some((c) => NUMBER.test(c)));
	const data = rows.slice(first).filter((r) => r.numbers);
	const dropped = [...rows.slice(0, first).filter((r) => !heads.includes(r)), ...rows.slice(first).filter((r) => !r.numbers)].map(
		({ line, text }) => ({ line, text }),
	);
	const { mark, ambiguous } = commonMark(data.flatMap((r) => r.cells));
	const columns = Array.from({ length: width }, (_, i): BlockColumn => {
		const titles = heads.map((h) => h.cells[i] ?? "").filter((t) => t !== "");
		const { name, unit } = headerOf(titles);
		return { header: name, unit, guess: guess(name, unit, want, i), cells: data.map((r) => r.cells[i] ?? "") };
	});
	return ok({
		columns: withoutTwins(columns),
		mark,
		ambiguous,
		header: wordsOf(heads.flatMap((h) => h.cells)),
		dropped,
		lines: data.map((r) => r.line),
	});
}

/** Tabs win over semicolons, those over wide gaps, those over single blanks. */
function separator(lines: readonly string[]): (line: string) => readonly string[] {
	const share = (test: (line: string) => boolean): number => lines.filter(test).length / lines.length;
	if (share((l) => l.includes("\t")) > 0.5) return (l) => l.split("\t");
	if (share((l) => l.includes(";")) > 0.5) return (l) => l.split(";");
	if (share((l) => /\S\s{2,}\S/.test(l)) > 0.5) return (l) => l.trim().split(/\s{2,}/);
	if (share((l) => /^\s*[-+\d.eE]+\s*,\s*[-+\d.eE]+/.test(l)) > 0.5) return (l) => l.split(",");
	return (l) => l.trim().split(/\s+/);
}

const NUMBER = /^[-−+]?(?:\d[\d.,' ]*|[.,]\d+)(?:[eE][-+]?\d+)?(?:\s*[-–]\s*\d[\d.,]*)?$/;

function isNumberRow(cells: readonly string[]): boolean {
	const filled = cells.filter((c) => c !== "");
	return filled.length > 0 && filled.every((c) => NUMBER.test(c));
}

/** Name and unit of a header: `E (Msi)`, `k Btu/(h·ft·°F)`, `Spannung [N/mm²]`, or a row of names over a row of units. */
function headerOf(titles: readonly string[]): { name: string; unit: string | null } {
	const [top = "", below] = titles;
	if (below !== undefined) {
		const unit = unitText(below.replace(/^[[(]|[\])]$/g, ""));
		if (unit !== null) return { name: top, unit };
	}
	const brackets = [...top.matchAll(/\[([^\]]+)\]|\(((?:[^()]|\([^()]*\))+)\)/g)].reverse();
	for (const match of brackets) {
		const unit = unitText((match[1] ?? match[2] ?? "").replace(/^in\s+/, ""));
		if (unit !== null) return { name: `${top.slice(0, match.index)}${top.slice(match.index + match[0].length)}`.trim(), unit };
	}
	// the longest tail that reads as a unit, with a name left in front
	const words = top.split(/[\s,/]+(?=\S)/);
	let at = 0;
	for (let i = 1; i < words.length; i++) {
		at = top.indexOf(words[i] as string, at + (words[i - 1] as string).length);
		const unit = unitText(top.slice(at).replace(/^in\s+/, ""));
		if (unit !== null && at > 0)
			return {
				name: top
					.slice(0, at)
					.replace(/[\s,/]+$/, "")
					.replace(/\bin$/, "")
					.trim(),
				unit,
			};
	}
	return { name: top.trim(), unit: null };
}

/** The text when it reads as a unit of anything. */
function unitText(text: string): string | null {
	const trimmed = text.trim();
	if (trimmed === "" || trimmed.length > 40) return null;
	if (/^[-–—]$/.test(trimmed)) return "1";
	const plain = plainText(trimmed);
	for (const spec of ALL_SPECS) {
		if (parseQuantity(`1 ${plain}`, { ...spec, min: -Infinity, max: Infinity }).ok) return trimmed;
	}
	return null;
}

const ALL_SPECS: readonly QuantitySpec[] = [
	...new Map(
		[
			...AXES,
			...[
				...[
					"density",
					"youngs_modulus",
					"thermal_conductivity",
					"specific_heat",
					"thermal_expansion",
					"resistivity",
					"fracture_toughness",
					"impact_energy",
					"charpy_impact",
					"dielectric_strength",
					"energy_product",
				],
			].map((id) => property(id)),
		].map((s) => [`${s.dimension}${s.absoluteTemperature ?? ""}`, s]),
	).values(),
];

function guess(name: string, unit: string | null, want: readonly string[], index: number): string | null {
	const plain = plainText(name).trim();
	const fits = (id: string): boolean => unit === null || takes(id, unit);
	const word = AXIS_WORDS.filter(([, words]) => words.test(plain)).map(([id]) => id);
	const axis = word.find((id) => want.includes(id) && fits(id)) ?? word.find(fits);
	const named = readLabel(plain, marksOf(plain));
	const row = named?.properties.map(catalogueId).find((id) => propertyById(id) !== undefined && fits(id));
	if (row !== undefined && want.includes(row)) return row;
	// a short symbol such as E or k is a property unless the asker wants the axis
	if (axis !== undefined && (row === undefined || want.includes(axis))) return axis;
	if (row !== undefined) return row;
	if (plain === "") return want[index] !== undefined && fits(want[index] as string) ? (want[index] as string) : null;
	return want.find((id) => unit !== null && takes(id, unit)) ?? null;
}

function specOfId(id: string): QuantitySpec | PropertyRow | undefined {
	return AXES.find((a) => a.id === id) ?? propertyById(id);
}

/** Does a quantity of this kind take the unit? */
function takes(id: string, unit: string): boolean {
	const spec = specOfId(id);
	if (spec === undefined) return false;
	const wanted = spec.reciprocal === true ? [spec.dimension, -spec.dimension] : [spec.dimension];
	return readUnit(normaliseText(unit), wanted)?.fits === true || (unit === "1" && spec.dimension === 0);
}

/** The same guess twice is right only once: the second column is left for the user to name. */
function withoutTwins(columns: readonly BlockColumn[]): readonly BlockColumn[] {
	return columns.map((column, i) =>
		column.guess !== null && columns.findIndex((c) => c.guess === column.guess) < i ? { ...column, guess: null } : column,
	);
}

/** What the headings say about the form of a stress-strain curve. */
function wordsOf(titles: readonly string[]): Readonly<Record<string, string>> {
	const header: Record<string, string> = {};
	for (const title of titles) {
		const plain = plainText(title).toLowerCase();
		const isStress = /stress|spannung|σ/.test(plain);
		const isStrain = /strain|dehnung|umformgrad|ε/.test(plain);
		const isTrue = /\btrue\b|wahre?\b|logarithm/.test(plain);
		const isEngineering = /engineering|technisch|\beng\b|nominal|nenn/.test(plain);
		const isPlastic = /plasti(?:c|sch)/.test(plain);
		if (isStress && isTrue) header.stress = "true";
		if (isStress && isEngineering) header.stress = "engineering";
		if (isStrain && isPlastic) header.strain = "plastic-true";
		else if (isStrain && isTrue) header.strain = "total-true";
		else if (isStrain && isEngineering) header.strain = "total-engineering";
		if (/compress|druck|stauch/.test(plain)) header.loading = "compression";
		else if (/tensi(?:on|le)|zug/.test(plain)) header.loading = "tension";
	}
	return header;
}

/** Axes that a curve of this form wants, conditions last, for the guess of a pasted block. */
export function wantedAxes(formId: string): readonly string[] {
	const form = formById(formId);
	return form?.kind === "curve" ? [form.x, ...form.y, ...form.conditions] : [];
}
