import type { Sheet } from "@alvek/contract";
import { BLANK, classify, difference, type Edit, type Material, type MaterialValue } from "@alvek/core/material";
import { property } from "@alvek/core/property";
import { type FormEvent, useState } from "react";
import { call } from "../../api/client";
import { queryClient, refreshAll, sentences } from "../../api/queries";
import { useUnitSet } from "../../stores/preferences";
import { showToast } from "../../stores/toasts";
import { plainUnit, unitFor, valueText } from "../../ui/Quantity";
import type { Draft } from "./useDraft";

const CLASSES = { words: "words or look", "values-added": "values added", "values-changed": "a value changes" } as const;

/** What changes and what it touches, a note, one act. */
export function Publish({ sheet, material, draft, checks }: { sheet: Sheet; material: Material; draft: Draft; checks: number }) {
	const [note, setNote] = useState("");
	const [error, setError] = useState<string | null>(null);
	const [busy, setBusy] = useState(false);
	const edits = difference(sheet.published ?? BLANK, material);
	const next = sheet.row.revision + 1;
	const behind = sheet.whereUsed.filter((u) => u.revision > 0);
	const trying = sheet.whereUsed.filter((u) => u.revision === 0);

	const publish = async (e: FormEvent): Promise<void> => {
		e.preventDefault();
		setBusy(true);
		await draft.flush();
		const fresh = await call("getSheet", { id: sheet.row.id });
		const version = fresh.ok ? fresh.value.row.draftVersion : sheet.row.draftVersion;
		const result = await call("publishDraft", { id: sheet.row.id, note, version });
		setBusy(false);
		if (!result.ok) return setError(sentences(result.issues));
		queryClient.removeQueries({ queryKey: ["getRevision"] });
		await refreshAll();
		const moved = result.value.movedParts;
		showToast({
			tone: "plain",
			text: `Revision ${result.value.revision} of ${sheet.row.name} is out.${moved > 0 ? ` ${moved} tried parts stand on it now.` : ""}`,
		});
	};
	const discard = async (): Promise<void> => {
		await draft.flush();
		const result = await call("discardDraft", { id: sheet.row.id });
		if (!result.ok) return setError(sentences(result.issues));
		await refreshAll();
		const { event } = result.value;
		const run = async (): Promise<void> => {
			await call("undo", { event });
			await refreshAll();
		};
		showToast({ tone: "plain", text: "The draft is thrown away.", action: { label: "Undo", run } });
	};

	return (
		<form onSubmit={publish} className="w-[440px] p-[16px] max-h-[70vh] overflow-y-auto">
			<h2 className="text-[15px] font-bold">
				{sheet.row.name}, {sheet.row.revision === 0 ? "first issue" : `revision ${sheet.row.revision} → ${next}`}
			</h2>
			<p className="mb-[10px]">
				<span className="tag tag-note">{CLASSES[classify(edits)]}</span>
			</p>
			<h3 className="rule-head">
				What changes{" "}
				<span className="caption font-normal">
					{edits.length} {edits.length === 1 ? "place" : "places"}
				</span>
			</h3>
			<ul className="mb-[12px]">
				{edits.slice(0, 30).map((edit) => (
					<ChangeLine key={edit.at} edit={edit} />
				))}
				{edits.length > 30 && <li className="caption py-[4px]">and {edits.length - 30} more</li>}
				{edits.length === 0 && <li className="caption py-[4px]">Nothing differs from revision {sheet.row.revision}.</li>}
			</ul>
			{sheet.whereUsed.length > 0 && (
				<>
					<h3 className="rule-head">
						What it touches <span className="caption font-normal">nothing moves until a project brings it forward</span>
					</h3>
					<ul className="mb-[12px]">
						{behind.map((u) => (
							<li key={`${u.projectId} ${u.revision}`} className="flex py-[3px] border-b border-line2">
								{u.project}
								<span className="ml-auto caption">
									{u.parts.join(", ")} on rev {u.revision}: <span className="tag tag-note">behind</span>
								</span>
							</li>
						))}
						{trying.map((u) => (
							<li key={u.projectId} className="flex py-[3px] border-b border-line2">
								{u.project}
								<span className="ml-auto caption">
									{u.parts.join(", ")} try this draft and move on to revision {next}
								</span>
							</li>
						))}
					</ul>
				</>
			)}
			<label className="block mb-[10px]">
				<span className="font-semibold">Note</span>
				<textarea
					className="area mt-[3px]"
					rows={2}
					maxLength={2000}
					required
					value={note}
					onChange={(e) => setNote(e.target.value)}
					placeholder="why, and from what source"
				/>
			</label>
			{checks > 0 && (
				<p className="caption mb-[10px]">
					<span className="tag tag-doubt">{checks === 1 ? "1 check open" : `${checks} checks open`}</span> They do not stand in
					the way.
				</p>
			)}
			{error && (
				<p role="alert" className="text-wrong mb-[10px]">
					{error}
				</p>
			)}
			<div className="flex gap-[8px]">
				<button type="submit" className="btn btn-primary" disabled={busy || note.trim() === "" || edits.length === 0}>
					Publish revision {next}
				</button>
				{sheet.row.revision > 0 && (
					<button type="button" className="btn btn-ghost" onClick={discard}>
						Throw the draft away
					</button>
				)}
			</div>
		</form>
	);
}

const FIELD_NAMES: Readonly<Record<string, string>> = { productForm: "product form", colour: "look" };

function ChangeLine({ edit }: { edit: Edit }) {
	const isField = edit.at.startsWith("field:");
	const field = edit.at.slice(6);
	const value = (edit.to ?? edit.from) as MaterialValue;
	const name = isField ? (FIELD_NAMES[field] ?? field) : property(value.property).name;
	return (
		<li className="flex gap-[8px] py-[3px] border-b border-line2">
			<span className="w-[140px] shrink-0 capitalize-first">{name}</span>
			<span className="text-ink3 line-through min-w-0 break-words">
				{isField ? fieldWords(edit.from) : <ValueWords value={edit.from as MaterialValue | null} />}
			</span>
			<span aria-hidden>→</span>
			<span className="font-semibold min-w-0 break-words">
				{isField ? fieldWords(edit.to) || "blank" : <ValueWords value={edit.to as MaterialValue | null} />}
			</span>
		</li>
	);
}

function ValueWords({ value }: { value: MaterialValue | null }) {
	const unitSet = useUnitSet();
	if (value === null) return <>blank</>;
	return (
		<>
			{valueText(value, unitSet)} {plainUnit(unitFor(value, unitSet))}
			{value.carried !== undefined && ", carried over"}
		</>
	);
}

function fieldWords(content: unknown): string {
	if (content === null || content === undefined) return "";
	if (Array.isArray(content)) return content.map((d: { text: string }) => d.text).join(", ");
	if (typeof content === "object") return Object.values(content).join(" ");
	const text = String(content);
	return text.length > 60 ? `${text.slice(0, 60)}…` : text;
}
