import { type Dimension, isUnitWord, normaliseText, readUnit } from "../quantity";
import type { Mark } from "./marks";

/** A number on a line, or several that belong together (a range, `±`), with the unit behind it. */
export type Expression = {
	/** Of the number or the limit sign before it to the end of its unit. */
	readonly from: number;
	readonly to: number;
	/** Where the digits begin: behind a sign or a limit. */
	readonly numberAt: number;
	readonly numberEnd: number;
	/** As written, with its unit. */
	readonly text: string;
	readonly unit: string;
	/** Dimension of the unit; null where none stands there or it is not known. */
	readonly dimension: Dimension | null;
	/** `min`, `typ` ... right before it. */
	readonly limit?: "min" | "max" | "typ";
	/** `about`, `~`. */
	readonly about?: true;
	/** Numbers parted by blanks or commas and closed by one unit: readings, or digits torn apart. */
	readonly list: boolean;
	/** A slip of a scan: the text as it was probably meant. */
	readonly repaired?: string;
	readonly slip?: "letter" | "torn";
	/** A dash stands before it with a blank between: a minus, or what parts a label from its number. */
	readonly dash?: true;
	/** Other ways to read it: `10 6` is 10^6 or 106, `4..5` a range or 4.5. */
	readonly choices?: readonly string[];
	/** Numbers on both sides of a slash: `9600 / 6300`. */
	readonly pair?: readonly [string, string];
};

const DIGITS = "(?:\\d{1,3}(?:[ '’]\\d{3})+(?!\\d)|\\d+)(?:[.,]\\d+)*|[.,]\\d+";
const POWER =
	"(?:[eE][-+–−]?\\d{1,3}(?![\\d.,])|\\s*[x×·⋅∙*]\\s*10(?:\\^\\(?[-+–−]?\\d{1,3}\\)?|[-+–−]\\d{1,3}|[⁺⁻]?[⁰¹²³⁴⁵⁶⁷⁸⁹]{1,3}))";
const NUMBER = new RegExp(`(?:10(?:\\^[-+]?\\d{1,3}|[⁺⁻]?[⁰¹²³⁴⁵⁶⁷⁸⁹]{1,3})(?!\\d)|(?:${DIGITS})(?:${POWER})?)`, "y");
// one blank at most on either side: what stands further off is in another column
const JOIN = / ?(?:±|\+\/-|\.{2,3}|…|[–—−-]|(?:to|bis|à|and|und|a)(?=[\s\d])) ?(?:[-+−–](?=[\d.,]))?/iuy;
const UNIT_JOIN = / ?(?:±|\+\/-|\.{2,3}|…|[–—]) ?(?:[-+−](?=[\d.,]))?| (?:-|to|bis|à|and|und) (?:[-+−–](?=[\d.,]))?/iuy;
const PM = /±|\+\/-/;
/** Digits with letters among them that a scan mistakes for digits; a digit is there, a capital S or B never first. */
const SLIP =
	/(?<![\p{L}\d.,])(?=[OolI.,\d]*[OolISB]?[\dOolISB.,]*)(?=[OolISB.,]*\d)(?=[\d.,]*[OolISB])[OolI\d][OolISB\d]*(?:[.,][OolISB\d]+)*(?![\p{L}\d])/gu;
const TORN = /(?<![\d.,]\s?)\d(?: \d){2,6}(?![\d.,]| \d)/g;
const LIMIT_BEFORE =
	/(≥|>=|=>|>|≤|<=|=<|<|(?<![\p{L}_)])(?:min(?:imum|imal|\.)?|mind(?:estens|\.)|at least|max(?:imum|imal|\.)?|höchstens|at most|up to|less than|more than|typ(?:ically|ical|isch|\.)?|ca\.?|approx\.?|about|around|roughly|approximately|rund|etwa|ungefähr|environ|circa|~|≈|au moins))[^\S\t]{0,2}:?[^\S\t]{0,2}$/iu;

