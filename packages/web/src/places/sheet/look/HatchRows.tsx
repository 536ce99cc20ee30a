import { HATCH_LEGEND, hatchOf } from "@alvek/core/look";
import type { Hatch, Look, Material } from "@alvek/core/material";
import { HatchSwatch } from "../../../ui/look/Hatched";
import { Slider } from "./Row";

/** The pattern of sections: that of the family, or one chosen from the legend, with angle and spacing. */
export function HatchRows(props: {
	look: Look;
	material: Material;
	onMove: (hatch: Hatch) => void;
	onKeep: (hatch: Hatch | null) => void;
}) {
	const { look, material, onMove, onKeep } = props;
	const hatch = hatchOf({ family: material.family, look });
	return (
		<>
			<div className="py-2 border-b border-line2">
				<div className="flex items-baseline mb-1.5">
					<span className="w-23 text-ink2">Hatch</span>
					<span className="caption">{look.hatch === null ? "that of the family" : "chosen"}</span>
					{look.hatch !== null && (
						<button type="button" className="quiet-link caption ml-auto text-ink2!" onClick={() => onKeep(null)}>
							that of the family
						</button>
					)}
				</div>
				<div role="radiogroup" aria-label="Pattern of the hatch" className="grid grid-cols-4 gap-1.5">
					{HATCH_LEGEND.map(({ pattern, name }) => {
						const [word, meant] = name.split(": ");
						return (
							<label
								key={pattern}
								title={name}
								className={`flex items-center gap-1.5 p-0.75 rounded-md cursor-pointer has-focus-visible:outline-2 outline-primary ${hatch.pattern === pattern ? "bg-accent-soft" : "hover:bg-paper"}`}
							>
								<input
									type="radio"
									name="hatch-pattern"
									className="sr-only"
									checked={hatch.pattern === pattern}
									onChange={() => onKeep({ ...hatch, pattern })}
								/>
								<HatchSwatch hatch={{ ...hatch, pattern, spacing_mm: 3 }} width={34} height={24} />
								<span className="leading-3.25 min-w-0">
									<span className="block text-xs font-semibold truncate">{word}</span>
									<span className="block text-2xs text-ink2 truncate">{meant}</span>
								</span>
							</label>
						);
					})}
				</div>
			</div>
			<Slider
				label="Angle"
				value={hatch.angle_deg}
				min={-90}
				max={90}
				step={5}
				unit="°"
				onMove={(angle_deg) => onMove({ ...hatch, angle_deg })}
				onRest={() => onKeep(hatch)}
			/>
			<Slider
				label="Spacing"
				value={hatch.spacing_mm}
				min={1}
				max={12}
				step={0.5}
				unit="mm"
				onMove={(spacing_mm) => onMove({ ...hatch, spacing_mm })}
				onRest={() => onKeep(hatch)}
			/>
		</>
	);
}
