/**
 * Canonical JSON bytes after RFC 8785: keys sorted by UTF-16 code units, numbers as ECMAScript writes them, no spaces.
 * @throws on a number that JSON cannot hold; core never lets one out
 */
export function canonicalJson(value: unknown): string {
	if (value === null || typeof value === "boolean" || typeof value === "string") return JSON.stringify(value);
	if (typeof value === "number") {
		if (!Number.isFinite(value)) throw new Error("a document cannot hold a number that is not finite");
		return JSON.stringify(value);
	}
	if (Array.isArray(value)) return `[${value.map(canonicalJson).join(",")}]`;
	const object = value as Record<string, unknown>;
	let text = "";
	// sorted by UTF-16 code units, as RFC 8785 asks
	for (const key of Object.keys(object).sort()) {
		const content = object[key];
		if (content === undefined) continue;
		text += `${text === "" ? "" : ","}${JSON.stringify(key)}:${canonicalJson(content)}`;
	}
	return `{${text}}`;
}

/** Same content, whatever the order of keys. */
export function sameContent(a: unknown, b: unknown): boolean {
	return a === b || canonicalJson(a ?? null) === canonicalJson(b ?? null);
}
