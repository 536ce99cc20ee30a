import { type Found, linkText } from "@alvek/contract";
import { firstValue, type Material } from "@alvek/core/material";
import { property } from "@alvek/core/property";
import { foldName, rankName } from "@alvek/core/table";
import { FolderClosed, Puzzle, Zap } from "lucide-react";
import { type ReactNode, useDeferredValue, useEffect } from "react";
import { useNavigate } from "react-router";
import { useRoute } from "../../api/queries";
import { usePartSelection } from "../../stores/parts";
import { useUnitSet } from "../../stores/preferences";
import { useTray } from "../../stores/tray";
import { ReadinessBar, Swatch } from "../marks";
import { plainUnit, unitFor, valueText } from "../Quantity";
import { type Action, currentActions, findActions } from "./actions";
import { useDirect } from "./useDirect";

export type Answer = {
	readonly key: string;
	readonly rank: number;
	readonly show: ReactNode;
	readonly take: (hold: boolean) => void;
};

/** What answers the typed text, below the field that owns the keys. */
export function FinderPanel(props: {
	text: string;
	at: number;
	onPoint: (index: number) => void;
	onCount: (count: number) => void;
	/** Enter was pressed; it is for the answers to what is typed now. */
	waiting: { readonly hold: boolean } | null;
	onTaken: () => void;
	close: () => void;
}) {
	const { text, at, onPoint, onCount, waiting, onTaken, close } = props;
	const { answers, fresh } = useAnswers(text, close);
	useEffect(() => onCount(answers.length), [answers.length, onCount]);
	// biome-ignore lint/correctness/useExhaustiveDependencies: only the arrival counts
	useEffect(() => {
		if (!fresh || waiting === null) return;
		onTaken();
		answers[at]?.take(waiting.hold);
	}, [fresh, waiting]);
	return (
		<div className="floating absolute left-1/2 -translate-x-1/2 top-9 w-140 max-w-[96vw] z-40 max-h-[70vh] overflow-y-auto">
			<Answers answers={answers} at={at} onPoint={onPoint} />
			{answers.length === 0 && <p className="px-3 py-2.5 text-ink2">Nothing is called “{text}”.</p>}
			<p className="caption px-3 py-1.5">Enter opens, Ctrl+Enter puts a material into the tray. Also: 35 ksi in MPa, rho AL 21</p>
		</div>
	);
}

function Answers({ answers, at, onPoint }: { answers: readonly Answer[]; at: number; onPoint: (index: number) => void }) {
	return (
		<div role="listbox" id="finder-list" aria-label="Found">
			{answers.map((answer, i) => (
				// biome-ignore lint/a11y/useKeyWithClickEvents: keys are handled by the text field that owns this list
				<div
					key={answer.key}
					id={`found-${i}`}
					role="option"
					tabIndex={-1}
					aria-selected={i === at}
					className={`flex items-center gap-2.5 min-h-8.5 px-3 border-b border-line2 cursor-pointer ${i === at ? "bg-accent-soft" : ""}`}
					onPointerMove={() => onPoint(i)}
					// before the field loses the focus and closes the list
					onPointerDown={(e) => e.preventDefault()}
					onClick={(e) => answer.take(e.ctrlKey || e.metaKey)}
				>
					{answer.show}
				</div>
			))}
		</div>
	);
}

/** What answers the typed text, and whether it answers that text and not one before it. */
function useAnswers(typed: string, done: () => void): { readonly answers: readonly Answer[]; readonly fresh: boolean } {
	const navigate = useNavigate();
	const text = useDeferredValue(typed).trim();
	const found = useRoute("search", { text: text === "" ? "-" : text }, { enabled: text !== "" });
	const go = (path: string): void => {
		done();
		void navigate(path);
	};
	const things = text === "" ? [] : (found.data ?? []).map((f): Answer => answerOf(f, text, go, done));
	const actions = findActions(currentActions(), typed).map(
		({ action, rank }): Answer => ({
			key: `action ${action.id}`,
			rank,
			show: <ActionLine action={action} />,
			take: () => {
				done();
				action.run(navigate);
			},
		}),
	);
	// equal ranks: things before actions, each in its own order
	const direct = useDirect(text, done);
	const answers = [...direct.answers, ...things, ...actions].sort((a, b) => a.rank - b.rank).slice(0, MOST);
	const fresh = direct.fresh && text === typed.trim() && (text === "" || (!found.isPlaceholderData && !found.isPending));
	return { answers, fresh };
}

