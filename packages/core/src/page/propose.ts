import type { Bases, Basis } from "../material";
import { property } from "../property";
import type { Quantity } from "../quantity";
import type { Value } from "./evaluate";
import type { Label } from "./label";
import type { Taken } from "./types";

/** A melting range is solidus and liquidus; a range of service temperatures its two limits. */
const SPLIT: Readonly<Record<string, readonly [string, string]>> = {
	melting_temperature: ["solidus_temperature", "liquidus_temperature"],
	service_temperature: ["service_temperature_min", "service_temperature_max"],
};

export type About = {
	readonly line: number;
	readonly conditions: readonly string[];
	readonly confidence: number;
	readonly grade?: string;
	readonly working?: string;
	readonly basis?: Basis;
	readonly bases?: Bases;
	readonly question?: string;
	readonly note?: string;
	readonly readings?: Taken["readings"];
};

/** The values that a reading proposes: one, or two where a range is two properties. */
export function proposals(label: Label, value: Value, about: About): readonly Taken[] {
	const named = label.properties[0] as string;
	const q = value.quantity;
	const { conditions, line, confidence, ...rest } = about;
	const condition = conditionText(value.property, conditions);
	const split = SPLIT[named];
	const head = { line, confidence, siUnit: q.siUnit, ...(condition === "" ? {} : { condition }) };
	if (split !== undefined && q.low !== null && q.high !== null && q.low !== q.high && q.shape === "range") {
		return split.map((id, i): Taken => {
			const si = i === 0 ? q.low : q.high;
			return { ...head, ...rest, property: id, text: endText(q, i), low: si, high: si, note: "two values", ...markOf(q) };
		});
	}
	const extra = qualifiers(value.property, label, condition);
	const questions = [about.question, extra.question].filter((x) => x !== undefined);
	return [
		{
			...head,
			...rest,
			property: value.property,
			text: q.entered,
			low: q.low,
			high: q.high,
			...(property(value.property).scales === true ? { scale: q.unit } : {}),
			...markOf(q),
			...noteOf(q),
			...(about.note === undefined ? {} : { note: about.note }),
			...(extra.qualifier === undefined ? {} : { qualifier: extra.qualifier }),
			...(questions.length === 0 ? {} : { question: questions.join("; ") }),
		},
	];
}

function markOf(q: Quantity): { mark?: "." | "," } {
	return q.mark === null ? {} : { mark: q.mark };
}

/** One end of a range as a text of its own. */
function endText(q: Quantity, i: number): string {
	const exponent = q.exponents[i] ?? 0;
	const unit = (i === 1 ? q.secondUnit : undefined) ?? q.unit;
	return `${q.digits[i] ?? q.digits[0] ?? ""}${exponent === 0 ? "" : `e${exponent}`}${unit === "1" ? "" : ` ${unit}`}`;
}

function qualifiers(id: string, label: Label, condition: string): { qualifier?: string; question?: string } {
	if (id === "thermal_expansion") {
		if (/\d\s*(?:[–…;-]|to|bis|à)\s*[-−+]?\d/.test(condition)) return { qualifier: "secant" };
		return label.qualifier === undefined ? {} : { qualifier: label.qualifier };
	}
	if (label.unknownDefinition === true) return { question: "which definition of the yield stress?" };
	// a definition belongs to the property that it defines
	const known = property(id).qualifiers?.some((q) => q.id === label.qualifier) === true;
	if (known) return { qualifier: label.qualifier as string };
	return id === "elongation" ? { question: "gauge unspecified" } : {};
}

function noteOf(q: Quantity): { note?: string } {
	if (q.reciprocal) return { note: "kept as conductivity" };
	return /\d,\d/.test(q.entered) && q.mark !== "." ? { note: "comma is the decimal mark" } : {};
}

/** Conditions in words: two temperatures of an expansion are its span. */
function conditionText(id: string, conditions: readonly string[]): string {
	const plain = [...new Set(conditions.map(written).filter((c) => c !== ""))];
	const temperatures = plain.filter((c) => /^[-−+]?\d[\d.,]*\s*°[CF]$/.test(c));
	if (id === "thermal_expansion" && temperatures.length === 2) {
		const [from, to] = temperatures as [string, string];
		return [`${from.replace(/\s*°[CF]$/, "")}–${to}`, ...plain.filter((c) => !temperatures.includes(c))].join(", ");
	}
	return plain.join(", ").slice(0, 200);
}

/** One spelling: `20–200 °C`. */
function written(text: string): string {
	return text
		.trim()
		.replace(/\s+/g, " ")
		.replace(/^(?:at|bei|à|@)\s+(?=[-−+\d])/i, "")
		.replace(/(\d)(?:\s*°[CF])?\s*(?:-|–|—|\bto\b|\bbis\b|\bà\b|\.\.+|…)\s*(?=[-−+]?\d)/i, "$1–")
		.replace(/deg\.?\s*(?=[CF]\b)/i, "°")
		.replace(/\s*°\s*/, " °")
		.replace(/(\d)K$/, "$1 K");
}

/** The ends of a value from what stands under min, typical and max, or before and behind those words on one line. */
export type Ends<T> = { readonly min?: T; readonly typ?: T; readonly max?: T };

/** How ends are written as one text; the typical number beside a limit is the working value. */
export function endsText(ends: Ends<string>): { readonly text: string; readonly working?: string } | null {
	const { min, typ, max } = ends;
	const limits =
		min !== undefined && max !== undefined
			? `${min} – ${max}`
			: min !== undefined
				? `>= ${min}`
				: max !== undefined
					? `<= ${max}`
					: null;
	if (limits === null) return typ === undefined ? null : { text: typ };
	return typ === undefined ? { text: limits } : { text: limits, working: typ };
}
