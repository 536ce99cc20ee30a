import type { PartView, ProjectView } from "@alvek/contract";
import { MASS_UNITS, sum } from "@alvek/core/mass";
import { useState } from "react";
import { ChangeLine } from "../../shared/ChangeLine";
import { assembliesWith, massPair, massText, massWith } from "../../shared/massFigures";
import { useUnitSet } from "../../stores/preferences";
import { Swatch } from "../../ui/marks";
import { counted } from "../../ui/words";

/** Parts on an older revision: what changes in their materials, mass before and after; all, some or none go forward. */
export function Behind({
	project,
	onBringForward,
}: {
	project: ProjectView;
	onBringForward: (parts: readonly string[]) => Promise<boolean>;
}) {
	const unitSet = useUnitSet();
	const unit = MASS_UNITS[unitSet].mass;
	const behind = project.parts.filter((p) => p.assignment?.behind != null);
	const total = project.totals.mass_kg?.mass ?? null;
	const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
	const chosen = behind.filter((p) => !left.has(p.id));
	const masses = (which: "now" | "then"): number =>
		sum(
			chosen.map(
				(p) => massWith([p], which === "now" ? (p.assignment?.density ?? null) : (p.assignment?.behind?.density ?? null)) ?? 0,
			),
		);
	const difference = masses("then") - masses("now");
	return (
		<div className="w-135 p-4">
			<h2 className="rule-head text-md">
				Parts on an older revision{" "}
				<span className="caption font-normal">{project.parts.length - behind.length} others are not touched</span>
			</h2>
			<ul className="max-h-85 overflow-y-auto">
				{behind.map((p) => {
					const now = massWith([p]);
					const then = massWith([p], p.assignment?.behind?.density ?? null);
					return (
						<li key={p.id} className="border-b border-line2">
							<label className="flex items-center gap-2 h-9 cursor-pointer">
								<input
									type="checkbox"
									className="checkbox checkbox-primary"
									checked={!left.has(p.id)}
									onChange={() => {
										const next = new Set(left);
										if (!next.delete(p.id)) next.add(p.id);
										setLeft(next);
									}}
								/>
								<Swatch colour={p.assignment?.colour ?? null} />
								<span className="truncate">
									<b>{p.name}</b> {p.quantity > 1 && `×${p.quantity}`}{" "}
									<span className="caption">
										{p.assignment?.material} rev {p.assignment?.revision} →{" "}
										{p.assignment?.behind?.materialId === p.assignment?.materialId
											? ""
											: `${p.assignment?.behind?.material} rev `}
										{p.assignment?.behind?.revision}
									</span>
								</span>
								<span className="ml-auto whitespace-nowrap">
									{now === null ? "no mass" : massText(now, unitSet)} →{" "}
									<b>{then === null ? "no mass" : massText(then, unitSet)}</b> <span className="text-ink3">{unit}</span>
								</span>
							</label>
							<ValueChanges part={p} />
						</li>
					);
				})}
			</ul>
			<Assemblies project={project} chosen={chosen} />
			<div className="flex items-center mt-3">
				<span className="text-ink2">
					Changes the total by{" "}
					<b className="text-ink">
						{difference >= 0 ? "+" : ""}
						{massText(difference, unitSet, 3)} {unit}
					</b>
					{total !== null && (
						<span className="block">
							{massPair(total, total + difference, unitSet).join(" → ")} {unit} altogether
						</span>
					)}
				</span>
				<button
					type="button"
					className="btn btn-primary ml-auto"
					disabled={chosen.length === 0}
					onClick={() => onBringForward(chosen.map((p) => p.id))}
				>
					Bring {chosen.length === behind.length ? "all" : chosen.length} forward
				</button>
			</div>
		</div>
	);
}

const CLASS = { words: "words or look only", "values-added": "values added", "values-changed": "a value changes" } as const;

/** Property by property, old and new; folded, because often the mass is all that counts. */
function ValueChanges({ part }: { part: PartView }) {
	const [open, setOpen] = useState(false);
	const news = part.assignment?.behind;
	if (news == null) return null;
	return (
		<div className="pl-6 pb-1.5 -mt-1">
			<button
				type="button"
				className="quiet-link caption"
				aria-expanded={open}
				aria-label={`What changes for ${part.name}`}
				onClick={() => setOpen(!open)}
			>
				{CLASS[news.class]}, {counted(news.edits.length, "change")}
			</button>
			{open && (
				<ul>
					{news.edits.slice(0, 40).map((edit) => (
						<ChangeLine key={edit.at} edit={edit} />
					))}
				</ul>
			)}
		</div>
	);
}

/** Masses of the assemblies in which chosen parts stand. */
function Assemblies({ project, chosen }: { project: ProjectView; chosen: readonly PartView[] }) {
	const unitSet = useUnitSet();
	const changed = assembliesWith(project, chosen);
	if (changed.length === 0) return null;
	return (
		<dl className="mt-2 caption" aria-label="Assemblies">
			{changed.slice(0, 6).map((a) => (
				<div key={a.id} className="flex">
					<dt>{a.name}</dt>
					<dd className="ml-auto">
						{massPair(a.before, a.after, unitSet).join(" → ")} {MASS_UNITS[unitSet].mass}
					</dd>
				</div>
			))}
		</dl>
	);
}
