import { judge } from "@alvek/core/judge";
import { isNumber, type Material, makeValue, type NumberValue, retype } from "@alvek/core/material";
import { describeIssue, type Result } from "@alvek/core/result";
import { useState } from "react";
import { useKeptText } from "../../draft/text";
import { usePreferences, useUnitSet } from "../../stores/preferences";
import { nameOfUse } from "../../ui/marks";
import { plainUnit, wordsOf, workingText } from "../../ui/Quantity";
import { useSheet } from "./context";
import { nextNeeded, type SheetLine } from "./lines";

type Mark = "." | ",";
type Props = {
	line: SheetLine;
	material: Material;
	/** Under which name the text is kept over a reload; null: it is not. */
	keptAs: string | null;
	/** null clears the value; `next` goes on to what the wanted use needs. */
	onCommit: (to: NumberValue | null, move: "next" | "stay") => void;
	onCancel: () => void;
};

/** A value field: reads while one types, converts, and says what it understood. */
export function ValueInput({ line, material, keptAs, onCommit: commitTo, onCancel: cancel }: Props) {
	const { spec, key, own } = line;
	const value = line.value !== null && isNumber(line.value) ? line.value : null;
	const unitSet = useUnitSet();
	const fieldUnit = spec.scales === true ? undefined : spec.units[unitSet];
	const [text, setText, forget] = useKeptText(keptAs, value?.entered ?? "");
	const [mark, setMark] = useState<Mark | undefined>(value?.mark);
	const [tried, setTried] = useState(false);
	const options = { ...(fieldUnit === undefined ? {} : { fieldUnit }), ...(mark === undefined ? {} : { decimalMark: mark }) };
	const blank = text.trim() === "";
	const parsed = blank ? null : makeValue({ id: key, property: spec.id }, text, options, own === undefined ? {} : { own });
	const untouched = value !== null && text === value.entered && mark === value.mark;

	const onCommit: Props["onCommit"] = (to, move) => {
		forget();
		commitTo(to, move);
	};
	const onCancel = (): void => {
		forget();
		cancel();
	};
	const commit = (move: "next" | "stay"): void => {
		if (untouched) return move === "next" ? onCommit(value, "next") : onCancel();
		if (blank) return onCommit(null, move);
		if (parsed === null || !parsed.ok) return setTried(true);
		const made = retype(value, { id: key, property: spec.id, own }, text, options);
		if (made.ok) onCommit(made.value, move);
	};
	const hintId = `${key}-reading`;
	return (
		<div className="col-start-3 relative">
			<input
				// biome-ignore lint/a11y/noAutofocus: the person has just asked to type here
				autoFocus
				className="field h-7! -ml-2 font-semibold"
				value={text}
				aria-label={spec.name}
				aria-invalid={tried && parsed?.ok === false}
				aria-describedby={hintId}
				placeholder={fieldUnit === undefined ? "75-90 HBW" : `in ${plainUnit(fieldUnit) || "numbers"}, or any unit`}
				onFocus={(e) => e.currentTarget.select()}
				onChange={(e) => {
					setText(e.target.value);
					setMark(undefined);
					setTried(false);
				}}
				onKeyDown={(e) => {
					if (e.key === "Enter") commit("next");
					if (e.key === "Escape") onCancel();
					if (e.key === "Enter" || e.key === "Escape") {
						e.preventDefault();
						e.stopPropagation();
					}
				}}
				onBlur={(e) => {
					// the buttons that choose a reading are part of the field
					if (!e.currentTarget.parentElement?.contains(e.relatedTarget as Node)) commit("stay");
				}}
			/>
			<div id={hintId} role="status" className="absolute z-20 top-8 -left-2 w-117.5 max-w-[70vw]">
				<Reading
					parsed={parsed}
					line={line}
					material={material}
					onMark={setMark}
					onText={(chosen) => {
						setText(chosen);
						// a reading that is offered has a decimal point
						setMark(".");
					}}
				/>
			</div>
		</div>
	);
}

function Reading({
	parsed,
	line,
	material,
	onMark,
	onText,
}: {
	parsed: Result<NumberValue> | null;
	line: SheetLine;
	material: Material;
	onMark: (mark: Mark) => void;
	onText: (text: string) => void;
}) {
	const wanted = usePreferences((s) => s.wantedUse);
	const unitSet = useUnitSet();
	const { beside } = useSheet();
	const { readiness } = judge(material, beside);
	const next = nextNeeded(readiness, wanted);
	const use = readiness.find((r) => r.use === wanted);
	if (parsed === null) return <Strip tone="plain">{line.spec.explanation}</Strip>;
	if (!parsed.ok) {
		const issue = parsed.issues[0];
		if (issue?.code === "ambiguous-number" || issue?.code === "unclear-number") {
			const written = String(issue.actual).includes(",") ? "," : ".";
			const choose = (choice: string, i: number): void => {
				if (issue.code === "unclear-number") onText(choice);
				else onMark(i === 0 ? written : written === "," ? "." : ",");
			};
			return (
				<Strip tone="doubt">
					{issue.code === "unclear-number" && issue.expected !== undefined ? `Which one? ${issue.expected}.` : "Which one?"}{" "}
					{issue.choices?.map((choice, i) => (
						<button
							key={choice}
							type="button"
							className="btn btn-small ml-1.5"
							onMouseDown={(e) => e.preventDefault()}
							onClick={() => choose(choice, i)}
						>
							{choice}
						</button>
					))}
				</Strip>
			);
		}
		return <Strip tone="wrong">{issue === undefined ? "" : describeIssue(issue)}</Strip>;
	}
	const value = parsed.value;
	const working = workingText(value, unitSet);
	return (
		<Strip tone="accent">
			<b>{wordsOf(value, unitSet)}</b>
			{working && <span>{working}</span>}
			{/,/.test(value.entered) && (
				<span className="text-ink2">comma read as {value.mark === "." ? "a thousands mark" : "the decimal mark"}</span>
			)}
			<span className="ml-auto flex items-center gap-1.5 whitespace-nowrap">
				<kbd className="kbd kbd-xs">Enter</kbd> {next !== null && next !== line.spec.id ? "next for " : "done for "}
				<b>{use === undefined ? "the wanted use" : nameOfUse(use)}</b>
			</span>
		</Strip>
	);
}

const TONES = {
	plain: "bg-paper text-ink2",
	accent: "bg-accent-soft",
	doubt: "bg-doubt-soft text-doubt",
	wrong: "bg-wrong-soft text-wrong",
} as const;

function Strip({ tone, children }: { tone: keyof typeof TONES; children: React.ReactNode }) {
	return (
		<div
			className={`${TONES[tone]} border border-line rounded-md px-2.5 py-1.5 flex flex-wrap items-center gap-x-3.5 gap-y-0.5 text-sm shadow-lg`}
		>
			{children}
		</div>
	);
}
