import type { UseId } from "@alvek/core/material";
import type { UnitSetId } from "@alvek/core/property";
import { create } from "zustand";
import { persist } from "zustand/middleware";

type Preferences = {
	readonly theme: "day" | "night";
	readonly unitSet: UnitSetId;
	/** The use whose blanks Enter goes to on a sheet. */
	readonly wantedUse: UseId;
	/** Library that new materials go to. */
	readonly target: string | null;
	readonly filtersOpen: boolean;
	readonly briefOpen: boolean;
	readonly toggleTheme: () => void;
	readonly set: (change: Partial<Omit<Preferences, "set" | "toggleTheme">>) => void;
};

/** How this person likes the interface; stays in this browser. */
export const usePreferences = create<Preferences>()(
	persist(
		(set) => ({
			theme: "day",
			unitSet: "engineering",
			wantedUse: "linear_static",
			target: null,
			filtersOpen: true,
			briefOpen: true,
			toggleTheme: () => set((s) => ({ theme: s.theme === "day" ? "night" : "day" })),
			set: (change) => set(change),
		}),
		{
			name: "alvek.preferences",
			version: 1,
			partialize: ({ theme, unitSet, wantedUse, target, filtersOpen, briefOpen }) => ({
				theme,
				unitSet,
				wantedUse,
				target,
				filtersOpen,
				briefOpen,
			}),
		},
	),
);

export function useUnitSet(): UnitSetId {
	return usePreferences((s) => s.unitSet);
}
