import type { CompareRow } from "@alvek/core/compare";
import { MASS_UNITS, massOf, showComputed } from "@alvek/core/mass";
import { densityOf, EVIDENCE_WORD, type Readiness } from "@alvek/core/material";
import { typeset } from "@alvek/core/quantity";
import { X } from "lucide-react";
import { Link } from "react-router";
import { useUnitSet } from "../../stores/preferences";
import { nameOfUse, ReadinessBar, readinessText, Swatch } from "../../ui/marks";
import { SymbolText } from "../../ui/Quantity";
import { Bar } from "./Bar";
import type { Column, ForParts } from "./useCompared";
import { differenceText, entryText, unitText } from "./words";

type Props = {
	columns: readonly Column[];
	rows: readonly CompareRow[];
	/** The column that the others are compared with. */
	base: number;
	forParts: ForParts | null;
	onBase: (key: string) => void;
	onRemove: (column: Column) => void;
	onAssign: (column: Column) => void;
};

/** Values aligned by property, with what they are on one axis and how they stand to the base. */
export function CompareTable(props: Props) {
	const { columns, rows, base, forParts, onBase, onRemove, onAssign } = props;
	return (
		<table className="w-full table-fixed border-collapse">
			<caption className="sr-only">Materials side by side</caption>
			<colgroup>
				<col className="w-51.25" />
				{columns.map((c) => (
					<col key={c.key} />
				))}
			</colgroup>
			<thead>
				<tr className="border-b border-ink">
					<th scope="col" className="caption text-left font-normal align-bottom pb-2">
						dashed line: {columns[base]?.present ? "present" : columns[base]?.name}
						<br />
						bars: from lowest to highest
					</th>
					{columns.map((column, c) => (
						<ColumnHead key={column.key} column={column} isBase={c === base} onBase={onBase} onRemove={onRemove} />
					))}
				</tr>
			</thead>
			<tbody>
				{rows.map((row) => (
					<Line key={row.id} row={row} columns={columns} base={base} />
				))}
				{usesToShow(columns).map((u) => (
					<tr key={u.use} className="border-b border-line2 align-top">
						<th scope="row" className="text-left font-normal py-1.5">
							<span className="pl-9 block">
								<span className="sr-only">Ready for </span>
								{nameOfUse(u)}
							</span>
						</th>
						{columns.map((c) => (
							<td key={c.key} className="py-1.5 pl-4.5">
								<ReadyFor readiness={c.readiness.find((r) => r.use === u.use)} />
							</td>
						))}
					</tr>
				))}
				{forParts !== null && <WouldWeigh columns={columns} forParts={forParts} onAssign={onAssign} />}
			</tbody>
		</table>
	);
}

function ColumnHead(props: {
	column: Column;
	isBase: boolean;
	onBase: (key: string) => void;
	onRemove: (column: Column) => void;
}) {
	const { column, isBase, onBase, onRemove } = props;
	return (
		<th scope="col" className="text-left align-bottom pb-2 pl-4.5">
			<div className="flex items-start gap-2">
				<Swatch colour={column.material.colour} />
				<Link
					to={`/materials/${column.materialId}`}
					className="font-bold leading-4.5 hover:underline underline-offset-3 min-w-0 break-words"
				>
					{column.name}{" "}
					<span className="caption font-normal whitespace-nowrap">{column.draft ? "draft" : `rev ${column.revision}`}</span>
				</Link>
				{!column.present && (
					<button
						type="button"
						className="ml-auto text-ink3 hover:text-ink p-0.5"
						aria-label={`Take ${column.name} out of the comparison`}
						onClick={() => onRemove(column)}
					>
						<X size={13} aria-hidden />
					</button>
				)}
			</div>
			<div className="flex items-center mt-1.5">
				<ReadinessBar readiness={column.readiness} />
				<button
					type="button"
					aria-pressed={isBase}
					className={`ml-auto caption font-normal ${isBase ? "font-bold! text-ink!" : "hover:text-ink underline decoration-dotted underline-offset-2"}`}
					onClick={() => onBase(column.key)}
				>
					{isBase ? (column.present ? "present" : "compared with") : "compare with this"}
				</button>
			</div>
		</th>
	);
}

