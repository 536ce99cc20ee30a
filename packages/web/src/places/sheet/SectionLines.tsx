import type { Material } from "@alvek/core/material";
import type { Section } from "@alvek/core/property";
import { Plus } from "lucide-react";
import type { Draft } from "../../draft/useDraft";
import { FormLine } from "./FormLine";
import type { FormSheetLine, SheetLine } from "./lines";
import { OwnProperties } from "./OwnPropertyForm";
import { ValueLine } from "./ValueLine";

type Props = {
	section: { readonly id: Section; readonly name: string };
	material: Material;
	/** Beside the heading: `E, G and ν agree`. */
	note: string;
	lines: readonly (SheetLine | FormSheetLine)[];
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
	note,
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
	const shown = lines.flatMap((line): (SheetLine | FormSheetLine)[] => {
		if (line.kind === "form") return [line];
		const mine = lines.filter((l) => l.kind === "number" && l.spec.id === line.spec.id);
		const isLast = extra !== null && line.spec.id === extra.split("~")[0] && mine.at(-1) === line;
		return isLast ? [line, { kind: "number", key: extra, spec: line.spec, value: null }] : [line];
	});
	const visible = draft === null ? shown.filter((l) => l.value !== null || (l.kind === "number" && l.derived)) : shown;
	return (
		<section id={`section-${section.id}`} aria-label={section.name} className="mt-6 scroll-mt-3">
			<h2 className="rule-head text-md">
				{section.name} {note !== "" && <span className="caption font-normal">{note}</span>}
			</h2>
			{visible.map((line) =>
				line.kind === "form" ? (
					<FormLine key={line.key} line={line} material={material} draft={draft} />
				) : (
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
				),
			)}
			{visible.length === 0 && <p className="caption py-2">Nothing here.</p>}
			{draft !== null && !unfolded && (
				<button type="button" className="btn btn-ghost btn-small -ml-2 mt-1" onClick={onUnfold}>
					<Plus size={13} aria-hidden />{" "}
					{section.id === "curves" ? "more curves and models" : `more ${section.name.toLowerCase()} properties`}
				</button>
			)}
			{draft !== null && unfolded && section.id === "general" && <OwnProperties />}
		</section>
	);
}
