import { fail, ok, type Result } from "../result";
import { sameContent } from "./canonical";
import { decodeField, decodeValue } from "./decode";
import { FIELDS, type Field, type Material, type MaterialValue } from "./types";

/**
 * One change of one value or field. `at` is a value id (`density`) or `field:` and a field name; `null` is absent.
 * `from` is what the author saw, so that nobody overwrites what they have not seen.
 */
export type Edit = { readonly at: string; readonly from: unknown; readonly to: unknown };

/** What stands at `at` now; null when nothing does. */
export function contentAt(material: Material, at: string): unknown {
	const field = fieldOf(at);
	if (field !== null) return material[field];
	return Object.hasOwn(material.values, at) ? (material.values[at] ?? null) : null;
}

function fieldOf(at: string): Field | null {
	return at.startsWith("field:") ? (FIELDS.find((f) => f === at.slice(6)) ?? null) : null;
}

/**
 * Applies edits in order; all or none.
 * @returns the new material and the edits that undo it; issue `conflict` with the `current` content where `from` is stale
 */
export function applyEdits(material: Material, edits: readonly Edit[]): Result<{ material: Material; inverse: readonly Edit[] }> {
	let current = material;
	const inverse: Edit[] = [];
	for (const edit of edits) {
		const standing = contentAt(current, edit.at);
		if (!sameContent(standing, edit.from)) {
			if (sameContent(standing, edit.to)) continue;
			return fail({ code: "conflict", path: edit.at, current: standing });
		}
		const next = withContent(current, edit.at, edit.to);
		if (!next.ok) return next;
		inverse.unshift({ at: edit.at, from: edit.to, to: standing });
		current = next.value;
	}
	return ok({ material: current, inverse });
}

function withContent(material: Material, at: string, to: unknown): Result<Material> {
	const field = fieldOf(at);
	if (field !== null) {
		const read = decodeField(field, to);
		return read.ok ? ok({ ...material, [field]: read.value }) : read;
	}
	if (at.startsWith("field:")) return fail({ code: "unknown-key", path: at.slice(0, 80) });
	if (to === null) {
		const { [at]: _gone, ...values } = material.values;
		return ok({ ...material, values });
	}
	const read = decodeValue(at, to);
	return read.ok ? ok({ ...material, values: { ...material.values, [at]: read.value } }) : read;
}

/** The edits that turn `before` into `after`, values in order of id. */
export function difference(before: Material, after: Material): readonly Edit[] {
	const places = [...FIELDS.map((f) => `field:${f}`), ...Object.keys({ ...before.values, ...after.values }).sort()];
	return places
		.map((at) => ({ at, from: contentAt(before, at), to: contentAt(after, at) }))
		.filter((edit) => !sameContent(edit.from, edit.to));
}

/**
 * Three-way merge: `mine` were made on `base`, which has become `theirs`. Edits that meet on different content of one
 * place come back as `conflict` issues; everything else goes together.
 */
export function mergeEdits(base: Material, mine: readonly Edit[], theirs: Material): Result<Material> {
	const wanted = applyEdits(base, mine);
	if (!wanted.ok) return wanted;
	const own = difference(base, wanted.value.material);
	const clashes = own.filter((edit) => {
		const now = contentAt(theirs, edit.at);
		return !sameContent(now, edit.from) && !sameContent(now, edit.to);
	});
	if (clashes.length > 0)
		return fail(...clashes.map((e) => ({ code: "conflict", path: e.at, current: contentAt(theirs, e.at) })));
	const moved = own.map((edit) => ({ ...edit, from: contentAt(theirs, edit.at) }));
	const merged = applyEdits(theirs, moved);
	return merged.ok ? ok(merged.value.material) : merged;
}

/** Class of a publish by what it changes; the strongest word wins. */
export type ChangeClass = "words" | "values-added" | "values-changed";

export function classify(edits: readonly Edit[]): ChangeClass {
	const values = edits.filter(
		(e) => !e.at.startsWith("field:") && !sameNumbers(e.from as MaterialValue | null, e.to as MaterialValue | null),
	);
	if (values.some((e) => e.from !== null)) return "values-changed";
	return values.length > 0 ? "values-added" : "words";
}

function sameNumbers(a: MaterialValue | null, b: MaterialValue | null): boolean {
	return a !== null && b !== null && a.low === b.low && a.high === b.high && a.qualifier === b.qualifier;
}
