import type { Hatch, HatchPattern } from "../material";
import { isFamily } from "../property";

/** One repeat of a pattern: strokes in units of the spacing, in a tile that fits to itself on all sides. */
export type HatchTile = {
	readonly width: number;
	readonly height: number;
	/** SVG path data. */
	readonly strokes: string;
	readonly dots: readonly (readonly [x: number, y: number, radius: number])[];
};

/** Every pattern is built of strokes that leave the tile where the next one takes them up. */
const TILES: Readonly<Record<HatchPattern, HatchTile>> = {
	lines: { width: 1, height: 1, strokes: "M0 0.5H1", dots: [] },
	pairs: { width: 1, height: 2, strokes: "M0 0.7H1M0 1.3H1", dots: [] },
	triples: { width: 1, height: 3, strokes: "M0 1H1M0 1.5H1M0 2H1", dots: [] },
	crossed: { width: 1, height: 1, strokes: "M0 0.5H1M0.5 0V1", dots: [] },
	dashes: { width: 3, height: 2, strokes: "M0.5 0.5H2.5M2 1.5H3M0 1.5H1", dots: [] },
	waves: { width: 2, height: 1, strokes: "M0 0.5Q0.5 0 1 0.5T2 0.5", dots: [] },
	steps: { width: 2, height: 2, strokes: "M0 0.5H0.5V1.5H1.5V0.5H2", dots: [] },
	dots: {
		width: 2,
		height: 2,
		strokes: "",
		dots: [
			[0.5, 0.5, 0.2],
			[1.5, 1.5, 0.2],
		],
	},
};

export function hatchTile(pattern: HatchPattern): HatchTile {
	return TILES[pattern];
}

/** What each pattern stands for where nobody chose one. */
export const HATCH_LEGEND: readonly {
	readonly pattern: HatchPattern;
	readonly name: string;
	readonly families: readonly string[];
}[] = [
	{ pattern: "lines", name: "lines: metals of iron", families: ["metal.steel", "metal.stainless", "metal.cast_iron"] },
	{ pattern: "pairs", name: "pairs of lines: other metals", families: ["metal"] },
	{ pattern: "crossed", name: "crossed lines: polymers", families: ["polymer"] },
	{ pattern: "waves", name: "waves: elastomers", families: ["elastomer"] },
	{ pattern: "triples", name: "triples of lines: composites", families: ["composite"] },
	{ pattern: "steps", name: "steps: ceramics and glass", families: ["ceramic", "glass"] },
	{ pattern: "dots", name: "dots: foams and fillers", families: ["foam"] },
	{ pattern: "dashes", name: "dashes: wood and whatever else", families: [] },
];

/** The hatch that a section shows: the chosen one, or that of the family, at 45° and 3 mm. */
export function hatchOf(material: { readonly family: string | null; readonly look: { readonly hatch: Hatch | null } }): Hatch {
	const { family, look } = material;
	if (look.hatch !== null) return look.hatch;
	const found = HATCH_LEGEND.find((l) => l.families.some((f) => family !== null && isFamily(family, f)));
	return { pattern: found?.pattern ?? "dashes", angle_deg: 45, spacing_mm: 3 };
}

/**
 * The hatch of the n-th of several neighbours of one material: turned the other way, then closer, then both, so that
 * their border is seen. The first keeps the hatch as it is.
 */
export function neighbourHatch(hatch: Hatch, n: number): Hatch {
	const turned = n % 2 === 1 ? hatch.angle_deg - 90 : hatch.angle_deg;
	const closer = 1 - 0.25 * (Math.floor(n / 2) % 3);
	return { ...hatch, angle_deg: wrapped(turned), spacing_mm: hatch.spacing_mm * closer };
}

/** Into -180 to 180. */
function wrapped(angle: number): number {
	return ((((angle + 180) % 360) + 360) % 360) - 180;
}

/** Whether two hatches can be told apart along a common border. */
export function isDistinct(a: Hatch, b: Hatch): boolean {
	const turn = Math.abs(wrapped(2 * (a.angle_deg - b.angle_deg))) / 2;
	return a.pattern !== b.pattern || turn >= 15 || Math.abs(a.spacing_mm / b.spacing_mm - 1) >= 0.2;
}
