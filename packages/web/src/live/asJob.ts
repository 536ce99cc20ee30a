import type { JobRoute, RouteInput, RouteReply } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { call, newId, sendAsJob } from "../api/client";
import { undoEvent } from "../api/mutate";
import { refreshAll } from "../api/queries";
import { showIssues } from "../api/refusals";
import { showToast } from "../stores/toasts";
import { endWork, showWork } from "../stores/works";
import { followJob } from "./jobs";

/** From so many materials on, work on all of them is done as a job, with its progress and a way to stop it. */
export const isMany = (materials: number): boolean => materials >= 2000;

const PORTS = {
	getJob: (input: { id: string }) => call("getJob", input),
	wait: (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms)),
};

/** Runs a request as a job and waits for what it answers; the bar over the place shows how far it is. */
export async function answerAsJob<N extends JobRoute>(
	name: N,
	input: RouteInput<N>,
	what: string,
): Promise<Result<RouteReply<N>>> {
	const id = newId();
	const followed = followJob(id, PORTS, ({ stage, progress }) => showWork({ id, what, stage, progress }));
	showWork({ id, what, stage: "waiting", progress: 0 });
	try {
		const begun = await sendAsJob(name, input, id);
		if (!begun.ok) {
			followed.stop();
			return begun;
		}
		const end = await followed.ended();
		if (end.state !== "done") return fail(...(end.issues.length > 0 ? end.issues : [{ code: "cancelled" } as const]));
		const answer = await call("getJobResult", { id });
		return answer.ok ? ok(answer.value as RouteReply<N>) : answer;
	} finally {
		endWork(id);
	}
}

/** A change that is run as a job: like `runMutation`, with all that is shown asked for anew in the end. Refusals are toasts: the dialog that began it is gone. */
export async function runAsJob<N extends JobRoute>(
	name: N,
	input: RouteInput<N>,
	{ what, said }: { readonly what: string; readonly said: (reply: RouteReply<N>) => string },
): Promise<RouteReply<N> | null> {
	const result = await answerAsJob(name, input, what);
	if (!result.ok) {
		if (result.issues[0]?.code === "cancelled") showToast({ tone: "plain", text: `${what}: stopped, nothing was changed.` });
		else showIssues(result.issues);
		return null;
	}
	await refreshAll();
	const event = (result.value as { event?: number } | null)?.event ?? 0;
	const text = said(result.value);
	const way = event === 0 ? {} : { action: { label: "Undo", run: () => undoEvent(event, text) } };
	showToast({ tone: "plain", text, ...way });
	return result.value;
}
