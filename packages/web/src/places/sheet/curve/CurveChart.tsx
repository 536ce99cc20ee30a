import type { Material, SeriesValue } from "@alvek/core/material";
import {
	Chart as ChartJs,
	type ChartOptions,
	Filler,
	Legend,
	LinearScale,
	LineElement,
	LogarithmicScale,
	type Plugin,
	PointElement,
	ScatterController,
	Tooltip,
} from "chart.js";
import { Copy, ImageDown } from "lucide-react";
import { useMemo, useRef } from "react";
import { Scatter } from "react-chartjs-2";
import { type ChartLine, chartData, chartText } from "../../../shared/chart/data";
import { type Colours, coloursOf, DASHES, FONT, scalesOf, type XScale } from "../../../shared/chart/style";
import { usePreferences, useUnitSet } from "../../../stores/preferences";
import { showToast } from "../../../stores/toasts";
import { copyText, saveFile } from "../../../ui/copy";

ChartJs.register(ScatterController, LinearScale, LogarithmicScale, PointElement, LineElement, Tooltip, Legend, Filler);

type Props = {
	value: SeriesValue;
	material: Material;
	derived: boolean;
	member: number | null;
	onMember: (member: number | null) => void;
	focusedRow: number | null;
};

/** The points and what lies between them; hovering reads the curve anywhere. */
export function CurveChart({ value, material, derived, member, onMember, focusedRow }: Props) {
	const unitSet = useUnitSet();
	const theme = usePreferences((s) => s.theme);
	const chart = useRef<ChartJs<"scatter">>(null);
	const data = useMemo(
		() => chartData(value, material, derived ? "derived" : "as entered", unitSet),
		[value, material, derived, unitSet],
	);
	const colours = useMemo(() => coloursOf(theme), [theme]);
	const shown = data.lines.filter((l) => member === null || l.kind === "model" || l.member === member);
	const focus = useMemo(() => focusPoint(value, data.lines, focusedRow), [value, data.lines, focusedRow]);
	const title = `${data.y.name} over ${data.x.name}, ${shown.length} lines`;
	return (
		<figure>
			{data.members.length > 1 && (
				<div className="flex flex-wrap gap-1 mb-1.5" role="group" aria-label="Curves shown">
					<button
						type="button"
						aria-pressed={member === null}
						className={`btn btn-small ${member === null ? "bg-accent-soft! text-primary!" : ""}`}
						onClick={() => onMember(null)}
					>
						all {data.members.length}
					</button>
					{data.members.map((name, i) => (
						<button
							key={name}
							type="button"
							aria-pressed={member === i}
							className={`btn btn-small ${member === i ? "bg-accent-soft! text-primary!" : ""}`}
							onClick={() => onMember(i)}
						>
							{name}
						</button>
					))}
				</div>
			)}
			<div className="h-107.5 relative">
				<Scatter
					ref={chart}
					aria-label={title}
					role="img"
					data={{ datasets: datasets(shown, colours, focus) }}
					options={options(data, colours, value.property === "sn_curve" ? "logarithmic" : "linear")}
					plugins={[PROBE]}
				/>
			</div>
			<figcaption className="flex items-center gap-1.5 mt-1.5 caption">
				{data.method}
				<button
					type="button"
					className="btn btn-ghost btn-small ml-auto"
					onClick={() =>
						showToast({
							tone: "plain",
							text: copyText(chartText(data)) ? "The numbers are on the clipboard." : "The browser refused the clipboard.",
						})
					}
				>
					<Copy size={13} aria-hidden /> Copy data
				</button>
				<button
					type="button"
					className="btn btn-ghost btn-small"
					onClick={() => {
						const image = chart.current?.toBase64Image("image/png", 1);
						if (image !== undefined) saveFile(`${value.property}.png`, image);
					}}
				>
					<ImageDown size={13} aria-hidden /> Save as picture
				</button>
			</figcaption>
		</figure>
	);
}

/** A model is no measurement: its line is dotted whatever the theme. */
const MODEL_DASH = [1, 3];

