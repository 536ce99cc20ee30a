import { useCallback, useEffect, useState } from "react";

const PREFIX = "alvek.text.";

/** Fields with text that was typed and not entered yet. */
const open = new Set<string>();
export const hasOpenText = (): boolean => open.size > 0;

/**
 * Text of a field that outlives a reload: kept in this tab until it is entered or given up.
 * @param field names it, with the material and the person; null: not kept
 * @returns the text, how to change it, and what to call when it was entered or given up
 */
export function useKeptText(field: string | null, initial: string): [string, (text: string) => void, () => void] {
	const key = field === null ? null : PREFIX + field;
	const [text, show] = useState(() => (key === null ? null : sessionStorage.getItem(key)) ?? initial);
	const set = useCallback(
		(next: string) => {
			show(next);
			if (key === null) return;
			if (next === initial) {
				open.delete(key);
				sessionStorage.removeItem(key);
			} else {
				open.add(key);
				sessionStorage.setItem(key, next);
			}
		},
		[key, initial],
	);
	const done = useCallback(() => {
		if (key === null) return;
		open.delete(key);
		sessionStorage.removeItem(key);
	}, [key]);
	// a field that is gone from the screen no longer stands in the way of closing; its text is still kept
	useEffect(() => () => void (key !== null && open.delete(key)), [key]);
	return [text, set, done];
}

/** The rest of the name of a field that begins so and has text kept; null when none has. */
export function keptFieldOf(beginning: string): string | null {
	const keys = Array.from({ length: sessionStorage.length }, (_, i) => sessionStorage.key(i) ?? "");
	const found = keys.find((k) => k.startsWith(PREFIX + beginning));
	return found === undefined ? null : found.slice(PREFIX.length + beginning.length);
}
