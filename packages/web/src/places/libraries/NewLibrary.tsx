import type { LibraryView } from "@alvek/contract";
import type { Issue } from "@alvek/core/result";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { newId } from "../../api/client";
import { runMutation } from "../../api/runMutation";
import { isMany, runAsJob } from "../../live/asJob";
import { Choose, Field, FormDialog, Ticks } from "../../ui/Form";
import { TakeEdition } from "./TakeEdition";

type Way = "empty" | "copy" | "file" | "set";

const WAYS: readonly { readonly id: Way; readonly name: string; readonly says: string }[] = [
	{ id: "empty", name: "An empty library", says: "You are its steward and say who else reads and changes it." },
	{ id: "copy", name: "A copy of a library", says: "Every published material is copied; each remembers where it came from." },
	{ id: "file", name: "An edition from a file", says: "A supplied library, read-only; its next edition updates it." },
	{ id: "set", name: "A set of libraries", says: "Shared and frozen together." },
];

export function NewLibrary({ libraries, close }: { libraries: readonly LibraryView[]; close: () => void }) {
	const navigate = useNavigate();
	const id = useRef(newId());
	const [way, setWay] = useState<Way>("empty");
	const [name, setName] = useState("");
	const [description, setDescription] = useState("");
	const [from, setFrom] = useState(libraries[0]?.id ?? "");
	const [members, setMembers] = useState<readonly string[]>([]);
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const keep = libraries.filter((l) => l.maySteward && !l.archived);
	const submit = async (): Promise<void> => {
		const said = `${name.trim()} is there.`;
		const origin = libraries.find((l) => l.id === from);
		if (way === "copy" && isMany(origin?.materials ?? 0)) {
			close();
			const what = { what: `Copying ${origin?.name}`, said: () => said };
			const copied = await runAsJob("copyLibrary", { id: from, newId: id.current, name }, what);
			if (copied !== null) void navigate(`/libraries/${id.current}`);
			return;
		}
		const done =
			way === "set"
				? await runMutation("saveSet", { id: id.current, name, libraries: [...members] }, said, setError)
				: way === "copy"
					? await runMutation("copyLibrary", { id: from, newId: id.current, name }, said, setError)
					: await runMutation("createLibrary", { id: id.current, name, description }, said, setError);
		if (done === null) return;
		close();
		void navigate(way === "set" ? `/libraries/sets/${id.current}` : `/libraries/${id.current}`);
	};
	const choice = (
		<fieldset>
			<legend className="sr-only">What to make</legend>
			{WAYS.map((w) => (
				<label key={w.id} className="flex gap-2 py-1">
					<input type="radio" name="way" className="mt-0.75" checked={way === w.id} onChange={() => setWay(w.id)} />
					<span>
						<b>{w.name}</b>
						<span className="block caption">{w.says}</span>
					</span>
				</label>
			))}
		</fieldset>
	);
	if (way === "file") return <TakeEdition above={choice} close={close} />;
	const ready = name.trim() !== "" && (way !== "set" || members.length > 0) && (way !== "copy" || from !== "");
	return (
		<FormDialog
			title="New library"
			act={way === "set" ? "Make the set" : "Make the library"}
			ready={ready}
			submit={submit}
			close={close}
			error={error}
		>
			{choice}
			{way === "copy" && <Choose label="Copy of" value={from} change={setFrom} options={libraries} />}
			<Field label="Name" value={name} change={setName} />
			{way === "empty" && <Field label="What it is for" value={description} change={setDescription} />}
			{way === "set" && <Ticks legend="Libraries in it" options={keep} chosen={members} change={setMembers} />}
		</FormDialog>
	);
}
