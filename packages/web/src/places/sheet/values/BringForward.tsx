import { difference, type Edit, isValuePlace, type MaterialValue, sameContent } from "@alvek/core/material";
import { ArrowUpToLine } from "lucide-react";

import { mutate, undoEvent } from "../../../api/mutate";
import { showIssues } from "../../../api/refusals";
import { showToast } from "../../../stores/toasts";
import { useSheet } from "../context";
import { following } from "../Details";
import type { ComparedLine } from "./bulk";

/** The base has moved on: its difference, and taking it over where nothing own stands in the way. */
export function BringForward({ lines }: { lines: readonly ComparedLine[] }) {
	const { sheet, material, draft } = useSheet();
	const { base } = sheet;
	if (base === null || base.document === null || base.head === null || draft === null) return null;
	const moved = difference(base.document, base.head).filter((e) => isValuePlace(e.at));
	const behind = lines.filter((l) => l.state === "behind" || (l.own?.follows !== undefined && l.base !== null));
	const bring = async (): Promise<void> => {
		const edits: Edit[] = behind.map((l) => ({ at: l.id, from: l.own, to: following(l.base as MaterialValue, l.id, base) }));
		// a copy takes over what it has not changed itself
		if (base.kind === "copy") {
			for (const e of moved) {
				const mine = material.values[e.at] ?? null;
				if (sameContent(mine, e.from)) edits.push({ at: e.at, from: mine, to: e.to });
			}
		}
		if (edits.length > 0) draft.commit(edits, `${edits.length} values brought forward`);
		await draft.flush();
		const result = await mutate("standOnNewest", { id: sheet.row.id, revision: base.headRevision });
		if (!result.ok) return showIssues(result.issues);
		const what = `${sheet.row.name} stands on revision ${base.headRevision} of ${base.name}`;
		showToast({
			tone: "plain",
			text: `${what}; ${edits.length} values moved.`,
			action: { label: "Undo", run: () => undoEvent(result.value.event, what) },
		});
	};
	return (
		<div className="text-right">
			<button type="button" className="btn btn-primary" onClick={bring}>
				<ArrowUpToLine size={14} aria-hidden /> Bring forward to rev {base.headRevision}
			</button>
			<p className="caption">{moved.length === 1 ? "1 value changed there" : `${moved.length} values changed there`}</p>
		</div>
	);
}