const MOST_UNIT = 30;
const MOST_BEHIND = 48;

/** Every number expression of a line, in order; a number never begins inside a mark. */
export function expressionsOf(written: string, marks: readonly Mark[]): readonly Expression[] {
	if (!/\d/.test(written)) return [];
	const found: Expression[] = [];
	const slips = slipsOf(written, marks);
	// of the same length, so that positions stay those of the line
	const line = slips.reduce((text, s) => `${text.slice(0, s.from)}${s.mended}${text.slice(s.to)}`, written);
	const held = marks.filter((m) => !slips.some((s) => m.from < s.to && s.from < m.to));
	let at = 0;
	while (at < line.length) {
		const mark = held.find((m) => m.from <= at && at < m.to);
		if (mark !== undefined) {
			at = mark.to;
			continue;
		}
		const read = /[\d.,]/.test(line[at] as string) && isDigitStart(line, at) ? expressionAt(line, at, held) : null;
		if (read === null) {
			at++;
			continue;
		}
		const slip = slips.find((s) => s.from < read.to && read.from < s.to);
		const text = read.text.replace(/\s+/g, " ").replace(/^ /, "");
		found.push(slip === undefined ? read : { ...read, from: Math.min(read.from, slip.from), repaired: text, slip: slip.kind });
		at = Math.max(read.to, at + 1);
	}
	return found;
}

function numberStart(line: string, at: number): string | null {
	NUMBER.lastIndex = at;
	return NUMBER.exec(line)?.[0] ?? null;
}

/** A number does not begin inside another one or behind a letter. */
function isDigitStart(line: string, at: number): boolean {
	const before = line[at - 1] ?? " ";
	// `E-4/°C`, `PA-30`: a minus behind a letter is part of a name or a unit
	if (/[-–−]/.test(before) && /\p{L}/u.test(line[at - 2] ?? " ")) return false;
	return !/[\p{L}\d_]/u.test(before) && !(/[.,]/.test(before) && /\d/.test(line[at - 2] ?? ""));
}

