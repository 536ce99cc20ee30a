import { type MaterialValue, makeValue } from "@alvek/core/material";
import type { OwnProperty, PropertyRow } from "@alvek/core/property";
import { describeIssue } from "@alvek/core/result";
import { useState } from "react";
import { useUnitSet } from "../../stores/preferences";
import { leaveOnEscape } from "../../ui/Leavable";
import { plainUnit, wordsOf } from "../../ui/Quantity";

type Props = {
	id: string;
	spec: PropertyRow;
	own?: OwnProperty;
	/** What stands there already. */
	before?: string;
	onDone: (to: MaterialValue) => void;
	onCancel: () => void;
};

/** Readings of several specimens, one a line or in a row: every one is kept, mean, s and n follow. */
export function ReadingsForm({ id, spec, own, before = "", onDone, onCancel }: Props) {
	const unitSet = useUnitSet();
	const [text, setText] = useState(before.replace(/;\s*/g, "\n"));
	const unit = spec.units[unitSet];
	const made =
		text.trim() === ""
			? null
			: makeValue(
					{ id, property: spec.id },
					text,
					spec.scales === true || unit === "1" ? {} : { fieldUnit: unit },
					own === undefined ? {} : { own },
				);
	const value = made?.ok === true && made.value.kind === "readings" ? made.value : null;
	const why =
		made === null
			? `One a line, in ${spec.scales === true ? "one scale" : plainUnit(unit) || "numbers"} or with their unit.`
			: !made.ok
				? made.issues.map(describeIssue).join(" ")
				: value === null
					? "That is one number; readings are two or more."
					: "";
	return (
		<form
			className="w-full flex items-start gap-2.5 mt-1.5"
			onKeyDown={leaveOnEscape(onCancel)}
			onSubmit={(e) => {
				e.preventDefault();
				if (value !== null) onDone(value);
			}}
		>
			<textarea
				// biome-ignore lint/a11y/noAutofocus: the person has just asked for it
				autoFocus
				aria-label={`Readings of ${spec.name}`}
				aria-invalid={made !== null && !made.ok}
				className="area w-55! font-mono text-sm"
				rows={5}
				maxLength={8000}
				value={text}
				placeholder={"261\n264\n258"}
				onChange={(e) => setText(e.target.value)}
				onKeyDown={(e) => {
					if (e.key === "Enter" && (e.ctrlKey || e.metaKey) && value !== null) onDone(value);
				}}
			/>
			<div className="min-w-0 flex-1">
				<p role="status" className={made !== null && value === null ? "text-doubt" : "text-ink2"}>
					{value === null ? why : <b>{wordsOf(value, unitSet)}</b>}
				</p>
				{made !== null && !made.ok && (made.issues[0]?.choices?.length ?? 0) > 0 && (
					<p className="mt-1 flex flex-wrap gap-1.5">
						{made.issues[0]?.choices?.map((choice) => (
							<button key={choice} type="button" className="btn btn-small" onClick={() => setText(choice.replace(/;\s*/g, "\n"))}>
								{choice}
							</button>
						))}
					</p>
				)}
				<p className="mt-2 flex gap-1.5">
					<button type="submit" className="btn btn-primary btn-small" disabled={value === null}>
						Keep {value === null ? "the" : value.readings.length} readings
					</button>
					<button type="button" className="btn btn-ghost btn-small" onClick={onCancel}>
						Cancel
					</button>
				</p>
			</div>
		</form>
	);
}
