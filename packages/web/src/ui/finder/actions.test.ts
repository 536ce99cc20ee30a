import { describe, expect, it } from "vitest";
import { type Action, findActions } from "./actions";

const action = (name: string, also = ""): Action => ({ id: name, name, also, run: () => undefined });

describe("actions of the finder", () => {
	const all = [
		action("Go to the materials", "grid"),
		action("New material", "create"),
		action("Materials"),
		action("Night colours", "dark"),
	];

	it("come exact first, then by start, then by word", () => {
		expect(findActions(all, "materials").map((a) => a.action.name)).toEqual(["Materials", "Go to the materials"]);
		expect(findActions(all, "NEW mat").map((a) => [a.action.name, a.rank])).toEqual([["New material", 1]]);
	});

	it("answer to their other words, and all of them to nothing", () => {
		expect(findActions(all, "dark").map((a) => a.action.name)).toEqual(["Night colours"]);
		expect(findActions(all, " ")).toHaveLength(4);
		expect(findActions(all, "zebra")).toEqual([]);
	});
});
