import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Item, linesOf } from "./segments";

/** The plain list that the arithmetic stands for. */
function listed(groups: readonly { path: string; count: number }[], closed: ReadonlySet<string>): Item[] {
	const items: Item[] = [];
	let index = 0;
	for (const { path, count } of groups) {
		items.push({ kind: "group", path, count });
		for (let i = 0; i < count; i++, index++) if (!closed.has(path)) items.push({ kind: "row", index });
	}
	return items;
}

const cases = fc
	.array(fc.record({ count: fc.integer({ min: 1, max: 6 }), shut: fc.boolean() }), { minLength: 1, maxLength: 9 })
	.map((list) => ({
		groups: list.map(({ count }, i) => ({ path: `g${i}`, count })),
		closed: new Set(list.flatMap(({ shut }, i) => (shut ? [`g${i}`] : []))),
		total: list.reduce((n, g) => n + g.count, 0),
	}));

describe("lines of the grid", () => {
	it("are those of the plain list", () => {
		fc.assert(
			fc.property(cases, ({ groups, closed, total }) => {
				const lines = linesOf(groups, total, closed);
				const plain = listed(groups, closed);
				expect(Array.from({ length: lines.count }, (_, i) => lines.at(i))).toEqual(plain);
				for (const [at, item] of plain.entries()) if (item.kind === "row") expect(lines.lineOf(item.index)).toBe(at);
			}),
		);
	});

	it("steps over what closed headings hide, and stops at the ends", () => {
		fc.assert(
			fc.property(cases, ({ groups, closed, total }) => {
				const shown = listed(groups, closed).flatMap((i) => (i.kind === "row" ? [i.index] : []));
				const lines = linesOf(groups, total, closed);
				for (const [i, row] of shown.entries()) {
					expect(lines.step(row, 1)).toBe(shown[i + 1] ?? null);
					expect(lines.step(row, -1)).toBe(shown[i - 1] ?? null);
				}
			}),
		);
	});

	it("stands alone without headings", () => {
		const lines = linesOf([], 3, new Set());
		expect([lines.count, lines.at(2), lines.step(2, 1), lines.step(0, 1)]).toEqual([3, { kind: "row", index: 2 }, null, 1]);
	});
});
