import { BASES, BASIS_WORD, type Basis, EVIDENCE, EVIDENCE_WORD, type Evidence, type Source } from "@alvek/core/material";
import type { Page } from "@alvek/core/page";

import { SOURCE_WORD } from "../SourceField";

/** What is said of everything that is taken from a page. */
export type Words = { title: string; address: string; kind: Source["kind"]; evidence: Evidence | ""; basis: Basis | "" };

/** What is probably so of everything on a page. */
export function wordsAbout(page: Page): Words {
	return { title: sourceTitle(page), address: "", kind: "web", evidence: "data-sheet", basis: page.basis ?? "" };
}

export function sourceOf(words: Words, pasted: string, today: string): Source {
	return {
		kind: words.kind,
		title: words.title.trim() === "" ? `Pasted text, ${today}` : words.title.trim(),
		date: today,
		text: pasted.slice(0, 20_000),
		...(words.address.trim() === "" ? {} : { address: words.address.trim() }),
	};
}

/** Where everything that is taken comes from. */
export function SourceFields({ words, onChange }: { words: Words; onChange: (words: Words) => void }) {
	return (
		<fieldset className="px-4.5 mt-3.5 grid grid-cols-2 gap-2">
			<legend className="caption mb-0.5">Source of everything taken</legend>
			<input
				aria-label="Source of everything taken"
				className="field col-span-2"
				value={words.title}
				maxLength={400}
				onChange={(e) => onChange({ ...words, title: e.target.value })}
			/>
			<input
				aria-label="Address of the page"
				className="field col-span-2"
				placeholder="address of the page, https://"
				value={words.address}
				maxLength={400}
				onChange={(e) => onChange({ ...words, address: e.target.value })}
			/>
			<select
				aria-label="Kind of source"
				className="field"
				value={words.kind}
				onChange={(e) => onChange({ ...words, kind: e.target.value as Source["kind"] })}
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
				onChange={(e) => onChange({ ...words, evidence: e.target.value as Evidence })}
			>
				{EVIDENCE.map((id) => (
					<option key={id} value={id}>
						{EVIDENCE_WORD[id]}
					</option>
				))}
			</select>
		</fieldset>
	);
}

export function BasisField({ words, onChange }: { words: Words; onChange: (words: Words) => void }) {
	return (
		<label className="flex items-center gap-1.5">
			All are
			<select
				aria-label="Basis of everything taken"
				className="field w-42.5! h-6.5!"
				value={words.basis}
				onChange={(e) => onChange({ ...words, basis: e.target.value as Basis })}
			>
				<option value="">basis unspecified</option>
				{BASES.map((b) => (
					<option key={b} value={b}>
						{BASIS_WORD[b]}
					</option>
				))}
			</select>
		</label>
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
