import type { ReactNode } from "react";

/** A labelled line of the look. */
export function Row({ label, children }: { label: string; children: ReactNode }) {
	return (
		<div className="flex items-center gap-2 min-h-8.5 border-b border-line2">
			<span className="w-23 shrink-0 text-ink2">{label}</span>
			{children}
		</div>
	);
}

/** A share or a measure: dragged it shows at once, at rest it is kept. */
export function Slider(props: {
	label: string;
	value: number;
	min?: number;
	max?: number;
	step?: number;
	unit?: string;
	onMove: (x: number) => void;
	onRest: () => void;
}) {
	const { label, value, min = 0, max = 1, step = 0.05, unit = "", onMove, onRest } = props;
	return (
		<Row label={label}>
			<input
				type="range"
				aria-label={label}
				className="flex-1 accent-primary h-4.5"
				min={min}
				max={max}
				step={step}
				value={value}
				onChange={(e) => onMove(Number(e.target.value))}
				onPointerUp={onRest}
				onKeyUp={onRest}
			/>
			<span className="w-14.5 text-right font-semibold">
				{Number(value.toFixed(2))} <span className="caption">{unit}</span>
			</span>
		</Row>
	);
}
