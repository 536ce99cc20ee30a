import type { LibraryView, MaterialPage } from "@alvek/contract";
import { ownRow } from "@alvek/core/property";
import { lazy, Suspense, useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import { useRoute } from "../../api/queries";
import { useKeptByMe, useTargetLibrary } from "../../shared/targetLibrary";
import { useUnitSet } from "../../stores/preferences";
import { Empty, Failure, Loading } from "../../ui/states";
import { counted } from "../../ui/words";
import { Brief, KEY_VALUES } from "./Brief";
import { useEditing } from "./cells/useEditing";
import { copyTable } from "./copyTable";
import { FilterSentence } from "./FilterSentence";
import { Filters } from "./Filters";
import { Grid } from "./Grid";
import { useMarking } from "./many/useMarking";
import { gridColumns, isSameColumn } from "./numbers";
import { Strips } from "./strips/Strips";
import { columnsQuestion, useColumns } from "./strips/useColumns";
import { Toolbar, usePanels } from "./Toolbar";
import { type Rows, useRows } from "./useRows";
import { type ChangeView, type GridView, isFiltered, narrowingOf, UNFILTERED, useGridView } from "./view";
import { wordColumns } from "./wordColumns";
import { countOf, type OwnRows, rowOfProperty } from "./words";

const EditBar = lazy(async () => ({ default: (await import("./cells/EditBar")).EditBar }));
const ManyBar = lazy(async () => ({ default: (await import("./many/ManyBar")).ManyBar }));
// the form brings its checks along, which the grid does without
const NewMaterial = lazy(async () => ({ default: (await import("./NewMaterial")).NewMaterial }));

/** Filters, strips, grid, brief. */
export function MaterialsPlace() {
	const [view, change] = useGridView();
	const panels = usePanels();
	const [draggedCount, setDraggedCount] = useState<number | null>(null);
	const { libraries, own, strips, packed, head, rows, words, columns } = useGridData(view);
	const [focused, setFocused] = useFocus(rows, view.row, (id) => change({ row: id }));
	const editing = useEditing({
		active: view.editing && columns.length > 0,
		rows,
		columns,
		libraries,
		onRow: setFocused,
		leave: () => change({ editing: false }),
	});
	const target = useTargetLibrary(libraries);
	const mine = useKeptByMe(libraries);
	const marking = useMarking(rows, narrowingOf(view));
	const page = head.data;
	const count = page && (draggedCount ?? page.total);
	const creating = view.create !== null && target !== undefined;
	const shared = { view, change, libraries, own };
	return (
		<>
			{panels.filters && (
				<Filters {...shared} page={page}>
					<button type="button" className="btn w-full mb-3 md:hidden" onClick={() => panels.toggle("filters")}>
						Show {page === undefined ? "the list" : counted(page.total, "material")}
					</button>
				</Filters>
			)}
			{/* on a phone one thing at a time has the whole width */}
			<section
				aria-label="Materials"
				className={`flex-1 min-w-0 flex flex-col bg-card border-x border-line ${panels.filters || panels.brief || creating ? "max-md:hidden" : ""}`}
			>
				<Toolbar
					{...shared}
					panels={panels}
					count={page && `${count} of ${page.all}`}
					target={target}
					canEdit={columns.length > 0}
				/>
				<Strips view={view} change={change} strips={strips} columns={packed} own={own} onCount={setDraggedCount} />
				{page && (
					<FilterSentence {...shared} total={count ?? page.total} near={page.near} retired={countOf(page, "marks", "retired")} />
				)}
				{head.isError && <Failure error={head.error} retry={() => head.refetch()} />}
				{head.isPending && <Loading what="Materials" />}
				{rows.total > 0 && (
					<Grid
						rows={rows}
						words={words}
						columns={columns}
						view={view}
						change={change}
						focused={focused}
						onFocus={setFocused}
						editing={editing}
						marking={marking}
						mine={mine}
					/>
				)}
				{marking.ids.size > 0 && !editing.active && (
					<Suspense fallback={null}>
						<ManyBar marking={marking} libraries={libraries} copy={(some) => copyTable(some, words, columns)} />
					</Suspense>
				)}
				{editing.active && (
					<Suspense fallback={null}>
						<EditBar editing={editing} leave={() => change({ editing: false })} />
					</Suspense>
				)}
				{page && <NothingHere page={page} view={view} change={change} />}
			</section>
			{view.create !== null && target !== undefined ? (
				<Suspense fallback={<aside className="w-74 shrink-0 bg-paper max-md:w-full" />}>
					<NewMaterial from={view.create} library={target} close={() => change({ create: null })} />
				</Suspense>
			) : (
				panels.brief && (
					<Brief
						listed={rows.at(focused) ?? null}
						wanted={rows.complete || rows.indexOf(view.row ?? "") >= 0 ? null : view.row}
						libraries={libraries}
						change={change}
						close={() => panels.toggle("brief")}
					/>
				)
			)}
		</>
	);
}

const NO_LIBRARIES: readonly LibraryView[] = [];

/** What the server says of a view: rows with counts, numbers of its strips, and the columns they are drawn in. */
function useGridData(view: GridView) {
	const unitSet = useUnitSet();
	const text = useDeferredValue(view.text);
	const libraries = useRoute("listLibraries", {}).data ?? NO_LIBRARIES;
	const own = useMemo(
		(): OwnRows => new Map(libraries.flatMap((l) => l.ownProperties.map(ownRow)).map((row) => [row.id, row])),
		[libraries],
	);
	const narrowing = narrowingOf(view, text);
	const strips = view.strips.filter((s) => rowOfProperty(s.id, own) !== undefined);
	const shown = strips.length === 0 ? [] : [...strips.map((s) => s.id), ...view.where.map((w) => w.property)];
	const question = columnsQuestion(narrowing, shown);
	const words = useSame(wordColumns(view.columns), (a, b) => a.id === b?.id && a.width === b.width);
	const numbers = view.columns.filter((c) => words.every((w) => w.id !== c.id));
	const values = [...new Set([...numbers.map((c) => c.id), ...KEY_VALUES])];
	const { head, rows } = useRows(narrowing, values, question);
	const packed = useColumns(question, head.isFetching);
	const columns = useSame(gridColumns(rows.sample, numbers, unitSet, own), isSameColumn);
	return { libraries, own, strips, packed, head, rows, words, columns };
}

/** Why no row is here, and what to do about it. */
function NothingHere({ page, view, change }: { page: MaterialPage; view: GridView; change: ChangeView }) {
	if (page.total === 0 && page.all > 0)
		return (
			<Empty title="No material passes these filters.">
				<p className="mb-3">{page.all} are there. Remove a filter, or start afresh.</p>
				<button type="button" className="btn" onClick={() => change(UNFILTERED)}>
					Clear all filters
				</button>
			</Empty>
		);
	if (page.all > 0 || isFiltered(view)) return null;
	return (
		<Empty title="The libraries are empty.">
			Begin with <b>New material</b>: a name is enough, and only what a use needs has to be filled in.
		</Empty>
	);
}

/** The columns of before while they say the same, so that rows that come into sight draw no other row anew. */
function useSame<T>(columns: readonly T[], isSame: (a: T, b: T | undefined) => boolean): readonly T[] {
	const kept = useRef(columns);
	const same = columns.length === kept.current.length && columns.every((c, i) => isSame(c, kept.current[i]));
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
