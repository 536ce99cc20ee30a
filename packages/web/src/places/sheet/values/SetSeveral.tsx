import type { Edit, MaterialValue } from "@alvek/core/material";
import { useSheet } from "../context";
import { useKeptSources } from "../keptSources";
import type { ComparedLine } from "./bulk";

/** A word to be set on all that are ticked. */
export function PutWord({
	label,
	options,
	onSet,
}: {
	label: string;
	options: readonly (readonly [string, string])[];
	onSet: (id: string) => void;
}) {
	return (
		<select
			aria-label={`Set ${label}`}
			className="field w-32.5! h-6.5! text-sm"
			value=""
			onChange={(e) => e.target.value !== "" && onSet(e.target.value)}
		>
			<option value="">set {label}…</option>
			{options.map(([id, name]) => (
				<option key={id} value={id}>
					{name}
				</option>
			))}
		</select>
	);
}

/** This source on all that are ticked: one of the sheet, or one that the library keeps. */
export function SetSource({ chosen }: { chosen: readonly ComparedLine[] }) {
	const { sheet, material, draft } = useSheet();
	const kept = useKeptSources(sheet.row.libraryId);
	const others = kept.filter((s) => material.sources[s.id] === undefined);
	const options = [
		...Object.entries(material.sources).map(([id, s]) => [id, s.title] as const),
		...others.map((s) => [s.id, s.content.title] as const),
	];
	const set = (id: string): void => {
		const added = others.find((s) => s.id === id);
		const edits: Edit[] = added === undefined ? [] : [{ at: `sources:${id}`, from: null, to: added.content }];
		for (const line of chosen) {
			const { source: _words, ...rest } = line.own as MaterialValue;
			edits.push({ at: line.id, from: line.own, to: { ...rest, sourceId: id } });
		}
		draft?.commit(edits, `source of ${chosen.length} values`);
	};
	if (options.length === 0) return <span className="caption">no source kept yet</span>;
	return <PutWord label="source" options={options} onSet={set} />;
}
