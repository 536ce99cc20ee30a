import type { Material } from "@alvek/core/material";
import type { Section } from "@alvek/core/property";
import { Plus } from "lucide-react";
import type { SheetLine } from "./lines";
import type { Draft } from "./useDraft";
import { ValueLine } from "./ValueLine";

type Props = {
	section: { readonly id: Section; readonly name: string };
	material: Material;
	lines: readonly SheetLine[];
	unfolded: boolean;
	onUnfold: () => void;
	draft: Draft | null;
	editing: string | null;
	setEditing: (key: string | null) => void;
	goOn: (after: Material) => void;
	allUnitsShown: boolean;
};

/** One section of value lines under its ink rule. */
export function SectionLines({
	section,
	material,
	lines,
	unfolded,
	onUnfold,
	draft,
	editing,
	setEditing,
	goOn,
	allUnitsShown,
}: Props) {
	// an extra value begins as a blank line of its own, for example tensile_strength~2
	const extra = editing?.includes("~") === true && !lines.some((l) => l.key === editing) ? editing : null;
	const shown = lines.flatMap((line) => {
		const isLast =
			extra !== null && line.spec.id === extra.split("~")[0] && lines.filter((l) => l.spec.id === line.spec.id).at(-1) === line;
		return isLast ? [line, { key: extra, spec: line.spec, value: null }] : [line];
	});
	const visible = draft === null ? shown.filter((l) => l.value !== null) : shown;
	return (
		<section id={`section-${section.id}`} aria-label={section.name} className="mt-[24px] scroll-mt-[12px]">
			<h2 className="rule-head text-[14px]">{section.name}</h2>
			{visible.map((line) => (
				<ValueLine
					key={line.key}
					line={line}
					material={material}
					draft={draft}
					editing={editing === line.key}
					setEditing={setEditing}
					goOn={goOn}
					allUnitsShown={allUnitsShown}
				/>
			))}
			{visible.length === 0 && <p className="caption py-[8px]">Nothing here.</p>}
			{draft !== null && !unfolded && (
				<button type="button" className="btn btn-ghost btn-small -ml-[8px] mt-[4px]" onClick={onUnfold}>
					<Plus size={13} aria-hidden /> more {section.name.toLowerCase()} properties
				</button>
			)}
		</section>
	);
}
