import { create } from "zustand";

/** Whether the help of the place, with marks and keys, stands open. */
export const useHelp = create<{ readonly open: boolean; readonly turn: (open?: boolean) => void }>()((set) => ({
	open: false,
	turn: (open) => set((s) => ({ open: open ?? !s.open })),
}));
