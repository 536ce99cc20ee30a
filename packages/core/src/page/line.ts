import { property } from "../property";
import { type DecimalMark, HARDNESS_SCALES, type ParseOptions, parseQuantity, type Quantity } from "../quantity";
import type { Issue, Result } from "../result";
import { conditionsOf } from "./condition";
import { SYMBOLS, SYNONYMS, type Synonym } from "./synonyms.data";
import { plainText } from "./text";
import type { Ask, Taken } from "./types";

/** What a line names: candidates, where the name ends, and what has to be asked. */
export type Named = {
	readonly properties: readonly string[];
	readonly qualifier?: string;
	readonly ask?: string;
	readonly end: number;
	/** A symbol alone is a weak hint: a line that then does not read is left alone. */
	readonly weak: boolean;
};

const COMPILED: readonly { readonly synonym: Synonym; readonly pattern: RegExp }[] = SYNONYMS.map((synonym) => ({
	synonym,
	pattern: new RegExp(`(?<![\\p{L}])(?:${synonym.words})(?![\\p{L}])`, "giu"),
}));

/** The property that a text names: the longest match, the first one of equal length. Null for none. */
export function nameIn(text: string): Named | null {
	const symbol = symbolAt(text);
	let best: { named: Named; length: number } | null = null;
	const lower = text.toLowerCase();
	for (const { synonym, pattern } of COMPILED) {
		pattern.lastIndex = 0;
		for (let match = pattern.exec(lower); match !== null; match = pattern.exec(lower)) {
			if (match[0].trim() === "") {
				pattern.lastIndex++;
				continue;
			}
			const length = match[0].trim().length;
			if (best === null || length > best.length) {
				const { properties, qualifier, ask } = synonym;
				const end = match.index + match[0].length;
				const found = { properties, end, weak: false };
				best = { length, named: { ...found, ...(qualifier ? { qualifier } : {}), ...(ask ? { ask } : {}) } };
			}
		}
	}
	if (best === null) return symbol;
	return { ...best.named, ...qualifierOf(best.named, text) };
}

