import type { MaterialRow, PartView, ProjectView } from "@alvek/contract";
import { writeList } from "@alvek/contract";
import type { DensityRange } from "@alvek/core/mass";
import { MASS_UNITS } from "@alvek/core/mass";
import { densityOf } from "@alvek/core/material";
import { readNewMaterial } from "@alvek/core/page";
import { type RefObject, useDeferredValue, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { newId } from "../../api/client";
import { useRoute } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { massText, massWith } from "../../shared/massFigures";
import { useUnitSet } from "../../stores/preferences";
import { ReadinessBar, Swatch } from "../../ui/marks";
import { wordsOf as wordsOfValue } from "../../ui/Quantity";

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
	onAssign: (materialId: string, draft: boolean) => void;
	onClose: () => void;
};

const SHOWN = 7;

/** Hangs from the chosen rows: type, arrows, Enter. Used in this project, starred, working list, then the rest. */
export function Chooser({ project, parts, initial, top, onAssign, onClose }: Props) {
	const [text, setText] = useState(initial);
	const [at, setAt] = useState(0);
	const root = useRef<HTMLDivElement>(null);
	const { choices, page, asked } = useChoices(project, text);
	const pieces = parts.reduce((n, p) => n + p.quantity, 0);
	const now = massWith(parts);
	// an answer to something typed before must not be given, and must not make a material of its own
	const fresh = page.data !== undefined && !page.isPlaceholderData && asked === text.trim();
	/** Enter came before the answer to what was typed: it is kept until it is here. */
	const [waiting, setWaiting] = useState(false);
	const take = (): void => {
		const choice = choices[at];
		if (choice !== undefined) onAssign(choice.row.id, choice.draft);
		else void makeOwn(project, text, onAssign);
	};
	// biome-ignore lint/correctness/useExhaustiveDependencies: only the arrival counts
	useEffect(() => {
		if (!fresh || !waiting) return;
		setWaiting(false);
		take();
	}, [fresh, waiting]);
	useHanging(root, choices.length, onClose);
	const first = Math.max(0, Math.min(at - 3, choices.length - SHOWN));
	return (
		<div ref={root} className="floating absolute left-3 w-117.5 max-w-[calc(100%-24px)] z-20 border-primary!" style={{ top }}>
			<div className="flex items-center gap-2 px-2.5 h-9.5 border-b border-line">
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
						setWaiting(false);
						setAt(0);
					}}
					onKeyDown={(e) => {
						if (e.key === "ArrowDown") setAt(Math.min(at + 1, choices.length - 1));
						else if (e.key === "ArrowUp") setAt(Math.max(at - 1, 0));
						else if (e.key === "Enter") setWaiting(true);
						else if (e.key === "Escape") onClose();
						else return;
						e.preventDefault();
						e.stopPropagation();
					}}
				/>
				<span className="caption whitespace-nowrap">{choices.length} fit</span>
			</div>
			<div role="listbox" id="chooser-list" aria-label="Materials">
				{choices.slice(first, first + SHOWN).map((choice, i) => (
					<Option
						key={choice.key}
						choice={choice}
						active={first + i === at}
						why={whyHere(choice, project)}
						now={now}
						then={massWith(parts, choice.density)}
						onPoint={() => setAt(first + i)}
						onTake={() => onAssign(choice.row.id, choice.draft)}
					/>
				))}
				{page.data && choices.length === 0 && <OwnLine text={text} />}
			</div>
		</div>
	);
}

/** What fits the typed text, with the answer that it came from. */
function useChoices(project: ProjectView, text: string) {
	const asked = useDeferredValue(text).trim();
	const page = useRoute("findMaterials", {
		...(asked === "" ? {} : { text: asked }),
		limit: "300",
		sort: "name",
		values: "density",
		project: project.id,
	});
	const libraries = useRoute("listLibraries", {}).data;
	const used = [...new Set(project.parts.flatMap((p) => p.assignment?.materialId ?? []))];
	const own = useRoute("getMaterials", { ids: writeList(used) }, { enabled: used.length > 0 });
	const choices = useMemo(() => {
		const hidden = new Set(libraries?.filter((l) => l.hidden).map((l) => l.id));
		const found = (page.data?.rows ?? []).filter((r) => !hidden.has(r.libraryId));
		return choicesOf([...(own.data ?? []), ...found], project, text);
	}, [own.data, page.data, libraries, project, text]);
	return { choices, page, asked };
}

