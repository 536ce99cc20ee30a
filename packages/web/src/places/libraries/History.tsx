import { useState } from "react";
import { useRoute } from "../../api/queries";
import { momentOf } from "../../ui/Page";

const FIRST = 12;

/** Who did what, when and why, the newest first. */
export function History({ kind, id }: { kind: "material" | "library" | "project"; id: string }) {
	const history = useRoute("history", { kind, id });
	const [all, setAll] = useState(false);
	const rows = history.data ?? [];
	return (
		<>
			<ul aria-label="What happened">
				{rows.slice(0, all ? rows.length : FIRST).map((row) => (
					<li key={row.seq} className="flex gap-[10px] py-[4px] border-b border-line2">
						<span className="caption w-[126px] shrink-0 pt-px">{momentOf(row.at)}</span>
						<span className={`min-w-0 ${row.undone ? "line-through text-ink3" : ""}`}>
							<b>{row.by}</b> {row.did}
							{kind === "library" && row.subject !== "" && `: ${row.subject}`}
							{row.note !== "" && <span className="text-ink2"> “{row.note}”</span>}
						</span>
						{row.undone && <span className="caption ml-auto whitespace-nowrap">taken back</span>}
					</li>
				))}
			</ul>
			{history.data?.length === 0 && <p className="py-[7px] text-ink2">Nothing happened yet.</p>}
			{!all && rows.length > FIRST && (
				<button type="button" className="btn btn-ghost btn-small mt-[6px]" onClick={() => setAll(true)}>
					All {rows.length} steps
				</button>
			)}
		</>
	);
}
