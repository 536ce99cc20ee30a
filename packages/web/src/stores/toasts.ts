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
const LIFE_MS = { plain: 9_000, wrong: 15_000 } as const;

/** Says something at the lower edge; it goes by itself, errors later than news. */
export function showToast(toast: Omit<Toast, "id">): void {
	const id = ++count;
	useToasts.setState((s) => ({ toasts: [...s.toasts.slice(-2), { ...toast, id }] }));
	setTimeout(() => closeToast(id), LIFE_MS[toast.tone]);
}

export function closeToast(id: number): void {
	useToasts.setState((s) => ({ toasts: s.toasts.filter((t) => t.id !== id) }));
}