/** A symbol at the head of the line: `E 68.9 GPa`, `Rp0.2 = 125 MPa`. */
function symbolAt(text: string): Named | null {
	const head = text.trimStart();
	const indent = text.length - head.length;
	let best: Named | null = null;
	for (const { symbols, property: id, qualifier } of SYMBOLS) {
		for (const symbol of symbols) {
			if (!head.startsWith(symbol) || !/^(?:[\s=:(,\t]|$)/.test(head.slice(symbol.length))) continue;
			const end = indent + symbol.length;
			if (best === null || end > best.end) best = { properties: [id], end, weak: true, ...(qualifier ? { qualifier } : {}) };
		}
	}
	return best;
}

/** Which definition the words or symbols of the line mean; none where they do not say. */
function qualifierOf(named: Named, text: string): { qualifier?: string } {
	if (named.qualifier !== undefined) return {};
	const id = named.properties[0];
	if (id === "yield_strength") {
		if (/0[.,]2 ?-?%|r_?p ?0[.,]?2/i.test(text)) return { qualifier: "Rp0.2" };
		if (/r_?p ?1[.,]0|1[.,]?0? ?% ?proof/i.test(text)) return { qualifier: "Rp1.0" };
		if (/r_?eh\b/i.test(text)) return { qualifier: "ReH" };
		if (/r_?el\b/i.test(text)) return { qualifier: "ReL" };
		if (/streckspannung|stress at yield|tensile (?:strength|stress),? \(?(?:at )?yield/i.test(text))
			return { qualifier: "sigma_Y" };
	}
	if (id === "elongation") {
		if (/a_?11[.,]3|\ba_?10\b/i.test(text)) return { qualifier: "A11.3" };
		if (/a_?50 ?(?:mm)?\b|(?:in|on|l0 ?=?) 50 ?mm/i.test(text)) return { qualifier: "A50mm" };
		if (/a_?80 ?(?:mm)?\b|(?:in|on|l0 ?=?) 80 ?mm/i.test(text)) return { qualifier: "A80mm" };
		if (/\ba_?4d\b|\b4 ?d\b/i.test(text)) return { qualifier: "A4D" };
		if (/\ba_?5\b|5[.,]65/i.test(text)) return { qualifier: "A" };
	}
	if (id === "uniform_elongation" && /a_?gt\b/i.test(text)) return { qualifier: "Agt" };
	return {};
}

export type LineContext = {
	/** The decimal mark seen elsewhere on the page. */
	readonly mark?: DecimalMark;
	/** Unit that a bare number takes, by property: only where a person types. */
	readonly fieldUnit?: (propertyId: string) => string | undefined;
	readonly line: number;
};

export type LineReading =
	| { readonly kind: "taken"; readonly taken: readonly Taken[] }
	| { readonly kind: "ask"; readonly ask: Ask }
	| { readonly kind: "none" };

const NONE: LineReading = { kind: "none" };

/** Reads `Thermal conductivity: 34 - 39 Btu/(h ft °F)`: a name, perhaps conditions, a number with its unit. */
export function readLine(raw: string, context: LineContext): LineReading {
	const text = plainText(raw);
	// without a digit there is no value, whatever the words are
	const named = /\d/.test(text) ? nameIn(text) : null;
	if (named === null) return NONE;
	return readNamed(named, text.slice(0, named.end), text.slice(named.end), raw, context);
}

/** Reads a value text beside a name that is known already; the name's cell may hold conditions and a unit. */
export function readNamed(named: Named, name: string, rest: string, raw: string, context: LineContext): LineReading {
	const conditions = conditionsOf(rest, named.properties[0] ?? "");
	const inName = conditionsOf(name, named.properties[0] ?? "", true);
	const condition = [inName.condition, conditions.condition].filter((c) => c !== "").join(", ");
	const value = valueIn(conditions.rest);
	if (value === null) return NONE;
	const whole = `${name} ${rest}`;
	let issues: readonly Issue[] = [];
	for (const id of named.properties) {
		const read = readValue(id, value, whole, context);
		if (read.ok) {
			const chosen: Named = { ...named, properties: [id] };
			if (named.ask !== undefined)
				return { kind: "ask", ask: question(chosen, named.ask, read.value, raw, value, context, named.properties) };
			return { kind: "taken", taken: proposals(chosen, read.value, condition, whole, context.line) };
		}
		if (issues.length === 0) issues = read.issues;
	}
	if (named.ask !== undefined && /\d/.test(value)) {
		const weight = weightDensity(value);
		if (weight !== null)
			return {
				kind: "ask",
				ask: {
					line: context.line,
					text: raw,
					property: "density",
					question: named.ask,
					choices: [{ property: "density", text: weight }],
				},
			};
	}
	const first = issues[0];
	if (!/\d/.test(value) || (named.weak && first?.code !== "ambiguous-number")) return NONE;
	if (first === undefined || !["ambiguous-number", "unit-missing", "out-of-bounds", "reversed-range"].includes(first.code))
		return NONE;
	const named0 = named.properties[0] as string;
	// a range of service temperatures is two properties; a question about it goes to the upper one
	const id = named0 === "service_temperature" ? "service_temperature_max" : named0;
	return {
		kind: "ask",
		ask: {
			line: context.line,
			text: raw,
			property: id,
			question: ASKED[first.code] ?? "which number is meant?",
			choices: (first.choices ?? []).map((text) => ({ property: id, text })),
		},
	};
}

const ASKED: Readonly<Record<string, string>> = {
	"ambiguous-number": "is the mark a decimal one or thousands?",
	"unit-missing": "which unit?",
	"out-of-bounds": "impossible as it stands; check number and unit",
	"reversed-range": "the range runs downward; which end is which?",
};

/** A weight per volume as a density text: 86.3 kN/m3 is 86.3/9.80665 Mg/m3. Null for another dimension. */
function weightDensity(value: string): string | null {
	const match = /^([\d.,]+)\s*kN\/m(?:\^3|3)$/.exec(value.trim());
	if (match !== null) {
		const number = Number((match[1] as string).replace(",", "."));
		// standard gravity, 9.80665 m/s2 by definition
		return Number.isFinite(number) ? `${Number(((number * 1000) / 9.80665).toPrecision(6))} kg/m^3` : null;
	}
	const bare = /^([\d.,]+)$/.exec(value.trim());
	return bare === null ? null : `${bare[1]} g/cm^3`;
}

function question(
	named: Named,
	ask: string,
	q: Quantity,
	raw: string,
	value: string,
	context: LineContext,
	all: readonly string[],
): Ask {
	const volumetric = ask.startsWith("volumetric");
	const third = q.low === null ? value : `${Number(((q.low / 3) * 1e6).toPrecision(6))} 10^-6/K`;
	const choices = volumetric
		? [{ property: "thermal_expansion", text: third }]
		: all.map((id) => ({ property: id, text: q.entered }));
	return { line: context.line, text: raw, property: named.properties[0] as string, question: ask, choices };
}

/** Words and brackets in front of the number, a method or a footnote behind it, cut away. */
export function valueIn(rest: string): string | null {
	const begin =
		/(?:(?<![\p{L}\d_])(?:>=|<=|=>|=<|[<>≥≤~≈±]|min(?:imum|\.)?|mind(?:estens|\.)|max(?:imum|\.)?|höchstens|ca\.|approx\.?|about|up to|at least|typ(?:ical|\.)?)\s*:?\s*)?(?<![\p{L}_\d.,])[-+]?(?:\d|[.,]\d)/iu.exec(
			rest,
		);
	if (begin === null) return null;
	const value = rest
		.slice(begin.index)
		.replace(/^typ(?:ical|\.)?\s*:?\s*/i, "")
		.replace(/\s*\(?(?:ISO|DIN|EN|ASTM|IEC|JIS|UL|VDE)(?:[ /-]?(?:ISO|EN|IEC))*[ -]?[A-Z]?\s?\d+[\d\w/.:-]*\)?\s*$/, "")
		.replace(/\s*(?:\*+|[¹²³]\)|\(\d\)|†)\s*$/, "")
		.trim();
	return value === "" ? null : value;
}

function readValue(id: string, value: string, whole: string, context: LineContext): Result<Quantity> {
	if (id === "service_temperature") return readValue("service_temperature_max", value, whole, context);
	const spec = property(id);
	const options: ParseOptions = optionsFor(id, context);
	const texts = attempts(value);
	let first: Result<Quantity> | null = null;
	for (const text of texts) {
		const direct = parseQuantity(spec.scales ? withScale(text, whole) : text, spec, options);
		if (direct.ok) return direct;
		const marked = direct.issues[0]?.code === "ambiguous-number" && context.mark !== undefined;
		const again = marked ? parseQuantity(text, spec, { ...options, decimalMark: context.mark as DecimalMark }) : direct;
		if (again.ok) return again;
		if (direct.issues[0]?.code === "unit-missing") {
			const unit = unitInName(whole);
			const named = unit === null ? direct : parseQuantity(`${text} ${unit}`, spec, options);
			if (named.ok) return named;
		}
		first ??= direct;
	}
	return first ?? parseQuantity(value, spec, options);
}

function optionsFor(id: string, context: LineContext): ParseOptions {
	const unit = context.fieldUnit?.(id);
	return unit === undefined ? {} : { fieldUnit: unit };
}

/** The text as it stands, then shortened at what often trails behind a value. */
function attempts(value: string): readonly string[] {
	const pieces = [
		value,
		value.replace(/\s*[;,.]$/, ""),
		value.replace(/\s*\([^()]*\)\s*$/, ""),
		value.split(/\s{2,}|\s[-–—]\s(?=\p{L})|,\s|;\s?/u)[0] ?? value,
	];
	return [...new Set(pieces.map((p) => p.trim()).filter((p) => p !== ""))];
}

/** A unit in the brackets of the name: `Tensile strength [MPa]`. */
function unitInName(name: string): string | null {
	const found = [...name.matchAll(/[[(]\s*(?:in\s+)?([^\])]{1,24}(?:\([^)]*\))?)\s*[\])]/g)].map((m) => m[1] as string);
	return found.at(-1) ?? null;
}

