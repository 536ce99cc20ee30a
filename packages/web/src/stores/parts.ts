import { create } from "zustand";

type PartSelection = {
	readonly project: string | null;
	readonly selected: readonly string[];
	/** Replaces, or with `add` toggles. */
	readonly select: (project: string, parts: readonly string[], add?: boolean) => void;
};

/** Selected parts, shared by the table, the 3D view and the tray. */
export const usePartSelection = create<PartSelection>((set) => ({
	project: null,
	selected: [],
	select: (project, parts, add = false) =>
		set((s) => {
			if (!add || s.project !== project) return { project, selected: parts };
			const kept = s.selected.filter((p) => !parts.includes(p));
			const fresh = parts.filter((p) => !s.selected.includes(p));
			return { project, selected: [...kept, ...fresh] };
		}),
}));
