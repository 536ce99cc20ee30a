import {
	type Edit,
	freshValueId,
	isSeries,
	type MaterialValue,
	type SeriesValue,
	sameContent,
	sameNumbers,
} from "@alvek/core/material";
import { entryName, formById, propertyById } from "@alvek/core/property";
import { describeIssue, type Issue } from "@alvek/core/result";
import { ArrowLeft, ClipboardPaste, ListOrdered, Undo2 } from "lucide-react";
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { blankLocal, headOf, type Local, localOf, sorted, toValue } from "../../../shared/chart/columns";
import { useUnitSet } from "../../../stores/preferences";
import { showToast } from "../../../stores/toasts";
import { Empty } from "../../../ui/states";
import { useSheet } from "../context";
import { Conditions } from "./Conditions";
import { CurveRail } from "./CurveRail";
import { CurveTable } from "./CurveTable";
import { hasContour } from "./contour";
import { PasteBlock } from "./PasteBlock";

const ContourChart = lazy(async () => ({ default: (await import("./ContourChart")).ContourChart }));
const CurveChart = lazy(async () => ({ default: (await import("./CurveChart")).CurveChart }));

/** One editor for tables over conditions and for curves: points, chart, and what the curve is. */
export function CurvePage() {
	const { material } = useSheet();
	const { valueId = "" } = useParams();
	const [params] = useSearchParams();
	const value = material.values[valueId] ?? null;
	const property = value?.property ?? params.get("property") ?? "";
	const known = propertyById(property) !== undefined || formById(property)?.kind === "curve";
	if (!known || (value !== null && !isSeries(value) && params.get("new") === null)) {
		return (
			<Empty title="There is no such curve.">
				<Link className="quiet-link" to="../.." relative="path">
					Back to the sheet
				</Link>
			</Empty>
		);
	}
	return <Editor key={`${valueId} ${property}`} id={valueId} property={property} />;
}

type Change = (next: Local, label: string, also?: readonly Edit[]) => void;

/** The curve as it is typed, and the curve that is stored as soon as every row reads. */
function useCurve(id: string, property: string) {
	const { material, draft } = useSheet();
	const unitSet = useUnitSet();
	const stored = material.values[id];
	const value: SeriesValue | null = stored !== undefined && isSeries(stored) ? stored : null;
	const kind = formById(property)?.kind === "curve" ? "curve" : "table";
	const [local, setLocal] = useState<Local>(() => (value === null ? blankLocal(kind, property, unitSet) : localOf(value)));
	const known = useRef<MaterialValue | null>(value);

	// an undo, a merge or another window changed it: the screen follows
	useEffect(() => {
		// saving brings the same content back as a new object: rows that are half typed stay
		const same = known.current === value || sameContent(known.current, value);
		known.current = value;
		if (same) return;
		setLocal(value === null ? blankLocal(kind, property, unitSet) : localOf(value));
	}, [value, kind, property, unitSet]);

	const head = headOf(value, id, property);
	const read = useMemo(() => toValue(local, head), [local, head]);

	/** Takes what is on screen; it is stored as soon as every row reads. */
	const change: Change = (next, label, also = []) => {
		setLocal(next);
		if (draft === null) return;
		const made = toValue(next, head);
		if (!made.ok || (made.value.columns[0]?.si.length ?? 0) === 0) return;
		if (value !== null && sameNumbers(value, made.value) && sameCells(value, made.value)) return;
		known.current = made.value;
		// a line that was marked unknown gets its points
		draft.commit([{ at: id, from: stored ?? null, to: made.value }, ...also], label);
	};
	const undo = (): void => {
		const label = draft?.undo() ?? null;
		showToast({ tone: "plain", text: label === null ? "Nothing more to undo on this sheet." : `Undone: ${label}` });
	};
	const filled = local.rows.filter((r) => r.some((c) => c.trim() !== "")).length;
	return { local, value, head, read, issues: read.ok ? [] : read.issues, filled, change, undo };
}

