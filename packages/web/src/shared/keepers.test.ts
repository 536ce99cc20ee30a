import type { LibraryView } from "@alvek/contract";
import { describe, expect, it } from "vitest";
import { byKeeper, targetAmong } from "./keepers";

const library = (id: string, owner: string | null, more: Partial<LibraryView> = {}): LibraryView =>
	({ id, mayEdit: true, hidden: false, owner: owner === null ? null : { id: owner, name: owner }, ...more }) as LibraryView;

describe("where new materials go", () => {
	const team = library("team", "okke");
	const mine = library("mine", "maren");
	const me = "maren";

	it("is what was chosen, else the only library of one's own, else the first that can be edited", () => {
		expect(targetAmong([team, mine], { chosen: "team", me })?.id).toBe("team");
		expect(targetAmong([team, mine], { chosen: null, me })?.id).toBe("mine");
		// of several of one's own none is meant more than another
		expect(targetAmong([team, mine, library("second", me)], { chosen: null, me })?.id).toBe("team");
		expect(targetAmong([team], { chosen: "gone", me })?.id).toBe("team");
		expect(targetAmong([team, mine], { chosen: null, me: null })?.id).toBe("team");
	});

	it("is never one that cannot be edited or is left out of one's choosers", () => {
		const libraries = [library("mine", me, { mayEdit: false }), library("away", me, { hidden: true }), team];
		expect(targetAmong(libraries, { chosen: "away", me })?.id).toBe("team");
		expect(targetAmong([library("supplied", null, { mayEdit: false })], { chosen: null, me })).toBeUndefined();
	});
});

describe("libraries under who keeps them", () => {
	it("leaves a part without libraries out; what nobody keeps is not mine", () => {
		const some = [library("a", "okke"), library("b", "maren"), library("c", null)];
		expect(byKeeper(some, "maren").map(([name, l]) => [name, l.map((x) => x.id)])).toEqual([
			["kept by me", ["b"]],
			["opened to me by others", ["a", "c"]],
		]);
		expect(byKeeper(some, null)).toHaveLength(1);
	});
});
