import type { Edit } from "@alvek/core/material";
import { isValuePlace } from "@alvek/core/material";
import { describeIssue } from "@alvek/core/result";
import type { Refused } from "../../draft/queue";
import type { Draft } from "../../draft/useDraft";
import { ChangeLine, placeName } from "../../shared/ChangeLine";
import { showToast } from "../../stores/toasts";
import { copyText } from "../../ui/copy";
import { counted } from "../../ui/words";
import { ConflictStrip } from "./ConflictStrip";

/** What was typed and is not with the server: refused with its reason, or contested at places that have no line of their own. */
export function NotSaved({ draft }: { draft: Draft }) {
	const elsewhere = draft.conflicts.filter((c) => !isValuePlace(c.at));
	return (
		<>
			{elsewhere.map((conflict) => (
				<ConflictStrip key={conflict.at} conflict={conflict} draft={draft} />
			))}
			{draft.refused.map((refused) => (
				<RefusedStrip key={`${refused.step.client} ${refused.step.n}`} refused={refused} draft={draft} />
			))}
		</>
	);
}

function RefusedStrip({ refused, draft }: { refused: Refused; draft: Draft }) {
	const { edits } = refused.step;
	const copy = (): void => {
		if (copyText(edits.map(typedText).join("\n"))) showToast({ tone: "plain", text: "What you typed is in the clipboard." });
	};
	return (
		<section role="alert" aria-label="Not saved" className="bg-wrong-soft border-l-3 border-wrong px-3 py-2 mt-2">
			<p className="flex items-center gap-2 flex-wrap">
				<span className="min-w-0 flex-1">
					<b>{counted(edits.length, "change")} not saved.</b> {refused.issues.map(describeIssue).join(" ")}
				</span>
				<button type="button" className="btn btn-small" onClick={copy}>
					Copy
				</button>
				<button type="button" className="btn btn-small" onClick={() => draft.retry(refused)}>
					Try again
				</button>
				<button type="button" className="btn btn-ghost btn-small" onClick={() => draft.drop(refused)}>
					Leave it
				</button>
			</p>
			<ul>
				{edits.slice(0, 8).map((edit) => (
					<ChangeLine key={edit.at} edit={edit} />
				))}
			</ul>
			{edits.length > 8 && <p className="caption">and {edits.length - 8} more</p>}
		</section>
	);
}

/** `Density: 2.71 g/cm3`, as it was typed. */
function typedText(edit: Edit): string {
	const to = edit.to as { entered?: unknown } | string | null;
	const text = typeof to === "string" ? to : typeof to?.entered === "string" ? to.entered : JSON.stringify(edit.to);
	return `${placeName(edit)}: ${text}`;
}
