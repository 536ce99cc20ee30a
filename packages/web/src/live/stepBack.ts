import { call } from "../api/client";
import { undoEvent } from "../api/mutate";
import { showIssues } from "../api/queries";
import { showToast } from "../stores/toasts";

/** Places with steps of their own that are not on the server yet: a sheet's draft, a curve, cells. */
const OWN_STEPS = /^\/materials\/[^/]/;

/** Ctrl+Z outside of fields and sheets takes back the person's newest step, which the server knows also after a reload. */
export function onStepBack(e: KeyboardEvent): void {
	if (e.key !== "z" || e.shiftKey || !(e.ctrlKey || e.metaKey) || e.defaultPrevented) return;
	const typing = e.target instanceof HTMLElement && e.target.matches("input, textarea, select, [contenteditable=true]");
	if (typing || OWN_STEPS.test(location.pathname)) return;
	e.preventDefault();
	void stepBack();
}

export async function stepBack(): Promise<void> {
	const steps = await call("listSteps", {});
	if (!steps.ok) return showIssues(steps.issues);
	const [newest] = steps.value;
	if (newest === undefined) return showToast({ tone: "plain", text: "Nothing that could be taken back." });
	await undoEvent(newest.seq, `you ${newest.did}${newest.subject === "" ? "" : ` (${newest.subject})`}`);
}
