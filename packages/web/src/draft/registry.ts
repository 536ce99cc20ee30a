import type { Sheet } from "@alvek/contract";
import { changesAnswer } from "@alvek/core/event";
import { create } from "zustand";
import { call, newId, pendingChanges, TAB } from "../api/client";
import { askAgain } from "../api/mutate";
import { queryClient } from "../api/queries";
import { BEAT_MS, beat, endBeat, keepQueue, orphans as orphansIn } from "./keep";
import { isUnsaved, type Phase, type QueueState } from "./queue";
import { createDraftStore, type DraftStore, heardOf } from "./store";
import { hasOpenText } from "./text";

/** One material with something that is not confirmed, for what is said outside of its sheet. */
export type Unsaved = {
	readonly id: string;
	readonly name: string;
	readonly phase: Phase;
	/** Steps that wait, that others contest, that were refused. */
	readonly waiting: number;
	readonly asked: number;
	readonly refused: number;
};

/** What is unconfirmed on this page, by material. */
export const useUnsaved = create<{ readonly unsaved: readonly Unsaved[] }>(() => ({ unsaved: [] }));

type Known = { readonly person: string; readonly store: DraftStore };
const stores = new Map<string, Known>();

function told(id: string, name: string, state: QueueState): void {
	const others = useUnsaved.getState().unsaved.filter((u) => u.id !== id);
	const counts = { waiting: state.queue.length, asked: state.contested.length, refused: state.refused.length };
	const mine = isUnsaved(state) ? [{ id, name, phase: state.phase, ...counts }] : [];
	if (mine.length > 0 || others.length < useUnsaved.getState().unsaved.length)
		useUnsaved.setState({ unsaved: [...others, ...mine] });
}

/** The queue of a material for this person; made when it is first asked for, and going on when the place is left. */
export function draftStoreOf(sheet: Sheet, person: string): DraftStore {
	const { id, name } = sheet.row;
	const known = stores.get(id);
	if (known !== undefined && known.person === person) return known.store;
	const store = createDraftStore(id, heardOf(sheet), {
		newClient: newId,
		save: (input) => call("saveDraft", input),
		wait: untilReachable,
		keep(state) {
			const { queue, contested, refused } = state;
			const kept = { material: id, name, at: new Date().toISOString(), queue, contested, refused };
			keepQueue(localStorage, { person, tab: TAB }, kept);
			told(id, name, state);
		},
		// also where the first reply was lost and the second one says that there was nothing left to save
		confirmed: () => askAgain((question) => changesAnswer("draft.save", question)),
		moved: async () => {
			const fresh = await call("getSheet", { id });
			if (!fresh.ok) return;
			queryClient.setQueryData(["getSheet", { id }], fresh.value);
			store.heard(heardOf(fresh.value));
		},
	});
	stores.set(id, { person, store });
	return store;
}

/** The place shows it (again). */
export function retainDraftStore(store: DraftStore, person: string): void {
	stores.set(store.id, { person, store });
}

/** The place is left: a queue with nothing in it need not be remembered. */
export function releaseDraftStore(store: DraftStore): void {
	if (!isUnsaved(store.getState()) && stores.get(store.id)?.store === store) stores.delete(store.id);
}

/**
 * This person is here, again or for the first time. Their queues go on; those of whoever was here before are left in the
 * browser for them, and nothing of theirs is sent in another name.
 */
export function resume(person: string): void {
	for (const [id, known] of stores) {
		if (known.person === person) known.store.signedIn();
		else {
			stores.delete(id);
			useUnsaved.setState((s) => ({ unsaved: s.unsaved.filter((u) => u.id !== id) }));
		}
	}
}

/** What pages that are gone kept for this person. */
export const orphansOf = (person: string) => orphansIn(localStorage, { person, tab: TAB }, Date.now());

/** Sends what a gone page kept, under its own numbers, so that what had arrived after all counts once. */
export async function adoptOrphans(person: string): Promise<{ readonly sent: number; readonly lost: readonly string[] }> {
	const lost: string[] = [];
	let sent = 0;
	for (const orphan of orphansOf(person)) {
		const sheet = await call("getSheet", { id: orphan.material });
		// kept where it is until it can be sent
		if (!sheet.ok) {
			lost.push(orphan.name);
			continue;
		}
		draftStoreOf(sheet.value, person).adopt(orphan);
		localStorage.removeItem(orphan.key);
		sent++;
	}
	return { sent, lost };
}

export function dropOrphans(person: string): void {
	for (const orphan of orphansOf(person)) localStorage.removeItem(orphan.key);
}

/** A moment before the next try; at once when the browser says that it is back on the network. */
function untilReachable(ms: number): Promise<void> {
	return new Promise((resolve) => {
		const done = (): void => {
			clearTimeout(timer);
			window.removeEventListener("online", done);
			resolve();
		};
		const timer = setTimeout(done, ms);
		window.addEventListener("online", done);
	});
}

/** Says that this page lives, and asks before it is closed with something unconfirmed. Once for a page. */
export function watchPage(): void {
	beat(localStorage, TAB, Date.now());
	setInterval(() => beat(localStorage, TAB, Date.now()), BEAT_MS);
	window.addEventListener("pagehide", () => endBeat(localStorage, TAB));
	// a page that comes back from the browser's cache lives again
	window.addEventListener("pageshow", () => beat(localStorage, TAB, Date.now()));
	window.addEventListener("beforeunload", (e) => {
		// a field takes what was typed when it is left, and leaving the page leaves it
		if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
		if (pendingChanges() > 0 || useUnsaved.getState().unsaved.length > 0 || hasOpenText()) e.preventDefault();
	});
}
