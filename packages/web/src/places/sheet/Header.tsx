import type { Sheet } from "@alvek/contract";
import { API_ROOT } from "@alvek/contract";
import { familyName } from "@alvek/core/property";
import { ArrowDownToLine, Copy, FileDown, GitFork, Printer, Sigma } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { mutate, undoEvent } from "../../api/mutate";
import { sentences, useRoute } from "../../api/queries";
import { AlikeNames } from "../../shared/Alike";
import { CopyTo } from "../../shared/CopyTo";
import { useTargetLibrary } from "../../shared/targetLibrary";
import { showToast } from "../../stores/toasts";
import { useTray } from "../../stores/tray";
import { Swatch } from "../../ui/marks";
import { useSheet } from "./context";
import { RevisionBar } from "./RevisionBar";

const BASED = {
	variant: "Variant of",
	copy: "Copy of",
	similar: "Based on",
	local: "Changed here from",
	layer: "Own layer over the supplied",
} as const;

export function Header() {
	const { sheet, material, revision, draft } = useSheet();
	const navigate = useNavigate();
	const { row, mayEdit, base } = sheet;
	const values = Object.values(material.values);
	const carried = values.filter((v) => v.carried !== undefined).length;
	const follow = values.filter((v) => v.follows !== undefined).length;
	const family = material.family === null ? "family unspecified" : familyName(material.family);
	const words = [family, material.condition, material.productForm, row.library, row.group, row.itemCode].filter((w) => w !== "");
	return (
		<header className="pt-4 flex gap-3 items-start max-md:flex-wrap">
			<Swatch colour={material.colour} tall />
			<div className="min-w-0 flex-1">
				<Name sheet={sheet} editable={draft !== null && mayEdit} />
				<p className="text-ink2">{words.join(" · ")}</p>
				{base && (
					<p className="caption">
						{BASED[base.kind]}{" "}
						<Link className="quiet-link" to={`/materials/${base.id}`}>
							{base.name}
						</Link>{" "}
						rev {base.revision}: {values.length - carried - follow} of {values.length} values its own, {carried} carried over,{" "}
						{follow} following{" "}
						{base.headRevision > base.revision && <span className="tag tag-note">behind, rev {base.headRevision} is out</span>}{" "}
						<Link className="quiet-link text-ink2!" to="values">
							beside the base
						</Link>
					</p>
				)}
				<RevisionBar />
				{row.retired !== null && (
					<p className="mt-1">
						<span className="tag tag-doubt">retired</span>{" "}
						{row.retired.successor !== null && (
							<>
								use{" "}
								<Link className="quiet-link" to={`/materials/${row.retired.successor.id}`}>
									{row.retired.successor.name}
								</Link>{" "}
								instead
							</>
						)}
					</p>
				)}
				{row.supplied && <span className="tag tag-note mt-1">supplied, read-only</span>}
				{row.libraryId.startsWith("project:") && <span className="tag tag-note mt-1">of this project only</span>}
			</div>
			<div className="flex flex-wrap justify-end gap-1.5 shrink-0 max-md:w-full max-md:justify-start">
				<Link
					className="btn btn-ghost btn-icon"
					to={`/solver?ids=${row.id}`}
					aria-label="For the solver"
					title="For the solver: what a use needs, in consistent units"
				>
					<Sigma size={16} aria-hidden />
				</Link>
				<Link
					className="btn btn-ghost btn-icon"
					to={`/materials?create=${row.id}`}
					aria-label="Make a variant or a similar one"
					title="Make a variant or a similar one"
				>
					<GitFork size={16} aria-hidden />
				</Link>
				<Link
					className="btn btn-ghost btn-icon"
					to={`/paper?ids=${row.id}${revision === null ? "" : `@${revision}`}`}
					aria-label="Print"
					title="Print, or save as PDF"
				>
					<Printer size={16} aria-hidden />
				</Link>
				<a
					className="btn btn-ghost btn-icon"
					href={`${API_ROOT}/materials/${row.id}/export.json`}
					aria-label="Export the sheet as JSON"
					title="Export the sheet as JSON"
				>
					<FileDown size={16} aria-hidden />
				</a>
				<button
					type="button"
					className="btn"
					onClick={() =>
						useTray
							.getState()
							.add({ id: row.id, name: row.name, colour: material.colour, revision: row.revision, draft: row.draftId !== null })
					}
				>
					<ArrowDownToLine size={14} aria-hidden /> To tray
				</button>
				{row.revision > 0 && <CopyButton sheet={sheet} />}
				{draft !== null && row.draftId !== null && mayEdit && (
					<button
						type="button"
						className="btn btn-primary"
						onClick={async () => {
							// what was typed last has to be on the server before its effects are asked for
							await draft.flush();
							void navigate(`/libraries/publish?ids=${row.id}&in=${row.libraryId}`);
						}}
					>
						Publish draft…
					</button>
				)}
			</div>
		</header>
	);
}

