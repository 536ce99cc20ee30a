import type { Sheet } from "@alvek/contract";
import type { Edit, Material, Side } from "@alvek/core/material";
import { useEffect, useMemo, useSyncExternalStore } from "react";
import { useMe } from "../api/queries";
import { showIssues } from "../api/refusals";
import type { Contested, Refused } from "./queue";
import { draftStoreOf, releaseDraftStore, retainDraftStore } from "./registry";
import { heardOf, type SaveState, saveStateOf } from "./store";

/** A place that somebody else changed first, with both versions. */
export type Conflict = { readonly at: string; readonly mine: unknown; readonly theirs: unknown; readonly of: Contested };

export type Draft = {
	readonly material: Material;
	readonly state: SaveState;
	readonly conflicts: readonly Conflict[];
	readonly refused: readonly Refused[];
	/** The name under which the text of a field of this sheet is kept over a reload. */
	readonly keptAs: (field: string) => string;
	/** Applies at once on screen and saves; the label names the step for undo. */
	readonly commit: (edits: readonly Edit[], label: string) => void;
	readonly undo: () => string | null;
	readonly settle: (conflict: Conflict, side: Side) => void;
	readonly retry: (refused: Refused) => void;
	readonly drop: (refused: Refused) => void;
	/** Resolves when everything typed was answered. */
	readonly flush: () => Promise<void>;
};

/** The draft of one material as it is shown; the queue behind it lives on when the place is left. */
export function useDraft(sheet: Sheet): Draft {
	const person = useMe()?.id ?? "";
	// biome-ignore lint/correctness/useExhaustiveDependencies: the queue is the material's; what the sheet says reaches it below
	const store = useMemo(() => draftStoreOf(sheet, person), [sheet.row.id, person]);
	const state = useSyncExternalStore(store.subscribe, store.getState);
	useEffect(() => store.heard(heardOf(sheet)), [store, sheet]);
	useEffect(() => {
		retainDraftStore(store, person);
		return () => releaseDraftStore(store);
	}, [store, person]);
	return useMemo(
		() => ({
			material: state.shown,
			state: saveStateOf(state),
			conflicts: state.contested.flatMap((of) =>
				of.clashes
					.filter((c) => c.side === null)
					.map((c) => ({ at: c.at, mine: of.step.edits.findLast((e) => e.at === c.at)?.to ?? null, theirs: c.theirs, of })),
			),
			refused: state.refused,
			keptAs: (field) => `${person}.${store.id}.${field}`,
			commit: (edits, label) => {
				const done = store.commit(edits, label);
				if (!done.ok) showIssues(done.issues);
			},
			undo: store.undo,
			settle: (conflict, side) => store.settle(conflict.of, conflict.at, side),
			retry: ({ step }) => store.retry(step),
			drop: ({ step }) => store.drop(step),
			flush: store.flush,
		}),
		[state, store, person],
	);
}
