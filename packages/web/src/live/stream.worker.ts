import { type LinkState, openStream, type Said } from "./stream";

// one stream for all windows of a browser: six open ones would use up all its connections to a server

/** What a page asks of the stream. */
export type Asked = "retry" | "bye";

type Shared = { onconnect: ((event: MessageEvent) => void) | null };

const ports = new Set<MessagePort>();
let state: LinkState = "live";
const stream = openStream((said: Said) => {
	if (said.kind === "state") state = said.state;
	for (const port of ports) port.postMessage(said);
});

// the types of a page, in a shared worker
(globalThis as unknown as Shared).onconnect = (event) => {
	const [port] = event.ports;
	if (port === undefined) return;
	ports.add(port);
	port.onmessage = (message: MessageEvent<Asked>) => {
		if (message.data === "retry") stream.retry();
		if (message.data === "bye") ports.delete(port);
	};
	port.postMessage({ kind: "state", state } satisfies Said);
};
