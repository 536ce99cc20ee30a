import { EVENTS } from "./catalogue.data";
import type { EventRow } from "./types";

export const UNDO = "undo ";

/** The step itself, also when it was taken back, and how many times it was. */
export function stepOf(action: string): { readonly step: string; readonly times: number } {
	let step = action;
	let times = 0;
	for (; step.startsWith(UNDO); times++) step = step.slice(UNDO.length);
	return { step, times };
}

/** What is decided about a step; null for one that no row knows, which a newer program may have written. */
export function eventRow(action: string): EventRow | null {
	const { step } = stepOf(action);
	return Object.hasOwn(EVENTS, step) ? EVENTS[step as keyof typeof EVENTS] : null;
}
