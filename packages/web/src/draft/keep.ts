import type { Kept } from "./queue";

/** The browser's storage, as far as it is needed here; a test gives its own. */
export type Store = Pick<Storage, "getItem" | "setItem" | "removeItem" | "key" | "length">;

const QUEUE = "alvek.queue";
const ALIVE = "alvek.alive";
/** A page says that it lives so often; one silent for longer than the second is gone. */
export const BEAT_MS = 10_000;
const GONE_MS = 25_000;

/** What a page kept of one material: whose it is, and what it was called. */
export type KeptQueue = Kept & { readonly material: string; readonly name: string; readonly at: string };
export type Orphan = KeptQueue & { readonly key: string };

const keyOf = (person: string, tab: string, material: string): string => `${QUEUE}.${person}.${tab}.${material}`;

/** Keeps what is unconfirmed until it is confirmed; nothing is kept of what is. */
export function keepQueue(store: Store, who: { person: string; tab: string }, queue: KeptQueue): void {
	const key = keyOf(who.person, who.tab, queue.material);
	if (queue.queue.length + queue.contested.length + queue.refused.length === 0) return store.removeItem(key);
	try {
		store.setItem(key, JSON.stringify(queue));
	} catch {
		// a full storage keeps no more; the page itself still holds it, and asks before it closes
	}
}

export const beat = (store: Store, tab: string, now: number): void => {
	try {
		store.setItem(`${ALIVE}.${tab}`, String(now));
	} catch {
		// as above
	}
};

/** The page closes in order: what it kept is offered to the next one at once. */
export const endBeat = (store: Store, tab: string): void => store.removeItem(`${ALIVE}.${tab}`);

/** What pages of this person kept that are gone, the latest first. Keys of long-gone pages are swept. */
export function orphans(store: Store, who: { person: string; tab: string }, now: number): readonly Orphan[] {
	const keys = Array.from({ length: store.length }, (_, i) => store.key(i)).filter((k) => k !== null);
	const alive = new Set(
		keys
			.filter((k) => k.startsWith(`${ALIVE}.`) && now - Number(store.getItem(k)) < GONE_MS)
			.map((k) => k.slice(ALIVE.length + 1)),
	);
	for (const k of keys) if (k.startsWith(`${ALIVE}.`) && !alive.has(k.slice(ALIVE.length + 1))) store.removeItem(k);
	return keys
		.filter((k) => k.startsWith(`${QUEUE}.${who.person}.`))
		.flatMap((key): Orphan[] => {
			const tab = key.slice(`${QUEUE}.${who.person}.`.length).split(".", 1)[0] ?? "";
			const kept = tab === who.tab || alive.has(tab) ? null : read(store.getItem(key));
			return kept === null ? [] : [{ ...kept, key }];
		})
		.sort((a, b) => (a.at < b.at ? 1 : -1));
}

function read(text: string | null): KeptQueue | null {
	try {
		const kept = JSON.parse(text ?? "null") as Partial<KeptQueue> | null;
		const whole = kept !== null && Array.isArray(kept.queue) && Array.isArray(kept.contested) && Array.isArray(kept.refused);
		return whole && typeof kept.material === "string" ? (kept as KeptQueue) : null;
	} catch {
		return null;
	}
}
