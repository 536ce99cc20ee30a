import { basisWords, type Page } from "@alvek/core/page";
import { numberSpans, type Row } from "./rows";

/** Every pasted line, numbered; numbers that were understood are underlined, what was not stays as it is. */
export function PageLines({
	page,
	rows,
	focused,
	onFocus,
}: {
	page: Page;
	rows: readonly Row[];
	focused: number | null;
	onFocus: (line: number | null) => void;
}) {
	return (
		<ol aria-label="Lines of the page">
			{page.lines.map((text, i) => {
				const line = i + 1;
				if (text.trim() === "") return null;
				const mine = rows.filter((r) => r.line === line);
				const asked = mine.some((r) => r.question !== null && !r.ticked);
				const quiet = mine.length === 0 && page.price?.line !== line;
				const tone = focused === line ? "bg-accent-soft" : asked ? "bg-doubt-soft" : "";
				return (
					<li
						key={line}
						className={`flex gap-[12px] px-[18px] min-h-[25px] items-center ${tone}`}
						onMouseEnter={() => onFocus(quiet ? null : line)}
					>
						<span className="caption w-[18px] text-right shrink-0">{line}</span>
						<span className={`min-w-0 break-words ${quiet ? "text-ink3" : ""}`}>
							<Marked text={text.replaceAll("\t", " ")} spans={spansOf(page, text.replaceAll("\t", " "), line, mine)} />
						</span>
						{page.left.includes(line) && <span className="caption ml-auto shrink-0">left</span>}
					</li>
				);
			})}
		</ol>
	);
}

/** What of a line was understood: the numbers of its values, its price, or the words that say the basis. */
function spansOf(page: Page, text: string, line: number, rows: readonly Row[]): readonly (readonly [number, number])[] {
	// what is asked about is a number of the line, whatever the answer will be
	if (rows.some((r) => r.choices.length > 0)) return numberSpans(text, { text });
	if (rows.length > 0) return numberSpans(text, { text: rows.map((r) => r.text).join(" ") });
	if (page.price?.line === line) return numberSpans(text, { text: /\d[\d.,]*/.exec(text)?.[0] ?? "" });
	const words = page.headings.includes(line) ? basisWords(text) : null;
	return words === null ? [] : [words];
}

function Marked({ text, spans }: { text: string; spans: readonly (readonly [number, number])[] }) {
	const pieces: React.ReactNode[] = [];
	let at = 0;
	for (const [from, to] of spans) {
		pieces.push(text.slice(at, from));
		pieces.push(
			<b key={from} className="underline decoration-primary underline-offset-3 text-ink">
				{text.slice(from, to)}
			</b>,
		);
		at = to;
	}
	pieces.push(text.slice(at));
	return <>{pieces}</>;
}
