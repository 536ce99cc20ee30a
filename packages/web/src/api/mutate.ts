import type { RouteInput, RouteName, RouteReply } from "@alvek/contract";
import { changesAnswer } from "@alvek/core/event";
import type { Result } from "@alvek/core/result";
import { showToast } from "../stores/toasts";
import { send } from "./client";
import { type Affected, beforeRefresh, queryClient } from "./queries";
import { showIssues } from "./refusals";

/** Answers with stars in them, or of starred materials alone. */
const STARRED = ["findMaterials", "findColumns", "getMaterials", "getSheet", "search"] as const;

/** What changes without a step in the log, because it is one person's own mark. */
const MARKS: Readonly<Partial<Record<RouteName, readonly RouteName[]>>> = {
	starMaterial: STARRED,
	starMany: STARRED,
	saveView: ["listViews"],
	removeView: ["listViews"],
	hideLibrary: ["listLibraries", "getLibrary"],
	changeNotices: ["listNotices"],
};

/** Is this question asked again after that request? */
export const isAffected = (name: RouteName, steps: readonly string[], question: string): boolean =>
	MARKS[name]?.some((route) => route === question) === true || steps.some((step) => changesAnswer(step, question));

/**
 * One change: sent, and what its steps may have changed is asked for again; the rest of the page stays as it is. What is
 * not on screen is asked for when it comes there.
 * @param known questions whose new answers came with the reply
 */
export async function mutate<N extends RouteName>(
	name: N,
	input: RouteInput<N>,
	known: readonly RouteName[] = [],
): Promise<Result<RouteReply<N>>> {
	const { result, steps } = await send(name, input);
	if (result.ok) await askAgain((question) => !known.some((k) => k === question) && isAffected(name, steps, question));
	return result;
}

/** Asks for these questions again; answers that are on screen are waited for. */
export async function askAgain(affected: Affected): Promise<void> {
	beforeRefresh(affected);
	await queryClient.invalidateQueries({ predicate: (query) => affected(String(query.queryKey[0])) });
}

/** Takes a step back and says so. */
export async function undoEvent(event: number, what: string): Promise<void> {
	const result = await mutate("undo", { event });
	if (!result.ok) return showIssues(result.issues);
	showToast({ tone: "plain", text: `Undone: ${what}` });
}
