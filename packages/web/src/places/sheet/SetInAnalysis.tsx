import { elasticSource, type Material } from "@alvek/core/material";
import type { Draft } from "../../draft/useDraft";
import { elasticInWords } from "./elasticWords";

/** Under a directional set: whether analyses work with it, why, and the tick that changes it. */
export function SetInAnalysis({ material, draft }: { material: Material; draft: Draft | null }) {
	const source = elasticSource(material);
	const ticked = material.elasticity === "directional";
	const write = (to: Material["elasticity"]): void =>
		draft?.commit([{ at: "field:elasticity", from: material.elasticity, to }], "elasticity");
	return (
		<div className="caption pl-9.5 pb-1.5 flex flex-wrap items-center gap-x-3 max-md:pl-7.5">
			<label className="flex items-center gap-1.5 text-ink">
				<input
					type="checkbox"
					className="checkbox"
					checked={source.from === "set"}
					// a complete set with nothing beside it is no choice
					disabled={draft === null || (source.from === "set" && !ticked)}
					onChange={(e) => write(e.target.checked ? "directional" : "isotropic")}
				/>
				use for analysis
			</label>
			<span>{elasticInWords(source, ticked)}</span>
		</div>
	);
}
