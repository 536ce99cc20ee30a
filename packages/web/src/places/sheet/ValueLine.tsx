import {
	confirmed,
	EVIDENCE_WORD,
	freshValueId,
	isNumber,
	type Material,
	type MaterialValue,
	type SeriesValue,
	valueLabel,
} from "@alvek/core/material";
import { axisById } from "@alvek/core/property";
import { EllipsisVertical, Table2 } from "lucide-react";
import { useId, useState } from "react";
import { Link } from "react-router";
import type { Draft } from "../../draft/useDraft";
import { useUnitSet } from "../../stores/preferences";
import { showToast } from "../../stores/toasts";
import { Leavable } from "../../ui/Leavable";
import { allUnits, EvidenceLetter, inUnit, SymbolText, UnitText, unitFor, valueText, wordsOf } from "../../ui/Quantity";
import { BlankDetails } from "./BlankDetails";
import { ConflictStrip } from "./ConflictStrip";
import { Details } from "./Details";
import type { SheetLine } from "./lines";
import { Provenance } from "./Provenance";
import { ValueInput } from "./ValueInput";

type Props = {
	line: SheetLine;
	material: Material;
	draft: Draft | null;
	editing: boolean;
	setEditing: (key: string | null) => void;
	goOn: (after: Material) => void;
	/** Alt is held: every value in all its units and as it was typed. */
	allUnitsShown: boolean;
};

/** Symbol, name, value, evidence, provenance; a click on the value and one types as an engineer would. */
export function ValueLine({ line, material, draft, editing, setEditing, goOn, allUnitsShown }: Props) {
	const { spec, value, key } = line;
	const unitSet = useUnitSet();
	const [open, setOpen] = useState(false);
	const hint = useId();
	const label = value === null ? { name: spec.name, symbol: spec.symbol } : valueLabel(value);
	const conflict = draft?.conflicts.find((c) => c.at === key);

	const write = (to: MaterialValue | null, what: string): void =>
		draft?.commit([{ at: key, from: value, to }], `${spec.name} ${what}`);
	const clear = (): void => {
		write(null, "removed");
		showToast({ tone: "plain", text: `${spec.name} is blank again.`, action: { label: "Undo", run: () => draft?.undo() } });
	};

	return (
		<div id={`line-${key}`} className="group border-b border-line2 scroll-mt-15">
			<div className="grid grid-cols-[38px_minmax(110px,178px)_minmax(150px,190px)_86px_minmax(0,1fr)_30px] items-center min-h-8 max-md:grid-cols-[30px_1fr_auto_24px]">
				<span className="text-md">
					<SymbolText symbol={label.symbol} />
				</span>
				<span className="min-w-0">
					<span className="truncate block" title={spec.explanation}>
						{label.name}
						{value?.kind === "table" && <span className="caption">, {conditionsOf(value)}</span>}
						{value?.condition && <span className="caption">, {value.condition}</span>}
					</span>
				</span>
				{editing && draft !== null ? (
					<ValueInput
						line={line}
						material={material}
						keptAs={draft.keptAs(`value.${key}`)}
						onCommit={(to, move) => {
							setEditing(null);
							if (to === null) {
								if (value !== null) clear();
							} else write(to, value === null ? "entered" : "changed");
							if (move === "next") goOn(to === null ? material : { ...material, values: { ...material.values, [key]: to } });
						}}
						onCancel={() => setEditing(null)}
					/>
				) : (
					<ShownValue line={line} editable={draft !== null} onEdit={() => setEditing(key)} hint={hint} unitSet={unitSet} />
				)}
				<span className="caption text-ink2! max-md:hidden">
					{value?.evidence === undefined ? "" : EVIDENCE_WORD[value.evidence]}
				</span>
				<span className="caption min-w-0 max-md:hidden flex items-center gap-1.5">
					{value === null ? (
						line.derived ? (
							<span className="truncate">derived from {line.derived.from}</span>
						) : (
							<span className="truncate invisible group-hover:visible group-focus-within:visible" title={spec.explanation}>
								{spec.explanation}
							</span>
						)
					) : allUnitsShown ? (
						<span className="leading-3.5 flex flex-wrap gap-x-2.5">
							{allUnits(value)
								.split(/ {2}= {2}|\n/)
								.map((piece) => (
									<span key={piece} className="whitespace-nowrap">
										{piece}
									</span>
								))}
						</span>
					) : (
						<Provenance value={value} onConfirm={draft === null ? null : () => write(confirmed(value), "confirmed")} />
					)}
				</span>
				{draft !== null ? (
					<button
						type="button"
						className={`btn btn-ghost btn-small px-1! ${value === null ? "invisible group-hover:visible group-focus-within:visible" : ""}`}
						aria-expanded={open}
						aria-label={value === null ? `More ways to say ${spec.name}` : `Evidence, source and more of ${spec.name}`}
						onClick={() => setOpen(!open)}
					>
						<EllipsisVertical size={14} aria-hidden />
					</button>
				) : (
					<span />
				)}
			</div>
			<span id={hint} className="sr-only">
				{spec.explanation}
			</span>
			{conflict && draft && <ConflictStrip conflict={conflict} draft={draft} />}
			{open && value === null && draft !== null && (
				<Leavable leave={() => setOpen(false)}>
					<BlankDetails
						line={line}
						onSay={(to, what) => {
							setOpen(false);
							write(to, what);
						}}
					/>
				</Leavable>
			)}
			{open && value !== null && draft !== null && (
				<Leavable leave={() => setOpen(false)}>
					<Details
						spec={spec}
						value={value}
						onChange={(to) => write(to, "details changed")}
						onClear={() => {
							setOpen(false);
							clear();
						}}
						onAnother={() => {
							setOpen(false);
							setEditing(freshValueId(material, spec.id));
						}}
					/>
				</Leavable>
			)}
		</div>
	);
}

