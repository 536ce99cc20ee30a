/** `1 cell`, `2 cells`; a plural of its own where an s is not enough. */
export function counted(n: number, thing: string, things = `${thing}s`): string {
	return `${n} ${n === 1 ? thing : things}`;
}

const LIST = new Intl.ListFormat("en-GB", { type: "conjunction" });

/** `E, ν and G`. */
export const listed = (words: readonly string[]): string => LIST.format(words);

/** What became of copies: out at once, or waiting where the library asks for a second person. */
export const copiedInWords = (made: { readonly proposed: number }, what: string, library: string): string =>
	made.proposed > 0
		? `${what}: ${made.proposed === 1 ? "the copy waits" : `${made.proposed} copies wait`} for approval in ${library}`
		: `${what} copied to ${library}`;
