import type { LibraryDetail, OwnUseView } from "@alvek/contract";
import { type OwnUse, ownUseId, PURPOSES } from "@alvek/core/material";
import { entryName, FORMS, inSentence, type OwnProperty, PROPERTIES, SECTIONS } from "@alvek/core/property";
import type { Issue } from "@alvek/core/result";
import { Pencil, Plus, X } from "lucide-react";
import { useId, useState } from "react";
import { Link } from "react-router";
import { newId } from "../../api/client";
import { useRoute } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { PURPOSE_WORD } from "../../shared/fileWords";
import { Choose, Field, FormDialog } from "../../ui/Form";
import { Part } from "../../ui/Page";
import { listed } from "../../ui/words";

/** Uses that the library adds to the built-in ones: a name, the entries and the file that they need. */
export function OwnUses({ library }: { library: LibraryDetail }) {
	const uses = useRoute("listOwnUses", { id: library.id });
	const [open, setOpen] = useState<OwnUseView | "new" | null>(null);
	const here = (uses.data ?? []).filter((u) => !u.content.off);
	return (
		<Part
			title="Uses of its own"
			aside={
				library.mayEdit && (
					<button type="button" className="btn btn-small" onClick={() => setOpen("new")}>
						<Plus size={14} aria-hidden /> New use
					</button>
				)
			}
		>
			{here.length === 0 && (
				<p className="py-2 text-ink2">
					None. A use names what a material needs for something that you do often; sheets, filters and choosers then tell which
					ones are ready.
				</p>
			)}
			<ul aria-label="Uses of its own">
				{here.map((use) => (
					<li key={use.content.uid} className="flex items-baseline gap-2 min-h-8 py-1 border-b border-line2">
						<Link
							to={`/materials?library=${library.id}&ready=${ownUseId(use.content.uid)}`}
							className="font-semibold hover:underline decoration-line underline-offset-4"
							title="Materials that are ready for it"
						>
							{use.content.name}
						</Link>
						<span className="caption min-w-0">needs {needsInWords(use.content, library.ownProperties)}</span>
						{library.mayEdit && (
							<button
								type="button"
								className="btn btn-ghost btn-small px-1! ml-auto"
								aria-label={`Change the use ${use.content.name}`}
								onClick={() => setOpen(use)}
							>
								<Pencil size={13} aria-hidden />
							</button>
						)}
					</li>
				))}
			</ul>
			{open !== null && <UseForm library={library} existing={open === "new" ? null : open} close={() => setOpen(null)} />}
		</Part>
	);
}

function nameOfEntry(id: string, own: readonly OwnProperty[]): string {
	return own.find((p) => id === `own:${p.uid}`)?.name ?? inSentence(entryName(id));
}

/** `density, hardness and a test report that ends in .pdf` */
function needsInWords({ needs, file }: OwnUse, own: readonly OwnProperty[]): string {
	const ending = file === null || file.ending === "" ? "" : ` that ends in .${file.ending}`;
	return listed([
		...needs.map((id) => nameOfEntry(id, own)),
		...(file === null ? [] : [`a ${PURPOSE_WORD[file.purpose]}${ending}`]),
	]);
}

function UseForm({ library, existing, close }: { library: LibraryDetail; existing: OwnUseView | null; close: () => void }) {
	const before = existing?.content;
	const [name, setName] = useState(before?.name ?? "");
	const [needs, setNeeds] = useState<readonly string[]>(before?.needs ?? []);
	const [purpose, setPurpose] = useState<string>(before?.file?.purpose ?? "");
	const [ending, setEnding] = useState(before?.file?.ending ?? "");
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const keep = async (off: boolean): Promise<void> => {
		const file = purpose === "" ? null : { purpose, ending: ending.trim().replace(/^\./, "") };
		const content = { uid: before?.uid ?? newId(), name, needs, file, off };
		const said = off ? `${name} is no use of ${library.name} any more.` : `${name.trim()} is a use of ${library.name} now.`;
		const input = { id: library.id, version: existing?.version ?? 0, content };
		if ((await runMutation("saveOwnUse", input, said, setError)) !== null) close();
	};
	return (
		<FormDialog
			title={before === undefined ? `New use in ${library.name}` : `The use ${before.name}`}
			act={before === undefined ? "Add the use" : "Save"}
			ready={name.trim() !== "" && (needs.length > 0 || purpose !== "")}
			submit={() => void keep(false)}
			close={close}
			error={error}
		>
			<Field label="Name of the use" value={name} change={setName} hint="As it follows “ready for”: wear on sand." />
			<Entries needs={needs} change={setNeeds} own={library.ownProperties} />
			<Choose
				label="Attached file that it needs"
				value={purpose}
				change={setPurpose}
				none="none"
				options={PURPOSES.map((p) => ({ id: p, name: PURPOSE_WORD[p] }))}
			/>
			{purpose !== "" && <Field label="Ending of its name" value={ending} change={setEnding} hint="Such as pdf; blank: any." />}
			{before !== undefined && (
				<button type="button" className="btn btn-ghost self-start -ml-2.5" onClick={() => keep(true)}>
					Put this use away
				</button>
			)}
		</FormDialog>
	);
}

/** The entries that a use needs, one after the other; each is needed. */
function Entries({
	needs,
	change,
	own,
}: {
	needs: readonly string[];
	change: (needs: readonly string[]) => void;
	own: readonly OwnProperty[];
}) {
	const id = useId();
	const all = [...PROPERTIES, ...FORMS];
	return (
		<div>
			<label htmlFor={id} className="block mb-0.75 font-semibold">
				Entries that it needs
			</label>
			{needs.length > 0 && (
				<ul className="flex flex-wrap gap-1 mb-1.5" aria-label="Needed entries">
					{needs.map((need) => (
						<li key={need} className="inline-flex items-center gap-1 border border-line rounded-md pl-2 h-6.5">
							{nameOfEntry(need, own)}
							<button
								type="button"
								className="px-1 h-full text-ink2 hover:text-ink"
								aria-label={`Not needed: ${nameOfEntry(need, own)}`}
								onClick={() => change(needs.filter((n) => n !== need))}
							>
								<X size={12} aria-hidden />
							</button>
						</li>
					))}
				</ul>
			)}
			<select id={id} className="field" value="" onChange={(e) => e.target.value !== "" && change([...needs, e.target.value])}>
				<option value="">add an entry…</option>
				{own.length > 0 && (
					<optgroup label="of this library">
						{own
							.filter((p) => !needs.includes(`own:${p.uid}`))
							.map((p) => (
								<option key={p.uid} value={`own:${p.uid}`}>
									{p.name}
								</option>
							))}
					</optgroup>
				)}
				{SECTIONS.map((s) => (
					<optgroup key={s.id} label={s.name}>
						{all
							.filter((p) => p.section === s.id && !needs.includes(p.id))
							.map((p) => (
								<option key={p.id} value={p.id}>
									{p.name}
								</option>
							))}
					</optgroup>
				))}
			</select>
		</div>
	);
}
