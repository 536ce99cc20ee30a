import { PanelLeft, PanelRight, Plus } from "lucide-react";
import { useDeferredValue, useState } from "react";
import { useRoute } from "../../api/queries";
import { usePreferences } from "../../stores/preferences";
import { Empty, Failure, Loading } from "../../ui/states";
import { useMedia } from "../../ui/useMedia";
import { Brief } from "./Brief";
import { ColumnChooser } from "./ColumnChooser";
import { Filters } from "./Filters";
import { Grid } from "./Grid";
import { NewMaterial } from "./NewMaterial";
import { useGridView } from "./view";

/** Filters, grid, brief. */
export function MaterialsPlace() {
	const [view, change] = useGridView();
	const { target, set } = usePreferences();
	const panels = usePanels();
	const text = useDeferredValue(view.text);
	const libraries = useRoute("listLibraries", {});
	const page = useRoute("findMaterials", {
		text,
		library: view.library.join(","),
		group: view.group.join(","),
		ready: view.ready.join(","),
		sort: view.sort,
		dir: view.dir,
		limit: "5000",
	});
	const editable = libraries.data?.filter((l) => l.mayEdit) ?? [];
	const goal = editable.find((l) => l.id === target) ?? editable[0];
	const focused = page.data?.rows.find((r) => r.id === view.row) ?? page.data?.rows[0];
	return (
		<>
			{panels.filters && <Filters view={view} change={change} page={page.data} libraries={libraries.data ?? []} />}
			<section aria-label="Materials" className="flex-1 min-w-0 flex flex-col bg-card border-x border-line">
				<div className="h-[48px] shrink-0 flex items-center gap-[10px] px-[14px]">
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
							{page.data && `${page.data.total} of ${page.data.all}`}
						</span>
					</h1>
					{goal && (
						<label className="caption flex items-center gap-[4px] whitespace-nowrap ml-[6px] min-w-0 overflow-hidden">
							new ones go to
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
					)}
					<span className="ml-auto" />
					<ColumnChooser columns={view.columns} onChange={(columns) => change({ columns })} />
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
				{page.isError && <Failure error={page.error} retry={() => page.refetch()} />}
				{page.isPending && <Loading what="Materials" />}
				{page.data && page.data.rows.length > 0 && (
					<Grid rows={page.data.rows} view={view} change={change} focused={focused?.id ?? null} />
				)}
				{page.data && page.data.rows.length < page.data.total && (
					<p className="shrink-0 border-t border-line px-[16px] py-[6px] caption" role="status">
						The first {page.data.rows.length} of {page.data.total} are shown. Narrow the filters to reach the others.
					</p>
				)}
				{page.data?.rows.length === 0 && page.data.all > 0 && (
					<Empty title="No material passes these filters.">
						<p className="mb-[12px]">{page.data.all} are there. Take a filter away, or start afresh.</p>
						<button type="button" className="btn" onClick={() => change({ text: "", library: [], group: [], ready: [] })}>
							Clear all filters
						</button>
					</Empty>
				)}
				{page.data?.all === 0 && (
					<Empty title="The libraries are empty.">
						Begin with <b>New material</b>: a name is enough, and only what a use needs has to be filled in.
					</Empty>
				)}
			</section>
			{view.create !== null && goal !== undefined ? (
				<NewMaterial from={view.create} library={goal} close={() => change({ create: null })} />
			) : (
				panels.brief && <Brief row={focused ?? null} libraries={libraries.data ?? []} change={change} />
			)}
		</>
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