/** Keeps a list that hangs from rows in sight, and closes it by a click beside it. */
function useHanging(root: RefObject<HTMLDivElement | null>, length: number, onClose: () => void): void {
	// it hangs below its rows; where the table ends, the rows move up rather than being hidden
	// biome-ignore lint/correctness/useExhaustiveDependencies: its height follows the number of choices
	useLayoutEffect(() => {
		// newer browsers answer a promise here, which is no cleanup
		void root.current?.scrollIntoView({ block: "nearest" });
	}, [length]);
	useEffect(() => {
		const outside = (e: PointerEvent): void => {
			if (!root.current?.contains(e.target as Node)) onClose();
		};
		document.addEventListener("pointerdown", outside);
		return () => document.removeEventListener("pointerdown", outside);
	}, [root, onClose]);
}

type OptionProps = {
	choice: Choice;
	active: boolean;
	why: string;
	/** The mass of the chosen parts in kg, as they are and with this material. */
	now: number | null;
	then: number | null;
	onPoint: () => void;
	onTake: () => void;
};

function Option({ choice, active, why, now, then, onPoint, onTake }: OptionProps) {
	const unitSet = useUnitSet();
	return (
		// biome-ignore lint/a11y/useKeyWithClickEvents: keys are handled by the text field that owns this list
		<div
			id={`choice-${choice.key}`}
			role="option"
			tabIndex={-1}
			aria-selected={active}
			onClick={onTake}
			onPointerMove={onPoint}
			className={`flex items-center gap-2 h-8.25 px-2.5 border-b border-line2 cursor-pointer ${active ? "bg-accent-soft" : ""}`}
		>
			<Swatch colour={choice.row.document.colour} />
			<span className="truncate">
				<b>{choice.row.name}</b>{" "}
				<span className="caption">
					{choice.draft ? "your draft" : `rev ${choice.row.revision}`}
					{why}
				</span>
			</span>
			<span className="ml-auto shrink-0">
				<ReadinessBar readiness={choice.row.readiness} />
			</span>
			<span className="caption whitespace-nowrap w-31.5 text-right shrink-0">
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
}

/** Why a choice stands where it does. */
function whyHere({ row, used }: Choice, project: ProjectView): string {
	const retired = row.retired === null ? "" : " · retired";
	if (row.libraryId === `project:${project.id}`) return " · of this project only";
	if (used) return ` · used in this project${retired}`;
	return `${row.starred ? " · starred" : row.working ? " · working list" : ""} · ${row.library}${retired}`;
}

/** No hit: what is typed becomes a material of this project only, when it is a name and a density. */
function OwnLine({ text }: { text: string }) {
	const unitSet = useUnitSet();
	const read = readNewMaterial(text);
	const density = read.ok ? read.value.values[0] : undefined;
	return (
		<p className="px-2.5 py-2.5 text-ink2">
			{read.ok && density !== undefined ? (
				<>
					Enter makes <b className="text-ink">{read.value.name}</b>, {wordsOfValue(density, unitSet)}, in this project only.
				</>
			) : (
				<>
					No material matches “{text}”. Type a density behind a name, such as <b>Gudgeon alloy 2.68 g/cm3</b>: it becomes a
					material of this project only.
				</>
			)}
		</p>
	);
}

/** Makes the material and gives it at once. */
async function makeOwn(project: ProjectView, line: string, onAssign: Props["onAssign"]): Promise<void> {
	const material = newId();
	if ((await runMutation("createLocal", { id: project.id, material, line })) !== null) onAssign(material, false);
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
	const distinct = [...new Map(rows.map((r) => [r.id, r])).values()];
	const found = distinct
		.filter((r) =>
			fits(
				[
					r.name,
					r.group,
					r.itemCode,
					r.shopName,
					...r.document.designations.map((d) => d.text),
					...r.knownAs.map((l) => l.name),
				].join(" "),
			),
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
	const rank = ({ used: isUsed, row }: Choice): number =>
		isUsed ? 0 : row.starred ? 1 : row.working ? 2 : row.retired === null ? 3 : 4;
	return found.sort((a, b) => rank(a) - rank(b) || Number(fits(b.row.name)) - Number(fits(a.row.name)));
}
