import type { PropertyRow } from "@alvek/core/property";
import { fromSi, parseQuantity, significant, typeset, unitOf } from "@alvek/core/quantity";
import { binStrip, type PackedColumns, type StripAxis } from "@alvek/core/table";
import { X } from "lucide-react";
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import { numberIn, plainUnit, SymbolText } from "../../../ui/Quantity";
import { type Ends, endAt, placesOf } from "./spans";

/** Room for names on the left of every axis, in pixels. */
export const LABEL_WIDTH = 146;
export const STRIP_HEIGHT = 41;

type Props = {
	row: PropertyRow;
	unit: string;
	columns: PackedColumns;
	axis: StripAxis | null;
	fails: Uint8Array;
	/** Changes with every change of `fails`, which keeps its place in memory. */
	turn: number;
	width: number;
	ends: Ends;
	/** While a handle or a new span is under way. */
	onDrag: (ends: Ends) => void;
	/** When it has come to rest. */
	onSettle: (ends: Ends) => void;
	onScale: () => void;
	onRemove: () => void;
};

/** One property's axis with every material on it: a tick each, a band where it is a range. Dragging along it filters. */
export function Strip(props: Props) {
	const { row, unit, columns, axis, ends, width, onDrag, onSettle } = props;
	const track = useRef<HTMLDivElement>(null);
	const [drag, setDrag] = useState<"low" | "high" | { readonly from: number } | null>(null);
	const latest = useRef(ends);
	const canvas = useTicks(props);
	if (axis === null || columns.columns.get(row.id) === undefined) {
		return (
			<div className="flex" style={{ height: STRIP_HEIGHT }}>
				<StripLabel {...props} />
				<span className="caption self-center">no material here has a number for it</span>
			</div>
		);
	}
	const [low, high] = placesOf(axis, ends);
	const isSet = ends.low !== null || ends.high !== null;
	const round = (si: number): number => {
		const text = significant(fromSi(si, unitOf(unit)), 3);
		const read = parseQuantity(text, row, { fieldUnit: unit, decimalMark: "." });
		return read.ok && read.value.low !== null ? read.value.low : si;
	};
	const tell = (next: Ends): void => {
		latest.current = next;
		onDrag(next);
	};
	const placeAt = (e: PointerEvent): number => {
		const box = track.current?.getBoundingClientRect();
		return box === undefined ? 0 : (e.clientX - box.left) / box.width;
	};
	const moveEnd = (end: "low" | "high", place: number): void => {
		const bounded = end === "low" ? Math.min(place, high) : Math.max(place, low);
		tell({ ...ends, [end]: endAt(axis, bounded, end, round) });
	};
	const follow = (e: PointerEvent): void => {
		if (drag === null) return;
		const place = placeAt(e);
		if (typeof drag === "string") return moveEnd(drag, place);
		if (Math.abs(place - drag.from) * width < 3) return;
		const [from, to] = [Math.min(place, drag.from), Math.max(place, drag.from)];
		tell({ low: endAt(axis, from, "low", round), high: endAt(axis, to, "high", round) });
	};
	const release = (): void => {
		if (drag === null) return;
		setDrag(null);
		onSettle(latest.current);
	};
	const onKey = (end: "low" | "high", e: KeyboardEvent): void => {
		const place = end === "low" ? low : high;
		const step = STEPS[e.key];
		if (step !== undefined) moveEnd(end, place + step);
		else if (e.key === "Home") moveEnd(end, end === "low" ? 0 : low);
		else if (e.key === "End") moveEnd(end, end === "high" ? 1 : high);
		else if (e.key === "Delete" || e.key === "Escape") tell({ low: null, high: null });
		else return;
		e.preventDefault();
		onSettle(latest.current);
	};
	return (
		<div className="flex group" style={{ height: STRIP_HEIGHT }}>
			<StripLabel {...props} />
			<div className="relative" style={{ width }}>
				{/* biome-ignore lint/a11y/noStaticElementInteractions: the sliders on it are what the keyboard has */}
				<div
					ref={track}
					data-strip={row.id}
					className="absolute inset-x-0 top-0.75 h-6 cursor-crosshair touch-none"
					onPointerDown={(e) => {
						e.currentTarget.setPointerCapture(e.pointerId);
						latest.current = ends;
						setDrag({ from: placeAt(e) });
					}}
					onPointerMove={follow}
					onPointerUp={release}
					onPointerCancel={release}
					onDoubleClick={() => onSettle({ low: null, high: null })}
				>
					{isSet && (
						<div
							className="absolute top-0.5 h-5 bg-accent-soft"
							style={{ left: `${low * 100}%`, width: `${(high - low) * 100}%` }}
						/>
					)}
					<canvas ref={canvas} className="absolute inset-x-0 top-1.5 h-3.5 w-full" aria-hidden />
					<div className="absolute inset-x-0 top-5 h-px bg-line" />
					{(["low", "high"] as const).map((end) => (
						<Handle
							key={end}
							name={`${row.name}, ${end === "low" ? "at least" : "at most"}`}
							place={end === "low" ? low : high}
							number={ends[end]}
							unit={unit}
							onGrab={() => {
								latest.current = ends;
								setDrag(end);
							}}
							onMove={follow}
							onRelease={release}
							onKey={(e) => onKey(end, e)}
						/>
					))}
				</div>
				<AxisTexts axis={axis} ends={ends} low={low} high={high} unit={unit} />
				{isSet && <EndTexts ends={ends} low={low} high={high} unit={unit} />}
			</div>
		</div>
	);
}

