import type { LiveEvent } from "@alvek/contract";
import type { Context } from "../db/write";
import { type Ears, earsOf, eventsAfter, hears, newestSeq, toEvent } from "./news";

export type Listener = { readonly ctx: Context; readonly send: (event: LiveEvent) => void };

/** Tells open streams what was committed, each person only what they may know. */
export type Hub = {
	/** From now on; ends with what it returns. */
	listen(listener: Listener): () => void;
	readonly size: () => number;
	close(): Promise<void>;
};

/** Rights change seldom; what was found is used for so long. */
const EARS_MS = 5_000;
/** Steps after which somebody may see more or less than before. */
const OF_RIGHTS = /share|archive|bring-back|create|remove|leave|^set\.|^team\.|^person\./;

export function createHub(db: Context["db"]): Hub {
	const listeners = new Set<Listener>();
	const ears = new Map<string, { at: number; ears: Ears }>();
	let told: number | null = null;
	let telling: Promise<void> = Promise.resolve();

	const earsFor = async (ctx: Context): Promise<Ears> => {
		const known = ears.get(ctx.actor.person);
		if (known !== undefined && Date.now() - known.at < EARS_MS) return known.ears;
		const made = { at: Date.now(), ears: await earsOf(ctx) };
		ears.set(ctx.actor.person, made);
		return made.ears;
	};
	const tell = async (): Promise<void> => {
		if (listeners.size === 0) {
			told = null;
			return;
		}
		for (;;) {
			told ??= await newestSeq(db);
			const rows = await eventsAfter(db, told);
			if (rows.length === 0) return;
			told = rows.at(-1)?.seq ?? told;
			if (rows.some((r) => OF_RIGHTS.test(r.action))) ears.clear();
			for (const { ctx, send } of listeners) {
				const mine = await earsFor(ctx);
				for (const row of rows) if (hears(mine, row)) send(toEvent(db, row));
			}
		}
	};
	const stop = db.onCommit(() => {
		telling = telling.then(tell).catch(() => undefined);
	});
	return {
		listen(listener) {
			listeners.add(listener);
			// from the newest event at this moment on; a stream fills in what came before
			telling = telling
				.then(async () => {
					told ??= await newestSeq(db);
				})
				.catch(() => undefined);
			return () => listeners.delete(listener);
		},
		size: () => listeners.size,
		async close() {
			stop();
			await telling;
		},
	};
}
