import { call } from "../api/client";
import { undoEvent } from "../api/mutate";
import { showIssues } from "../api/refusals";
import { showToast } from "../stores/toasts";

/** Takes back the person's newest step, which the server knows also after a reload. */
export async function stepBack(): Promise<void> {
	const steps = await call("listSteps", {});
	if (!steps.ok) return showIssues(steps.issues);
	const [newest] = steps.value;
	if (newest === undefined) return showToast({ tone: "plain", text: "Nothing that could be taken back." });
	await undoEvent(newest.seq, `you ${newest.did}${newest.subject === "" ? "" : ` (${newest.subject})`}`);
}
