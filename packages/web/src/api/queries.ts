import type { RouteInput, RouteName, RouteReply } from "@alvek/contract";
import { describeIssue, type Issue } from "@alvek/core/result";
import { keepPreviousData, QueryClient, type UseQueryResult, useQuery } from "@tanstack/react-query";
import { showToast } from "../stores/toasts";
import { call, IssueError } from "./client";

export const queryClient = new QueryClient({
	defaultOptions: { queries: { staleTime: 2_000, retry: false, refetchOnWindowFocus: true, placeholderData: keepPreviousData } },
});

/** Reads a route; the one place where a Result becomes what the query library wants. */
export function useRoute<N extends RouteName>(
	name: N,
	input: RouteInput<N>,
	options: { enabled?: boolean; refetchInterval?: number | false } = {},
): UseQueryResult<RouteReply<N>, IssueError> {
	return useQuery<RouteReply<N>, IssueError>({
		queryKey: [name, input],
		queryFn: async ({ signal }) => {
			const result = await call(name, input, signal);
			if (!result.ok) throw new IssueError(result.issues);
			return result.value;
		},
		...options,
	});
}

/** Everything that shows materials or masses is asked for again; what is on screen stays until the answer is here. */
export function refreshAll(): Promise<void> {
	return queryClient.invalidateQueries();
}

export function sentences(issues: readonly Issue[]): string {
	return issues.map(describeIssue).join(" ");
}

export function showIssues(issues: readonly Issue[]): void {
	showToast({ tone: "wrong", text: sentences(issues) });
}

/** Takes a step back and says so. */
export async function undoEvent(event: number, what: string): Promise<void> {
	const result = await call("undo", { event });
	if (!result.ok) return showIssues(result.issues);
	await refreshAll();
	showToast({ tone: "plain", text: `Undone: ${what}` });
}
