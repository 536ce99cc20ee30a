import { difference, type Material } from "@alvek/core/material";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { runMutation } from "../../api/runMutation";
import { ChangeLine } from "../../shared/ChangeLine";
import { counted } from "../../ui/words";
import { useSheet } from "./context";

/** An older revision is open: what it differs in from the newest, and the way to have it again. */
export function RevisionBar() {
	const { sheet, material, revision } = useSheet();
	const navigate = useNavigate();
	const [open, setOpen] = useState(false);
	if (revision === null) return null;
	const { row, published, mayEdit } = sheet;
	const edits = published === null ? [] : difference(material, published);
	const restore = async (): Promise<void> => {
		const back = difference(row.document, material as Material);
		if (back.length === 0) return;
		const said = `Revision ${revision} is your draft now; nothing is published yet.`;
		if ((await runMutation("saveDraft", { id: row.id, edits: [...back] }, said)) !== null) void navigate(`/materials/${row.id}`);
	};
	const newest = row.revision === revision;
	return (
		<div className="mt-1.5">
			<p className="flex items-center gap-2 flex-wrap">
				<span className="tag tag-note">revision {revision}, read only</span>
				<Link className="quiet-link" to={`/materials/${row.id}`}>
					back to the newest
				</Link>
				{!newest && (
					<button type="button" className="quiet-link" aria-expanded={open} onClick={() => setOpen(!open)}>
						{counted(edits.length, "change")} since revision {row.revision}
					</button>
				)}
				{mayEdit && difference(row.document, material).length > 0 && (
					<button type="button" className="btn btn-small" onClick={restore}>
						Restore as my draft
					</button>
				)}
			</p>
			{open && (
				<ul className="mt-1.5 border-t border-line" aria-label={`Revision ${revision} against revision ${row.revision}`}>
					{edits.map((edit) => (
						<ChangeLine key={edit.at} edit={edit} />
					))}
				</ul>
			)}
		</div>
	);
}
