import { BASIS_WORD, type Bases, isNumber, type MaterialValue, sameNumbers, specOf } from "@alvek/core/material";
import { useUnitSet } from "../../stores/preferences";
import { unitFor, valueText, workingText } from "../../ui/Quantity";
import { useSheet } from "./context";

/** Where a value comes from and what it works as: carried over, following, basis, source, working value, as typed. */
export function Provenance({ value, onConfirm }: { value: MaterialValue; onConfirm: (() => void) | null }) {
	const unitSet = useUnitSet();
	const { material, sheet } = useSheet();
	if (value.carried !== undefined) {
		return (
			<>
				<span className="tag tag-doubt">carried over</span>
				<span className="truncate">from {value.carried.name}</span>
				{onConfirm && (
					<button type="button" className="quiet-link text-ink font-semibold shrink-0" onClick={onConfirm}>
						confirm
					</button>
				)}
			</>
		);
	}
	const source = value.sourceId === undefined ? value.source : (material.sources[value.sourceId]?.title ?? "source not here");
	const number = isNumber(value) ? value : null;
	const words = [
		number === null ? null : workingText(number, unitSet),
		number?.bases === undefined ? (value.basis === undefined ? null : BASIS_WORD[value.basis]) : basesText(number.bases),
		value.kind === "readings" && value.labels !== undefined ? value.labels.filter((l) => l !== "").join(", ") : null,
		number !== null &&
		number.low !== number.high &&
		!sameText(number.entered, `${valueText(number, unitSet)}${unitFor(number, unitSet)}`)
			? `${number.entered} as typed`
			: null,
		source ?? null,
		value.kind === "table" ? (value.interpolation === "pchip" ? "PCHIP between points" : "straight lines between points") : null,
	];
	const text = words.filter((w) => w !== null).join(" · ");
	const newest = sheet.base?.head?.values[value.id] ?? null;
	const moved = value.follows !== undefined && sheet.base !== null && sheet.base.headRevision > value.follows.revision;
	// the base moved on, but perhaps not this value of it
	const behind = moved && !sameNumbers(value, newest);
	return (
		<>
			{value.follows !== undefined && (
				<span
					className={`tag ${behind ? "tag-note" : "tag-accent"}`}
					title={`follows ${value.follows.name}, revision ${value.follows.revision}`}
				>
					{behind ? "follows, behind" : "follows base"}
				</span>
			)}
			<span className="truncate" title={text}>
				{text}
			</span>
		</>
	);
}

const ENDS = { low: "low end", high: "high end", working: "working value" } as const;

/** `guaranteed minimum low end, typical working value`. */
function basesText(bases: Bases): string {
	return (["low", "high", "working"] as const)
		.flatMap((end) => (bases[end] === undefined ? [] : [`${BASIS_WORD[bases[end]]} ${ENDS[end]}`]))
		.join(", ");
}

/** The same but for blanks, dashes and signs. */
function sameText(a: string, b: string): boolean {
	const squeeze = (text: string): string =>
		text
			.replace(/[\s^\u2009]/g, "")
			.replace(/[–—]|to|\.\./g, "-")
			.replace(">=", "≥")
			.replace("<=", "≤")
			.replace("+/-", "±");
	return squeeze(a) === squeeze(b);
}

/** Where a value's own property says its unit; used in titles. */
export function standardOf(value: MaterialValue): string {
	if (!isNumber(value)) return "";
	const { standard } = specOf(value);
	return standard === undefined ? "" : ` · test method: ${standard}`;
}