function Editor({ id, property }: { id: string; property: string }) {
	const { material, draft } = useSheet();
	const { local, value, head, read, issues, filled, change, undo } = useCurve(id, property);
	const [pasting, setPasting] = useState<string | null>(null);
	const [params, setParams] = useSearchParams();
	const contour = params.get("chart") === "contour";
	const draw = (as: "curves" | "contour"): void => {
		const next = new URLSearchParams(params);
		if (as === "contour") next.set("chart", as);
		else next.delete("chart");
		setParams(next, { replace: true });
	};
	const [derived, setDerived] = useState(true);
	const [member, setMember] = useState<number | null>(null);
	const [focusedRow, setFocusedRow] = useState<number | null>(null);
	const editable = draft !== null;
	const take = (next: Local, extra: readonly SeriesValue[]): void => {
		setPasting(null);
		const others = extra.map((other): Edit => {
			const free = freshValueId(material, other.property);
			return { at: free, from: null, to: { ...other, id: free } };
		});
		change(next, "points pasted", others);
		const also = extra.length > 0 ? ` ${extra.map((e) => entryName(e.property)).join(", ")} taken too.` : "";
		showToast({ tone: "plain", text: `${next.rows.length} points.${also}`, action: { label: "Undo", run: undo } });
	};
	return (
		<>
			<section aria-label="Points" className="w-79.5 shrink-0 bg-card border-r border-line flex flex-col min-h-0 max-lg:w-67.5">
				<Title property={property} filled={filled} unread={issues.length} />
				<CurveTable
					local={local}
					property={property}
					material={material}
					value={read.ok ? read.value : null}
					issues={issues}
					editable={editable}
					onChange={change}
					onPasteBlock={setPasting}
					onFocusRow={setFocusedRow}
				/>
			</section>
			<section aria-label="Chart" className="relative flex-1 min-w-0 bg-card overflow-y-auto px-4.5 py-3">
				<div className="flex flex-wrap items-center gap-2 mb-2">
					{property === "stress_strain" && !contour && <FormsShown derived={derived} onChange={setDerived} />}
					{read.ok && hasContour(read.value) && (
						<div role="group" aria-label="Drawn as" className="flex border border-line rounded-md">
							{(["curves", "contour"] as const).map((as) => (
								<button
									key={as}
									type="button"
									aria-pressed={contour === (as === "contour")}
									className={`h-7 px-2.5 ${contour === (as === "contour") ? "bg-accent-soft font-bold text-primary" : "text-ink2 hover:text-ink"}`}
									onClick={() => draw(as)}
								>
									{as}
								</button>
							))}
						</div>
					)}
					{editable && <Conditions local={local} property={property} onChange={change} />}
					<div className="ml-auto flex gap-1">
						{editable && (
							<Tools onPaste={() => setPasting("")} onSort={() => change(sorted(local, head), "points sorted")} onUndo={undo} />
						)}
					</div>
				</div>
				{pasting !== null && (
					<PasteBlock first={pasting} local={local} property={property} onUse={take} onLeave={() => setPasting(null)} />
				)}
				{read.ok && filled > 0 && (
					<Suspense fallback={<div className="h-105" role="status" aria-label="The chart is on its way" />}>
						{contour && hasContour(read.value) ? (
							<ContourChart value={read.value} />
						) : (
							<CurveChart
								value={read.value}
								material={material}
								derived={derived}
								member={member}
								onMember={setMember}
								focusedRow={focusedRow}
							/>
						)}
					</Suspense>
				)}
				{filled === 0 && pasting === null && (
					<Empty title="No points yet.">
						Type them on the left, or copy a block from a spreadsheet and paste it into the table: headings, units and decimal
						commas are understood.
					</Empty>
				)}
				{(filled > 0 || pasting !== null) && issues.length > 0 && <Unread local={local} issues={issues} onChange={change} />}
			</section>
			<CurveRail
				local={local}
				property={property}
				material={material}
				value={read.ok && filled > 0 ? read.value : null}
				stored={value}
				onChange={editable ? change : null}
			/>
		</>
	);
}

