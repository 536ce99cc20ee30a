import { isSeries, type Material, type MaterialValue } from "@alvek/core/material";
import { typeset } from "@alvek/core/quantity";
import { chartData } from "../../shared/chart/data";
import { DASHES } from "../../shared/chart/style";
import { useUnitSet } from "../../stores/preferences";
import { decades, ticks } from "./ticks";

const [WIDTH, HEIGHT] = [520, 210];
const BOX = { left: 54, right: 12, top: 10, bottom: 38 };

/** A curve in black lines told apart by their dashes, as vectors. */
export function PaperChart({ value, material }: { value: MaterialValue; material: Material }) {
	const unitSet = useUnitSet();
	if (!isSeries(value) || (value.columns[0]?.si.length ?? 0) < 2) return null;
	const data = chartData(value, material, "as entered", unitSet);
	const lines = data.lines.filter((l) => l.line.x.length > 1);
	const xs = lines.flatMap((l) => l.line.x);
	const ys = lines.flatMap((l) => l.line.y);
	if (xs.length === 0) return null;
	const isLog = value.property === "sn_curve" && Math.min(...xs) > 0;
	const [x0, x1] = [isLog ? Math.min(...xs) : Math.min(0, ...xs), Math.max(...xs)];
	const [y0, y1] = [Math.min(...ys) < 0.5 * Math.max(...ys) ? Math.min(0, ...ys) : Math.min(...ys), Math.max(...ys)];
	const across = (x: number): number => {
		const share = isLog ? Math.log(x / x0) / Math.log(x1 / x0 || 2) : (x - x0) / (x1 - x0 || 1);
		return BOX.left + share * (WIDTH - BOX.left - BOX.right);
	};
	const up = (y: number): number => HEIGHT - BOX.bottom - ((y - y0) / (y1 - y0 || 1)) * (HEIGHT - BOX.top - BOX.bottom);
	const label = (x: number): string => typeset(x !== 0 && Math.abs(x) < 1e-3 ? x.toExponential() : String(x));
	const measured = lines.filter((l) => l.kind !== "band");
	return (
		<figure className="break-inside-avoid my-1.5">
			<svg
				viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
				className="w-[142mm] max-w-full"
				role="img"
				aria-label={`${data.y.name} over ${data.x.name}`}
			>
				<title>{`${data.y.name} over ${data.x.name}`}</title>
				{ticks(y0, y1, 4).map((y) => (
					<g key={y}>
						<line x1={BOX.left} x2={WIDTH - BOX.right} y1={up(y)} y2={up(y)} stroke="#bbb" strokeWidth="0.5" />
						<text x={BOX.left - 5} y={up(y) + 3} textAnchor="end" fontSize="9">
							{label(y)}
						</text>
					</g>
				))}
				{(isLog ? decades(x0, x1) : ticks(x0, x1, 6)).map((x) => (
					<g key={x}>
						<line
							x1={across(x)}
							x2={across(x)}
							y1={HEIGHT - BOX.bottom}
							y2={HEIGHT - BOX.bottom + 4}
							stroke="#000"
							strokeWidth="0.7"
						/>
						<text x={across(x)} y={HEIGHT - BOX.bottom + 14} textAnchor="middle" fontSize="9">
							{isLog ? `10^${Math.round(Math.log10(x))}` : label(x)}
						</text>
					</g>
				))}
				<line
					x1={BOX.left}
					x2={WIDTH - BOX.right}
					y1={HEIGHT - BOX.bottom}
					y2={HEIGHT - BOX.bottom}
					stroke="#000"
					strokeWidth="0.8"
				/>
				{lines.map((l, i) => (
					<polyline
						key={`${l.kind} ${l.name}`}
						fill="none"
						stroke="#000"
						strokeWidth={l.kind === "band" ? 0.6 : 1.3}
						strokeDasharray={l.kind === "band" ? "1 2" : (DASHES[i % DASHES.length] ?? []).join(" ")}
						points={l.line.x.map((x, n) => `${across(x).toFixed(1)},${up(l.line.y[n] as number).toFixed(1)}`).join(" ")}
					/>
				))}
				<text x={BOX.left} y={HEIGHT - 8} fontSize="9.5" fontWeight="600">
					{data.x.name}, {data.x.unit}
				</text>
				<text transform={`translate(11 ${HEIGHT - BOX.bottom}) rotate(-90)`} fontSize="9.5" fontWeight="600">
					{data.y.name}, {data.y.unit}
				</text>
				{measured.length > 1 &&
					measured.slice(0, 8).map((l, i) => (
						<g key={l.name} transform={`translate(${WIDTH - 150} ${BOX.top + 8 + i * 12})`}>
							<line
								x1="0"
								x2="24"
								y1="0"
								y2="0"
								stroke="#000"
								strokeWidth="1.3"
								strokeDasharray={(DASHES[i % DASHES.length] ?? []).join(" ")}
							/>
							<text x="30" y="3" fontSize="9">
								{l.name}
							</text>
						</g>
					))}
			</svg>
		</figure>
	);
}
