import type { LibraryView, MaterialRow } from "@alvek/contract";
import { useQueries } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import { Link, useLocation } from "react-router";
import { routeQuery } from "../../../api/queries";
import { runMutation } from "../../../api/runMutation";
import { actOnMany } from "../../../shared/actOnMany";
import { CopyTo } from "../../../shared/CopyTo";
import { useTray } from "../../../stores/tray";
import { Popover } from "../../../ui/Popover";
import { counted } from "../../../ui/words";
import { trayItem } from "../trayItem";
import type { Marking } from "./useMarking";

/** What can be done with all marked materials at once. */
export function ManyBar({
	marking,
	libraries,
	copy,
}: {
	marking: Marking;
	libraries: readonly LibraryView[];
	/** Puts rows on the clipboard as the grid shows them. */
	copy: (rows: readonly MaterialRow[]) => void;
}) {
	const ids = [...marking.ids];
	const rows = useMarkedRows(ids);
	const drafted = rows.filter((r) => r.draftId !== null).slice(0, MOST_IN_ADDRESS);
	const location = useLocation();
	const places = [...new Set(rows.map((r) => r.libraryId))];
	const library = places.length === 1 ? libraries.find((l) => l.id === places[0]) : undefined;
	const mayEdit = library?.mayEdit === true;
	const [copying, setCopying] = useState(false);
	/** What was refused, or left alone after a question, stays marked. */
	const done = async (work: Promise<boolean>): Promise<void> => {
		if (await work) marking.clear();
	};
	return (
		<div
			role="toolbar"
			aria-label="Marked materials"
			className="shrink-0 min-h-10.5 flex items-center gap-0.5 px-3.5 border-t border-line bg-accent-soft flex-wrap"
		>
			<b className="whitespace-nowrap mr-2" aria-live="polite">
				{counted(ids.length, "material")} marked
			</b>
			<button
				type="button"
				className="btn btn-ghost btn-small"
				onClick={() => runMutation("starMany", { ids, on: !rows.every((r) => r.starred) })}
			>
				{rows.length > 0 && rows.every((r) => r.starred) ? "Unstar" : "Star"}
			</button>
			<button type="button" className="btn btn-ghost btn-small" onClick={() => addAll(rows)}>
				To tray
			</button>
			<button
				type="button"
				className="btn btn-ghost btn-small"
				title="Names, columns and units, for a spreadsheet (Ctrl+C)"
				disabled={rows.length < ids.length}
				onClick={() => copy(rows)}
			>
				Copy rows
			</button>
			{library !== undefined && (library.supplied || mayEdit) && (
				<button
					type="button"
					className="btn btn-ghost btn-small"
					onClick={() => {
						const on = !rows.every((r) => r.working);
						const said = on ? "On the working list" : "Off the working list";
						void runMutation("setWorking", { id: library.id, materials: ids, on }, said);
					}}
				>
					{rows.length > 0 && rows.every((r) => r.working) ? "Off the working list" : "Working list"}
				</button>
			)}
			{mayEdit && (
				<Popover label="Move to a group" small above button="Move…">
					<Choices
						name="Group"
						options={["", ...library.groups].map((g) => ({ id: g, name: g === "" ? "no group" : g }))}
						choose={(group) => done(actOnMany({ ids, act: "move", group }))}
					/>
				</Popover>
			)}
			<button type="button" className="btn btn-ghost btn-small" onClick={() => setCopying(true)}>
				Copy to…
			</button>
			{copying && (
				<CopyTo
					what={{ ids, ...named(ids, rows), from: places.length === 1 ? (places[0] ?? null) : null, mayMove: mayEdit }}
					close={() => setCopying(false)}
					done={marking.clear}
				/>
			)}
			{mayEdit && ids.length === 2 && (
				<Link className="btn btn-ghost btn-small" to={`/libraries/merge?keep=${ids[0]}&drop=${ids[1]}`}>
					Merge…
				</Link>
			)}
			{mayEdit && (
				<>
					{rows.some((r) => r.retired !== null) ? (
						<button type="button" className="btn btn-ghost btn-small" onClick={() => done(actOnMany({ ids, act: "revive" }))}>
							Into use again
						</button>
					) : (
						<button type="button" className="btn btn-ghost btn-small" onClick={() => done(actOnMany({ ids, act: "retire" }))}>
							Retire
						</button>
					)}
					<button type="button" className="btn btn-ghost btn-small" onClick={() => done(actOnMany({ ids, act: "remove" }))}>
						Delete
					</button>
				</>
			)}
			{drafted.length > 0 && (
				<Link
					className="btn btn-small ml-1.5"
					to={`/libraries/publish?ids=${drafted.map((r) => r.id).join(",")}&back=${encodeURIComponent(location.pathname + location.search)}`}
				>
					Publish {drafted.length === ids.length ? "" : `${drafted.length} of them`}…
				</Link>
			)}
			{places.length > 1 && <span className="caption ml-1.5">Mark those of one library to move, retire or delete them.</span>}
			<button type="button" className="btn btn-ghost btn-small ml-auto" aria-label="Unmark all" onClick={marking.clear}>
				<X size={14} aria-hidden />
			</button>
		</div>
	);
}

/** Drafts that one publish is offered for: their ids stand in an address, which a server takes up to 16 kB of. */
const MOST_IN_ADDRESS = 300;

/** Rows that one question asks for by their ids, which stand in its address. */
const CHUNK = 200;

/** The rows that are marked, as far as they are here. */
function useMarkedRows(ids: readonly string[]): readonly MaterialRow[] {
	const chunks = Array.from({ length: Math.ceil(ids.length / CHUNK) }, (_, i) => ids.slice(i * CHUNK, (i + 1) * CHUNK));
	return useQueries({
		queries: chunks.map((chunk) => routeQuery("getMaterials", { ids: chunk.join(",") })),
		combine: (answers) => answers.flatMap((a) => a.data ?? []),
	});
}

/** One by its name, several by their number. */
function named(ids: readonly string[], rows: readonly MaterialRow[]): { readonly name: string; readonly several: boolean } {
	const [only] = rows;
	return ids.length === 1 && only !== undefined
		? { name: only.name, several: false }
		: { name: counted(ids.length, "material"), several: true };
}

function addAll(rows: readonly MaterialRow[]): void {
	for (const row of rows) useTray.getState().add(trayItem(row));
}

function Choices({
	name,
	options,
	choose,
}: {
	name: string;
	options: readonly { readonly id: string; readonly name: string }[];
	choose: (id: string) => void;
}) {
	const [text, setText] = useState("");
	const fit = options.filter((o) => o.name.toLowerCase().includes(text.toLowerCase()));
	return (
		<div className="w-65 p-2">
			<input
				className="field mb-1.5"
				aria-label={`${name}, narrowed by text`}
				placeholder={name.toLowerCase()}
				value={text}
				onChange={(e) => setText(e.target.value)}
			/>
			<ul className="max-h-60 overflow-y-auto">
				{fit.map((o) => (
					<li key={o.id}>
						<button type="button" className="block w-full text-left px-2 h-7 hover:bg-sunk truncate" onClick={() => choose(o.id)}>
							{o.name}
						</button>
					</li>
				))}
			</ul>
		</div>
	);
}
