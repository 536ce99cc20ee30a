import type { LibraryDetail, ProposalView } from "@alvek/contract";
import type { Issue } from "@alvek/core/result";
import { useState } from "react";
import { Link } from "react-router";
import { refreshAll } from "../../api/queries";
import { showIssues } from "../../api/refusals";
import { runMutation } from "../../api/runMutation";
import { ChangeLine } from "../../shared/ChangeLine";
import { Field, FormDialog } from "../../ui/Form";
import { momentOf } from "../../ui/Page";
import { counted } from "../../ui/words";

/** Publishes that wait for a second person. */
export function Proposals({ library }: { library: LibraryDetail }) {
	if (library.proposals.length === 0) return null;
	return (
		<section aria-label="Waiting for approval" className="border-l-3 border-doubt bg-doubt-soft px-3 py-2">
			<h2 className="font-bold">Waiting for approval</h2>
			<ul>
				{library.proposals.map((p) => (
					<Proposal key={p.id} proposal={p} mayEdit={library.mayEdit} />
				))}
			</ul>
		</section>
	);
}

function Proposal({ proposal, mayEdit }: { proposal: ProposalView; mayEdit: boolean }) {
	const [declining, setDeclining] = useState(false);
	const [note, setNote] = useState("");
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const [open, setOpen] = useState(false);
	const { id, materials, mine } = proposal;
	const places = materials.reduce((n, m) => n + m.edits.length, 0);
	const decline = async (): Promise<void> => {
		if ((await runMutation("declinePublish", { id, note }, "It is sent back; the drafts stay as they are.", setError)) !== null)
			setDeclining(false);
	};
	// what was on screen is what goes out; anything else is refused and shown
	const approve = (): Promise<unknown> => {
		const items = materials.map((m) => ({ id: m.id, hash: m.hash }));
		return runMutation("approvePublish", { id, items }, `${counted(materials.length, "material")} published.`, (issues) => {
			showIssues(issues);
			void refreshAll();
		});
	};
	return (
		<li className="py-1.5">
			<div className="flex items-start gap-2.5">
				<span className="min-w-0">
					<b>{proposal.by}</b> {momentOf(proposal.at)}: “{proposal.note}”
					<span className="block">
						{materials.map((m, i) => (
							<span key={m.id}>
								{i > 0 && ", "}
								{m.isNew && !mine ? (
									<>
										<b>{m.name}</b> <span className="tag tag-note">new</span>
									</>
								) : (
									<Link className="quiet-link" to={`/materials/${m.id}`}>
										{m.name}
									</Link>
								)}
								{m.stale && <span className="tag tag-wrong ml-1">changed since</span>}
							</span>
						))}{" "}
						<button type="button" className="quiet-link caption" aria-expanded={open} onClick={() => setOpen(!open)}>
							{counted(places, "change")}
						</button>
					</span>
				</span>
				<span className="ml-auto flex gap-1.5 shrink-0">
					{mine ? (
						<button
							type="button"
							className="btn btn-small"
							onClick={() => runMutation("declinePublish", { id, note: "" }, "Withdrawn; the drafts stay.")}
						>
							Withdraw
						</button>
					) : (
						mayEdit && (
							<>
								<button type="button" className="btn btn-small" onClick={() => setDeclining(true)}>
									Send back…
								</button>
								<button
									type="button"
									className="btn btn-small btn-primary"
									disabled={materials.some((m) => m.stale)}
									onClick={approve}
								>
									Approve
								</button>
							</>
						)
					)}
				</span>
			</div>
			{open &&
				materials.map((m) => (
					<ul key={m.id} aria-label={`What would change in ${m.name}`} className="mt-1">
						{m.edits.map((edit) => (
							<ChangeLine key={edit.at} edit={edit} />
						))}
					</ul>
				))}
			{declining && (
				<FormDialog
					title={`Send back to ${proposal.by}`}
					act="Send back"
					ready={note.trim() !== ""}
					submit={decline}
					close={() => setDeclining(false)}
					error={error}
				>
					<Field label="Why" value={note} change={setNote} />
				</FormDialog>
			)}
		</li>
	);
}
