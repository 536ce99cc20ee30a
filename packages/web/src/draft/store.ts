import type { RouteInput, SavedDraft, Sheet } from "@alvek/contract";
import { applyEdits, type Edit, type Material, type Side } from "@alvek/core/material";
import type { Result } from "@alvek/core/result";
import { createStore, type StoreApi } from "zustand/vanilla";
import {
	type Action,
	beginQueue,
	type Contested,
	type Heard,
	isUnsaved,
	type Kept,
	type QueueState,
	reduce,
	type Step,
} from "./queue";

/** What the queue of one material needs of the world. */
export type Ports = {
	/** A name that no queue has had: steps are counted by it, and a queue that begins anew begins to count anew. */
	readonly newClient: () => string;
	readonly save: (input: RouteInput<"saveDraft">) => Promise<Result<SavedDraft>>;
	/** Waits before the next try. */
	readonly wait: (ms: number) => Promise<void>;
	/** Called with every state, to be kept. */
	readonly keep: (state: QueueState) => void;
	/** What is shown elsewhere may be asked for again. */
	readonly confirmed: () => Promise<void> | void;
	/** The draft or its base is another one than was thought: the sheet is asked for anew. */
	readonly moved: () => Promise<void> | void;
};

/** One material's queue, outside of any component: it goes on when the place is left. */
export type DraftStore = Pick<StoreApi<QueueState>, "getState" | "subscribe"> & {
	readonly id: string;
	/** Applies at once on screen and saves; the issues where the edits do not fit what is shown. */
	readonly commit: (edits: readonly Edit[], label: string) => Result<null>;
	/** Takes the latest step of this page back; its label, or null. */
	readonly undo: () => string | null;
	readonly settle: (contested: Contested, at: string, side: Side) => void;
	readonly retry: (step: Step) => void;
	readonly drop: (step: Step) => void;
	readonly heard: (heard: Heard) => void;
	readonly adopt: (kept: Kept) => void;
	readonly signedIn: () => void;
	/** Resolves when everything typed was answered. */
	readonly flush: () => Promise<void>;
};

const RETRY_MS = 3_000;

/** What a sheet says of the draft that it shows. */
export const heardOf = ({ row }: Pick<Sheet, "row">): Heard => ({
	document: row.document,
	draft: row.draftId,
	base: row.revisionId,
	version: row.draftVersion,
});

/** Answers after which the same is tried again later, because nothing was said about it. */
const LATER = new Set(["unreachable", "too-many-requests", "database-busy", "internal"]);

export function createDraftStore(id: string, start: Heard, ports: Ports): DraftStore {
	const store = createStore<QueueState>(() => beginQueue(ports.newClient(), start));
	const undoable: { readonly edits: readonly Edit[]; readonly label: string }[] = [];
	let pumping: Promise<void> | null = null;

	const dispatch = (action: Action): void => {
		store.setState(reduce(store.getState(), action), true);
		ports.keep(store.getState());
	};
	const answer = (step: Step, result: Result<SavedDraft>): Action => {
		if (result.ok) return { do: "ok", step, saved: result.value };
		const code = result.issues[0]?.code ?? "";
		if (LATER.has(code)) return { do: "unreachable" };
		if (code === "signed-out") return { do: "signed-out" };
		return { do: code === "conflict" ? "conflict" : "refused", step, issues: result.issues };
	};
	const pump = async (): Promise<void> => {
		let sent = false;
		for (;;) {
			const [step] = store.getState().queue;
			if (step === undefined || store.getState().phase === "signed-out") break;
			dispatch({ do: "send" });
			const { draft, base } = store.getState();
			const edits = step.edits as RouteInput<"saveDraft">["edits"];
			const result = await ports.save({ id, client: step.client, step: step.n, draft, base, edits });
			dispatch(answer(step, result));
			sent = true;
			if (store.getState().phase === "offline") await ports.wait(RETRY_MS);
			else if (!result.ok) await ports.moved();
		}
		if (sent) await ports.confirmed();
	};
	const run = (): Promise<void> => {
		pumping ??= pump().finally(() => {
			pumping = null;
			// what was typed while the last answer was on its way
			if (store.getState().queue.length > 0 && store.getState().phase !== "signed-out") void run();
		});
		return pumping;
	};
	const type = (edits: readonly Edit[]): Result<{ readonly material: Material; readonly inverse: readonly Edit[] }> => {
		const applied = applyEdits(store.getState().shown, edits);
		if (!applied.ok) return applied;
		dispatch({ do: "type", edits });
		void run();
		return applied;
	};
	/** A state in which the person waits for nothing any more, or only for themselves. */
	const rests = (): boolean => store.getState().queue.length === 0 || store.getState().phase === "signed-out";

	return {
		id,
		getState: store.getState,
		subscribe: store.subscribe,
		commit(edits, label) {
			const applied = type(edits);
			if (!applied.ok) return applied;
			if (applied.value.inverse.length > 0) undoable.push({ edits: applied.value.inverse, label });
			return { ok: true, value: null };
		},
		undo() {
			const step = undoable.pop();
			if (step === undefined) return null;
			return type(step.edits).ok ? step.label : null;
		},
		settle({ step }, at, side) {
			dispatch({ do: "settle", step, at, side });
			void run();
		},
		retry(step) {
			dispatch({ do: "retry", step });
			void run();
		},
		drop: (step) => dispatch({ do: "drop", step }),
		heard: (heard) => dispatch({ do: "heard", heard }),
		adopt(kept) {
			dispatch({ do: "adopt", kept });
			void run();
		},
		signedIn() {
			dispatch({ do: "signed-in" });
			void run();
		},
		async flush() {
			while (!rests()) await run();
		},
	};
}

/** In words of its own for whoever looks at it: nothing waits, something is on its way, or it waits for something. */
export type SaveState = "saved" | "saving" | "unsaved";
export const saveStateOf = (state: QueueState): SaveState =>
	!isUnsaved(state) ? "saved" : state.phase === "offline" || state.phase === "signed-out" ? "unsaved" : "saving";
