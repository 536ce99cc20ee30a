import { useEffect, useRef } from "react";
import { tinykeys } from "tinykeys";

export type Shortcut = {
	/** As tinykeys writes them: `$mod+k` is Ctrl+K, or its like on a Mac. */
	readonly keys: string;
	readonly run: (e: KeyboardEvent) => void;
	/** Also while somebody types into a field; otherwise the field keeps its keys. */
	readonly whileTyping?: true;
};

const FIELDS = "input, textarea, select, [contenteditable=true]";

/** Keys that do something anywhere on the page, as long as this stands. What another took already is left alone. */
export function useShortcuts(shortcuts: readonly Shortcut[]): void {
	const latest = useRef(shortcuts);
	latest.current = shortcuts;
	const keys = shortcuts.map((s) => s.keys).join(" | ");
	// biome-ignore lint/correctness/useExhaustiveDependencies: keys alone are bound anew, what they do is looked up when they are pressed
	useEffect(() => {
		const bound = latest.current.map(({ keys }, i) => [
			keys,
			(e: KeyboardEvent): void => {
				const shortcut = latest.current[i];
				const typing = e.target instanceof HTMLElement && e.target.matches(FIELDS);
				if (shortcut === undefined || e.defaultPrevented || (typing && shortcut.whileTyping !== true)) return;
				e.preventDefault();
				shortcut.run(e);
			},
		]);
		return tinykeys(window, Object.fromEntries(bound));
	}, [keys]);
}