/** The way back, what it is, and how much of it reads. */
function Title({ property, filled, unread }: { property: string; filled: number; unread: number }) {
	const { sheet } = useSheet();
	const navigate = useNavigate();
	return (
		<div className="px-4.5 pt-3 pb-1.5">
			<Link
				to=".."
				relative="path"
				className="flex items-center gap-1.5 text-ink2 hover:text-ink"
				onClick={(e) => {
					e.preventDefault();
					void navigate(`/materials/${sheet.row.id}`);
				}}
			>
				<ArrowLeft size={14} aria-hidden /> <span className="truncate">{sheet.row.name}</span>
			</Link>
			<h1 className="truncate">{entryName(property)}</h1>
			<p className="caption">
				{filled} points{unread === 0 ? "" : `, ${unread === 1 ? "1 cell does" : `${unread} cells do`} not read yet`}
			</p>
		</div>
	);
}

function FormsShown({ derived, onChange }: { derived: boolean; onChange: (derived: boolean) => void }) {
	return (
		<div className="flex" role="group" aria-label="Forms shown">
			{[false, true].map((on) => (
				<button
					key={String(on)}
					type="button"
					aria-pressed={derived === on}
					className={`btn ${on ? "rounded-l-none! -ml-px" : "rounded-r-none!"} ${derived === on ? "bg-accent-soft! text-primary!" : ""}`}
					onClick={() => onChange(on)}
				>
					{on ? "with derived" : "as measured"}
				</button>
			))}
		</div>
	);
}

function Tools({ onPaste, onSort, onUndo }: { onPaste: () => void; onSort: () => void; onUndo: () => void }) {
	return (
		<>
			<button type="button" className="btn btn-ghost" onClick={onPaste}>
				<ClipboardPaste size={15} aria-hidden /> Paste
			</button>
			<button
				type="button"
				className="btn btn-ghost btn-icon"
				aria-label="Sort the points"
				title="Sort the points"
				onClick={onSort}
			>
				<ListOrdered size={16} aria-hidden />
			</button>
			<button type="button" className="btn btn-ghost btn-icon" aria-label="Undo" title="Undo" onClick={onUndo}>
				<Undo2 size={16} aria-hidden />
			</button>
		</>
	);
}

/** What does not read, and what a person can say about it. */
function Unread({ local, issues, onChange }: { local: Local; issues: readonly Issue[]; onChange: Change }) {
	return (
		<ul role="alert" className="border-l-3 border-wrong bg-wrong-soft px-3 py-2">
			{issues.slice(0, 5).map((issue) => (
				<li key={`${issue.path} ${issue.line} ${issue.code}`}>
					Row {issue.line}: {describeIssue(issue)}
				</li>
			))}
			{issues.some((i) => i.code === "ambiguous-number") && (
				<li className="flex gap-1.5 py-0.75">
					{([".", ","] as const).map((mark) => (
						<button
							key={mark}
							type="button"
							className="btn btn-small"
							onClick={() => onChange({ ...local, columns: local.columns.map((c) => ({ ...c, mark })) }, "decimal mark said")}
						>
							{mark === "." ? "the point" : "the comma"} is the decimal mark
						</button>
					))}
				</li>
			)}
			<li className="caption">What reads is kept on screen; the curve is stored when every row reads.</li>
		</ul>
	);
}

/** Also the texts are the same: what was typed counts, not only what it means. */
function sameCells(a: SeriesValue, b: SeriesValue): boolean {
	return a.columns.every((c, i) => {
		const other = b.columns[i];
		return other !== undefined && c.unit === other.unit && c.cells.every((cell, k) => cell === other.cells[k]);
	});
}
