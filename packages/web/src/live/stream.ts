import type { LiveEvent, News, StreamMessage } from "@alvek/contract";

/** How the way to the server is. */
export type LinkState = "live" | "lost";

/** What the stream tells its pages. */
export type Said =
	| { readonly kind: "state"; readonly state: LinkState }
	| { readonly kind: "event"; readonly event: LiveEvent }
	/** How far work of this person is. */
	| { readonly kind: "message"; readonly message: StreamMessage }
	/** So much happened while nobody listened that everything shown may be out of date. */
	| { readonly kind: "missed" };

/** The server beats every 20 s; after two beats missed the connection is dead, whatever the browser believes. */
const SILENCE_MS = 45_000;
const FIRST_RETRY_MS = 1_000;
const LAST_RETRY_MS = 15_000;

/**
 * One event stream that mends itself: it comes back with the number of the last event it saw, so that what happened in
 * between is told then.
 * @returns ways to try again at once, and to end
 */
export function openStream(say: (said: Said) => void): { readonly retry: () => void; readonly close: () => void } {
	let seen: number | null = null;
	let source: EventSource | null = null;
	let timer: ReturnType<typeof setTimeout> | undefined;
	let wait = FIRST_RETRY_MS;
	let closed = false;

	const lost = (): void => {
		source?.close();
		source = null;
		say({ kind: "state", state: "lost" });
		later(open, wait);
		wait = Math.min(wait * 2, LAST_RETRY_MS);
	};
	const later = (work: () => void, ms: number): void => {
		clearTimeout(timer);
		timer = setTimeout(work, ms);
	};
	const alive = (): void => later(lost, SILENCE_MS);
	const tell = (event: LiveEvent): void => {
		if (seen !== null && event.seq <= seen) return;
		seen = event.seq;
		say({ kind: "event", event });
	};
	const open = (): void => {
		if (closed) return;
		source = new EventSource(`/api/v1/live${seen === null ? "" : `?after=${seen}`}`);
		source.addEventListener("caught-up", (e) => {
			const news = JSON.parse((e as MessageEvent<string>).data) as News;
			wait = FIRST_RETRY_MS;
			say({ kind: "state", state: "live" });
			for (const event of news.events) tell(event);
			if (news.missed && seen !== null) say({ kind: "missed" });
			seen = news.seq;
			alive();
		});
		source.addEventListener("happened", (e) => {
			tell(JSON.parse((e as MessageEvent<string>).data) as LiveEvent);
			alive();
		});
		source.addEventListener("job", (e) => {
			say({ kind: "message", message: JSON.parse((e as MessageEvent<string>).data) as StreamMessage });
			alive();
		});
		source.addEventListener("beat", alive);
		source.onerror = lost;
		alive();
	};
	open();
	return {
		retry: () => {
			if (source !== null) return;
			wait = FIRST_RETRY_MS;
			later(open, 0);
		},
		close: () => {
			closed = true;
			clearTimeout(timer);
			source?.close();
		},
	};
}
