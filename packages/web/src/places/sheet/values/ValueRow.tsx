import { BASIS_WORD, EVIDENCE_WORD, isNumber, type MaterialValue, valueLabel, workingValue } from "@alvek/core/material";
import { propertyById } from "@alvek/core/property";
import { significant } from "@alvek/core/quantity";
import { useUnitSet } from "../../../stores/preferences";
import { SymbolText, wordsOf } from "../../../ui/Quantity";
import { useSheet } from "../context";
import { following } from "../Details";
import { type ComparedLine, STATE_WORD } from "./bulk";

/** One value beside its base: what stands here, what the base says, the difference, the state. */
export function ValueRow({
	line,
	ticked,
	onTick,
	onConfirm,
}: {
	line: ComparedLine;
	ticked: boolean;
	onTick: (() => void) | null;
	onConfirm: () => void;
}) {
	const { sheet, material, draft } = useSheet();
	const unitSet = useUnitSet();
	const { own, base, state } = line;
	const value = (own ?? base) as MaterialValue;
	const label = valueLabel(value);
	const source = own?.sourceId === undefined ? own?.source : material.sources[own.sourceId]?.title;
	const follow = (): void => {
		if (base === null || sheet.base === null) return;
		draft?.commit(
			[{ at: line.id, from: own, to: following(base, line.id, sheet.base) }],
			`${label.name} follows ${sheet.base.name}`,
		);
	};
	return (
		<tr
			className={`border-b border-line2 h-8 ${ticked ? "bg-accent-soft" : "hover:bg-paper focus-within:bg-paper"}`}
			onKeyDown={(e) => {
				// one keystroke on a row confirms it
				if (e.key === "c" && state === "carried" && draft !== null && !e.ctrlKey && !e.metaKey) onConfirm();
			}}
		>
			<td>
				{onTick !== null && own !== null && (
					<input
						type="checkbox"
						className="checkbox align-middle"
						aria-label={`Tick ${label.name}`}
						checked={ticked}
						onChange={onTick}
					/>
				)}
			</td>
			<td className="text-md">
				<SymbolText symbol={label.symbol} />
			</td>
			<td className="pr-4">
				{label.name}
				{value.condition && <span className="caption">, {value.condition}</span>}
			</td>
			<td className="font-semibold pr-4">
				{own === null ? (
					<span className="text-ink3 font-normal">blank</span>
				) : (
					<span className={own.carried ? "carried" : ""}>{wordsOf(own, unitSet)}</span>
				)}
			</td>
			{sheet.base !== null && (
				<td className="text-ink2 pr-4">{base === null ? "" : line.same ? "the same" : wordsOf(base, unitSet)}</td>
			)}
			{sheet.base !== null && <td className="text-right pr-4 whitespace-nowrap">{differenceWords(own, base)}</td>}
			<td className="whitespace-nowrap">
				<span
					className={`tag ${state === "carried" ? "tag-doubt" : state === "behind" ? "tag-note" : state === "follows" ? "tag-accent" : ""}`}
				>
					{STATE_WORD[state]}
				</span>{" "}
				{draft !== null && state === "carried" && (
					<button
						type="button"
						className="quiet-link font-semibold"
						title="or press c"
						aria-label={`Confirm ${label.name}`}
						onClick={onConfirm}
					>
						confirm
					</button>
				)}
				{draft !== null && sheet.base?.head != null && base !== null && state !== "follows" && (
					<button type="button" className="quiet-link caption text-ink2! ml-1.5" onClick={follow}>
						{state === "missing" ? "take and follow" : "follow"}
					</button>
				)}
			</td>
			<td className="caption">
				{[
					own?.evidence === undefined ? null : EVIDENCE_WORD[own.evidence],
					own?.basis === undefined ? null : BASIS_WORD[own.basis],
					source ?? null,
				]
					.filter((w) => w !== null)
					.join(" · ")}
			</td>
		</tr>
	);
}

/** `+4.1 %` of the working values, where both have one. */
function differenceWords(own: MaterialValue | null, base: MaterialValue | null): string {
	if (own === null || base === null || !isNumber(own) || !isNumber(base)) return "";
	const [mine, theirs] = [workingValue(own), workingValue(base)];
	const absolute = propertyById(own.property)?.absoluteTemperature === true;
	if (mine === null || theirs === null || theirs === 0 || mine === theirs) return "";
	if (absolute) return `${mine > theirs ? "+" : "−"}${significant(Math.abs(mine - theirs), 3)} K`;
	const share = (mine / theirs - 1) * 100;
	return `${share > 0 ? "+" : "−"}${significant(Math.abs(share), 2)} %`;
}
