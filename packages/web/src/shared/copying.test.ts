import type { Copied, CopyPlan } from "@alvek/contract";
import { describe, expect, it } from "vitest";
import { afterCopy, answerAtFirst, doesSomething, pairKey, withPair } from "./copying";

const done = (some: Partial<Copied>): Copied => ({ copied: 0, proposed: 0, revised: 0, moved: 0, left: [], ids: [], ...some });

describe("what became of a copy", () => {
	it.each([
		[done({ copied: 1 }), "AL 21 copied to Yard"],
		[done({ copied: 1, moved: 1 }), "AL 21 moved to Yard"],
		[done({ revised: 1 }), "AL 21 copied to Yard as its next revision"],
		[done({ copied: 2, revised: 3, left: ["B"] }), "AL 21 copied to Yard; 3 as next revisions; left out: B"],
		[done({ proposed: 1 }), "AL 21: the copy waits for approval in Yard"],
		[done({ moved: 1 }), "AL 21 retired: it stands in Yard already"],
		[done({ left: ["A", "B", "C", "D", "E"] }), "Nothing was copied to Yard; left out: 5 materials, A, B and C …"],
	])("%o", (reply, words) => expect(afterCopy(reply, "AL 21", "Yard")).toBe(words));
});

describe("the group of a pair of libraries", () => {
	it("is remembered for the pair, forgotten when blank, and the oldest give way", () => {
		const one = withPair({}, pairKey("a", "b"), "Steels");
		expect(withPair(one, pairKey(null, "b"), "Stock")).toEqual({ "a b": "Steels", " b": "Stock" });
		expect(withPair(one, pairKey("a", "b"), "")).toEqual({});
		let many: Readonly<Record<string, string>> = one;
		for (let i = 0; i < 60; i++) many = withPair(many, pairKey("a", String(i)), "Stock");
		expect([Object.keys(many).length, many["a b"], many["a 59"]]).toEqual([40, undefined, "Stock"]);
	});
});

it("asks about a taken name where something else stands under it, and offers nothing that would do nothing", () => {
	const plan = (fresh: number, ...same: boolean[]): CopyPlan => ({
		fresh,
		groups: [],
		taken: same.map((s, i) => ({ id: String(i), name: "n", there: null, same: s, free: "n (2)" })),
		unpublished: [],
		proposed: false,
		seen: "",
	});
	expect([plan(1), plan(0, true), plan(2, true, false)].map(answerAtFirst)).toEqual(["leave", "leave", null]);
	expect([null, "leave", "rename"].map((t) => doesSomething(plan(0, true), t as never, false))).toEqual([false, false, true]);
	expect([plan(0), plan(0, true)].map((p) => doesSomething(p, "leave", true))).toEqual([false, true]);
	expect(doesSomething(plan(1, false), "leave", false)).toBe(true);
});
