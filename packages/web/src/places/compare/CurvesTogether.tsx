import {
	derivedForms,
	isSeries,
	type Material,
	members,
	memberTemperature,
	type SeriesValue,
	valuesOf,
} from "@alvek/core/material";
import { FORMS, formById } from "@alvek/core/property";
import { fromSi, unitOf } from "@alvek/core/quantity";
import {
	Chart as ChartJs,
	type ChartOptions,
	LinearScale,
	LineElement,
	LogarithmicScale,
	PointElement,
	ScatterController,
	Tooltip,
} from "chart.js";
import { useMemo, useState } from "react";
import { Scatter } from "react-chartjs-2";
import { chartData } from "../../shared/chart/data";
import { type Colours, coloursOf, DASHES, FONT, scalesOf, type XScale } from "../../shared/chart/style";
import { usePreferences, useUnitSet } from "../../stores/preferences";
import { readable } from "../../ui/colour";
import { type Column, labelOf } from "./useCompared";

ChartJs.register(ScatterController, LinearScale, LogarithmicScale, PointElement, LineElement, Tooltip);

type Line = {
	readonly key: string;
	readonly name: string;
	readonly form: string;
	readonly colour: string;
	readonly dash: number[];
	readonly points: readonly { readonly x: number; readonly y: number }[];
};

/** The second form in which stress-strain curves of different kinds can be laid over each other. */
const FLOW = "stress_strain:flow";

/** Curves of all materials in one chart, a kind of curve at a time. */
export function CurvesTogether({ columns }: { columns: readonly Column[] }) {
	const unitSet = useUnitSet();
	const theme = usePreferences((s) => s.theme);
	const kinds = FORMS.filter((f) => f.kind === "curve" && columns.some((c) => curveOf(c.material, f.id) !== null));
	const [chosen, setChosen] = useState<string | null>(null);
	const kind = chosen ?? kinds[0]?.id ?? null;
	const colours = useMemo(() => coloursOf(theme), [theme]);
	const form = kind === FLOW ? "stress_strain" : kind;
	const drawn = useMemo(
		() => (form === null ? null : linesOf(columns, { form, flow: kind === FLOW }, unitSet, colours)),
		[columns, form, kind, unitSet, colours],
	);
	if (kind === null || form === null || drawn === null) return <p className="caption">None of them carries a curve.</p>;
	return (
		<figure>
			<label className="block mb-1">
				<span className="sr-only">Kind of curve</span>
				<select className="bg-transparent font-bold text-md -ml-1" value={kind} onChange={(e) => setChosen(e.target.value)}>
					{kinds.map((k) => (
						<option key={k.id} value={k.id} className="bg-card">
							{k.name}
						</option>
					))}
					{kinds.some((k) => k.id === "stress_strain") && (
						<option value={FLOW} className="bg-card">
							True stress over plastic strain
						</option>
					)}
				</select>
			</label>
			<div className="h-52.5 relative">
				<Scatter
					role="img"
					aria-label={`${formById(form)?.name ?? form} of ${drawn.lines.map((l) => l.name).join(", ")}`}
					data={{
						datasets: drawn.lines.map((l) => ({
							label: l.name,
							data: [...l.points],
							showLine: true,
							borderColor: l.colour,
							borderDash: l.dash,
							borderWidth: 2,
							pointRadius: 0,
						})),
					}}
					options={options(drawn.x, drawn.y, colours, form === "sn_curve" ? "logarithmic" : "linear")}
				/>
			</div>
			<ul className="mt-1.5">
				{drawn.lines.map((l) => (
					<li key={l.key} className="flex items-baseline flex-wrap gap-x-2 py-px">
						<svg aria-hidden="true" width="24" height="6" className="shrink-0 self-center">
							<title>{l.name}</title>
							<line x1="0" y1="3" x2="24" y2="3" stroke={l.colour} strokeWidth="2" strokeDasharray={l.dash.join(" ")} />
						</svg>
						<span className="font-semibold truncate">{l.name}</span>
						<span className="caption">{l.form}</span>
					</li>
				))}
			</ul>
			{drawn.notes.map((note) => (
				<p key={note} className="caption mt-1">
					{note}
				</p>
			))}
		</figure>
	);
}

