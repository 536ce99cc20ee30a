import { basisWords, type NumberRun, type Page } from "@alvek/core/page";
import { PROPERTIES, SECTIONS } from "@alvek/core/property";
import { useState } from "react";
import type { Row } from "./rows";

type Props = {
	page: Page;
	rows: readonly Row[];
	focused: number | null;
	onFocus: (line: number | null) => void;
	/** A person says what a left line is of. */
	onName: (line: number, property: string) => void;
};

/**
 * Every pasted line, numbered. Numbers that were understood are underlined; those that nobody read stand out on a line
 * that is taken, and a line that was left can be given a property by hand.
 */
export function PageLines({ page, rows, focused, onFocus, onName }: Props) {
	const left = new Set(page.left);
	return (
		<ol aria-label="Lines of the page">
			{page.lines.map((text, i) => {
				const line = i + 1;
				if (text.trim() === "") return null;
				const mine = rows.filter((r) => r.line === line);
				const asked = mine.some((r) => r.question !== null && !r.ticked);
				const quiet = left.has(line) || page.headings.includes(line);
				const tone = focused === line ? "bg-accent-soft" : asked ? "bg-doubt-soft" : "";
				const marks = marksOf(
					page,
					text,
					line,
					page.numbers.filter((n) => n.line === line),
				);
				const unread = left.has(line) ? 0 : marks.filter((m) => m.tone === "unread").length;
				return (
					<li
						key={line}
						className={`flex gap-3 px-4.5 min-h-6.25 items-center ${tone}`}
						onMouseEnter={() => onFocus(quiet ? null : line)}
					>
						<span className="caption w-4.5 text-right shrink-0">{line}</span>
						<span className={`min-w-0 break-words ${quiet ? "text-ink3" : ""}`}>
							<Marked text={text.replaceAll("\t", "\u2003")} marks={left.has(line) ? [] : marks} />
						</span>
						{unread > 0 && (
							<span className="caption ml-auto shrink-0 text-doubt" title="Numbers on this line that nothing was made of">
								{unread === 1 ? "1 number left" : `${unread} numbers left`}
							</span>
						)}
						{left.has(line) &&
							(/\d/.test(text) ? (
								<NameLine line={line} named={mine.length > 0} onName={(id) => onName(line, id)} />
							) : (
								<span className="caption ml-auto shrink-0">left</span>
							))}
					</li>
				);
			})}
		</ol>
	);
}

/** A left line is named by choosing its property; its number is then corrected on the right. */
function NameLine({ line, named, onName }: { line: number; named: boolean; onName: (property: string) => void }) {
	const [open, setOpen] = useState(false);
	if (named) return <span className="caption ml-auto shrink-0">named by hand</span>;
	if (!open)
		return (
			<button
				type="button"
				className="quiet-link caption ml-auto shrink-0"
				aria-label={`Line ${line} is left; name its property`}
				onClick={() => setOpen(true)}
			>
				left · name it
			</button>
		);
	return (
		<select
			// biome-ignore lint/a11y/noAutofocus: the person has just asked for the list
			autoFocus
			aria-label={`Property of line ${line}`}
			className="field ml-auto shrink-0 w-37.5! h-6! text-sm"
			value=""
			onChange={(e) => onName(e.target.value)}
			onBlur={() => setOpen(false)}
			onKeyDown={(e) => e.key === "Escape" && setOpen(false)}
		>
			<option value="">which property?</option>
			{SECTIONS.map((section) => (
				<optgroup key={section.id} label={section.name}>
					{PROPERTIES.filter((p) => p.section === section.id).map((p) => (
						<option key={p.id} value={p.id}>
							{p.name}
						</option>
					))}
				</optgroup>
			))}
		</select>
	);
}

type Mark = { readonly from: number; readonly to: number; readonly tone: "read" | "unread" | "words" };
const READ: ReadonlySet<NumberRun["fate"]> = new Set(["value", "asked", "price", "composition"]);

/** Spans of a line to mark: numbers read and unread, or the words that say the basis. Runs of one number are one span. */
function marksOf(page: Page, text: string, line: number, runs: readonly NumberRun[]): readonly Mark[] {
	const words = page.headings.includes(line) ? basisWords(text) : null;
	if (words !== null) return [{ from: words[0], to: words[1], tone: "words" }];
	const marks: Mark[] = [];
	for (const run of runs) {
		const tone = READ.has(run.fate) ? "read" : run.fate === "left" ? "unread" : null;
		if (tone === null) continue;
		const last = marks.at(-1);
		const joined = last !== undefined && last.tone === tone && /^[.,]$/.test(text.slice(last.to, run.from));
		if (joined) marks[marks.length - 1] = { ...last, to: run.to };
		else marks.push({ from: run.from, to: run.to, tone });
	}
	return marks;
}

const TONES: Readonly<Record<Mark["tone"], string>> = {
	read: "decoration-primary text-ink",
	words: "decoration-primary text-ink",
	unread: "decoration-dotted decoration-doubt text-doubt",
};

function Marked({ text, marks }: { text: string; marks: readonly Mark[] }) {
	const pieces: React.ReactNode[] = [];
	let at = 0;
	for (const { from, to, tone } of marks) {
		pieces.push(text.slice(at, from));
		pieces.push(
			<b key={from} className={`underline underline-offset-3 ${TONES[tone]}`}>
				{text.slice(from, to)}
			</b>,
		);
		at = to;
	}
	pieces.push(text.slice(at));
	return <>{pieces}</>;
}
