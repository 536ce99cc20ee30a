import type { HistoryRow } from "@alvek/contract";
import { Link } from "react-router";
import { undoEvent } from "../api/mutate";
import { useRoute } from "../api/queries";
import { momentOf } from "../ui/Page";

const FIRST = 10;

/** The hour and minute, where the day stands above. */
const timeOf = (iso: string): string => new Date(iso).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

export type Subject = { readonly kind: "material" | "library" | "project"; readonly id: string };

/** What happened last, and the way to all of it. */
export function History({ kind, id }: Subject) {
	const history = useRoute("history", { kind, id });
	const rows = history.data?.rows ?? [];
	return (
		<>
			<ul aria-label="What happened">
				{rows.slice(0, FIRST).map((row) => (
					<HistoryLine key={row.seq} row={row} kind={kind} />
				))}
			</ul>
			{history.data !== undefined && rows.length === 0 && <p className="py-2 text-ink2">Nothing happened yet.</p>}
			{rows.length > 0 && (
				<Link className="quiet-link inline-block mt-1.5" to={`/history/${kind}/${id}`}>
					All of it: by person, day, kind of step
				</Link>
			)}
		</>
	);
}

/** Who did what, when and why, in one line. */
export function HistoryLine({ row, kind, wide = false }: { row: HistoryRow; kind: Subject["kind"]; wide?: boolean }) {
	return (
		<li className="flex gap-2.5 py-1 border-b border-line2">
			<span className={`caption shrink-0 pt-px ${wide ? "w-14" : "w-31.5"}`}>{wide ? timeOf(row.at) : momentOf(row.at)}</span>
			<span className={`min-w-0 break-words ${row.undone ? "line-through text-ink3" : ""}`}>
				<b>{row.by}</b> {row.did}
				{kind === "library" && row.subject !== "" && (
					<>
						:{" "}
						{wide && row.material !== null ? (
							<Link className="quiet-link" to={`/materials/${row.material}`}>
								{row.subject}
							</Link>
						) : (
							row.subject
						)}
					</>
				)}
				{row.note !== "" && <span className="text-ink2"> “{row.note}”</span>}
			</span>
			{row.mayUndo && (
				<button
					type="button"
					className="btn btn-ghost btn-small h-5! min-h-0! ml-auto shrink-0"
					aria-label={`Take back: ${row.did}`}
					onClick={() => undoEvent(row.seq, row.did)}
				>
					Take back
				</button>
			)}
			{row.undone && <span className="caption ml-auto whitespace-nowrap">taken back</span>}
		</li>
	);
}
