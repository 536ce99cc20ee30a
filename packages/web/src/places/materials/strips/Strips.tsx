import { writeList } from "@alvek/contract";
import { isNumber, type Material, valuesOf, type Where, workingOf } from "@alvek/core/material";
import { type PackedColumns, placeOn, type StripAxis, stripAxis } from "@alvek/core/table";
import { useMemo, useRef, useState } from "react";
import { useRoute } from "../../../api/queries";
import { useUnitSet } from "../../../stores/preferences";
import { useTray } from "../../../stores/tray";
import { useWidth } from "../../../ui/useWidth";
import type { ChangeView, GridView, StripChoice } from "../view";
import { type OwnRows, rowOfProperty } from "../words";
import { LABEL_WIDTH, STRIP_HEIGHT, Strip } from "./Strip";
import { type Ends, failing, passing, withSpan } from "./spans";

const OPEN: Ends = { low: null, high: null };

/** Axes of chosen properties above the grid. While a span is dragged the counts follow here; the grid follows when it rests. */
export function Strips(props: {
	view: GridView;
	change: ChangeView;
	/** Those whose property is known here. */
	strips: readonly StripChoice[];
	/** Undefined until they are here. */
	columns: PackedColumns | undefined;
	own: OwnRows;
	/** How many rows pass while something is dragged; null at rest. */
	onCount: (count: number | null) => void;
}) {
	const { view, change, strips, columns, own, onCount } = props;
	const unitSet = useUnitSet();
	const [box, width] = useWidth();
	const [dragged, setDragged] = useState<readonly Where[] | null>(null);
	const where = dragged ?? view.where;
	const axes = useAxes(columns, strips);
	const fails = useFails(columns, where);
	const axisWidth = Math.max(120, width - LABEL_WIDTH - 28);
	if (strips.length === 0) return null;
	const setSpan = (id: string, ends: Ends): readonly Where[] => withSpan(view.where, id, ends);
	const scale = (strip: StripChoice): void =>
		change({ strips: view.strips.map((s) => (s === strip ? { ...s, log: !axes.get(s.id)?.log } : s)) });
	return (
		<section ref={box} aria-label="Strips" className="relative shrink-0 pl-3.5 pr-3.5 pb-1 select-none">
			{columns === undefined ? (
				<div style={{ height: STRIP_HEIGHT * strips.length }} role="status" aria-label="Strips on the way" />
			) : (
				<>
					{strips.map((strip) => {
						const row = rowOfProperty(strip.id, own);
						if (row === undefined) return null;
						return (
							<Strip
								key={strip.id}
								row={row}
								unit={view.columns.find((c) => c.id === strip.id)?.unit ?? row.units[unitSet]}
								columns={columns}
								axis={axes.get(strip.id) ?? null}
								fails={fails.bytes}
								turn={fails.turn}
								width={axisWidth}
								ends={where.find((w) => w.property === strip.id) ?? OPEN}
								onDrag={(ends) => {
									const next = setSpan(strip.id, ends);
									setDragged(next);
									onCount(passing(failing(columns, next, fails.bytes)));
								}}
								onSettle={(ends) => {
									setDragged(null);
									onCount(null);
									change({ where: setSpan(strip.id, ends) });
								}}
								onScale={() => scale(strip)}
								onRemove={() => change({ strips: view.strips.filter((s) => s !== strip) })}
							/>
						);
					})}
					<TrayLines strips={strips} axes={axes} width={axisWidth} />
				</>
			)}
		</section>
	);
}

function useAxes(columns: PackedColumns | undefined, strips: readonly StripChoice[]): ReadonlyMap<string, StripAxis> {
	const key = strips.map((s) => `${s.id} ${s.log}`).join();
	// biome-ignore lint/correctness/useExhaustiveDependencies: the strips are read anew from the address at each render
	return useMemo(
		() =>
			new Map(
				strips.flatMap((s): (readonly [string, StripAxis])[] => {
					const spans = columns?.columns.get(s.id);
					const axis = columns === undefined || spans === undefined ? null : stripAxis(spans, columns.rows, s.log);
					return axis === null ? [] : [[s.id, axis]];
				}),
			),
		[columns, key],
	);
}

/** One byte a row, kept from one drag step to the next. */
function useFails(columns: PackedColumns | undefined, where: readonly Where[]) {
	const turn = useRef(0);
	const bytes = useMemo(() => new Uint8Array(columns?.rows ?? 0), [columns]);
	const key = JSON.stringify(where);
	// biome-ignore lint/correctness/useExhaustiveDependencies: the spans by their content
	return useMemo(() => {
		if (columns !== undefined) failing(columns, where, bytes);
		turn.current++;
		return { bytes, turn: turn.current };
	}, [columns, bytes, key]);
}

/** Materials of the tray: a thick tick in their own colour on each strip, joined by a line. */
function TrayLines({
	strips,
	axes,
	width,
}: {
	strips: readonly StripChoice[];
	axes: ReadonlyMap<string, StripAxis>;
	width: number;
}) {
	const items = useTray((s) => s.items);
	const rows = useRoute("getMaterials", { ids: writeList(items.map((i) => i.id)) }, { enabled: items.length > 0 });
	if (items.length === 0) return null;
	const held = new Set(items.map((i) => i.id));
	return (
		<svg
			aria-hidden="true"
			className="absolute pointer-events-none overflow-visible"
			style={{ left: 14 + LABEL_WIDTH, top: 0, width, height: strips.length * STRIP_HEIGHT }}
		>
			<title>Materials of the tray</title>
			{(rows.data ?? [])
				.filter((r) => held.has(r.id))
				.map((row) => {
					const points = strips.map((strip, i): Point | null => {
						const axis = axes.get(strip.id);
						const number = numberOf(row.document, strip.id);
						if (axis === undefined || number === null) return null;
						return { id: strip.id, x: placeOn(axis, number) * width, y: i * STRIP_HEIGHT + 8 };
					});
					// a material without a number on a strip breaks its line there
					const joins = points.flatMap((from, i) => {
						const to = points[i + 1] ?? null;
						return from === null || to === null ? [] : [{ from, to }];
					});
					const { colour } = row.document;
					return (
						<g key={row.id}>
							{joins.map(({ from, to }) => (
								<line
									key={from.id}
									x1={from.x}
									y1={from.y + 14}
									x2={to.x}
									y2={to.y}
									stroke={colour}
									strokeWidth="1.5"
									strokeOpacity="0.75"
								/>
							))}
							{points.map((p) => p && <rect key={p.id} x={p.x - 2} y={p.y - 1} width="4" height="16" fill={colour} />)}
						</g>
					);
				})}
		</svg>
	);
}

type Point = { readonly id: string; readonly x: number; readonly y: number };

/** Where a material stands on a strip: the number it works with, or the end that it gives. */
function numberOf(material: Material, property: string): number | null {
	const working = workingOf(material, property);
	if (working !== null) return working;
	const value = valuesOf(material, property).find(isNumber);
	return value?.low ?? value?.high ?? null;
}
