import type { MaterialRow, PartView, ProjectView } from "@alvek/contract";
import type { DensityRange } from "@alvek/core/mass";
import { MASS_UNITS } from "@alvek/core/mass";
import { densityOf } from "@alvek/core/material";
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { useRoute } from "../../api/queries";
import { useUnitSet } from "../../stores/preferences";
import { Comb, Swatch } from "../../ui/marks";
import { massText, massWith } from "./figures";

type Choice = {
	readonly key: string;
	readonly row: MaterialRow;
	readonly draft: boolean;
	readonly used: boolean;
	readonly density: DensityRange | null;
};

type Props = {
	project: ProjectView;
	parts: readonly PartView[];
	initial: string;
	top: number;
	onGive: (materialId: string, draft: boolean) => void;
	onClose: () => void;
};

const SHOWN = 7;

/** Hangs from the chosen rows: type, arrows, Enter. Used in this project first, then the rest. */
export function Chooser({ project, parts, initial, top, onGive, onClose }: Props) {
	const [text, setText] = useState(initial);
	const [at, setAt] = useState(0);
	const unitSet = useUnitSet();
	const root = useRef<HTMLDivElement>(null);
	const page = useRoute("findMaterials", { limit: "5000", sort: "name" });
	const choices = useMemo(() => choicesOf(page.data?.rows ?? [], project, text), [page.data, project, text]);
	const pieces = parts.reduce((n, p) => n + p.quantity, 0);
	const now = massWith(parts);
	// it hangs below its rows; where the table ends, the rows move up rather than being hidden
	// biome-ignore lint/correctness/useExhaustiveDependencies: its height follows the number of choices
	useLayoutEffect(() => {
		// newer browsers answer a promise here, which is no cleanup
		void root.current?.scrollIntoView({ block: "nearest" });
	}, [choices.length]);
	useEffect(() => {
		const outside = (e: PointerEvent): void => {
			if (!root.current?.contains(e.target as Node)) onClose();
		};
		document.addEventListener("pointerdown", outside);
		return () => document.removeEventListener("pointerdown", outside);
	}, [onClose]);
	const first = Math.max(0, Math.min(at - 3, choices.length - SHOWN));
	return (
		<div
			ref={root}
			className="floating absolute left-[12px] w-[470px] max-w-[calc(100%-24px)] z-20 border-primary!"
			style={{ top }}
		>
			<div className="flex items-center gap-[8px] px-[10px] h-[38px] border-b border-line">
				<b className="whitespace-nowrap">{pieces === 1 ? "1 part" : `${pieces} parts`}</b>
				<input
					// biome-ignore lint/a11y/noAutofocus: the person is typing already
					autoFocus
					className="flex-1 bg-transparent outline-none! min-w-0"
					aria-label={`Material for ${pieces === 1 ? "the part" : `${pieces} parts`}`}
					role="combobox"
					aria-expanded
					aria-controls="chooser-list"
					aria-activedescendant={choices[at] ? `choice-${choices[at].key}` : undefined}
					placeholder="name, group, code"
					value={text}
					onChange={(e) => {
						setText(e.target.value);
						setAt(0);
					}}
					onKeyDown={(e) => {
						const choice = choices[at];
						if (e.key === "ArrowDown") setAt(Math.min(at + 1, choices.length - 1));
						else if (e.key === "ArrowUp") setAt(Math.max(at - 1, 0));
						else if (e.key === "Enter" && choice) onGive(choice.row.id, choice.draft);
						else if (e.key === "Escape") onClose();
						else return;
						e.preventDefault();
						e.stopPropagation();
					}}
				/>
				<span className="caption whitespace-nowrap">{choices.length} fit</span>
			</div>
			<div role="listbox" id="chooser-list" aria-label="Materials">
				{choices.slice(first, first + SHOWN).map((choice, i) => {
					const then = massWith(parts, choice.density);
					const active = first + i === at;
					return (
						// biome-ignore lint/a11y/useKeyWithClickEvents: keys are handled by the text field that owns this list
						<div
							key={choice.key}
							id={`choice-${choice.key}`}
							role="option"
							tabIndex={-1}
							aria-selected={active}
							onClick={() => onGive(choice.row.id, choice.draft)}
							onPointerMove={() => setAt(first + i)}
							className={`flex items-center gap-[8px] h-[33px] px-[10px] border-b border-line2 cursor-pointer ${active ? "bg-accent-soft" : ""}`}
						>
							<Swatch colour={choice.row.document.colour} />
							<span className="truncate">
								<b>{choice.row.name}</b>{" "}
								<span className="caption">
									{choice.draft ? "your draft" : `rev ${choice.row.revision}`}
									{choice.used ? " · used in this project" : ` · ${choice.row.library}`}
								</span>
							</span>
							<span className="ml-auto shrink-0">
								<Comb readiness={choice.row.readiness} />
							</span>
							<span className="caption whitespace-nowrap w-[126px] text-right shrink-0">
								{then === null ? (
									"no density"
								) : (
									<>
										{now !== null && `${massText(now, unitSet)} → `}
										<b className="text-ink">{massText(then, unitSet)}</b> {MASS_UNITS[unitSet].mass}
									</>
								)}
							</span>
						</div>
					);
				})}
				{page.data && choices.length === 0 && (
					<p className="px-[10px] py-[9px] text-ink2">
						No material matches “{text}”. Make one in Materials; it will be here at once.
					</p>
				)}
			</div>
		</div>
	);
}

/** Words of a text, lower case; a code such as OW-0211 is two. */
function wordsOf(text: string): string[] {
	return text
		.toLowerCase()
		.split(/[^\p{L}\p{N}.]+/u)
		.filter((w) => w !== "");
}

/** Materials in which every typed word begins a word; those of this project first, my draft of one as a choice of its own. */
function choicesOf(rows: readonly MaterialRow[], project: ProjectView, text: string): readonly Choice[] {
	const used = new Set(project.parts.flatMap((p) => p.assignment?.materialId ?? []));
	const typed = wordsOf(text);
	const fits = (haystack: string): boolean => {
		const words = wordsOf(haystack);
		return typed.every((t) => words.some((w) => w.startsWith(t)));
	};
	const found = rows
		.filter((r) =>
			fits(`${r.name} ${r.group} ${r.itemCode} ${r.shopName} ${r.document.designations.map((d) => d.text).join(" ")}`),
		)
		.flatMap((row): Choice[] => {
			const isUsed = used.has(row.id);
			const published: Choice = { key: row.id, row, draft: false, used: isUsed, density: row.publishedDensity };
			if (row.draftId === null) return [published];
			const draft: Choice = { key: `${row.id}-draft`, row, draft: true, used: isUsed, density: densityOf(row.document) };
			if (row.revision === 0) return [draft];
			return [published, draft];
		});
	// a match in the name comes before one in the group or a code
	return found.sort((a, b) => Number(b.used) - Number(a.used) || Number(fits(b.row.name)) - Number(fits(a.row.name)));
}
