import { API_ROOT, massTable, type ProjectView } from "@alvek/contract";
import { MASS_UNITS } from "@alvek/core/mass";
import { ClipboardCopy, FileDown, FileUp, Settings2 } from "lucide-react";
import type { ReactNode } from "react";
import { massText, rangeOf } from "../../shared/massFigures";
import { useUnitSet } from "../../stores/preferences";
import { showToast } from "../../stores/toasts";
import { Popover } from "../../ui/Popover";
import { Behind } from "./Behind";
import { ProjectSettings } from "./ProjectSettings";

type Props = { project: ProjectView; onAdd: () => void; onBringForward: (parts: readonly string[]) => Promise<boolean> };

/** What the whole project weighs, how sure that is, and what stands in the way. */
export function ProjectSummary({ project, onAdd, onBringForward }: Props) {
	const unitSet = useUnitSet();
	const { totals } = project;
	const unit = MASS_UNITS[unitSet].mass;
	const share = totals.volume_m3 === 0 ? 0 : totals.volumeWithMass_m3 / totals.volume_m3;
	const range = totals.mass_kg === null ? null : rangeOf(totals.mass_kg, unitSet);
	const covered = `${totals.partsWithMass} of ${totals.parts} parts`;
	return (
		<div className="min-h-16.5 shrink-0 bg-card border-b border-line flex items-center px-4 max-md:flex-wrap max-md:gap-y-2 max-md:py-2">
			<Piece label={`${project.name}, ${totals.parts} parts`} first>
				<span className="text-4xl leading-7.5 font-bold" data-testid="total-mass">
					{totals.mass_kg === null ? "no mass" : massText(totals.mass_kg.mass, unitSet)}
				</span>{" "}
				{totals.mass_kg !== null && <span className="text-ink3 text-lg">{unit}</span>}
			</Piece>
			{range && (
				<Piece label="Range from densities">
					<b>{range}</b> <span className="text-ink3">{unit}</span>
				</Piece>
			)}
			{totals.parts > 0 && (
				<div className="pl-4.5 border-l border-line h-10.5 flex flex-col justify-center pr-4.5 max-md:border-l-0 max-md:pl-0">
					<span className="caption whitespace-nowrap">
						Covers{" "}
						<b className="text-ink">
							{covered}, {percent(share)} of the volume
						</b>
					</span>
					<span className="block h-1.5 mt-1 bg-sunk w-37.5" role="img" aria-label={`${percent(share)} of the volume has a mass`}>
						<span className="block h-full bg-primary" style={{ width: `${share * 100}%` }} />
					</span>
				</div>
			)}
			{(totals.behind > 0 || totals.carriedOver > 0 || project.frozen) && (
				<Piece label={againstWhat(project)}>
					<span className="flex gap-1">
						{project.frozen && <span className="tag tag-note">frozen</span>}
						{totals.behind > 0 && <span className="tag tag-note">{totals.behind} behind</span>}
						{totals.carriedOver > 0 && <span className="tag tag-doubt">{totals.carriedOver} carried over</span>}
					</span>
				</Piece>
			)}
			<span className="ml-auto flex gap-1.5 shrink-0">
				<Popover
					label="What it follows, default, who"
					buttonName="What the project follows, its default material, and who may what"
					button={<Settings2 size={16} aria-hidden />}
				>
					<ProjectSettings project={project} />
				</Popover>
				{totals.parts > 0 && (
					<>
						<button
							type="button"
							className="btn btn-ghost btn-icon"
							aria-label="Copy the mass table"
							title="Copy the mass table"
							onClick={() => copyTable(project, unitSet)}
						>
							<ClipboardCopy size={16} aria-hidden />
						</button>
						<a
							className="btn btn-ghost btn-icon"
							href={`${API_ROOT}/projects/${project.id}/mass.csv?units=${unitSet}`}
							aria-label="Download the mass table as CSV"
							title="Download the mass table as CSV"
						>
							<FileDown size={16} aria-hidden />
						</a>
					</>
				)}
				{project.mayEdit && (
					<button type="button" className={`btn ${totals.parts === 0 ? "btn-primary" : ""}`} onClick={onAdd}>
						<FileUp size={15} aria-hidden /> Add geometry
					</button>
				)}
				{project.mayEdit && totals.behind > 0 && (
					<Popover label="Bring forward" primary button="Bring forward…">
						<Behind project={project} onBringForward={onBringForward} />
					</Popover>
				)}
			</span>
		</div>
	);
}

/** What `behind` is measured against here. */
function againstWhat(project: ProjectView): string {
	if (project.frozen) return "Frozen: stays as it is";
	const pinned = project.follows.filter((f) => f.edition !== null);
	if (pinned.length === 0) return "Measured against the latest revisions";
	const words = pinned.map((f) => {
		const of = project.follows.length > 1 ? ` of ${f.name}` : "";
		return `edition ${f.edition}${of}${f.newest > (f.edition ?? 0) ? ` (${f.newest} is out)` : ""}`;
	});
	return `Follows ${words.join(", ")}${pinned.length < project.follows.length ? ", else the latest" : ""}`;
}

function Piece({ label, children, first = false }: { label: string; children: ReactNode; first?: boolean }) {
	return (
		<div
			className={`pr-4.5 min-w-0 ${first ? "" : "pl-4.5 border-l border-line h-10.5 flex flex-col justify-center max-md:border-l-0 max-md:pl-0"}`}
		>
			<div className="caption truncate" title={label}>
				{label}
			</div>
			<div className="whitespace-nowrap">{children}</div>
		</div>
	);
}

export function percent(share: number): string {
	const value = share * 100;
	// 99.6 % must not read as everything
	const shown = value > 99 && value < 100 ? Math.floor(value * 10) / 10 : Math.round(value);
	return `${shown} %`;
}

/** Through a copy event: the clipboard interface is missing on plain http. */
function copyTable(project: ProjectView, unitSet: ReturnType<typeof useUnitSet>): void {
	const onCopy = (e: ClipboardEvent): void => {
		e.preventDefault();
		e.clipboardData?.setData("text/plain", massTable(project, unitSet, "\t"));
	};
	document.addEventListener("copy", onCopy, { once: true });
	const done = document.execCommand("copy");
	document.removeEventListener("copy", onCopy);
	showToast(
		done
			? { tone: "plain", text: "The mass table is in the clipboard, tab-separated." }
			: { tone: "wrong", text: "This browser did not allow copying. Download the CSV instead." },
	);
}
