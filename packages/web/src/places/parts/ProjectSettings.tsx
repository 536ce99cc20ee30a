import type { FollowView, MaterialRow, ProjectView } from "@alvek/contract";
import type { Issue } from "@alvek/core/result";
import { useState } from "react";
import { useAlone, useRoute } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { Grants } from "../../shared/Grants";
import { History } from "../../shared/History";
import { PickMaterial } from "../../shared/PickMaterial";
import { FormDialog } from "../../ui/Form";
import { followedOf } from "./followedOf";

const ROLES = [
	{ id: "reader", label: "reads" },
	{ id: "editor", label: "gives materials" },
	{ id: "owner", label: "owner: also shares and deletes" },
];

const FORWARD = [
	{ id: "none", label: "nothing by itself" },
	{ id: "words", label: "words and looks by themselves" },
	{ id: "values-added", label: "words, looks and added values" },
] as const;

/** What a project is measured against, its default material, who may what, and what happened. */
export function ProjectSettings({ project }: { project: ProjectView }) {
	const alone = useAlone();
	const { id, mayEdit } = project;
	return (
		<div className="w-125 max-h-[74vh] overflow-y-auto p-4">
			<h2 className="rule-head text-md">What it follows</h2>
			<label className="flex items-center gap-2 h-8.5">
				<input
					type="checkbox"
					className="checkbox"
					disabled={!mayEdit}
					checked={project.frozen}
					onChange={(e) =>
						runMutation(
							"setFollowing",
							{ id, frozen: e.target.checked },
							e.target.checked ? "The project is frozen" : "The project follows again",
						)
					}
				/>
				frozen: every part keeps its revision, nothing shows behind
			</label>
			{!project.frozen && (
				<>
					{project.follows.map((f) => (
						<Follow key={f.library} follow={f} project={project} />
					))}
					<FollowSets project={project} />
					{project.follows.length === 0 && <p className="caption">Libraries are listed here once parts stand on them.</p>}
					<label className="flex items-center gap-2 h-8.5">
						<span className="w-37.5">goes forward</span>
						<select
							className="field"
							disabled={!mayEdit}
							value={project.forward}
							onChange={(e) =>
								runMutation(
									"setFollowing",
									{ id, forward: e.target.value as ProjectView["forward"] },
									"The rule holds from the next publish on",
								)
							}
						>
							{FORWARD.map((f) => (
								<option key={f.id} value={f.id}>
									{f.label}
								</option>
							))}
						</select>
					</label>
				</>
			)}
			<h2 className="rule-head text-md mt-4">Default material</h2>
			<Default project={project} />
			{!alone && (
				<>
					<h2 className="rule-head text-md mt-4">Who may what</h2>
					{project.mayShare ? (
						<Grants
							grants={project.grants}
							roles={ROLES}
							give={(by, subject, role) =>
								runMutation(
									"shareProject",
									{ id, by, subject, role: role as "reader" | null },
									role === null ? "The role is removed" : "The role is given",
								)
							}
						/>
					) : (
						<p className="py-2">
							{project.grants.map((g) => `${g.name} ${ROLES.find((r) => r.id === g.role)?.label.split(":")[0]}`).join("; ")}.
						</p>
					)}
				</>
			)}
			<h2 className="rule-head text-md mt-4">History</h2>
			<History kind="project" id={id} />
		</div>
	);
}

function Follow({ follow, project }: { follow: FollowView; project: ProjectView }) {
	const { library, name, edition, newest, editions } = follow;
	return (
		<div className="flex items-center gap-2 min-h-8.5">
			<span className="w-37.5 truncate">{name}</span>
			<select
				className="field"
				aria-label={`What of ${name} it follows`}
				disabled={!project.mayEdit || editions.length === 0}
				value={edition ?? 0}
				onChange={(e) =>
					runMutation(
						"setFollowing",
						{ id: project.id, library, edition: Number(e.target.value) },
						`${project.name} follows ${e.target.value === "0" ? "the latest" : `edition ${e.target.value}`} of ${name}`,
					)
				}
			>
				<option value={0}>the latest</option>
				{editions.map((no) => (
					<option key={no} value={no}>
						edition {no}
					</option>
				))}
			</select>
			{edition !== null && newest > edition && <span className="tag tag-note">edition {newest} is out</span>}
		</div>
	);
}

