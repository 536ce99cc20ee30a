import {
	BASES,
	BASIS_WORD,
	confirmed,
	type Edit,
	EVIDENCE,
	EVIDENCE_WORD,
	type MaterialValue,
	valueLabel,
} from "@alvek/core/material";
import { ArrowLeft } from "lucide-react";
import { useMemo, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { showToast } from "../../../stores/toasts";

import { useSheet } from "../context";
import { withKey } from "../Details";
import { BringForward } from "./BringForward";
import { type ComparedLine, compared, needsOwnLook, STATE_WORD, type ValueState } from "./bulk";
import { Factor } from "./Factor";
import { PutWord, SetSource } from "./SetSeveral";
import { ValueRow } from "./ValueRow";
import { Words } from "./Words";

const SHOWS = [
	["all", "all"],
	["carried", "carried over"],
	["different", "different from the base"],
	["behind", "behind"],
	["unsourced", "without a source"],
	["unproven", "without evidence"],
] as const;

type Put = (changes: readonly { line: ComparedLine; to: MaterialValue }[], label: string) => void;

/** Every value in one list, beside its base: go through them, confirm, follow, set source, evidence or basis of several. */
export function ValuesPage() {
	const { sheet, material, draft } = useSheet();
	const [params, setParams] = useSearchParams();
	const show = params.get("show") ?? "all";
	const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
	const [factoring, setFactoring] = useState(false);
	const lines = useMemo(() => compared(material, sheet.base), [material, sheet.base]);
	const visible = lines.filter((l) => passes(l, show));
	const tickable = visible.filter((l) => l.own !== null);
	const chosen = tickable.filter((l) => picked.has(l.id));
	const { base } = sheet;

	const toggle = (id: string): void => {
		const next = new Set(picked);
		if (!next.delete(id)) next.add(id);
		setPicked(next);
	};
	const put: Put = (changes, label) => {
		const edits: Edit[] = changes.map(({ line, to }) => ({ at: line.id, from: line.own, to }));
		if (edits.length === 0) return;
		draft?.commit(edits, label);
		showToast({ tone: "plain", text: `${label}.`, action: { label: "Undo", run: () => draft?.undo() } });
	};
	const confirmOne = (line: ComparedLine): void =>
		put([{ line, to: confirmed(line.own as MaterialValue) }], `${labelOf(line)} confirmed`);

	return (
		<section aria-label="All values" className="relative flex-1 min-w-0 bg-card overflow-y-auto px-5.5 py-3">
			<Link to={`/materials/${sheet.row.id}`} className="flex items-center gap-1.5 text-ink2 hover:text-ink w-fit">
				<ArrowLeft size={14} aria-hidden /> {sheet.row.name}
			</Link>
			<div className="flex items-start gap-3">
				<div className="flex-1 min-w-0">
					<h1>{base === null ? "All values" : `Beside ${base.name}`}</h1>
					<p className="caption">
						{base === null
							? `${Object.keys(material.values).length} values; this material began from no other.`
							: `${base.kind === "variant" ? "A variant of" : base.kind === "copy" ? "A copy of" : "Began from"} revision ${base.revision}${base.headRevision > base.revision ? `; revision ${base.headRevision} is out` : ""}. ${countWords(lines)}`}
					</p>
				</div>
				{draft !== null && (
					<button type="button" className="btn" onClick={() => setFactoring(true)}>
						Factor on strengths…
					</button>
				)}
				{base !== null && base.headRevision > base.revision && draft !== null && <BringForward lines={lines} />}
			</div>
			<Shown
				lines={lines}
				show={show}
				hasBase={base !== null}
				onShow={(id) => {
					setPicked(new Set());
					setParams(id === "all" ? {} : { show: id }, { replace: true });
				}}
			/>
			{draft !== null && <Several chosen={chosen} put={put} />}
			<table className="w-full border-collapse">
				<Heads
					base={base?.name ?? null}
					allTicked={visible.length > 0 && chosen.length === tickable.length}
					onTickAll={draft === null ? null : (on) => setPicked(new Set(on ? tickable.map((l) => l.id) : []))}
				/>
				<tbody>
					{visible.map((line) => (
						<ValueRow
							key={line.id}
							line={line}
							ticked={picked.has(line.id)}
							onTick={draft === null ? null : () => toggle(line.id)}
							onConfirm={() => confirmOne(line)}
						/>
					))}
				</tbody>
			</table>
			{visible.length === 0 && <p className="text-ink2 py-4">Nothing of this kind here.</p>}
			<Words />
			{factoring && <Factor close={() => setFactoring(false)} />}
		</section>
	);
}

type SeveralProps = {
	chosen: readonly ComparedLine[];
	put: Put;
};

/** What is ticked is changed together; what needs a look of its own is named. */
function Several({ chosen, put }: SeveralProps) {
	const { sheet, material } = useSheet();
	const several = (what: (v: MaterialValue) => MaterialValue, label: string): void =>
		put(
			chosen.map((line) => ({ line, to: what(line.own as MaterialValue) })),
			`${chosen.length} values: ${label}`,
		);
	const confirmable = chosen.filter((l) => l.own?.carried !== undefined && !needsOwnLook(l.own, sheet, material));
	const held = chosen.filter((l) => l.own !== null && needsOwnLook(l.own, sheet, material));
	const confirm = (): void =>
		put(
			confirmable.map((line) => ({ line, to: confirmed(line.own as MaterialValue) })),
			`${confirmable.length} values confirmed`,
		);
	const following = chosen.filter((l) => l.own?.follows !== undefined);
	const keepMine = (): void =>
		put(
			following.map((line) => ({ line, to: withKey(line.own as MaterialValue, "follows", "") })),
			`${following.length} values kept as they are`,
		);
	return (
		<div
			className={`flex flex-wrap items-center gap-2 px-2.5 py-1.5 mb-1.5 rounded-md ${chosen.length > 0 ? "bg-accent-soft" : "bg-paper"}`}
		>
			<span className="font-semibold">
				{chosen.length === 0 ? "Tick values to change several at once" : `${chosen.length} ticked`}
			</span>
			{chosen.length > 0 && (
				<>
					<button type="button" className="btn btn-small" disabled={confirmable.length === 0} onClick={confirm}>
						Confirm {confirmable.length}
					</button>
					{following.length > 0 && (
						<button type="button" className="btn btn-small" onClick={keepMine} title="They follow the base no more">
							Keep mine, {following.length}
						</button>
					)}
					<PutWord
						label="evidence"
						options={EVIDENCE.map((e) => [e, EVIDENCE_WORD[e]])}
						onSet={(e) => several((v) => ({ ...v, evidence: e }) as MaterialValue, EVIDENCE_WORD[e as "measured"])}
					/>
					<PutWord
						label="basis"
						options={BASES.map((b) => [b, BASIS_WORD[b]])}
						onSet={(b) => several((v) => ({ ...v, basis: b }) as MaterialValue, BASIS_WORD[b as "typical"])}
					/>
					<SetSource chosen={chosen} />
					{held.length > 0 && (
						<span className="caption text-doubt!">
							{held.map(labelOf).join(", ")}: the condition differs from the base’s, so{" "}
							{held.length === 1 ? "it is" : "these are"} confirmed one by one
						</span>
					)}
				</>
			)}
		</div>
	);
}

type HeadsProps = {
	base: string | null;
	allTicked: boolean;
	onTickAll: ((on: boolean) => void) | null;
};

function Heads({ base, allTicked, onTickAll }: HeadsProps) {
	return (
		<thead>
			<tr className="border-b border-ink text-left caption">
				<th className="w-6.5 py-1.5">
					{onTickAll !== null && (
						<input
							type="checkbox"
							className="checkbox align-middle"
							aria-label="Tick all shown"
							checked={allTicked}
							onChange={(e) => onTickAll(e.target.checked)}
						/>
					)}
				</th>
				<th className="w-10">
					<span className="sr-only">Symbol</span>
				</th>
				<th className="font-semibold pr-4">Property</th>
				<th className="font-semibold pr-4">Here</th>
				{base !== null && <th className="font-semibold pr-4">{base}</th>}
				{base !== null && <th className="font-semibold text-right pr-4">Difference</th>}
				<th className="font-semibold">State</th>
				<th className="font-semibold">Evidence · basis · source</th>
			</tr>
		</thead>
	);
}

type ShownProps = {
	lines: readonly ComparedLine[];
	show: string;
	hasBase: boolean;
	onShow: (show: string) => void;
};

/** Which values stand in the list, with their counts. */
function Shown({ lines, show, hasBase, onShow }: ShownProps) {
	return (
		<div className="flex flex-wrap items-center gap-1 my-2" role="group" aria-label="Values shown">
			{SHOWS.filter(([id]) => hasBase || !["different", "behind"].includes(id)).map(([id, name]) => {
				const count = lines.filter((l) => passes(l, id)).length;
				return (
					<button
						key={id}
						type="button"
						aria-pressed={show === id}
						className={`btn btn-small ${show === id ? "bg-accent-soft! text-primary!" : ""}`}
						onClick={() => onShow(id)}
					>
						{name} <span className="caption">{count}</span>
					</button>
				);
			})}
		</div>
	);
}

function passes(line: ComparedLine, show: string): boolean {
	const { own } = line;
	if (show === "carried") return line.state === "carried";
	if (show === "different") return !line.same;
	if (show === "behind") return line.state === "behind";
	if (show === "unsourced")
		return (
			own !== null &&
			own.source === undefined &&
			own.sourceId === undefined &&
			own.kind !== "unknown" &&
			own.kind !== "not-applicable"
		);
	if (show === "unproven")
		return own !== null && own.evidence === undefined && own.kind !== "unknown" && own.kind !== "not-applicable";
	return true;
}

function countWords(lines: readonly ComparedLine[]): string {
	const count = (state: ValueState): number => lines.filter((l) => l.state === state).length;
	const parts = (["own", "carried", "follows", "behind", "missing"] as const)
		.filter((s) => count(s) > 0)
		.map((s) => `${count(s)} ${s === "follows" && count(s) !== 1 ? "follow" : STATE_WORD[s]}`);
	return `${parts.join(", ")}.`;
}

function labelOf(line: ComparedLine): string {
	return valueLabel((line.own ?? line.base) as MaterialValue).name;
}
