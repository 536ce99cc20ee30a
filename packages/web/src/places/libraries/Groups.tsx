import type { GroupView, LibraryDetail } from "@alvek/contract";
import type { Issue } from "@alvek/core/result";
import { DndContext, type DragEndEvent, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from "@dnd-kit/core";
import { GripVertical, MoreHorizontal, Plus } from "lucide-react";
import { type KeyboardEvent, useState } from "react";
import { Link } from "react-router";
import { newId } from "../../api/client";
import { runMutation } from "../../api/runMutation";
import { CopyTo } from "../../shared/CopyTo";
import { Choose, Field, FormDialog } from "../../ui/Form";
import { Part } from "../../ui/Page";
import { Popover } from "../../ui/Popover";
import { counted } from "../../ui/words";

type Node = GroupView & {
	readonly depth: number;
	readonly path: string;
	/** Materials in it and in all groups below. */
	readonly within: number;
};

/** The tree in the order it is drawn: parents before children, names in order. */
export function treeOf(groups: readonly GroupView[], parent: string | null = null, depth = 0, above = ""): readonly Node[] {
	return groups
		.filter((g) => g.parent === parent)
		.sort((a, b) => a.name.localeCompare(b.name, "en"))
		.flatMap((g) => {
			const path = above === "" ? g.name : `${above} / ${g.name}`;
			const below = treeOf(groups, g.id, depth + 1, path);
			const within = below.reduce((sum, n) => sum + n.materials, g.materials);
			return [{ ...g, depth, path, within }, ...below];
		});
}

/** The groups as a tree: make, rename, move by dragging or by the keyboard, copy, take away. */
export function Groups({ library }: { library: LibraryDetail }) {
	const [making, setMaking] = useState<{ readonly parent: string | null } | null>(null);
	const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
	const nodes = treeOf(library.groupTree);
	const move = (id: string, parent: string | null): void => {
		const group = nodes.find((n) => n.id === id);
		if (group === undefined || group.parent === parent || id === parent) return;
		const to = parent === null ? "the top" : nodes.find((n) => n.id === parent)?.path;
		void runMutation("changeGroup", { id, parent }, `${group.name} moved under ${to}`);
	};
	const dropped = ({ active, over }: DragEndEvent): void => {
		if (over !== null) move(String(active.id), over.id === "top" ? null : String(over.id));
	};
	return (
		<Part
			title="Groups"
			aside={
				library.mayEdit && (
					<button type="button" className="btn btn-small" onClick={() => setMaking({ parent: null })}>
						<Plus size={14} aria-hidden /> New group
					</button>
				)
			}
		>
			{nodes.length === 0 && <p className="py-2 text-ink2">No groups yet. They become the headings of the grid.</p>}
			<DndContext sensors={sensors} onDragEnd={dropped}>
				<ul aria-label="Groups">
					{nodes.map((n) => (
						<GroupLine
							key={n.id}
							node={n}
							nodes={nodes}
							library={library}
							move={move}
							makeUnder={() => setMaking({ parent: n.id })}
						/>
					))}
				</ul>
				{library.mayEdit && nodes.some((n) => n.depth > 0) && <Top />}
			</DndContext>
			{making && <NewGroup library={library} parent={making.parent} nodes={nodes} close={() => setMaking(null)} />}
		</Part>
	);
}

/** Letting go here puts a group at the top. */
function Top() {
	const { setNodeRef, isOver } = useDroppable({ id: "top" });
	return (
		<p ref={setNodeRef} className={`caption py-1.5 px-1 ${isOver ? "bg-accent-soft" : ""}`}>
			Drag a group onto another, or here for the top. By keyboard: Alt+← and Alt+→ move a group out of and into the one above it.
		</p>
	);
}

function GroupLine({
	node,
	nodes,
	library,
	move,
	makeUnder,
}: {
	node: Node;
	nodes: readonly Node[];
	library: LibraryDetail;
	move: (id: string, parent: string | null) => void;
	makeUnder: () => void;
}) {
	const [renaming, setRenaming] = useState(false);
	const [moving, setMoving] = useState(false);
	const [removing, setRemoving] = useState(false);
	const [copying, setCopying] = useState(false);
	const drag = useDraggable({ id: node.id, disabled: !library.mayEdit });
	const drop = useDroppable({ id: node.id });
	const onKeyDown = (e: KeyboardEvent): void => {
		if (!e.altKey || !library.mayEdit || (e.key !== "ArrowLeft" && e.key !== "ArrowRight")) return;
		e.preventDefault();
		if (e.key === "ArrowLeft" && node.parent !== null) move(node.id, nodes.find((n) => n.id === node.parent)?.parent ?? null);
		// into the neighbour above, as outlines do it
		const before = nodes.slice(0, nodes.indexOf(node)).findLast((n) => n.parent === node.parent);
		if (e.key === "ArrowRight" && before !== undefined) move(node.id, before.id);
	};
	const { transform, isDragging } = drag;
	return (
		<li
			ref={(element) => {
				drop.setNodeRef(element);
				drag.setNodeRef(element);
			}}
			style={{
				paddingLeft: node.depth * 20,
				...(transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : {}),
			}}
			className={`flex items-center gap-1.5 min-h-8 border-b border-line2 ${drop.isOver && !isDragging ? "bg-accent-soft" : ""} ${isDragging ? "opacity-70 relative z-10 bg-card" : ""}`}
		>
			{library.mayEdit && (
				<span {...drag.listeners} className="cursor-grab text-ink3" aria-hidden>
					<GripVertical size={14} />
				</span>
			)}
			<Link
				to={`/materials?library=${library.id}&group=${encodeURIComponent(node.path)}`}
				className="font-semibold hover:underline decoration-line underline-offset-4"
				aria-keyshortcuts={library.mayEdit ? "Alt+ArrowLeft Alt+ArrowRight" : undefined}
				onKeyDown={onKeyDown}
			>
				{node.name}
			</Link>
			<span className="caption">
				{counted(node.within, "material")}
				{node.within > node.materials && `, ${node.materials === 0 ? "none" : node.materials} of them right here`}
			</span>
			{(library.mayEdit || library.materials > 0) && (
				<span className="ml-auto">
					<Popover
						label={`Group ${node.name}`}
						small
						buttonName={`More about the group ${node.name}`}
						button={<MoreHorizontal size={15} aria-hidden />}
					>
						<div className="w-47.5 py-1.5">
							{library.mayEdit && (
								<>
									<Choice act={() => setRenaming(true)}>Rename…</Choice>
									<Choice act={() => setMoving(true)}>Move…</Choice>
									<Choice act={makeUnder}>New group under it…</Choice>
								</>
							)}
							<Choice act={() => setCopying(true)}>Copy or move to a library…</Choice>
							{library.mayEdit && <Choice act={() => setRemoving(true)}>Remove…</Choice>}
						</div>
					</Popover>
				</span>
			)}
			{renaming && <Rename node={node} close={() => setRenaming(false)} />}
			{moving && <Move node={node} nodes={nodes} close={() => setMoving(false)} />}
			{removing && <Remove node={node} nodes={nodes} close={() => setRemoving(false)} />}
			{copying && (
				<CopyTo
					what={{ ofGroup: node.id, name: node.name, several: true, from: library.id, mayMove: library.mayEdit }}
					close={() => setCopying(false)}
				/>
			)}
		</li>
	);
}

export function Choice({ act: run, children }: { act: () => void; children: string }) {
	return (
		<button type="button" className="block w-full text-left px-3 h-7.5 hover:bg-sunk" onClick={run}>
			{children}
		</button>
	);
}

function NewGroup({
	library,
	parent,
	nodes,
	close,
}: {
	library: LibraryDetail;
	parent: string | null;
	nodes: readonly Node[];
	close: () => void;
}) {
	const [name, setName] = useState("");
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const under = nodes.find((n) => n.id === parent)?.path;
	const submit = async (): Promise<void> => {
		const input = { id: library.id, group: newId(), parent, name };
		if ((await runMutation("createGroup", input, `The group ${name.trim()} is there.`, setError)) !== null) close();
	};
	return (
		<FormDialog
			title={under === undefined ? "New group" : `New group under ${under}`}
			act="Make the group"
			ready={name.trim() !== ""}
			submit={submit}
			close={close}
			error={error}
		>
			<Field label="Name of the group" value={name} change={setName} />
		</FormDialog>
	);
}

function Rename({ node, close }: { node: Node; close: () => void }) {
	const [name, setName] = useState(node.name);
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const submit = async (): Promise<void> => {
		if ((await runMutation("changeGroup", { id: node.id, name }, `${node.name} is ${name.trim()} now`, setError)) !== null)
			close();
	};
	return (
		<FormDialog title={`Rename ${node.name}`} act="Rename" ready={name.trim() !== ""} submit={submit} close={close} error={error}>
			<Field label="Name of the group" value={name} change={setName} />
		</FormDialog>
	);
}

/** Groups that are not the group itself, nor below it. */
function elsewhere(node: Node, nodes: readonly Node[]): readonly Node[] {
	return nodes.filter((n) => n.path !== node.path && !n.path.startsWith(`${node.path} / `));
}

/** With all that is in it and below it, under another group or to the top. */
function Move({ node, nodes, close }: { node: Node; nodes: readonly Node[]; close: () => void }) {
	const [to, setTo] = useState(node.parent ?? "");
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const submit = async (): Promise<void> => {
		const under = nodes.find((n) => n.id === to)?.path ?? "the top";
		const input = { id: node.id, parent: to === "" ? null : to };
		if ((await runMutation("changeGroup", input, `${node.name} moved under ${under}`, setError)) !== null) close();
	};
	return (
		<FormDialog
			title={`Move ${node.name}`}
			act="Move"
			ready={to !== (node.parent ?? "")}
			submit={submit}
			close={close}
			error={error}
		>
			<Choose
				label="Under the group"
				value={to}
				change={setTo}
				none="none, at the top"
				options={elsewhere(node, nodes).map((n) => ({ id: n.id, name: n.path }))}
			/>
			<p className="caption">Its {counted(node.within, "material")} and the groups below it move along.</p>
		</FormDialog>
	);
}

/** Taking a group away asks where its materials go. */
function Remove({ node, nodes, close }: { node: Node; nodes: readonly Node[]; close: () => void }) {
	const places = elsewhere(node, nodes);
	const [to, setTo] = useState(node.parent ?? "");
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const submit = async (): Promise<void> => {
		if (
			(await runMutation(
				"removeGroup",
				{ id: node.id, to: to === "" ? null : to },
				`The group ${node.name} is gone`,
				setError,
			)) !== null
		)
			close();
	};
	const below = nodes.length - places.length - 1;
	return (
		<FormDialog title={`Remove ${node.name}`} act="Remove it" ready submit={submit} close={close} error={error}>
			<Choose
				label={`Its ${counted(node.materials, "material")}${below > 0 ? ` and ${counted(below, "group")}` : ""} go to`}
				value={to}
				change={setTo}
				none="no group, at the top"
				options={places.map((n) => ({ id: n.id, name: n.path }))}
			/>
		</FormDialog>
	);
}
