import type { PartView, ProjectView } from "@alvek/contract";
import { MASS_UNITS, type MassQuantity, type MassTotal, showComputed } from "@alvek/core/mass";
import { property } from "@alvek/core/property";
import { typeset } from "@alvek/core/quantity";
import { Sigma } from "lucide-react";
import { useMemo } from "react";
import { Link } from "react-router";
import { massText, massWith, rangeOf, totalOf } from "../../shared/massFigures";
import { useUnitSet } from "../../stores/preferences";
import { inUnit, UnitText } from "../../ui/Quantity";
import { Costs } from "./Costs";
import { Files } from "./Files";
import { OwnMaterial } from "./OwnMaterial";
import { ShapeDoubts } from "./ShapeDoubts";

/** Mass properties of the selection, or of everything. */
export function Figures({
	project,
	selected,
	onBringForward,
}: {
	project: ProjectView;
	selected: readonly string[];
	onBringForward: (parts: readonly string[]) => Promise<boolean>;
}) {
	const unitSet = useUnitSet();
	const chosen = useMemo(
		() => (selected.length === 0 ? project.parts : project.parts.filter((p) => selected.includes(p.id))),
		[project.parts, selected],
	);
	const total = useMemo(() => totalOf(project, chosen), [project, chosen]);
	const pieces = chosen.reduce((n, p) => n + p.quantity, 0);
	const range = total.mass === null ? null : rangeOf(total.mass, unitSet);
	const partial = total.bodiesWithMass < total.bodies && total.mass !== null;
	const names = chosen.map((p) => (p.quantity > 1 ? `${p.name} ×${p.quantity}` : p.name));
	return (
		<aside
			aria-label="Figures"
			className="w-63 shrink-0 bg-paper border-l border-line px-3.5 py-3 overflow-y-auto max-lg:w-55 max-md:w-full max-md:border-l-0"
		>
			<h2 className="font-bold">
				{selected.length === 0 ? "All parts" : pieces === 1 ? "1 part selected" : `${pieces} parts selected`}
			</h2>
			{selected.length > 0 && (
				<p className="caption line-clamp-2" title={names.join(", ")}>
					{names.join(", ")}
				</p>
			)}
			<p className="mt-1.5">
				<span className="text-2xl leading-6.5 font-bold">
					{total.mass === null ? "no mass" : massText(total.mass.mass, unitSet)}
				</span>{" "}
				{total.mass !== null && <span className="text-ink3">{MASS_UNITS[unitSet].mass}</span>}{" "}
				{range && <span className="caption">{range}</span>}
			</p>
			{partial && (
				<p className="caption text-doubt!">
					only {total.bodiesWithMass} of {total.bodies} bodies have a mass
				</p>
			)}
			<ShapeDoubts project={project} parts={chosen} />
			<dl className="mt-1">
				<Line name="Volume" si={total.volume} quantity="volume" />
				<Line name="Area" si={total.area} quantity="area" />
				{(["x", "y", "z"] as const).map((axis, i) => (
					<Line
						key={axis}
						name={`Centre ${axis}`}
						si={(total.centreOfGravity ?? total.centroid)?.[i] ?? null}
						quantity="length"
						scale={total}
					/>
				))}
			</dl>
			{total.centreOfGravity === null && total.centroid !== null && (
				<p className="caption">centre of the volume: nothing here has a mass</p>
			)}
			{total.inertia && (
				<>
					<h3 className="font-bold mt-3.5">About their centre</h3>
					<dl>
						{(["xx", "yy", "zz", "xy", "xz", "yz"] as const).map((axes) => (
							<Inertia key={axes} axes={axes} total={total} />
						))}
					</dl>
					<p className="caption leading-3.5">
						About the centre of gravity, along the axes of the file; centres are from its origin. Off-diagonals are the negative
						products: I<sub>xy</sub> = −∫ x y dm.
					</p>
				</>
			)}
			<Costs project={project} parts={chosen} />
			<ForSolver parts={chosen} />
			<OwnMaterial project={project} parts={chosen} whole={selected.length === 0} />
			{selected.length === 0 && <Files project={project} />}
			<Behind
				parts={chosen.filter((p) => p.assignment?.behind != null)}
				whole={selected.length === 0}
				project={project}
				onBringForward={onBringForward}
			/>
		</aside>
	);
}

