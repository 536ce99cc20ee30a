import { elasticGap, type Material, makeValue } from "@alvek/core/material";
import type { Page } from "@alvek/core/page";
import { significant } from "@alvek/core/quantity";
import { ArrowLeft } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { newId } from "../../../api/client";
import { showIssues } from "../../../api/refusals";
import { showToast } from "../../../stores/toasts";
import { counted } from "../../../ui/words";
import { useSheet } from "../context";
import { keepSource } from "../keptSources";
import { CompositionRow, Heads, PriceRow } from "./OtherRows";
import { PageLines } from "./PageLines";
import { BasisField, SourceFields, sourceOf, type Words, wordsAbout } from "./PageSource";
import { ProposedRow } from "./ProposedRow";
import { numberOn, placesOf, proposedValue, type Row, rowByHand, rowsOf, takeEdits } from "./rows";

/** The pasted lines on the left, what becomes of them on the right; what is ticked is taken in one step. */
export function Review({ page, pasted, onAnother }: { page: Page; pasted: string; onAnother: () => void }) {
	const { sheet, material, draft } = useSheet();
	const navigate = useNavigate();
	const { rows, grade, chooseGrade, addLine, change } = useRows(page);
	const [priceTicked, setPriceTicked] = useState(page.price?.per === "kg" && page.price.question === undefined);
	const [withComposition, setWithComposition] = useState<number | null>(null);
	const [focused, setFocused] = useState<number | null>(null);
	const [words, setWords] = useState<Words>(() => wordsAbout(page));
	const today = new Date().toISOString().slice(0, 10);
	const places = placesOf(rows, material);
	const ticked = rows.filter((r) => r.ticked && proposedValue(r, "x").ok);
	const composition = withComposition === null ? null : (page.compositions[withComposition] ?? null);
	const count = ticked.length + (priceTicked ? 1 : 0) + (composition === null ? 0 : 1);
	// of several columns none was chosen yet
	const asks = page.grades.length > 0 && grade === null;
	const isEmpty = rows.length === 0 && page.price === null && page.compositions.length === 0;
	const price =
		page.price === null || !priceTicked ? null : { amount: page.price.amount, currency: page.price.currency, date: today };

	const take = async (): Promise<void> => {
		if (draft === null || count === 0) return;
		const sourceId = newId();
		const source = sourceOf(words, pasted, today);
		const edits = takeEdits(material, rows, { ...words, sourceId, source }, { price, composition });
		draft.commit(edits, `${count} values taken from a page`);
		// the sheet has its copy already; only the next material would miss it
		const kept = await keepSource(sheet.row.libraryId, sourceId, 0, source);
		if (!kept.ok) showIssues(kept.issues);
		showToast({
			tone: "plain",
			text: count === 1 ? "1 value taken." : `${count} values taken.`,
			action: { label: "Undo", run: () => draft.undo() },
		});
		void navigate("..", { relative: "path" });
	};

	return (
		<div className="flex flex-1 min-w-0 min-h-0 max-md:block max-md:overflow-y-auto">
			<section
				aria-label="The pasted page"
				className="relative w-107.5 shrink-0 bg-paper border-r border-line overflow-y-auto py-3 max-lg:w-75 max-md:w-auto max-md:border-r-0 max-md:border-b"
			>
				<div className="px-4.5">
					<Link to=".." relative="path" className="flex items-center gap-1.5 text-ink2 hover:text-ink mb-0.5">
						<ArrowLeft size={14} aria-hidden /> {sheet.row.name}
					</Link>
					<h1>From a page</h1>
					<Counts page={page} />
				</div>
				<PageLines
					page={page}
					rows={rows}
					focused={focused}
					onFocus={setFocused}
					onName={(line, property) => {
						addLine(line, property);
						setFocused(line);
					}}
				/>
				<SourceFields words={words} onChange={setWords} />
			</section>
			<section aria-label="Values to take" className="relative flex-1 min-w-0 bg-card overflow-y-auto px-5 py-3">
				<div className="flex items-start gap-2 mb-1.5 max-md:flex-wrap">
					<div className="min-w-0 flex-1 max-md:basis-full">
						<h1 className="truncate">Take into {sheet.row.name}</h1>
						<p className="caption">
							{count} of {rows.length + (page.price === null ? 0 : 1)} ticked · a value that is there already shows its difference
						</p>
					</div>
					<button type="button" className="btn" onClick={onAnother}>
						Paste another
					</button>
					<button type="button" className="btn btn-primary" disabled={count === 0} onClick={take}>
						Take {count} {count === 1 ? "value" : "values"}
					</button>
				</div>
				{page.grades.length > 0 && (
					<GradeQuestion name={sheet.row.name} grades={page.grades} chosen={grade} onChoose={chooseGrade} />
				)}
				{isEmpty && !asks && <Nothing />}
				{!(isEmpty || (rows.length === 0 && asks)) && (
					<table className="review w-full border-collapse">
						<Heads />
						<tbody>
							{rows.map((row) => (
								<ProposedRow
									key={row.key}
									row={row}
									held={places.get(row.key)?.held ?? null}
									focused={focused === row.line}
									onFocus={() => setFocused(row.line)}
									onChange={(part) => change(row.key, part)}
								/>
							))}
							{page.price !== null && (
								<PriceRow
									price={page.price}
									replaces={material.price}
									ticked={priceTicked}
									focused={focused === page.price.line}
									onFocus={() => setFocused(page.price?.line ?? null)}
									onTick={setPriceTicked}
								/>
							)}
							{page.compositions.map((c, i) => (
								<CompositionRow
									key={`${c.label} ${c.elements[0]?.line}`}
									composition={c}
									replaces={material.composition.length > 0}
									ticked={withComposition === i}
									onFocus={() => setFocused(c.elements[0]?.line ?? null)}
									onTick={(on) => setWithComposition(on ? i : null)}
								/>
							))}
						</tbody>
					</table>
				)}
				<p className="caption mt-3 flex items-center gap-1.5 flex-wrap">
					<BasisField words={words} onChange={setWords} />
					{page.basis !== null && words.basis === page.basis && "as the heading says."} {agreement(ticked, material)}
				</p>
			</section>
		</div>
	);
}