/** The hardness scale from the words, when the number has none. */
function withScale(text: string, whole: string): string {
	if (
		HARDNESS_SCALES.some((s) => text.replace(/\s/g, "").toLowerCase().includes(s.replace(" ", "").toLowerCase())) ||
		/hb\b/i.test(text)
	)
		return text;
	const lower = whole.toLowerCase();
	const scale = /brinell|\bhbw?\b/.test(lower)
		? "HBW"
		: /vickers|\bhv\d*\b/.test(lower)
			? "HV"
			: /rockwell ?([abc])|\bhr([abc])\b/.test(lower)
				? `HR${(
						/rockwell ?([abc])|\bhr([abc])\b/
							.exec(lower)
							?.slice(1)
							.find((x) => x) ?? ""
					).toUpperCase()}`
				: /shore ?-?([ad])\b/.test(lower)
					? `Shore ${(/shore ?-?([ad])\b/.exec(lower)?.[1] ?? "").toUpperCase()}`
					: /irhd/.test(lower)
						? "IRHD"
						: "";
	return scale === "" ? text : `${text.replace(/\s*(?:brinell|vickers|rockwell ?[abc]?|shore ?-?[ad])\s*$/i, "")} ${scale}`;
}

/** A range of melting is solidus and liquidus; a range of service temperatures its two limits. */
const SPLIT: Readonly<Record<string, readonly [string, string]>> = {
	melting_temperature: ["solidus_temperature", "liquidus_temperature"],
	service_temperature: ["service_temperature_min", "service_temperature_max"],
};

