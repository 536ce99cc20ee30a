import { X } from "lucide-react";
import type { ImportState, Same } from "./useImport";

/** Progress of an import with its way out, or what stood in its way. */
export function ImportBar({
	state,
	onCancel,
	onDismiss,
	onSame,
}: {
	state: ImportState;
	onCancel: () => void;
	onDismiss: () => void;
	onSame: (file: File, same: Same) => void;
}) {
	if (state === null) return null;
	if ("same" in state)
		return (
			<div role="alert" className="shrink-0 flex items-center gap-2 flex-wrap px-4 py-2 bg-doubt-soft border-l-3 border-doubt">
				<span className="min-w-0 flex-[1_1_280px] break-words">
					<b>{state.file}</b> is in this project already, with other content. Does this one take its place? Parts of the same name
					and number keep their materials; it can be taken back.
				</span>
				<button type="button" className="btn btn-small" onClick={() => onSame(state.same, "replace")}>
					Take its place
				</button>
				<button type="button" className="btn btn-small" onClick={() => onSame(state.same, "beside")}>
					Keep both
				</button>
				<button type="button" className="btn btn-ghost btn-small" onClick={onDismiss}>
					Leave it
				</button>
			</div>
		);
	if ("error" in state) {
		return (
			<div role="alert" className="shrink-0 flex items-start gap-3 px-4 py-2 bg-wrong-soft border-l-3 border-wrong">
				<span className="min-w-0 break-words">
					<b>{state.file}</b>: {state.error}
				</span>
				<button
					type="button"
					className="btn btn-ghost btn-small ml-auto shrink-0"
					onClick={onDismiss}
					aria-label="Close this message"
				>
					<X size={14} aria-hidden />
				</button>
			</div>
		);
	}
	return (
		<div role="status" className="shrink-0 flex items-center gap-3 px-4 h-9.5 bg-accent-soft">
			<span className="truncate">
				<b>{state.file}</b>: {state.stage}
			</span>
			<progress className="ml-auto w-55 h-1.5 accent-primary" value={state.share} max={1} aria-label="Import" />
			<button type="button" className="btn btn-small" onClick={onCancel}>
				Cancel
			</button>
		</div>
	);
}