/** The name is on the row, not in the document: renaming makes no revision. */
function Name({ sheet, editable }: { sheet: Sheet; editable: boolean }) {
	const { row } = sheet;
	const [typed, setTyped] = useState<string | null>(null);
	const [error, setError] = useState<string | null>(null);
	if (!editable || typed === null) {
		const title = <span className="text-4xl leading-7 font-bold break-words">{row.name}</span>;
		return (
			<h1 className="min-w-0">
				{editable ? (
					<button
						type="button"
						className="text-left hover:underline decoration-line underline-offset-4"
						title="Rename; this makes no new revision"
						onClick={() => setTyped(row.name)}
					>
						{title}
					</button>
				) : (
					title
				)}
			</h1>
		);
	}
	const save = async (): Promise<void> => {
		if (typed.trim() === row.name) return setTyped(null);
		const result = await mutate("changeMaterial", { id: row.id, name: typed });
		if (!result.ok) return setError(sentences(result.issues));
		setTyped(null);
		setError(null);
		const what = `${row.name} renamed`;
		showToast({
			tone: "plain",
			text: `${what} to ${typed.trim()}`,
			action: { label: "Undo", run: () => undoEvent(result.value.event, what) },
		});
	};
	return (
		<div>
			<input
				// biome-ignore lint/a11y/noAutofocus: the person has just asked to rename
				autoFocus
				className="field text-2xl! font-bold h-9!"
				aria-label="Name"
				aria-invalid={error !== null}
				value={typed}
				onChange={(e) => setTyped(e.target.value)}
				onKeyDown={(e) => {
					if (e.key === "Enter") void save();
					if (e.key === "Escape") setTyped(null);
				}}
				// whoever goes to look at the other one has not decided on the name
				onBlur={(e) => e.relatedTarget?.closest("[data-alike]") == null && save()}
			/>
			{typed.trim() !== row.name && (
				<div data-alike>
					<AlikeNames name={typed} material={row.id} />
				</div>
			)}
			{error && (
				<p role="alert" className="text-wrong">
					{error}
				</p>
			)}
		</div>
	);
}

/** Supplied ones are changed in a copy of one's own; one's own ones may stand in another library, or move there. */
function CopyButton({ sheet }: { sheet: Sheet }) {
	const { row, mayEdit } = sheet;
	const navigate = useNavigate();
	const [open, setOpen] = useState(false);
	const libraries = useRoute("listLibraries", {});
	const target = useTargetLibrary((libraries.data ?? []).filter((l) => l.id !== row.libraryId));
	if (target === undefined) return null;
	return (
		<>
			<button type="button" className={row.supplied ? "btn btn-primary" : "btn"} onClick={() => setOpen(true)}>
				<Copy size={14} aria-hidden /> {row.supplied ? `Copy to ${target.name}…` : "Copy or move…"}
			</button>
			{open && (
				<CopyTo
					what={{ ids: [row.id], name: row.name, several: false, from: row.libraryId, mayMove: mayEdit }}
					close={() => setOpen(false)}
					done={([id]) => id !== undefined && navigate(`/materials/${id}`)}
				/>
			)}
		</>
	);
}