/** How far a key moves a handle, as a share of the axis. */
const STEPS: Readonly<Record<string, number>> = {
	ArrowLeft: -0.01,
	ArrowDown: -0.01,
	ArrowRight: 0.01,
	ArrowUp: 0.01,
	PageDown: -0.1,
	PageUp: 0.1,
};

type HandleProps = {
	name: string;
	/** Its place on the axis, 0 to 1. */
	place: number;
	/** The limit in SI; null: open. */
	number: number | null;
	unit: string;
	onGrab: () => void;
	onMove: (e: PointerEvent) => void;
	onRelease: () => void;
	onKey: (e: KeyboardEvent) => void;
};

/** One end of a span. */
function Handle({ name, place, number, unit, onGrab, onMove, onRelease, onKey }: HandleProps) {
	return (
		<div
			role="slider"
			tabIndex={0}
			aria-label={name}
			aria-valuemin={0}
			aria-valuemax={100}
			aria-valuenow={Math.round(place * 100)}
			aria-valuetext={number === null ? "open" : `${numberIn(number, unit)} ${plainUnit(unit)}`}
			title={number === null ? `${name}: open` : `${name} ${numberIn(number, unit)} ${plainUnit(unit)}`}
			className={`absolute -top-px h-6.5 w-2.75 -ml-1.5 cursor-ew-resize touch-none after:absolute after:left-1 after:inset-y-0 after:w-0.5 ${number === null ? "after:bg-transparent hover:after:bg-primary/50 group-hover:after:bg-line focus:after:bg-primary" : "after:bg-primary"}`}
			style={{ left: `${place * 100}%` }}
			onPointerDown={(e) => {
				e.stopPropagation();
				e.currentTarget.setPointerCapture(e.pointerId);
				onGrab();
			}}
			onPointerMove={onMove}
			onPointerUp={onRelease}
			onPointerCancel={onRelease}
			onKeyDown={onKey}
		/>
	);
}

/** An end of an axis; a very small one by its power of ten. */
function endText(si: number, unit: string, digits: number): string {
	const number = fromSi(si, unitOf(unit));
	return number === 0 || Math.abs(number) >= 1e-4 ? numberIn(si, unit, digits) : plainUnit(typeset(number.toExponential(1)));
}

type EndProps = { ends: Ends; low: number; high: number; unit: string };

/** The ends of the axis; a number at a handle near by takes the place of one. */
function AxisTexts({ axis, ends, low, high, unit }: EndProps & { axis: StripAxis }) {
	return (
		<>
			{(ends.low === null || low > 0.08) && (
				<span className="absolute left-0 top-6 text-xs leading-3.75 text-ink2">{endText(axis.low, unit, 2)}</span>
			)}
			{(ends.high === null || high < 0.92) && (
				<span className="absolute right-0 top-6 text-xs leading-3.75 text-ink2">{endText(axis.high, unit, 3)}</span>
			)}
		</>
	);
}

