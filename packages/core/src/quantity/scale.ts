/**
 * Hardness scales as they are written: before the number or behind it, with a load or a ball that is part of the name
 * (`HV10`, `HBW 2,5/62,5`) and not of the value.
 */
const NAMES: readonly (readonly [RegExp, string])[] = [
	[/^HV$/i, "HV"],
	[/^HB[WS]?$/i, "HBW"],
	[/^HRA$/i, "HRA"],
	[/^HRB$/i, "HRB"],
	[/^HRC$/i, "HRC"],
	[/^Sh(?:ore)?[-.]*A$/i, "Shore A"],
	[/^Sh(?:ore)?[-.]*D$/i, "Shore D"],
	[/^IRHD$/i, "IRHD"],
];
const NAME = "(?:HBW|HBS|HB|HV|HR ?[ABC]|Sh(?:ore)?[-. ]*[AD]|IRHD)";
const LOAD = "\\d+(?:[.,]\\d+)?";
const LEADING = new RegExp(`^(${NAME})(?:${LOAD}|\\s?${LOAD}(?:/${LOAD}){1,2})?(?![\\p{L}\\d])\\s*[:=]?\\s*`, "iu");
const TRAILING = new RegExp(`\\s*(?<![\\p{L}])(${NAME})(?:\\s?${LOAD}(?:/${LOAD}){0,2})?((?:\\s*(?:min|max)\\.?)?)$`, "iu");

/** Our name of a scale; null for a scale that the catalogue does not have. */
export function scaleNamed(text: string): string | null {
	const plain = text.replace(/\s+/g, "");
	return NAMES.find(([pattern]) => pattern.test(plain))?.[1] ?? null;
}

type Scaled = { readonly scale: string; readonly rest: string };

/** `HRC 58`, `HV10 168`. */
export function leadingScale(text: string): Scaled | null {
	const match = LEADING.exec(text);
	const scale = match === null ? null : scaleNamed(match[1] as string);
	if (match === null || scale === null) return null;
	const rest = text.slice(match[0].length);
	return /\d/.test(rest) ? { scale, rest } : null;
}

/** `58 HRC`, `42 HBW 2,5/62,5`, `290–360 HV 10`. */
export function trailingScale(text: string): Scaled | null {
	const match = TRAILING.exec(text);
	const scale = match === null ? null : scaleNamed(match[1] as string);
	if (match === null || scale === null) return null;
	return { scale, rest: text.slice(0, match.index) + (match[2] ?? "") };
}
