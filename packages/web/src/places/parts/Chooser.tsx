import type { LibraryView, MaterialRow, PartView, ProjectView } from "@alvek/contract";
import { writeList } from "@alvek/contract";
import { MASS_UNITS } from "@alvek/core/mass";
import { readNewMaterial } from "@alvek/core/page";
import { type RefObject, useDeferredValue, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { newId } from "../../api/client";
import { useRoute } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { massText, massWith } from "../../shared/massFigures";
import { useKeptByMe } from "../../shared/targetLibrary";
import { useUnitSet } from "../../stores/preferences";
import { ReadinessBar, Swatch } from "../../ui/marks";
import { wordsOf } from "../../ui/Quantity";
import { type Choice, choicesOf, forPurpose, purposeOf, purposesOf } from "./choices";

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
	const { choices: found, page, asked, mine, used } = useChoices(project, text);
	/** Null until somebody says otherwise: then it is what the parts are for now. */
	const [chosen, setChosen] = useState<string | null>(null);
	const purpose = chosen ?? purposeOf(parts, used);
	const choices = forPurpose(found, purpose);
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
			<PurposeLine
				purpose={purpose}
				purposes={purposesOf(found)}
				others={found.length - choices.length}
				choose={(next) => {
					setChosen(next);
					setAt(0);
				}}
			/>
			<div role="listbox" id="chooser-list" aria-label="Materials">
				{choices.slice(first, first + SHOWN).map((choice, i) => (
					<Option
						key={choice.key}
						choice={choice}
						active={first + i === at}
						why={whyHere(choice, project)}
						mine={mine.has(choice.row.libraryId)}
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

/** What the materials have to be offered for, and the way around it. */
function PurposeLine(props: {
	purpose: string;
	purposes: readonly string[];
	/** Left out, because they are offered for something else. */
	others: number;
	choose: (purpose: string) => void;
}) {
	const { purpose, purposes, others, choose } = props;
	if (purposes.length === 0) return null;
	return (
		<div className="flex items-center gap-2 px-2.5 h-7.5 border-b border-line2 caption">
			<label className="flex items-center gap-1">
				offered for
				<select
					className="bg-transparent font-semibold text-ink"
					value={purpose}
					onChange={(e) => choose(e.target.value)}
					aria-label="Offered for"
				>
					<option value="" className="bg-card">
						anything
					</option>
					{[...new Set([...purposes, ...(purpose === "" ? [] : [purpose])])].map((p) => (
						<option key={p} value={p} className="bg-card">
							{p}
						</option>
					))}
				</select>
			</label>
			{others > 0 && (
				<button type="button" className="quiet-link ml-auto" onClick={() => choose("")}>
					{others} for something else, show them too
				</button>
			)}
		</div>
	);
}

const NO_LIBRARIES: readonly LibraryView[] = [];
const NO_ROWS: readonly MaterialRow[] = [];

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
	const rows = own.data ?? NO_ROWS;
	const choices = useMemo(() => {
		const hidden = new Set(libraries?.filter((l) => l.hidden).map((l) => l.id));
		const found = (page.data?.rows ?? []).filter((r) => !hidden.has(r.libraryId));
		return choicesOf([...rows, ...found], project, text);
	}, [rows, page.data, libraries, project, text]);
	return { choices, page, asked, used: rows, mine: useKeptByMe(libraries ?? NO_LIBRARIES) };
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
	/** It stands in a library that this person keeps. */
	mine: boolean;
	/** The mass of the chosen parts in kg, as they are and with this material. */
	now: number | null;
	then: number | null;
	onPoint: () => void;
	onTake: () => void;
};

function Option({ choice, active, why, mine, now, then, onPoint, onTake }: OptionProps) {
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
					{mine && <b className="text-primary">, yours</b>}
				</span>
			</span>
			<span className="ml-auto shrink-0 max-md:hidden">
				<ReadinessBar readiness={choice.row.readiness} />
			</span>
			<span className="caption whitespace-nowrap w-31.5 max-md:w-auto max-md:ml-auto text-right shrink-0">
				{then === null ? (
					"no density"
				) : (
					<>
						{now !== null && <span className="max-md:hidden">{massText(now, unitSet)} → </span>}
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
					Enter makes <b className="text-ink">{read.value.name}</b>, {wordsOf(density, unitSet)}, in this project only.
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
