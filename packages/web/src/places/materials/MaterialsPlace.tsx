import type { LibraryView } from "@alvek/contract";
import { ownRow } from "@alvek/core/property";
import { PanelLeft, PanelRight, Plus, Table2 } from "lucide-react";
import { lazy, Suspense, useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import { useRoute } from "../../api/queries";
import { usePreferences, useUnitSet } from "../../stores/preferences";
import { Empty, Failure, Loading } from "../../ui/states";
import { useMedia } from "../../ui/useMedia";
import { Brief, KEY_VALUES } from "./Brief";
import { ColumnChooser } from "./ColumnChooser";
import { EditBar } from "./EditBar";
import { FilterSentence } from "./FilterSentence";
import { Filters } from "./Filters";
import { Grid } from "./Grid";
import { useMarking } from "./many/useMarking";
import { type GridColumn, gridColumns, isSameColumn } from "./numbers";
import { StripChooser } from "./strips/StripChooser";
import { Strips } from "./strips/Strips";
import { useEditing } from "./useEditing";
import { type Rows, useRows } from "./useRows";
import { Views } from "./Views";
import { isFiltered, narrowingOf, UNFILTERED, useGridView } from "./view";
import type { OwnRows } from "./words";

const ManyBar = lazy(async () => ({ default: (await import("./many/ManyBar")).ManyBar }));
// the form brings its checks along, which the grid does without
const NewMaterial = lazy(async () => ({ default: (await import("./NewMaterial")).NewMaterial }));

/** Filters, strips, grid, brief. */
export function MaterialsPlace() {
	const [view, change] = useGridView();
	const panels = usePanels();
	const unitSet = useUnitSet();
	const text = useDeferredValue(view.text);
	const libraries = useRoute("listLibraries", {});
	const values = [...new Set([...view.columns.map((c) => c.id), ...KEY_VALUES])];
	const narrowing = narrowingOf(view, text);
	const { head, rows } = useRows(narrowing, values);
	const [draggedCount, setDraggedCount] = useState<number | null>(null);
	const page = head.data;
	const own = useMemo(
		(): OwnRows => new Map((libraries.data ?? []).flatMap((l) => l.ownProperties.map(ownRow)).map((row) => [row.id, row])),
		[libraries.data],
	);
	const { columns: choices } = view;
	const columns = useSame(gridColumns(rows.sample, choices, unitSet, own));
	const [focused, setFocused] = useFocus(rows, view.row, (id) => change({ row: id }));
	const editing = useEditing({
		active: view.editing && columns.length > 0,
		rows,
		columns,
		libraries: libraries.data ?? [],
		onRow: setFocused,
		leave: () => change({ editing: false }),
	});
	const goal = useGoal(libraries.data ?? []);
	const marking = useMarking(rows);
	return (
		<>
			{panels.filters && <Filters view={view} change={change} page={page} libraries={libraries.data ?? []} own={own} />}
			<section aria-label="Materials" className="flex-1 min-w-0 flex flex-col bg-card border-x border-line">
				<div className="h-[48px] shrink-0 flex items-center gap-[5px] px-[14px]">
					<button
						type="button"
						className="btn btn-ghost btn-icon -ml-[6px]"
						aria-pressed={panels.filters}
						aria-label="Filters"
						onClick={() => panels.toggle("filters")}
					>
						<PanelLeft size={16} aria-hidden />
					</button>
					<h1 className="flex items-baseline gap-[7px] whitespace-nowrap">
						Materials
						<span className="text-[14px] font-normal text-ink2" aria-live="polite">
							{page && `${draggedCount ?? page.total} of ${page.all}`}
						</span>
					</h1>
					<Goal libraries={libraries.data ?? []} goal={goal} />
					<span className="ml-auto" />
					<Views view={view} />
					<StripChooser strips={view.strips} own={own} onChange={(strips) => change({ strips })} />
					<ColumnChooser columns={view.columns} own={own} onChange={(columns) => change({ columns })} />
					<button
						type="button"
						className="btn btn-ghost btn-icon"
						aria-pressed={view.editing}
						aria-label="Edit cells"
						title="Edit cells"
						disabled={columns.length === 0}
						onClick={() => change({ editing: !view.editing })}
					>
						<Table2 size={15} aria-hidden />
					</button>
					<button
						type="button"
						className="btn btn-primary"
						disabled={goal === undefined}
						onClick={() => change({ create: "blank" })}
					>
						<Plus size={15} aria-hidden /> New material
					</button>
					<button
						type="button"
						className="btn btn-ghost btn-icon -mr-[6px]"
						aria-pressed={panels.brief}
						aria-label="Brief"
						onClick={() => panels.toggle("brief")}
					>
						<PanelRight size={16} aria-hidden />
					</button>
				</div>
				<Strips view={view} change={change} narrowing={narrowing} own={own} onCount={setDraggedCount} />
				{page && (
					<FilterSentence
						view={view}
						change={change}
						libraries={libraries.data ?? []}
						own={own}
						total={draggedCount ?? page.total}
					/>
				)}
				{head.isError && <Failure error={head.error} retry={() => head.refetch()} />}
				{head.isPending && <Loading what="Materials" />}
				{rows.total > 0 && (
					<Grid
						rows={rows}
						columns={columns}
						view={view}
						change={change}
						focused={focused}
						onFocus={setFocused}
						editing={editing}
						marking={marking}
					/>
				)}
				{marking.ids.size > 0 && !editing.active && (
					<Suspense fallback={null}>
						<ManyBar marking={marking} libraries={libraries.data ?? []} />
					</Suspense>
				)}
				{editing.active && <EditBar editing={editing} leave={() => change({ editing: false })} />}
				{page?.total === 0 && page.all > 0 && (
					<Empty title="No material passes these filters.">
						<p className="mb-[12px]">{page.all} are there. Take a filter away, or start afresh.</p>
						<button type="button" className="btn" onClick={() => change(UNFILTERED)}>
							Clear all filters
						</button>
					</Empty>
				)}
				{page?.all === 0 && !isFiltered(view) && (
					<Empty title="The libraries are empty.">
						Begin with <b>New material</b>: a name is enough, and only what a use needs has to be filled in.
					</Empty>
				)}
			</section>
			{view.create !== null && goal !== undefined ? (
				<Suspense fallback={<aside className="w-[296px] shrink-0 bg-paper" />}>
					<NewMaterial from={view.create} library={goal} close={() => change({ create: null })} />
				</Suspense>
			) : (
				panels.brief && (
					<Brief
						slim={rows.at(focused) ?? null}
						wanted={rows.complete || rows.indexOf(view.row ?? "") >= 0 ? null : view.row}
						libraries={libraries.data ?? []}
						change={change}
					/>
				)
			)}
		</>
	);
}

/** The columns of before while they say the same, so that rows that come into sight draw no other row anew. */
function useSame(columns: readonly GridColumn[]): readonly GridColumn[] {
	const kept = useRef(columns);
	const same = columns.length === kept.current.length && columns.every((c, i) => isSameColumn(c, kept.current[i]));
	if (!same) kept.current = columns;
	return kept.current;
}

/** Place of the row in focus. Walking may be faster than rows arrive: the place leads until its row, and its id, are here. */
function useFocus(rows: Rows, wanted: string | null, tell: (id: string) => void): readonly [number, (index: number) => void] {
	const [ahead, setAhead] = useState<number | null>(null);
	const arrived = ahead === null ? undefined : rows.at(ahead);
	const focus = (index: number): void => {
		const row = rows.at(index);
		setAhead(row === undefined ? index : null);
		if (row !== undefined) tell(row.id);
	};
	// biome-ignore lint/correctness/useExhaustiveDependencies: only the arrival counts
	useEffect(() => {
		if (ahead !== null && arrived !== undefined) focus(ahead);
	}, [arrived]);
	const found = wanted === null ? -1 : rows.indexOf(wanted);
	return [ahead !== null && ahead < rows.total ? ahead : Math.max(found, 0), focus];
}

function useGoal(libraries: readonly LibraryView[]): LibraryView | undefined {
	const target = usePreferences((s) => s.target);
	const editable = libraries.filter((l) => l.mayEdit && !l.hidden);
	return editable.find((l) => l.id === target) ?? editable[0];
}

/** Where new materials go, always in sight. */
function Goal({ libraries, goal }: { libraries: readonly LibraryView[]; goal: LibraryView | undefined }) {
	const set = usePreferences((s) => s.set);
	const editable = libraries.filter((l) => l.mayEdit && !l.hidden);
	if (goal === undefined) return null;
	return (
		<label className="caption flex items-center gap-[4px] whitespace-nowrap ml-[6px] min-w-0 overflow-hidden">
			new in
			{editable.length > 1 ? (
				<select
					className="font-semibold text-ink bg-transparent"
					value={goal.id}
					onChange={(e) => set({ target: e.target.value })}
				>
					{editable.map((l) => (
						<option key={l.id} value={l.id} className="bg-card">
							{l.name}
						</option>
					))}
				</select>
			) : (
				<b className="text-ink truncate">{goal.name}</b>
			)}
		</label>
	);
}

/** Filters and brief: both where there is room, remembered; in a narrow window one at a time, and none at first. */
function usePanels() {
	const { filtersOpen, briefOpen, set } = usePreferences();
	const narrow = useMedia("(max-width: 1150px)");
	const [only, setOnly] = useState<"filters" | "brief" | null>(null);
	return {
		filters: narrow ? only === "filters" : filtersOpen,
		brief: narrow ? only === "brief" : briefOpen,
		toggle: (panel: "filters" | "brief") => {
			if (narrow) setOnly(only === panel ? null : panel);
			else set(panel === "filters" ? { filtersOpen: !filtersOpen } : { briefOpen: !briefOpen });
		},
	};
}
