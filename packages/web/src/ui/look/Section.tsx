import { neighbourHatch } from "@alvek/core/look";
import type { Hatch } from "@alvek/core/material";
import { useId } from "react";
import { HatchPattern } from "./Hatched";
import { HOLE, STEPS } from "./outline";

/** The stepped block cut open, with a plate and a pin of the same material: neighbours are told apart by their hatch. */
export function Section({ hatch, colour }: { hatch: Hatch; colour: string }) {
	const id = useId();
	const outline = STEPS.map(([x, y]) => `${x},${40 - y}`).join(" ");
	return (
		<svg
			viewBox="-4 -3 68 58"
			role="img"
			aria-label="Section with three neighbours of this material"
			className="w-full h-full text-ink"
		>
			<title>Section</title>
			<defs>
				{[0, 1, 2].map((n) => (
					<HatchPattern key={n} id={`${id}${n}`} hatch={neighbourHatch(hatch, n)} scale={1} line={0.4} />
				))}
			</defs>
			{[
				{ n: 0, shape: <polygon points={outline} /> },
				{ n: 1, shape: <rect x="0" y="40" width="60" height="11" /> },
				{ n: 2, shape: <rect x={HOLE.x - HOLE.radius} y={40 - HOLE.y - HOLE.radius} width={HOLE.radius * 2} height={24} /> },
			].map(({ n, shape }) => (
				<g key={n} strokeWidth={0.6} stroke="currentColor">
					{/* what lies behind is covered first */}
					<g className="fill-paper" stroke="none">
						{shape}
					</g>
					<g fill={colour} fillOpacity="0.16" stroke="none">
						{shape}
					</g>
					<g fill={`url(#${id}${n})`}>{shape}</g>
				</g>
			))}
		</svg>
	);
}
