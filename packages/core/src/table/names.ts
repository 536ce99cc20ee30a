const COLLATOR = new Intl.Collator("en", { numeric: true, sensitivity: "base" });

/** Names as people sort them: numbers by their size, case aside. */
export function compareNames(a: string, b: string): number {
	return COLLATOR.compare(a, b);
}
