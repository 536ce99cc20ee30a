import { create } from "zustand";

/** Long work of this page that the server does: what it is, how far, and the way to stop it. */
export type LongWork = {
	readonly id: string;
	readonly what: string;
	readonly stage: string;
	readonly progress: number;
};

export const useWorks = create<{ readonly works: readonly LongWork[] }>(() => ({ works: [] }));

/** Puts work on the list, or tells how far it is. */
export function showWork(work: LongWork): void {
	useWorks.setState(({ works }) => ({
		works: works.some((w) => w.id === work.id) ? works.map((w) => (w.id === work.id ? work : w)) : [...works, work],
	}));
}

export function endWork(id: string): void {
	useWorks.setState(({ works }) => ({ works: works.filter((w) => w.id !== id) }));
}
