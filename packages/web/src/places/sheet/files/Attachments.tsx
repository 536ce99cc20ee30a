import type { StoredFile } from "@alvek/contract";
import { mismatch } from "@alvek/core/file";
import { type Attachment, LIMITS, PURPOSES } from "@alvek/core/material";
import { Download, Paperclip, Trash2 } from "lucide-react";
import { useRef, useState } from "react";
import { newId } from "../../../api/client";
import { fileAddress, uploadFile } from "../../../api/files";
import { showIssues } from "../../../api/refusals";
import { guessPurpose, PURPOSE_WORD, sizeText } from "../../../shared/fileWords";
import { showToast } from "../../../stores/toasts";
import { useSheet } from "../context";

/** Files of the record: stored and described, given back as downloads, never opened here. */
export function Attachments() {
	const { material, draft, sheet } = useSheet();
	const [progress, setProgress] = useState<{ name: string; share: number; stop: () => void } | null>(null);
	const [dropping, setDropping] = useState(false);
	const picker = useRef<HTMLInputElement>(null);
	/** The entry that the next chosen file replaces; null: a new one. */
	const replaces = useRef<string | null>(null);
	const entries = Object.entries(material.attachments).sort(([, a], [, b]) => (a.name < b.name ? -1 : 1));

	const take = async (file: File): Promise<void> => {
		if (draft === null) return;
		const abort = new AbortController();
		const report = (share: number): void => setProgress({ name: file.name, share, stop: () => abort.abort() });
		report(0);
		const result = await uploadFile(sheet.row.id, file, "attachment", { onProgress: report, signal: abort.signal });
		setProgress(null);
		if (!result.ok) return showIssues(result.issues);
		const id = replaces.current ?? newId();
		const before = material.attachments[id] ?? null;
		draft.commit([{ at: `attachments:${id}`, from: before, to: entryOf(result.value, before) }], "file attached");
		showToast({
			tone: "plain",
			text: `${result.value.name} is attached to your draft.`,
			action: { label: "Undo", run: () => draft.undo() },
		});
	};
	/** Filled from the material as far as it says something. */
	const entryOf = ({ hash, bytes, name, format }: StoredFile, before: Attachment | null): Attachment => {
		const { supplier, designations, condition } = material;
		const about = [designations[0]?.text ?? sheet.row.name, condition, supplier].filter((w) => w !== "").join(", ");
		return {
			name,
			format,
			hash,
			bytes,
			purpose: before?.purpose ?? guessPurpose(name, format),
			note: before?.note ?? about,
			version: (before?.version ?? 0) + 1,
			date: new Date().toISOString().slice(0, 10),
		};
	};
	const choose = (entry: string | null): void => {
		replaces.current = entry;
		picker.current?.click();
	};
	return (
		<section
			id="section-attachments"
			aria-label="Attachments"
			className={`mt-6 scroll-mt-3 ${dropping ? "outline-2 outline-primary outline-offset-4" : ""}`}
			onDragOver={(e) => {
				if (draft === null || !e.dataTransfer.types.includes("Files")) return;
				e.preventDefault();
				setDropping(true);
			}}
			onDragLeave={() => setDropping(false)}
			onDrop={(e) => {
				e.preventDefault();
				setDropping(false);
				replaces.current = null;
				const file = e.dataTransfer.files[0];
				if (file !== undefined) void take(file);
			}}
		>
			<h2 className="rule-head text-md flex items-baseline">
				Attachments
				{draft !== null && (
					<button type="button" className="quiet-link caption font-normal ml-auto text-ink2!" onClick={() => choose(null)}>
						attach a file
					</button>
				)}
			</h2>
			<input
				ref={picker}
				type="file"
				aria-label="File to attach"
				className="sr-only"
				tabIndex={-1}
				onChange={(e) => {
					const file = e.target.files?.[0];
					e.target.value = "";
					if (file !== undefined) void take(file);
				}}
			/>
			{progress !== null && (
				<p role="status" className="flex items-center gap-2.5 py-1.5">
					{progress.name} <progress className="flex-1 accent-primary" value={progress.share} />
					<button type="button" className="btn btn-small" onClick={progress.stop}>
						Stop
					</button>
				</p>
			)}
			{entries.length === 0 && (
				<p className="caption py-2">
					No file yet. Certificates, test reports, drawings or a ready-made solver file, up to {LIMITS.file / 1024 / 1024} MB each
					{draft === null ? "." : "; drop one here."}
				</p>
			)}
			<ul>
				{entries.map(([id, entry]) => (
					<AttachmentLine key={id} id={id} entry={entry} onReplace={() => choose(id)} />
				))}
			</ul>
		</section>
	);
}

