import {
	BASES,
	type Basis,
	EVIDENCE,
	type Evidence,
	elasticGap,
	type Material,
	makeValue,
	type Source,
} from "@alvek/core/material";
import type { Page } from "@alvek/core/page";
import { significant } from "@alvek/core/quantity";
import { ArrowLeft } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { newId } from "../../../api/client";
import { showIssues } from "../../../api/queries";
import { showToast } from "../../../stores/toasts";
import { BASIS_WORD, EVIDENCE_WORD } from "../../../ui/Quantity";
import { useSheet } from "../context";
import { keepSource } from "../keptSources";
import { SOURCE_WORD } from "../SourceField";
import { PageLines } from "./PageLines";
import { ProposedRow } from "./ProposedRow";
import { numberOn, placesOf, proposedValue, type Row, rowByHand, rowsOf, takeEdits } from "./rows";

type Words = { title: string; address: string; kind: Source["kind"]; evidence: Evidence | ""; basis: Basis | "" };

/** The pasted lines on the left, what becomes of them on the right; what is ticked is taken in one step. */
export function Review({ page, pasted, onAnother }: { page: Page; pasted: string; onAnother: () => void }) {
	const { sheet, material, draft } = useSheet();
	const navigate = useNavigate();
	const [grade, setGrade] = useState<string | null>(null);
	const [rows, setRows] = useState<readonly Row[]>(() => rowsOf(page));
	const [priceTicked, setPriceTicked] = useState(page.price?.per === "kg" && page.price.question === undefined);
	const [withComposition, setWithComposition] = useState<number | null>(null);
	const [focused, setFocused] = useState<number | null>(null);
	const [words, setWords] = useState<Words>(() => ({
		title: sourceTitle(page),
		address: "",
		kind: "web",
		evidence: "data-sheet",
		basis: page.basis ?? "",
	}));
	const today = new Date().toISOString().slice(0, 10);
	const places = placesOf(rows, material);
	const ticked = rows.filter((r) => r.ticked && proposedValue(r, "x", "", "", null).ok);
	const composition = withComposition === null ? null : (page.compositions[withComposition] ?? null);
	const count = ticked.length + (priceTicked ? 1 : 0) + (composition === null ? 0 : 1);
	const filled = page.lines.filter((l) => l.trim() !== "").length;
	const understood = filled - page.headings.length - page.left.length;
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
	const nameLine = (line: number, property: string): void => {
		const row = rowByHand(`h${line}`, line, property, numberOn(page.lines[line - 1] ?? ""));
		setRows([...rows.filter((r) => r.key !== row.key), row].sort((a, b) => a.line - b.line));
		setFocused(line);
	};

	const change = (key: string, part: Partial<Row>): void => setRows(rows.map((r) => (r.key === key ? { ...r, ...part } : r)));
	const price =
		page.price === null || !priceTicked ? null : { amount: page.price.amount, currency: page.price.currency, date: today };

	const take = async (): Promise<void> => {
		if (draft === null || count === 0) return;
		const sourceId = newId();
		const source: Source = {
			kind: words.kind,
			title: words.title.trim() === "" ? `Pasted text, ${today}` : words.title.trim(),
			date: today,
			text: pasted.slice(0, 20_000),
			...(words.address.trim() === "" ? {} : { address: words.address.trim() }),
		};
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
				className="relative w-[430px] shrink-0 bg-paper border-r border-line overflow-y-auto py-[12px] max-lg:w-[300px] max-md:w-auto max-md:border-r-0 max-md:border-b"
			>
				<div className="px-[18px]">
					<Link to=".." relative="path" className="flex items-center gap-[6px] text-ink2 hover:text-ink mb-[2px]">
						<ArrowLeft size={14} aria-hidden /> {sheet.row.name}
					</Link>
					<h1>From a page</h1>
					<p className="caption mb-[8px]">
						{filled} lines pasted · {understood} understood · {page.headings.length} headings · {page.left.length} left
					</p>
				</div>
				<PageLines page={page} rows={rows} focused={focused} onFocus={setFocused} onName={nameLine} />
				<fieldset className="px-[18px] mt-[14px] grid grid-cols-2 gap-[8px]">
					<legend className="caption mb-[2px]">Source of everything taken</legend>
					<input
						aria-label="Source of everything taken"
						className="field col-span-2"
						value={words.title}
						maxLength={400}
						onChange={(e) => setWords({ ...words, title: e.target.value })}
					/>
					<input
						aria-label="Address of the page"
						className="field col-span-2"
						placeholder="address of the page, https://"
						value={words.address}
						maxLength={400}
						onChange={(e) => setWords({ ...words, address: e.target.value })}
					/>
					<select
						aria-label="Kind of source"
						className="field"
						value={words.kind}
						onChange={(e) => setWords({ ...words, kind: e.target.value as Source["kind"] })}
					>
						{Object.entries(SOURCE_WORD).map(([id, name]) => (
							<option key={id} value={id}>
								{name}
							</option>
						))}
					</select>
					<select
						aria-label="Evidence of everything taken"
						className="field"
						value={words.evidence}
						onChange={(e) => setWords({ ...words, evidence: e.target.value as Evidence })}
					>
						{EVIDENCE.map((id) => (
							<option key={id} value={id}>
								{EVIDENCE_WORD[id]}
							</option>
						))}
					</select>
				</fieldset>
			</section>
			<section aria-label="Values to take" className="relative flex-1 min-w-0 bg-card overflow-y-auto px-[20px] py-[12px]">
				<div className="flex items-start gap-[8px] mb-[6px] max-md:flex-wrap">
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
					<fieldset className="border border-line bg-paper rounded-[3px] px-[12px] py-[8px] mb-[10px] flex flex-wrap items-center gap-x-[16px] gap-y-[4px]">
						<legend className="sr-only">Which column is {sheet.row.name}?</legend>
						<span className="font-semibold">Which column is {sheet.row.name}?</span>
						{page.grades.map((g) => (
							<label key={g} className="flex items-center gap-[6px]">
								<input type="radio" name="grade" className="radio" checked={grade === g} onChange={() => chooseGrade(g)} />
								{g}
							</label>
						))}
						{grade === null && <span className="caption">Nothing of these columns is taken before you choose.</span>}
					</fieldset>
				)}
				{rows.length === 0 && page.grades.length > 0 && grade === null ? null : rows.length === 0 &&
					page.price === null &&
					page.compositions.length === 0 ? (
					<p className="text-ink2 py-[20px]">
						No line of this text names a property with a number. Paste a part with names, numbers and units, or type the values in
						the line at the top of the sheet.
					</p>
				) : (
					<table className="review w-full border-collapse">
						<thead>
							<tr className="border-b border-ink text-left caption">
								<th className="w-[28px] py-[5px]">
									<span className="sr-only">Take</span>
								</th>
								<th className="w-[54px]">
									<span className="sr-only">Symbol</span>
								</th>
								<th className="w-[170px] font-semibold">Property</th>
								<th className="w-[160px] font-semibold">Becomes</th>
								<th className="w-[160px] font-semibold">As written</th>
								<th className="font-semibold">Say or check</th>
							</tr>
						</thead>
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
								<tr
									className={`border-b border-line2 h-[33px] ${focused === page.price.line ? "bg-accent-soft" : ""}`}
									onMouseEnter={() => setFocused(page.price?.line ?? null)}
								>
									<td>
										<input
											type="checkbox"
											className="checkbox"
											aria-label="Take the price"
											checked={priceTicked}
											disabled={page.price.per !== "kg"}
											onChange={(e) => setPriceTicked(e.target.checked)}
										/>
									</td>
									<td />
									<td>Price</td>
									<td className="font-semibold">
										{page.price.amount} {page.price.currency}/{page.price.per}
									</td>
									<td className="text-ink2">the same</td>
									<td className="caption">
										{page.price.question !== undefined && <span className="tag tag-doubt mr-[6px]">{page.price.question}</span>}
										{page.price.per !== "kg"
											? "prices are kept per kilogram; type it on the sheet"
											: material.price === null
												? "dated today"
												: `dated today; replaces ${material.price.amount} ${material.price.currency}`}
									</td>
								</tr>
							)}
							{page.compositions.map((c, i) => (
								<tr
									key={`${c.label} ${c.elements[0]?.line}`}
									className={`border-b border-line2 h-[33px] ${withComposition === i ? "" : "text-ink2"}`}
									onMouseEnter={() => setFocused(c.elements[0]?.line ?? null)}
								>
									<td>
										<input
											type="checkbox"
											className="checkbox"
											aria-label={`Take the composition ${c.label}`}
											checked={withComposition === i}
											onChange={(e) => setWithComposition(e.target.checked ? i : null)}
										/>
									</td>
									<td />
									<td className="pr-[8px]">Composition{c.label === "" ? "" : `, ${c.label}`}</td>
									<td className="font-semibold pr-[8px]">{c.elements.length} constituents</td>
									<td className="text-ink2">{c.elements.map((e) => e.element).join(" ")}</td>
									<td className="caption">{material.composition.length > 0 && "replaces the composition that is there"}</td>
								</tr>
							))}
						</tbody>
					</table>
				)}
				<p className="caption mt-[12px] flex items-center gap-[6px] flex-wrap">
					<label className="flex items-center gap-[6px]">
						All are
						<select
							aria-label="Basis of everything taken"
							className="field w-[170px]! h-[26px]!"
							value={words.basis}
							onChange={(e) => setWords({ ...words, basis: e.target.value as Basis })}
						>
							<option value="">of a basis not said</option>
							{BASES.map((b) => (
								<option key={b} value={b}>
									{BASIS_WORD[b]}
								</option>
							))}
						</select>
					</label>
					{page.basis !== null && words.basis === page.basis && "as the heading says."} {agreement(ticked, material)}
				</p>
			</section>
		</div>
	);
}

