import type { Sheet } from "@alvek/contract";
import { applyEdits, type Edit, type Material } from "@alvek/core/material";
import { useCallback, useEffect, useRef, useState } from "react";
import { call } from "../../api/client";
import { queryClient, showIssues } from "../../api/queries";

/** Somebody else (another window, another person's merge) changed the same place first. */
export type Conflict = { readonly at: string; readonly mine: unknown; readonly theirs: unknown };

export type SaveState = "saved" | "saving" | "unsaved";

export type Draft = {
	readonly material: Material;
	readonly state: SaveState;
	readonly conflicts: readonly Conflict[];
	/** Applies at once on screen and saves; the label names the step for undo. */
	readonly commit: (edits: readonly Edit[], label: string) => void;
	readonly undo: () => string | null;
	readonly settle: (conflict: Conflict, keepMine: boolean) => void;
	/** Resolves when everything typed is on the server. */
	readonly flush: () => Promise<void>;
};

const RETRY_MS = 3_000;

/**
 * The draft of one material: what is typed shows at once, goes to the server in order, and stays queued while the
 * server does not answer. A conflict holds only the place that it is about.
 */
export function useDraft(sheet: Sheet): Draft {
	const { id } = sheet.row;
	const [material, setMaterial] = useState(sheet.row.document);
	const [state, setState] = useState<SaveState>("saved");
	const [conflicts, setConflicts] = useState<readonly Conflict[]>([]);
	const current = useRef(material);
	const queue = useRef<Edit[][]>([]);
	const sending = useRef<Promise<void> | null>(null);
	const steps = useRef<{ edits: readonly Edit[]; label: string }[]>([]);

	const show = useCallback((next: Material) => {
		current.current = next;
		setMaterial(next);
	}, []);

	// what the server knows wins whenever nothing is under way here
	useEffect(() => {
		if (queue.current.length === 0 && sending.current === null) show(sheet.row.document);
	}, [sheet.row.document, show]);

	const onConflict = useCallback(
		async (edits: readonly Edit[]) => {
			const fresh = await call("getSheet", { id });
			if (!fresh.ok) return;
			const server = fresh.value.row.document;
			const clashes: Conflict[] = [];
			for (const edit of edits) {
				const applied = applyEdits(server, [edit]);
				if (applied.ok) queue.current.push([edit]);
				else clashes.push({ at: edit.at, mine: edit.to, theirs: applied.issues[0]?.current ?? null });
			}
			setConflicts((before) => [...before.filter((c) => !clashes.some((n) => n.at === c.at)), ...clashes]);
			show(server);
			queryClient.setQueryData(["getSheet", { id }], fresh.value);
		},
		[id, show],
	);

	const drain = useCallback(async () => {
		for (;;) {
			const edits = queue.current[0];
			if (edits === undefined) {
				setState("saved");
				await queryClient.invalidateQueries();
				// what was typed while the answer was on its way goes out now
				if (queue.current.length === 0) return;
				continue;
			}
			setState("saving");
			const result = await call("saveDraft", { id, edits: edits as never });
			if (!result.ok && result.issues[0]?.code === "unreachable") {
				setState("unsaved");
				await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
				continue;
			}
			queue.current.shift();
			if (result.ok) continue;
			if (result.issues[0]?.code === "conflict") await onConflict(edits);
			else {
				showIssues(result.issues);
				queue.current = [];
			}
		}
	}, [id, onConflict]);

	const start = useCallback(() => {
		sending.current ??= drain().finally(() => {
			sending.current = null;
			// what arrived while this was on its way: somebody else's edits of other values
			const fresh = queryClient.getQueryData<Sheet>(["getSheet", { id }]);
			if (fresh !== undefined && queue.current.length === 0) show(fresh.row.document);
		});
		return sending.current;
	}, [drain, id, show]);

	const send = useCallback(
		(edits: readonly Edit[]) => {
			const applied = applyEdits(current.current, edits);
			if (!applied.ok) {
				showIssues(applied.issues);
				return null;
			}
			show(applied.value.material);
			queue.current.push([...edits]);
			void start();
			return applied.value.inverse;
		},
		[show, start],
	);

	const commit = useCallback(
		(edits: readonly Edit[], label: string) => {
			const inverse = send(edits);
			if (inverse !== null && inverse.length > 0) steps.current.push({ edits: inverse, label });
		},
		[send],
	);

	const undo = useCallback(() => {
		const step = steps.current.pop();
		if (step === undefined) return null;
		send(step.edits);
		return step.label;
	}, [send]);

	const settle = useCallback(
		(conflict: Conflict, keepMine: boolean) => {
			setConflicts((before) => before.filter((c) => c.at !== conflict.at));
			if (keepMine) commit([{ at: conflict.at, from: conflict.theirs, to: conflict.mine }], "my version kept");
		},
		[commit],
	);

	// leaving with something unsaved asks first
	useEffect(() => {
		if (state === "saved") return;
		const ask = (e: BeforeUnloadEvent): void => e.preventDefault();
		window.addEventListener("beforeunload", ask);
		return () => window.removeEventListener("beforeunload", ask);
	}, [state]);

	const flush = useCallback(async () => {
		while (queue.current.length > 0 || sending.current !== null) await start();
	}, [start]);

	return { material, state, conflicts, commit, undo, settle, flush };
}
