import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { BLANK, decodeField, HATCHES, PLAIN_LOOK, TEXTURES } from "../material";
import { FAMILIES } from "../property";
import { HATCH_LEGEND, hatchOf, hatchTile, isDistinct, neighbourHatch, shadeAt } from "./index";

describe("hatches", () => {
	it.each(HATCHES)("%s fits to itself: what leaves a tile on the right enters it on the left", (pattern) => {
		const tile = hatchTile(pattern);
		// ends of strokes on the two borders, found by walking the path
		const borders = { left: [] as number[], right: [] as number[] };
		let [x, y] = [0, 0];
		const note = (): void => {
			if (x === 0) borders.left.push(y);
			if (x === tile.width) borders.right.push(y);
		};
		for (const [, command = "", numbers = ""] of tile.strokes.matchAll(/([MHVQT])([^MHVQT]*)/g)) {
			const n = numbers.trim().split(/[ ,]+/).map(Number);
			if (command === "H") x = n[0] as number;
			else if (command === "V") y = n[0] as number;
			else [x, y] = n.slice(-2) as [number, number];
			note();
		}
		expect([...borders.left].sort()).toEqual([...borders.right].sort());
		expect(tile.strokes !== "" || tile.dots.length > 0).toBe(true);
	});

	it("give every family a pattern of the legend, and every pattern a line in it", () => {
		for (const { id } of FAMILIES) {
			expect(HATCHES).toContain(hatchOf({ family: id, look: PLAIN_LOOK }).pattern);
		}
		expect(HATCH_LEGEND.map((l) => l.pattern).sort()).toEqual([...HATCHES].sort());
		expect(hatchOf({ family: "metal.stainless", look: PLAIN_LOOK }).pattern).toBe("lines");
		expect(hatchOf({ family: "metal.copper", look: PLAIN_LOOK }).pattern).toBe("pairs");
	});

	it("keep six neighbours of one material apart, each from each", () => {
		const hatch = fc.record({
			pattern: fc.constantFrom(...HATCHES),
			angle_deg: fc.integer({ min: -180, max: 180 }),
			spacing_mm: fc.double({ min: 0.5, max: 50, noNaN: true }),
		});
		fc.assert(
			fc.property(hatch, (h) => {
				const all = [0, 1, 2, 3, 4, 5].map((n) => neighbourHatch(h, n));
				for (const [i, a] of all.entries()) for (const b of all.slice(i + 1)) expect(isDistinct(a, b)).toBe(true);
				expect(all[0]).toEqual({ ...h, angle_deg: h.angle_deg === 180 ? -180 : h.angle_deg });
			}),
		);
	});
});

describe("textures", () => {
	it.each(TEXTURES)("%s stays between dark and light and closes on itself", (pattern) => {
		const place = fc.double({ min: 0, max: 0.999, noNaN: true });
		fc.assert(
			fc.property(place, place, (u, v) => {
				const shade = shadeAt(pattern, u, v);
				expect(Math.abs(shade)).toBeLessThanOrEqual(1.26);
				expect(shadeAt(pattern, u + 1, v)).toBeCloseTo(shade, 6);
				expect(shadeAt(pattern, u, v + 1)).toBeCloseTo(shade, 6);
			}),
		);
	});
});

describe("a look from outside", () => {
	const codes = (look: unknown): string[] => {
		const read = decodeField("look", look);
		return read.ok ? [] : read.issues.map((i) => `${i.code} ${i.path}`);
	};
	it("is read or refused by its reason", () => {
		expect(codes(BLANK.look)).toEqual([]);
		expect(codes({ ...PLAIN_LOOK, metalness: 1.5 })).toEqual(["out-of-bounds look.metalness"]);
		expect(codes({ ...PLAIN_LOOK, shader: "x" })).toEqual(["unknown-key look.shader"]);
		expect(codes({ ...PLAIN_LOOK, hatch: { pattern: "hearts", angle_deg: 0, spacing_mm: 3 } })).toEqual([
			"unknown-choice look.hatch.pattern",
		]);
		const picture = { kind: "picture", hash: "a".repeat(64), name: "bark.png", size_mm: [40, 30], offset_mm: [0, 0] };
		expect(codes({ ...PLAIN_LOOK, texture: picture })).toEqual([]);
		expect(codes({ ...PLAIN_LOOK, texture: { ...picture, hash: "../../etc/passwd" } })).toEqual(["wrong-type look.texture"]);
		expect(codes({ ...PLAIN_LOOK, texture: { ...picture, size_mm: [0, 30] } })).toEqual(["out-of-bounds look.texture.size_mm"]);
	});
});
