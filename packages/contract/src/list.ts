/**
 * Words in one text of an address, between commas. A comma or a tilde inside a word is written `~c` or `~t`.
 * @example writeList(["Metals", "Bar, drawn"]) // "Metals,Bar~c drawn"
 */
export function writeList(words: readonly string[]): string {
	return words.map((w) => w.replaceAll("~", "~t").replaceAll(",", "~c")).join(",");
}

export function readList(text: string | null | undefined): readonly string[] {
	return (text ?? "")
		.split(",")
		.filter((w) => w !== "")
		.map((w) => w.replaceAll("~c", ",").replaceAll("~t", "~"));
}
