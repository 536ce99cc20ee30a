import type { FollowView } from "@alvek/contract";
import { expect, it } from "vitest";
import { followedOf } from "./followedOf";

const set = {
	libraries: [
		{ id: "a", name: "A" },
		{ id: "b", name: "B" },
	],
	editions: [
		{
			no: 2,
			note: "later",
			libraries: [
				{ library: "a", edition: 4 },
				{ library: "b", edition: 1 },
			],
		},
		{
			no: 1,
			note: "first",
			libraries: [
				{ library: "a", edition: 3 },
				{ library: "b", edition: 1 },
			],
		},
	],
};
const follows = (editions: Readonly<Record<string, number | null>>): readonly FollowView[] =>
	Object.entries(editions).map(([library, edition]) => ({ library, name: library, edition, newest: 4, editions: [] }));

it.each([
	[{ a: null, b: null }, "0"],
	[{ a: 3, b: 1 }, "1"],
	[{ a: 4, b: 1 }, "2"],
	// parts stand on one of them alone: the newest edition that holds it says enough
	[{ b: 1 }, "2"],
	[{ a: 3, b: null }, ""],
	[{ a: 2, b: 1 }, ""],
	// a library outside the set says nothing about it
	[{ a: 3, b: 1, c: 9 }, "1"],
] as const)("%o is edition %s", (editions, wanted) => expect(followedOf(set, follows(editions))).toBe(wanted));