/** The numbers at the handles, under the axis; close together they become one text. */
function EndTexts({ ends, low, high, unit }: EndProps) {
	const texts = [
		{ at: low, text: ends.low },
		{ at: high, text: ends.high },
	].filter((t) => t.text !== null);
	const near = high - low < 0.12 && texts.length === 2;
	const shown = near
		? [{ at: (low + high) / 2, text: `${numberIn(ends.low as number, unit)}–${numberIn(ends.high as number, unit)}` }]
		: texts.map(({ at, text }) => ({ at, text: numberIn(text as number, unit) }));
	return shown.map(({ at, text }) => (
		<span
			key={at}
			className="absolute top-6 text-xs leading-3.75 font-bold text-primary bg-card px-0.75 whitespace-nowrap -translate-x-1/2"
			style={{ left: `${Math.min(Math.max(at, 0.03), 0.97) * 100}%` }}
		>
			{text}
		</span>
	));
}

function StripLabel({ row, unit, axis, onScale, onRemove }: Props) {
	return (
		<div className="shrink-0 leading-3.75 pt-1.5 pr-2.5" style={{ width: LABEL_WIDTH }}>
			<div className="flex items-center gap-0.5">
				<span className="font-bold text-sm truncate" title={row.name}>
					{row.name}
				</span>
				<button
					type="button"
					className="text-ink3 hover:text-ink p-0.5 opacity-0 group-hover:opacity-100 focus:opacity-100"
					aria-label={`Remove the strip of ${row.name}`}
					onClick={onRemove}
				>
					<X size={11} aria-hidden />
				</button>
			</div>
			<div className="text-xs text-ink2 whitespace-nowrap">
				{row.symbol !== "" && <SymbolText symbol={row.symbol} />}
				{row.symbol !== "" && (plainUnit(unit) !== "" || axis !== null) && ", "}
				{plainUnit(unit)}
				{plainUnit(unit) !== "" && axis !== null && ", "}
				{axis !== null && (
					<button
						type="button"
						className="hover:text-ink underline decoration-dotted underline-offset-2"
						aria-label={`Axis of ${row.name}: ${axis.log ? "logarithmic, make it linear" : "linear, make it logarithmic"}`}
						disabled={axis.low <= 0}
						onClick={onScale}
					>
						{axis.log ? "log" : "linear"}
					</button>
				)}
			</div>
		</div>
	);
}

/** Draws counts by pixel: dark where materials pass, pale where another filter keeps them out. */
function useTicks({ columns, axis, fails, turn, row, width }: Props) {
	const canvas = useRef<HTMLCanvasElement>(null);
	// biome-ignore lint/correctness/useExhaustiveDependencies: `turn` stands for the content of `fails`
	useEffect(() => {
		const spans = columns.columns.get(row.id);
		const target = canvas.current;
		if (target === null || axis === null || spans === undefined || width <= 0) return;
		const scale = Math.min(window.devicePixelRatio || 1, 2);
		target.width = Math.round(width * scale);
		target.height = Math.round(14 * scale);
		const context = target.getContext("2d");
		if (context === null) return;
		const bins = binStrip({ spans, rows: columns.rows, fails }, axis, target.width);
		const style = getComputedStyle(target);
		const [ink, pale] = [style.getPropertyValue("--ink"), style.getPropertyValue("--ink3")];
		drawCounts(context, bins.others, { colour: pale, most: 0.45, height: target.height });
		drawCounts(context, bins.passing, { colour: ink, most: 1, height: target.height });
	}, [columns, axis, turn, row.id, width]);
	return canvas;
}

/** One column of pixels a count; how dark goes by its logarithm, so that one material is seen beside a thousand. */
function drawCounts(
	context: CanvasRenderingContext2D,
	counts: Uint32Array,
	{ colour, most, height }: { readonly colour: string; readonly most: number; readonly height: number },
): void {
	let highest = 1;
	for (const n of counts) if (n > highest) highest = n;
	context.fillStyle = colour;
	const full = Math.log1p(highest);
	for (let x = 0; x < counts.length; x++) {
		const n = counts[x];
		if (n === undefined || n === 0) continue;
		context.globalAlpha = most * (0.4 + 0.6 * (Math.log1p(n) / full));
		context.fillRect(x, 0, 1, height);
	}
}
