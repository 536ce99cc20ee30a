import { type Edit, type MaterialValue, SOURCE_KINDS, type Source } from "@alvek/core/material";
import { useState } from "react";
import { newId } from "../../api/client";
import { showIssues } from "../../api/refusals";
import { leaveOnEscape } from "../../ui/Leavable";
import { useSheet } from "./context";
import { keepSource, useKeptSources } from "./keptSources";

export const SOURCE_WORD: Readonly<Record<(typeof SOURCE_KINDS)[number], string>> = {
	document: "document",
	standard: "standard",
	"lab-report": "lab report",
	web: "web address",
	person: "person’s note",
};

/** The source of a value: a record of this sheet or the library, a new one, or plain words. */
export function SourceField({ value, name }: { value: MaterialValue; name: string }) {
	const { material, draft, sheet } = useSheet();
	const { sources } = material;
	const library = sheet.row.libraryId;
	const kept = useKeptSources(library);
	const [making, setMaking] = useState(false);
	const others = kept.filter((s) => sources[s.id] === undefined);
	/** A record that the sheet does not hold yet comes with the value that names it. */
	const put = (to: MaterialValue, added: { readonly id: string; readonly content: Source } | null): void => {
		const edits: Edit[] = added === null ? [] : [{ at: `sources:${added.id}`, from: null, to: added.content }];
		draft?.commit([...edits, { at: value.id, from: value, to }], `source of ${name}`);
	};
	const choose = (id: string): void => {
		if (id === "new") return setMaking(true);
		const { sourceId: _id, source: _words, ...rest } = value;
		if (id === "") return put(rest as MaterialValue, null);
		const added = sources[id] === undefined ? others.find((s) => s.id === id) : undefined;
		put({ ...rest, sourceId: id } as MaterialValue, added === undefined ? null : { id, content: added.content });
	};
	if (making) {
		return (
			<SourceForm
				onDone={async (content) => {
					const id = newId();
					const saved = await keepSource(library, id, 0, content);
					if (!saved.ok) return showIssues(saved.issues);
					setMaking(false);
					const { sourceId: _id, source: _words, ...rest } = value;
					put({ ...rest, sourceId: id } as MaterialValue, { id, content: saved.value });
				}}
				onLeave={() => setMaking(false)}
			/>
		);
	}
	return (
		<label className="block col-span-2">
			<span className="caption">
				Source{value.source !== undefined && value.sourceId === undefined && ` in words: ${value.source}`}
			</span>
			<select aria-label="Source" className="field" value={value.sourceId ?? ""} onChange={(e) => choose(e.target.value)}>
				<option value="">{value.source === undefined ? "unspecified" : value.source}</option>
				{Object.entries(sources).map(([id, s]) => (
					<option key={id} value={id}>
						{s.title}
					</option>
				))}
				{others.length > 0 && (
					<optgroup label="of the library">
						{others.map((s) => (
							<option key={s.id} value={s.id}>
								{s.content.title}
							</option>
						))}
					</optgroup>
				)}
				<option value="new">a new source…</option>
			</select>
		</label>
	);
}

/** Kind, title, edition, address, date, test conditions of a source. */
export function SourceForm({
	first,
	onDone,
	onLeave,
}: {
	first?: Source;
	onDone: (content: Source) => void;
	onLeave: () => void;
}) {
	const submit = (form: HTMLFormElement): void => {
		const data = new FormData(form);
		const filled = [...data.entries()].map(([k, v]) => [k, String(v).trim()] as const).filter(([, v]) => v !== "");
		const content = { ...(first?.text === undefined ? {} : { text: first.text }), ...Object.fromEntries(filled) } as Source;
		onDone(content);
	};
	return (
		<form
			className="col-span-3 grid grid-cols-3 gap-2 border-l-3 border-primary pl-2.5"
			onKeyDown={leaveOnEscape(onLeave)}
			onSubmit={(e) => {
				e.preventDefault();
				submit(e.currentTarget);
			}}
		>
			<label className="block">
				<span className="caption">Kind of source</span>
				<select name="kind" className="field" defaultValue={first?.kind ?? "document"}>
					{SOURCE_KINDS.map((k) => (
						<option key={k} value={k}>
							{SOURCE_WORD[k]}
						</option>
					))}
				</select>
			</label>
			<label className="block col-span-2">
				<span className="caption">Title</span>
				<input
					name="title"
					required
					maxLength={400}
					className="field"
					defaultValue={first?.title}
					placeholder="Tolvane supplier page"
				/>
			</label>
			<label className="block">
				<span className="caption">Edition or number</span>
				<input name="edition" maxLength={400} className="field" defaultValue={first?.edition} />
			</label>
			<label className="block">
				<span className="caption">Date</span>
				<input name="date" type="date" className="field" defaultValue={first?.date} />
			</label>
			<label className="block">
				<span className="caption">Address</span>
				<input name="address" maxLength={400} className="field" defaultValue={first?.address} placeholder="https://" />
			</label>
			<label className="block col-span-2">
				<span className="caption">Test conditions</span>
				<input
					name="conditions"
					maxLength={400}
					className="field"
					defaultValue={first?.conditions}
					placeholder="23 °C, 50 % humidity, bars from 10 mm"
				/>
			</label>
			<div className="flex items-end gap-1.5">
				<button type="submit" className="btn">
					Keep this source
				</button>
				<button type="button" className="btn btn-ghost" onClick={onLeave}>
					Leave it
				</button>
			</div>
		</form>
	);
}
