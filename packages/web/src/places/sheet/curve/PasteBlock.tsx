import { CONDITIONS, LIMITS, makeSeries, type SeriesValue } from "@alvek/core/material";
import { type Block, type BlockColumn, readBlock, wantedAxes } from "@alvek/core/page";
import { entryName, formById, propertyById } from "@alvek/core/property";
import { describeIssue, type Issue } from "@alvek/core/result";
import { useEffect, useMemo, useRef, useState } from "react";
import { columnInfo, type Local, type LocalColumn } from "../../../shared/chart/columns";
import { thinRows } from "./thinRows";

type Role = { readonly of: string; readonly unit: string };
type Props = {
	/** Text pasted already, or "" for a box to paste into. */
	first: string;
	local: Local;
	property: string;
	/** The points, and tables of other properties that the block held too. */
	onUse: (next: Local, extra: readonly SeriesValue[]) => void;
	onLeave: () => void;
};

/** A block from a spreadsheet: what its columns are, in which unit; all is proposed, the user has the last word. */
export function PasteBlock({ first, local, property, onUse, onLeave }: Props) {
	const [text, setText] = useState(first);
	const block = useMemo(() => {
		const wanted = formById(property) === undefined ? ["temperature", property] : wantedAxes(property);
		return text.trim() === "" ? null : readBlock(text, wanted);
	}, [text, property]);
	if (block === null || !block.ok) {
		return (
			<div className="bg-paper border border-line rounded-md p-3 mb-3">
				<label className="block">
					<span className="font-semibold">Paste a block of cells</span>
					<textarea
						// biome-ignore lint/a11y/noAutofocus: the person has just asked to paste
						autoFocus
						className="area font-mono text-sm mt-1"
						rows={5}
						placeholder={"Dehnung [%]\tSpannung [N/mm²]\n0,020\t20,0\n0,039\t40,0"}
						// what is too large is named, not put on the page
						defaultValue={first.length > 20_000 ? "" : first}
						onPaste={(e) => {
							e.preventDefault();
							setText(e.clipboardData.getData("text/plain"));
						}}
						onBlur={(e) => e.target.value.trim() !== "" && setText(e.target.value)}
					/>
				</label>
				{block !== null && !block.ok && (
					<p role="alert" className="text-wrong">
						{block.issues.map(describeIssue).join(" ")}
					</p>
				)}
				<button type="button" className="btn btn-ghost btn-small" onClick={onLeave}>
					Leave it
				</button>
			</div>
		);
	}
	return <Columns block={block.value} local={local} property={property} onUse={onUse} onLeave={onLeave} />;
}

function Columns({ block, local, property, onUse, onLeave }: { block: Block } & Omit<Props, "first">) {
	const [mark, setMark] = useState(block.mark);
	const [said, setSaid] = useState(!block.ambiguous);
	const [roles, setRoles] = useState<readonly Role[]>(() => block.columns.map((c) => roleOf(c, property)));
	const form = formById(property);
	const curve = form?.kind === "curve" ? form : null;
	const needed = curve === null ? ["value"] : [curve.x];
	const complete =
		needed.every((of) => roles.some((r) => r.of === of)) &&
		(curve === null ? roles.some((r) => CONDITIONS.includes(r.of)) : curve.y.some((y) => roles.some((r) => r.of === y)));
	const built = useMemo(
		() => (complete ? build({ block, roles, mark }, local, property) : null),
		[complete, block, roles, mark, local, property],
	);
	const issues: readonly Issue[] = built !== null && !built.ok ? built.issues : [];

	// a block that leaves no question replaces nothing silently: an empty table takes it at once
	const simple =
		said &&
		local.rows.length === 0 &&
		built?.ok === true &&
		block.dropped.length === 0 &&
		built.value.thinned === null &&
		roles.every((r) => r.of !== "");
	const taken = useRef(false);
	useEffect(() => {
		if (!simple || taken.current || built?.ok !== true) return;
		taken.current = true;
		onUse(built.value.local, built.value.extra);
	});
	if (simple) return null;

	const options =
		curve === null
			? [...CONDITIONS.map((id) => [id, entryOf(id)] as const), ["value", entryName(property)] as const]
			: axesOf(curve);
	return (
		<div className="bg-paper border border-line rounded-md p-3 mb-3">
			<p className="font-semibold mb-1.5">
				{block.columns[0]?.cells.length ?? 0} rows, {block.columns.length} columns
			</p>
			{built?.ok === true && built.value.thinned !== null && <Thinned {...built.value.thinned} />}
			<div className="flex flex-wrap gap-2.5">
				{block.columns.map((column, i) => (
					<ColumnRole
						// biome-ignore lint/suspicious/noArrayIndexKey: two columns may have one heading
						key={`${column.header} ${i}`}
						column={column}
						no={i + 1}
						role={roles[i] ?? { of: "", unit: "" }}
						options={options}
						property={property}
						onChange={(role) => setRoles(roles.map((r, n) => (n === i ? role : r)))}
					/>
				))}
			</div>
			{!said && (
				<MarkQuestion
					onSay={(decimal) => {
						setMark(decimal);
						setSaid(true);
					}}
				/>
			)}
			<LeftOver block={block} issues={issues} />
			{!complete && <p className="caption mt-2">Say which column is which.</p>}
			<div className="flex gap-1.5 mt-2.5">
				<button
					type="button"
					className="btn btn-primary"
					disabled={built?.ok !== true || !said}
					onClick={() => built?.ok === true && onUse(built.value.local, built.value.extra)}
				>
					{local.rows.length > 0 ? "Replace the points" : "Use these points"}
				</button>
				{local.rows.length > 0 && built?.ok === true && said && sameShape(local, built.value.local) && (
					<button
						type="button"
						className="btn"
						onClick={() => onUse({ ...built.value.local, rows: [...local.rows, ...built.value.local.rows] }, built.value.extra)}
					>
						Add to the points
					</button>
				)}
				<button type="button" className="btn btn-ghost" onClick={onLeave}>
					Leave it
				</button>
			</div>
		</div>
	);
}

