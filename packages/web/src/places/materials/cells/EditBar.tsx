import { writeList } from "@alvek/contract";
import { ArrowDownToLine, Copy, Eraser, X } from "lucide-react";
import { useLocation, useNavigate } from "react-router";
import { counted } from "../../../ui/words";
import type { Editing } from "./useEditing";

/** What can be done with the chosen cells, and what was not taken. */
export function EditBar({ editing, leave }: { editing: Editing; leave: () => void }) {
	const navigate = useNavigate();
	const { pathname, search } = useLocation();
	const { size, chosen, touched, refused } = editing;
	return (
		<>
			<div
				role="toolbar"
				aria-label="Editing cells"
				className="shrink-0 h-10 flex items-center gap-1 px-3.5 border-t border-line bg-accent-soft"
			>
				<b className="whitespace-nowrap">Editing cells</b>
				<span className="caption whitespace-nowrap ml-1.5 mr-auto text-ink2!" aria-live="polite">
					{chosen.blocks === 1
						? `${size.rows} × ${size.columns} chosen`
						: `${chosen.blocks} blocks chosen, ${counted(chosen.cells, "cell")}`}
				</span>
				<button type="button" className="btn btn-ghost btn-small" title="Ctrl+C" onClick={editing.copy}>
					<Copy size={13} aria-hidden /> Copy
				</button>
				<button
					type="button"
					className="btn btn-ghost btn-small"
					title="Alt+↓: the first row of what is chosen into those below"
					disabled={chosen.blocks === 1 && size.rows < 2}
					onClick={editing.fillDown}
				>
					<ArrowDownToLine size={13} aria-hidden /> Fill down
				</button>
				<button type="button" className="btn btn-ghost btn-small" title="Delete" onClick={editing.clear}>
					<Eraser size={13} aria-hidden /> Clear
				</button>
				<button
					type="button"
					className="btn btn-small"
					onClick={() => {
						const ids = writeList([...new Set([...touched, ...editing.chosenIds()])]);
						void navigate(`/libraries/publish?ids=${encodeURIComponent(ids)}&back=${encodeURIComponent(pathname + search)}`);
					}}
				>
					Publish drafts…
				</button>
				<button type="button" className="btn btn-small btn-primary" onClick={leave}>
					Done
				</button>
			</div>
			{refused.length > 0 && (
				<section
					aria-label="Cells that were not taken"
					className="shrink-0 max-h-42.5 overflow-y-auto border-t border-line bg-wrong-soft px-4 py-2"
				>
					<div className="flex items-center">
						<b role="alert">{counted(refused.length, "cell")} not taken</b>
						<button
							type="button"
							className="btn btn-ghost btn-small ml-auto"
							aria-label="Close the list"
							onClick={editing.dismiss}
						>
							<X size={13} aria-hidden />
						</button>
					</div>
					<ul>
						{refused.slice(0, SHOWN).map((r, i) => (
							// biome-ignore lint/suspicious/noArrayIndexKey: a list that is only replaced as a whole
							<li key={i} className="flex gap-2.5 py-px">
								<span className="font-semibold truncate w-47.5 shrink-0">{r.material}</span>
								<span className="text-ink2 truncate w-30 shrink-0">{r.column}</span>
								<span className="truncate w-22.5 shrink-0">“{r.text}”</span>
								<span>{r.why}</span>
							</li>
						))}
					</ul>
					{refused.length > SHOWN && <p className="caption">and {refused.length - SHOWN} more of the kind</p>}
				</section>
			)}
		</>
	);
}

const SHOWN = 200;
