import { call } from "../api/client";
import { useWorks } from "../stores/works";

/** Long work of this page, each with how far it is and a way to stop it. */
export function WorkBar() {
	const works = useWorks((s) => s.works);
	return works.map((w) => (
		<div key={w.id} role="status" className="shrink-0 flex items-center gap-3 px-4 py-1.5 bg-accent-soft border-b border-line">
			<span className="min-w-0 truncate">
				<b>{w.what}</b> <span className="text-ink2">{w.stage}</span>
			</span>
			<progress className="progress w-40 ml-auto shrink-0" max={1} value={w.progress} aria-label={`How far: ${w.what}`} />
			<button type="button" className="btn btn-small" onClick={() => call("cancelJob", { id: w.id })}>
				Stop
			</button>
		</div>
	));
}