function AttachmentLine({ id, entry, onReplace }: { id: string; entry: Attachment; onReplace: () => void }) {
	const { draft, sheet } = useSheet();
	const doubt = mismatch(entry.name, entry.format);
	const set = (change: Partial<Attachment>): void =>
		draft?.commit([{ at: `attachments:${id}`, from: entry, to: { ...entry, ...change } }], "attachment");
	return (
		<li className="py-2 border-b border-line2">
			<div className="flex items-center gap-2.5">
				<Paperclip size={14} aria-hidden className="text-ink3 shrink-0" />
				<a
					href={fileAddress(sheet.row.id, entry.hash, entry.name)}
					download={entry.name}
					className="font-semibold truncate min-w-0 hover:underline underline-offset-3"
				>
					{entry.name}
				</a>
				<span className="caption whitespace-nowrap">
					{entry.format}, {sizeText(entry.bytes)}, version {entry.version}, {entry.date}
				</span>
				{doubt !== null && (
					<span className="tag tag-doubt truncate" title={doubt}>
						{doubt}
					</span>
				)}
				<span className="ml-auto flex items-center shrink-0">
					{draft === null ? (
						<b>{PURPOSE_WORD[entry.purpose]}</b>
					) : (
						<select
							aria-label={`Purpose of ${entry.name}`}
							className="bg-transparent font-semibold"
							value={entry.purpose}
							onChange={(e) => set({ purpose: e.target.value as Attachment["purpose"] })}
						>
							{PURPOSES.map((p) => (
								<option key={p} value={p} className="bg-card">
									{PURPOSE_WORD[p]}
								</option>
							))}
						</select>
					)}
					<a
						href={fileAddress(sheet.row.id, entry.hash, entry.name)}
						download={entry.name}
						className="btn btn-ghost btn-small px-1.5!"
						aria-label={`Download ${entry.name}`}
					>
						<Download size={13} aria-hidden />
					</a>
					{draft !== null && (
						<>
							<button type="button" className="btn btn-ghost btn-small" onClick={onReplace}>
								newer version
							</button>
							<button
								type="button"
								className="btn btn-ghost btn-small px-1.5!"
								aria-label={`Take ${entry.name} off the record`}
								onClick={() => draft.commit([{ at: `attachments:${id}`, from: entry, to: null }], "attachment taken off")}
							>
								<Trash2 size={13} aria-hidden />
							</button>
						</>
					)}
				</span>
			</div>
			<div className="flex items-center gap-2.5 pl-6 mt-0.5">
				{draft === null ? (
					<span className="text-ink2">{entry.note}</span>
				) : (
					<input
						className="field h-6! flex-1"
						aria-label={`Note on ${entry.name}`}
						placeholder="what it shows: heat, test, revision"
						key={entry.note}
						defaultValue={entry.note}
						maxLength={2000}
						onBlur={(e) => e.target.value !== entry.note && set({ note: e.target.value })}
					/>
				)}
				<code className="caption whitespace-nowrap" title={`SHA-256 ${entry.hash}`}>
					{entry.hash.slice(0, 12)}
				</code>
			</div>
		</li>
	);
}