/** A long block became few points: how few, and how near they stay to all of them. */
function Thinned({ from, to, off }: NonNullable<Built["thinned"]>) {
	const share = `${Number((100 * off).toPrecision(2))} %`;
	return (
		<p className="mb-2">
			A curve holds {LIMITS.rows} points: {to} of {from} stay, as they were typed. None of the others is farther than {share} of
			the height from the line through these. Attach the file to keep all of them.
		</p>
	);
}

type RoleProps = {
	column: BlockColumn;
	no: number;
	role: Role;
	options: readonly (readonly [string, string])[];
	property: string;
	onChange: (role: Role) => void;
};

/** What one column of the block is, and its unit. */
function ColumnRole({ column, no, role, options, property, onChange }: RoleProps) {
	const other = column.guess !== null && propertyById(column.guess) !== undefined && column.guess !== property;
	return (
		<div className="w-47.5">
			<span className="caption block truncate" title={column.header}>
				{column.header || `column ${no}`}: {column.cells.slice(0, 3).join("  ")} …
			</span>
			<span className="flex gap-1">
				<select
					aria-label={`Column ${no} is`}
					className="field"
					value={role.of}
					onChange={(e) => onChange({ ...role, of: e.target.value })}
				>
					<option value="">leave out</option>
					{options.map(([id, name]) => (
						<option key={id} value={id}>
							{name}
						</option>
					))}
					{other && <option value={`other:${column.guess}`}>{entryName(column.guess ?? "")}, a table of its own</option>}
				</select>
				<input
					aria-label={`Unit of column ${no}`}
					className="field w-21!"
					value={role.unit}
					placeholder="unit"
					onChange={(e) => onChange({ ...role, unit: e.target.value })}
				/>
			</span>
		</div>
	);
}

function MarkQuestion({ onSay }: { onSay: (mark: "." | ",") => void }) {
	return (
		<fieldset className="mt-2">
			<legend className="tag tag-doubt">the mark before three digits could be a decimal one or thousands</legend>
			{([",", "."] as const).map((mark) => (
				<label key={mark} className="mr-3">
					<input type="radio" name="mark" onChange={() => onSay(mark)} /> {mark === "," ? "comma" : "point"} is the decimal mark
				</label>
			))}
		</fieldset>
	);
}

