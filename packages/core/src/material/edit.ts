import { fail, type Issue, ok, type Result } from "../result";
import { sameContent } from "./canonical";
import { decodeEntry, decodeField, MAPS } from "./decode";
import { decodeValue } from "./decode-value";
import { type Coefficient, FIELDS, type Field, type Material, type MaterialValue } from "./types";

/**
 * One change of one value, field or entry. `at` is a value id (`density`), `field:` and a field name, or a map of the
 * document and a key (`sources:…`, `carriedFields:supplier`, `acknowledged:…`); `null` is absent.
 * `from` is what the author saw, so that nobody overwrites what they have not seen.
 */
export type Edit = { readonly at: string; readonly from: unknown; readonly to: unknown };

/** What stands at `at` now; null when nothing does. */
export function contentAt(material: Material, at: string): unknown {
	const field = fieldOf(at);
	if (field !== null) return material[field];
	const entry = entryOf(at);
	if (entry !== null) return Object.hasOwn(material[entry.map], entry.id) ? (material[entry.map][entry.id] ?? null) : null;
	return Object.hasOwn(material.values, at) ? (material.values[at] ?? null) : null;
}

function fieldOf(at: string): Field | null {
	return at.startsWith("field:") ? (FIELDS.find((f) => f === at.slice(6)) ?? null) : null;
}

/** The map and key that `at` names; null for a value or a field. */
function entryOf(at: string): { map: (typeof MAPS)[number]; id: string } | null {
	const map = MAPS.find((m) => at.startsWith(`${m}:`));
	return map === undefined ? null : { map, id: at.slice(map.length + 1) };
}

/** Is it a value that this edit is about, not a field, a source or a mark? */
export function isValuePlace(at: string): boolean {
	return !at.startsWith("field:") && entryOf(at) === null;
}

/**
 * Applies edits in order; all or none.
 * @returns the new material and the edits that undo it; an issue `conflict` with the `current` content for every place
 * where `from` is stale
 */
export function applyEdits(material: Material, edits: readonly Edit[]): Result<{ material: Material; inverse: readonly Edit[] }> {
	let current = material;
	const inverse: Edit[] = [];
	const clashes = new Map<string, Issue>();
	for (const edit of edits) {
		// what follows on a place that clashes is told with it
		if (clashes.has(edit.at)) continue;
		const standing = contentAt(current, edit.at);
		if (!sameContent(standing, edit.from)) {
			if (!sameContent(standing, edit.to)) clashes.set(edit.at, { code: "conflict", path: edit.at, current: standing });
			continue;
		}
		const next = withContent(current, edit.at, edit.to);
		if (!next.ok) return next;
		inverse.unshift({ at: edit.at, from: edit.to, to: standing });
		current = next.value;
	}
	return clashes.size > 0 ? fail(...clashes.values()) : ok({ material: current, inverse });
}

function withContent(material: Material, at: string, to: unknown): Result<Material> {
	const field = fieldOf(at);
	if (field !== null) {
		const read = decodeField(field, to);
		return read.ok ? ok({ ...material, [field]: read.value }) : read;
	}
	if (at.startsWith("field:")) return fail({ code: "unknown-key", path: at.slice(0, 80) });
	const entry = entryOf(at);
	if (entry !== null) {
		const { [entry.id]: _before, ...others } = material[entry.map] as Record<string, unknown>;
		if (to === null) return ok({ ...material, [entry.map]: others });
		const read = decodeEntry(entry.map, entry.id, to);
		return read.ok ? ok({ ...material, [entry.map]: { ...others, [entry.id]: to } }) : read;
	}
	if (to === null) {
		const { [at]: _gone, ...values } = material.values;
		return ok({ ...material, values });
	}
	const read = decodeValue(at, to);
	return read.ok ? ok({ ...material, values: { ...material.values, [at]: read.value } }) : read;
}

/**
 * Applies edits that were applied once before they were stored, to the base that they were made on: what was decoded and
 * checked then is not decoded again.
 * @returns the same as `applyEdits`; null when they are not of this base
 */
