import type { EditionChange } from "@alvek/contract";
import { useState } from "react";
import { ChangeLine } from "../../shared/ChangeLine";
import { counted } from "../../ui/words";

const KIND = { added: "added", gone: "gone", changed: "changed", row: "row changed" } as const;
const TONE = { added: "tag-accent", gone: "tag-wrong", changed: "tag-note", row: "" } as const;
const SHOWN = 100;

/** What differs between two states of a library, material by material. */
export function ChangeList({ changes }: { changes: readonly EditionChange[] }) {
	const [shown, setShown] = useState(SHOWN);
	return (
		<>
			<ul className="border-t border-ink mt-2">
				{changes.slice(0, shown).map((c) => (
					<Change key={c.id} change={c} />
				))}
			</ul>
			{changes.length > shown && (
				<button type="button" className="btn btn-small mt-2" onClick={() => setShown(shown + 500)}>
					Show more of {changes.length}
				</button>
			)}
		</>
	);
}

function Change({ change }: { change: EditionChange }) {
	const [open, setOpen] = useState(false);
	const { edits } = change;
	return (
		<li className="border-b border-line2 py-1.5">
			<div className="flex items-center gap-2.5 min-h-6">
				<span className={`tag ${TONE[change.kind]}`}>{KIND[change.kind]}</span>
				<span className="font-semibold truncate">{change.name}</span>
				{change.kind === "changed" && (
					<span className="caption whitespace-nowrap">
						revision {change.from} → {change.to}
					</span>
				)}
				{edits.length > 0 && (
					<button
						type="button"
						className="quiet-link caption ml-auto whitespace-nowrap"
						aria-expanded={open}
						onClick={() => setOpen(!open)}
					>
						{counted(edits.length, "change")}
					</button>
				)}
			</div>
			{change.rows.map((row) => (
				<p key={row} className="caption">
					{row}
				</p>
			))}
			{open && (
				<ul className="pl-3">
					{edits.map((edit) => (
						<ChangeLine key={edit.at} edit={edit} />
					))}
				</ul>
			)}
		</li>
	);
}