/** `over T`: what a table runs over, short enough for the line; its link says the span. */
function conditionsOf(table: SeriesValue): string {
	const names = table.columns.slice(0, -1).map((c) => axisById(c.of)?.symbol ?? c.of);
	return `over ${names.join(" and ")}`;
}

function ShownValue({
	line,
	editable,
	onEdit,
	hint,
	unitSet,
}: {
	line: SheetLine;
	editable: boolean;
	onEdit: () => void;
	hint: string;
	unitSet: ReturnType<typeof useUnitSet>;
}) {
	const { value, spec, derived } = line;
	if (value?.kind === "table") {
		return (
			<Link to={`curve/${value.id}`} className="quiet-link flex items-center gap-1.5 min-w-0" title={allUnits(value)}>
				<Table2 size={14} aria-hidden className="shrink-0 text-ink2" />
				<span className={`truncate font-semibold ${value.carried ? "carried" : ""}`}>{wordsOf(value, unitSet)}</span>
			</Link>
		);
	}
	const content =
		value === null ? (
			derived ? (
				<span title="follows its two inputs; type a value to state one of its own">
					<span className="text-ink2">{inUnit(derived.si, spec, unitSet)}</span> <UnitText unit={spec.units[unitSet]} />
				</span>
			) : (
				<span className="text-ink3">blank</span>
			)
		) : isNumber(value) ? (
			<>
				<b className={value.carried ? "carried" : ""}>{valueText(value, unitSet)}</b> <UnitText unit={unitFor(value, unitSet)} />
				<EvidenceLetter value={value} />
			</>
		) : (
			<i className="text-ink2">{wordsOf(value, unitSet)}</i>
		);
	if (!editable) return <span title={value === null ? undefined : allUnits(value)}>{content}</span>;
	return (
		<button
			type="button"
			className="text-left h-6.5 px-1.5 -ml-2 rounded-md border border-transparent hover:border-line whitespace-nowrap w-fit max-w-full overflow-hidden"
			title={value === null ? spec.explanation : allUnits(value)}
			aria-label={
				value === null
					? `${spec.name}: ${derived ? `${inUnit(derived.si, spec, unitSet)} derived` : "blank"}, type a value`
					: undefined
			}
			aria-describedby={hint}
			onClick={onEdit}
			onKeyDown={(e) => {
				// typing on a focused value begins at once
				if (/^[\p{L}\p{N}.,<>=~+-]$/u.test(e.key) && !e.ctrlKey && !e.metaKey && !e.altKey) onEdit();
			}}
		>
			{content}
		</button>
	);
}
