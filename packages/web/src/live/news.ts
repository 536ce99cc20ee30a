import type { LiveEvent } from "@alvek/contract";
import { changesAnswer } from "@alvek/core/event";
import { create } from "zustand";
import { TAB } from "../api/client";
import { askAgain } from "../api/mutate";
import { queryClient } from "../api/queries";
import { useLostReplies } from "../stores/session";
import { askedAgain, concerns, isQuiet, type OnScreen } from "./about";
import { tellFollowers } from "./jobs";
import type { LinkState, Said } from "./stream";

type State = {
	readonly link: LinkState;
	/** Since when the server is out of reach. */
	readonly lostAt: Date | null;
	/** What happened to things on screen since they were asked for, the latest of each subject. */
	readonly news: readonly LiveEvent[];
	readonly missed: boolean;
};

export const useNews = create<State>(() => ({ link: "live", lostAt: null, news: [], missed: false }));

/** What stands on screen is up to date again, or is no longer on screen. */
export function clearNews(): void {
	const { news, missed } = useNews.getState();
	if (news.length > 0 || missed) useNews.setState({ news: [], missed: false });
}

/** What is asked for again anyway is no news any more; what stands on screen otherwise still is. */
export function dropNews(affected: (question: string) => boolean): void {
	const left = onScreen().filter((shown) => !affected(shown.name));
	const { news, missed } = useNews.getState();
	const still = news.filter((event) => left.some((shown) => concerns(event, shown)));
	const all = left.length === 0 || affected("getSession");
	if (still.length < news.length || (missed && all)) useNews.setState({ news: still, missed: missed && !all });
}

function onScreen(): readonly OnScreen[] {
	return queryClient
		.getQueryCache()
		.findAll({ type: "active" })
		.map((q) => ({ name: String(q.queryKey[0]), input: (q.queryKey[1] ?? {}) as OnScreen["input"], data: q.state.data }));
}

/** Nothing on screen changes by itself but what holds no number: the page says that there is news, and the person asks for it. */
export function take(said: Said): void {
	if (said.kind === "state") {
		const { link, lostAt } = useNews.getState();
		if (said.state !== link) useNews.setState({ link: said.state, lostAt: said.state === "lost" ? new Date() : lostAt });
		return;
	}
	if (said.kind === "message") return tellFollowers(said.message);
	if (said.kind === "missed") {
		useNews.setState({ missed: true });
		return void queryClient.invalidateQueries({ refetchType: "none" });
	}
	const { event } = said;
	if (event.tab === TAB) {
		// the reply named what changed, unless it never came
		if (useLostReplies.getState().lost) void askAgain((question) => changesAnswer(event.action, question));
		return;
	}
	void queryClient.invalidateQueries({ predicate: (q) => askedAgain(event, String(q.queryKey[0])) });
	if (isQuiet(event)) return;
	// places that are entered later ask anew
	void queryClient.invalidateQueries({ type: "inactive" });
	if (!onScreen().some((shown) => concerns(event, shown))) return;
	useNews.setState((s) => ({
		// one line a subject: whoever published has drafted before
		news: [...s.news.filter((e) => e.subject !== event.subject), event].slice(-50),
	}));
}