function Line({ row, columns, base }: { row: CompareRow; columns: readonly Column[]; base: number }) {
	const unitSet = useUnitSet();
	const against = row.entries[base];
	const of = columns[base]?.present ? "present" : "as much";
	return (
		<tr className="border-b border-line2 align-top">
			<th scope="row" className="text-left font-normal py-2 pr-2">
				<span className="flex gap-1.5">
					<span className="w-7.5 shrink-0">{row.symbol !== "" && <SymbolText symbol={row.symbol} />}</span>
					<span title={row.formula}>
						{row.name} <span className="caption whitespace-nowrap">{unitText(row, unitSet)}</span>
					</span>
				</span>
			</th>
			{row.entries.map((entry, c) => {
				const column = columns[c] as Column;
				const text = entryText(entry, row, unitSet);
				const carried = entry.kind === "number" && entry.carried;
				const details =
					entry.kind === "number"
						? [
								row.formula,
								entry.carried ? "carried over" : "",
								entry.evidence === null ? "" : EVIDENCE_WORD[entry.evidence],
								entry.fromTable ? "at 20 °C" : "",
							]
						: [];
				return (
					<td key={column.key} className="py-2 pl-4.5" title={details.filter((d) => d !== "").join(", ")}>
						<div className="flex items-baseline gap-1.5 flex-wrap">
							<span className={`min-w-0 ${entry.kind === "number" ? "font-bold" : "text-ink2"} ${carried ? "carried" : ""}`}>
								{text}
								{entry.kind === "number" && entry.fromTable && <span className="caption"> at 20 °C</span>}
							</span>
							<span className="caption ml-auto text-right">
								{c === base && entry.kind === "number"
									? column.present
										? "present"
										: ""
									: differenceText([entry, against], row, of, unitSet)}
							</span>
						</div>
						<Bar row={row} entry={entry} base={against} colour={column.material.colour} />
					</td>
				);
			})}
		</tr>
	);
}

/** Uses that one of the columns is ready for: the built-in ones in their order, then those of libraries. */
function usesToShow(columns: readonly Column[]): readonly Readiness[] {
	const byUse = new Map(columns.flatMap((c) => c.readiness).map((r) => [r.use, r]));
	return [...byUse.values()].filter((u) =>
		columns.some((c) => c.readiness.some((r) => r.use === u.use && r.state !== "not-ready")),
	);
}

/** One use of one material, in words; what is missing or doubtful on hover. */
function ReadyFor({ readiness }: { readiness: Readiness | undefined }) {
	if (readiness === undefined) return null;
	const { state, doubts } = readiness;
	const words = state === "ready" ? "ready" : state === "doubts" ? (doubts[0] ?? "with doubts") : "not ready";
	return (
		<span
			className={`text-sm block truncate ${state === "ready" ? "text-primary font-semibold" : state === "doubts" ? "text-doubt" : "text-ink3"}`}
			title={readinessText(readiness)}
		>
			{words}
		</span>
	);
}

/** What the parts would weigh in each, and the act of giving it. */
function WouldWeigh({
	columns,
	forParts,
	onAssign,
}: {
	columns: readonly Column[];
	forParts: ForParts;
	onAssign: Props["onAssign"];
}) {
	const unitSet = useUnitSet();
	const many = forParts.pieces > 1;
	return (
		<tr className="align-middle">
			<th scope="row" className="text-left font-normal py-2.5">
				<span className="pl-9 block">
					{many ? `${forParts.pieces} × ${forParts.name} would weigh` : `${forParts.name} would weigh`}
				</span>
			</th>
			{columns.map((column) => {
				const density = densityOf(column.material);
				const mass = density === null ? null : massOf(forParts.volume, density).mass;
				return (
					<td key={column.key} className="py-2.5 pl-4.5">
						<div className="flex items-center gap-2">
							<b className="whitespace-nowrap">
								{mass === null ? "no density" : `${typeset(showComputed(mass, "mass", unitSet))} ${MASS_UNITS[unitSet].mass}`}
							</b>
							{column.present ? (
								<span className="ml-auto caption">present</span>
							) : (
								forParts.project.mayEdit && (
									<button type="button" className="btn btn-small ml-auto" onClick={() => onAssign(column)}>
										Give to {many ? "them" : "it"}
									</button>
								)
							)}
						</div>
					</td>
				);
			})}
		</tr>
	);
}
