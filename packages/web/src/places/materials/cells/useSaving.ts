import { useRef, useState } from "react";
import { mutate, undoEvent } from "../../../api/mutate";
import { showIssues } from "../../../api/refusals";
import { showToast } from "../../../stores/toasts";
import { counted } from "../../../ui/words";
import type { CellPlan, Refusal } from "./plan";

/** Plans become drafts, one after the other, each made on what the one before left. */
export function useSaving() {
	const [refused, setRefused] = useState<readonly Refusal[]>([]);
	const [touched, setTouched] = useState<ReadonlySet<string>>(new Set());
	const queue = useRef<Promise<unknown>>(Promise.resolve());

	/** All changes in one step; false when the server refused, with everything as it was. */
	const save = async ({ changes, refused }: CellPlan, what: string): Promise<boolean> => {
		setRefused(refused);
		const items = changes.filter((c) => c.edits.length > 0).map(({ row, edits }) => ({ id: row.id, edits: [...edits] }));
		if (items.length === 0) {
			if (refused.length === 0) showToast({ tone: "plain", text: "Nothing changed: the cells hold that already." });
			return refused.length === 0;
		}
		const result = await mutate("saveDrafts", { items });
		if (!result.ok) {
			showIssues(result.issues);
			return false;
		}
		setTouched((now) => new Set([...now, ...items.map((i) => i.id)]));
		const cells = items.reduce((n, i) => n + i.edits.length, 0);
		const said = `${what}: ${counted(cells, "cell")} of ${counted(items.length, "material")} changed, as drafts`;
		showToast({
			tone: "plain",
			text: `${said}.`,
			action: { label: "Undo", run: () => undoEvent(result.value.event, said) },
		});
		return true;
	};

	return {
		refused,
		dismiss: () => setRefused([]),
		touched,
		/** @param plan null: what it needs is not here, and that was said */
		saveNext: (plan: () => Promise<CellPlan | null>, what: string): Promise<boolean> => {
			const work = async (): Promise<boolean> => {
				const made = await plan();
				return made !== null && (await save(made, what));
			};
			const next = queue.current.then(work, work);
			queue.current = next;
			return next;
		},
	};
}
