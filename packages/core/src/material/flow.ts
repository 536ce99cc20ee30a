import { flowCurve, fromEngineering, increasing, type Points, plastic, type StressStrain, toEngineering } from "../curve";
import { type Axis, axisById } from "../property";
import { type Member, memberPoints, members, roundingOf } from "./series";
import type { Material, SeriesValue } from "./types";
import { REFERENCE_TEMPERATURE, readTable, temperatureTable, workingOf } from "./value";

/** Engineering stress over engineering strain of a curve that is true over total strain; null for any other. */
export function engineeringForm(
	value: SeriesValue,
	member: Member,
): { readonly strain: number[]; readonly stress: number[] } | null {
	if (value.header.stress !== "true" || value.header.strain !== "total-true") return null;
	const { x, y } = memberPoints(value, member);
	return toEngineering(x, y);
}

/** What is derived from one measured stress-strain curve; follows it whenever it changes. */
export type Derived = StressStrain & {
	readonly member: Member;
	/** Pa; null when the sheet gives none. */
	readonly youngsModulus: number | null;
	readonly flow: Points | null;
	/** Why there is no flow curve, in words; null when there is one. */
	readonly missing: string | null;
};

/**
 * E at the temperature of a member. A table over temperature says it within its span; a single number stands for room
 * temperature, and for a curve that says no temperature.
 * @returns Pa; null where E is not known at that temperature
 */
export function modulusAt(material: Material, value: SeriesValue, member: Member): number | null {
	const temperature = memberTemperature(value, member) ?? REFERENCE_TEMPERATURE;
	const table = temperatureTable(material, "youngs_modulus");
	const reading = table === null ? null : readTable(table, temperature);
	if (reading?.side === "inside") return reading.y;
	return isWarm(temperature) ? null : workingOf(material, "youngs_modulus");
}

/** The temperature of a member in K: its own column, else the header; null when nobody says it. */
export function memberTemperature(value: SeriesValue, member: Member): number | null {
	const column = value.columns.slice(0, -2).findIndex((c) => c.of === "temperature");
	return column < 0 ? headerTemperature(value) : (member.at[column] as number);
}

/** Is it so far from 20 degC that numbers of room temperature no longer stand for it? */
export function isWarm(temperature: number): boolean {
	return Math.abs(temperature - REFERENCE_TEMPERATURE) > 15;
}

/** `23 °C`, `-20 K`, and both ends of `23-25 °C`, whose dash is no sign. */
const TEMPERATURE =
	/(?:(-?\d+(?:[.,]\d+)?)\s*(?:°C|K|°F)?\s*(?:-|–|…|\.\.\.?|to|bis)\s*)?(-?\d+(?:[.,]\d+)?)\s*(°C|K|°F)(?!\p{L})/u;

/** The temperature that a header says, in K; of a range the middle. */
export function headerTemperature(value: SeriesValue): number | null {
	const match = TEMPERATURE.exec((value.header.temperature ?? "").replaceAll("−", "-"));
	if (match === null) return null;
	const ends = [match[1] ?? match[2], match[2]].map((end) => Number((end as string).replace(",", ".")));
	const number = (ends[0] as number) / 2 + (ends[1] as number) / 2;
	if (match[3] === "K") return number;
	return match[3] === "°C" ? number + 273.15 : ((number + 459.67) * 5) / 9;
}

/** True, plastic and flow forms of every member of a stress-strain curve, each only where its header allows it. */
export function derivedForms(material: Material, value: SeriesValue): readonly Derived[] {
	const stressForm = value.header.stress;
	const strainForm = value.header.strain;
	return members(value).map((member) => {
		const { x, y } = memberPoints(value, member);
		const youngsModulus = modulusAt(material, value, member);
		const base = { member, youngsModulus };
		const none = { trueStress: [], trueStrain: [], plasticStrain: null, valid: 0, flow: null };
		if (value.header.loading !== undefined && value.header.loading !== "tension" && stressForm !== "true")
			return { ...base, ...none, missing: "true forms of an engineering curve are derived for tension only" };
		if (stressForm === undefined || strainForm === undefined)
			return { ...base, ...none, missing: "the curve does not say whether it is true or engineering" };
		if (stressForm === "true" && strainForm === "plastic-true") {
			const flow = increasing(x, y, "as measured");
			return { ...base, trueStress: y, trueStrain: x, plasticStrain: x, valid: x.length, flow, missing: null };
		}
		if ((stressForm === "true") !== (strainForm === "total-true"))
			return { ...base, ...none, missing: "stress and strain are of different forms" };
		const forms: StressStrain =
			stressForm === "true"
				? { trueStress: y, trueStrain: x, plasticStrain: plastic(x, y, youngsModulus), valid: x.length }
				: fromEngineering(x, y, youngsModulus);
		if (forms.plasticStrain === null || youngsModulus === null)
			return { ...base, ...forms, flow: null, missing: modulusMissing(value, member) };
		const flow = flowCurve(forms.plasticStrain, forms.trueStress, noiseOf(value, youngsModulus));
		return { ...base, ...forms, flow, missing: null };
	});
}

function modulusMissing(value: SeriesValue, member: Member): string {
	const temperature = memberTemperature(value, member);
	const at = temperature !== null && isWarm(temperature) ? ` at ${Math.round(temperature - 273.15)} °C` : "";
	return `Young’s modulus${at} is needed for the plastic strain`;
}

/** Plastic strains below this are rounding: half a digit of the strain, plus half a digit of the stress over E. */
export function noiseOf(value: SeriesValue, youngsModulus: number): number {
	const [strain, stress] = [value.columns.at(-2), value.columns.at(-1)];
	if (strain === undefined || stress === undefined) return 0;
	return roundingOf(strain, axisById(strain.of) as Axis) + roundingOf(stress, axisById(stress.of) as Axis) / youngsModulus;
}

/** The flow curves of a stress-strain value, with their conditions. */
export function flowMembers(
	material: Material,
	value: SeriesValue,
): readonly { readonly member: Member; readonly points: Points }[] {
	return derivedForms(material, value).flatMap((d) => (d.flow === null ? [] : [{ member: d.member, points: d.flow }]));
}
