import type { ChartOptions } from "chart.js";

/** Colours of the theme, read for the canvas. */
export type Colours = {
	readonly ink: string;
	readonly ink2: string;
	readonly line: string;
	readonly accent: string;
	readonly card: string;
	readonly soft: string;
};

export function coloursOf(_theme: string): Colours {
	const style = getComputedStyle(document.documentElement);
	const read = (name: string): string => style.getPropertyValue(name).trim();
	return {
		ink: read("--ink"),
		ink2: read("--ink2"),
		line: read("--line2"),
		accent: read("--color-primary"),
		card: read("--card"),
		soft: read("--accent-soft"),
	};
}

/** Dashes part the members of a family, so that colour never speaks alone. */
export const DASHES = [[], [6, 3], [2, 3], [8, 3, 2, 3]];

export const FONT = { family: "Commissioner, sans-serif", size: 11 };

type AxisTitle = { readonly name: string; readonly unit: string };

/** Axes with name and unit; only the horizontal lines of a grid. */
/** How the axis below is divided. */
export type XScale = "linear" | "logarithmic";

export function scalesOf(x: AxisTitle, y: AxisTitle, c: Colours, scale: XScale): NonNullable<ChartOptions<"scatter">["scales"]> {
	const title = (axis: AxisTitle) => ({
		display: true,
		text: axis.unit === "" ? axis.name : `${axis.name}, ${axis.unit}`,
		color: c.ink2,
	});
	return {
		x: {
			type: scale,
			title: { ...title(x), font: FONT },
			grid: { display: false },
			ticks: { color: c.ink2, font: FONT },
			border: { color: c.ink2 },
		},
		y: {
			type: "linear",
			title: { ...title(y), font: FONT },
			grid: { color: c.line },
			ticks: { color: c.ink2, font: FONT },
			border: { display: false },
		},
	};
}
