import { create } from "zustand";
import { persist } from "zustand/middleware";

/** What a chip needs to show itself; the numbers are asked for where they are used. */
export type TrayItem = {
	readonly id: string;
	readonly name: string;
	readonly colour: string;
	readonly revision: number;
	readonly draft: boolean;
};

type Tray = {
	readonly items: readonly TrayItem[];
	readonly folded: boolean;
	readonly add: (item: TrayItem) => void;
	readonly remove: (id: string) => void;
	readonly clear: () => void;
	readonly setFolded: (folded: boolean) => void;
};

const LIMIT = 12;

/** Picked materials, held across all places and reloads. */
export const useTray = create<Tray>()(
	persist(
		(set) => ({
			items: [],
			folded: false,
			add: (item) => set((s) => ({ items: [...s.items.filter((i) => i.id !== item.id), item].slice(-LIMIT), folded: false })),
			remove: (id) => set((s) => ({ items: s.items.filter((i) => i.id !== id) })),
			clear: () => set({ items: [] }),
			setFolded: (folded) => set({ folded }),
		}),
		{ name: "alvek.tray", version: 1, partialize: ({ items, folded }) => ({ items, folded }) },
	),
);
