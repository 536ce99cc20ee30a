/** `1 cell`, `2 cells`; a plural of its own where an s is not enough. */
export function counted(n: number, thing: string, things = `${thing}s`): string {
	return `${n} ${n === 1 ? thing : things}`;
}

const LIST = new Intl.ListFormat("en-GB", { type: "conjunction" });

/** `E, ν and G`. */
export const listed = (words: readonly string[]): string => LIST.format(words);
