import { decodeMaterial, type Material, type TypedMaterial, typedMaterial, upgradeMaterial } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";

export type Named = { readonly name: string; readonly material: Material };

/** Materials of a JSON file: one or a list, as the API gives them or as names with typed values. */
export function readMaterials(text: string): Result<readonly Named[]> {
	const each = readEach(text);
	if (!each.ok) return each;
	const issues = each.value.flatMap((m) => (m.material.ok ? [] : m.material.issues));
	if (issues.length > 0) return fail(...issues);
	return ok(each.value.flatMap((m) => (m.material.ok ? [{ name: m.name, material: m.material.value }] : [])));
}

/** The same, each material with its own issues. */
export function readEach(text: string): Result<readonly { readonly name: string; readonly material: Result<Material> }[]> {
	let input: unknown;
	try {
		input = JSON.parse(text);
	} catch (cause) {
		return fail({ code: "not-json", actual: String(cause) });
	}
	const list = (input as { materials?: unknown } | null)?.materials ?? input;
	return ok(
		(Array.isArray(list) ? list : [list]).map((entry, i) => {
			const read = readMaterial(entry, i);
			const named = (entry as { name?: unknown } | null)?.name;
			const name = read.ok ? read.value.name : typeof named === "string" ? named : `material ${i + 1}`;
			return { name, material: read.ok ? ok(read.value.material) : read };
		}),
	);
}

/** A material as the API gives it (a sheet, a row, an exported file, a revision), or a name with values as text. */
function readMaterial(entry: unknown, index: number): Result<Named> {
	const path = `materials[${index}]`;
	if (typeof entry !== "object" || entry === null) return fail({ code: "wrong-type", path, expected: "a material" });
	const object = entry as { name?: unknown; row?: unknown; document?: unknown; values?: unknown; value?: unknown };
	// a whole reply of the API holds its answer in `value`
	if (object.value !== undefined && object.document === undefined) return readMaterial(object.value, index);
	if (object.row !== undefined) return readMaterial(object.row, index);
	const name = typeof object.name === "string" ? object.name : `material ${index + 1}`;
	if (typeof object.document === "object" && object.document !== null) {
		const decoded = decodeMaterial(upgradeMaterial(object.document as Material));
		return decoded.ok ? ok({ name, material: decoded.value }) : decoded;
	}
	if (typeof object.values !== "object" || object.values === null)
		return fail({ code: "wrong-type", path, expected: "a document, or a name and values" });
	const made = typedMaterial(object as TypedMaterial, path);
	return made.ok ? ok({ name, material: made.value }) : made;
}
