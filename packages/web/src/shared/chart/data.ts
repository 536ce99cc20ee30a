import { flowStress, increasing, interpolate, type Points } from "@alvek/core/curve";
import {
	derivedForms,
	engineeringForm,
	firstForm,
	type Material,
	memberPoints,
	members,
	modelNumbers,
	rowPoints,
	type SeriesValue,
	workingOf,
} from "@alvek/core/material";
import { inSentence, type UnitSetId } from "@alvek/core/property";
import { fromSi, unitOf } from "@alvek/core/quantity";
import { inUnit, plainUnit } from "../../ui/Quantity";
import { columnInfo } from "./columns";

export type ChartLine = {
	readonly name: string;
	readonly kind: "measured" | "derived" | "band" | "model";
	readonly member: number;
	/** Points as they stand, in the units on screen. */
	readonly points: Points;
	/** The line between them as it is interpolated. */
	readonly line: Points;
};

export type ChartData = {
	readonly lines: readonly ChartLine[];
	readonly x: { readonly name: string; readonly unit: string };
	readonly y: { readonly name: string; readonly unit: string };
	readonly members: readonly string[];
	readonly method: string;
};

const DENSE = 160;

/** The lines of a table or a curve in the units on screen: each member as measured, and what is derived from it. */
export function chartData(
	value: SeriesValue,
	material: Material,
	shown: "derived" | "as entered",
	unitSet: UnitSetId,
): ChartData {
	const [xColumn, yColumn] = [value.columns.at(-2), value.columns.at(-1)];
	if (xColumn === undefined || yColumn === undefined) throw new Error("a series has two columns at least");
	const x = columnInfo(value.property, xColumn.of);
	const y = columnInfo(value.property, yColumn.of);
	const [xUnit, yUnit] = [unitOf(x.units[unitSet]), unitOf(y.units[unitSet])];
	const onScreen = (points: Points): Points => ({
		x: points.x.map((v) => fromSi(v, xUnit)),
		y: points.y.map((v) => fromSi(v, yUnit)),
	});
	const conditions = value.columns.slice(0, -2).map((c) => ({ info: columnInfo(value.property, c.of) }));
	const all = members(value);
	const names = all.map((m) =>
		m.at
			.map((si, i) => {
				const info = conditions[i]?.info;
				return info === undefined ? "" : `${inUnit(si, info, unitSet)} ${plainUnit(info.units[unitSet])}`;
			})
			.join(", "),
	);
	const lines: ChartLine[] = all.map((m, i) => {
		const raw = memberPoints(value, m);
		const points = value.columns.length === 2 && value.kind === "table" ? rowPoints(value) : { x: raw.x, y: raw.y };
		return {
			name: names[i] || "as measured",
			kind: "measured",
			member: i,
			points: onScreen(points),
			line: onScreen(between(points, value)),
		};
	});
	if (yColumn.high !== undefined && value.columns.length === 2) {
		for (const end of ["low", "high"] as const) {
			const points = rowPoints(value, end);
			lines.push({
				name: `${end} end`,
				kind: "band",
				member: 0,
				points: { x: [], y: [] },
				line: onScreen(between(points, value)),
			});
		}
	}
	if (shown === "derived" && value.property === "stress_strain") {
		for (const [i, d] of derivedForms(material, value).entries()) {
			if (d.flow === null || value.header.strain === "plastic-true") continue;
			const suffix = names[i] ? `, ${names[i]}` : "";
			lines.push({
				name: `true stress over plastic strain${suffix}`,
				kind: "derived",
				member: i,
				points: { x: [], y: [] },
				line: onScreen(between(d.flow, value)),
			});
		}
	}
	if (shown === "derived" && value.property === "stress_strain") {
		const model = modelLine(value, material);
		if (model !== null) lines.push({ ...model, line: onScreen(model.line) });
	}
	if (shown === "derived") {
		for (const [i, m] of all.entries()) {
			const form = engineeringForm(value, m);
			if (form === null) continue;
			const suffix = names[i] ? `, ${names[i]}` : "";
			const points = between({ x: form.strain, y: form.stress }, value);
			lines.push({ name: `engineering${suffix}`, kind: "derived", member: i, points: { x: [], y: [] }, line: onScreen(points) });
		}
	}
	const method = value.interpolation === "pchip" ? "PCHIP between points" : "straight lines between points";
	return {
		lines,
		x: { name: inSentence(x.name), unit: plainUnit(x.units[unitSet]) },
		y: { name: inSentence(y.name), unit: plainUnit(y.units[unitSet]) },
		members: names,
		method,
	};
}

/** Places along the strain that a model is drawn at. */
const MODEL_PLACES = 120;

/** The plasticity model of the same material over plastic strain, as far as the curves reach: beside the data that it stands for. */
function modelLine(value: SeriesValue, material: Material): ChartLine | null {
	const model = firstForm(material, "plasticity_model", "model");
	if (model?.kind !== "model") return null;
	const plastic = value.header.strain === "plastic-true";
	const reach = plastic
		? (value.columns.at(-2)?.si ?? [])
		: derivedForms(material, value).flatMap((d) => d.flow?.x.slice(-1) ?? []);
	const end = reach.reduce((most, x) => Math.max(most, x), 0);
	if (end === 0) return null;
	const modulus = workingOf(material, "youngs_modulus");
	const numbers = modelNumbers(model);
	const points = Array.from({ length: MODEL_PLACES + 1 }, (_, i) => (end * i) / MODEL_PLACES).flatMap((x) => {
		const y = flowStress(model.form, numbers, x, modulus);
		return y === null ? [] : [[x, y] as const];
	});
	if (points.length < 2) return null;
	const line = { x: points.map((p) => p[0]), y: points.map((p) => p[1]) };
	return { name: "plasticity model", kind: "model", member: 0, points: { x: [], y: [] }, line };
}

/** The line between points; a wandering measurement keeps its own order and is joined straight. */
function between(points: Points, value: SeriesValue): Points {
	const rising = increasing(points.x, points.y, value.kind === "table" ? "sorted" : "as measured");
	if (value.interpolation === "linear" || rising.x.length !== points.x.length || rising.x.length < 3)
		return rising.x.length === points.x.length ? rising : points;
	const [first, last] = [rising.x[0] as number, rising.x.at(-1) as number];
	const log = value.property === "sn_curve" && first > 0;
	const at = (t: number): number => (log ? first * (last / first) ** t : first + t * (last - first));
	const x = [...new Set([...Array.from({ length: DENSE + 1 }, (_, i) => at(i / DENSE)), ...rising.x])]
		.sort((a, b) => a - b)
		.filter((v) => v >= first && v <= last);
	return { x, y: x.map((v) => interpolate(rising, v, "pchip")?.y ?? 0) };
}

/** All lines as rows for a spreadsheet, units in the heading. */
export function chartText(data: ChartData): string {
	const blocks = data.lines
		.filter((l) => l.kind !== "band")
		.map((l) => {
			const points = l.points.x.length > 0 ? l.points : l.line;
			return [
				`${l.name}`,
				`${data.x.name} [${data.x.unit || "1"}]\t${data.y.name} [${data.y.unit || "1"}]`,
				...points.x.map((x, i) => `${x}\t${points.y[i]}`),
			].join("\n");
		});
	return blocks.join("\n\n");
}
