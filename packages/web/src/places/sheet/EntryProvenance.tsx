import type { SourceView } from "@alvek/contract";
import { BASES, BASIS_WORD, EVIDENCE, EVIDENCE_WORD, type Material, type MaterialValue, type Source } from "@alvek/core/material";
import { type EnteredAs, usePreferences } from "../../stores/preferences";

/** Titles of the records that a source may be chosen from by its name. */
type Titles = { readonly material: Material; readonly kept: readonly SourceView[] };

/** What all values of the line say of themselves: shown before they are taken, and remembered for the next line. */
export function EntryProvenance({ material, kept }: Titles) {
	const { enteredAs, set } = usePreferences();
	const change = (part: Partial<EnteredAs>): void => set({ enteredAs: { ...enteredAs, ...part } });
	const titles = [...new Set([...Object.values(material.sources), ...kept.map((k) => k.content)].map((s) => s.title))];
	const word = "bg-transparent font-semibold text-ink";
	return (
		<span className="basis-full flex flex-wrap items-center gap-x-3 text-ink2">
			all of them
			<select
				aria-label="Evidence of all"
				className={word}
				value={enteredAs.evidence}
				onChange={(e) => change({ evidence: e.target.value as EnteredAs["evidence"] })}
			>
				<option value="">without evidence</option>
				{EVIDENCE.map((e) => (
					<option key={e} value={e}>
						{EVIDENCE_WORD[e]}
					</option>
				))}
			</select>
			<select
				aria-label="Basis of all"
				className={word}
				value={enteredAs.basis}
				onChange={(e) => change({ basis: e.target.value as EnteredAs["basis"] })}
			>
				<option value="">no basis</option>
				{BASES.map((b) => (
					<option key={b} value={b}>
						{BASIS_WORD[b]}
					</option>
				))}
			</select>
			<label className="flex items-center gap-1 flex-1 min-w-40">
				from
				<input
					aria-label="Source of all"
					className="flex-1 min-w-0 px-1 bg-transparent border-b border-line text-ink"
					list="entry-sources"
					maxLength={400}
					placeholder="a source in words, or one by its title"
					value={enteredAs.source}
					onChange={(e) => change({ source: e.target.value })}
				/>
				<datalist id="entry-sources">
					{titles.map((title) => (
						<option key={title} value={title} />
					))}
				</datalist>
			</label>
		</span>
	);
}

/** What a record or plain words add to a value; a record that the sheet does not hold yet has to be put there too. */
export function provenanceOf(
	{ evidence, basis, source }: EnteredAs,
	{ material, kept }: Titles,
): { readonly details: Partial<MaterialValue>; readonly added: { readonly id: string; readonly content: Source } | null } {
	const words = source.trim();
	const held = Object.entries(material.sources).find(([, s]) => s.title === words)?.[0];
	const record = held === undefined ? kept.find((k) => k.content.title === words) : undefined;
	const id = held ?? record?.id;
	return {
		details: {
			...(evidence === "" ? {} : { evidence }),
			...(basis === "" ? {} : { basis }),
			...(words === "" ? {} : id === undefined ? { source: words } : { sourceId: id }),
		},
		added: record === undefined ? null : { id: record.id, content: record.content },
	};
}