function expressionAt(line: string, at: number, marks: readonly Mark[]): Expression | null {
	const first = numberStart(line, at);
	if (first === null) return null;
	const signed = signBefore(line, at);
	let end = at + first.length;
	let unit = unitAfter(line, end, marks);
	let list = false;
	let choices: readonly string[] | undefined;
	let pair: readonly [string, string] | undefined;
	const joined = unit.to === end ? join(line, end, JOIN, marks) : join(line, unit.to, UNIT_JOIN, marks);
	if (joined !== null) {
		end = joined.end;
		const second = unitAfter(line, end, marks);
		unit = second.to === end ? { ...unit, to: end } : second;
		const torn = /^(\d+)\.\.(\d)$/.exec(line.slice(at, end));
		if (torn !== null) choices = [`${torn[1]} – ${torn[2]}`, `${torn[1]}.${torn[2]}`];
	} else if (unit.to === end) {
		const rest = moreNumbers(line, end, marks);
		if (rest !== null) {
			list = true;
			const single = /^10 (\d{1,2})$/.exec(line.slice(at, rest.end));
			if (single !== null) choices = [`10^${single[1]}`, `10${single[1]}`];
			end = rest.end;
			unit = unitAfter(line, end, marks);
		}
		const slash = /^ ?\/ ?/.exec(line.slice(end, end + 6));
		const second = slash === null ? null : numberStart(line, end + slash[0].length);
		if (slash !== null && second !== null && unit.to === end && !list) {
			pair = [line.slice(signed, end), second];
			end += slash[0].length + second.length;
			unit = unitAfter(line, end, marks);
		}
		// `9600 / *`: the second is blank
		const blank = slash !== null && second === null ? /^ ?\/ ?(?:\*|–|-|n\/a)(?=\s|$)/.exec(line.slice(end)) : null;
		if (blank !== null && unit.to === end) {
			pair = [line.slice(signed, end), ""];
			end += blank[0].length;
			unit = { text: "", dimension: null, to: end };
		}
	}
	const before = limitBefore(line, signed);
	const after = line.slice(Math.max(unit.to, end), Math.max(unit.to, end) + MOST_BEHIND);
	const twice = IN_BRACKET.exec(after)?.[0] ?? "";
	const word = before?.limit === undefined ? LIMIT_BEHIND.exec(after.slice(twice.length)) : null;
	const endsPhrase = word !== null && /^ ?(?:[,;.]|$)/.test(after.slice(twice.length + word[0].length));
	// over a condition, `930 MPa (20 °C) minimum`, only where no name follows that the word could belong to
	const isCondition = word?.[0].startsWith(")") === true && /°|^K$/.test(unit.text);
	const isOver = twice !== "" && !IN_OTHER_UNITS.test(twice);
	const behind = word === null || ((isCondition || isOver) && !endsPhrase) ? null : word;
	const limit =
		behind === null || isCondition
			? before
			: { from: before?.from ?? signed, limit: /^\W*mi/i.test(behind[0]) ? ("min" as const) : ("max" as const) };
	return {
		from: limit?.from ?? signed,
		to: Math.max(unit.to, end) + (twice === "" ? (behind?.[0].length ?? 0) : 0),
		numberAt: at,
		numberEnd: end,
		text: line.slice(signed, Math.max(unit.to, end)).trim(),
		unit: unit.text,
		dimension: unit.dimension,
		list,
		...(limit?.limit === undefined ? {} : { limit: limit.limit }),
		...(DASH.test(line.slice(Math.max(0, at - 4), at)) ? { dash: true as const } : {}),
		...(limit?.about === true ? { about: true as const } : {}),
		...(choices === undefined ? {} : { choices: choices.map((c) => `${c} ${unit.text}`.trim()) }),
		...(pair === undefined ? {} : { pair }),
	};
}

const IN_BRACKET = /^ ?\([^()]{1,30}\)(?= )/;
const IN_OTHER_UNITS = /^ ?\([\d.,–~ -]+\p{L}[^()]{0,20}\)$/u;

const DASH = /(?:^|[\s(:=])[-−–] $/;

/** `430 MPa minimum`, `(135 ksi) max.`; over a bracket with the same in another unit too. */
const LIMIT_BEHIND = /^\)? ?\(?(?:min(?:imum|imal|\.)?|mini|max(?:imum|imal|\.)?|maxi)\)?(?![\p{L}\d/])(?!\s*\d)/iu;

