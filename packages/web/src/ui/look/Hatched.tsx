import { hatchTile } from "@alvek/core/look";
import type { Hatch } from "@alvek/core/material";
import { useId } from "react";

/** A pattern that an SVG can fill with; `scale` is its units per mm, `line` the width of strokes. They take the text colour. */
export function HatchPattern({ id, hatch, scale, line = 1 }: { id: string; hatch: Hatch; scale: number; line?: number }) {
	const tile = hatchTile(hatch.pattern);
	const step = hatch.spacing_mm * scale;
	return (
		<pattern
			id={id}
			patternUnits="userSpaceOnUse"
			width={tile.width * step}
			height={tile.height * step}
			// angles count from the horizontal, upward
			patternTransform={`rotate(${-hatch.angle_deg})`}
		>
			<g transform={`scale(${step})`} fill="none" stroke="currentColor" strokeWidth={line / step}>
				{tile.strokes !== "" && <path d={tile.strokes} />}
				{tile.dots.map(([x, y, r]) => (
					<circle key={`${x} ${y}`} cx={x} cy={y} r={r} fill="currentColor" stroke="none" />
				))}
			</g>
		</pattern>
	);
}

/** A swatch of a hatch. */
export function HatchSwatch({ hatch, width = 44, height = 26 }: { hatch: Hatch; width?: number; height?: number }) {
	const id = useId();
	return (
		<svg aria-hidden="true" width={width} height={height} className="text-ink shrink-0">
			<defs>
				<HatchPattern id={id} hatch={hatch} scale={2.4} />
			</defs>
			<rect x="0.5" y="0.5" width={width - 1} height={height - 1} fill={`url(#${id})`} stroke="currentColor" />
		</svg>
	);
}