function datasets(lines: readonly ChartLine[], c: Colours, focus: { x: number; y: number } | null) {
	const pairs = (p: { x: readonly number[]; y: readonly number[] }) => p.x.map((x, i) => ({ x, y: p.y[i] as number }));
	const out = lines.flatMap((l) => {
		const stroke = l.kind === "derived" ? c.accent : l.kind === "model" ? c.ink : c.ink2;
		const line = {
			label: l.name,
			data: pairs(l.line),
			showLine: true,
			borderColor: l.kind === "band" ? "transparent" : stroke,
			borderWidth: l.kind === "derived" ? 2.2 : 1.4,
			borderDash: l.kind === "model" ? MODEL_DASH : (DASHES[l.member % DASHES.length] ?? []),
			pointRadius: 0,
			pointHitRadius: 0,
			fill: l.kind === "band" && l.name === "high end" ? "-1" : false,
			backgroundColor: c.soft,
			order: l.kind === "band" ? 3 : 1,
		};
		if (l.points.x.length === 0) return [line];
		const points = {
			label: "",
			data: pairs(l.points),
			showLine: false,
			pointRadius: l.points.x.length > 300 ? 0 : 2.6,
			pointHoverRadius: 4,
			pointBackgroundColor: c.card,
			pointBorderColor: stroke,
			pointBorderWidth: 1.3,
			order: 0,
		};
		return [line, points];
	});
	if (focus !== null)
		out.push({
			label: "",
			data: [focus],
			showLine: false,
			pointRadius: 5,
			pointHoverRadius: 5,
			pointBackgroundColor: c.ink,
			pointBorderColor: c.ink,
			pointBorderWidth: 1,
			order: 0,
		});
	return out;
}

function focusPoint(value: SeriesValue, lines: readonly ChartLine[], row: number | null): { x: number; y: number } | null {
	const measured = lines.filter((l) => l.kind === "measured");
	if (row === null || value.kind !== "curve" || measured.length !== 1) return null;
	const x = measured[0]?.points.x[row];
	const y = measured[0]?.points.y[row];
	return x === undefined || y === undefined ? null : { x, y };
}

function options(
	{ x, y, method }: Pick<ReturnType<typeof chartData>, "x" | "y" | "method">,
	c: Colours,
	scale: XScale,
): ChartOptions<"scatter"> {
	return {
		animation: false,
		maintainAspectRatio: false,
		interaction: { mode: "nearest", axis: "x", intersect: false },
		font: FONT,
		scales: scalesOf(x, y, c, scale),
		plugins: {
			legend: {
				position: "top",
				align: "end",
				labels: {
					color: c.ink,
					font: FONT,
					boxWidth: 22,
					boxHeight: 0,
					filter: (item) => item.text !== "" && !item.text.endsWith(" end"),
				},
			},
			tooltip: {
				backgroundColor: c.ink,
				titleColor: c.card,
				bodyColor: c.card,
				footerColor: c.card,
				displayColors: false,
				titleFont: FONT,
				bodyFont: { ...FONT, weight: "bold" },
				footerFont: { ...FONT, weight: "normal" },
				filter: (item) => item.dataset.label !== "" && !String(item.dataset.label).endsWith(" end"),
				callbacks: {
					title: (items) => (items[0] === undefined ? "" : `at ${short(items[0].parsed.x ?? 0)} ${x.unit}`),
					label: (item) => `${short(item.parsed.y ?? 0)} ${y.unit}  ${item.dataset.label}`,
					footer: () => method,
				},
			},
		},
	};
}

function short(x: number): string {
	return String(Number(x.toPrecision(4)));
}

/** A dashed line down to the axis from where the curve is read. */
const PROBE: Plugin<"scatter"> = {
	id: "probe",
	afterDatasetsDraw(chart) {
		const active = chart.tooltip?.getActiveElements()[0];
		if (active === undefined || chart.tooltip?.opacity === 0) return;
		const { ctx, chartArea } = chart;
		ctx.save();
		ctx.setLineDash([3, 3]);
		ctx.strokeStyle = chart.options.color?.toString() ?? "#57686e";
		ctx.beginPath();
		ctx.moveTo(active.element.x, active.element.y);
		ctx.lineTo(active.element.x, chartArea.bottom);
		ctx.stroke();
		ctx.restore();
	},
};