function curveOf(material: Material, form: string): SeriesValue | null {
	const found = valuesOf(material, form).find((v) => v.kind === "curve");
	return found !== undefined && isSeries(found) ? found : null;
}

/** One line a material: of a family the member nearest to 20 °C. */
function linesOf(
	columns: readonly Column[],
	{ form, flow }: { readonly form: string; readonly flow: boolean },
	unitSet: ReturnType<typeof useUnitSet>,
	colours: Colours,
) {
	const lines: Line[] = [];
	const notes: string[] = [];
	let axes = { x: { name: "", unit: "" }, y: { name: "", unit: "" } };
	for (const [i, column] of columns.entries()) {
		const { key, material } = column;
		const name = labelOf(column, columns);
		const value = curveOf(material, form);
		const shown = formById(form);
		if (value === null) {
			notes.push(`${name} has no ${shown?.name.toLowerCase() ?? "curve"}.`);
			continue;
		}
		const data = chartData(value, material, "as entered", unitSet);
		axes = { x: data.x, y: data.y };
		const style = { key, name, colour: readable(material.colour, colours.card), dash: DASHES[i % DASHES.length] ?? [] };
		const measured = data.lines.filter((l) => l.kind === "measured");
		const at = nearest(value, measured.length);
		const member = measured.find((l) => l.member === at) ?? measured[0];
		const said = [value.header.stress, value.header.strain, measured.length > 1 ? member?.name : ""].filter(Boolean).join(", ");
		if (!flow) {
			if (member === undefined) continue;
			const points = member.line.x.map((x, n) => ({ x, y: member.line.y[n] as number }));
			lines.push({ ...style, form: said === "" ? "form unspecified" : said, points });
			continue;
		}
		const derived = derivedForms(material, value)[at];
		if (derived?.flow == null) {
			notes.push(`${name}: ${derived?.missing ?? "no flow curve"}.`);
			continue;
		}
		const unit = unitOf(unitSet === "us" ? "ksi" : unitSet === "base" ? "Pa" : "MPa");
		const { x, y } = derived.flow;
		lines.push({ ...style, form: "true, plastic", points: x.map((e, n) => ({ x: e * 100, y: fromSi(y[n] as number, unit) })) });
		axes = { x: { name: "plastic strain", unit: "%" }, y: { ...data.y, name: "true stress" } };
	}
	const forms = new Set(lines.map((l) => l.form));
	if (!flow && form === "stress_strain" && forms.size > 1)
		notes.push("Their forms differ; choose true stress over plastic strain to lay them on one scale.");
	return { lines, notes, ...axes };
}

function nearest(value: SeriesValue, count: number): number {
	let best = 0;
	const distances = Array.from({ length: count }, (_, i) => {
		const members = memberTemperatures(value);
		return Math.abs((members[i] ?? 293.15) - 293.15);
	});
	for (const [i, d] of distances.entries()) if (d < (distances[best] ?? 0)) best = i;
	return best;
}

function memberTemperatures(value: SeriesValue): readonly (number | null)[] {
	return members(value).map((m) => memberTemperature(value, m));
}

function options(
	x: { name: string; unit: string },
	y: { name: string; unit: string },
	c: Colours,
	scale: XScale,
): ChartOptions<"scatter"> {
	return {
		animation: false,
		maintainAspectRatio: false,
		interaction: { mode: "nearest", axis: "x", intersect: false },
		font: FONT,
		scales: scalesOf(x, y, c, scale),
		plugins: { legend: { display: false }, tooltip: { displayColors: false, titleFont: FONT, bodyFont: FONT } },
	};
}
