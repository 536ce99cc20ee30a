import { type MaterialValue, sameNumbers } from "@alvek/core/material";
import { entryName, propertyById } from "@alvek/core/property";
import { describeIssue } from "@alvek/core/result";
import { Pencil } from "lucide-react";
import { useState } from "react";
import { useUnitSet } from "../../../stores/preferences";
import { allUnits, plainUnit, SymbolText, wordsOf } from "../../../ui/Quantity";
import { nameOf, proposedValue, type Row, symbolOf } from "./rows";

type Props = {
	row: Row;
	held: MaterialValue | null;
	focused: boolean;
	onFocus: () => void;
	onChange: (part: Partial<Row>) => void;
};

/** One proposed value: tick, correct, answer, or leave. */
export function ProposedRow({ row, held, focused, onFocus, onChange }: Props) {
	const unitSet = useUnitSet();
	const [editing, setEditing] = useState(false);
	const made = proposedValue(row, row.property);
	const name = nameOf(row);
	const becomes = made.ok ? wordsOf(made.value, unitSet) : "";
	const condition = row.condition === undefined ? "" : `, ${row.condition}`;
	const label = `${name}${condition}`;
	return (
		<tr
			className={`border-b border-line2 ${focused ? "bg-accent-soft" : ""} ${row.ticked ? "" : "text-ink2"}`}
			onMouseEnter={onFocus}
			onFocus={onFocus}
		>
			<td className="h-8.25">
				<input
					type="checkbox"
					className="checkbox align-middle"
					aria-label={`Take ${label}`}
					checked={row.ticked}
					disabled={!made.ok}
					onChange={(e) => onChange({ ticked: e.target.checked })}
				/>
			</td>
			<td className="text-md">
				<SymbolText symbol={symbolOf(row)} />
			</td>
			<td className="pr-2">{label}</td>
			<td className="font-semibold pr-2" title={made.ok ? allUnits(made.value) : undefined}>
				{made.ok ? becomes : <span className="text-ink3 font-normal">open</span>}
			</td>
			<td className="pr-2">
				{row.series !== undefined ? (
					<span className="text-ink2">a {row.series.kind} of the page</span>
				) : editing ? (
					<input
						// biome-ignore lint/a11y/noAutofocus: the person has just asked to correct it
						autoFocus
						className="field h-6.5!"
						aria-label={`${name} as written`}
						aria-invalid={!made.ok}
						value={row.text}
						maxLength={200}
						onChange={(e) => {
							// a corrected text is read afresh
							const { mark: _mark, ...rest } = row;
							onChange({ ...rest, text: e.target.value });
						}}
						onBlur={() => setEditing(false)}
						onKeyDown={(e) => (e.key === "Enter" || e.key === "Escape") && setEditing(false)}
					/>
				) : (
					<button
						type="button"
						className="group flex items-center gap-1.5 text-left text-ink2"
						title="Correct it"
						aria-label={`Correct ${name}: ${row.text || "open"}`}
						onClick={() => setEditing(true)}
					>
						{row.text === "" ? "type it" : same(row.text, becomes) ? "the same" : plainUnit(row.text)}
						<Pencil size={11} aria-hidden className="opacity-0 group-hover:opacity-100 group-focus:opacity-100" />
					</button>
				)}
			</td>
			<td className="caption py-0.75">
				{!made.ok && row.text !== "" && <span className="text-wrong">{made.issues.map(describeIssue).join(" ")} </span>}
				<Answer row={row} onChange={onChange} />
				{held !== null && made.ok && (
					<span className={sameNumbers(held, made.value) ? "" : "text-doubt"}>
						{sameNumbers(held, made.value) ? "is there already" : `replaces ${wordsOf(held, unitSet)}`}{" "}
					</span>
				)}
				{row.question === null && row.note}
				{row.working !== undefined && made.ok && <span> working value {plainUnit(row.working)}</span>}
				{row.labels?.some((l) => l !== "") === true && <span> of {row.labels.join(", ")}</span>}
			</td>
		</tr>
	);
}

/** The question of a row with its answers; answering ticks it. */
function Answer({ row, onChange }: { row: Row; onChange: (part: Partial<Row>) => void }) {
	if (row.question === null) return null;
	const spec = propertyById(row.property);
	const rest = row.question.split("; ").slice(1).join("; ");
	const answered = (part: Partial<Row>): void => onChange({ ...part, question: rest === "" ? null : rest, ticked: rest === "" });
	if (row.question.startsWith("gauge")) {
		return (
			<span className="flex items-center gap-1.5 flex-wrap">
				<span className="tag tag-doubt">{row.question.split("; ")[0]}</span>
				<select
					aria-label="Gauge of the elongation"
					className="field w-37.5! h-6! text-sm"
					value=""
					onChange={(e) => answered(e.target.value === "unsaid" ? {} : { qualifier: e.target.value })}
				>
					<option value="">which gauge?</option>
					{spec?.qualifiers?.map((q) => (
						<option key={q.id} value={q.id}>
							{q.label}
						</option>
					))}
					<option value="unsaid">leave it unsaid</option>
				</select>
			</span>
		);
	}
	if (row.question.startsWith("guaranteed minimum")) {
		return (
			<span className="flex items-center gap-1.5 flex-wrap">
				<span className="tag tag-doubt">guaranteed minimum, or the least of typical?</span>
				<button
					type="button"
					className="quiet-link font-semibold text-ink"
					onClick={() => answered({ basis: "guaranteed-minimum" })}
				>
					guaranteed
				</button>
				<button type="button" className="quiet-link font-semibold text-ink" onClick={() => answered({ basis: "typical" })}>
					typical
				</button>
			</span>
		);
	}
	return (
		<span className="flex items-center gap-1.5 flex-wrap">
			<span className="tag tag-doubt">{row.question.split("; ")[0]}</span>
			{row.choices.length === 0 && row.text !== "" && (
				<button type="button" className="quiet-link font-semibold text-ink" onClick={() => answered({})}>
					take it as it stands
				</button>
			)}
			{row.choices.map((choice) => (
				<button
					key={`${choice.property} ${choice.text}`}
					type="button"
					className="quiet-link font-semibold text-ink"
					onClick={() =>
						onChange({ property: choice.property, text: choice.text, mark: "." as const, question: null, ticked: true })
					}
				>
					{row.choices.some((c) => c.property !== choice.property) ? entryName(choice.property) : plainUnit(choice.text)}
				</button>
			))}
		</span>
	);
}

function same(a: string, b: string): boolean {
	const squeeze = (t: string): string =>
		t
			.replace(/[\s^\u2009]/g, "")
			.replace(/[–—]/g, "-")
			.replace(">=", "≥")
			.replace("<=", "≤");
	return squeeze(a) === squeeze(b);
}
