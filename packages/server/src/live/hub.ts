import type { LiveEvent, StreamMessage } from "@alvek/contract";
import { eventRow } from "@alvek/core/event";
import { canSee, type Visibility, visibilityOf } from "../access";
import type { Context } from "../db";
import { eventsAfter, newestSeq } from "../repo";
import { MOST_NEWS, toEvent } from "./news";

export type Listener = {
	readonly ctx: Context;
	readonly send: (event: LiveEvent) => void;
	/** A message without a number: what it tells is over when it is missed. */
	readonly tell: (message: StreamMessage) => void;
	/** Somebody may see more or less than before: the listener looks whether its own secret still opens anything. */
	readonly recheck: () => void;
};

/** Tells open streams what was committed, each person only what they may know. */
export type Hub = {
	/** From now on; ends with what it returns. */
	listen(listener: Listener): () => void;
	/** To the pages of one person: how far their work is, what their device reads. At most so often for each subject. */
	tell(person: string, message: StreamMessage): void;
	readonly size: () => number;
	/** Open streams of one person. */
	readonly sizeOf: (person: string) => number;
	close(): Promise<void>;
};

/** Rights change seldom; what was found is used for so long. */
const VISIBILITY_MS = 5_000;
/** Messages about one subject, at the most five a second. */
const EVERY_MS = 200;

export function createHub(db: Context["db"]): Hub {
	const listeners = new Set<Listener>();
	const known = new Map<string, { at: number; visibility: Visibility }>();
	const pace = createPace(EVERY_MS, (person: string, message: StreamMessage) => {
		for (const { ctx, tell } of listeners) if (ctx.actor.person === person) tell(message);
	});
	/** The newest event that was told; null: nobody listens. */
	let last: number | null = null;
	let publishing: Promise<void> = Promise.resolve();

	const visibilityFor = async (ctx: Context): Promise<Visibility> => {
		const found = known.get(ctx.actor.person);
		if (found !== undefined && Date.now() - found.at < VISIBILITY_MS) return found.visibility;
		const made = { at: Date.now(), visibility: await visibilityOf(ctx) };
		known.set(ctx.actor.person, made);
		return made.visibility;
	};
	const publish = async (): Promise<void> => {
		if (listeners.size === 0) {
			last = null;
			known.clear();
			return;
		}
		for (;;) {
			last ??= await newestSeq(db);
			const rows = await eventsAfter(db, last, MOST_NEWS);
			if (rows.length === 0) return;
			last = rows.at(-1)?.seq ?? last;
			if (rows.some((r) => eventRow(r.action)?.rights === true)) {
				known.clear();
				for (const { recheck } of listeners) recheck();
			}
			for (const { ctx, send } of listeners) {
				const viewer = await visibilityFor(ctx);
				for (const row of rows) if (canSee(viewer, row)) send(toEvent(db, row));
			}
		}
	};
	const stop = db.onCommit((tables) => {
		if (!tables.has("event")) return;
		publishing = publishing.then(publish).catch(() => undefined);
	});
	return {
		listen(listener) {
			listeners.add(listener);
			// from the newest event at this moment on; a stream fills in what came before
			publishing = publishing
				.then(async () => {
					last ??= await newestSeq(db);
				})
				.catch(() => undefined);
			return () => listeners.delete(listener);
		},
		tell: pace.tell,
		size: () => listeners.size,
		sizeOf: (person) => [...listeners].filter((l) => l.ctx.actor.person === person).length,
		async close() {
			stop();
			pace.close();
			await publishing;
		},
	};
}

/** Passes the latest message about each subject on, no oftener than so; the last one always, and an ended job at once. */
function createPace(everyMs: number, send: (person: string, message: StreamMessage) => void) {
	const waiting = new Map<string, { person: string; message: StreamMessage | null; timer: NodeJS.Timeout }>();
	const next = (key: string): void => {
		const turn = waiting.get(key);
		if (turn === undefined) return;
		if (turn.message === null) return void waiting.delete(key);
		send(turn.person, turn.message);
		turn.message = null;
		turn.timer = setTimeout(() => next(key), everyMs).unref();
	};
	return {
		tell(person: string, message: StreamMessage): void {
			const key = `${message.type} ${message.id}`;
			const turn = waiting.get(key);
			if (turn !== undefined && !isLast(message)) {
				turn.message = message;
				return;
			}
			if (turn !== undefined) clearTimeout(turn.timer);
			waiting.delete(key);
			send(person, message);
			if (!isLast(message)) waiting.set(key, { person, message: null, timer: setTimeout(() => next(key), everyMs).unref() });
		},
		close(): void {
			for (const { timer } of waiting.values()) clearTimeout(timer);
			waiting.clear();
		},
	};
}

const isLast = (message: StreamMessage): boolean => message.type === "job" && message.data.state !== "running";
