import type { RouteInput, RouteName, RouteReply } from "@alvek/contract";
import type { Issue } from "@alvek/core/result";
import { showToast } from "../stores/toasts";
import { mutate, undoEvent } from "./mutate";
import { showIssues } from "./refusals";

/**
 * One change that a person asked for: sent, what it changed is asked for again, and said in a toast with the way back
 * where there is one. Refusals are shown as a toast too, unless `refused` takes them.
 * @returns the reply, or null when it was refused
 */
export async function runMutation<N extends RouteName>(
	name: N,
	input: RouteInput<N>,
	said: string | ((reply: RouteReply<N>) => string) | null = null,
	refused: (issues: readonly Issue[]) => void = showIssues,
): Promise<RouteReply<N> | null> {
	const result = await mutate(name, input);
	if (!result.ok) {
		refused(result.issues);
		return null;
	}
	const event = (result.value as { event?: number } | null)?.event;
	const words = typeof said === "function" ? said(result.value) : said;
	const way = event === undefined || event === 0 ? {} : { action: { label: "Undo", run: () => undoEvent(event, words ?? "") } };
	if (words !== null) showToast({ tone: "plain", text: words, ...way });
	// `null` is a reply too, so that callers can tell it from a refusal
	return (result.value ?? true) as RouteReply<N>;
}
