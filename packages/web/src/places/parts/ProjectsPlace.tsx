import type { MaterialRow, ProjectRow } from "@alvek/contract";
import { describeIssue } from "@alvek/core/result";
import { Pencil, Plus, Trash2 } from "lucide-react";
import { type FormEvent, useState } from "react";
import { Link, useNavigate } from "react-router";
import { newId } from "../../api/client";
import { mutate, undoEvent } from "../../api/mutate";
import { useRoute } from "../../api/queries";
import { showIssues } from "../../api/refusals";
import { PickMaterial } from "../../shared/PickMaterial";
import { usePreferences } from "../../stores/preferences";
import { showToast } from "../../stores/toasts";
import { FormDialog } from "../../ui/Form";
import { Empty, Failure, Loading } from "../../ui/states";

/** All projects: open, begin, rename, delete. */
export function ProjectsPlace() {
	const projects = useRoute("listProjects", {});
	return (
		<section aria-label="Projects" className="flex-1 bg-card overflow-y-auto">
			<div className="max-w-215 mx-auto px-5.5 py-4.5">
				<h1 className="mb-3">Projects</h1>
				<NewProject />
				{projects.isPending && <Loading what="Projects" />}
				{projects.isError && <Failure error={projects.error} retry={() => projects.refetch()} />}
				{projects.data?.length === 0 && (
					<Empty title="No project yet.">
						Give one a name above, then drop a STEP file into it: parts, names and volumes come from there.
					</Empty>
				)}
				<ul className="mt-3.5 border-t border-ink">
					{projects.data?.map((p) => (
						<ProjectLine key={p.id} project={p} />
					))}
				</ul>
			</div>
		</section>
	);
}

function NewProject() {
	const navigate = useNavigate();
	const [name, setName] = useState("");
	const [error, setError] = useState<string | null>(null);
	const { projectDefault: standard, set } = usePreferences();
	const [choosing, setChoosing] = useState(false);
	const submit = async (e: FormEvent): Promise<void> => {
		e.preventDefault();
		const id = newId();
		const result = await mutate("createProject", { id, name, ...(standard === null ? {} : { materialId: standard.id }) });
		if (!result.ok) return setError(result.issues.map(describeIssue).join(" "));
		void navigate(`/parts/${id}`);
	};
	return (
		<>
			<form onSubmit={submit} className="flex gap-2 items-start" noValidate>
				<label className="flex-1 max-w-80">
					<span className="sr-only">Name of the new project</span>
					<input
						className="field"
						placeholder="name of the new project"
						value={name}
						onChange={(e) => setName(e.target.value)}
						aria-invalid={error !== null}
					/>
					{error && (
						<span role="alert" className="block mt-1 text-wrong">
							{error}
						</span>
					)}
				</label>
				<button type="submit" className="btn btn-primary" disabled={name.trim() === ""}>
					<Plus size={15} aria-hidden /> New project
				</button>
			</form>
			<p className="caption mt-1.5 flex flex-wrap items-center gap-x-2">
				{standard === null ? (
					"Its parts begin without a material."
				) : (
					<span>
						Its parts begin with <b className="text-ink">{standard.name}</b>, marked as default until somebody confirms it.
					</span>
				)}
				<button type="button" className="quiet-link" onClick={() => setChoosing(true)}>
					{standard === null ? "choose a default" : "another"}
				</button>
				{standard !== null && (
					<button type="button" className="quiet-link" onClick={() => set({ projectDefault: null })}>
						none
					</button>
				)}
			</p>
			{choosing && <ChooseStandard close={() => setChoosing(false)} />}
		</>
	);
}

/** The default of the projects that one makes in this browser. */
function ChooseStandard({ close }: { close: () => void }) {
	const set = usePreferences((s) => s.set);
	const [chosen, setChosen] = useState<MaterialRow | null>(null);
	const submit = async (): Promise<void> => {
		if (chosen !== null) set({ projectDefault: { id: chosen.id, name: chosen.name } });
		close();
	};
	return (
		<FormDialog
			title="Default of new projects"
			act="Begin projects with it"
			ready={chosen !== null}
			submit={submit}
			close={close}
			error={null}
		>
			<PickMaterial label="Find" legend="Default material" chosen={chosen?.id ?? null} choose={setChosen} />
		</FormDialog>
	);
}

function ProjectLine({ project }: { project: ProjectRow }) {
	const [renaming, setRenaming] = useState<string | null>(null);
	const save = async (): Promise<void> => {
		if (renaming === null) return;
		setRenaming(null);
		if (renaming.trim() === project.name) return;
		const result = await mutate("renameProject", { id: project.id, name: renaming });
		if (!result.ok) return showIssues(result.issues);
		const what = `${project.name} renamed`;
		showToast({ tone: "plain", text: what, action: { label: "Undo", run: () => undoEvent(result.value.event, what) } });
	};
	const remove = async (): Promise<void> => {
		const result = await mutate("removeProject", { id: project.id });
		if (!result.ok) return showIssues(result.issues);
		const what = `${project.name} deleted`;
		showToast({ tone: "plain", text: what, action: { label: "Undo", run: () => undoEvent(result.value.event, what) } });
	};
	return (
		<li className="flex items-center h-11 border-b border-line2">
			{renaming === null ? (
				<Link
					to={`/parts/${project.id}`}
					className="font-semibold text-md hover:underline decoration-line underline-offset-4 truncate"
				>
					{project.name}
				</Link>
			) : (
				<input
					// biome-ignore lint/a11y/noAutofocus: the person has just asked to rename
					autoFocus
					className="field max-w-80"
					aria-label={`New name of ${project.name}`}
					value={renaming}
					onChange={(e) => setRenaming(e.target.value)}
					onBlur={save}
					onKeyDown={(e) => {
						if (e.key === "Enter") e.currentTarget.blur();
						if (e.key === "Escape") setRenaming(null);
					}}
				/>
			)}
			<span className="ml-auto caption pr-3 whitespace-nowrap">
				{project.parts === 0 ? "no geometry yet" : `${project.parts} parts`} · changed{" "}
				{new Date(project.changedAt).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" })}
			</span>
			{project.mayEdit && (
				<>
					<button
						type="button"
						className="btn btn-ghost btn-icon"
						aria-label={`Rename ${project.name}`}
						onClick={() => setRenaming(project.name)}
					>
						<Pencil size={14} aria-hidden />
					</button>
					<button type="button" className="btn btn-ghost btn-icon" aria-label={`Delete ${project.name}`} onClick={remove}>
						<Trash2 size={14} aria-hidden />
					</button>
				</>
			)}
		</li>
	);
}
