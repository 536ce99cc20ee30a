import type { LibraryView } from "@alvek/contract";
import { PanelLeft, PanelRight, Plus, Table2 } from "lucide-react";
import { useState } from "react";
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
			<TargetLibrary libraries={libraries} target={target} />
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
			<button
				type="button"
				className="btn btn-primary"
				disabled={target === undefined}
				onClick={() => change({ create: "blank" })}
			>
				<Plus size={15} aria-hidden /> New material
			</button>
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

/** Where new materials go: the library that the person chose, while it can be edited. */
export function useTargetLibrary(libraries: readonly LibraryView[]): LibraryView | undefined {
	const chosen = usePreferences((s) => s.target);
	const editable = libraries.filter((l) => l.mayEdit && !l.hidden);
	return editable.find((l) => l.id === chosen) ?? editable[0];
}

/** Where new materials go, always in sight. */
function TargetLibrary({ libraries, target }: { libraries: readonly LibraryView[]; target: LibraryView | undefined }) {
	const set = usePreferences((s) => s.set);
	const editable = libraries.filter((l) => l.mayEdit && !l.hidden);
	if (target === undefined) return null;
	return (
		<label className="caption flex items-center gap-1 whitespace-nowrap ml-1.5 min-w-0 overflow-hidden">
			new in
			{editable.length > 1 ? (
				<select
					className="font-semibold text-ink bg-transparent"
					value={target.id}
					onChange={(e) => set({ target: e.target.value })}
				>
					{editable.map((l) => (
						<option key={l.id} value={l.id} className="bg-card">
							{l.name}
						</option>
					))}
				</select>
			) : (
				<b className="text-ink truncate">{target.name}</b>
			)}
		</label>
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
