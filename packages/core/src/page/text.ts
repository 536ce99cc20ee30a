/**
 * A pasted line in plain spelling, for finding words: odd blanks, quotes and hyphens made one, bullets and leaders
 * dropped. Numbers keep their marks; `…` between numbers is a range.
 */
export function plainText(raw: string): string {
	return raw
		.replace(/[\u00a0\u2000-\u200a\u202f\u205f\u3000]/g, " ")
		.replace(/[\u200b-\u200f\u2060\ufeff\u00ad]/g, "")
		.replace(/[’‘´`]/g, "'")
		.replace(/[‐‑]/g, "-")
		.replace(/º\s?(?=[CFK]\b)/g, "°")
		.replace(/° (?=[CFK]\b)/g, "°")
		.replace(/℃/g, "°C")
		.replace(/℉/g, "°F")
		.replace(/\.{4,}|…{2,}|_{3,}/g, " ")
		.replace(/^\s*[•·▪*-]\s+(?=\p{L})/u, "");
}

// biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is dropped
const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f\u00ad\u200b-\u200f\u2060\ufeff]/g;

/**
 * Control characters and invisible ones out, one kind of line end, one kind of blank and degree; HTML is text like any
 * other here and stays visible as what it is.
 */
export function cleanPaste(text: string): string {
	return text
		.replace(/\r\n?/g, "\n")
		.replace(CONTROL, "")
		.replace(/[\u00a0\u2000-\u200a\u202f\u205f\u3000]/g, " ")
		.replace(/º(?=\s?[CFK])/g, "°")
		.replace(/℃/g, "°C")
		.replace(/℉/g, "°F");
}
