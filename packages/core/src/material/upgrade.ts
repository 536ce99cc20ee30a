import { BLANK, type Material, type MaterialValue } from "./types";

/** Properties that went by another id in the first schema. */
const RENAMED: Readonly<Record<string, string>> = { solidus: "solidus_temperature", liquidus: "liquidus_temperature" };

/** What a stored document of any schema holds, seen as today's. Stored bytes are never rewritten; this runs on reading. */
export function upgradeMaterial(stored: Material | { readonly schema: 1 | 2 }): Material {
	if (stored.schema === 3) return stored;
	// what older schemas wrote has the fields of today's, but for those that BLANK fills in below
	const old = stored as unknown as Material;
	// nothing of the second schema changed its meaning in the third
	if (stored.schema === 2) return { ...old, schema: 3 };
	const values = Object.fromEntries(
		Object.entries(old.values).map(([id, value]) => [upgradedPlace(id), upgradedContent(value) as MaterialValue]),
	);
	return { ...BLANK, ...old, schema: 3, values };
}

/** The place of an edit that was saved under an older schema. */
export function upgradedPlace(at: string): string {
	const [stem = "", tail] = at.split("~");
	const renamed = Object.hasOwn(RENAMED, stem) ? (RENAMED[stem] as string) : stem;
	return tail === undefined ? renamed : `${renamed}~${tail}`;
}

/** The content of a value that was saved under an older schema; anything else passes. */
export function upgradedContent(content: unknown): unknown {
	if (typeof content !== "object" || content === null || !("property" in content)) return content;
	const value = content as MaterialValue;
	if (!Object.hasOwn(RENAMED, value.property)) return content;
	return { ...value, id: upgradedPlace(value.id), property: RENAMED[value.property] };
}
