import { type Band, likelySlips, type OwnProperty, type PropertyRow, plausibleBand } from "../property";
import { fromSi, significant, unitOf } from "../quantity";
import type { Check } from "./checks";
import type { Material } from "./types";
import { firstValue, isNumber, specOf, workingValue } from "./value";

/** Yield above tensile strength; the strength at break of a plastic is not R_m and is not compared. */
export function strengthChecks(material: Material): Check[] {
	const yieldStress = firstValue(material, "yield_strength");
	const tensile = firstValue(material, "tensile_strength");
	if (yieldStress?.low == null || tensile?.high == null || yieldStress.low <= tensile.high) return [];
	const upper = yieldStress.qualifier === "ReH";
	return [
		{
			code: "yield-above-tensile",
			severity: upper ? "doubtful" : "wrong",
			title: "Yield lies above tensile strength",
			detail: "{0} against {1}. The two may be interchanged, or one has another unit.",
			figures: [
				{ si: yieldStress.low, property: "yield_strength" },
				{ si: tensile.high, property: "tensile_strength" },
			],
			values: [yieldStress.id, tensile.id],
		},
	];
}

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
		const band = plausibleBand(value.property, material.family);
		const working = workingValue(value) ?? value.low ?? value.high;
		if (band === null || working === null || (working >= band.low && working <= band.high)) continue;
		const spec = specOf(value);
		const slip = likelySlip(spec, working, band);
		checks.push({
			code: "outside-band",
			severity: "doubtful",
			title: `${spec.name} is unusual for this family`,
			detail: `{0}; expected {1} to {2} (${band.source}).${slip === null ? "" : ` Perhaps ${slip} were mixed up.`}`,
			figures: [working, band.low, band.high].map((si) => ({ si, property: value.property })),
			values: [value.id],
		});
	}
	return checks;
}

/**
 * The slip that best explains the number: of those that bring it into the band, the one that comes nearest to the
 * band's middle on a logarithmic scale. 6.895 and 6.933 are near each other; the dimension has parted them already.
 */
function likelySlip(spec: PropertyRow, working: number, band: Band): string | null {
	const middle = Math.sqrt(Math.max(band.low, band.high * 1e-3) * band.high);
	let best: { said: string; far: number } | null = null;
	for (const { ratio, said } of likelySlips(spec.dimension)) {
		for (const repaired of [working * ratio, working / ratio]) {
			if (repaired < band.low || repaired > band.high) continue;
			const far = Math.abs(Math.log(repaired / middle));
			if (best === null || far < best.far) best = { said, far };
		}
	}
	return best?.said ?? null;
}