function Line({ name, si, quantity, scale }: { name: string; si: number | null; quantity: MassQuantity; scale?: MassTotal }) {
	const unitSet = useUnitSet();
	const unit = MASS_UNITS[unitSet][quantity];
	// a coordinate that is nothing but rounding, measured against the size of the thing, is zero
	const size = scale === undefined ? 0 : Math.cbrt(scale.volume);
	const shown = si !== null && Math.abs(si) < size * 1e-9 ? 0 : si;
	return (
		<div className="flex py-0.5">
			<dt className="text-ink2">{name}</dt>
			<dd className="ml-auto">
				{shown === null ? "–" : <b className="font-semibold">{typeset(showComputed(shown, quantity, unitSet))}</b>}{" "}
				<UnitText unit={unit} />
			</dd>
		</div>
	);
}

function Inertia({ axes, total }: { axes: string; total: MassTotal }) {
	const unitSet = useUnitSet();
	const index = (c: string | undefined): 0 | 1 | 2 => (c === "x" ? 0 : c === "y" ? 1 : 2);
	const value = total.inertia?.[index(axes[0])][index(axes[1])] ?? 0;
	const largest = Math.max(...[0, 1, 2].map((i) => total.inertia?.[i as 0][i as 0] ?? 0));
	const text = Math.abs(value) < largest * 1e-9 ? "0" : showComputed(value, "inertia", unitSet, 4);
	return (
		<div className="flex py-0.5">
			<dt className="text-ink2 italic">
				I<sub className="not-italic">{axes}</sub>
			</dt>
			<dd className="ml-auto">
				<b className="font-semibold">{typeset(text)}</b> <UnitText unit={MASS_UNITS[unitSet].inertia} />
			</dd>
		</div>
	);
}

/** What a solver needs of the materials of these parts, at the revisions that the parts stand on. */
function ForSolver({ parts }: { parts: readonly PartView[] }) {
	const ids = [
		...new Set(
			parts.flatMap(({ assignment: a }) =>
				a === null || a.removed ? [] : [a.draft ? a.materialId : `${a.materialId}@${a.revision}`],
			),
		),
	];
	if (ids.length === 0) return null;
	return (
		<Link className="btn btn-small mt-3.5" to={`/solver?ids=${ids.slice(0, 20).join(",")}`}>
			<Sigma size={13} aria-hidden /> {ids.length === 1 ? "Its material" : `Their ${ids.length} materials`} for the solver
		</Link>
	);
}

/** News about materials that moved on, with what it would do to these parts. */
function Behind({
	parts,
	whole,
	project,
	onBringForward,
}: {
	parts: readonly PartView[];
	whole: boolean;
	project: ProjectView;
	onBringForward: (parts: readonly string[]) => Promise<boolean>;
}) {
	const unitSet = useUnitSet();
	const first = parts[0]?.assignment;
	if (whole || first == null || first.behind === null) return null;
	const same = parts.filter((p) => p.assignment?.materialId === first.materialId);
	const then = first.behind;
	const now = massWith(same);
	const next = massWith(same, then.density);
	const density = property("density");
	const text = (d: typeof first.density): string => (d === null ? "blank" : inUnit(d.working, density, unitSet));
	return (
		<div className="mt-4 border-l-3 border-note bg-note-soft px-2.5 py-2">
			<h3 className="font-bold">{first.material} moved on</h3>
			<p className="text-sm leading-4">
				rev {first.revision} → {then.revision}: density {text(first.density)} → {text(then.density)}{" "}
				<UnitText unit={density.units[unitSet]} />.
				{now !== null && next !== null && (
					<>
						{" "}
						These parts {massText(now, unitSet)} → {massText(next, unitSet)} {MASS_UNITS[unitSet].mass}.
					</>
				)}
			</p>
			<div className="flex gap-1.5 mt-1.5">
				{project.mayEdit && (
					<button type="button" className="btn btn-small" onClick={() => onBringForward(same.map((p) => p.id))}>
						Bring forward
					</button>
				)}
			</div>
		</div>
	);
}
