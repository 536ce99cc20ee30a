import type { MaterialValue } from "@alvek/core/material";
import { CircleSlash, HelpCircle, ListOrdered, Table2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import type { SheetLine } from "./lines";
import { ReadingsForm } from "./ReadingsForm";

/** What a blank line can become beside a typed value. Unknown and does not apply are two things; neither is zero. */
export function BlankDetails({ line, onSay }: { line: SheetLine; onSay: (to: MaterialValue, what: string) => void }) {
	const { spec, key, own } = line;
	const [reading, setReading] = useState(false);
	const say = (kind: "unknown" | "not-applicable"): void =>
		onSay(
			{ id: key, property: spec.id, kind, ...(own === undefined ? {} : { own }) },
			kind === "unknown" ? "marked unknown" : "does not apply",
		);
	return (
		<div className="bg-paper border border-line2 rounded-md p-2 mb-2 flex flex-wrap gap-1.5 items-center">
			<span className="caption mr-auto">{spec.explanation}</span>
			{spec.scales !== true && own === undefined && (
				<Link className="btn btn-ghost btn-small" to={`curve/${key}?new=table&property=${spec.id}`}>
					<Table2 size={13} aria-hidden /> Over temperature…
				</Link>
			)}
			<button type="button" className="btn btn-ghost btn-small" aria-expanded={reading} onClick={() => setReading(!reading)}>
				<ListOrdered size={13} aria-hidden /> Several readings…
			</button>
			<button type="button" className="btn btn-ghost btn-small" onClick={() => say("unknown")}>
				<HelpCircle size={13} aria-hidden /> Unknown
			</button>
			<button type="button" className="btn btn-ghost btn-small" onClick={() => say("not-applicable")}>
				<CircleSlash size={13} aria-hidden /> Does not apply
			</button>
			{reading && (
				<ReadingsForm
					id={key}
					spec={spec}
					{...(own === undefined ? {} : { own })}
					onDone={(to) => {
						setReading(false);
						onSay(to, "readings entered");
					}}
					onCancel={() => setReading(false)}
				/>
			)}
		</div>
	);
}
