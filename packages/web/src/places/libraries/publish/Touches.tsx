import type { PublishPlan } from "@alvek/contract";
import { MASS_UNITS } from "@alvek/core/mass";
import { Box, Copy, EyeOff, Layers, Snowflake } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { massPair, signedMass } from "../../../shared/massFigures";
import { useUnitSet } from "../../../stores/preferences";
import { counted } from "../../../ui/words";

const KIND = { variant: "variant", copy: "copy", local: "local change", layer: "own layer", similar: "from this" } as const;

/** Projects with their mass before and after, variants, editions; what may not be seen is counted only. */
export function Touches({ plan, revision }: { plan: PublishPlan; revision: number | null }) {
	const unitSet = useUnitSet();
	const unit = MASS_UNITS[unitSet].mass;
	const nothing = plan.projects.length + plan.hidden.projects + plan.variants.length + plan.hiddenVariants + plan.editions === 0;
	return (
		<>
			<h2 className="rule-head mt-5">
				What it touches <span className="caption font-normal">nothing moves until a project brings it forward</span>
			</h2>
			{nothing && <p className="py-2 text-ink2">Nothing yet: no project, variant or edition stands on it.</p>}
			<ul>
				{plan.projects.map((p) => (
					<ProjectTouch key={p.id} project={p} plan={plan} revision={revision} unit={unit} />
				))}
				{plan.variants.map((v) => (
					<Row
						key={v.id}
						icon={<Copy size={15} aria-hidden />}
						what={<Link to={`/materials/${v.id}`}>{v.name}</Link>}
						who={KIND[v.kind]}
					>
						<span className="caption">of {v.of}</span> <span className="tag tag-note">behind</span>
					</Row>
				))}
				{plan.editions > 0 && (
					<Row icon={<Layers size={15} aria-hidden />} what={counted(plan.editions, "edition")} who="">
						<span className="caption">keep the older revision; whoever follows one sees nothing of this</span>
					</Row>
				)}
				{plan.hidden.projects > 0 && (
					<Row
						icon={<EyeOff size={15} aria-hidden />}
						what={`${counted(plan.hidden.projects, "project")} you may not see`}
						who={counted(plan.hidden.parts, "part")}
					>
						<span className="caption">counted only</span>
					</Row>
				)}
				{plan.hiddenVariants > 0 && (
					<Row
						icon={<EyeOff size={15} aria-hidden />}
						what={`${counted(plan.hiddenVariants, "variant or copy", "variants or copies")} you may not see`}
						who=""
					>
						<span className="caption">counted only</span>
					</Row>
				)}
			</ul>
		</>
	);
}

function ProjectTouch({
	project,
	plan,
	revision,
	unit,
}: {
	project: PublishPlan["projects"][number];
	plan: PublishPlan;
	revision: number | null;
	unit: string;
}) {
	const unitSet = useUnitSet();
	const [open, setOpen] = useState(false);
	const { massBefore_kg: before, massAfter_kg: after, frozen, edition } = project;
	const uses = plan.materials.flatMap((m) => m.uses.filter((u) => u.projectId === project.id).map((u) => ({ ...u, of: m.name })));
	const stays = frozen
		? `frozen, stays${revision === null ? "" : ` on rev ${revision}`}`
		: edition === null
			? null
			: `follows edition ${edition}, stays`;
	const [massBefore, massAfter] = massPair(before, after, unitSet);
	return (
		<>
			<Row
				icon={frozen ? <Snowflake size={15} aria-hidden /> : <Box size={15} aria-hidden />}
				what={
					<button type="button" className="quiet-link" aria-expanded={open} onClick={() => setOpen(!open)}>
						{project.name}
					</button>
				}
				who={counted(project.parts, "part")}
			>
				{stays ?? (
					<>
						<span>
							{massBefore} → {massAfter} {unit}
						</span>
						<span className="caption w-23 text-right">{signedMass((after ?? 0) - (before ?? 0), unitSet)}</span>
						<span className="tag tag-note">{uses.every((u) => u.tries) ? "moves on" : "behind"}</span>
					</>
				)}
			</Row>
			{open &&
				uses.map((u) => (
					<li key={`${u.of} ${u.part}`} className="flex gap-2.5 pl-7 py-0.75 border-b border-line2 caption">
						<span>
							{u.part} × {u.quantity}
						</span>
						{plan.materials.length > 1 && <span>{u.of}</span>}
						<span className="ml-auto">
							{massPair(u.massBefore_kg, u.massAfter_kg, unitSet).join(" → ")} {unit}
							{u.tries && ", tries the draft and moves on"}
						</span>
					</li>
				))}
		</>
	);
}

function Row({ icon, what, who, children }: { icon: ReactNode; what: ReactNode; who: string; children: ReactNode }) {
	return (
		<li className="grid grid-cols-[20px_minmax(0,1fr)_90px_auto] gap-x-1.5 items-center min-h-8 border-b border-line2">
			{icon}
			<span className="font-semibold truncate">{what}</span>
			<span className="text-ink2">{who}</span>
			<span className="flex gap-2 items-center justify-end">{children}</span>
		</li>
	);
}
