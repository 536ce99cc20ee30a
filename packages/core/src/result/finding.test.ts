import { expect, it } from "vitest";
import { describeFinding, finding, findingJson, gravestFirst, placeText } from "./index";

it("says where, what, and what to do", () => {
	const found = finding(
		{ severity: "wrong", place: { sheet: "Steels", row: 3, column: 2, line: 9 }, remedy: "Type a unit." },
		{ code: "not-a-number", actual: "abc" },
	);
	expect(describeFinding(found)).toBe(
		"sheet “Steels”, row 3, column 2, line 9: “abc” is not a number. Type one such as 2.71, 101-109 or 22.5e-6. Type a unit.",
	);
	expect(describeFinding({ ...found, place: {}, remedy: "" })).toBe(
		"“abc” is not a number. Type one such as 2.71, 101-109 or 22.5e-6.",
	);
	expect(placeText({ path: "a/b.csv", page: 2 })).toBe("a/b.csv, page 2");
	expect(findingJson(found)).toEqual({
		severity: "wrong",
		remedy: "Type a unit.",
		code: "not-a-number",
		actual: "abc",
		at: "sheet “Steels”, row 3, column 2, line 9",
	});
});

it("lists the gravest first and else leaves the order", () => {
	const of = (severity: "wrong" | "asked" | "doubtful" | "note", n: number) => ({ severity, n });
	const list = [of("note", 1), of("doubtful", 2), of("wrong", 3), of("asked", 4), of("wrong", 5)];
	expect(gravestFirst(list).map((f) => f.n)).toEqual([3, 5, 4, 2, 1]);
	expect(list[0]?.n).toBe(1);
});
