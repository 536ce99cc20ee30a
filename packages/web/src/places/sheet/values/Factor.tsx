import { type Edit, valueLabel } from "@alvek/core/material";
import { useState } from "react";
import { useUnitSet } from "../../../stores/preferences";
import { showToast } from "../../../stores/toasts";
import { Field, FormDialog } from "../../../ui/Form";
import { wordsOf } from "../../../ui/Quantity";
import { counted } from "../../../ui/words";
import { useSheet } from "../context";
import { factored } from "./factored";

/** A factor on all strengths, with its reason: what a cautious variant is made of. Each value can be kept as it is. */
export function Factor({ close }: { close: () => void }) {
	const { sheet, material, draft } = useSheet();
	const unitSet = useUnitSet();
	const [factor, setFactor] = useState("0.9");
	const [reason, setReason] = useState("");
	const [kept, setKept] = useState<ReadonlySet<string>>(new Set());
	const lines = factored(material, sheet.base, { factor: factor.trim(), reason: reason.trim() });
	const taken = lines.filter((l) => l.to !== null && !kept.has(l.from.id));
	const submit = (): void => {
		const edits = taken.map((l): Edit => ({ at: l.from.id, from: material.values[l.from.id] ?? null, to: l.to }));
		draft?.commit(edits, `${counted(edits.length, "strength")} times ${factor.trim()}`);
		const text = `${counted(edits.length, "strength")} times ${factor.trim()}.`;
		showToast({ tone: "plain", text, action: { label: "Undo", run: () => draft?.undo() } });
		close();
	};
	return (
		<FormDialog
			title="A factor on strengths"
			act={`Apply to ${counted(taken.length, "value")}`}
			ready={taken.length > 0 && reason.trim() !== ""}
			submit={submit}
			close={close}
			error={null}
		>
			<Field label="Factor" value={factor} change={setFactor} hint="0.9: nine tenths of each." />
			<Field label="Reason" value={reason} change={setReason} hint="It becomes the source of each value." />
			<ul className="mt-2">
				{lines.map(({ from, to, why }) => (
					<li key={from.id} className="flex items-center gap-2 py-0.5">
						<label className="flex items-center gap-2 min-w-0">
							<input
								type="checkbox"
								className="checkbox"
								checked={to !== null && !kept.has(from.id)}
								disabled={to === null}
								onChange={() => setKept(toggled(kept, from.id))}
							/>
							<span className="truncate">{valueLabel(from).name}</span>
						</label>
						<span className="ml-auto whitespace-nowrap">
							{wordsOf(from, unitSet)} → <b>{to === null ? <span className="text-doubt">{why}</span> : wordsOf(to, unitSet)}</b>
						</span>
					</li>
				))}
			</ul>
			{lines.length === 0 && <p className="text-ink2">No strength is here to be lowered.</p>}
		</FormDialog>
	);
}

function toggled(set: ReadonlySet<string>, id: string): ReadonlySet<string> {
	const next = new Set(set);
	if (!next.delete(id)) next.add(id);
	return next;
}
