import { BLANK, type Material, type MaterialValue } from "@alvek/core/material";
import { PROPERTIES, plausibleBand } from "@alvek/core/property";

/** Numbers of a seed, 0 to 1 (mulberry32), the same on every machine. */
export function random(seed: number): () => number {
	let state = seed;
	return () => {
		state = (state + 0x6d2b79f5) | 0;
		let t = Math.imul(state ^ (state >>> 15), 1 | state);
		t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
	};
}

/** Properties that made-up materials get: numbers without scales, so that any positive one is theirs. */
export const CROWD_PROPERTIES = PROPERTIES.filter((p) => p.scales !== true && p.absoluteTemperature !== true).slice(0, 40);

const FAMILIES = ["metal.steel", "metal.aluminium", "metal.copper", "polymer", "composite", "ceramic", "elastomer", null];
const SUPPLIERS = ["Orrisay Works", "Tolvane", "Havrin", "Pelluna", "Gudgeon", "Ternay", ""];
const EVIDENCE = ["measured", "standard", "data-sheet", "estimated", undefined] as const;
const WORDS = ["plate", "bar", "sheet", "cast", "tempered", "dry", "marine", "spring", "annealed", "filled"];

export type Made = { readonly name: string; readonly group: string; readonly document: Material };

/** One made-up material with all 40 properties, some of them ranges. */
export function madeUp(i: number, next: () => number): Made {
	const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T;
	const family = pick(FAMILIES);
	const values = CROWD_PROPERTIES.map((property): [string, MaterialValue] => {
		const band = plausibleBand(property.id, family ?? "metal");
		const bottom = band?.low ?? Math.max(property.min ?? 0, 1e-6);
		const top = band?.high ?? Math.min(property.max ?? 1e9, 1e9);
		// by equal ratios, as properties of families lie
		const middle = bottom > 0 ? bottom * (top / bottom) ** next() : bottom + (top - bottom) * next();
		const low = Number(middle.toPrecision(4));
		const high = next() < 0.3 ? Math.max(low, Math.min(Number((middle * 1.05).toPrecision(4)), property.max ?? 1e9)) : low;
		const text = `${low === high ? low : `${low} .. ${high}`} ${property.siUnit === "1" ? "" : property.siUnit}`.trim();
		const evidence = pick(EVIDENCE);
		const value = {
			id: property.id,
			property: property.id,
			entered: text,
			mark: ".",
			low,
			high,
			...(evidence === undefined ? {} : { evidence }),
		};
		return [property.id, value as MaterialValue];
	});
	const document: Material = {
		...BLANK,
		family,
		supplier: pick(SUPPLIERS),
		description: `Made up for measuring, ${pick(WORDS)} ${pick(WORDS)} ${pick(WORDS)}`,
		values: Object.fromEntries(values),
	};
	return { name: `${pick(SUPPLIERS) || "Grade"} ${pick(WORDS)} ${i}`, group: `${family ?? "other"} / ${pick(WORDS)}`, document };
}
