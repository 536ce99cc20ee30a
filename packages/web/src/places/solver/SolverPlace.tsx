import type { Material } from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import {
	SOLVER_SETS,
	SOLVER_USES,
	type SolverMaterial,
	type SolverSet,
	type SolverUse,
	solverCsv,
	solverJson,
	solverMaterial,
	solverSet,
	solverText,
} from "@alvek/core/solver";
import { useQueries } from "@tanstack/react-query";
import { ArrowLeft, Braces, Copy, Download } from "lucide-react";
import { Link, useSearchParams } from "react-router";
import { call, IssueError } from "../../api/client";
import { showToast } from "../../stores/toasts";
import { copyText, saveFile } from "../../ui/copy";
import { Swatch } from "../../ui/marks";
import { Empty, Failure, Loading } from "../../ui/states";

const USE_NAME: Readonly<Record<SolverUse, string>> = {
	"linear-static": "linear static",
	strength: "strength check",
	modal: "modal",
	thermal: "thermal",
	"thermal-stress": "thermal stress",
	plasticity: "plasticity",
	rubber: "large-strain rubber",
	all: "everything",
};

/** What one use needs of one or several materials, in one consistent set of units, ready to be copied or downloaded. */
export function SolverPlace() {
	const [params, setParams] = useSearchParams();
	const ids = (params.get("ids") ?? "")
		.split(",")
		.filter((id) => /^[0-9a-zA-Z-]{1,64}(@\d{1,6})?$/.test(id))
		.slice(0, 20);
	const use = (SOLVER_USES as readonly string[]).includes(params.get("use") ?? "")
		? (params.get("use") as SolverUse)
		: "linear-static";
	const set = solverSet(params.get("set") ?? "mm-t-s") ?? (SOLVER_SETS[1] as SolverSet);
	const sheets = useQueries({
		queries: ids.map((id) => ({
			queryKey: ["forSolver", id],
			queryFn: () => sourceOf(id),
		})),
	});
	const failed = sheets.find((s) => s.isError);
	if (ids.length === 0)
		return (
			<Empty title="No material chosen.">
				Open a{" "}
				<Link to="/materials" className="quiet-link">
					sheet
				</Link>{" "}
				or fill the tray, and come from there.
			</Empty>
		);
	if (failed?.error) return <Failure error={failed.error} />;
	if (sheets.some((s) => s.data === undefined)) return <Loading what="The table" />;
	const rows = sheets.flatMap((s) => (s.data === undefined ? [] : [s.data]));
	const materials = rows.map((row) =>
		solverMaterial({ name: row.name, material: row.document }, use, set, { own: row.own, base: null }),
	);
	const put = (key: string, value: string): void => {
		const next = new URLSearchParams(params);
		next.set(key, value);
		setParams(next, { replace: true });
	};
	const file = `${rows.length === 1 ? rows[0]?.name.replace(/[^\p{L}\p{N} ._-]+/gu, "_") : `${rows.length} materials`}, ${use}, ${set.id}`;
	return (
		<section aria-label="For the solver" className="relative flex-1 min-w-0 bg-card overflow-y-auto px-5.5 py-3">
			<Link
				to={rows.length === 1 ? `/materials/${rows[0]?.id}` : "/materials"}
				className="flex items-center gap-1.5 text-ink2 hover:text-ink w-fit"
			>
				<ArrowLeft size={14} aria-hidden /> {rows.length === 1 ? rows[0]?.name : "Materials"}
			</Link>
			<div className="flex flex-wrap items-end gap-3 mb-3">
				<h1 className="mr-auto text-xl">
					What <Pick label="Use" value={use} options={SOLVER_USES.map((u) => [u, USE_NAME[u]])} onPick={(u) => put("use", u)} />{" "}
					needs, in{" "}
					<Pick
						label="Consistent units"
						value={set.id}
						options={SOLVER_SETS.map((s) => [s.id, s.name])}
						onPick={(s) => put("set", s)}
					/>
				</h1>
				<button
					type="button"
					className="btn"
					onClick={() =>
						showToast({
							tone: "plain",
							text: copyText(solverText(set, use, materials))
								? "The table is on the clipboard, tab-separated."
								: "The browser refused the clipboard.",
						})
					}
				>
					<Copy size={14} aria-hidden /> Copy
				</button>
				<button type="button" className="btn" onClick={() => saveFile(`${file}.csv`, solverCsv(set, use, materials), "text/csv")}>
					<Download size={14} aria-hidden /> CSV
				</button>
				<button
					type="button"
					className="btn"
					onClick={() => saveFile(`${file}.json`, JSON.stringify(solverJson(set, use, materials), null, 1), "application/json")}
				>
					<Braces size={14} aria-hidden /> JSON
				</button>
			</div>
			<p className="caption mb-1">
				Every number in {set.name}; temperature {set.temperatureUnit === "K" ? "in K, and per K" : "in °F, and per °F"}. A range
				gives its working value; the rule stands beside each number.
			</p>
			{rows.map((row, i) => (
				<OneMaterial key={row.id} row={row} material={materials[i] as SolverMaterial} />
			))}
		</section>
	);
}

