import type { ProjectView } from "@alvek/contract";
import { MASS_UNITS, showComputed } from "@alvek/core/mass";
import { useUnitSet } from "../../stores/preferences";
import { counted } from "../../ui/words";

/** Solids whose boundary does not hold together: their volume, and so their mass, may be another than was drawn. */
export function ShapeDoubts({
	project,
	parts,
}: {
	project: ProjectView;
	parts: readonly { readonly id: string; readonly name: string }[];
}) {
	const unitSet = useUnitSet();
	const names = new Map(parts.map((p) => [p.id, p.name]));
	const doubts = project.solids.filter((s) => s.doubt !== null && names.has(s.partId));
	if (doubts.length === 0) return null;
	return (
		<section aria-label="Shapes in doubt" className="mt-2.5 border-l-3 border-doubt bg-doubt-soft px-2.5 py-2">
			<h3 className="font-bold">{counted(doubts.length, "shape")} in doubt</h3>
			<ul className="text-sm leading-4">
				{doubts.slice(0, 6).map(({ partId, n, name, doubt }) => (
					<li key={`${partId} ${n}`} className="py-0.5 break-words">
						<b className="font-semibold">{names.get(partId)}</b>
						{name !== "" && name !== names.get(partId) && `, ${name}`}:{" "}
						{doubt?.kind === "gap"
							? `edges or corners miss their surfaces by ${showComputed(doubt.gap_m, "length", unitSet, 2)} ${MASS_UNITS[unitSet].length}`
							: "its boundary contradicts itself"}
						. Its mass may be wrong; mend it where it was drawn.
					</li>
				))}
				{doubts.length > 6 && <li>and {doubts.length - 6} more</li>}
			</ul>
		</section>
	);
}