/** Lines without numbers, and cells that do not read. */
function LeftOver({ block, issues }: { block: Block; issues: readonly Issue[] }) {
	return (
		<>
			{block.dropped.length > 0 && (
				<p className="caption mt-2">
					No numbers, left out:{" "}
					{block.dropped
						.slice(0, 4)
						.map((d) => `line ${d.line} “${d.text.slice(0, 40)}”`)
						.join(", ")}
					{block.dropped.length > 4 && ` and ${block.dropped.length - 4} more`}
				</p>
			)}
			{issues.length > 0 && (
				<p role="alert" className="text-wrong mt-2">
					{issues
						.slice(0, 3)
						.map((i) => `${i.line === undefined ? "" : `Row ${i.line}: `}${describeIssue(i)}`)
						.join(" ")}
				</p>
			)}
		</>
	);
}

function sameShape(a: Local, b: Local): boolean {
	return (
		a.columns.length === b.columns.length && a.columns.every((c, i) => c.of === b.columns[i]?.of && c.unit === b.columns[i]?.unit)
	);
}

function entryOf(id: string): string {
	return columnInfo("", id).name;
}

function axesOf(form: {
	x: string;
	y: readonly string[];
	conditions: readonly string[];
}): readonly (readonly [string, string])[] {
	return [form.x, ...form.y, ...form.conditions].map((id) => [id, entryOf(id)] as const);
}

/** What a column probably is: its guess where the curve has such a column, a table of its own for another property. */
function roleOf(column: BlockColumn, property: string): Role {
	const form = formById(property);
	const axes = form?.kind === "curve" ? [form.x, ...form.y, ...form.conditions] : CONDITIONS;
	const { guess } = column;
	const of =
		guess === null
			? ""
			: guess === property
				? "value"
				: axes.includes(guess)
					? guess
					: form === undefined && propertyById(guess)
						? `other:${guess}`
						: "";
	const info = of === "value" || axes.includes(of) ? columnInfo(property, of) : null;
	return { of, unit: column.unit ?? info?.units.engineering ?? "" };
}

type Built = {
	readonly local: Local;
	readonly extra: readonly SeriesValue[];
	/** Rows of the block and those that stay of them; null: all stay. */
	readonly thinned: { readonly from: number; readonly to: number; readonly off: number } | null;
};

function build(
	{ block, roles, mark }: { readonly block: Block; readonly roles: readonly Role[]; readonly mark: "." | "," },
	local: Local,
	property: string,
): { ok: true; value: Built } | { ok: false; issues: readonly Issue[] } {
	const form = formById(property);
	const order = form?.kind === "curve" ? [...form.conditions, form.x, ...form.y] : [...CONDITIONS, "value"];
	const chosen = order.flatMap((of) => {
		const n = roles.findIndex((r) => r.of === of);
		return n < 0 ? [] : [{ n, of }];
	});
	const columns: LocalColumn[] = chosen.map(({ n, of }) => ({ of, unit: roles[n]?.unit ?? "", mark }));
	const cells = (n: number): readonly string[] => block.columns[n]?.cells ?? [];
	const all = cells(chosen[0]?.n ?? 0).map((_, i) => chosen.map(({ n }) => cells(n)[i] ?? ""));
	const few = thinRows(all, mark, LIMITS.rows);
	if (few === null)
		return {
			ok: false,
			issues: [
				{
					code: "paste-too-large",
					actual: `${all.length} rows`,
					expected: `at most ${LIMITS.rows}, or a curve that can be thinned`,
				},
			],
		};
	const rows = few.keep.map((i) => all[i] as readonly string[]);
	const header = { ...local.header, ...block.header };
	const next: Local = { ...local, columns, rows, header: form?.kind === "curve" ? header : local.header };
	const typed = columns.map((c, i) => ({ ...c, cells: rows.map((r) => r[i] ?? "") }));
	const made = makeSeries(
		{ id: "x", property },
		{ kind: local.kind, columns: typed, interpolation: local.interpolation, header: next.header },
	);
	if (!made.ok) return made;
	// other properties over the same conditions become tables of their own
	const conditions = typed.slice(0, -1);
	const extra: SeriesValue[] = [];
	for (const [n, role] of roles.entries()) {
		if (!role.of.startsWith("other:")) continue;
		const other = role.of.slice(6);
		const table = makeSeries(
			{ id: other, property: other },
			{
				kind: "table",
				columns: [...conditions, { of: "value", unit: role.unit, cells: few.keep.map((i) => cells(n)[i] ?? ""), mark }],
				interpolation: "linear",
			},
		);
		if (!table.ok) return table;
		extra.push(table.value);
	}
	const thinned = rows.length === all.length ? null : { from: all.length, to: rows.length, off: few.off };
	return { ok: true, value: { local: next, extra, thinned } };
}
