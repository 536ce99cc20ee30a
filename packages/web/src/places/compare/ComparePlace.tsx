import { csvText } from "@alvek/contract";
import { compareRows, isUniform } from "@alvek/core/compare";
import type { Money } from "@alvek/core/cost";
import { ownRow } from "@alvek/core/property";
import { Download, Rows3 } from "lucide-react";
import { lazy, Suspense, useMemo } from "react";
import { Link, useSearchParams } from "react-router";

import { mutate, undoEvent } from "../../api/mutate";
import { useRoute } from "../../api/queries";
import { showIssues } from "../../api/refusals";
import { useUnitSet } from "../../stores/preferences";
import { showToast } from "../../stores/toasts";
import { useTray } from "../../stores/tray";
import { saveFile } from "../../ui/copy";
import { Popover } from "../../ui/Popover";
import { Empty, Failure, Loading } from "../../ui/states";
import { CompareTable } from "./CompareTable";
import { comparePicture } from "./picture";
import { type Column, type ForParts, labelOf, MOST_COLUMNS, useCompared } from "./useCompared";
import { compareTable, trustSentences } from "./words";

const CurvesTogether = lazy(async () => ({ default: (await import("./CurvesTogether")).CurvesTogether }));

/** Up to six materials side by side, perhaps against what a part is made of now. */
export function ComparePlace() {
	const unitSet = useUnitSet();
	const [params, setParams] = useSearchParams();
	const { waiting, error, columns, left, forParts } = useCompared();
	const libraries = useRoute("listLibraries", {});
	const own = useMemo(() => (libraries.data ?? []).flatMap((l) => l.ownProperties.map(ownRow)), [libraries.data]);
	const onlyDifferences = params.get("only") === "differences";
	const hidden = (params.get("without") ?? "").split(",").filter((id) => id !== "");
	const money = moneyOf(columns, forParts);
	const sides = columns.map((c) => ({ id: c.key, name: c.name, material: c.material }));
	const all = compareRows(sides, own, money);
	const rows = all.filter((r) => !hidden.includes(r.id) && !(onlyDifferences && isUniform(r)));
	const wanted = columns.findIndex((c) => c.key === params.get("against"));
	const present = columns.findIndex((c) => c.present);
	const base = wanted >= 0 ? wanted : Math.max(present, 0);
	const set = (key: string, text: string): void => {
		const next = new URLSearchParams(params);
		if (text === "") next.delete(key);
		else next.set(key, text);
		setParams(next, { replace: true });
	};
	if (error !== null) return <Failure error={error} />;
	if (waiting) return <Loading what="The comparison" />;
	if (columns.length === 0) return <NothingToCompare />;
	const ids = (params.get("ids") ?? "").split(",");
	return (
		<>
			<section aria-label="Comparison" className="flex-1 min-w-0 flex flex-col bg-card">
				<div className="shrink-0 flex items-center gap-2 px-5 h-14">
					<h1>Compare</h1>
					<p className="text-ink2 truncate min-w-0">
						{columns[base]?.present && forParts !== null ? (
							<>
								against the present <b className="text-ink">{columns[base]?.name}</b> of {forParts.name}
							</>
						) : (
							<>
								against <b className="text-ink">{columns[base]?.name}</b>
							</>
						)}
					</p>
					<div role="group" aria-label="Rows" className="ml-auto flex border border-line rounded-md shrink-0">
						{(["", "differences"] as const).map((only) => (
							<button
								key={only}
								type="button"
								aria-pressed={onlyDifferences === (only !== "")}
								className={`h-7 px-2.5 ${onlyDifferences === (only !== "") ? "bg-accent-soft font-bold text-primary" : "text-ink2 hover:text-ink"}`}
								onClick={() => set("only", only)}
							>
								{only === "" ? "all" : "only differences"}
							</button>
						))}
					</div>
					<Popover
						label="Properties"
						button={
							<>
								<Rows3 size={15} aria-hidden /> Properties
							</>
						}
					>
						<div className="w-65 max-h-110 overflow-y-auto p-3">
							{all.map((row) => (
								<label key={row.id} className="flex items-center gap-2 py-0.5">
									<input
										type="checkbox"
										className="checkbox checkbox-primary"
										checked={!hidden.includes(row.id)}
										onChange={(e) =>
											set("without", (e.target.checked ? hidden.filter((h) => h !== row.id) : [...hidden, row.id]).join(","))
										}
									/>
									{row.name}
								</label>
							))}
						</div>
					</Popover>
					<Popover
						label="Write"
						button={
							<>
								<Download size={15} aria-hidden /> Write
							</>
						}
					>
						<div className="w-52.5 p-2 flex flex-col">
							<button
								type="button"
								className="btn btn-ghost justify-start!"
								onClick={() =>
									saveFile("comparison.csv", `\ufeff${csvText(compareTable(columns, rows, unitSet), ",")}`, "text/csv")
								}
							>
								Table as CSV
							</button>
							<button
								type="button"
								className="btn btn-ghost justify-start!"
								onClick={() => saveFile("comparison.png", comparePicture(columns, rows, base, unitSet).toDataURL("image/png"))}
							>
								Picture as PNG
							</button>
						</div>
					</Popover>
				</div>
				<div className="flex-1 min-h-0 overflow-auto px-5 pb-6">
					{left > 0 && (
						<p role="status" className="caption mb-2">
							{left === 1 ? "One more was asked for; it" : `${left} more were asked for; they`} did not fit ({MOST_COLUMNS} stand
							side by side) or may not be seen.
						</p>
					)}
					<CompareTable
						columns={columns}
						rows={rows}
						base={base}
						forParts={forParts}
						onBase={(key) => set("against", key)}
						onRemove={(column) => set("ids", ids.filter((id) => id !== column.materialId).join(","))}
						onAssign={(column) => forParts !== null && assign(forParts, column)}
					/>
					{rows.length === 0 && <p className="py-3.5 text-ink2">Nothing differs in what they hold.</p>}
				</div>
			</section>
			<aside aria-label="Curves and trust" className="w-72.5 shrink-0 bg-paper border-l border-line overflow-y-auto px-4 py-3.5">
				<Suspense fallback={<Loading what="Curves" />}>
					<CurvesTogether columns={columns} />
				</Suspense>
				<Trust sentences={trustSentences(columns, rows)} />
				<Rates money={money} columns={columns} />
			</aside>
		</>
	);
}

