import type { ProjectView } from "@alvek/contract";
import { FileUp } from "lucide-react";
import { lazy, type ReactNode, Suspense, useCallback, useEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import { mutate, undoEvent } from "../../api/mutate";
import { queryClient, useRoute } from "../../api/queries";
import { showIssues } from "../../api/refusals";
import { takeAssignments } from "../../stores/assignmentTarget";
import { usePartSelection } from "../../stores/parts";
import { usePreferences } from "../../stores/preferences";
import { showToast } from "../../stores/toasts";
import { Empty, Failure, Loading } from "../../ui/states";
import { useMedia } from "../../ui/useMedia";
import { changeWords } from "./changeWords";
import { Figures } from "./Figures";
import { ImportBar } from "./ImportBar";
import { PartTable } from "./PartTable";
import { ProjectSummary } from "./ProjectSummary";
import { useImport } from "./useImport";

const Viewer = lazy(async () => ({ default: (await import("./Viewer")).Viewer }));

/** One project: line of truth, part table, 3D view, figures. */
export function ProjectPlace() {
	const { id = "" } = useParams();
	const project = useRoute("getProject", { id });
	if (project.isError) return <Failure error={project.error} retry={() => project.refetch()} />;
	if (project.data === undefined || project.data.id !== id) return <Loading what="The project" />;
	return <OpenProject key={id} project={project.data} />;
}

function OpenProject({ project }: { project: ProjectView }) {
	const { project: selectionOf, selected: chosen, select } = usePartSelection();
	const [chooser, setChooser] = useState<string | null>(null);
	const [dropping, setDropping] = useState(false);
	const files = useRef<HTMLInputElement>(null);
	const partAt = useRef<(x: number, y: number) => string | null>(() => null);
	const bringing = useImport(project.id);
	const known = new Set(project.parts.map((p) => p.id));
	const selected = selectionOf === project.id ? chosen.filter((p) => known.has(p)) : [];
	const onSelect = useCallback((parts: readonly string[], add?: boolean) => select(project.id, parts, add), [select, project.id]);

	const latest = useRef({ project, selected });
	latest.current = { project, selected };
	const assign = useCallback(async (parts: readonly string[], materialId: string | null, draft: boolean) => {
		if (parts.length === 0) return;
		await change(
			latest.current.project,
			await mutate("assign", { id: latest.current.project.id, parts: [...parts], materialId, draft }, ["getProject"]),
			materialId === null ? "material removed" : null,
		);
	}, []);
	const bringForward = useCallback(async (parts: readonly string[]): Promise<boolean> => {
		const before = latest.current.project;
		return change(before, await mutate("bringForward", { id: before.id, parts: [...parts] }, ["getProject"]), "brought forward");
	}, []);

	useAssignments(assign, () => latest.current.selected, partAt);

	const isEmpty = project.parts.length === 0;
	return (
		// biome-ignore lint/a11y/noStaticElementInteractions: files may be let go anywhere; the button does the same
		<div
			className="flex-1 min-w-0 flex flex-col relative"
			onDragOver={(e) => {
				if (!e.dataTransfer.types.includes("Files") || !project.mayEdit) return;
				e.preventDefault();
				setDropping(true);
			}}
			onDragLeave={(e) => e.currentTarget === e.target && setDropping(false)}
			onDrop={(e) => {
				if (!e.dataTransfer.types.includes("Files")) return;
				e.preventDefault();
				setDropping(false);
				const file = e.dataTransfer.files[0];
				if (file && project.mayEdit) void bringing.start(file);
			}}
		>
			<input
				ref={files}
				type="file"
				accept=".step,.stp,.p21,.STEP,.STP,.P21,.Step,.Stp,.zip,.ZIP,model/step"
				className="hidden"
				aria-label="STEP file"
				onChange={(e) => {
					const file = e.target.files?.[0];
					if (file) void bringing.start(file);
					e.target.value = "";
				}}
			/>
			<ProjectSummary project={project} onAdd={() => files.current?.click()} onBringForward={bringForward} />
			<ImportBar state={bringing.state} onCancel={bringing.cancel} onDismiss={bringing.dismiss} onSame={bringing.start} />
			{isEmpty ? (
				<NoParts />
			) : (
				<Panes
					parts={
						<PartTable
							project={project}
							selected={selected}
							onSelect={onSelect}
							chooser={chooser}
							setChooser={setChooser}
							onAssign={(material, draft) => assign(selected, material, draft)}
						/>
					}
					view={
						<Suspense fallback={<section className="flex-1 bg-paper" aria-label="3D view on its way" />}>
							<Viewer project={project} selected={selected} onSelect={onSelect} partAt={partAt} />
						</Suspense>
					}
					figures={<Figures project={project} selected={selected} onBringForward={bringForward} />}
				/>
			)}
			{dropping && <LetGo />}
		</div>
	);
}

type Assign = (parts: readonly string[], materialId: string | null, draft: boolean) => Promise<void>;
type PartAt = { readonly current: (x: number, y: number) => string | null };

/** What the tray lets go over the parts: given to those chosen, or to the one it lies on. */
function useAssignments(assign: Assign, selection: () => readonly string[], partAt: PartAt): void {
	const selected = useRef(selection);
	selected.current = selection;
	useEffect(
		() =>
			takeAssignments({
				assign: (material, draft) => void assign(selected.current(), material, draft),
				assignToPart: (part, material, draft) => {
					const now = selected.current();
					void assign(now.includes(part) ? now : [part], material, draft);
				},
				assignAtPoint: (x, y, material, draft) => {
					const part = partAt.current(x, y);
					if (part === null) return showToast({ tone: "plain", text: "No part lies there. Let go over a part." });
					const now = selected.current();
					void assign(now.includes(part) ? now : [part], material, draft);
				},
			}),
		[assign, partAt],
	);
}

function NoParts() {
	return (
		<div className="flex-1 bg-card">
			<Empty title="No parts yet.">
				Drop a STEP file here, packed in a ZIP or not, or pick one with <b>Add geometry</b>. Names, tree, placements and exact
				volumes come from it; then select parts, type a material, Enter.
			</Empty>
		</div>
	);
}

function LetGo() {
	return (
		<div className="absolute inset-0 z-40 bg-accent-soft/80 border-2 border-dashed border-primary flex items-center justify-center gap-2.5 text-xl font-bold pointer-events-none">
			<FileUp aria-hidden /> Let go to import the STEP file
		</div>
	);
}

const PANES = [
	{ id: "parts", name: "Parts" },
	{ id: "view", name: "3D view" },
	{ id: "figures", name: "Figures" },
] as const;

/** The three side by side; on a phone one of them, and a strip to go to the others. */
function Panes(panes: Readonly<Record<(typeof PANES)[number]["id"], ReactNode>>) {
	const phone = useMedia("(max-width: 767px)");
	const [shown, setShown] = useState<keyof typeof panes>("parts");
	if (!phone) {
		return (
			<div className="flex-1 min-h-0 flex">
				{panes.parts}
				{panes.view}
				{panes.figures}
			</div>
		);
	}
	return (
		<>
			<div className="flex-1 min-h-0 flex">{panes[shown]}</div>
			<div role="group" aria-label="What is shown" className="shrink-0 flex border-t border-line bg-paper">
				{PANES.map(({ id, name }) => (
					<button
						key={id}
						type="button"
						aria-pressed={shown === id}
						className={`flex-1 h-11 ${shown === id ? "font-bold text-primary shadow-[inset_0_2px_0_var(--color-primary)]" : "text-ink2"}`}
						onClick={() => setShown(id)}
					>
						{name}
					</button>
				))}
			</div>
		</>
	);
}

type Changed = Awaited<ReturnType<typeof mutate<"assign">>>;

/** Shows the new state with the mass before and after, and the way back. */
async function change(before: ProjectView, result: Changed, verb: string | null): Promise<boolean> {
	if (!result.ok) {
		showIssues(result.issues);
		return false;
	}
	const after = result.value.value;
	queryClient.setQueryData(["getProject", { id: before.id }], after);
	const { pieces, what, text } = changeWords(before, after, verb, usePreferences.getState().unitSet);
	if (pieces > 0) showToast({ tone: "plain", text, action: { label: "Undo", run: () => undoEvent(result.value.event, what) } });
	return true;
}
