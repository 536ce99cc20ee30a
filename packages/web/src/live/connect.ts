import { call } from "../api/client";
import type { LinkState, Said } from "./stream";
import type { Asked } from "./stream.worker";
import StreamWorker from "./stream.worker?sharedworker";

export type Link = { readonly retry: () => void; readonly close: () => void };

const POLL_MS = 10_000;

/** News for this page: by the stream that all windows share, or by asking every few seconds where there is none. */
export function connect(person: string, say: (said: Said) => void): Link {
	// on some phones there are no shared workers
	return typeof SharedWorker === "undefined" ? poll(say) : share(person, say);
}

function share(person: string, say: (said: Said) => void): Link {
	// a worker for each person, so that nobody is told what the one before could see
	const { port } = new StreamWorker({ name: `alvek-${person}` });
	const ask = (what: Asked): void => port.postMessage(what);
	const bye = (): void => ask("bye");
	port.onmessage = (e: MessageEvent<Said>) => say(e.data);
	window.addEventListener("pagehide", bye);
	return {
		retry: () => ask("retry"),
		close: () => {
			window.removeEventListener("pagehide", bye);
			bye();
			port.close();
		},
	};
}

/** @returns the link; asks with the number of the last event it saw */
export function poll(say: (said: Said) => void, every_ms = POLL_MS): Link {
	let seen: number | null = null;
	let state: LinkState = "live";
	const change = (next: LinkState): void => {
		if (next !== state) say({ kind: "state", state: next });
		state = next;
	};
	const ask = async (): Promise<void> => {
		const news = await call("readNews", { after: String(seen ?? 0) });
		if (!news.ok) {
			if (news.issues[0]?.code === "unreachable") change("lost");
			return;
		}
		change("live");
		// the first answer only says where the story stands
		if (seen !== null) {
			for (const event of news.value.events) say({ kind: "event", event });
			if (news.value.missed) say({ kind: "missed" });
		}
		seen = news.value.seq;
	};
	void ask();
	const timer = setInterval(ask, every_ms);
	return { retry: () => void ask(), close: () => clearInterval(timer) };
}
