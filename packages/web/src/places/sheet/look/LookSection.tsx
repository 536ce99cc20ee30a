import { hatchOf } from "@alvek/core/look";
import { type Look, PLAIN_LOOK } from "@alvek/core/material";
import { lazy, Suspense, useEffect, useRef, useState } from "react";
import { Section } from "../../../ui/look/Section";
import { lookWords } from "../../../ui/look/words";
import { fieldEdits, useSheet } from "../context";
import { HatchRows } from "./HatchRows";
import { Row, Slider } from "./Row";
import { TextureRows } from "./TextureRows";

const Block = lazy(async () => ({ default: (await import("../../../ui/look/Block")).Block }));

/** How parts of it look in pictures and sections: live on a stepped block and its cut. Physics never reads it. */
export function LookSection() {
	const { material, draft, sheet } = useSheet();
	const [seen, setSeen] = useState(false);
	const box = useRef<HTMLElement>(null);
	// what is being dragged shows at once and is saved when it rests
	const [ahead, setAhead] = useState<Look | null>(null);
	const look = ahead ?? material.look;
	const latest = useRef(look);
	latest.current = look;
	useEffect(() => {
		// the 3D library is large; it comes when somebody looks
		const observer = new IntersectionObserver((entries) => entries.some((e) => e.isIntersecting) && setSeen(true), {
			rootMargin: "200px",
		});
		if (box.current !== null) observer.observe(box.current);
		return () => observer.disconnect();
	}, []);
	const keep = (next: Partial<Look>): void => {
		setAhead(null);
		draft?.commit(fieldEdits(material, "look", { ...latest.current, ...next }), "look");
	};
	const setColour = (colour: string): void => draft?.commit(fieldEdits(material, "colour", colour), "colour");
	const carried = material.carriedFields.look ?? material.carriedFields.colour;
	return (
		<section ref={box} id="section-look" aria-label="Look" className="mt-6 scroll-mt-3" onFocus={() => setSeen(true)}>
			<h2 className="rule-head text-md flex items-baseline gap-2.5">
				Look
				<span className="caption font-normal">for pictures and sections; no calculation reads it</span>
				{carried !== undefined && <span className="tag tag-doubt font-normal">carried over from {carried.name}</span>}
			</h2>
			<div className="flex gap-5.5 pt-2.5 max-md:flex-col">
				<div className="w-62 shrink-0">
					<div className="h-42 bg-sunk">
						{seen && (
							<Suspense fallback={null}>
								<Block look={look} colour={material.colour} materialId={sheet.row.id} />
							</Suspense>
						)}
					</div>
					<div className="h-37.5 mt-2 bg-paper p-1.5">
						<Section hatch={hatchOf({ family: material.family, look })} colour={material.colour} />
					</div>
				</div>
				{draft === null ? (
					<p className="py-1.5">
						{material.colour}, {lookWords(look)}
					</p>
				) : (
					<div className="flex-1 min-w-0">
						<Row label="Base colour">
							<input
								type="color"
								aria-label="Base colour"
								className="w-8.5 h-5.5 border border-line rounded-sm bg-transparent"
								key={material.colour}
								defaultValue={material.colour}
								onBlur={(e) => e.target.value !== material.colour && setColour(e.target.value)}
							/>
							<span className="caption">{material.colour}</span>
							<input
								className="field ml-auto w-52.5!"
								aria-label="Surface, where that is not the material itself"
								placeholder="painted, anodised … (if not itself)"
								key={`s${material.look.surface}`}
								defaultValue={look.surface}
								maxLength={200}
								onBlur={(e) => e.target.value !== look.surface && keep({ surface: e.target.value })}
							/>
						</Row>
						{(["metalness", "roughness", "transparency"] as const).map((share) => (
							<Slider
								key={share}
								label={SHARES[share]}
								value={look[share]}
								onMove={(x) => setAhead({ ...look, [share]: x })}
								onRest={() => keep({})}
							/>
						))}
						<TextureRows texture={look.texture} materialId={sheet.row.id} onChange={(texture) => keep({ texture })} />
						<HatchRows
							look={look}
							material={material}
							onMove={(hatch) => setAhead({ ...look, hatch })}
							onKeep={(hatch) => keep({ hatch })}
						/>
						<button
							type="button"
							className="btn btn-ghost btn-small mt-1.5 -ml-2"
							disabled={lookWords(look) === lookWords(PLAIN_LOOK) && look.hatch === null}
							onClick={() => keep(PLAIN_LOOK)}
						>
							Back to a plain look
						</button>
					</div>
				)}
			</div>
		</section>
	);
}

const SHARES = { metalness: "Metal", roughness: "Roughness", transparency: "Transparency" } as const;