/** A minus is a sign at the start, behind a blank, bracket or limit; behind a number or a letter it joins. */
function signBefore(line: string, at: number): number {
	const sign = line[at - 1] ?? "";
	if (!/[-+−–]/.test(sign)) return at;
	const before = line[at - 2] ?? " ";
	return /[\s(:=,;<>≥≤[~]/.test(before) ? at - 1 : at;
}

function limitBefore(line: string, at: number): { from: number; limit?: "min" | "max" | "typ"; about?: true } | null {
	const begin = Math.max(0, at - 16);
	const match = LIMIT_BEFORE.exec(line.slice(begin, at));
	if (match === null) return null;
	const word = (match[1] as string).toLowerCase();
	const from = begin + match.index;
	if (/^(?:≥|>=|=>|>|min|mind|at least|more|au moins)/.test(word)) return { from, limit: "min" };
	if (/^(?:≤|<=|=<|<|max|höch|at most|up to|less)/.test(word)) return { from, limit: "max" };
	return /^typ/.test(word) ? { from, limit: "typ" } : { from, about: true };
}

function join(line: string, at: number, pattern: RegExp, marks: readonly Mark[]): { end: number } | null {
	pattern.lastIndex = at;
	const match = pattern.exec(line);
	if (match === null) return null;
	const next = pattern.lastIndex;
	if (marks.some((m) => m.from <= next && next < m.to)) return null;
	const second = numberStart(line, next);
	// `20 -30`: a blank before and none behind a bare minus is a sign of the next number, not a range
	if (second === null || (/^\s+[-−–]$/.test(match[0]) && !PM.test(match[0]))) return null;
	return { end: next + second.length };
}

/** Further numbers behind the first: `142 138 151 J`, `1041, 1052, 1060 MPa`. */
function moreNumbers(line: string, at: number, marks: readonly Mark[]): { end: number } | null {
	let end = at;
	let count = 0;
	for (;;) {
		const gap = /^(?:, ?| |; )(?=\d)/.exec(line.slice(end, end + 3));
		if (gap === null || count > 200) break;
		const next = end + gap[0].length;
		if (marks.some((m) => m.from <= next && next < m.to)) break;
		const number = numberStart(line, next);
		if (number === null) break;
		// a unit between two numbers ends the list
		end = next + number.length;
		count++;
	}
	return count === 0 ? null : { end };
}

type UnitAfter = { readonly text: string; readonly dimension: Dimension | null; readonly to: number };

const UNIT_TOKEN =
	/ ?(?:(?:cu|sq)\.? ?(?:in|ft|cm|m)\.?(?![\p{L}])|(?:[x×·*]\s*)?10\s?(?:\^?[-–−+]\d{1,2}|[⁺⁻]?[⁰¹²³⁴⁵⁶⁷⁸⁹]+)|1?[eE][-–−+]\d{1,2}(?=\s*\/|\s*[°Km%])|1(?=\s*\/)|%\s?IACS|°\s?[CFKR](?![\p{L}])|deg\.?\s?[CFR](?![\p{L}])|[\p{L}μΩ°%‰"']+)(?:\^?\(?[-–−+]?\d(?:[.,]\d)?\)?|[⁺⁻]?[⁰¹²³⁴⁵⁶⁷⁸⁹½]+)?/uy;
const UNIT_SIGN = / ?[/·⋅.*×-] ?(?=[\p{L}(°μΩ%√\d])| ?[·⋅]? ?√ ?(?=[\p{L}(])| ?\(\s?(?=[\p{L}°μΩ])|\)/uy;

/** Units that stand apart by a blank in a run of units: `W m⁻¹ K⁻¹`, `J/kg K`, `ohm m`. */
const APART = / (?:(?:K|°C|°F|F|m|cm|mm|kg|g|lbf|lb|hr|h|ft|s)(?:\^?[-–−+]?\d|[⁺⁻]?[⁰¹²³⁴⁵⁶⁷⁸⁹]+)?)(?![\p{L}\d])/uy;

/** The unit behind a number: tokens as long as they are units, then the longest run of them that reads. */
function unitAfter(line: string, at: number, marks: readonly Mark[]): UnitAfter {
	const none = { text: "", dimension: null, to: at };
	const scale =
		/^ ?(HBW|HBS|HB|HV|HR ?[ABC]|Sh(?:ore)?[-. ]*[AD]|IRHD)(?:\s?\d+(?:[.,]\d+)?(?:\/\d+(?:[.,]\d+)?){0,2})?(?![\p{L}\d])/u.exec(
			line.slice(at, at + 28),
		);
	if (scale !== null) return { text: scale[0].trim(), dimension: 0, to: at + scale[0].length };
	let end = at;
	let open = 0;
	let best: UnitAfter = none;
	let expectToken = true;
	while (end < line.length && end - at < MOST_UNIT) {
		const next = expectToken ? stick(UNIT_TOKEN, line, end) : null;
		if (next !== null && isUnitToken(next.trim(), end === at)) {
			end += next.length;
			expectToken = false;
		} else {
			const sign = stick(UNIT_SIGN, line, end);
			if (sign === null) {
				// tokens may also stand apart by a blank: `W m⁻¹ K⁻¹`
				const apart = expectToken ? null : stick(APART, line, end);
				if (apart === null) break;
				end += apart.length;
				if (open !== 0) continue;
				const text = line.slice(at, end).trim();
				const dimension = dimensionOf(text);
				if (dimension !== null) best = { text, dimension, to: end };
				continue;
			}
			if (sign.includes("(")) open++;
			if (sign === ")") {
				if (open === 0) break;
				open--;
			}
			end += sign.length;
			expectToken = sign !== ")";
		}
		if (open !== 0) continue;
		const text = line.slice(at, end).trim();
		const dimension = dimensionOf(text);
		if (dimension !== null && !marks.some((m) => m.from < end && m.from >= at && m.fate !== "name" && m.to > end))
			best = { text, dimension, to: end };
	}
	return best;
}

function stick(pattern: RegExp, line: string, at: number): string | null {
	pattern.lastIndex = at;
	return pattern.exec(line)?.[0] ?? null;
}

/** Is a token a unit by its letters? `in`, `a`, `h` right behind a number are, in the run of a unit words are not. */
function isUnitToken(token: string, first: boolean): boolean {
	const word = /^[\p{L}μΩ°%‰"'√ ]+/u.exec(token)?.[0].trim() ?? "";
	if (word === "") return /^(?:[x×·*]\s*)?1/.test(token) || /^1?[eE][-–−+]/.test(token);
	if (/^(?:x|×|e|E)$/.test(word)) return /\d/.test(token);
	if (/^(?:cu|sq)\b/.test(word)) return true;
	if (first && /^(?:at|a|as|d|dB)$/.test(word)) return false;
	return isUnitWord(normaliseText(word).replace(/\s/g, ""));
}

const dimensions = new Map<string, Dimension | null>();

/** The dimension of a unit text; null for none. Kept, because pages repeat their units. */
export function dimensionOf(text: string): Dimension | null {
	const known = dimensions.get(text);
	if (known !== undefined) return known;
	const read = readUnit(normaliseText(text), []);
	if (dimensions.size > 4000) dimensions.clear();
	const found = read === null ? null : read.unit.dimension;
	dimensions.set(text, found);
	return found;
}

type Slip = { readonly from: number; readonly to: number; readonly mended: string; readonly kind: "letter" | "torn" };

/** Letters that a scan mistakes for digits, digits torn apart by blanks, and the tens of their powers. */
function slipsOf(line: string, marks: readonly Mark[]): readonly Slip[] {
	const slips: Slip[] = [];
	const add = (pattern: RegExp, kind: Slip["kind"]): void => {
		pattern.lastIndex = 0;
		for (let match = pattern.exec(line); match !== null; match = pattern.exec(line)) {
			const [from, to] = [match.index, match.index + match[0].length];
			if (match[0].length === 0) pattern.lastIndex++;
			// a mark made of nothing but digits and such letters is a slip as well as a name
			else if (
				!marks.some(
					(m) => m.from < to && from < m.to && (m.symbol !== undefined || m.fate === "standard" || m.scale !== undefined),
				)
			)
				slips.push({ from, to, mended: mend(match[0]).padStart(to - from, " "), kind });
		}
	};
	if (/[OolISB]/.test(line)) {
		add(SLIP, "letter");
		add(/(?<=[x×·*] ?)1[Oo](?=[-+–−^]?\d)/g, "letter");
	}
	if (/\d \d \d/.test(line)) add(TORN, "torn");
	return slips.filter((s, i) => !slips.some((o, j) => j < i && o.from < s.to && s.from < o.to)).sort((a, b) => a.from - b.from);
}

function mend(text: string): string {
	return text.replace(/ /g, "").replace(/[Oo]/g, "0").replace(/[lI]/g, "1").replace(/S/g, "5").replace(/B/g, "8");
}
