import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
	applyEdits,
	applyStored,
	BLANK,
	contentAt,
	difference,
	type Edit,
	type Material,
	makeValue,
	mergeEdits,
	sameContent,
} from "./index";

/** Random documents over a few places, so that edits meet. */
const PLACES = ["density", "youngs_modulus", "poissons_ratio"] as const;
const TEXTS = {
	density: ["2.7 g/cm3", "7850 kg/m3", "8.78-8.91 g/cm3"],
	youngs_modulus: ["70 GPa", ">= 68 GPa"],
	poissons_ratio: ["0.33", "0,3"],
};
const place = fc.constantFrom(...PLACES);
const content = (at: (typeof PLACES)[number]) =>
	fc.option(fc.constantFrom(...TEXTS[at])).map((text) => {
		if (text === null) return null;
		const made = makeValue(at, text);
		if (!made.ok) throw new Error(JSON.stringify(made.issues));
		return made.value;
	});
const change = fc.oneof(
	place.chain((at) => content(at).map((to) => ({ at: at as string, to: to as unknown }))),
	fc.constantFrom("", "T6", "annealed").map((to) => ({ at: "field:condition", to: to as unknown })),
);
const changes = fc.array(change, { maxLength: 8 });

/** The edits that an author makes one after the other, each knowing what it replaces. */
function author(start: Material, list: readonly { at: string; to: unknown }[]): { edits: Edit[]; end: Material } {
	let current = start;
	const edits: Edit[] = [];
	for (const { at, to } of list) {
		const edit = { at, from: contentAt(current, at), to };
		const applied = applyEdits(current, [edit]);
		if (!applied.ok) throw new Error(JSON.stringify(applied.issues));
		edits.push(edit);
		current = applied.value.material;
	}
	return { edits, end: current };
}

describe("the algebra of edits", () => {
	it("inverse: undoing all edits gives the document back, and undoing the undo the result", () => {
		fc.assert(
			fc.property(changes, changes, (before, list) => {
				const { end: start } = author(BLANK, before);
				const { edits, end } = author(start, list);
				const applied = applyEdits(start, edits);
				if (!applied.ok) throw new Error();
				expect(applied.value.material).toEqual(end);
				const back = applyEdits(end, applied.value.inverse);
				if (!back.ok) throw new Error();
				expect(back.value.material).toEqual(start);
				const again = applyEdits(start, back.value.inverse);
				expect(again.ok && again.value.material).toEqual(end);
			}),
			{ seed: 31 },
		);
	});

	it("stored edits: without decoding they give what they gave with it, and nothing on another base", () => {
		fc.assert(
			fc.property(changes, changes, (before, list) => {
				const { end: start } = author(BLANK, before);
				const { end } = author(start, list);
				const edits = difference(start, end);
				const slow = applyEdits(start, edits);
				const fast = applyStored(start, edits);
				expect(fast).toEqual(slow.ok && slow.value.material);
				// the base is not touched
				expect(difference(start, author(BLANK, before).end)).toEqual([]);
				if (edits.length > 0 && !sameContent(start, end)) expect(applyStored(end, edits)).toBeNull();
			}),
			{ seed: 34 },
		);
		expect(applyStored(BLANK, [{ at: "field:none", from: null, to: "x" }])).toBeNull();
	});

	it("difference: applied to the one it gives the other, and equal documents have none", () => {
		fc.assert(
			fc.property(changes, changes, (first, second) => {
				const [a, b] = [author(BLANK, first).end, author(BLANK, second).end];
				const applied = applyEdits(a, difference(a, b));
				expect(applied.ok && sameContent(applied.value.material, b)).toBe(true);
				expect(difference(a, a)).toEqual([]);
			}),
			{ seed: 32 },
		);
	});

	it("merge: takes both sides where they touch different places, whatever the order", () => {
		fc.assert(
			fc.property(changes, changes, changes, (before, mine, theirs) => {
				const base = author(BLANK, before).end;
				const [a, b] = [author(base, mine), author(base, theirs)];
				const ab = mergeEdits(base, a.edits, b.end);
				const ba = mergeEdits(base, b.edits, a.end);
				expect(ab.ok).toBe(ba.ok);
				if (ab.ok && ba.ok) expect(sameContent(ab.value, ba.value)).toBe(true);
				// a conflict is a place that both changed, to different content
				const changed = (x: Material): Set<string> => new Set(difference(base, x).map((e) => e.at));
				const clash = [...changed(a.end)].filter(
					(at) => changed(b.end).has(at) && !sameContent(contentAt(a.end, at), contentAt(b.end, at)),
				);
				expect(ab.ok ? [] : ab.issues.map((i) => i.path).sort()).toEqual(clash.sort());
			}),
			{ seed: 33, numRuns: 300 },
		);
	});

	it("again: what was taken once changes nothing the second time and clashes with nobody", () => {
		fc.assert(
			fc.property(changes, change, (before, last) => {
				const { end: start } = author(BLANK, before);
				const { edits, end } = author(start, [last]);
				const again = applyEdits(end, edits);
				expect(again.ok && again.value.material).toEqual(end);
			}),
			{ seed: 35 },
		);
	});

	it("all or none: one stale edit among good ones changes nothing", () => {
		const { end } = author(BLANK, [{ at: "field:condition", to: "T6" }]);
		const result = applyEdits(end, [
			{ at: "field:supplier", from: "", to: "Havrin Steel" },
			{ at: "field:condition", from: "annealed", to: "T4" },
		]);
		expect(result.ok).toBe(false);
		expect(end.supplier).toBe("");
	});
});