function proposals(named: Named, q: Quantity, condition: string, whole: string, line: number): readonly Taken[] {
	const id = named.properties[0] as string;
	const split = SPLIT[id];
	if (split !== undefined && q.low !== null && q.high !== null && q.low !== q.high) {
		const unit = q.unit === "1" ? "" : ` ${q.unit}`;
		return split.map((property, i): Taken => {
			const si = i === 0 ? q.low : q.high;
			const digits = q.digits[i] ?? q.digits[0] ?? "";
			return base(property, `${digits}${unit}`, si, si, q, condition, line, { note: "two values" });
		});
	}
	const property = id === "service_temperature" ? "service_temperature_max" : id;
	const extra: Partial<Taken> = {
		...qualifiers(property, named, condition, whole),
		...(q.mark === null ? {} : { mark: q.mark }),
		...noteOf(q),
	};
	return [base(property, q.entered, q.low, q.high, q, condition, line, extra)];
}

function base(
	property: string,
	text: string,
	low: number | null,
	high: number | null,
	q: Quantity,
	condition: string,
	line: number,
	extra: Partial<Taken>,
): Taken {
	return {
		property,
		text,
		low,
		high,
		siUnit: q.siUnit,
		line,
		...(condition === "" ? {} : { condition }),
		...(property === "hardness" ? { scale: q.unit } : {}),
		...extra,
	};
}

function qualifiers(id: string, named: Named, condition: string, whole: string): Partial<Taken> {
	if (id === "thermal_expansion") {
		if (/\d\s*[–-]\s*-?\d/.test(condition) || /\bmean\b|mittler/i.test(whole)) return { qualifier: "secant" };
		return /instantaneous|momentan/i.test(whole) ? { qualifier: "instantaneous" } : {};
	}
	if (named.qualifier !== undefined) return { qualifier: named.qualifier };
	if (id === "elongation") return { question: "gauge not said" };
	return {};
}

function noteOf(q: Quantity): { note?: string } {
	if (q.reciprocal) return { note: "kept as conductivity" };
	return /\d,\d/.test(q.entered) && q.mark !== "." ? { note: "comma is the decimal mark" } : {};
}
