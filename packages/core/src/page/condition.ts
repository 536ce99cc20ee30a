const TEMPERATURE =
	"[-−+]?\\d+(?:[.,]\\d+)?(?:\\s*°[CF])?(?:\\s*(?:-|–|—|to|bis|\\.\\.+|…)\\s*[-−+]?\\d+(?:[.,]\\d+)?)?\\s*(?:°[CF]|K\\b)";
const LOAD = "\\d+(?:[.,]\\d+)?\\s*(?:MPa|N\\/mm\\^?2|N\\/mm²|Hz|kHz|MHz|GHz|mm|h)\\b";

/** `(20-200 °C)`, `at 23 °C`, `bei 1,8 MPa`, `@ 100 Hz`. */
const BRACKETED = new RegExp(`\\(\\s*(?:at |bei |from |von |@ ?)?(${TEMPERATURE})\\s*\\)`, "iu");
const AT = new RegExp(`(?:\\bat|\\bbei|@|\\bfrom|\\bvon)\\s*(${TEMPERATURE}|${LOAD})`, "iu");
const BARE_FIRST = new RegExp(`^[^\\d<>≥≤~≈±]*?(?<![\\d.,])(${TEMPERATURE})\\s*[,:;]?\\s+(?=[<>≥≤~≈±]?\\s*[-−+]?\\d)`, "iu");
const CYCLES = /\(([^()]*(?:cycles|lastwechsel|zyklen|\bR\s*=)[^()]*)\)/i;
const WORDS =
	/\((dry|wet|conditioned|trocken|feucht|luftfeucht|kond\.?|konditioniert|notched|unnotched|gekerbt|ungekerbt|longitudinal|transverse|parallel|perpendicular|along[^)]*|across[^)]*|längs|quer|in tension|in compression)\)|\b(longitudinal|transverse|längs|quer)\b/i;

/** Anywhere in a cell that holds the name alone. */
const IN_NAME_TEMPERATURE = new RegExp(`(?<![\\p{L}\\d.,])(${TEMPERATURE})`, "iu");
const IN_NAME_LOAD = new RegExp(`(?<![\\p{L}\\d.,])(${LOAD})`, "iu");

/**
 * Temperatures and loads that a value holds at, taken out of its text.
 * @param nameOnly the text is a name without its value, so any temperature or load in it is a condition
 */
export function conditionsOf(
	text: string,
	property: string,
	nameOnly = false,
): { readonly condition: string; readonly rest: string } {
	const isTemperature = /temperature|transition|deflection/.test(property);
	const found: string[] = [];
	let rest = text;
	const take = (pattern: RegExp): void => {
		const match = pattern.exec(rest);
		if (match === null) return;
		found.push(written((match[1] ?? match[2] ?? "").trim()));
		rest = `${rest.slice(0, match.index)} ${rest.slice(match.index + match[0].length)}`;
	};
	take(BRACKETED);
	take(AT);
	take(CYCLES);
	if (!isTemperature) take(BARE_FIRST);
	if (nameOnly && !isTemperature) take(IN_NAME_TEMPERATURE);
	if (nameOnly) take(IN_NAME_LOAD);
	take(WORDS);
	return { condition: found.filter((c) => c !== "").join(", "), rest };
}

/** One spelling: `20–200 °C`. */
function written(text: string): string {
	return text
		.replace(/(\d)(?:\s*°[CF])?\s*(?:-|–|—|to|bis|\.\.+|…)\s*(?=[-−+]?\d)/i, "$1–")
		.replace(/\s*°/, " °")
		.replace(/(\d)K$/, "$1 K");
}