/** Sets whose libraries the parts stand on: all of them in the edition that one edition of the set holds. */
function FollowSets({ project }: { project: ProjectView }) {
	const sets = useRoute("listSets", {}).data ?? [];
	const used = new Set(project.follows.map((f) => f.library));
	const offered = sets.filter((s) => s.editions.length > 0 && s.libraries.some((l) => used.has(l.id)));
	return offered.map((set) => {
		const now = followedOf(set, project.follows);
		return (
			<div key={set.id} className="flex items-center gap-2 min-h-8.5">
				<span className="w-37.5 truncate" title={set.libraries.map((l) => l.name).join(", ")}>
					{set.name} <span className="caption">set</span>
				</span>
				<select
					className="field"
					aria-label={`What of the set ${set.name} it follows`}
					disabled={!project.mayEdit}
					value={now}
					onChange={(e) =>
						runMutation(
							"setFollowing",
							{ id: project.id, set: set.id, edition: Number(e.target.value) },
							`${project.name} follows ${e.target.value === "0" ? "the latest" : `edition ${e.target.value}`} of ${set.name}, all ${set.libraries.length} libraries`,
						)
					}
				>
					{now === "" && (
						<option value="" disabled>
							each library its own
						</option>
					)}
					<option value="0">the latest of each</option>
					{set.editions.map((e) => (
						<option key={e.no} value={String(e.no)}>
							edition {e.no}: {e.note}
						</option>
					))}
				</select>
				{now !== "" && now !== "0" && set.edition > Number(now) && (
					<span className="tag tag-note">edition {set.edition} is out</span>
				)}
			</div>
		);
	});
}

/** The material of parts that nobody has given one; they say so until somebody confirms. */
function Default({ project }: { project: ProjectView }) {
	const [choosing, setChoosing] = useState(false);
	const unconfirmed = project.parts.filter((p) => p.assignment?.isDefault === true);
	const none = () => runMutation("setDefault", { id: project.id, materialId: null }, "No default material");
	return (
		<>
			<div className="flex items-center gap-2 min-h-9">
				<span className="min-w-0 flex-1">
					{project.default === null ? (
						<span className="text-ink2">none: parts without a material have no mass</span>
					) : (
						<>
							<b>{project.default.material}</b> <span className="caption">rev {project.default.revision}</span>
						</>
					)}
				</span>
				{project.mayEdit && (
					<>
						<button type="button" className="btn btn-small shrink-0" onClick={() => setChoosing(true)}>
							{project.default === null ? "Choose a default…" : "Choose another…"}
						</button>
						{project.default !== null && (
							<button type="button" className="btn btn-ghost btn-small shrink-0" onClick={none}>
								No default
							</button>
						)}
					</>
				)}
				{project.mayEdit && unconfirmed.length > 0 && (
					<button
						type="button"
						className="btn btn-small shrink-0"
						onClick={() => runMutation("confirmDefault", { id: project.id, parts: unconfirmed.map((p) => p.id) }, "Confirmed")}
					>
						Confirm on {unconfirmed.length}
					</button>
				)}
			</div>
			<p className="caption">Any published material. A part that got it this way says “default” until somebody confirms it.</p>
			{choosing && <ChooseDefault project={project} close={() => setChoosing(false)} />}
		</>
	);
}

function ChooseDefault({ project, close }: { project: ProjectView; close: () => void }) {
	const [chosen, setChosen] = useState<MaterialRow | null>(null);
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const submit = async (): Promise<void> => {
		if (chosen === null) return;
		const said = `${chosen.name} is given to parts without a material`;
		if ((await runMutation("setDefault", { id: project.id, materialId: chosen.id }, said, setError)) !== null) close();
	};
	return (
		<FormDialog
			title="Default material"
			act="Make it the default"
			ready={chosen !== null}
			submit={submit}
			close={close}
			error={error}
		>
			<PickMaterial label="Find" legend="Default material" chosen={chosen?.id ?? null} choose={setChosen} project={project.id} />
		</FormDialog>
	);
}
