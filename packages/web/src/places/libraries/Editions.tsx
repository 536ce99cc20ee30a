import type { EditionView, LibraryDetail } from "@alvek/contract";
import { API_ROOT, writeList } from "@alvek/contract";
import type { Issue } from "@alvek/core/result";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { runMutation } from "../../api/runMutation";
import { isMany, runAsJob } from "../../live/asJob";
import { Field, FormDialog } from "../../ui/Form";
import { dayOf, Part } from "../../ui/Page";
import { counted } from "../../ui/words";

/** Frozen, numbered states of the library, the newest first. */
export function Editions({ library }: { library: LibraryDetail }) {
	const [freezing, setFreezing] = useState(false);
	const { editions } = library;
	return (
		<Part
			title="Editions"
			aside={
				<>
					{editions.length > 0 && (
						<Link className="btn btn-small" to={`/libraries/${library.id}/editions?from=${editions[0]?.no}&to=0`}>
							What changed since edition {editions[0]?.no}
						</Link>
					)}
					{(library.mayEdit || (library.supplied && library.maySteward)) && (
						<button type="button" className="btn btn-small" onClick={() => setFreezing(true)}>
							Freeze edition {library.edition + 1}…
						</button>
					)}
				</>
			}
		>
			{editions.length === 0 && (
				<p className="py-2 text-ink2">
					None yet. An edition is a frozen, numbered state that projects can follow and others can take in.
				</p>
			)}
			<ul>
				{editions.map((e, i) => (
					<EditionLine key={e.id} edition={e} library={library} before={editions[i + 1]?.no ?? null} />
				))}
			</ul>
			{freezing && <Freeze library={library} close={() => setFreezing(false)} />}
		</Part>
	);
}

function EditionLine({ edition, library, before }: { edition: EditionView; library: LibraryDetail; before: number | null }) {
	const navigate = useNavigate();
	const followers = [
		...edition.followers.map((f) => f.name),
		...(edition.hiddenFollowers > 0 ? [`${edition.hiddenFollowers} you may not see`] : []),
	];
	const draft = async (): Promise<void> => {
		const made = await runMutation("draftEdition", { id: library.id, no: String(edition.no) });
		if (made === null) return;
		const back = encodeURIComponent(`/libraries/${library.id}`);
		if (made.drafts.length > 0)
			void navigate(`/libraries/publish?ids=${encodeURIComponent(writeList(made.drafts))}&back=${back}&in=${library.id}`);
		else void navigate(`/libraries/${library.id}/editions?from=${edition.no}&to=0`);
	};
	return (
		<li className="border-b border-line2 py-2 flex items-start gap-2.5">
			<span className="min-w-0">
				<b>Edition {edition.no}</b>{" "}
				<span className="text-ink2">
					{dayOf(edition.at)} by {edition.by}, {counted(edition.materials, "material")}
					{edition.set !== null && `, with the set ${edition.set}`}
				</span>
				{edition.note !== "" && <span className="block">{edition.note}</span>}
				{followers.length > 0 && <span className="block caption">followed by {followers.join(", ")}</span>}
			</span>
			<span className="ml-auto flex gap-0.5 shrink-0">
				{before !== null && (
					<Link
						className="btn btn-ghost btn-small"
						to={`/libraries/${library.id}/editions?from=${before}&to=${edition.no}`}
						aria-label={`Edition ${edition.no} against edition ${before}`}
					>
						Against {before}
					</Link>
				)}
				<a
					className="btn btn-ghost btn-small"
					href={`${API_ROOT}/libraries/${library.id}/editions/${edition.no}/file.json`}
					aria-label={`Export edition ${edition.no}`}
				>
					Export
				</a>
				{library.mayEdit && (
					<button type="button" className="btn btn-ghost btn-small" onClick={draft} aria-label={`Restore edition ${edition.no}`}>
						Restore this edition…
					</button>
				)}
			</span>
		</li>
	);
}

function Freeze({ library, close }: { library: LibraryDetail; close: () => void }) {
	const [note, setNote] = useState("");
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const submit = async (): Promise<void> => {
		const said = `Edition ${library.edition + 1} of ${library.name} is frozen.`;
		const input = { id: library.id, note };
		if (isMany(library.materials)) {
			close();
			await runAsJob("freezeEdition", input, { what: `Freezing ${library.name}`, said: () => said });
		} else if ((await runMutation("freezeEdition", input, said, setError)) !== null) close();
	};
	return (
		<FormDialog
			title={`Freeze edition ${library.edition + 1}`}
			act="Freeze it"
			ready={note.trim() !== ""}
			submit={submit}
			close={close}
			error={error}
		>
			<p className="text-ink2">
				{counted(library.materials, "material")} as published now, with names, groups and codes. Drafts are not in it. An edition
				never changes.
			</p>
			<Field label="Note" value={note} change={setNote} hint="What it is for, or what is new in it." />
		</FormDialog>
	);
}
