import type { SeriesValue } from "@alvek/core/material";
import { Chart as ChartJs, Legend, LinearScale, LineElement, PointElement, ScatterController, Tooltip } from "chart.js";
import { useMemo } from "react";
import { Scatter } from "react-chartjs-2";
import { type Colours, coloursOf, DASHES, FONT, scalesOf } from "../../../shared/chart/style";
import { usePreferences, useUnitSet } from "../../../stores/preferences";
import { type ContourData, contourData } from "./contour";

ChartJs.register(ScatterController, LinearScale, PointElement, LineElement, Tooltip, Legend);

/** Lines of equal height over both conditions; dots stand where there are points. */
export function ContourChart({ value }: { value: SeriesValue }) {
	const unitSet = useUnitSet();
	const theme = usePreferences((s) => s.theme);
	const data = useMemo(() => contourData(value, unitSet), [value, unitSet]);
	const colours = useMemo(() => coloursOf(theme), [theme]);
	const { of, levels } = data;
	const unit = of.unit === "" ? "" : ` ${of.unit}`;
	return (
		<figure>
			<div className="h-107.5 relative">
				<Scatter
					aria-label={`${of.name} over ${data.x.name} and ${data.y.name}: lines at ${levels.map((l) => l.level).join(", ")}${unit}`}
					role="img"
					data={{ datasets: datasets(data, unit, colours) }}
					options={{
						animation: false,
						maintainAspectRatio: false,
						scales: scalesOf(data.x, data.y, colours, "linear"),
						plugins: {
							legend: {
								position: "right",
								reverse: true,
								labels: { color: colours.ink, font: FONT, boxWidth: 22, boxHeight: 0, filter: (item) => item.text !== "" },
							},
							tooltip: {
								displayColors: false,
								filter: (item) => item.dataset.label !== "",
								callbacks: { label: (item) => String(item.dataset.label) },
							},
						},
					}}
				/>
			</div>
			<figcaption className="caption mt-1.5">
				Straight between points and from curve to curve; nothing beyond them.
				{levels.length === 0 && " All heights are one, so there is no line to draw."}
			</figcaption>
		</figure>
	);
}

/** One line a level, pale to dark, and broken between its pieces; the dots of the points. */
function datasets({ levels, points }: ContourData, unit: string, c: Colours) {
	const gap = { x: Number.NaN, y: Number.NaN };
	const lines = levels.map(({ level, pieces }, n) => ({
		label: `${level}${unit}`,
		data: pieces.flatMap(([[x0, y0], [x1, y1]]) => [{ x: x0, y: y0 }, { x: x1, y: y1 }, gap]),
		showLine: true,
		spanGaps: false,
		borderColor: c.accent,
		borderWidth: 0.9 + (2 * n) / Math.max(1, levels.length - 1),
		borderDash: DASHES[n % 2] ?? [],
		pointRadius: 0,
		pointHitRadius: 4,
	}));
	const dots = {
		label: "",
		data: points.map(([x, y]) => ({ x, y })),
		showLine: false,
		spanGaps: false,
		borderColor: c.ink2,
		borderWidth: 1,
		borderDash: [],
		pointRadius: points.length > 300 ? 0 : 2,
		pointHitRadius: 0,
	};
	return [...lines, dots];
}
