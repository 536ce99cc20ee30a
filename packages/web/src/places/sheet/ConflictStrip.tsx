import type { MaterialValue } from "@alvek/core/material";
import type { Conflict, Draft } from "../../draft/useDraft";
import { useUnitSet } from "../../stores/preferences";
import { wordsOf } from "../../ui/Quantity";

/** Both versions of a place that was changed twice; nothing is lost until the person chooses. */
export function ConflictStrip({ conflict, draft }: { conflict: Conflict; draft: Draft }) {
	const unitSet = useUnitSet();
	const words = (content: unknown): string => {
		if (content === null || content === undefined || content === "") return "blank";
		if (typeof content === "string") return content;
		const value = content as MaterialValue;
		return "property" in value ? wordsOf(value, unitSet) : JSON.stringify(content);
	};
	return (
		<div role="alert" className="bg-doubt-soft border-l-3 border-doubt px-2.5 py-1.5 mb-1.5 flex items-center gap-2.5 flex-wrap">
			<span>
				Changed elsewhere to <b>{words(conflict.theirs)}</b>; you typed <b>{words(conflict.mine)}</b>.
			</span>
			<button type="button" className="btn btn-small ml-auto" onClick={() => draft.settle(conflict, "theirs")}>
				Take theirs
			</button>
			<button type="button" className="btn btn-small" onClick={() => draft.settle(conflict, "mine")}>
				Keep mine
			</button>
		</div>
	);
}
