/** What of a key event cells look at. */
export type CellKey = {
	readonly key: string;
	readonly ctrlKey: boolean;
	readonly metaKey: boolean;
	readonly altKey: boolean;
	readonly shiftKey: boolean;
};

/** What a key does in cells. Rows are walked by count, `right` is a column further, `edge` the first or last column. */
export type CellCommand =
	| { readonly do: "rows"; readonly by: number; readonly extend: boolean }
	| { readonly do: "columns"; readonly by: 1 | -1; readonly extend: boolean }
	| { readonly do: "edge"; readonly end: "first" | "last"; readonly extend: boolean }
	| { readonly do: "begin"; readonly text: string | null }
	| { readonly do: "fill" | "clear" | "leave" }
	/** Only while something is typed: take it and go on, or throw it away. */
	| { readonly do: "take"; readonly next: "below" | "right" | "left" | "everywhere" }
	| { readonly do: "drop" };

const STEPS: Readonly<Record<string, 1 | -1>> = {
	ArrowDown: 1,
	ArrowUp: -1,
	PageDown: 1,
	PageUp: -1,
	ArrowRight: 1,
	ArrowLeft: -1,
};

/** While something is typed all keys but these belong to the field. */
export function typingCommand({ key, shiftKey, ctrlKey, metaKey }: CellKey): CellCommand | null {
	if (key === "Escape") return { do: "drop" };
	if (key === "Enter") return { do: "take", next: ctrlKey || metaKey ? "everywhere" : "below" };
	if (key === "Tab") return { do: "take", next: shiftKey ? "left" : "right" };
	return null;
}

/** @param page rows that stand in sight */
export function walkingCommand({ key, ctrlKey, metaKey, altKey, shiftKey }: CellKey, page: number): CellCommand | null {
	if (key === "ArrowDown" && altKey) return { do: "fill" };
	const by = STEPS[key];
	if (by !== undefined) {
		if (key === "ArrowRight" || key === "ArrowLeft") return { do: "columns", by, extend: shiftKey };
		return { do: "rows", by: key.startsWith("Page") ? by * page : by, extend: shiftKey };
	}
	if (key === "Home" || key === "End") return { do: "edge", end: key === "Home" ? "first" : "last", extend: shiftKey };
	if (key === "Enter") return { do: "begin", text: null };
	if (key === "Delete" || key === "Backspace") return { do: "clear" };
	if (key === "Escape") return { do: "leave" };
	// a character is typed over what is there; with a command key it is somebody else's shortcut
	return key.length === 1 && !ctrlKey && !metaKey && !altKey ? { do: "begin", text: key } : null;
}