function Pick({
	label,
	value,
	options,
	onPick,
}: {
	label: string;
	value: string;
	options: readonly (readonly [string, string])[];
	onPick: (id: string) => void;
}) {
	return (
		<select
			aria-label={label}
			className="bg-transparent border-b border-primary text-primary font-bold h-6.5"
			value={value}
			onChange={(e) => onPick(e.target.value)}
		>
			{options.map(([id, name]) => (
				<option key={id} value={id} className="bg-card text-ink">
					{name}
				</option>
			))}
		</select>
	);
}

/** A material as it stands now, my draft where there is one; or the revision that a part stands on. */
type Source = {
	readonly id: string;
	readonly name: string;
	readonly document: Material;
	/** Properties that its library adds to the catalogue. */
	readonly own: readonly OwnProperty[];
	readonly state: string;
};

async function sourceOf(wanted: string): Promise<Source> {
	const [id = "", no] = wanted.split("@");
	if (no !== undefined) {
		const result = await call("getRevision", { id, no });
		if (!result.ok) throw new IssueError(result.issues);
		const { name, document, own } = result.value;
		return { id, name, document, own, state: `rev ${no}` };
	}
	const result = await call("getSheet", { id });
	if (!result.ok) throw new IssueError(result.issues);
	const { row } = result.value;
	// a project adds no properties to the catalogue
	const own = row.libraryId.startsWith("project:") ? null : await call("listOwnProperties", { id: row.libraryId });
	if (own !== null && !own.ok) throw new IssueError(own.issues);
	return {
		id,
		name: row.name,
		document: row.document,
		own: (own?.value ?? []).map((p) => p.content),
		state: row.draftId !== null ? "your draft" : `rev ${row.revision}`,
	};
}

function OneMaterial({ row, material }: { row: Source; material: SolverMaterial }) {
	return (
		<article aria-label={material.name} className="mb-7">
			<h2 className="flex items-center gap-2 font-bold text-lg mt-2.5 mb-1">
				<Swatch colour={row.document.colour} />
				<Link to={`/materials/${row.id}`} className="quiet-link">
					{material.name}
				</Link>
				<span className="caption font-normal">{row.state}</span>
			</h2>
			{material.doubts.length > 0 && (
				<ul className="border-l-3 border-doubt bg-doubt-soft px-2.5 py-1.5 mb-2 max-w-190">
					{material.doubts.map((d) => (
						<li key={d}>{d}</li>
					))}
				</ul>
			)}
			<div className="flex flex-wrap gap-x-12 gap-y-3 items-start">
				{material.numbers.length > 0 && (
					<table className="border-collapse table-fixed w-175 max-w-full">
						<thead>
							<tr className="border-b border-ink text-left caption">
								<th className="font-semibold py-1 w-75">Property</th>
								<th className="font-semibold text-right pr-2.5 w-30">Value</th>
								<th className="font-semibold w-22.5">Unit</th>
								<th className="font-semibold">Working value</th>
							</tr>
						</thead>
						<tbody>
							{material.numbers.map((n) => (
								<tr key={n.property} className="border-b border-line2 h-7.25">
									<td>
										{n.name} <span className="caption">{n.property}</span>
									</td>
									<td className="text-right pr-2.5 font-semibold">{digits(n.value)}</td>
									<td className="text-ink2">{n.unit === "1" ? "–" : n.unit}</td>
									<td className="caption">{n.rule}</td>
								</tr>
							))}
						</tbody>
					</table>
				)}
				{material.numbers.length === 0 && material.tables.length === 0 && (
					<p className="text-ink2">Nothing that this use takes is on the sheet yet.</p>
				)}
				{material.tables.map((table) => (
					<div key={`${table.name} ${table.at}`} className="max-w-117.5">
						<h3 className="font-semibold">
							{table.name}{" "}
							<span className="caption font-normal">{[table.at, table.note].filter((w) => w !== "").join(" · ")}</span>
						</h3>
						<section
							// a long table scrolls inside itself; the keyboard reaches it too
							// biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolling region
							tabIndex={0}
							aria-label={`${table.name} ${table.at}`}
							className="max-h-80 overflow-y-auto w-fit border-b border-line"
						>
							<table className="border-collapse">
								<thead>
									<tr className="border-b border-ink caption">
										{table.columns.map((c) => (
											<th key={c.name} className="font-semibold text-right px-2.5 py-0.75 sticky top-0 bg-card">
												{c.name} [{c.unit}]
											</th>
										))}
									</tr>
								</thead>
								<tbody>
									{(table.columns[0]?.values ?? []).map((x, i) => (
										<tr key={`${x}`} className="border-b border-line2">
											{table.columns.map((c) => (
												<td key={c.name} className="text-right px-2.5 py-px">
													{digits(c.values[i] as number)}
												</td>
											))}
										</tr>
									))}
								</tbody>
							</table>
						</section>
					</div>
				))}
			</div>
		</article>
	);
}

/** Eight digits on screen; copies and files carry the whole double. */
function digits(x: number): string {
	const short = Number(x.toPrecision(8));
	return short !== 0 && Math.abs(short) < 1e-3 ? short.toExponential() : String(short);
}