function Trust({ sentences }: { sentences: readonly string[] }) {
	return (
		<>
			<h2 className="font-bold text-md mt-4.5 mb-1">Where they differ in trust</h2>
			{sentences.length === 0 && <p className="caption">They do not: all numbers rest on evidence of one basis.</p>}
			<ul className="text-sm leading-4.25">
				{sentences.map((s) => (
					<li key={s} className="mb-0.75">
						{s}
					</li>
				))}
			</ul>
		</>
	);
}

/** Dates of prices, and the rates that some of them went through. */
function Rates({ money, columns }: { money: Money; columns: readonly Column[] }) {
	const prices = columns.flatMap((c) => (c.material.price === null ? [] : [{ name: labelOf(c, columns), ...c.material.price }]));
	if (prices.length === 0) return null;
	return (
		<>
			<h2 className="font-bold text-md mt-4.5 mb-1">Prices</h2>
			<ul className="text-sm leading-4.25">
				{prices.map((p) => {
					const rate = money.rates.find((r) => r.currency === p.currency);
					return (
						<li key={p.name}>
							{p.name}: {p.amount} {p.currency}/kg, {p.date}
							{rate !== undefined && `; 1 ${p.currency} = ${rate.rate} ${money.currency} on ${rate.date}`}
						</li>
					);
				})}
			</ul>
		</>
	);
}

/** The project's currency and rates; without a project the first price's currency, and no rate. */
function moneyOf(columns: readonly Column[], forParts: ForParts | null): Money {
	if (forParts !== null) return forParts.project.money;
	return { currency: columns.find((c) => c.material.price !== null)?.material.price?.currency ?? "EUR", rates: [] };
}

async function assign({ project, parts, name }: ForParts, column: Column): Promise<void> {
	const { materialId, draft } = column;
	const result = await mutate("assign", { id: project.id, parts: parts.map((p) => p.id), materialId, draft });
	if (!result.ok) return showIssues(result.issues);
	const what = `${name} is made of ${column.name} now`;
	showToast({ tone: "plain", text: `${what}.`, action: { label: "Undo", run: () => undoEvent(result.value.event, what) } });
}

function NothingToCompare() {
	const items = useTray((s) => s.items);
	return (
		<Empty title="Nothing to compare yet.">
			{items.length > 0 ? (
				<Link
					className="btn"
					to={`/compare?ids=${items
						.slice(-MOST_COLUMNS)
						.map((i) => i.id)
						.join(",")}`}
				>
					Compare the materials of the tray
				</Link>
			) : (
				<>
					Put materials into the tray (<b>T</b> on a row of the{" "}
					<Link to="/materials" className="quiet-link">
						grid
					</Link>
					), then choose <b>Compare</b> there.
				</>
			)}
		</Empty>
	);
}
