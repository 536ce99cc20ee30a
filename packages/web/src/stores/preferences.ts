import type { Basis, Evidence, Readiness } from "@alvek/core/material";
import type { UnitSetId } from "@alvek/core/property";
import { create } from "zustand";
import { persist } from "zustand/middleware";

/** Evidence and basis by their ids, the source by its title or in plain words; "": unspecified. */
export type EnteredAs = { readonly evidence: Evidence | ""; readonly basis: Basis | ""; readonly source: string };

/** A key with those held beside it: as it is bound, and as it is written on the keyboard. */
export type OwnKey = { readonly keys: string; readonly shown: string };

type Preferences = {
	readonly theme: "day" | "night";
	readonly unitSet: UnitSetId;
	/** The use whose blanks Enter goes to on a sheet. */
	readonly wantedUse: Readiness["use"];
	/** Library that new materials go to. */
	readonly target: string | null;
	/** The material that new projects begin with as their default; null: none. */
	readonly projectDefault: { readonly id: string; readonly name: string } | null;
	/** What the values of a line typed on a sheet say of themselves, until somebody says otherwise. */
	readonly enteredAs: EnteredAs;
	/** The group that copies go to, by the pair of libraries that they go between. */
	readonly copyGroups: Readonly<Record<string, string>>;
	/** Keys that the person gave actions, by the id of the action. */
	readonly ownKeys: Readonly<Record<string, OwnKey>>;
	readonly filtersOpen: boolean;
	readonly briefOpen: boolean;
	readonly toggleTheme: () => void;
	/** What names things of a person's work is gone for the next one at this browser. */
	readonly forget: () => void;
	readonly set: (change: Partial<Omit<Preferences, "set" | "toggleTheme" | "forget">>) => void;
};

const NOTHING_KEPT = { projectDefault: null, enteredAs: { evidence: "", basis: "", source: "" }, copyGroups: {} } as const;

/** How this person likes the interface; stays in this browser. */
export const usePreferences = create<Preferences>()(
	persist(
		(set) => ({
			theme: "day",
			unitSet: "engineering",
			wantedUse: "linear_static",
			target: null,
			...NOTHING_KEPT,
			ownKeys: {},
			filtersOpen: true,
			briefOpen: true,
			toggleTheme: () => set((s) => ({ theme: s.theme === "day" ? "night" : "day" })),
			set: (change) => set(change),
			forget: () => set(NOTHING_KEPT),
		}),
		{
			name: "alvek.preferences",
			version: 1,
			partialize: ({
				theme,
				unitSet,
				wantedUse,
				target,
				projectDefault,
				enteredAs,
				copyGroups,
				ownKeys,
				filtersOpen,
				briefOpen,
			}) => ({
				theme,
				unitSet,
				wantedUse,
				target,
				projectDefault,
				enteredAs,
				copyGroups,
				ownKeys,
				filtersOpen,
				briefOpen,
			}),
		},
	),
);

export function useUnitSet(): UnitSetId {
	return usePreferences((s) => s.unitSet);
}
