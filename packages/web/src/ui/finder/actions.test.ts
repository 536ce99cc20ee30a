// @vitest-environment happy-dom

import { afterEach, describe, expect, it } from "vitest";
import { usePreferences } from "../../stores/preferences";
import { useTray } from "../../stores/tray";
import { type Action, currentActions, findActions } from "./actions";

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

describe("what can be done now", () => {
	const named = (id: string) => currentActions().find((a) => a.id === id);
	/** Where an action leads. */
	const leads = (id: string): string => {
		let to = "";
		named(id)?.run((path) => {
			to = path;
		});
		return to;
	};
	const item = (id: string) => ({ id, name: id, colour: "", revision: 1, draft: false });
	afterEach(() => {
		useTray.getState().clear();
		usePreferences.setState({ theme: "day", unitSet: "engineering" });
	});

	it("with the tray only while it holds something; a comparison takes the last six", () => {
		expect(["compare", "paper", "solver", "empty"].map(named)).toEqual([undefined, undefined, undefined, undefined]);
		for (const id of ["a", "b", "c", "d", "e", "f", "g"]) useTray.getState().add(item(id));
		expect([leads("compare"), leads("paper"), leads("solver")]).toEqual([
			"/compare?ids=b,c,d,e,f,g",
			"/paper?ids=a,b,c,d,e,f,g",
			"/solver?ids=a,b,c,d,e,f,g",
		]);
		leads("empty");
		expect(useTray.getState().items).toEqual([]);
	});

	it("places by their addresses", () => {
		expect(
			["new", "parts", "libraries", "people", "account", "working", "edit", "starred", "drafts", "materials"].map(leads),
		).toEqual([
			"/materials?create=blank",
			"/parts",
			"/libraries",
			"/people",
			"/account",
			"/materials?marks=working",
			"/materials?edit=1",
			"/materials?starred=1",
			"/materials?open=draft",
			"/materials",
		]);
	});

	it("the other unit sets and the other colours, not those that are on", () => {
		expect([named("engineering"), named("base")?.name]).toEqual([undefined, expect.stringMatching(/^Units: /)]);
		leads("base");
		expect([usePreferences.getState().unitSet, named("base")]).toEqual(["base", undefined]);
		expect(named("theme")?.name).toBe("Night colours");
		leads("theme");
		expect([usePreferences.getState().theme, named("theme")?.name]).toEqual(["night", "Day colours"]);
	});
});