/** What becomes of the lines, as the person has it by now. */
function useRows(page: Page) {
	const [grade, setGrade] = useState<string | null>(null);
	const [rows, setRows] = useState<readonly Row[]>(() => rowsOf(page));
	const chooseGrade = (chosen: string): void => {
		setGrade(chosen);
		// what was answered already on rows of no grade stays
		const before = new Map(rows.filter((r) => r.grade === undefined).map((r) => [`${r.line} ${r.property} ${r.text}`, r]));
		setRows(
			[
				...rowsOf(page, chosen).map((r) => {
					const kept = before.get(`${r.line} ${r.property} ${r.text}`);
					return kept === undefined ? r : { ...kept, key: r.key };
				}),
				...rows.filter((r) => r.key.startsWith("h")),
			].sort((a, b) => a.line - b.line),
		);
	};
	const addLine = (line: number, property: string): void => {
		const row = rowByHand(`h${line}`, line, property, numberOn(page.lines[line - 1] ?? ""));
		setRows([...rows.filter((r) => r.key !== row.key), row].sort((a, b) => a.line - b.line));
	};
	const change = (key: string, part: Partial<Row>): void => setRows(rows.map((r) => (r.key === key ? { ...r, ...part } : r)));
	return { rows, grade, chooseGrade, addLine, change };
}

function Nothing() {
	return (
		<p className="text-ink2 py-5">
			No line of this text names a property with a number. Paste a part with names, numbers and units, or type the values in the
			line at the top of the sheet.
		</p>
	);
}

function Counts({ page }: { page: Page }) {
	const filled = page.lines.filter((l) => l.trim() !== "").length;
	const understood = filled - page.headings.length - page.left.length;
	return (
		<p className="caption mb-2">
			{counted(filled, "line")} pasted · {understood} understood · {counted(page.headings.length, "heading")} · {page.left.length}{" "}
			left
		</p>
	);
}

type GradeProps = { name: string; grades: readonly string[]; chosen: string | null; onChoose: (grade: string) => void };

/** A page of several grades: which of them this material is. */
function GradeQuestion({ name, grades, chosen, onChoose }: GradeProps) {
	return (
		<fieldset className="border border-line bg-paper rounded-md px-3 py-2 mb-2.5 flex flex-wrap items-center gap-x-4 gap-y-1">
			<legend className="sr-only">Which column is {name}?</legend>
			<span className="font-semibold">Which column is {name}?</span>
			{grades.map((g) => (
				<label key={g} className="flex items-center gap-1.5">
					<input type="radio" name="grade" className="radio" checked={chosen === g} onChange={() => onChoose(g)} />
					{g}
				</label>
			))}
			{chosen === null && <span className="caption">Nothing of these columns is taken before you choose.</span>}
		</fieldset>
	);
}

/** Whether E, G and nu would agree on the sheet after taking what is ticked. */
function agreement(rows: readonly Row[], material: Material): string {
	const values = { ...material.values };
	for (const row of rows) {
		if (row.series !== undefined) continue;
		const made = makeValue(row.property, row.text, row.mark === undefined ? {} : { decimalMark: row.mark });
		if (made.ok) values[row.property] = made.value;
	}
	const gap = elasticGap({ ...material, values });
	if (gap === null) return "";
	if (gap > 0.02) return `E, G and ν disagree by ${significant(gap * 100, 2)} %.`;
	return gap === 0 ? "E, G and ν agree." : `E, G and ν agree within ${significant(gap * 100, 2)} %.`;
}
