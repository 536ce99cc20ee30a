import type { CompareRow, Entry, Figure } from "@alvek/core/compare";
import { useUnitSet } from "../../stores/preferences";
import { axisOf } from "./words";

/** A range as a bar, a number as a tick, on one axis for the row; the dashed line is what it is compared with. */
export function Bar({ row, entry, base, colour }: { row: CompareRow; entry: Entry; base: Entry | undefined; colour: string }) {
	const unitSet = useUnitSet();
	const axis = axisOf(row, unitSet);
	if (entry.kind !== "number") return <div className="h-2 mt-1 border-b border-dashed border-line" />;
	const against = base?.kind === "number" ? base.figure.working : null;
	return (
		<div aria-hidden className="relative h-2 mt-1 bg-sunk">
			<Mark figure={entry.figure} at={axis.at} colour={colour} />
			{entry.across !== null && <Mark figure={entry.across} at={axis.at} colour={colour} pale />}
			{against !== null && (
				<span
					className="absolute -top-0.75 h-3.5 border-l border-dashed border-ink"
					style={{ left: `${axis.at(against) * 100}%` }}
				/>
			)}
		</div>
	);
}

function Mark({
	figure,
	at,
	colour,
	pale = false,
}: {
	figure: Figure;
	at: (si: number) => number;
	colour: string;
	pale?: boolean;
}) {
	const { low, high } = figure;
	// an open end reaches to the end of the axis
	const from = low === null ? 0 : at(low);
	const to = high === null ? 1 : at(high);
	const width = `max(4px, ${(to - from) * 100}%)`;
	return (
		<span
			className={`absolute top-0 h-full ring-1 ring-ink/25 ${pale ? "opacity-55" : ""}`}
			style={{ left: `min(${from * 100}%, calc(100% - 4px))`, width, background: colour }}
		/>
	);
}
