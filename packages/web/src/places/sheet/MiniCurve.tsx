import { isSeries, type MaterialValue, memberPoints, members } from "@alvek/core/material";

/** A curve as a small drawing, for a line; says nothing that the words beside it do not. */
export function MiniCurve({ value }: { value: MaterialValue }) {
	if (!isSeries(value) || (value.columns.at(-1)?.si.length ?? 0) < 2) return null;
	const curves = members(value).map((m) => memberPoints(value, m));
	const all = { x: curves.flatMap((c) => c.x), y: curves.flatMap((c) => c.y) };
	const [x0, x1, y0, y1] = [Math.min(...all.x), Math.max(...all.x), Math.min(...all.y), Math.max(...all.y)];
	const px = (x: number): number => 1 + (52 * (x - x0)) / (x1 - x0 || 1);
	const py = (y: number): number => 17 - (16 * (y - y0)) / (y1 - y0 || 1);
	return (
		<svg aria-hidden width="54" height="18" className="shrink-0 text-primary">
			{curves.map((c) => (
				<polyline
					key={`${c.x[0]} ${c.y[0]} ${c.x.length}`}
					fill="none"
					stroke="currentColor"
					strokeWidth="1.3"
					points={c.x.map((x, i) => `${px(x).toFixed(1)},${py(c.y[i] as number).toFixed(1)}`).join(" ")}
				/>
			))}
		</svg>
	);
}
