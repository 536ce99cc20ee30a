import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { checkWhere, EVIDENCE_WORDS, readWhere, writeWhere } from "./index";

describe("spans of values", () => {
	it("a wanted span reads, writes and keeps that values may reach into it", () => {
		expect(readWhere("density:x..3,:..,nonsense")).toEqual([]);
		const text = "density:2600..2800,tensile_strength:500000000..~";
		expect(readWhere(text)[1]).toEqual({ property: "tensile_strength", low: 500e6, high: null, reach: true });
		expect(writeWhere(readWhere(text))).toBe(text);
	});

	it("scripts are told what does not read, before anything is counted", () => {
		const code = (text: string) => {
			const read = checkWhere(text);
			return read.ok ? read.value.length : read.issues[0]?.code;
		};
		expect(code("density:2600..2800,own:x:..3,")).toBe(2);
		expect(code("density:2600..2800,density:1..2")).toBe("bad-input");
		for (const piece of ["density", "density:..", "density:x..3", "density:1..2..3", ":1..2", "density:NaN.."])
			expect([piece, code(piece)]).toEqual([piece, "bad-input"]);
		for (const piece of ["density:1..2!", "density:1..2!best", "density:1..2!measured!none", "price:eur:1..2x"])
			expect([piece, code(piece)]).toEqual([piece, "bad-input"]);
		expect(code("price:EUR:1..2,density:..!measured.none")).toBe(2);
		for (const piece of ["price:eur:1..2", "price:EURO:1..2"]) expect([piece, code(piece)]).toEqual([piece, "unknown-property"]);
		expect(code("constructor:1..2")).toBe("unknown-property");
		const many = (n: number): string => Array.from({ length: n }, (_, i) => `own:p${i}:1..2`).join(",");
		expect(code(many(64))).toBe(64);
		expect(code(many(65))).toBe("too-many");
		expect(readWhere(many(200)).length).toBe(64);
	});

	it("read back what they write", () => {
		const judged = fc.subarray([...EVIDENCE_WORDS]);
		const end = fc.option(fc.double({ noNaN: true, noDefaultInfinity: true }), { nil: null });
		fc.assert(
			fc.property(fc.constantFrom("density", "own:abc-1", "price:EUR"), end, end, judged, (id, low, high, evidence) => {
				fc.pre(low !== null || high !== null || evidence.length > 0);
				const asked = evidence.length === 0 ? {} : { evidence };
				const list = [{ property: id, low: low === 0 ? 0 : low, high: high === 0 ? 0 : high, ...asked }];
				expect(readWhere(writeWhere(list))).toEqual(list);
			}),
			{ seed: 1 },
		);
	});
});
