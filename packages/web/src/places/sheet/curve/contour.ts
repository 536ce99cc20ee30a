import { type Field, isoline, type Piece, roundLevels } from "@alvek/core/curve";
import { memberPoints, members, type SeriesValue } from "@alvek/core/material";
import { inSentence, type UnitSetId } from "@alvek/core/property";
import { fromSi, unitOf } from "@alvek/core/quantity";
import { columnInfo } from "../../../shared/chart/columns";
import { plainUnit } from "../../../ui/Quantity";

type Axis = { readonly name: string; readonly unit: string };

export type ContourData = {
	readonly x: Axis;
	/** The condition that the curves differ in. */
	readonly y: Axis;
	readonly of: Axis;
	readonly levels: readonly { readonly level: number; readonly pieces: readonly Piece[] }[];
	/** Where the points stand, on screen. */
	readonly points: readonly (readonly [number, number])[];
};

/** Places along each axis that heights are worked out at. */
const FINE = 61;

/** Heights between lines, about. */
const LEVELS = 8;

/** Can it be drawn over two conditions? Two columns run, and there are curves to go between. */
export const hasContour = (value: SeriesValue): boolean => value.columns.length === 3 && members(value).length > 1;

/**
 * Lines of equal height over both conditions, in the units on screen: straight between the points of a curve, and straight
 * from curve to curve; nothing beyond where the curves reach.
 */
export function contourData(value: SeriesValue, unitSet: UnitSetId): ContourData {
	const infos = value.columns.map((c) => columnInfo(value.property, c.of));
	const units = infos.map((i) => unitOf(i.units[unitSet]));
	const shown = (si: number, n: number): number => fromSi(si, units[n] as (typeof units)[number]);
	const curves = members(value)
		.map((m) => {
			const { x, y } = memberPoints(value, m);
			const points = x.map((v, i) => [shown(v, 1), shown(y[i] as number, 2)] as const).sort((a, b) => a[0] - b[0]);
			return { at: shown(m.at[0] as number, 0), points };
		})
		.sort((a, b) => a.at - b.at);
	const all = curves.flatMap((c) => c.points);
	const field = fieldOf(curves);
	const heights = all.map((p) => p[1]);
	const levels = roundLevels(least(heights), most(heights), LEVELS);
	const axis = (n: number): Axis => ({
		name: inSentence(infos[n]?.name ?? ""),
		unit: plainUnit(infos[n]?.units[unitSet] ?? ""),
	});
	return {
		x: axis(1),
		y: axis(0),
		of: axis(2),
		levels: levels.map((level) => ({ level, pieces: isoline(field, level) })),
		points: curves.flatMap((c) => c.points.map((p) => [p[0], c.at] as const)),
	};
}

type Curve = { readonly at: number; readonly points: readonly (readonly [number, number])[] };

function fieldOf(curves: readonly Curve[]): Field {
	const xs = curves.flatMap((c) => c.points.map((p) => p[0]));
	const ats = curves.map((c) => c.at);
	// the conditions of the curves themselves are among the places, so that nothing measured is smoothed over
	const ys = [...new Set([...spread(least(ats), most(ats)), ...ats])].sort((a, b) => a - b);
	const across = spread(least(xs), most(xs));
	return { xs: across, ys, z: ys.map((y) => across.map((x) => heightAt(curves, x, y))) };
}

function heightAt(curves: readonly Curve[], x: number, at: number): number | null {
	const n = curves.findIndex((c) => c.at >= at);
	const above = curves[n];
	if (above === undefined) return null;
	const top = along(above.points, x);
	if (above.at === at || n === 0) return top;
	const below = curves[n - 1] as Curve;
	const bottom = along(below.points, x);
	if (top === null || bottom === null) return null;
	return bottom + ((top - bottom) * (at - below.at)) / (above.at - below.at);
}

/** Straight between points; null beyond them. */
function along(points: Curve["points"], x: number): number | null {
	const n = points.findIndex((p) => p[0] >= x);
	const right = points[n];
	if (right === undefined) return null;
	if (right[0] === x) return right[1];
	const left = points[n - 1];
	if (left === undefined) return null;
	return left[1] + ((right[1] - left[1]) * (x - left[0])) / (right[0] - left[0]);
}

const spread = (low: number, high: number): number[] =>
	Array.from({ length: FINE }, (_, i) => (i === FINE - 1 ? high : low + ((high - low) * i) / (FINE - 1)));
const least = (list: readonly number[]): number => list.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY);
const most = (list: readonly number[]): number => list.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY);
