import { create } from "zustand";

export type Toast = {
	readonly id: number;
	readonly tone: "plain" | "wrong";
	readonly text: string;
	readonly action?: { readonly label: string; readonly run: () => void };
};

type Toasts = { readonly toasts: readonly Toast[] };

export const useToasts = create<Toasts>(() => ({ toasts: [] }));

let count = 0;
/** Errors are read longer than news. */
const LIFE_MS = { plain: 5_000, wrong: 15_000 } as const;
const ends = new Map<number, ReturnType<typeof setTimeout>>();

/** Says something at the lower edge; it goes by itself, unless somebody is at it. */
export function showToast(toast: Omit<Toast, "id">): void {
	const id = ++count;
	useToasts.setState((s) => ({ toasts: [...s.toasts.slice(-2), { ...toast, id }] }));
	letGo(id);
}

/** Somebody points at it or is in it with the keyboard: it stays. */
export function holdToast(id: number): void {
	clearTimeout(ends.get(id));
	ends.delete(id);
}

/** From now on it goes by itself. */
export function letGo(id: number): void {
	const toast = useToasts.getState().toasts.find((t) => t.id === id);
	if (toast === undefined) return;
	clearTimeout(ends.get(id));
	ends.set(
		id,
		setTimeout(() => closeToast(id), LIFE_MS[toast.tone]),
	);
}

export function closeToast(id: number): void {
	holdToast(id);
	useToasts.setState((s) => ({ toasts: s.toasts.filter((t) => t.id !== id) }));
}
