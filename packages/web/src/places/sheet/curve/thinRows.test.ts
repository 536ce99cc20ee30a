import { describe, expect, it } from "vitest";
import { thinRows } from "./thinRows";

const line = (n: number, slope: number, ...before: string[]): string[][] =>
	Array.from({ length: n }, (_, i) => [...before, String(i), String(i * slope)]);

describe("rows of a long block", () => {
	it("stay where there are few, and go where the line through the others says the same", () => {
		expect(thinRows(line(4, 2), ".", 10)).toEqual({ keep: [0, 1, 2, 3], off: 0 });
		expect(thinRows(line(4000, 2), ".", 10)?.keep).toEqual([0, 3999]);
	});

	it("are thinned curve by curve, so that each keeps its ends", () => {
		const rows = [...line(3000, 1, "20"), ...line(3000, 2, "100")];
		expect(thinRows(rows, ".", 100)?.keep).toEqual([0, 2999, 3000, 5999]);
	});

	it("are read by their decimal mark, with thousands and the long minus", () => {
		const rows = Array.from({ length: 50 }, (_, i) => [`1.${String(200 + i)},5`, `−${i},25`]);
		expect(thinRows(rows, ",", 10)?.keep).toEqual([0, 49]);
	});

	it("are not thinned where a cell is no number, or more curves than places", () => {
		expect(thinRows([...line(40, 1), ["1-2", "3"], ...line(40, 1)], ".", 10)).toBeNull();
		expect(
			thinRows(
				Array.from({ length: 60 }, (_, i) => [String(i), "1", "2"]),
				".",
				10,
			),
		).toBeNull();
	});
});
