import type { LibraryView } from "@alvek/contract";
import { ChevronDown, PanelLeft, PanelRight, Plus, Table2 } from "lucide-react";
import { useState } from "react";
import { useMe } from "../../api/queries";
import { byKeeper, editable } from "../../shared/keepers";
import { usePreferences } from "../../stores/preferences";
import { useMedia } from "../../ui/useMedia";
import { ColumnChooser } from "./ColumnChooser";
import { StripChooser } from "./strips/StripChooser";
import { Views } from "./Views";
import type { ChangeView, GridView } from "./view";
import type { OwnRows } from "./words";

/** Title, where new materials go, and what the grid shows. */
export function Toolbar(props: {
	view: GridView;
	change: ChangeView;
	panels: Panels;
	/** Undefined until it is known. */
	count: string | undefined;
	libraries: readonly LibraryView[];
	target: LibraryView | undefined;
	own: OwnRows;
	canEdit: boolean;
}) {
	const { view, change, panels, count, libraries, target, own, canEdit } = props;
	return (
		<div className="min-h-12 shrink-0 flex flex-wrap items-center gap-1.5 px-3.5">
			<PanelButton panel="filters" panels={panels} className="-ml-1.5" />
			<h1 className="flex items-baseline gap-2 whitespace-nowrap">
				Materials
				<span className="text-md font-normal text-ink2" aria-live="polite">
					{count}
				</span>
			</h1>
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
				disabled={!canEdit}
				onClick={() => change({ editing: !view.editing })}
			>
				<Table2 size={15} aria-hidden />
			</button>
			<NewButton libraries={libraries} target={target} create={() => change({ create: "blank" })} />
			<PanelButton panel="brief" panels={panels} className="-mr-1.5" />
		</div>
	);
}

/** Opens and closes the panel on its side of the grid. */
function PanelButton({ panel, panels, className }: { panel: "filters" | "brief"; panels: Panels; className: string }) {
	const Icon = panel === "filters" ? PanelLeft : PanelRight;
	return (
		<button
			type="button"
			className={`btn btn-ghost btn-icon ${className}`}
			aria-pressed={panels[panel]}
			aria-label={panel === "filters" ? "Filters" : "Brief"}
			onClick={() => panels.toggle(panel)}
		>
			<Icon size={16} aria-hidden />
		</button>
	);
}

/** The button that names where a new material goes, and the choice of another library beside it. */
function NewButton({
	libraries,
	target,
	create,
}: {
	libraries: readonly LibraryView[];
	target: LibraryView | undefined;
	create: () => void;
}) {
	const set = usePreferences((s) => s.set);
	const me = useMe();
	const several = editable(libraries).length > 1;
	return (
		<span className="flex">
			<button
				type="button"
				className={`btn btn-primary ${several ? "rounded-r-none" : ""}`}
				disabled={target === undefined}
				title={target === undefined ? "No library is open to you for changes" : undefined}
				onClick={create}
			>
				<Plus size={15} aria-hidden /> New material
				{target !== undefined && <span className="font-normal truncate max-w-34">in {target.name}</span>}
			</button>
			{several && target !== undefined && (
				<span className="relative btn btn-primary rounded-l-none px-1! border-l border-l-paper/40 focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-primary">
					<ChevronDown size={14} aria-hidden />
					<select
						className="absolute inset-0 opacity-0 cursor-pointer"
						aria-label="Library for new materials"
						value={target.id}
						onChange={(e) => set({ target: e.target.value })}
					>
						{byKeeper(editable(libraries), me?.id ?? null).map(([words, some]) => (
							<optgroup key={words} label={words}>
								{some.map((l) => (
									<option key={l.id} value={l.id} className="bg-card text-ink">
										{l.name}
									</option>
								))}
							</optgroup>
						))}
					</select>
				</span>
			)}
		</span>
	);
}

export type Panels = ReturnType<typeof usePanels>;

/** Filters and brief: both where there is room, remembered; in a narrow window one at a time, and none at first. */
export function usePanels() {
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
