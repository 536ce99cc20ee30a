import type { LibraryDetail } from "@alvek/contract";
import type { Issue } from "@alvek/core/result";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { SHARED, useAlone, useMe, useRoute } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { Access } from "../../shared/Grants";
import { History } from "../../shared/History";
import { Choose, Field, FormDialog } from "../../ui/Form";
import { Part } from "../../ui/Page";
import { Failure, Loading } from "../../ui/states";
import { counted } from "../../ui/words";
import { Duplicates } from "./duplicates/Duplicates";
import { Editions } from "./Editions";
import { Groups } from "./Groups";
import { LibraryTidying } from "./LibraryTidying";
import { LockBar } from "./LockBar";
import { OwnUses } from "./OwnUses";
import { Proposals } from "./Proposals";

/** One library as one page: what it is, who sees and changes it, groups, editions, upkeep, history. */
export function LibraryPage() {
	const { id = "" } = useParams();
	const library = useRoute("getLibrary", { id }, SHARED);
	if (library.isError) return <Failure error={library.error} retry={() => library.refetch()} />;
	if (library.data === undefined || library.data.id !== id) return <Loading what="The library" />;
	return <Library key={id} library={library.data} />;
}

function Library({ library }: { library: LibraryDetail }) {
	const alone = useAlone();
	const [editing, setEditing] = useState(false);
	const archived = library.archived;
	return (
		<section aria-label={library.name} className="flex-1 min-w-0 bg-card overflow-y-auto">
			<div className="max-w-240 px-6 py-4">
				<div className="flex items-start gap-3">
					<div className="min-w-0">
						<p className="caption">
							{library.supplied ? "Supplied library, read-only" : "Library"}
							{library.sets.length > 0 && `, in the set ${library.sets.map((s) => s.name).join(", ")}`}
						</p>
						<h1 className="text-3xl! leading-6.75! break-words">{library.name}</h1>
						{library.description !== "" && <p className="text-ink2 mt-0.5">{library.description}</p>}
					</div>
					<span className="ml-auto flex gap-1.5 shrink-0">
						{!archived && (
							<Link className="btn" to={`/materials?library=${library.id}`}>
								{counted(library.materials, "material")}
							</Link>
						)}
						{library.maySteward && (
							<button type="button" className="btn" onClick={() => setEditing(true)}>
								Settings…
							</button>
						)}
					</span>
				</div>
				<div className="mt-3 flex flex-col gap-2">
					{archived && (
						<p className="flex items-center bg-doubt-soft border-l-3 border-doubt px-3 min-h-10.5">
							Archived: it is in nobody's lists. Parts keep the revisions that they stand on.
							<button
								type="button"
								className="btn btn-small ml-auto"
								onClick={() => runMutation("changeLibrary", { id: library.id, archived: false }, `${library.name} is back.`)}
							>
								Bring it back
							</button>
						</p>
					)}
					<LockBar library={library} />
					<Proposals library={library} />
				</div>
				{!alone && <Access library={library} />}
				{!archived && <Groups library={library} />}
				<Editions library={library} />
				{!archived && <OwnUses library={library} />}
				{!archived && <LibraryTidying library={library} />}
				{!archived && <Duplicates library={library} />}
				<Part title="History">
					<History kind="library" id={library.id} />
				</Part>
			</div>
			{editing && <Settings library={library} close={() => setEditing(false)} />}
		</section>
	);
}

/** Name, purpose, owner, approval, lock, and putting the library away. */
function Settings({ library, close }: { library: LibraryDetail; close: () => void }) {
	const me = useMe();
	const alone = useAlone();
	const people = useRoute("listPeople", {});
	const [name, setName] = useState(library.name);
	const [description, setDescription] = useState(library.description);
	const [owner, setOwner] = useState(library.owner?.id ?? me?.id ?? "");
	const [approval, setApproval] = useState(library.approval);
	const [minutes, setMinutes] = useState(String(library.lockMinutes));
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const change = {
		...(name.trim() === library.name ? {} : { name }),
		...(description.trim() === library.description ? {} : { description }),
		...(owner === (library.owner?.id ?? "") || owner === "" ? {} : { owner }),
		...(approval === library.approval ? {} : { approval }),
		...(Number(minutes) === library.lockMinutes ? {} : { lockMinutes: Number(minutes) }),
	};
	const submit = async (): Promise<void> => {
		if (Object.keys(change).length === 0) return close();
		if ((await runMutation("changeLibrary", { id: library.id, ...change }, `${name.trim()}: settings saved.`, setError)) !== null)
			close();
	};
	const archive = async (): Promise<void> => {
		const said = `${library.name} is archived.`;
		if ((await runMutation("changeLibrary", { id: library.id, archived: true }, said, setError)) !== null) close();
	};
	return (
		<FormDialog
			title={`Settings of ${library.name}`}
			act="Save"
			ready={name.trim() !== ""}
			submit={submit}
			close={close}
			error={error}
		>
			<Field label="Name" value={name} change={setName} hint="Nobody's parts, links or editions depend on the name." />
			<Field label="What it is for" value={description} change={setDescription} />
			{!alone && (
				<>
					<Choose label="Kept by" value={owner} change={setOwner} options={people.data?.people.filter((p) => !p.left) ?? []} />
					{!library.supplied && (
						<>
							<label className="flex items-center gap-2">
								<input type="checkbox" className="checkbox" checked={approval} onChange={(e) => setApproval(e.target.checked)} />
								publishing asks a second person
							</label>
							<div className="w-47.5">
								<Field
									label="Lock closes itself after, min"
									value={minutes}
									change={setMinutes}
									type="number"
									hint="5 to 480, without use"
								/>
							</div>
						</>
					)}
				</>
			)}
			{!library.archived && (
				<button type="button" className="btn btn-ghost btn-small self-start" onClick={archive}>
					Archive the library
				</button>
			)}
		</FormDialog>
	);
}