/** The first line names the page, up to its comma or its first cell; else the first heading does. */
function sourceTitle(page: Page): string {
	const opening = page.lines.findIndex((l) => l.trim() !== "") + 1;
	const says = page.left.includes(opening) || page.headings.includes(opening);
	const line = page.lines[(says ? opening : (page.headings[0] ?? 1)) - 1] ?? "";
	const first = line.split(/[,\t|(]| {2,}/)[0]?.trim() ?? "";
	const date = new Date().toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });
	return `${first === "" ? "Pasted page" : first.slice(0, 80)}, ${date}`;
}

/** Whether E, G and nu would agree on the sheet after taking what is ticked. */
function agreement(rows: readonly Row[], material: Material): string {
	const values = { ...material.values };
	for (const row of rows) {
		if (row.series !== undefined) continue;
		const made = makeValue(row.property, row.property, row.text, row.mark === undefined ? {} : { decimalMark: row.mark });
		if (made.ok) values[row.property] = made.value;
	}
	const gap = elasticGap({ ...material, values });
	if (gap === null) return "";
	if (gap > 0.02) return `E, G and ν disagree by ${significant(gap * 100, 2)} %.`;
	return gap === 0 ? "E, G and ν agree." : `E, G and ν agree within ${significant(gap * 100, 2)} %.`;
}
