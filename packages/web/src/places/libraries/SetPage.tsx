import type { SetView } from "@alvek/contract";
import type { Issue } from "@alvek/core/result";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { useRoute } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { isMany, runAsJob } from "../../live/asJob";
import { Grants } from "../../shared/Grants";
import { Field, FormDialog, Ticks } from "../../ui/Form";
import { Part } from "../../ui/Page";
import { Failure, Loading } from "../../ui/states";

const ROLES = [
	{ id: "reader", label: "reads all of them" },
	{ id: "editor", label: "drafts and publishes in all of them" },
	{ id: "steward", label: "steward of all of them" },
];

/** Several libraries that are shared and frozen together. */
export function SetPage() {
	const { id = "" } = useParams();
	const sets = useRoute("listSets", {});
	if (sets.isError) return <Failure error={sets.error} retry={() => sets.refetch()} />;
	if (sets.data === undefined) return <Loading what="The set" />;
	const set = sets.data.find((s) => s.id === id);
	return set === undefined ? (
		<p className="flex-1 bg-card p-8">This set is not here, or you may not see it.</p>
	) : (
		<OneSet key={id} set={set} />
	);
}

function OneSet({ set }: { set: SetView }) {
	const navigate = useNavigate();
	const [freezing, setFreezing] = useState(false);
	const [changing, setChanging] = useState(false);
	const remove = async (): Promise<void> => {
		if ((await runMutation("removeSet", { id: set.id }, `The set ${set.name} is taken apart; its libraries stay.`)) !== null)
			void navigate("/libraries");
	};
	return (
		<section aria-label={set.name} className="flex-1 min-w-0 bg-card overflow-y-auto">
			<div className="max-w-240 px-6 py-4">
				<div className="flex items-start gap-3">
					<div>
						<p className="caption">
							Set of libraries{set.edition > 0 && `, frozen ${set.edition === 1 ? "once" : `${set.edition} times`}`}
						</p>
						<h1 className="text-3xl! leading-6.75!">{set.name}</h1>
					</div>
					{set.maySteward && (
						<span className="ml-auto flex gap-1.5">
							<button type="button" className="btn" onClick={() => setChanging(true)}>
								Change…
							</button>
							<button type="button" className="btn" onClick={remove}>
								Take it apart
							</button>
							<button type="button" className="btn btn-primary" onClick={() => setFreezing(true)}>
								Freeze together…
							</button>
						</span>
					)}
				</div>
				<Part title="Libraries in it">
					<ul>
						{set.libraries.map((l) => (
							<li key={l.id} className="border-b border-line2 py-1.5">
								<Link className="quiet-link font-semibold" to={`/libraries/${l.id}`}>
									{l.name}
								</Link>
							</li>
						))}
					</ul>
				</Part>
				{set.maySteward && (
					<Part title="Shared together with">
						<Grants
							grants={set.grants.map(({ through: _set, ...g }) => g)}
							roles={ROLES}
							give={(by, subject, role) =>
								runMutation(
									"shareSet",
									{ id: set.id, by, subject, role: role as "reader" | null },
									role === null ? "The role is removed." : "The role is given.",
								)
							}
						/>
					</Part>
				)}
			</div>
			{freezing && <FreezeSet set={set} close={() => setFreezing(false)} />}
			{changing && <ChangeSet set={set} close={() => setChanging(false)} />}
		</section>
	);
}

function FreezeSet({ set, close }: { set: SetView; close: () => void }) {
	const libraries = useRoute("listLibraries", {}).data ?? [];
	const [note, setNote] = useState("");
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const submit = async (): Promise<void> => {
		const [input, said] = [{ id: set.id, note }, `${set.name} is frozen.`];
		const materials = libraries.filter((l) => set.libraries.some((m) => m.id === l.id)).reduce((n, l) => n + l.materials, 0);
		if (isMany(materials)) {
			close();
			await runAsJob("freezeSet", input, { what: `Freezing ${set.name}`, said: () => said });
		} else if ((await runMutation("freezeSet", input, said, setError)) !== null) close();
	};
	return (
		<FormDialog
			title={`Freeze ${set.name}`}
			act="Freeze all of them"
			ready={note.trim() !== ""}
			submit={submit}
			close={close}
			error={error}
		>
			<p className="text-ink2">
				Each library gets its next edition, or keeps the one that it has when nothing changed. All of them, or none.
			</p>
			<Field label="Note" value={note} change={setNote} />
		</FormDialog>
	);
}

function ChangeSet({ set, close }: { set: SetView; close: () => void }) {
	const libraries = useRoute("listLibraries", {});
	const [name, setName] = useState(set.name);
	const [members, setMembers] = useState<readonly string[]>(set.libraries.map((l) => l.id));
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const submit = async (): Promise<void> => {
		if ((await runMutation("saveSet", { id: set.id, name, libraries: [...members] }, "The set is changed.", setError)) !== null)
			close();
	};
	return (
		<FormDialog
			title={`Change ${set.name}`}
			act="Save"
			ready={name.trim() !== "" && members.length > 0}
			submit={submit}
			close={close}
			error={error}
		>
			<Field label="Name" value={name} change={setName} />
			<Ticks
				legend="Libraries in it"
				options={libraries.data?.filter((l) => l.maySteward) ?? []}
				chosen={members}
				change={setMembers}
			/>
		</FormDialog>
	);
}
