import type { EventEmitter } from "node:events";
import type { LiveEvent, StreamMessage } from "@alvek/contract";
import type { RequestHandler, Response } from "express";
import { type Hub, readNews } from "../live";
import { newestSeq } from "../repo";
import { contextOf } from "./authentication";
import { sendIssues } from "./reply";

const BEAT_MS = 20_000;
/** A reader that does not keep up is let go; it comes back and catches up. */
const MOST_WAITING_BYTES = 1024 * 1024;
const MOST_STREAMS = 2_000;
/** One person's pages share a stream a browser; so many browsers, scripts and stale ones are plenty. */
const MOST_OF_ONE = 30;

/**
 * Server-sent events (HTML Living Standard, "Server-sent events"): what happened since the event that the page saw last,
 * then everything as it happens. Each event's id is its number, so a browser that reconnects names it.
 * @param stillIn whether the session that opened the stream still holds
 */
export function eventStream(hub: Hub, stillIn: (req: Parameters<RequestHandler>[0]) => Promise<boolean>): RequestHandler {
	return async function stream(req, res): Promise<void> {
		const ctx = contextOf(res);
		if (hub.size() >= MOST_STREAMS)
			return sendIssues(res, [{ code: "too-many", path: "open pages", expected: `at most ${MOST_STREAMS}` }]);
		if (hub.sizeOf(ctx.actor.person) >= MOST_OF_ONE)
			return sendIssues(res, [{ code: "too-many", path: "open pages", expected: `at most ${MOST_OF_ONE} of one person` }]);
		res.writeHead(200, {
			"Content-Type": "text/event-stream",
			"Cache-Control": "no-cache, no-transform",
			"X-Accel-Buffering": "no",
		});
		let seen = Number(req.headers["last-event-id"] ?? (req.query as { after?: string }).after ?? 0) || (await newestSeq(ctx.db));
		const held: LiveEvent[] = [];
		let caughtUp = false;
		const send = (event: LiveEvent): void => {
			if (!caughtUp) return void held.push(event);
			if (event.seq <= seen) return;
			seen = event.seq;
			write(res, { id: event.seq, event: "happened", data: event });
		};
		const tell = (message: StreamMessage): void => write(res, { event: message.type, data: message });
		const recheck = async (): Promise<boolean> => {
			const holds = await stillIn(req).catch(() => true);
			if (!holds) res.end();
			return holds;
		};
		const leave = hub.listen({ ctx, send, tell, recheck });
		const beat = setInterval(async () => {
			if (!(await recheck())) return;
			if (res.writableLength > MOST_WAITING_BYTES) return void res.end();
			// an event of its own, so that a page can tell silence from a dead connection
			res.write("event: beat\ndata:\n\n");
		}, BEAT_MS);
		// a server that stops lets its streams go; pages come back by themselves
		const end = (): void => void res.end();
		// Node sets it and does not declare it
		const server = (req.socket as unknown as { server?: EventEmitter }).server;
		server?.once("draining", end);
		res.on("close", () => {
			clearInterval(beat);
			leave();
			server?.off("draining", end);
		});
		const news = await readNews(ctx, { after: String(seen) });
		if (!news.ok) return void res.end();
		write(res, { id: news.value.seq, event: "caught-up", data: news.value });
		seen = news.value.seq;
		caughtUp = true;
		for (const event of held) send(event);
	};
}

/** Without a number: a browser that reconnects does not ask for it again. */
function write(res: Response, message: { readonly id?: number; readonly event: string; readonly data: unknown }): void {
	if (res.writableEnded) return;
	const id = message.id === undefined ? "" : `id: ${message.id}\n`;
	res.write(`${id}event: ${message.event}\ndata: ${JSON.stringify(message.data)}\n\n`);
}
