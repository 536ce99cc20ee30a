import { HATCH_LEGEND } from "@alvek/core/look";
import type { Hatch, Look } from "@alvek/core/material";

export const TEXTURE_WORD = {
	brushed: "brushed",
	cast: "as cast",
	weave: "weave",
	grain: "grain",
	speckle: "speckle",
} as const;

export function hatchWord(hatch: Hatch): string {
	return (HATCH_LEGEND.find((l) => l.pattern === hatch.pattern)?.name ?? hatch.pattern).split(":")[0] as string;
}

/** A look in a line: `painted grey, metal 0.9, rough 0.35, brushed, pairs of lines at 45°`. */
export function lookWords(look: Look): string {
	const share = (x: number): string => String(Number(x.toFixed(2)));
	const { texture, hatch } = look;
	return [
		look.surface,
		`metal ${share(look.metalness)}`,
		`rough ${share(look.roughness)}`,
		look.transparency > 0 ? `transparent ${share(look.transparency)}` : "",
		texture === null ? "" : texture.kind === "picture" ? `picture ${texture.name}` : TEXTURE_WORD[texture.pattern],
		hatch === null ? "" : `${hatchWord(hatch)} at ${hatch.angle_deg}°, ${hatch.spacing_mm} mm`,
	]
		.filter((w) => w !== "")
		.join(", ");
}