const MOST = 14;

function answerOf(found: Found, typed: string, go: (path: string) => void, done: () => void): Answer {
	if (found.kind === "material") {
		const { row } = found;
		return {
			key: row.id,
			rank: found.rank,
			show: <MaterialLine row={row} typed={typed} />,
			take: (hold) => {
				if (!hold) return go(`/materials/${row.id}`);
				const { id, name, revision, document } = row;
				useTray.getState().add({ id, name, colour: document.colour, revision, draft: row.draftId !== null });
				done();
			},
		};
	}
	if (found.kind === "project") {
		return {
			key: found.id,
			rank: found.rank,
			show: (
				<ThingLine icon={<FolderClosed size={14} aria-hidden />} name={found.name} detail={`project, ${found.parts} parts`} />
			),
			take: () => go(`/parts/${found.id}`),
		};
	}
	return {
		key: found.id,
		rank: found.rank,
		show: (
			<ThingLine
				icon={<Puzzle size={14} aria-hidden />}
				name={found.name}
				detail={`part of ${found.project}${found.material === null ? ", no material" : `, ${found.material}`}`}
			/>
		),
		take: () => {
			usePartSelection.getState().select(found.projectId, [found.id]);
			go(`/parts/${found.projectId}`);
		},
	};
}

function MaterialLine({ row, typed }: { row: Extract<Found, { kind: "material" }>["row"]; typed: string }) {
	const revision = row.draftId !== null ? "draft" : `rev ${row.revision}`;
	// whoever typed a name from elsewhere sees why this one answers
	const link = row.knownAs.find((l) => rankName(foldName(l.name), foldName(typed)) !== null);
	const asked = foldName(typed);
	const isNamed = [row.name, row.itemCode, row.shopName].some((name) => rankName(foldName(name), asked) !== null);
	const held = isNamed ? undefined : Object.values(row.document.attachments).find((a) => saysAny([a.name, a.note], asked));
	return (
		<>
			<Swatch colour={row.document.colour} />
			<span className="truncate min-w-0">
				<b>{row.name}</b>{" "}
				<span className="caption">
					{held !== undefined && <span className="text-ink2">holds {held.name}, </span>}
					{link !== undefined && <span className="text-ink2">known as {linkText(link)}, </span>}
					{row.library}, {revision}
					{row.itemCode !== "" && `, ${row.itemCode}`}
				</span>
			</span>
			<span className="ml-auto caption whitespace-nowrap">
				<KeyValues material={row.document} />
			</span>
			<ReadinessBar readiness={row.readiness} />
		</>
	);
}

const saysAny = (texts: readonly string[], asked: string): boolean =>
	texts.some((text) => rankName(foldName(text), asked) !== null);

/** Enough to tell grades of one name apart. */
function KeyValues({ material }: { material: Material }) {
	const unitSet = useUnitSet();
	return ["density", "youngs_modulus"]
		.flatMap((id) => {
			const value = firstValue(material, id);
			return value === null
				? []
				: [`${property(id).symbol} ${valueText(value, unitSet)} ${plainUnit(unitFor(value, unitSet))}`.trim()];
		})
		.join(", ");
}

function ThingLine({ icon, name, detail }: { icon: ReactNode; name: string; detail: string }) {
	return (
		<>
			<span className="text-ink3 w-2.25 flex justify-center shrink-0">{icon}</span>
			<b className="truncate">{name}</b>
			<span className="caption truncate">{detail}</span>
		</>
	);
}

function ActionLine({ action }: { action: Action }) {
	return <ThingLine icon={<Zap size={13} aria-hidden />} name={action.name} detail="" />;
}