export function applyStored(material: Material, edits: readonly Edit[]): Material | null {
	const next: Record<string, unknown> = { ...material, values: { ...material.values } };
	for (const map of MAPS) next[map] = { ...material[map] };
	for (const { at, from, to } of edits) {
		const entry = entryOf(at);
		const field = fieldOf(at);
		if (field === null && at.startsWith("field:")) return null;
		const holder = (field !== null ? next : entry !== null ? next[entry.map] : next.values) as Record<string, unknown>;
		const key = field ?? entry?.id ?? at;
		if (!sameContent(Object.hasOwn(holder, key) ? holder[key] : null, from)) return null;
		if (to === null && field === null) delete holder[key];
		else holder[key] = to;
	}
	return next as Material;
}

/** The edits that turn `before` into `after`, values in order of id. */
export function difference(before: Material, after: Material): readonly Edit[] {
	const places = [
		...FIELDS.map((f) => `field:${f}`),
		// sources first, so that a value never points at one that is not there yet
		...MAPS.flatMap((m) =>
			Object.keys({ ...before[m], ...after[m] })
				.sort()
				.map((id) => `${m}:${id}`),
		),
		...Object.keys({ ...before.values, ...after.values }).sort(),
	];
	return places
		.map((at) => ({ at, from: contentAt(before, at), to: contentAt(after, at) }))
		.filter((edit) => !sameContent(edit.from, edit.to));
}

/** Which side stands at a place that both have changed. */
export type Side = "mine" | "theirs";

/**
 * Three-way merge: `mine` were made on `base`, which has become `theirs`. Edits that meet on different content of one
 * place come back as `conflict` issues, unless somebody has chosen a side there; everything else goes together.
 */
export function mergeEdits(
	base: Material,
	mine: readonly Edit[],
	theirs: Material,
	chosen: Readonly<Record<string, Side>> = {},
): Result<Material> {
	const wanted = applyEdits(base, mine);
	if (!wanted.ok) return wanted;
	const own = difference(base, wanted.value.material);
	const clash = (edit: Edit): boolean => {
		const now = contentAt(theirs, edit.at);
		return !sameContent(now, edit.from) && !sameContent(now, edit.to);
	};
	const open = own.filter((edit) => clash(edit) && !Object.hasOwn(chosen, edit.at));
	if (open.length > 0)
		return fail(...open.map((e): Issue => ({ code: "conflict", path: e.at, current: contentAt(theirs, e.at) })));
	const moved = own
		.filter((edit) => !(clash(edit) && chosen[edit.at] === "theirs"))
		.map((edit) => ({ ...edit, from: contentAt(theirs, edit.at) }));
	const merged = applyEdits(theirs, moved);
	return merged.ok ? ok(merged.value.material) : merged;
}

/** Class of a publish by what it changes; the strongest word wins. */
export type ChangeClass = "words" | "values-added" | "values-changed";

export function classify(edits: readonly Edit[]): ChangeClass {
	const values = edits.filter(
		(e) =>
			(isValuePlace(e.at) && !sameNumbers(e.from as MaterialValue | null, e.to as MaterialValue | null)) ||
			e.at === "field:elasticity",
	);
	if (values.some((e) => e.from !== null)) return "values-changed";
	return values.length > 0 ? "values-added" : "words";
}

/** Do two values say the same in numbers, whatever their words, marks and sources are? */
export function sameNumbers(a: MaterialValue | null, b: MaterialValue | null): boolean {
	return a !== null && b !== null && sameContent(numbersOf(a), numbersOf(b));
}

function numbersOf(value: MaterialValue): unknown {
	const { property, qualifier, kind } = value;
	if (value.kind === undefined || value.kind === "readings")
		return { property, qualifier, low: value.low, high: value.high, working: value.working, factor: value.factor?.by };
	if (value.kind === "table" || value.kind === "curve") {
		const columns = value.columns.map(({ of, si, high }) => ({ of, si, high }));
		return { property, qualifier, kind, columns, interpolation: value.interpolation, header: value.header };
	}
	if (value.kind === "set") return { property, kind, symmetry: value.symmetry, components: ends(value.components) };
	if (value.kind === "model") return { property, kind, form: value.form, coefficients: ends(value.coefficients) };
	if (value.kind === "text") return { property, kind, text: value.text };
	return { property, kind };
}

function ends(coefficients: Readonly<Record<string, Coefficient>>): unknown {
	return Object.fromEntries(Object.entries(coefficients).map(([name, { low, high }]) => [name, [low, high]]));
}
