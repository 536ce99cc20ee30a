import type { PersonView, RouteInput, RouteName, RouteReply } from "@alvek/contract";
import { describeIssue, type Issue } from "@alvek/core/result";
import { keepPreviousData, QueryClient, type UseQueryResult, useQuery } from "@tanstack/react-query";
import { call, IssueError } from "./client";

// numbers never change because a window came to the front: live news says what changed, and the person asks for it
export const queryClient = new QueryClient({
	defaultOptions: { queries: { staleTime: 2_000, retry: false, refetchOnWindowFocus: false, placeholderData: keepPreviousData } },
});

/** Reads a route; the one place where a Result becomes what the query library wants. */
export function useRoute<N extends RouteName>(
	name: N,
	input: RouteInput<N>,
	options: { enabled?: boolean; refetchInterval?: number | false; staleTime?: number } = {},
): UseQueryResult<RouteReply<N>, IssueError> {
	return useQuery<RouteReply<N>, IssueError>({ ...routeQuery(name, input), ...options });
}

/** One question, for whoever asks several at once. */
export function routeQuery<N extends RouteName>(name: N, input: RouteInput<N>) {
	return {
		queryKey: [name, input],
		queryFn: async ({ signal }: { readonly signal: AbortSignal }): Promise<RouteReply<N>> => {
			const result = await call(name, input, signal);
			if (!result.ok) throw new IssueError(result.issues);
			return result.value;
		},
	};
}

/** For what colleagues change under one's eyes: asked for anew when it comes on screen, and when the live news says so. */
export const SHARED = { staleTime: 0 } as const;

/** Who is here; null before the answer, and when nobody has signed in. */
export function useMe(): PersonView | null {
	return useRoute("getSession", {}).data?.person ?? null;
}

/** One person works here: no locks, no roles, notes as one likes. */
export function useAlone(): boolean {
	return (useRoute("getSession", {}).data?.people ?? 1) === 1;
}

/** Which questions are asked again, by the name of their route. */
export type Affected = (question: string) => boolean;

const refreshing = new Set<(affected: Affected) => void>();

/** Called whenever something that is shown is asked for anew. */
export function onRefresh(listener: (affected: Affected) => void): () => void {
	refreshing.add(listener);
	return () => refreshing.delete(listener);
}

/** Tells whoever has said that what is shown is out of date. */
export function beforeRefresh(affected: Affected): void {
	for (const listener of refreshing) listener(affected);
}

/** Everything is asked for again; what is on screen stays until the answer is here. */
export function refreshAll(): Promise<void> {
	beforeRefresh(() => true);
	return queryClient.invalidateQueries();
}

export function sentences(issues: readonly Issue[]): string {
	return issues.map(describeIssue).join(" ");
}
