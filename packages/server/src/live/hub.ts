import type { LiveEvent } from "@alvek/contract";
import { eventRow } from "@alvek/core/event";
import type { Context } from "../db/write";
import { canSee, eventsAfter, newestSeq, toEvent, type Visibility, visibilityOf } from "./news";

export type Listener = {
	readonly ctx: Context;
	readonly send: (event: LiveEvent) => void;
	/** Somebody may see more or less than before: the listener looks whether its own secret still opens anything. */
	readonly recheck: () => void;
};

/** Tells open streams what was committed, each person only what they may know. */
export type Hub = {
	/** From now on; ends with what it returns. */
	listen(listener: Listener): () => void;
	readonly size: () => number;
	/** Open streams of one person. */
	readonly sizeOf: (person: string) => number;
	close(): Promise<void>;
};

/** Rights change seldom; what was found is used for so long. */
const VISIBILITY_MS = 5_000;

export function createHub(db: Context["db"]): Hub {
	const listeners = new Set<Listener>();
	const known = new Map<string, { at: number; visibility: Visibility }>();
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
			const rows = await eventsAfter(db, last);
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
	const stop = db.onCommit(() => {
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
		size: () => listeners.size,
		sizeOf: (person) => [...listeners].filter((l) => l.ctx.actor.person === person).length,
		async close() {
			stop();
			await publishing;
		},
	};
}
