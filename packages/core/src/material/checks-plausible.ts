import { type Band, FAMILIES, type OwnProperty, plausibleBand, widestBand } from "../property";
import { fromSi, significant, unitOf } from "../quantity";
import type { Check } from "./checks";
import { explainingSlip, type Slip } from "./slips";
import type { Material, NumberValue } from "./types";
import { firstValue, isNumber, specOf, workingValue } from "./value";

/** A value of an own property outside the span that its library finds likely. */
export function ownChecks(material: Material, today: readonly OwnProperty[] = []): Check[] {
	return Object.values(material.values).flatMap((value): Check[] => {
		if (!isNumber(value) || value.own === undefined) return [];
		const { uid, siUnit } = value.own;
		const own = today.find((o) => o.uid === uid && o.siUnit === siUnit) ?? value.own;
		const { name, likelyLow = null, likelyHigh = null, unit } = own;
		const working = workingValue(value) ?? value.low ?? value.high;
		if (working === null || ((likelyLow === null || working >= likelyLow) && (likelyHigh === null || working <= likelyHigh)))
			return [];
		const show = (si: number | null): string => (si === null ? "open" : `${significant(fromSi(si, unitOf(unit)), 4)} ${unit}`);
		return [
			{
				code: "outside-likely",
				severity: "doubtful",
				title: `${name} is unusual`,
				detail: `${show(working)}; the library expects ${show(likelyLow)} to ${show(likelyHigh)}.`,
				figures: [],
				values: [value.id],
			},
		];
	});
}

/** Values outside the plausible band of the family, with the slip of units that would explain it. */
export function bandChecks(material: Material): Check[] {
	const checks: Check[] = [];
	for (const value of Object.values(material.values)) {
		if (!isNumber(value)) continue;
		const band = material.family === null ? widestBand(value.property) : plausibleBand(value.property, material.family);
		const working = workingValue(value) ?? value.low ?? value.high;
		if (band === null || working === null) continue;
		const inside = (si: number): boolean => si >= band.low && si <= band.high;
		if (!inside(working)) checks.push(outsideBand(material, value, working, band));
		else checks.push(...wildEnd(value, band));
	}
	return checks.length > 0 || material.family !== null ? checks : oddOneOut(material);
}

function outsideBand(material: Material, value: NumberValue, working: number, band: Band): Check {
	const spec = specOf(value);
	// a repaired tensile strength below the yield stress would only move the doubt
	const least = value.property === "tensile_strength" ? (firstValue(material, "yield_strength")?.low ?? 0) : 0;
	const slip = explainingSlip(spec, { typed: value, si: working }, band, (si) => si >= least);
	return {
		code: "outside-band",
		severity: "doubtful",
		title: material.family === null ? `${spec.name} is unusual for any family` : `${spec.name} is unusual for this family`,
		detail: `{0}; expected {1} to {2} (${band.source}).${slip === null ? "" : said(slip)}`,
		figures: [working, band.low, band.high].map((si) => ({ si, property: value.property })),
		values: [value.id],
		...(slip === null ? {} : { slip: { ratio: slip.ratio, said: slip.said } }),
	};
}

function said(slip: Slip): string {
	return slip.ratio === 10 ? " Perhaps a decimal slipped: a factor of 10." : ` Perhaps ${slip.said} were mixed up.`;
}

/** A range so wide is rarely meant: its ends this factor apart, and a tenth of the upper one near the lower. */
const WIDE = 5;

/** A range of which one end lies wild: `470-6300 MPa`. */
function wildEnd(value: NumberValue, band: Band): Check[] {
	const { low, high } = value;
	if (low === null || high === null || low <= 0 || value.kind === "readings" || high / low < WIDE) return [];
	const tenth = high / 10;
	const decimal = tenth >= 0.9 * low && tenth <= 2 * low;
	if (!decimal && high <= band.high) return [];
	return [
		{
			code: "wild-end",
			severity: "doubtful",
			title: `${specOf(value).name} spans a wide range`,
			detail: `{0} to {1}.${decimal ? " The upper end may have a digit too many." : " One of its ends lies outside of what is usual."}`,
			figures: [low, high].map((si) => ({ si, property: value.property })),
			values: [value.id],
			...(decimal ? { slip: { ratio: 10, said: "a factor of 10" } } : {}),
		},
	];
}

/** Families at the top of the tree: a material that says none is still one of them. */
const TOP: readonly string[] = FAMILIES.map((f) => f.id).filter((id) => !id.includes("."));

/**
 * Without a family, a value that fits none to which all others belong: with the modulus of a metal a density of
 * 7.85 kg/m³ is odd, although foams are that light. Only said where a slip of units explains it.
 */
function oddOneOut(material: Material): Check[] {
	const values = Object.values(material.values).filter(isNumber);
	const odd: Check[][] = [];
	for (const family of TOP) {
		// a family without bands says nothing
		if (values.filter((v) => plausibleBand(v.property, family) !== null).length < 2) continue;
		const outside = values.flatMap((value) => {
			const band = plausibleBand(value.property, family);
			const working = workingValue(value) ?? value.low ?? value.high;
			return band === null || working === null || (working >= band.low && working <= band.high) ? [] : [{ value, working, band }];
		});
		if (outside.length === 0) return [];
		const [only] = outside;
		if (outside.length > 1 || only === undefined || values.length < 3) continue;
		const check = outsideBand({ ...material, family }, only.value, only.working, only.band);
		if (check.slip !== undefined) odd.push([{ ...check, title: `${specOf(only.value).name} does not go with the other values` }]);
	}
	return odd[0] ?? [];
}
