import { readLabel } from "@alvek/core/page";
import { convertText } from "@alvek/core/quantity";

/** What a text asks for itself, beside what is called so: a number in another unit, or values of materials. */
export type Direct =
	| { readonly kind: "converted"; readonly from: string; readonly answer: string }
	/** Properties that the first words name, the likeliest first, and the words for the material. */
	| { readonly kind: "values"; readonly properties: readonly string[]; readonly material: string };

/** Words that a name of a property has, at the most. */
const MOST_WORDS = 4;
/** How sure a reading has to be: a lone symbol, and words that all belong to the name. */
const SYMBOL = 0.95;
const WORDS = 1;

/** `35 ksi in MPa`, `rho AL 21`, `yield strength mild plate`; null where the text asks no such thing. */
export function directOf(text: string): Direct | null {
	const converted = convertText(text);
	if (converted !== null) return { kind: "converted", from: converted.from, answer: `${converted.to} ${converted.unit}` };
	const words = text.trim().split(/\s+/);
	// of `yield strength mild plate` the longest beginning that names a property
	for (let n = Math.min(words.length - 1, MOST_WORDS); n > 0; n--) {
		const label = readLabel(words.slice(0, n).join(" "), []);
		const material = words.slice(n).join(" ");
		if (label !== null && label.confidence >= (n === 1 ? SYMBOL : WORDS) && label.properties.length > 0 && material.length > 1)
			return { kind: "values", properties: label.properties, material };
	}
	return null;
}
