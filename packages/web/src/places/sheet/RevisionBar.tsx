import { difference, type Material } from "@alvek/core/material";
import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { useRoute } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { ChangeLine } from "../../shared/ChangeLine";
import { counted } from "../../ui/words";
import { useSheet } from "./context";

/** An older revision is open: what it differs in from any other one, and the way to have it again. */
export function RevisionBar() {
	const { sheet, material, revision } = useSheet();
	const navigate = useNavigate();
	if (revision === null) return null;
	const { row, mayEdit } = sheet;
	const restore = async (): Promise<void> => {
		const back = difference(row.document, material as Material);
		if (back.length === 0) return;
		const said = `Revision ${revision} is your draft now; nothing is published yet.`;
		if ((await runMutation("saveDraft", { id: row.id, edits: [...back] }, said)) !== null) void navigate(`/materials/${row.id}`);
	};
	return (
		<div className="mt-1.5">
			<p className="flex items-center gap-2 flex-wrap">
				<span className="tag tag-note">revision {revision}, read only</span>
				<Link className="quiet-link" to={`/materials/${row.id}`}>
					back to the newest
				</Link>
				{mayEdit && difference(row.document, material).length > 0 && (
					<button type="button" className="btn btn-small" onClick={restore}>
						Restore as my draft
					</button>
				)}
			</p>
			<Against revision={revision} />
		</div>
	);
}

/** My draft stands behind every revision. */
const DRAFT = "draft";

/** The revision on screen beside another one of choice, which stands in the address. */
function Against({ revision }: { revision: number }) {
	const { sheet, material } = useSheet();
	const [open, setOpen] = useState(false);
	const [params, setParams] = useSearchParams();
	const { row, published, revisions, draftAt } = sheet;
	const others = revisions.map((r) => r.no).filter((no) => no !== revision);
	const first = others[0];
	const wanted = params.get("against");
	const against = wanted === DRAFT && draftAt !== null ? DRAFT : (others.find((no) => String(no) === wanted) ?? first);
	const here = against === DRAFT ? row.document : against === row.revision ? published : null;
	const asked = useRoute(
		"getRevision",
		{ id: row.id, no: String(against ?? 1) },
		{ enabled: here === null && against !== undefined },
	);
	if (against === undefined) return null;
	const other = here ?? (asked.data?.no === against ? asked.data.document : null);
	const older = against !== DRAFT && against < revision;
	const edits = other === null ? null : older ? difference(other, material) : difference(material, other);
	const name = against === DRAFT ? "my draft" : `revision ${against}`;
	return (
		<>
			<p className="flex items-center gap-2 flex-wrap mt-1.5">
				<label className="flex items-center gap-1.5">
					beside
					<select
						className="field w-auto! h-7! py-0!"
						value={String(against)}
						onChange={(e) => {
							const next = new URLSearchParams(params);
							next.set("against", e.target.value);
							setParams(next, { replace: true });
						}}
					>
						{draftAt !== null && <option value={DRAFT}>my draft</option>}
						{revisions
							.filter((r) => r.no !== revision)
							.map((r) => (
								<option key={r.id} value={String(r.no)}>
									revision {r.no}
									{r.no === row.revision ? ", the newest" : ""}
								</option>
							))}
					</select>
				</label>
				{edits === null ? (
					<span className="caption">{asked.isError ? `${name} cannot be read` : "comparing"}</span>
				) : edits.length === 0 ? (
					<span className="caption">nothing differs</span>
				) : (
					<button type="button" className="quiet-link" aria-expanded={open} onClick={() => setOpen(!open)}>
						{counted(edits.length, "change")} {older ? "since" : "to"} {name}
					</button>
				)}
			</p>
			{open && edits !== null && edits.length > 0 && (
				<ul
					className="mt-1.5 border-t border-line"
					aria-label={older ? `Revision ${against} against revision ${revision}` : `Revision ${revision} against ${name}`}
				>
					{edits.map((edit) => (
						<ChangeLine key={edit.at} edit={edit} />
					))}
				</ul>
			)}
		</>
	);
}
