import { increasing, interpolate, type Reading } from "../curve";
import { formById } from "../property";
import { type Member, memberPoints, rowPoints } from "./series";
import type { SeriesValue } from "./types";
import { holdsOutside, specOf } from "./value";

/** mu0 in T/(A/m): 4 pi 10^-7, good to 1e-9 since the SI of 2019. */
export const MU0 = 4e-7 * Math.PI;

/** What a curve gives at a place: a number inside, a held or continued one, or nothing. */
export type CurveReading = {
	readonly y: number;
	readonly how: "inside" | "held" | "vacuum-slope";
};

/**
 * Reads one member of a table or a curve at x (SI). Outside: elastic, density, k, cp and alpha hold their end value;
 * B of a B-H curve goes on with the slope mu0; everything else gives nothing.
 * @returns null where nothing is read
 */
export function readSeries(value: SeriesValue, member: Member, x: number): CurveReading | null {
	const raw = memberPoints(value, member);
	const points = value.columns.length === 2 ? rowPoints(value) : increasing(raw.x, raw.y);
	const reading = interpolate(points, x, value.interpolation);
	if (reading === null) return null;
	if (reading.side === "inside") return { y: reading.y, how: "inside" };
	return beyond(value, reading, x, points.x.at(-1) ?? x);
}

function beyond(value: SeriesValue, reading: Reading, x: number, last: number): CurveReading | null {
	if (value.kind === "table") return holdsOutside(specOf(value)) ? { y: reading.y, how: "held" } : null;
	const form = formById(value.property);
	const outside = form?.kind === "curve" ? form.outside : "refuse";
	if (outside === "hold") return { y: reading.y, how: "held" };
	// a polarisation has reached its saturation there, a flux density goes on as in vacuum
	if (outside !== "vacuum-slope" || reading.side !== "above") return null;
	return value.header.quantity === "J" ? { y: reading.y, how: "held" } : { y: reading.y + MU0 * (x - last), how: "vacuum-slope" };
}
